import RBush from "rbush";
import { nearestOn, lengthTo, materialAt, type Nearest, type Point } from "./curve";
import { type Line } from "./line";
import { type LineSet } from "./line-set";
import { CHORD_NUMBERS, radiusReader, shapeOf } from "./shape";

type Boxed = { minX: number; minY: number; maxX: number; maxY: number; line: Line; place: number };

/** Boxes of a set's lines, in a tree: built when it is first asked. */
const trees = new WeakMap<LineSet, RBush<Boxed>>();

function treeOf(set: LineSet): RBush<Boxed> {
  const known = trees.get(set);
  if (known) return known;
  const tree = new RBush<Boxed>();
  tree.load(
    set.lines.map((line, place) => {
      const { left, top, right, bottom } = shapeOf(line).box;
      return { minX: left, minY: top, maxX: right, maxY: bottom, line, place };
    }),
  );
  trees.set(set, tree);
  return tree;
}

/** Lines whose boxes come within so many px of a box, lowest first. */
export function linesNear(
  set: LineSet,
  box: { left: number; top: number; right: number; bottom: number },
  within = 0,
): Line[] {
  return treeOf(set)
    .search({
      minX: box.left - within,
      minY: box.top - within,
      maxX: box.right + within,
      maxY: box.bottom + within,
    })
    .sort((a, b) => a.place - b.place)
    .map(({ line }) => line);
}

/** A line under a place: how far along, and how far its ink is off, px (below 0 inside of it). */
export type Found = { line: Line; near: Nearest; s: number; off: number };

/**
 * The line whose ink is nearest to a place; of those that lie over each other the uppermost.
 * @param within px; farther is not looked for
 */
export function lineAt(set: LineSet, x: number, y: number, within: number): Found | null {
  let best: Found | null = null;
  for (const line of linesNear(set, { left: x, top: y, right: x, bottom: y }, within)) {
    const { lengths, total, box } = shapeOf(line);
    const reach = within + Math.max(box.right - box.left, box.bottom - box.top) + 1;
    const near = nearestOn(line.curve, x, y, Math.min(reach, within + widest(line)));
    if (!near) continue;
    const s = lengthTo(line.curve, lengths, near);
    const off = near.distance - radiusReader(line, total)(s, materialAt(line.curve, near));
    if (off > within || (best && Math.max(0, best.off) < Math.max(0, off))) continue;
    best = { line, near, s, off };
  }
  return best;
}

function widest({ width }: Line): number {
  let most = 1;
  for (let i = 1; i < width.length; i += 2) most = Math.max(most, width[i] as number);
  return most + 1;
}

/** Lines of which most lies in a closed loop. */
export function linesIn(set: LineSet, loop: readonly Point[]): Line[] {
  const xs = loop.map(([x]) => x);
  const ys = loop.map(([, y]) => y);
  const box = {
    left: Math.min(...xs),
    right: Math.max(...xs),
    top: Math.min(...ys),
    bottom: Math.max(...ys),
  };
  return linesNear(set, box).filter((line) => {
    const { ends } = shapeOf(line);
    let inside = 0;
    const n = ends.length / CHORD_NUMBERS;
    for (let i = 0; i < n; i++)
      if (isInside(loop, ends[i * CHORD_NUMBERS] as number, ends[i * CHORD_NUMBERS + 1] as number))
        inside++;
    return 2 * inside > n;
  });
}

/** Whether a place lies in a closed loop. */
export function isInside(loop: readonly Point[], x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
    const [ax, ay] = loop[i] as Point;
    const [bx, by] = loop[j] as Point;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** What lines may be alike in. */
export const likenesses = ["brush", "colour", "width"] as const;
export type Likeness = (typeof likenesses)[number];

/** Widths that differ by less than this share are the same. */
const SAME_WIDTH = 0.12;

const meanWidth = ({ width }: Line): number => {
  let sum = 0;
  for (let i = 1; i < width.length; i += 2) sum += width[i] as number;
  return (2 * sum) / width.length;
};

/** Lines that are like one of those given. */
export function linesLike(set: LineSet, of: readonly Line[], by: Likeness): Line[] {
  const isLike = (line: Line): boolean =>
    of.some((one) => {
      if (by === "brush") return one.brush === line.brush;
      if (by === "colour") return one.colour === line.colour;
      return Math.abs(meanWidth(one) / meanWidth(line) - 1) < SAME_WIDTH;
    });
  return set.lines.filter(isLike);
}
