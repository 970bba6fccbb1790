import { type Curve, type Point } from "./curve";
import { fit } from "./fit";
import { type Line } from "./line";
import { CHORD_NUMBERS, type Shape, shapeOf } from "./shape";

/**
 * The outline of a line as closed curves: the zero level of the least of (distance − half-width) over its round
 * cones, followed on cells of half a px and fitted. Nothing is joined, capped or cleaned, whatever crosses.
 */

/** Side of a cell, px; cells of a block, in each direction. */
const CELL = 0.5;
const BLOCK = 32;
const SIDE = CELL * BLOCK;
/** How far outlines are fitted off, px, and over how far their corners are looked for. */
const FITTED = { error: 0.05, corner: 1.2 };
/** Loops shorter than this are specks of the numbers, px. */
const LEAST = 0.5;

/** Chords by the blocks that they may reach. */
function chordsByBlock({ ends }: Shape): Map<string, number[]> {
  const blocks = new Map<string, number[]>();
  const count = ends.length / CHORD_NUMBERS - 1;
  for (let i = 0; i < count; i++) {
    const a = i * CHORD_NUMBERS;
    const [x0, y0, r0] = [ends[a] as number, ends[a + 1] as number, ends[a + 2] as number];
    const [x1, y1, r1] = [ends[a + 4] as number, ends[a + 5] as number, ends[a + 6] as number];
    const r = Math.max(r0, r1) + 1;
    const [left, right] = [Math.min(x0, x1) - r, Math.max(x0, x1) + r];
    const [top, bottom] = [Math.min(y0, y1) - r, Math.max(y0, y1) + r];
    for (let v = Math.floor(top / SIDE); v <= Math.floor(bottom / SIDE); v++)
      for (let u = Math.floor(left / SIDE); u <= Math.floor(right / SIDE); u++) {
        const key = `${u} ${v}`;
        const list = blocks.get(key);
        if (list) list.push(i);
        else blocks.set(key, [i]);
      }
  }
  return blocks;
}

/** How far a place is from the ink of a chord, px; below 0 inside. */
function distanceTo(ends: Float64Array, chord: number, x: number, y: number): number {
  const a = chord * CHORD_NUMBERS;
  const r0 = ends[a + 2] as number;
  const dr = (ends[a + 6] as number) - r0;
  const dx = (ends[a + 4] as number) - (ends[a] as number);
  const dy = (ends[a + 5] as number) - (ends[a + 1] as number);
  const vx = x - (ends[a] as number);
  const vy = y - (ends[a + 1] as number);
  const length2 = dx * dx + dy * dy;
  let h = dr > 0 ? 1 : 0;
  if (dr * dr < length2 * 0.998) {
    const lean = dr / Math.sqrt(length2 - dr * dr);
    const on = vx * dx + vy * dy + Math.abs(vx * dy - vy * dx) * lean;
    h = Math.min(1, Math.max(0, on / length2));
  }
  const ex = vx - h * dx;
  const ey = vy - h * dy;
  return Math.sqrt(ex * ex + ey * ey) - r0 - h * dr;
}

function inkDistance(ends: Float64Array, chords: readonly number[], x: number, y: number): number {
  let least = Infinity;
  for (const chord of chords) least = Math.min(least, distanceTo(ends, chord, x, y));
  return least;
}

/** Pieces of the zero level: from the edge of a cell to the next. */
type Level = { next: Map<number, number>; at: Map<number, Point> };

/** A cell's edge as a number: the cell's column and row on the sheet, and which of its two. */
const COLUMNS = 1 << 18;
const edgeKey = (i: number, j: number, isDown: boolean): number =>
  ((j + COLUMNS / 2) * COLUMNS + i + COLUMNS / 2) * 2 + (isDown ? 1 : 0);

/** Where the level crosses a cell's edge: linear, then regula falsi. */
function crossing(
  ink: (x: number, y: number) => number,
  a: Point,
  fa: number,
  b: Point,
  fb: number,
): Point {
  let [low, high, flow, fhigh] = [0, 1, fa, fb];
  let t = fa / (fa - fb);
  for (let i = 0; i < 3; i++) {
    const f = ink(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t);
    if (Math.abs(f) < 1e-4) break;
    if (f < 0 === flow < 0) [low, flow] = [t, f];
    else [high, fhigh] = [t, f];
    t = low + ((high - low) * flow) / (flow - fhigh);
  }
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
}

