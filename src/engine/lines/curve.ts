/**
 * A curve of cubic pieces (Bézier), each beginning where the one before ends. Lengths in picture px. What is made by
 * hand is read by its *material*: a number at every knot that begins as the length when it was drawn and is carried
 * along by every edit.
 */
export type Curve = {
  /** x, y of the start, then of each piece's two handles and its end: 2 + 6 × pieces numbers. */
  points: number[];
  /** Material at each knot, rising. */
  material: number[];
  /** Whether the curve turns sharply at a knot. */
  corners: boolean[];
};

/** A place on a curve: a piece, and 0…1 along it. */
export type Place = { piece: number; t: number };
export type Point = readonly [x: number, y: number];

export const piecesOf = (curve: Curve): number => curve.material.length - 1;

export const copyOf = ({ points, material, corners }: Curve): Curve => ({
  points: [...points],
  material: [...material],
  corners: [...corners],
});

const at = (points: ArrayLike<number>, i: number): number => points[i] as number;

/** One coordinate (0 x, 1 y) of a piece. */
function along(points: ArrayLike<number>, piece: number, axis: number, t: number): number {
  const i = 6 * piece + axis;
  const u = 1 - t;
  return (
    u * u * u * at(points, i) +
    3 * u * u * t * at(points, i + 2) +
    3 * u * t * t * at(points, i + 4) +
    t * t * t * at(points, i + 6)
  );
}

export const pointOn = ({ points }: Curve, { piece, t }: Place): Point => [
  along(points, piece, 0, t),
  along(points, piece, 1, t),
];

function slope(points: ArrayLike<number>, piece: number, axis: number, t: number): number {
  const i = 6 * piece + axis;
  const u = 1 - t;
  return (
    3 * u * u * (at(points, i + 2) - at(points, i)) +
    6 * u * t * (at(points, i + 4) - at(points, i + 2)) +
    3 * t * t * (at(points, i + 6) - at(points, i + 4))
  );
}

function bend(points: ArrayLike<number>, piece: number, axis: number, t: number): number {
  const i = 6 * piece + axis;
  const first = at(points, i + 4) - 2 * at(points, i + 2) + at(points, i);
  const last = at(points, i + 6) - 2 * at(points, i + 4) + at(points, i + 2);
  return 6 * ((1 - t) * first + t * last);
}

/** How fast a piece runs at t, px a unit of t. */
function speed(points: ArrayLike<number>, piece: number, t: number): number {
  const dx = slope(points, piece, 0, t);
  const dy = slope(points, piece, 1, t);
  return Math.sqrt(dx * dx + dy * dy);
}

/** The direction of a curve at a place, length 1; where it stands still, toward the piece's end. */
export function directionAt(curve: Curve, { piece, t }: Place): Point {
  const { points } = curve;
  let dx = slope(points, piece, 0, t);
  let dy = slope(points, piece, 1, t);
  if (dx * dx + dy * dy < 1e-12) {
    const near = Math.min(1, Math.max(0, t < 0.5 ? t + 1e-3 : t - 1e-3));
    dx = slope(points, piece, 0, near);
    dy = slope(points, piece, 1, near);
  }
  const d = Math.sqrt(dx * dx + dy * dy);
  return d > 1e-12 ? [dx / d, dy / d] : [1, 0];
}

/** Nodes and weights of Gauss' five-point rule on −1…1. */
const GAUSS = [
  [0, 0.5688888888888889],
  [-0.5384693101056831, 0.4786286704993665],
  [0.5384693101056831, 0.4786286704993665],
  [-0.906179845938664, 0.2369268850561891],
  [0.906179845938664, 0.2369268850561891],
] as const;

function gauss(points: ArrayLike<number>, piece: number, from: number, to: number): number {
  const half = (to - from) / 2;
  const middle = (to + from) / 2;
  let sum = 0;
  for (const [node, weight] of GAUSS) sum += weight * speed(points, piece, middle + half * node);
  return sum * half;
}

/** Length of a piece between two of its places, px: Gauss' rule on two halves. */
export function lengthBetween(points: ArrayLike<number>, piece: number, t0: number, t1: number) {
  const middle = (t0 + t1) / 2;
  return gauss(points, piece, t0, middle) + gauss(points, piece, middle, t1);
}

