import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { COLOUR, layerId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { type Point } from "./curve";
import { changeLines } from "./draw-lines";
import { type Line } from "./line";
import { lineOf, linesOf, nextId } from "./line-set";
import { movedLine } from "./moved";
import { shapeOf } from "./shape";

/** Copies of one repeat, and lines that it makes. */
const MOST_COPIES = 500;
const MOST_MADE = 5000;

const coordinate = z.number().min(-65_536).max(65_536);

export const repeatSchema = z.strictObject({
  do: z.literal("line.repeat"),
  layer: layerId,
  lines: z.array(z.int().min(1)).min(1).max(1000),
  /** The way that the copies go, from where the lines lie. */
  along: z
    .array(z.tuple([coordinate, coordinate]))
    .min(2)
    .max(20_000),
  /** From copy to copy along the way, px. */
  gap: z.number().min(1).max(8000),
  /** Whether copies turn as the way does. */
  turns: z.boolean(),
});

/** A place of a way: where, and which way it goes there, of length 1. */
export type WayPlace = { at: Point; toward: Point };

/** Places along a way, `gap` px apart, its start the first; each goes as the way does a gap around it. */
export function placesAlong(along: readonly Point[], gap: number): WayPlace[] {
  const s = [0];
  for (let i = 1; i < along.length; i++) {
    const [[ax, ay], [bx, by]] = [along[i - 1] as Point, along[i] as Point];
    s.push((s[i - 1] as number) + Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2));
  }
  const total = s.at(-1) as number;
  let i = 0;
  const pointAt = (length: number): Point => {
    const held = Math.max(0, Math.min(total, length));
    while (i > 0 && (s[i] as number) > held) i--;
    while (i + 2 < s.length && (s[i + 1] as number) < held) i++;
    const [from, to] = [s[i] as number, s[i + 1] as number];
    const t = to > from ? (held - from) / (to - from) : 0;
    const [[ax, ay], [bx, by]] = [along[i] as Point, along[i + 1] as Point];
    return [ax + (bx - ax) * t, ay + (by - ay) * t];
  };
  const places: WayPlace[] = [];
  for (let k = 0; k * gap <= total; k++) {
    const [ax, ay] = pointAt((k - 0.5) * gap);
    const [bx, by] = pointAt((k + 0.5) * gap);
    const length = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2);
    const before = places.at(-1)?.toward ?? [1, 0];
    const toward: Point = length > 0 ? [(bx - ax) / length, (by - ay) / length] : before;
    places.push({ at: pointAt(k * gap), toward });
  }
  return places;
}

/** The middle of what lines reach. */
function middleOf(lines: readonly Line[]): Point {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const line of lines) {
    const { box } = shapeOf(line);
    left = Math.min(left, box.left);
    top = Math.min(top, box.top);
    right = Math.max(right, box.right);
    bottom = Math.max(bottom, box.bottom);
  }
  return [(left + right) / 2, (top + bottom) / 2];
}

/** Copies lines along a way. @throws Refusal where the way is shorter than the gap, or there would be too many */
function repeat(applying: Applying, command: z.infer<typeof repeatSchema>): string {
  const { picture, bench } = applying;
  const { layer, along, gap, turns } = command;
  workableLayer(picture, layer, COLOUR, "lines");
  const set = linesOf(bench.store, picture, layer);
  const lines = command.lines.map((id) => lineOf(set, id));
  const [first, ...places] = placesAlong(along, gap);
  if (!first || places.length === 0)
    throw new Refusal("The way is shorter than the gap between copies. Drag farther.");
  if (places.length > MOST_COPIES || places.length * lines.length > MOST_MADE)
    throw new Refusal(
      `That would be ${places.length} copies. Choose fewer lines, or a wider gap between them.`,
    );
  const [x, y] = middleOf(lines);
  const [ux, uy] = first.toward;
  const put: Line[] = [];
  let next = nextId(set);
  for (const { at, toward } of places) {
    const [dx, dy] = [at[0] - first.at[0], at[1] - first.at[1]];
    const cos = turns ? ux * toward[0] + uy * toward[1] : 1;
    const sin = turns ? ux * toward[1] - uy * toward[0] : 0;
    const map = (px: number, py: number): Point => [
      x + cos * (px - x) - sin * (py - y) + dx,
      y + sin * (px - x) + cos * (py - y) + dy,
    ];
    for (const line of lines) {
      const moved = movedLine(line, map, true);
      if (moved) put.push({ ...moved, id: next++ });
    }
  }
  changeLines(applying, layer, { gone: [], put });
  return "repeat lines along a way";
}

export const repeatCommand = defineCommand({
  schema: repeatSchema,
  apply: repeat,
  scaled: (command, by) => ({
    ...command,
    along: command.along.map(([x, y]): [number, number] => [x * by, y * by]),
    gap: Math.min(8000, Math.max(1, command.gap * by)),
  }),
});