/** Follows the level through one block of cells. */
function followBlock(
  ends: Float64Array,
  chords: readonly number[],
  u: number,
  v: number,
  level: Level,
): void {
  const ink = (x: number, y: number): number => inkDistance(ends, chords, x, y);
  const middle = ink((u + 0.5) * SIDE, (v + 0.5) * SIDE);
  // The level is nowhere nearer than it is from the block's middle.
  if (Math.abs(middle) > SIDE) return;
  const width = BLOCK + 1;
  const field = new Float64Array(width * width);
  const place = (i: number, j: number): Point => [(u * BLOCK + i) * CELL, (v * BLOCK + j) * CELL];
  for (let j = 0; j < width; j++)
    for (let i = 0; i < width; i++) field[j * width + i] = ink(...place(i, j));
  const value = (i: number, j: number): number => field[j * width + i] as number;
  const cut = (i: number, j: number, isDown: boolean): number => {
    const key = edgeKey(u * BLOCK + i, v * BLOCK + j, isDown);
    if (!level.at.has(key)) {
      const [i1, j1] = isDown ? [i, j + 1] : [i + 1, j];
      level.at.set(key, crossing(ink, place(i, j), value(i, j), place(i1, j1), value(i1, j1)));
    }
    return key;
  };
  for (let j = 0; j < BLOCK; j++)
    for (let i = 0; i < BLOCK; i++) {
      const corners = [value(i, j), value(i + 1, j), value(i + 1, j + 1), value(i, j + 1)];
      const kind = corners.reduce((sum, f, k) => sum + (f < 0 ? 1 << k : 0), 0);
      if (kind === 0 || kind === 15) continue;
      const top = (): number => cut(i, j, false);
      const right = (): number => cut(i + 1, j, true);
      const low = (): number => cut(i, j + 1, false);
      const left = (): number => cut(i, j, true);
      const go = (from: number, to: number): void => void level.next.set(from, to);
      // Ink lies at the right hand of the way.
      switch (kind) {
        case 1:
          go(top(), left());
          break;
        case 2:
          go(right(), top());
          break;
        case 3:
          go(right(), left());
          break;
        case 4:
          go(low(), right());
          break;
        case 6:
          go(low(), top());
          break;
        case 7:
          go(low(), left());
          break;
        case 8:
          go(left(), low());
          break;
        case 9:
          go(top(), low());
          break;
        case 11:
          go(right(), low());
          break;
        case 12:
          go(left(), right());
          break;
        case 13:
          go(top(), right());
          break;
        case 14:
          go(left(), top());
          break;
        default: {
          const [x, y] = place(i, j);
          const isInk = ink(x + CELL / 2, y + CELL / 2) < 0;
          // Two opposite corners hold ink: it goes through between them, or it does not.
          if (kind === 5) {
            go(top(), isInk ? right() : left());
            go(low(), isInk ? left() : right());
          } else {
            go(right(), isInk ? low() : top());
            go(left(), isInk ? top() : low());
          }
        }
      }
    }
}

/** Closed curves around a line's ink; those within others are holes. */
export function outlineOf(line: Line): Curve[] {
  const shape = shapeOf(line);
  const level: Level = { next: new Map(), at: new Map() };
  for (const [key, chords] of chordsByBlock(shape)) {
    const [u = 0, v = 0] = key.split(" ").map(Number);
    followBlock(shape.ends, chords, u, v, level);
  }
  const loops: Curve[] = [];
  while (level.next.size > 0) {
    const [start] = level.next.keys();
    const points: Point[] = [];
    let at = start as number;
    for (let next = level.next.get(at); next !== undefined; next = level.next.get(at)) {
      points.push(level.at.get(at) as Point);
      level.next.delete(at);
      at = next;
    }
    const [first] = points;
    if (!first || at !== start || points.length < 3) continue;
    points.push(first);
    const curve = fit(points, FITTED);
    if ((curve.material.at(-1) as number) > LEAST) loops.push(curve);
  }
  return loops;
}
