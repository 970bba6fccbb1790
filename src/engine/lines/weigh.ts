import { type Point } from "./curve";
import { type Line, settledLine } from "./line";
import { mappedProfile, profileThrough, reader } from "./profile";
import { CHORD_NUMBERS, shapeOf } from "./shape";

/** A place of the hand over the lines: where, and how hard 0…1. */
export type Pressed = readonly [x: number, y: number, pressure: number];

export type Weighing = "thicken" | "thin" | "even";

/** By how much one stroke over a line changes its width where it is pressed whole. */
const BY = 0.25;
/** What is between two places of the width that are looked at, px. */
const APART = 3;
/** Half-widths are held to this, px. */
const LEAST = 0.1;
const MOST = 1000;

/** How far a place is from a stroke's piece between two of its places: distance², and how far along it, 0…1. */
export function besidePiece(
  x: number,
  y: number,
  from: readonly number[],
  to: readonly number[],
): { square: number; t: number } {
  const [ax = 0, ay = 0] = from;
  const [bx = 0, by = 0] = to;
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
  return { square: (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2, t };
}

/** How much of a stroke over it a place gets: the largest of (1 − (d/ρ)²)² × pressure. */
function dose(x: number, y: number, path: readonly Pressed[], radius: number): number {
  let most = 0;
  for (let i = 0; i < path.length; i++) {
    const from = path[i] as Pressed;
    const to = path[Math.min(path.length - 1, i + 1)] as Pressed;
    const { square, t } = besidePiece(x, y, from, to);
    const fall = 1 - square / (radius * radius);
    if (fall > 0) most = Math.max(most, fall * fall * (from[2] + (to[2] - from[2]) * t));
  }
  return most;
}

/** Whether a stroke over them can reach a line at all: quick, and never wrongly no. */
export function reachesLine(
  line: Line,
  path: readonly (readonly number[])[],
  radius: number,
): boolean {
  const { box } = shapeOf(line);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x = 0, y = 0] of path) {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return (
    left - radius < box.right &&
    right + radius > box.left &&
    top - radius < box.bottom &&
    bottom + radius > box.top
  );
}

/** Thickens, thins or evens a line out where it is stroked over. The same line where it is not touched. */
export function weighed(line: Line, path: readonly Pressed[], radius: number, how: Weighing): Line {
  if (!reachesLine(line, path, radius)) return line;
  const { ends } = shapeOf(line);
  const places: number[] = [];
  const doses: number[] = [];
  let last: Point | null = null;
  for (let i = 0; i < ends.length; i += CHORD_NUMBERS) {
    const [x, y, m] = [ends[i] as number, ends[i + 1] as number, ends[i + 3] as number];
    const from = last;
    const steps = from
      ? Math.max(1, Math.ceil(Math.sqrt((x - from[0]) ** 2 + (y - from[1]) ** 2) / APART))
      : 1;
    const before = places.at(-1) ?? m;
    for (let k = 1; k <= steps; k++) {
      const t = k / steps;
      const here = before + (m - before) * t;
      if (places.length > 0 && here - (places.at(-1) as number) < 1e-3) continue;
      places.push(here);
      doses.push(
        from
          ? dose(from[0] + (x - from[0]) * t, from[1] + (y - from[1]) * t, path, radius)
          : dose(x, y, path, radius),
      );
    }
    last = [x, y];
  }
  return settledLine({ ...line, width: weighedProfile(line.width, places, doses, how) });
}

function weighedProfile(
  width: readonly number[],
  places: readonly number[],
  doses: readonly number[],
  how: Weighing,
): number[] {
  const first = doses.findIndex((d) => d > 0);
  if (first < 0) return [...width];
  const last = doses.findLastIndex((d) => d > 0);
  const [from, to] = [Math.max(0, first - 1), Math.min(places.length - 1, last + 1)];
  const read = reader(width);
  const inside = places.slice(from, to + 1);
  const old = inside.map(read);
  const mean = old.reduce((sum, r) => sum + r, 0) / old.length;
  const changed = old.map((r, i) => {
    const d = doses[from + i] as number;
    const by = 1 + BY * d;
    const next =
      how === "thicken" ? r * by : how === "thin" ? r / by : r + (mean - r) * Math.min(1, d);
    return Math.min(MOST, Math.max(LEAST, next));
  });
  const part = profileThrough(inside, changed, { px: 0.1, share: 0.015 });
  const [low, high] = [part[0] as number, part.at(-2) as number];
  const before: number[] = [];
  const after: number[] = [];
  for (let i = 0; i < width.length; i += 2) {
    const m = width[i] as number;
    if (m < low - 1e-3) before.push(m, width[i + 1] as number);
    else if (m > high + 1e-3) after.push(m, width[i + 1] as number);
  }
  return [...before, ...part, ...after];
}

/** The same line with its width changed place by place. */
export const widened = (line: Line, map: (radius: number) => number): Line =>
  settledLine({
    ...line,
    width: mappedProfile(line.width, (_, r) => Math.min(MOST, Math.max(LEAST, map(r)))),
  });
