import { type Box, tileKey, TILE_SIDE } from "../tiles/layout";
import { chordsFor, lengthBetween, lengthsOf, piecesOf, placeAt, pointOn } from "./curve";
import { type Line, type Taper } from "./line";
import { reader } from "./profile";

/** How far chords may lie off a curve, or widths off a profile, px. */
const FLAT = 0.05;
/** A line is no finer than this, px: half of its width, thinned by its tapers. */
const LEAST_RADIUS = 0.15;
/** Places of a piece at which its width is looked at to say how many chords it needs. */
const LOOKS = 8;

/** Numbers of a chord's end: x, y, half the width, material. */
export const CHORD_NUMBERS = 4;

/** A line as it is drawn: chords, its box, and how to ask for its width. */
export type Shape = {
  /** {@link CHORD_NUMBERS} for each end of a chord. */
  ends: Float64Array;
  /** Which piece the chord that begins at an end lies on. */
  pieces: Uint32Array;
  lengths: readonly number[];
  total: number;
  box: Box;
};

const shapes = new WeakMap<Line, Shape>();

const ease = (s: number, length: number): number => {
  if (length <= 0 || s >= length) return 1;
  const t = Math.max(0, s / length);
  return t * (2 - t);
};

/** Share of the full width at length s: thin at both ends, over less where the line is short. */
export function taperAt({ in: first, out }: Taper, s: number, total: number): number {
  const both = first + out;
  if (both === 0 || total === 0) return 1;
  const shrink = Math.min(1, total / both);
  return Math.min(ease(s, first * shrink), ease(total - s, out * shrink));
}

/** Reads half the width of a line at a length and its material, px. */
export function radiusReader(line: Line, total: number): (s: number, m: number) => number {
  const width = reader(line.width);
  const taper = line.closed ? { in: 0, out: 0 } : line.taper;
  return (s, m) => {
    const share = taperAt(taper, s, total);
    return Math.max(LEAST_RADIUS * share, width(m) * share);
  };
}

/** How a line is drawn; worked out once. */
export function shapeOf(line: Line): Shape {
  const known = shapes.get(line);
  if (known) return known;
  const made = shaped(line);
  shapes.set(line, made);
  return made;
}

function shaped(line: Line): Shape {
  const { curve } = line;
  const n = piecesOf(curve);
  const lengths = lengthsOf(curve);
  const total = lengths[n] as number;
  const radius = radiusReader(line, total);
  const ends: number[] = [];
  const pieces: number[] = [];
  const box: Box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  const put = (piece: number, t: number, s: number): void => {
    const [x, y] = pointOn(curve, { piece, t });
    const from = curve.material[piece] as number;
    const whole = (lengths[piece + 1] as number) - (lengths[piece] as number);
    const share = whole > 1e-9 ? (s - (lengths[piece] as number)) / whole : t;
    const m = from + ((curve.material[piece + 1] as number) - from) * share;
    const r = radius(s, m);
    ends.push(x, y, r, m);
    pieces.push(piece);
    box.left = Math.min(box.left, x - r);
    box.right = Math.max(box.right, x + r);
    box.top = Math.min(box.top, y - r);
    box.bottom = Math.max(box.bottom, y + r);
  };
  put(0, 0, 0);
  const stops = [...taperStops(line, total), ...widthStops(line, lengths)];
  for (let piece = 0; piece < n; piece++) {
    const start = lengths[piece] as number;
    const length = (lengths[piece + 1] as number) - start;
    const looked: number[] = [];
    for (let k = 0; k <= LOOKS; k++) {
      const m = curve.material[piece] as number;
      const to = curve.material[piece + 1] as number;
      looked.push(radius(start + (length * k) / LOOKS, m + ((to - m) * k) / LOOKS));
    }
    const chords = Math.min(
      4096,
      Math.max(chordsFor(curve.points, piece, FLAT), chordsForWidth(looked)),
    );
    const params = Array.from({ length: chords }, (_, k) => (k + 1) / chords);
    for (const stop of stops)
      if (stop > start + 1e-3 && stop < start + length - 1e-3)
        params.push(placeAt(curve, lengths, stop).t);
    params.sort((one, two) => one - two);
    let [s, before] = [start, 0];
    for (const t of params) {
      if (t - before < 1e-6) continue;
      s += lengthBetween(curve.points, piece, before, t);
      before = t;
      put(piece, t, t === 1 ? start + length : s);
    }
  }
  return { ends: Float64Array.from(ends), pieces: Uint32Array.from(pieces), lengths, total, box };
}

