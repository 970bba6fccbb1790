import {
  cutOut,
  type Curve,
  directionAt,
  followedBy,
  lengthsOf,
  materialAt,
  nearestOn,
  placeAt,
  type Point,
  pointOn,
  piecesOf,
} from "./curve";
import { finenessAt, fit } from "./fit";
import { type Line, settledLine } from "./line";

/** How near a line a stroke must begin or end to belong to it, screen px. */
export const NEAR = 12;
/** Over what of its first px a stroke's direction is read. */
const READS = 20;
/** Px between places of the line that are looked at. */
const LOOKS_EVERY = 2;
/** How much the length of what is replaced and of the stroke may differ, in distance. */
const DIFFERS = 0.15;
/** A stroke that runs against the line costs as much as this distance, px. */
const AGAINST = 20;
/** A bridge: its handles, a share of its chord; and how much of the line and the stroke it takes. */
const BRIDGE = { handles: 0.36, least: 6, offset: 2, turn: 14, most: 0.3 };

type Candidate = { s: number; distance: number };

/** Places of a line where the distance to a point is least nearby, and small. */
function nearPlaces(
  curve: Curve,
  lengths: readonly number[],
  [x, y]: Point,
  within: number,
): Candidate[] {
  const total = lengths.at(-1) as number;
  const count = Math.max(2, Math.ceil(total / LOOKS_EVERY));
  const distances = Array.from({ length: count + 1 }, (_, i) => {
    const [px, py] = pointOn(curve, placeAt(curve, lengths, (total * i) / count));
    return Math.sqrt((px - x) ** 2 + (py - y) ** 2);
  });
  return distances.flatMap((distance, i) => {
    const isLeast =
      distance <= (distances[i - 1] ?? Infinity) && distance < (distances[i + 1] ?? Infinity);
    return isLeast && distance < within ? [{ s: (total * i) / count, distance }] : [];
  });
}

/** A smooth piece from one place to another, along both directions. */
export function bridge(
  from: Point,
  out: Point,
  to: Point,
  into: Point,
  material: readonly [number, number],
): Curve {
  const handle = BRIDGE.handles * Math.sqrt((to[0] - from[0]) ** 2 + (to[1] - from[1]) ** 2);
  return {
    points: [
      ...from,
      from[0] + out[0] * handle,
      from[1] + out[1] * handle,
      to[0] - into[0] * handle,
      to[1] - into[1] * handle,
      ...to,
    ],
    material: [...material],
    corners: [false, false],
  };
}

const turnOf = (a: Point, b: Point): number =>
  Math.abs(Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]));

/** How much a bridge over a gap takes of either side, px. */
export const bridgeReach = (offset: number, turn: number, length: number): number =>
  Math.min(BRIDGE.least + BRIDGE.offset * offset + BRIDGE.turn * turn, BRIDGE.most * length);

const turnedPoints = (points: readonly Point[]): Point[] => [...points].reverse();

/** Where a stroke belongs on a line: the stretch that it replaces, and which way it runs. */
export type Replaces = { from: number | null; to: number | null; reversed: boolean; cost: number };

/** The stretch of a line that a stroke replaces; null where it does not begin or end near it. */
export function whereRedrawn(line: Line, points: readonly Point[], scale: number): Replaces | null {
  const { curve } = line;
  const lengths = lengthsOf(curve);
  const within = NEAR * Math.min(2, Math.max(0.25, scale));
  const [start, end] = [points[0] as Point, points.at(-1) as Point];
  const starts = nearPlaces(curve, lengths, start, within);
  const ends = nearPlaces(curve, lengths, end, within);
  const length = trackLength(points);
  const ahead = headingOf(points);
  let best: Replaces | null = null;
  const take = (one: Replaces): void => {
    if (!best || one.cost < best.cost) best = one;
  };
  for (const a of starts)
    for (const b of ends) {
      const apart = Math.abs(b.s - a.s);
      if (apart < 1) continue;
      const isReversed = b.s < a.s;
      const [tx, ty] = directionAt(curve, placeAt(curve, lengths, a.s));
      const along = (tx * ahead[0] + ty * ahead[1]) * (isReversed ? -1 : 1);
      const cost =
        a.distance + b.distance + DIFFERS * Math.abs(apart - length) + (along < 0 ? AGAINST : 0);
      take({ from: Math.min(a.s, b.s), to: Math.max(a.s, b.s), reversed: isReversed, cost });
    }
  if (best) return best;
  if (line.closed) return null;
  for (const a of starts) {
    const [tx, ty] = directionAt(curve, placeAt(curve, lengths, a.s));
    const along = tx * ahead[0] + ty * ahead[1] >= 0;
    take({ from: along ? a.s : null, to: along ? null : a.s, reversed: !along, cost: a.distance });
  }
  if (best) return best;
  const back = headingOf(turnedPoints(points));
  for (const b of ends) {
    const [tx, ty] = directionAt(curve, placeAt(curve, lengths, b.s));
    // Seen from its end the stroke leaves the line the other way.
    const along = tx * back[0] + ty * back[1] >= 0;
    take({ from: along ? b.s : null, to: along ? null : b.s, reversed: along, cost: b.distance });
  }
  return best;
}

