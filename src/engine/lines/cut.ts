import { cutOut, lengthsOf, reversed } from "./curve";
import { cutsOf } from "./crossings";
import { HAND_NUMBERS, type Line, settledLine } from "./line";
import { type LineChange } from "./line-set";
import { profileBetween } from "./profile";
import { besidePiece, reachesLine } from "./weigh";
import { CHORD_NUMBERS, shapeOf } from "./shape";

/** What is left of a line and shorter than this goes too, px. */
const LEAVINGS = 2;

/** A part of a line, as lengths along it. */
export type Stretch = readonly [from: number, to: number];

/** Part of a line as a line: what was cut has no taper where it was cut. */
export function partOf(line: Line, from: number, to: number): Omit<Line, "id"> {
  const total = lengthsOf(line.curve).at(-1) as number;
  const curve = cutOut(line.curve, from, to);
  const [low, high] = [curve.material[0] as number, curve.material.at(-1) as number];
  const { id: _id, ...rest } = line;
  return {
    ...rest,
    curve,
    width: profileBetween(line.width, low, high),
    taper: { in: from > 0.01 ? 0 : line.taper.in, out: to < total - 0.01 ? 0 : line.taper.out },
    closed: false,
  };
}

/**
 * What is left of a line without some stretches: the first part keeps its number, others get new ones.
 * @param next gives numbers for new lines
 */
export function without(line: Line, gone: readonly Stretch[], next: () => number): Line[] {
  const total = lengthsOf(line.curve).at(-1) as number;
  const ordered = merged(gone);
  if (ordered.length === 0) return [line];
  const kept: [number, number][] = [];
  let from = 0;
  for (const [start, end] of ordered) {
    if (start - from > LEAVINGS) kept.push([from, start]);
    from = Math.max(from, end);
  }
  if (total - from > LEAVINGS) kept.push([from, total]);
  const parts = kept.map(([start, end]) => partOf(line, start, end));
  const [first, last] = [parts[0], parts.at(-1)];
  // What was closed is one line again across its seam.
  if (
    line.closed &&
    first &&
    last &&
    first !== last &&
    kept[0]?.[0] === 0 &&
    kept.at(-1)?.[1] === total
  ) {
    parts.pop();
    parts[0] = acrossSeam(last, first);
  }
  return parts.map((part, i) => settledLine({ ...part, id: i === 0 ? line.id : next() }));
}

/** Two parts of what was a closed line: the second goes on where the first ends. */
function acrossSeam(first: Omit<Line, "id">, second: Omit<Line, "id">): Omit<Line, "id"> {
  const by = (first.curve.material.at(-1) as number) - (second.curve.material[0] as number);
  const moved = second.curve.material.map((m) => m + by);
  const width = [
    ...first.width,
    ...second.width.map((v, i) => (i % 2 === 0 ? v + by : v)).slice(2),
  ];
  const hand = [...first.hand, ...second.hand.map((v, i) => (i % HAND_NUMBERS === 0 ? v + by : v))];
  return {
    ...first,
    curve: {
      points: [...first.curve.points, ...second.curve.points.slice(2)],
      material: [...first.curve.material, ...moved.slice(1)],
      corners: [...first.curve.corners, ...second.curve.corners.slice(1)],
    },
    width,
    hand,
  };
}

