import { type Curve, lengthBetween, type Point, split, straight } from "./curve";

/**
 * A curve of few cubic pieces through points: the longest good piece again and again (least squares with the start's
 * direction held, parameters moved by Newton's steps), its end cut back so that its direction knows what follows.
 * After Schneider (Graphics Gems I, 1990), but forwards, so that nothing already placed is touched.
 */

/** How fine a fit is, px: the farthest off, and over how far a corner is looked for. */
export type Fineness = { error: number; corner: number };
/** What lines are fitted at when they are drawn at a scale of 1. */
export const DRAWN: Fineness = { error: 0.25, corner: 4 };

/** The fineness of what was drawn at so many picture px a screen px. */
export function finenessAt(scale: number): Fineness {
  const by = Math.min(2, Math.max(0.25, scale));
  return { error: DRAWN.error * by, corner: DRAWN.corner * by };
}

const DEGREES = Math.PI / 180;
/** From which turn on a place may be a corner, how much of the turn must lie right there, or what is one anyway. */
const CORNER = { from: 35 * DEGREES, share: 0.7, surely: 126 * DEGREES };
/** Most that a piece may turn, and how its handles and its length may be. */
const GOOD = { turn: 2, least: 0.02, most: 0.8, longer: 1.03, slack: 0.5 };
/** What is cut off a piece's end: a share of it, px at most. */
const CUT = { share: 0.15, most: 14 };
const ROUNDS = 6;
/** Weight that pulls handles to a third of the length, a share of the data's. */
const PULL = 1e-3;

const at = (list: ArrayLike<number>, i: number): number => list[i] as number;

/** Points without those that stand still: coordinates, and the length to each. */
export type Track = { x: number[]; y: number[]; s: number[] };

export function trackOf(points: readonly Point[]): Track {
  const track: Track = { x: [], y: [], s: [] };
  for (const [x, y] of points) {
    const n = track.x.length;
    const dx = n > 0 ? x - at(track.x, n - 1) : 0;
    const dy = n > 0 ? y - at(track.y, n - 1) : 0;
    const d = Math.sqrt(dx * dx + dy * dy);
    if (n > 0 && d < 1e-4) continue;
    track.x.push(x);
    track.y.push(y);
    track.s.push(n > 0 ? at(track.s, n - 1) + d : 0);
  }
  return track;
}

/** Index of the last point at or before a length. */
function indexAt({ s }: Track, length: number): number {
  let low = 0;
  let high = s.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at(s, middle) <= length) low = middle;
    else high = middle - 1;
  }
  return low;
}

function pointAt(track: Track, length: number): Point {
  const { x, y, s } = track;
  const i = indexAt(track, length);
  if (i >= s.length - 1) return [at(x, s.length - 1), at(y, s.length - 1)];
  const t = Math.max(0, (length - at(s, i)) / (at(s, i + 1) - at(s, i)));
  return [at(x, i) + (at(x, i + 1) - at(x, i)) * t, at(y, i) + (at(y, i + 1) - at(y, i)) * t];
}

/** By how much the way turns at a point, seen over ±reach, radians. */
function turnAt(track: Track, i: number, reach: number): number {
  const s = at(track.s, i);
  const [ax, ay] = pointAt(track, s - reach);
  const [bx, by] = pointAt(track, s + reach);
  const [ux, uy] = [at(track.x, i) - ax, at(track.y, i) - ay];
  const [vx, vy] = [bx - at(track.x, i), by - at(track.y, i)];
  return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
}

/** Indices of corners, turns of at least so many radians, the ends among them. */
export function cornersOf(track: Track, reach: number, least = CORNER.from): number[] {
  const n = track.s.length;
  const total = at(track.s, n - 1);
  const turns = new Array<number>(n).fill(0);
  for (let i = 1; i < n - 1; i++) {
    const s = at(track.s, i);
    if (s >= reach / 2 && s <= total - reach / 2) turns[i] = turnAt(track, i, reach);
  }
  const corners = [0];
  for (let i = 1; i < n - 1; i++) {
    const turn = at(turns, i);
    if (turn < least || !isLargest(track, turns, i, reach)) continue;
    if (turn > CORNER.surely || turn > CORNER.share * turnAt(track, i, 2 * reach)) corners.push(i);
  }
  if (n > 1) corners.push(n - 1);
  return corners;
}