/** Length to each knot. */
export function lengthsOf(curve: Curve): number[] {
  const lengths = [0];
  for (let i = 0; i < piecesOf(curve); i++)
    lengths.push((lengths[i] as number) + lengthBetween(curve.points, i, 0, 1));
  return lengths;
}

/** How far along a place is, px. */
export const lengthTo = (curve: Curve, lengths: readonly number[], { piece, t }: Place): number =>
  (lengths[piece] as number) + lengthBetween(curve.points, piece, 0, t);

/** The place so far along, px, held to the curve. */
export function placeAt(curve: Curve, lengths: readonly number[], s: number): Place {
  const n = piecesOf(curve);
  const total = lengths[n] as number;
  if (s <= 0) return { piece: 0, t: 0 };
  if (s >= total) return { piece: n - 1, t: 1 };
  let low = 0;
  let high = n - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((lengths[middle + 1] as number) <= s) low = middle + 1;
    else high = middle;
  }
  const start = lengths[low] as number;
  const whole = (lengths[low + 1] as number) - start;
  if (whole < 1e-9) return { piece: low, t: 0 };
  let t = (s - start) / whole;
  for (let i = 0; i < 4; i++) {
    const off = lengthBetween(curve.points, low, 0, t) - (s - start);
    const v = speed(curve.points, low, t);
    if (v < 1e-9 || Math.abs(off) < 1e-6) break;
    t = Math.min(1, Math.max(0, t - off / v));
  }
  return { piece: low, t };
}

/** Material at a place: shared out by length within a piece. */
export function materialAt(curve: Curve, { piece, t }: Place): number {
  const from = curve.material[piece] as number;
  const to = curve.material[piece + 1] as number;
  const whole = lengthBetween(curve.points, piece, 0, 1);
  const share = whole > 1e-9 ? lengthBetween(curve.points, piece, 0, t) / whole : t;
  return from + (to - from) * share;
}

/** Halves closer than this to a knot are that knot. */
const AT_A_KNOT = 1e-6;

/**
 * Puts a knot at a place (de Casteljau); the shape stays.
 * @returns which knot it is
 */
export function split(curve: Curve, { piece, t }: Place): number {
  if (t <= AT_A_KNOT) return piece;
  if (t >= 1 - AT_A_KNOT) return piece + 1;
  const { points } = curve;
  const material = materialAt(curve, { piece, t });
  const made: number[] = new Array<number>(10);
  for (const axis of [0, 1]) {
    const i = 6 * piece + axis;
    const [p0, p1, p2, p3] = [
      at(points, i),
      at(points, i + 2),
      at(points, i + 4),
      at(points, i + 6),
    ];
    const a = p0 + (p1 - p0) * t;
    const b = p1 + (p2 - p1) * t;
    const c = p2 + (p3 - p2) * t;
    const ab = a + (b - a) * t;
    const bc = b + (c - b) * t;
    [a, ab, ab + (bc - ab) * t, bc, c].forEach((v, k) => {
      made[2 * k + axis] = v;
    });
  }
  points.splice(6 * piece + 2, 4, ...made);
  curve.material.splice(piece + 1, 0, material);
  curve.corners.splice(piece + 1, 0, false);
  return piece + 1;
}

/** Puts a knot so far along, px. @returns which knot it is */
export const splitAt = (curve: Curve, s: number): number =>
  split(curve, placeAt(curve, lengthsOf(curve), s));

/** The part between two knots. */
export const between = ({ points, material, corners }: Curve, from: number, to: number): Curve => ({
  points: points.slice(6 * from, 6 * to + 2),
  material: material.slice(from, to + 1),
  corners: corners.slice(from, to + 1),
});

/** The part between two lengths, px. */
export function cutOut(curve: Curve, from: number, to: number): Curve {
  const whole = copyOf(curve);
  const end = splitAt(whole, to);
  const first = between(whole, 0, end);
  return between(first, splitAt(first, from), piecesOf(first));
}

/** One curve after another; the second begins where the first ends. */
export function followedBy(first: Curve, second: Curve): Curve {
  return {
    points: [...first.points, ...second.points.slice(2)],
    material: [...first.material, ...second.material.slice(1)],
    corners: [...first.corners, ...second.corners.slice(1)],
  };
}

/** The same curve from its other end; material runs the other way within the same bounds. */
export function reversed({ points, material, corners }: Curve): Curve {
  const turned: number[] = [];
  for (let i = points.length - 2; i >= 0; i -= 2) turned.push(at(points, i), at(points, i + 1));
  const sum = (material[0] as number) + (material.at(-1) as number);
  return {
    points: turned,
    material: material.map((m) => sum - m).reverse(),
    corners: [...corners].reverse(),
  };
}

