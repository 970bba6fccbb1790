import { defineCommand } from "./define";
import { z } from "zod";
import { within } from "../compose/tree";
import { changeLines } from "../lines/draw-lines";
import { linesOf } from "../lines/line-set";
import { isAffine, liesIn, mapOf, movedLine } from "../lines/moved";
import { isSelected } from "../select/inside";
import {
  COLOUR,
  MASK,
  type Picture,
  type Plane,
  SELECTION,
  hasPixels,
  workableLayer,
  layerId,
} from "../picture/picture";
import { movePieces } from "../strew/moved";
import { Refusal } from "../picture/refusal";
import { type Filter, filters } from "../transform/filters";
import { letGo, lift } from "../transform/lift";
import { originsOf } from "../transform/origins";
import { resample, tilesOutside } from "../transform/resample";
import {
  boxSchema,
  inverse,
  type Matrix,
  scaledBox,
  scaledWarp,
  warpedBox,
  warpSchema,
} from "../transform/warp";
import { type Box } from "../tiles/layout";
import { contentBox } from "../transform/bounds";
import { type Applying } from "./command";

export const transformSchema = z.strictObject({
  do: z.literal("transform"),
  layers: z.array(layerId).min(1).max(500),
  /** Only what lies in here is moved, px, rounded to whole ones; null: all of each layer. */
  box: boxSchema.nullable().default(null),
  warp: warpSchema,
  filter: z.enum(filters).default("bicubic"),
});

export type TransformCommand = z.infer<typeof transformSchema>;

/**
 * Moves, scales, turns, flips, skews, bends what layers hold, or what they hold in a box.
 * @throws Refusal where a layer may not be worked on, or the warp has no way back
 */
export function transform(applying: Applying, command: TransformCommand): string {
  const { picture } = applying;
  const layers = movedWith(picture, command.layers);
  for (const id of layers) refuseFixed(applying.picture, id);
  const { warp } = command;
  if (warp.kind === "matrix") inverse(warp.matrix as unknown as Matrix);
  // A mesh moves what lies under it.
  const asked = command.box ?? (warp.kind === "mesh" ? warp.from : null);
  const box = asked && wholePixels(asked, applying.picture);
  // Without a box, what is selected is moved, and the selection with it.
  const mask =
    !command.box && applying.picture.structure.selection
      ? new Map(applying.picture.plane(SELECTION))
      : null;
  for (const id of layers) {
    const { kind } = picture.layer(id);
    if (kind === "lines") moveLines(applying, id, warp, box, mask);
    else if (kind === "strewn") moveStrewn(applying, id, warp, box, mask);
    else transformPlanes(applying, id, command, box, mask);
  }
  if (mask) transformPlanes(applying, SELECTION, command);
  return "transform";
}

/** The layers that have pixels of those asked for and of what lies in them. */
export function movedWith({ structure }: Picture, ids: readonly string[]): string[] {
  const known = new Set(structure.layers.map(({ id }) => id));
  const unknown = ids.find((id) => !known.has(id));
  if (unknown !== undefined) throw new Refusal(`there is no layer "${unknown}"`);
  const all = new Set(ids.flatMap((id) => within(structure.layers, id)));
  return structure.layers
    .filter(({ id, kind }) => all.has(id) && hasPixels(kind))
    .map(({ id }) => id);
}

function refuseFixed(picture: Picture, id: string): void {
  const { kind } = picture.layer(id);
  const layer = workableLayer(picture, id, COLOUR, hasPixels(kind) ? kind : "paint");
  if (layer.lockTransparency)
    throw new Refusal(`The transparency of “${layer.name}” is locked: nothing on it can be moved.`);
}

/** Moves lines: all, or those of which most lies in a box or in what is selected; and the layer's mask. */
function moveLines(
  applying: Applying,
  id: string,
  warp: TransformCommand["warp"],
  box: Box | null,
  mask: Plane | null,
): void {
  const { picture, bench } = applying;
  const { lines } = linesOf(bench.store, picture, id);
  const isIn = isMeant(applying, box, mask);
  const map = mapOf(warp);
  const affine = isAffine(warp);
  const taken = lines.filter((line) => liesIn(line, isIn));
  const put = taken.flatMap((line) => movedLine(line, map, affine) ?? []);
  if (put.length > 0) changeLines(applying, id, { gone: [], put });
  moveOwnMask(applying, id, warp, box, mask);
}

