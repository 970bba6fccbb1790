import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { layStencilsAnew } from "../command/stencils";
import { warpPlane } from "../command/transform";
import { changeLines } from "../lines/draw-lines";
import { movePieces } from "../strew/moved";
import { linesOf } from "../lines/line-set";
import { mapOf, movedLine } from "../lines/moved";
import { keptPlanes, MASK, type Sheet, SELECTION } from "../picture/picture";
import { refuseSize } from "../picture/size";
import { type Filter, filters } from "../transform/filters";
import { type Matrix, type Warp } from "../transform/warp";
import { followed, type SheetMap } from "./follow";
import { shiftPlane } from "./shifted";

const side = z.int().min(1).max(16_384);
const corner = z.int().min(-16_384).max(16_384);
const ppi = z.number().min(1).max(9600);

export const cropSchema = z.strictObject({
  do: z.literal("sheet.crop"),
  /** The new sheet on the old one, px; beyond its edges it is extended. */
  left: corner,
  top: corner,
  width: side,
  height: side,
  /** How the new sheet is turned on the old one about its own middle, radians clockwise. */
  angle: z.number().min(-Math.PI).max(Math.PI).default(0),
});
export const resizeSchema = z.strictObject({
  do: z.literal("sheet.resize"),
  /** The new width, px; the height follows. */
  width: side,
  ppi,
  filter: z.enum(filters).default("lanczos"),
});
export const ppiSchema = z.strictObject({ do: z.literal("sheet.ppi"), ppi });

const LAYING = "Laying the sheet anew";

/** Lays all that is on the sheet on another one. */
function relay(applying: Applying, map: SheetMap, sheet: Sheet, filter: Filter): void {
  const { picture } = applying;
  refuseSize(sheet.width, sheet.height);
  for (const { id } of picture.structure.layers) applying.dry(id);
  const before = picture.structure;
  const next = followed(before, map, sheet.width, sheet.height);
  applying.setStructure({ ...next, sheet });
  const warp: Warp = { kind: "matrix", matrix: [...map.matrix] };
  const [, , dx, , , dy] = map.matrix;
  const isShift = map.by === 1 && map.turn === 0;
  const owners = [
    ...before.layers.map(({ id }) => id),
    SELECTION,
    ...before.kept.map(({ id }) => keptPlanes(id)),
  ];
  owners.forEach((id, i) => {
    applying.tell(LAYING, i / owners.length);
    const kind = before.layers.find((layer) => layer.id === id)?.kind;
    if (kind === "lines") moveLines(applying, id, warp);
    if (kind === "strewn") movePieces(applying, id, warp);
    const isDrawn = kind === "lines" || kind === "strewn";
    for (const [name, plane] of picture.planesOf(id)) {
      if (plane.size === 0 || (isDrawn && name !== MASK)) continue;
      // What is wet has dried, and a scene's layers stay its own.
      applying.keepingWet("all", () => {
        if (isShift) shiftPlane(applying, id, name, dx, dy);
        else warpPlane(applying, id, name, { warp, filter });
      });
    }
  });
  if (before.stencils.length > 0) layStencilsAnew(applying, next.stencils);
  applying.tell(LAYING, 1);
}

/** Lines go along wherever they come to lie, beyond the sheet too. */
function moveLines(applying: Applying, id: string, warp: Warp): void {
  const { picture, bench } = applying;
  const map = mapOf(warp);
  const moved = linesOf(bench.store, picture, id).lines.map((line) => ({
    id: line.id,
    line: movedLine(line, map, true),
  }));
  const gone = moved.filter(({ line }) => !line).map(({ id: line }) => line);
  changeLines(applying, id, { gone, put: moved.flatMap(({ line }) => line ?? []) });
}

/** Cuts the sheet, or extends it: paint stays where it is on the new one. What is wet dries. */
export function cropSheet(applying: Applying, command: z.infer<typeof cropSchema>): string {
  const { left, top, width, height, angle } = command;
  const { picture } = applying;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [mx, my] = [left + width / 2, top + height / 2];
  const matrix: Matrix =
    angle === 0
      ? [1, 0, -left, 0, 1, -top, 0, 0, 1]
      : ([
          ...[cos, sin, width / 2 - cos * mx - sin * my],
          ...[-sin, cos, height / 2 + sin * mx - cos * my],
          ...[0, 0, 1],
        ] as unknown as Matrix);
  const [x, y] = picture.grainAt;
  const larger = width >= picture.width && height >= picture.height && angle === 0;
  relay(
    applying,
    { matrix, by: 1, turn: -angle },
    {
      width,
      height,
      ppi: picture.ppi,
      media: picture.mediaPpi,
      grain: [x + left, y + top],
    },
    "bicubic",
  );
  return larger ? "extend the sheet" : angle === 0 ? "crop the sheet" : "turn and crop the sheet";
}

/** Makes the whole picture larger or smaller. What is wet dries. */
export function resizeSheet(applying: Applying, command: z.infer<typeof resizeSchema>): string {
  const { picture } = applying;
  const { width } = command;
  const by = width / picture.width;
  const [x, y] = picture.grainAt;
  const height = Math.max(1, Math.round(picture.height * by));
  const matrix: Matrix = [by, 0, 0, 0, by, 0, 0, 0, 1];
  relay(
    applying,
    { matrix, by, turn: 0 },
    {
      width,
      height,
      ppi: command.ppi,
      media: picture.mediaPpi * by,
      grain: [Math.round(x * by), Math.round(y * by)],
    },
    command.filter,
  );
  return "resize the sheet";
}

/** Says how large the sheet is on paper; no pixel changes. */
export function setPpi(applying: Applying, command: z.infer<typeof ppiSchema>): string {
  const { picture } = applying;
  const { width, height, structure, mediaPpi: media } = picture;
  const sheet: Sheet = { ...structure.sheet, width, height, media, ppi: command.ppi };
  applying.setStructure({ ...structure, sheet });
  return "size on paper";
}

export const sheetCommands = [
  defineCommand({
    schema: cropSchema,
    apply: cropSheet,
    scaled: ({ left, top, width, height, ...rest }, by) => ({
      ...rest,
      left: Math.round(left * by),
      top: Math.round(top * by),
      width: Math.max(1, Math.round(width * by)),
      height: Math.max(1, Math.round(height * by)),
    }),
  }),
  defineCommand({
    schema: resizeSchema,
    apply: resizeSheet,
    scaled: (command, by) => ({
      ...command,
      width: Math.max(1, Math.round(command.width * by)),
      ppi: Math.min(9600, command.ppi * by),
    }),
  }),
  defineCommand({
    schema: ppiSchema,
    apply: setPpi,
    scaled: (command, by) => ({ ...command, ppi: Math.min(9600, command.ppi * by) }),
  }),
] as const;