function isLargest({ s }: Track, turns: readonly number[], i: number, reach: number): boolean {
  for (let j = i - 1; j >= 0 && at(s, i) - at(s, j) <= reach; j--)
    if (at(turns, j) >= at(turns, i)) return false;
  for (let j = i + 1; j < s.length && at(s, j) - at(s, i) <= reach; j++)
    if (at(turns, j) > at(turns, i)) return false;
  return true;
}

type Tried = { points: number[]; params: number[] };

/** Where a fit goes on from: a place, the direction it must take (null: any), the first point ahead, and its length. */
type Start = { x: number; y: number; s: number; direction: Point | null; next: number };

/** Places from a start to the point `end`, the start among them. */
function placesTo(track: Track, start: Start, end: number): Track {
  const { x, y, s } = track;
  const from = start.next;
  return {
    x: [start.x, ...x.slice(from, end + 1)],
    y: [start.y, ...y.slice(from, end + 1)],
    s: [start.s, ...s.slice(from, end + 1)],
  };
}

const bernstein = (t: number): [number, number, number, number] => {
  const u = 1 - t;
  return [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
};

/** Least squares of the two handles; the start's lies along `direction` where one is given. */
function handles(data: Track, params: readonly number[], direction: Point | null): number[] {
  const n = data.x.length - 1;
  const [x0, y0, x3, y3] = [at(data.x, 0), at(data.y, 0), at(data.x, n), at(data.y, n)];
  const length = at(data.s, n) - at(data.s, 0);
  const third = length / 3;
  const pull = PULL * length;
  let [s11, s12, s22] = [pull, 0, pull];
  // What handles are pulled to: a third of the way along the data's own ends.
  const ahead = directionFrom(data, 0, 1);
  const behind = directionFrom(data, n, -1);
  let [b1x, b1y] = [pull * (x0 + third * ahead[0]), pull * (y0 + third * ahead[1])];
  let [b2x, b2y] = [pull * (x3 + third * behind[0]), pull * (y3 + third * behind[1])];
  for (let i = 1; i < n; i++) {
    const weight = (at(data.s, i + 1) - at(data.s, i - 1)) / 2;
    const [b0, b1, b2, b3] = bernstein(at(params, i));
    const rx = at(data.x, i) - b0 * x0 - b3 * x3;
    const ry = at(data.y, i) - b0 * y0 - b3 * y3;
    s11 += weight * b1 * b1;
    s12 += weight * b1 * b2;
    s22 += weight * b2 * b2;
    b1x += weight * b1 * rx;
    b1y += weight * b1 * ry;
    b2x += weight * b2 * rx;
    b2y += weight * b2 * ry;
  }
  if (direction) {
    const [tx, ty] = direction;
    // P1 = P0 + α·T; the second handle is eliminated.
    const fixedX = s12 * x0;
    const fixedY = s12 * y0;
    const right = tx * (b1x - s11 * x0) + ty * (b1y - s11 * y0);
    const cross = (s12 / s22) * (tx * (b2x - fixedX) + ty * (b2y - fixedY));
    const alpha = (right - cross) / Math.max(1e-12, s11 - (s12 * s12) / s22);
    const [x1, y1] = [x0 + alpha * tx, y0 + alpha * ty];
    return [x1, y1, (b2x - s12 * x1) / s22, (b2y - s12 * y1) / s22];
  }
  const det = Math.max(1e-12, s11 * s22 - s12 * s12);
  return [
    (b1x * s22 - b2x * s12) / det,
    (b1y * s22 - b2y * s12) / det,
    (b2x * s11 - b1x * s12) / det,
    (b2y * s11 - b1y * s12) / det,
  ];
}

function directionFrom({ x, y }: Track, i: number, by: 1 | -1): Point {
  const dx = at(x, i + by) - at(x, i);
  const dy = at(y, i + by) - at(y, i);
  const d = Math.sqrt(dx * dx + dy * dy) || 1;
  return [dx / d, dy / d];
}

/** One coordinate of a cubic at t: itself, and its first and second derivatives. */
type Axis = { at: number; slope: number; bend: number };

function readAxis(points: readonly number[], axis: 0 | 1, t: number, into: Axis): void {
  const u = 1 - t;
  const p0 = points[axis] as number;
  const p1 = points[axis + 2] as number;
  const p2 = points[axis + 4] as number;
  const p3 = points[axis + 6] as number;
  into.at = u * u * u * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * p3;
  into.slope = 3 * (u * u * (p1 - p0) + 2 * u * t * (p2 - p1) + t * t * (p3 - p2));
  into.bend = 6 * (u * (p2 - 2 * p1 + p0) + t * (p3 - 2 * p2 + p1));
}

const alongX: Axis = { at: 0, slope: 0, bend: 0 };
const alongY: Axis = { at: 0, slope: 0, bend: 0 };

/** Moves parameters nearer to the feet of their points. @returns the farthest off, px */
function refine(points: readonly number[], data: Track, params: number[]): number {
  const n = data.x.length - 1;
  let worst = 0;
  for (let i = 1; i < n; i++) {
    let t = at(params, i);
    readAxis(points, 0, t, alongX);
    readAxis(points, 1, t, alongY);
    const dx = alongX.at - at(data.x, i);
    const dy = alongY.at - at(data.y, i);
    worst = Math.max(worst, dx * dx + dy * dy);
    const { slope: sx } = alongX;
    const { slope: sy } = alongY;
    const steep = sx * sx + sy * sy + dx * alongX.bend + dy * alongY.bend;
    if (steep > 1e-12) t -= (dx * sx + dy * sy) / steep;
    params[i] = Math.min(1, Math.max(at(params, i - 1), t));
  }
  return Math.sqrt(worst);
}

const turnBetween = (ax: number, ay: number, bx: number, by: number): number =>
  Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));