export type Nearest = Place & { distance: number };

/** Places of a piece that are looked at before the nearest is refined. */
const PROBES = 8;

/** The nearest place of a piece: the nearest of nine, then Newton's steps. */
export function nearestOnPiece(
  points: ArrayLike<number>,
  piece: number,
  x: number,
  y: number,
): Nearest {
  let t = 0;
  let least = Infinity;
  for (let k = 0; k <= PROBES; k++) {
    const dx = along(points, piece, 0, k / PROBES) - x;
    const dy = along(points, piece, 1, k / PROBES) - y;
    const d = dx * dx + dy * dy;
    if (d >= least) continue;
    least = d;
    t = k / PROBES;
  }
  for (let k = 0; k < 4; k++) {
    const dx = along(points, piece, 0, t) - x;
    const dy = along(points, piece, 1, t) - y;
    const sx = slope(points, piece, 0, t);
    const sy = slope(points, piece, 1, t);
    const towards = dx * sx + dy * sy;
    const steep =
      sx * sx + sy * sy + dx * bend(points, piece, 0, t) + dy * bend(points, piece, 1, t);
    if (steep <= 1e-12) break;
    const next = Math.min(1, Math.max(0, t - towards / steep));
    const nx = along(points, piece, 0, next) - x;
    const ny = along(points, piece, 1, next) - y;
    const d = nx * nx + ny * ny;
    if (d > least) break;
    least = d;
    t = next;
  }
  return { piece, t, distance: Math.sqrt(least) };
}

/** Distance² from a point to the box around a piece's four points, in which it lies whole. */
function boxDistance2(points: ArrayLike<number>, piece: number, x: number, y: number): number {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 6 * piece; i < 6 * piece + 8; i += 2) {
    left = Math.min(left, at(points, i));
    right = Math.max(right, at(points, i));
    top = Math.min(top, at(points, i + 1));
    bottom = Math.max(bottom, at(points, i + 1));
  }
  const dx = Math.max(left - x, 0, x - right);
  const dy = Math.max(top - y, 0, y - bottom);
  return dx * dx + dy * dy;
}

/**
 * The place of a curve nearest to a point.
 * @param within px; farther is not looked for
 * @returns null where nothing lies within
 */
export function nearestOn(curve: Curve, x: number, y: number, within = Infinity): Nearest | null {
  let best: Nearest | null = null;
  let least = within;
  for (let i = 0; i < piecesOf(curve); i++) {
    if (boxDistance2(curve.points, i, x, y) >= least * least) continue;
    const found = nearestOnPiece(curve.points, i, x, y);
    if (found.distance >= least) continue;
    least = found.distance;
    best = found;
  }
  return best;
}

/** How many chords keep within `error` px of a piece (the bound by second differences). */
export function chordsFor(points: ArrayLike<number>, piece: number, error: number): number {
  const i = 6 * piece;
  const off = (axis: number, k: number): number =>
    at(points, i + axis + k) - 2 * at(points, i + axis + k + 2) + at(points, i + axis + k + 4);
  const first = off(0, 0) ** 2 + off(1, 0) ** 2;
  const second = off(0, 2) ** 2 + off(1, 2) ** 2;
  return Math.max(1, Math.ceil(Math.sqrt((0.75 * Math.sqrt(Math.max(first, second))) / error)));
}

/** A straight curve from point to point. */
export const straight = (from: Point, to: Point, material: readonly [number, number]): Curve => ({
  points: [
    from[0],
    from[1],
    from[0] + (to[0] - from[0]) / 3,
    from[1] + (to[1] - from[1]) / 3,
    from[0] + ((to[0] - from[0]) * 2) / 3,
    from[1] + ((to[1] - from[1]) * 2) / 3,
    to[0],
    to[1],
  ],
  material: [...material],
  corners: [true, true],
});

/** Moves every point of a curve. */
export const mapped = (curve: Curve, map: (x: number, y: number) => Point): Curve => {
  const points: number[] = [];
  for (let i = 0; i < curve.points.length; i += 2)
    points.push(...map(at(curve.points, i), at(curve.points, i + 1)));
  return { points, material: [...curve.material], corners: [...curve.corners] };
};