function merged(stretches: readonly Stretch[]): [number, number][] {
  const ordered = stretches
    .filter(([from, to]) => to > from)
    .map(([from, to]): [number, number] => [from, to])
    .sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const [from, to] of ordered) {
    const last = out.at(-1);
    if (last && from <= last[1] + 1e-6) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** The stretch between two crossings around a place; the whole line where nothing crosses it. */
export function stretchAt(line: Line, others: readonly Line[], s: number): Stretch {
  const total = lengthsOf(line.curve).at(-1) as number;
  const cuts = cutsOf(line, others);
  const before = cuts.findLast((cut) => cut <= s);
  const after = cuts.find((cut) => cut > s);
  return [before ?? 0, after ?? total];
}

/** The stretches of a line whose middle lies within a radius of a stroke over it. */
export function touchedBy(
  line: Line,
  path: readonly (readonly number[])[],
  radius: number,
): Stretch[] {
  if (!reachesLine(line, path, radius)) return [];
  const { ends, total } = shapeOf(line);
  const inside = (x: number, y: number): boolean => isNear(x, y, path, radius);
  const stretches: [number, number][] = [];
  let s = 0;
  let open: [number, number] | null = null;
  const step = 0.5;
  for (let i = 0; i < ends.length - CHORD_NUMBERS; i += CHORD_NUMBERS) {
    const [x, y] = [ends[i] as number, ends[i + 1] as number];
    const [dx, dy] = [(ends[i + 4] as number) - x, (ends[i + 5] as number) - y];
    const length = Math.sqrt(dx * dx + dy * dy);
    const count = Math.max(1, Math.ceil(length / step));
    for (let k = 0; k < count; k++) {
      const t = (k + 0.5) / count;
      const from = s + (length * k) / count;
      const to = s + (length * (k + 1)) / count;
      if (!inside(x + dx * t, y + dy * t)) {
        open = null;
        continue;
      }
      if (open) open[1] = to;
      else stretches.push((open = [from, to]));
    }
    s += length;
  }
  // Chords are a little shorter than what they stand for.
  const by = s > 0 ? total / s : 1;
  return stretches.map(([from, to]) => [from * by, to * by]);
}

function isNear(
  x: number,
  y: number,
  path: readonly (readonly number[])[],
  radius: number,
): boolean {
  for (let i = 0; i < path.length; i++) {
    const from = path[i] as readonly number[];
    const to = path[Math.min(path.length - 1, i + 1)] as readonly number[];
    if (besidePiece(x, y, from, to).square <= radius * radius) return true;
  }
  return false;
}

/** The same line drawn from its other end. */
export function turnedRound(line: Line): Line {
  const { curve, taper } = line;
  const sum = (curve.material[0] as number) + (curve.material.at(-1) as number);
  const width: number[] = [];
  for (let i = line.width.length - 2; i >= 0; i -= 2)
    width.push(sum - (line.width[i] as number), line.width[i + 1] as number);
  const hand: number[] = [];
  for (let i = line.hand.length - HAND_NUMBERS; i >= 0; i -= HAND_NUMBERS)
    hand.push(sum - (line.hand[i] as number), ...line.hand.slice(i + 1, i + HAND_NUMBERS));
  return settledLine({
    ...line,
    curve: reversed(curve),
    width,
    hand,
    taper: { in: taper.out, out: taper.in },
  });
}

/** What becomes of a layer's lines where one of them falls into parts. */
export function changeOf(line: Line, parts: readonly Line[]): LineChange {
  return parts.some(({ id }) => id === line.id)
    ? { gone: [], put: parts.filter((part) => part !== line) }
    : { gone: [line.id], put: parts };
}

/** What erasing takes: only what is touched, all of it to the next crossings, or whole lines. */
export type Erasing = "touched" | "to crossings" | "whole";

/** What becomes of lines that a stroke goes over to erase them. */
export function erased(
  lines: readonly Line[],
  { over, radius, how }: { over: readonly (readonly number[])[]; radius: number; how: Erasing },
  next: () => number,
): LineChange {
  const gone: number[] = [];
  const put: Line[] = [];
  for (const line of lines) {
    const touched = touchedBy(line, over, radius);
    if (touched.length === 0) continue;
    if (how === "whole") {
      gone.push(line.id);
      continue;
    }
    const stretches =
      how === "touched"
        ? touched
        : touched.map(([from, to]): Stretch => stretchAt(line, lines, (from + to) / 2));
    const change = changeOf(line, without(line, stretches, next));
    gone.push(...change.gone);
    put.push(...change.put);
  }
  return { gone, put };
}