/** Whether a piece is a fair one: it turns little, its handles are neither tiny nor long. */
function isFair(points: readonly number[], length: number): boolean {
  const leg = (i: number): Point => [
    at(points, i + 2) - at(points, i),
    at(points, i + 3) - at(points, i + 1),
  ];
  const [a, b, c] = [leg(0), leg(2), leg(4)];
  const turn = turnBetween(...a, ...b) + turnBetween(...b, ...c);
  if (turn > GOOD.turn) return false;
  for (const [x, y] of [a, c]) {
    const handle = Math.sqrt(x * x + y * y);
    if (handle < GOOD.least * length || handle > GOOD.most * length) return false;
  }
  return lengthBetween(points, 0, 0, 1) <= GOOD.longer * length + GOOD.slack;
}

/** One cubic from a start to the point `end`; null where none is good. */
function tryPiece(track: Track, start: Start, end: number, error: number): Tried | null {
  const data = placesTo(track, start, end);
  const n = data.x.length - 1;
  const length = at(data.s, n) - at(data.s, 0);
  const [x0, y0, x3, y3] = [at(data.x, 0), at(data.y, 0), at(data.x, n), at(data.y, n)];
  const params = data.s.map((s) => (s - start.s) / length);
  let points: number[] = [];
  let worst = Infinity;
  for (let round = 0; round < ROUNDS; round++) {
    points = [x0, y0, ...handles(data, params, start.direction), x3, y3];
    worst = refine(points, data, params);
    if (worst <= error * 0.8) break;
    // So far off, more rounds do not help.
    if (round > 1 && worst > 4 * error) return null;
  }
  return worst <= error && isFair(points, length) ? { points, params } : null;
}

/** Appends what is fitted between two corners. */
function fitStretch(track: Track, from: number, to: number, error: number, onto: Curve): void {
  let start: Start = {
    x: at(track.x, from),
    y: at(track.y, from),
    s: at(track.s, from),
    direction: null,
    next: from + 1,
  };
  for (;;) {
    const { end, tried } = longest(track, start, to, error);
    if (end === to) return append(onto, tried.points, at(track.s, to));
    const next = cutBack(track, start, end, tried, onto);
    if (!next) return append(onto, tried.points, at(track.s, to));
    start = next;
  }
}