/** Moves strewn pieces: all, or those whose middle lies in a box or in what is selected; and the layer's mask. */
function moveStrewn(
  applying: Applying,
  id: string,
  warp: TransformCommand["warp"],
  box: Box | null,
  mask: Plane | null,
): void {
  movePieces(applying, id, warp, isMeant(applying, box, mask));
  moveOwnMask(applying, id, warp, box, mask);
}

/** Whether a place is moved: in a box, in what is selected, or anywhere. */
const isMeant =
  ({ bench }: Applying, box: Box | null, mask: Plane | null) =>
  (x: number, y: number): boolean => {
    if (box) return x >= box.left && x < box.right && y >= box.top && y < box.bottom;
    return mask === null || isSelected(bench.store, mask, x, y);
  };

/** A layer's mask goes along where all of the layer is moved. */
function moveOwnMask(
  applying: Applying,
  id: string,
  warp: TransformCommand["warp"],
  box: Box | null,
  mask: Plane | null,
): void {
  if (applying.picture.layer(id).mask?.linked && !box && !mask)
    transformPlanes(applying, id, { warp }, null, null, [MASK]);
}

function wholePixels({ left, top, right, bottom }: Box, { width, height }: Picture): Box {
  const box = {
    left: Math.max(0, Math.round(left)),
    top: Math.max(0, Math.round(top)),
    right: Math.min(width, Math.round(right)),
    bottom: Math.min(height, Math.round(bottom)),
  };
  if (box.right <= box.left || box.bottom <= box.top)
    throw new Refusal("the box lies outside of the sheet");
  return box;
}

/** Moves what the planes of a layer hold: in a box, through a mask, or all of it. */
export function transformPlanes(
  applying: Applying,
  id: string,
  { warp, filter = "bicubic" }: Pick<TransformCommand, "warp"> & { filter?: Filter },
  box: Box | null = null,
  mask: Plane | null = null,
  only: readonly string[] | null = null,
): void {
  const { picture } = applying;
  applying.dry(id);
  const isLinked = id === SELECTION || (picture.layer(id).mask?.linked ?? true);
  for (const [name] of picture.planesOf(id)) {
    if ((name === MASK && !isLinked) || (only && !only.includes(name))) continue;
    warpPlane(applying, id, name, { warp, filter }, box, mask);
  }
}

/** Moves what one plane holds: in a box, through a mask, or all of it. */
export function warpPlane(
  applying: Applying,
  id: string,
  name: string,
  { warp, filter }: Pick<TransformCommand, "warp"> & { filter: Filter },
  box: Box | null = null,
  mask: Plane | null = null,
): void {
  const { picture, bench } = applying;
  const plane = picture.plane(id, name);
  const parts = lift(bench.store, plane, box, mask);
  try {
    const held = contentBox(bench.store, parts.lifted);
    if (!held) return;
    const target = warpedBox(warp, held);
    const { width, height } = picture;
    const origins = originsOf(warp, target);
    const before = [...plane.keys()];
    const { lifted: source, rest } = parts;
    resample({ bench, source, rest, origins, target, filter, width, height }, (key, tile) => {
      if (tile === (plane.get(key) ?? null)) {
        if (tile) bench.store.release(tile);
      } else applying.swap(id, key, tile, name);
    });
    for (const key of tilesOutside(before, target)) {
      const left = rest.get(key);
      if (left === plane.get(key)) continue;
      applying.swap(id, key, left ? bench.store.retain(left) : null, name);
    }
  } finally {
    letGo(bench.store, parts);
  }
}

/** The same command on a sheet `by` times as large. */
const scaledTransform = (command: TransformCommand, by: number): TransformCommand => ({
  ...command,
  box: command.box && scaledBox(command.box, by),
  warp: scaledWarp(command.warp, by),
});

export const transformCommand = defineCommand({
  schema: transformSchema,
  apply: transform,
  scaled: scaledTransform,
});
