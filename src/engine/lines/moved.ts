import { LEAST_SIZE, MOST_SIZE } from "../stroke/brush";
import { onMesh, through, type Matrix, type Point, type Warp } from "../transform/warp";
import { mapped } from "./curve";
import { Refusal } from "../picture/refusal";
import { isSound, type Line, settledLine } from "./line";
import { refitted } from "./refit";
import { mappedProfile } from "./profile";
import { CHORD_NUMBERS, shapeOf } from "./shape";

/** How far off a line that is bent may be fitted, px. */
const BENT = 0.25;

const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));

/** A map of the sheet onto itself; null where a place goes nowhere. */
export type PlaceMap = (x: number, y: number) => Point | null;

/** Where a warp takes places. */
export function mapOf(warp: Warp): PlaceMap {
  if (warp.kind === "matrix") {
    const matrix = warp.matrix as unknown as Matrix;
    return (x, y) => through(matrix, x, y);
  }
  const { left, top, right, bottom } = warp.from;
  return (x, y) =>
    onMesh(warp, held((x - left) / (right - left), 0, 1), held((y - top) / (bottom - top), 0, 1));
}

/** Whether a warp keeps straight lines straight and their parts in proportion. */
export function isAffine(warp: Warp): boolean {
  if (warp.kind !== "matrix") return false;
  const [, , , , , , m6, m7] = warp.matrix;
  return m6 === 0 && m7 === 0;
}

/** By how much lengths grow around a place. */
function growthAt(map: PlaceMap, x: number, y: number): number {
  const [here, right, down] = [map(x, y), map(x + 1, y), map(x, y + 1)];
  if (!here || !right || !down) return 1;
  const det =
    (right[0] - here[0]) * (down[1] - here[1]) - (right[1] - here[1]) * (down[0] - here[0]);
  return Math.sqrt(Math.abs(det)) || 1;
}

/** A line taken somewhere else: its width goes along, its texture stays what it is. Null where it goes nowhere. */
export function movedLine(line: Line, map: PlaceMap, affine: boolean): Line | null {
  const { box } = shapeOf(line);
  const by = growthAt(map, (box.left + box.right) / 2, (box.top + box.bottom) / 2);
  let isLost = false;
  const to = (x: number, y: number): Point => {
    const place = map(x, y);
    if (place) return place;
    isLost = true;
    return [x, y];
  };
  const curve = affine
    ? mapped(line.curve, to)
    : refitted(line.curve, BENT, (places) => ({
        ...places,
        points: places.points.map(([x, y]) => to(x, y)),
      }));
  if (isLost) return null;
  const moved = settledLine({
    ...line,
    curve,
    size: held(line.size * by, LEAST_SIZE, MOST_SIZE),
    width: mappedProfile(line.width, (_, r) => held(r * by, 0.05, 4000)),
    taper: { in: held(line.taper.in * by, 0, 20_000), out: held(line.taper.out * by, 0, 20_000) },
  });
  if (!isSound(moved)) throw new Refusal("The lines would lie too far off the sheet there.");
  return moved;
}

/** A line by so much aside, to the bit where it is by whole px. */
export const shiftedLine = (line: Line, dx: number, dy: number): Line =>
  settledLine({ ...line, curve: mapped(line.curve, (x, y) => [x + dx, y + dy]) });

/** Whether more than half of a line's chords begin in a part of the sheet. */
export function liesIn(line: Line, isIn: (x: number, y: number) => boolean): boolean {
  const { ends } = shapeOf(line);
  let inside = 0;
  for (let i = 0; i < ends.length; i += CHORD_NUMBERS)
    if (isIn(ends[i] as number, ends[i + 1] as number)) inside++;
  return 2 * inside > ends.length / CHORD_NUMBERS;
}
