import { type Line } from "./line";
import { CHORD_NUMBERS, radiusReader, shapeOf } from "./shape";
import { lengthTo, materialAt, nearestOn, nearestOnPiece } from "./curve";

/** A crossing: how far along each line, px, and where. */
export type Crossing = { s: number; other: number; x: number; y: number };

/** Crossings of a line with itself nearer than this along it are none, px. */
const APART = 0.5;
/** Crossings within this are one, px. */
const SAME = 0.05;
/** Chords of a block: a box around them says no for all at once. */
const BLOCK = 16;

type Block = { from: number; to: number; left: number; top: number; right: number; bottom: number };

const blocks = new WeakMap<Line, Block[]>();

function blocksOf(line: Line): Block[] {
  const known = blocks.get(line);
  if (known) return known;
  const { ends } = shapeOf(line);
  const n = ends.length / CHORD_NUMBERS - 1;
  const made: Block[] = [];
  for (let from = 0; from < n; from += BLOCK) {
    const to = Math.min(n, from + BLOCK);
    const block = { from, to, left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
    for (let i = from; i <= to; i++) {
      const [x, y] = [ends[i * CHORD_NUMBERS] as number, ends[i * CHORD_NUMBERS + 1] as number];
      block.left = Math.min(block.left, x);
      block.right = Math.max(block.right, x);
      block.top = Math.min(block.top, y);
      block.bottom = Math.max(block.bottom, y);
    }
    made.push(block);
  }
  blocks.set(line, made);
  return made;
}

const misses = (a: Block, b: Block): boolean =>
  a.right < b.left || b.right < a.left || a.bottom < b.top || b.bottom < a.top;

/** How far along a line the chord `i` is at a point near it, px. */
function lengthAt(line: Line, i: number, x: number, y: number): number {
  const shape = shapeOf(line);
  const piece = shape.pieces[i + 1] as number;
  const near = nearestOnPiece(line.curve.points, piece, x, y);
  return lengthTo(line.curve, shape.lengths, near);
}

/**
 * Where two lines' middles cross, in order along the first. Chords within a twentieth of a px are crossed, and each
 * crossing is brought back onto both curves.
 */
export function crossings(line: Line, other: Line): Crossing[] {
  const isSelf = line === other;
  const [a, b] = [shapeOf(line).ends, shapeOf(other).ends];
  const found: Crossing[] = [];
  for (const mine of blocksOf(line))
    for (const its of blocksOf(other)) {
      if (misses(mine, its) || (isSelf && its.to <= mine.from)) continue;
      for (let i = mine.from; i < mine.to; i++)
        for (let j = isSelf ? Math.max(its.from, i + 2) : its.from; j < its.to; j++) cross(i, j);
    }
  function cross(i: number, j: number): void {
    const [p, q] = [i * CHORD_NUMBERS, j * CHORD_NUMBERS];
    const [ax, ay] = [a[p] as number, a[p + 1] as number];
    const [dx, dy] = [(a[p + 4] as number) - ax, (a[p + 5] as number) - ay];
    const [bx, by] = [b[q] as number, b[q + 1] as number];
    const [ex, ey] = [(b[q + 4] as number) - bx, (b[q + 5] as number) - by];
    const det = dx * ey - dy * ex;
    if (Math.abs(det) < 1e-12) return;
    const t = ((bx - ax) * ey - (by - ay) * ex) / det;
    const u = ((bx - ax) * dy - (by - ay) * dx) / det;
    if (t < 0 || t > 1 || u < 0 || u > 1) return;
    const [x, y] = [ax + t * dx, ay + t * dy];
    const s = lengthAt(line, i, x, y);
    const along = lengthAt(other, j, x, y);
    if (isSelf && Math.abs(s - along) < APART) return;
    found.push({ s, other: along, x, y });
    if (isSelf) found.push({ s: along, other: s, x, y });
  }
  found.sort((one, two) => one.s - two.s);
  return found.filter((one, i) => {
    const before = found[i - 1];
    return !before || one.s - before.s > SAME || Math.abs(one.other - before.other) > SAME;
  });
}

/** A line that ends this near to the middle of another, beyond half its width, ends on it, px. */
const TOUCHES = 0.5;

/** Where other lines end on a line, as far along it. */
function touches(line: Line, other: Line): number[] {
  if (other === line || other.closed) return [];
  const { lengths, total } = shapeOf(line);
  const radius = radiusReader(line, total);
  const { points } = other.curve;
  const n = points.length;
  return [0, n - 2].flatMap((i) => {
    const near = nearestOn(line.curve, points[i] as number, points[i + 1] as number, 64);
    if (!near) return [];
    const s = lengthTo(line.curve, lengths, near);
    return near.distance <= radius(s, materialAt(line.curve, near)) + TOUCHES ? [s] : [];
  });
}

/** Lengths at which a line is crossed by others or by itself, or where others end on it, rising. */
export function cutsOf(line: Line, others: readonly Line[]): number[] {
  const { box } = shapeOf(line);
  const near = others.filter((other) => {
    const its = shapeOf(other).box;
    return (
      its.left <= box.right &&
      its.right >= box.left &&
      its.top <= box.bottom &&
      its.bottom >= box.top
    );
  });
  const all = near
    .flatMap((other) => [...crossings(line, other).map(({ s }) => s), ...touches(line, other)])
    .sort((a, b) => a - b);
  // A crossing and an end beside it are one place.
  return all.filter((s, i) => i === 0 || s - (all[i - 1] as number) > 2 * TOUCHES);
}
