import { type Brush } from "../stroke/brush";
import { Chance } from "../stroke/chance";
import { evaluator, firstReading, readPen, withoutChance } from "../stroke/drives";
import { type PathPoint } from "../stroke/path";
import { type StrokeStart } from "../stroke/stroker";
import { taperScale } from "../stroke/walk";
import { type Point } from "./curve";
import { finenessAt, fit } from "./fit";
import { type Line, settledLine, type Taper } from "./line";
import { profileThrough } from "./profile";
import { smoothSeam } from "./seam";

const at = (list: ArrayLike<number>, i: number): number => list[i] as number;

/** Half-widths of a brush along a path, px, without chance and tapers. */
export function radiiAlong(
  brush: Brush,
  size: number,
  scale: number,
  points: readonly PathPoint[],
): number[] {
  const diameter = evaluator(withoutChance(brush.diameter));
  const reading = firstReading(new Chance(0));
  let last: PathPoint | null = null;
  let heading = { x: 0, y: 0 };
  return points.map((point) => {
    const [dx, dy] = last ? [point.x - last.x, point.y - last.y] : [0, 0];
    const d = Math.sqrt(dx * dx + dy * dy);
    if (d > 0) heading = { x: dx / d, y: dy / d };
    readPen(point, scale, heading, reading);
    reading.sizes = point.s / size;
    last = point;
    return (size / 2) * diameter(reading);
  });
}

/** How far the hand may be off between the places that are kept: pressure, radians, radians, radians, share. */
const HELD = [0.02, 0.04, 0.06, 0.06, 0.04];
/** Px a second that count as one for the above. */
const QUICK = 3000;

/** The fewest places of the hand between which the others lie, nearly. */
export function handAlong(points: readonly PathPoint[]): number[] {
  const numbers = ({ s, pressure, altitude, azimuth, twist, speed }: PathPoint): number[] => [
    s,
    pressure,
    altitude,
    azimuth,
    twist,
    Math.min(speed, 4 * QUICK),
  ];
  const all = points.map(numbers);
  const kept = new Set([0, all.length - 1]);
  const stack: [number, number][] = [[0, all.length - 1]];
  for (let pair = stack.pop(); pair; pair = stack.pop()) {
    const where = worstBetween(all, ...pair);
    if (where < 0) continue;
    kept.add(where);
    stack.push([pair[0], where], [where, pair[1]]);
  }
  return [...kept].sort((a, b) => a - b).flatMap((i) => (all[i] as number[]).map(Math.fround));
}

function worstBetween(all: readonly number[][], from: number, to: number): number {
  const [a, b] = [all[from] as number[], all[to] as number[]];
  let worst = 1;
  let where = -1;
  for (let i = from + 1; i < to; i++) {
    const here = all[i] as number[];
    const t = at(b, 0) > at(a, 0) ? (at(here, 0) - at(a, 0)) / (at(b, 0) - at(a, 0)) : 0;
    for (let k = 0; k < HELD.length; k++) {
      const scale = k === 4 ? QUICK : 1;
      const off = Math.abs(at(here, k + 1) - at(a, k + 1) - (at(b, k + 1) - at(a, k + 1)) * t);
      const share = off / scale / at(HELD, k);
      if (share <= worst) continue;
      worst = share;
      where = i;
    }
  }
  return where;
}

/** The tapers of a brush at a size, px; none where it does not narrow. */
export function taperOf({ taper }: Brush, size: number): Taper {
  if (!taper.narrows) return { in: 0, out: 0 };
  const scale = taperScale(size);
  return { in: Math.min(20_000, taper.in * scale), out: Math.min(20_000, taper.out * scale) };
}

/** Ends nearer than this close a line by themselves, screen px; where it is so many times longer. */
const CLOSES = { px: 7, times: 6 };

/** Whether a path comes back to where it began, so that it is meant as a closed shape. */
function closes(points: readonly PathPoint[], size: number, scale: number): boolean {
  const [first, last] = [points[0] as PathPoint, points.at(-1) as PathPoint];
  const gap = Math.sqrt((first.x - last.x) ** 2 + (first.y - last.y) ** 2);
  const near = Math.max(CLOSES.px * Math.min(2, Math.max(0.25, scale)), size / 2);
  return gap < near && last.s > CLOSES.times * near;
}

/** Brings the end of a path to its start, more and more the nearer the end is. */
function closed(points: readonly PathPoint[]): PathPoint[] {
  const [first, last] = [points[0] as PathPoint, points.at(-1) as PathPoint];
  const [dx, dy] = [first.x - last.x, first.y - last.y];
  const over = Math.min(last.s / 2, 12 * Math.sqrt(dx * dx + dy * dy) + 1);
  return points.map((point) => {
    const t = Math.max(0, 1 - (last.s - point.s) / over);
    const share = t * t * (3 - 2 * t);
    return { ...point, x: point.x + dx * share, y: point.y + dy * share };
  });
}

/** A line from the steadied path of a stroke. */
export function madeLine(
  start: StrokeStart,
  path: readonly PathPoint[],
  { id, z, mayClose }: { id: number; z: number; mayClose: boolean },
): Line {
  const { brush, size, strength, colour, second, seed, scale } = start;
  const isClosed = mayClose && closes(path, size, scale);
  const points = isClosed ? closed(path) : path;
  const curve = fit(
    points.map(({ x, y }): Point => [x, y]),
    finenessAt(scale),
  );
  const places = measured(points, curve.material.at(-1) as number);
  const line = settledLine({
    id,
    z,
    brush: brush.id,
    size,
    strength,
    colour,
    second,
    seed,
    curve,
    width: profileThrough(
      places.map(({ s }) => s),
      radiiAlong(
        brush,
        size,
        scale,
        points.filter((_, i) => isOn(points, i)),
      ),
    ),
    hand: handAlong(places),
    taper: isClosed ? { in: 0, out: 0 } : taperOf(brush, size),
    closed: isClosed,
  });
  return isClosed ? smoothSeam(line) : line;
}

/** Whether a point of a path is not where the one before it was. */
const isOn = (points: readonly PathPoint[], i: number): boolean =>
  i === 0 || (points[i] as PathPoint).s - (points[i - 1] as PathPoint).s > 1e-4;

/** The points that a curve went through, with its material for their lengths. */
function measured(points: readonly PathPoint[], total: number): PathPoint[] {
  const kept = points.filter((_, i) => isOn(points, i));
  const whole = (kept.at(-1) as PathPoint).s;
  const by = whole > 0 ? total / whole : 1;
  return kept.map((point) => ({ ...point, s: point.s * by }));
}