/** Points that a piece is tried through at first: fewer say little of a direction. */
const FIRST = 6;

/** The longest good piece: lengths doubled, then halved between good and bad. */
function longest(
  track: Track,
  start: Start,
  to: number,
  error: number,
): { end: number; tried: Tried } {
  const room = to - start.next;
  let good = -1;
  let bad = room + 1;
  let tried: Tried | null = null;
  for (let ahead = Math.min(room, FIRST); ; ahead = Math.min(room, 2 * ahead)) {
    const next = tryPiece(track, start, start.next + ahead, error);
    if (next) {
      good = ahead;
      tried = next;
    } else {
      bad = ahead;
      break;
    }
    if (ahead === room) break;
  }
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    const next = tryPiece(track, start, start.next + middle, error);
    if (next) {
      good = middle;
      tried = next;
    } else bad = middle;
  }
  if (!tried) return { end: start.next, tried: plain(track, start, start.next) };
  return { end: start.next + good, tried };
}

/** A straight piece: what is left where no cubic is good. */
function plain(track: Track, { x, y }: Start, end: number): Tried {
  const { points } = straight([x, y], [at(track.x, end), at(track.y, end)], [0, 1]);
  return { points, params: [0, 1] };
}

/** Appends all of a piece but its newest end. @returns where the fit goes on */
function cutBack(
  track: Track,
  start: Start,
  end: number,
  { points, params }: Tried,
  onto: Curve,
): Start | null {
  const length = lengthBetween(points, 0, 0, 1);
  // A piece of a chord or two is not cut: nothing would be gained.
  const cut = end - start.next < 2 ? 0 : Math.min(CUT.share * length, CUT.most);
  const piece: Curve = { points: [...points], material: [0, 1], corners: [false, false] };
  let t = 1 - cut / Math.max(1e-9, length);
  for (let i = 0; i < 3; i++) {
    const left = lengthBetween(points, 0, t, 1);
    t = Math.min(1, Math.max(0.5, t + ((left - cut) / Math.max(1e-9, length)) * 0.9));
  }
  let k = params.length - 1;
  while (k > 0 && at(params, k - 1) >= t) k--;
  const next = start.next + k - 1;
  if (k < 1 || next > end) return null;
  const [low, high] = [at(params, k - 1), at(params, k)];
  const share = high > low ? (t - low) / (high - low) : 1;
  const before = k === 1 ? start.s : at(track.s, next - 1);
  const s = before + (at(track.s, next) - before) * Math.min(1, Math.max(0, share));
  split(piece, { piece: 0, t });
  const kept = piece.points.slice(0, 8);
  append(onto, kept, s);
  const [hx, hy, x, y] = kept.slice(4) as [number, number, number, number];
  const d = Math.sqrt((x - hx) ** 2 + (y - hy) ** 2);
  const direction: Point | null = d > 1e-9 ? [(x - hx) / d, (y - hy) / d] : null;
  // The next point must lie ahead.
  const ahead = at(track.s, next) - s < 1e-6 ? next + 1 : next;
  return { x, y, s, direction, next: ahead };
}

function append(onto: Curve, points: readonly number[], s: number): void {
  onto.points.push(...points.slice(2));
  onto.material.push(s);
  onto.corners.push(false);
}

/**
 * Fits a curve to points. Its material is the points' own length, from 0.
 * @throws RangeError where there is no point
 */
export function fit(points: readonly Point[], fineness: Fineness): Curve {
  const track = trackOf(points);
  const n = track.x.length;
  if (n === 0) throw new RangeError("a line needs at least one point");
  const first: Point = [at(track.x, 0), at(track.y, 0)];
  if (n === 1) return straight(first, first, [0, 1e-3]);
  const curve: Curve = { points: [...first], material: [0], corners: [true] };
  const corners = cornersOf(track, fineness.corner);
  for (let i = 0; i + 1 < corners.length; i++) {
    fitStretch(track, at(corners, i), at(corners, i + 1), fineness.error, curve);
    curve.corners[curve.corners.length - 1] = true;
  }
  return curve;
}