/** Shares of a taper's length at which a chord ends: it is followed however short it is. */
const TAPER_STOPS = [0.12, 0.28, 0.46, 0.7, 1];

function taperStops({ taper, closed }: Line, total: number): number[] {
  const both = taper.in + taper.out;
  if (closed || both === 0) return [];
  const shrink = Math.min(1, total / both);
  return TAPER_STOPS.flatMap((share) => [
    share * shrink * taper.in,
    total - share * shrink * taper.out,
  ]);
}

/** Lengths at which the width has its knots. */
function widthStops({ curve: { material }, width }: Line, lengths: readonly number[]): number[] {
  const stops: number[] = [];
  let piece = 0;
  for (let i = 0; i < width.length; i += 2) {
    const m = width[i] as number;
    while (piece + 2 < material.length && (material[piece + 1] as number) <= m) piece++;
    const [from, to] = [material[piece] as number, material[piece + 1] as number];
    if (m <= from || m >= to) continue;
    const [start, end] = [lengths[piece] as number, lengths[piece + 1] as number];
    stops.push(start + ((end - start) * (m - from)) / (to - from));
  }
  return stops;
}

function chordsForWidth(looked: readonly number[]): number {
  let most = 0;
  for (let k = 1; k < LOOKS; k++) {
    const off = (looked[k - 1] as number) - 2 * (looked[k] as number) + (looked[k + 1] as number);
    most = Math.max(most, Math.abs(off));
  }
  return Math.ceil(LOOKS * Math.sqrt(most / (8 * FLAT)));
}

/** A half-pixel that edges are soft over, and one more for the kernel's rounding. */
const SOFT = 1.5;

/** Adds the keys of the tiles that the chords between two ends reach. */
export function addTiles(
  { ends }: Shape,
  from: number,
  to: number,
  sheet: { width: number; height: number },
  keys: Set<number>,
): void {
  const columns = Math.ceil(sheet.width / TILE_SIDE);
  const rows = Math.ceil(sheet.height / TILE_SIDE);
  const tile = (v: number, most: number): number =>
    Math.min(most, Math.max(-1, Math.floor(v / TILE_SIDE)));
  for (let i = from; i < to; i++) {
    const a = i * CHORD_NUMBERS;
    const b = Math.min(i + 1, ends.length / CHORD_NUMBERS - 1) * CHORD_NUMBERS;
    const [x0, y0, r0] = [ends[a] as number, ends[a + 1] as number, ends[a + 2] as number];
    const [x1, y1, r1] = [ends[b] as number, ends[b + 1] as number, ends[b + 2] as number];
    const r = Math.max(r0, r1) + SOFT;
    const right = tile(Math.max(x0, x1) + r, columns - 1);
    const bottom = tile(Math.max(y0, y1) + r, rows - 1);
    for (let row = Math.max(0, tile(Math.min(y0, y1) - r, rows)); row <= bottom; row++)
      for (let column = Math.max(0, tile(Math.min(x0, x1) - r, columns)); column <= right; column++)
        keys.add(tileKey(column, row));
  }
}

/** How many ends two shapes share at their starts, and at their ends, to the bit. */
export function shared(a: Shape, b: Shape): { first: number; last: number } {
  const [n, m] = [a.ends.length / CHORD_NUMBERS, b.ends.length / CHORD_NUMBERS];
  const same = (i: number, j: number): boolean => {
    for (let k = 0; k < CHORD_NUMBERS; k++)
      if (a.ends[i * CHORD_NUMBERS + k] !== b.ends[j * CHORD_NUMBERS + k]) return false;
    return true;
  };
  const most = Math.min(n, m);
  let first = 0;
  while (first < most && same(first, first)) first++;
  let last = 0;
  while (last < most - first && same(n - 1 - last, m - 1 - last)) last++;
  return { first, last };
}