function trackLength(points: readonly Point[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1] as Point, points[i] as Point];
    sum += Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2);
  }
  return sum;
}

/** The direction of a stroke's first px. */
function headingOf(points: readonly Point[]): Point {
  const first = points[0] as Point;
  let to = points.at(-1) as Point;
  for (const point of points) {
    to = point;
    if ((point[0] - first[0]) ** 2 + (point[1] - first[1]) ** 2 >= READS * READS) break;
  }
  const [dx, dy] = [to[0] - first[0], to[1] - first[1]];
  const d = Math.sqrt(dx * dx + dy * dy) || 1;
  return [dx / d, dy / d];
}

/**
 * A line with a stretch of it drawn anew: bridges lead from the line onto the stroke and back; the line keeps its
 * width. A stroke that only begins (or ends) on the line replaces all from there to that end, so that lines are
 * extended the same way.
 */
export function redrawn(line: Line, points: readonly Point[], scale: number): Line | null {
  const where = whereRedrawn(line, points, scale);
  if (!where || points.length < 2) return null;
  const drawn = fit(where.reversed ? turnedPoints(points) : points, finenessAt(scale));
  const { curve } = line;
  const lengths = lengthsOf(curve);
  const total = lengths.at(-1) as number;
  const way = lengthsOf(drawn).at(-1) as number;
  const parts: Curve[] = [];
  let [drawnFrom, drawnTo] = [0, way];
  let material = curve.material[0] as number;
  let end: Curve | null = null;
  if (where.from !== null) {
    const reach = bridgeReach(offAt(curve, drawn, 0), turnAt(curve, where.from, drawn, 0), way);
    const leave = Math.max(0, where.from - reach);
    if (leave > 0.5) parts.push(cutOut(curve, 0, leave));
    drawnFrom = reach;
    material = materialAt(curve, placeAt(curve, lengths, leave));
  }
  if (where.to !== null) {
    const reach = bridgeReach(offAt(curve, drawn, way), turnAt(curve, where.to, drawn, way), way);
    const meet = Math.min(total, where.to + reach);
    if (meet < total - 0.5) end = cutOut(curve, meet, total);
    drawnTo = way - reach;
  }
  const middle = cutOut(drawn, drawnFrom, Math.max(drawnFrom + 0.5, drawnTo));
  const before = parts[0];
  // The stretch's material, spread over its new length; beyond an end it runs on.
  const span = spanOf(before, middle, end);
  const to = end ? (end.material[0] as number) : material + span;
  const from = where.from === null && end ? to - span : material;
  const joined = joinedBy(before, middle, end, from, to);
  return settledLine({ ...line, curve: joined, closed: line.closed });
}

function offAt(curve: Curve, drawn: Curve, s: number): number {
  const [x, y] = pointOn(drawn, placeAt(drawn, lengthsOf(drawn), s));
  return nearestOn(curve, x, y)?.distance ?? 0;
}

function turnAt(curve: Curve, s: number, drawn: Curve, along: number): number {
  const a = directionAt(curve, placeAt(curve, lengthsOf(curve), s));
  const b = directionAt(drawn, placeAt(drawn, lengthsOf(drawn), along));
  return turnOf(a, b);
}

const startOf = (curve: Curve): Point => [curve.points[0] as number, curve.points[1] as number];
const endOf = (curve: Curve): Point => [
  curve.points.at(-2) as number,
  curve.points.at(-1) as number,
];
const outOf = (curve: Curve): Point => directionAt(curve, { piece: piecesOf(curve) - 1, t: 1 });
const intoOf = (curve: Curve): Point => directionAt(curve, { piece: 0, t: 0 });
const apart = (a: Point, b: Point): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2);

/** Length of what is new: the stroke's part, and the bridges to it. */
function spanOf(before: Curve | undefined, middle: Curve, end: Curve | null): number {
  const first = before ? apart(endOf(before), startOf(middle)) : 0;
  const last = end ? apart(endOf(middle), startOf(end)) : 0;
  return first + (lengthsOf(middle).at(-1) as number) + last;
}

function joinedBy(
  before: Curve | undefined,
  middle: Curve,
  end: Curve | null,
  from: number,
  to: number,
): Curve {
  let whole = middle;
  if (before)
    whole = followedBy(
      bridge(endOf(before), outOf(before), startOf(middle), intoOf(middle), [0, 0]),
      whole,
    );
  if (end)
    whole = followedBy(
      whole,
      bridge(endOf(middle), outOf(middle), startOf(end), intoOf(end), [0, 0]),
    );
  const lengths = lengthsOf(whole);
  const total = lengths.at(-1) as number;
  const spread = {
    ...whole,
    material: lengths.map((s) => from + ((to - from) * s) / Math.max(1e-9, total)),
  };
  const corners = spread.corners.map(
    (corner, k) => corner && k > 0 && k < spread.corners.length - 1,
  );
  let joined: Curve = { ...spread, corners };
  if (before)
    joined = followedBy(
      { ...before, corners: before.corners.map((c, k) => c && k < before.corners.length - 1) },
      joined,
    );
  if (end) joined = followedBy(joined, { ...end, corners: end.corners });
  joined.corners[0] = true;
  joined.corners[joined.corners.length - 1] = true;
  return joined;
}
