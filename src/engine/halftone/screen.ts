import { blueNoise } from "../tiles/noise";
import { type ScreenKind } from "./halftone";

/** Places a side of a screen's table (as in `kernels/halftone.ts`), and numbers for each. */
export const ENTRIES = 128;
const NUMBERS = 4;
/** Values that thresholds are told apart by, while each is given its share. */
const BINS = 65_536;
/** Points a side of the grain, each two places wide. */
const GRAIN_POINTS = 64;

/** What is inked first (low) and last (high), for a place −½…½ of one period. */
type Spot = (u: number, v: number) => number;

const wrap = (v: number): number => v - Math.floor(v + 0.5);

/** A wave of period 1 and height 1, of two parabolas: a sine to the eye. */
const wave = (u: number): number => {
  const t = wrap(u);
  return 16 * t * (0.5 - Math.abs(t));
};

const length = (u: number, v: number): number => Math.sqrt(u * u + v * v);

/** Distance to the mortar of a wall: courses half a period high, shifted by half. */
function mortar(u: number, v: number): number {
  const course = v < 0 ? 0 : 0.5;
  const joint = Math.abs(wrap(u + course * 1)) * 1;
  const bed = 0.5 * Math.abs(wrap(2 * v));
  return Math.min(joint, bed);
}

/** Distance to the rims of scales: half circles that overlap like tiles of a roof. */
function rim(u: number, v: number): number {
  let nearest = 1;
  for (let row = -2; row <= 2; row++) {
    const y = v - row * 0.5;
    const x = wrap(u + (row & 1) * 0.5);
    const below = length(x, y);
    // A scale covers what lies above it, inside its own circle.
    if (y >= 0 && below < 0.5) return Math.min(nearest, 0.5 - below);
    if (y >= 0) nearest = Math.min(nearest, below - 0.5);
  }
  return nearest;
}

/** Bands that go over and under each other. */
function woven(u: number, v: number): number {
  const over = u * v > 0;
  const [along, across] = over ? [u, v] : [v, u];
  const middle = Math.abs(Math.abs(across) - 0.25);
  const end = 0.25 - Math.abs(Math.abs(along) - 0.25);
  return middle + 0.35 * (0.25 - end);
}

/** Short strokes, each row beside the gaps of the next. */
function dashes(u: number, v: number): number {
  const x = wrap(u + (v < 0 ? 0 : 0.5));
  const y = 0.5 * wrap(2 * v);
  return length(Math.max(0, Math.abs(x) - 0.26), y * 1.6);
}

const spots: Record<Exclude<ScreenKind, "grain">, Spot> = {
  round: (u, v) => u * u + v * v,
  ellipse: (u, v) => u * u * 0.55 + v * v * 1.3,
  diamond: (u, v) => Math.abs(u) + Math.abs(v),
  square: (u, v) => Math.max(Math.abs(u), Math.abs(v)),
  line: (_u, v) => Math.abs(v),
  cross: (u, v) => Math.min(Math.abs(u), Math.abs(v)),
  wave: (u, v) => Math.abs(wrap(v + 0.22 * wave(u))),
  brick: mortar,
  scale: rim,
  star: (u, v) => Math.sqrt(Math.abs(u)) + Math.sqrt(Math.abs(v)),
  weave: woven,
  dash: dashes,
};

/** Patterns whose period holds two rows. */
const TWO_ROWS = new Set<ScreenKind>(["brick", "scale", "weave", "dash"]);

/** Dots, lines or rows of a screen along one side of its table. */
export const periodsOf = (kind: ScreenKind): number =>
  kind === "grain" ? GRAIN_POINTS / 2 : TWO_ROWS.has(kind) ? 2 : 1;

/** Blue noise between its points, by parabolas (B-splines), so that grain has round edges. */
function grain(): Float64Array {
  const noise = blueNoise();
  const at = (x: number, y: number): number =>
    noise[(y & (GRAIN_POINTS - 1)) * GRAIN_POINTS + (x & (GRAIN_POINTS - 1))] as number;
  const out = new Float64Array(ENTRIES * ENTRIES);
  for (let j = 0; j < ENTRIES; j++)
    for (let i = 0; i < ENTRIES; i++) {
      const x = i >> 1;
      const y = j >> 1;
      let sum = 0;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++)
          sum += at(x + dx, y + dy) * share(dx, i & 1) * share(dy, j & 1);
      out[j * ENTRIES + i] = sum;
    }
  return out;
}

/** Weight of a point and its neighbours, at the point or half way to the next one. */
const share = (offset: number, half: number): number =>
  half === 0 ? [0.125, 0.75, 0.125][offset + 1]! : [0, 0.5, 0.5][offset + 1]!;

function valuesOf(kind: ScreenKind): Float64Array {
  if (kind === "grain") return grain();
  const spot = spots[kind];
  const out = new Float64Array(ENTRIES * ENTRIES);
  for (let j = 0; j < ENTRIES; j++)
    for (let i = 0; i < ENTRIES; i++)
      // A place stands for the middle of what it covers.
      out[j * ENTRIES + i] = spot(wrap((i + 0.5) / ENTRIES), wrap((j + 0.5) / ENTRIES));
  return out;
}

/** Values as shares of what is lower: each threshold 0…1 comes equally often. */
function equalised(values: Float64Array): Float64Array {
  let least = Infinity;
  let most = -Infinity;
  for (const v of values) {
    least = Math.min(least, v);
    most = Math.max(most, v);
  }
  const bin = (v: number): number =>
    Math.min(BINS - 1, Math.floor(((v - least) / (most - least)) * BINS));
  const below = new Float64Array(BINS + 1);
  for (const v of values) below[bin(v) + 1]!++;
  for (let i = 1; i <= BINS; i++) below[i]! += below[i - 1]!;
  // Half of those that are alike count as lower.
  return values.map((v) => (below[bin(v)]! + below[bin(v) + 1]!) / 2 / values.length);
}

/** A difference between neighbouring places as a slope; what is no difference comes first and stays. */
const perPeriod = (v: number, i: number): number => (i === 0 ? v : v * ENTRIES);

const made = new Map<ScreenKind, Float32Array>();

/**
 * A screen's thresholds over one period: for each of 128 × 128 places the threshold 0…1, how it rises across and
 * down (a period), and how steeply. A density of d inks the share d of the places.
 */
export function screenTable(kind: ScreenKind): Float32Array {
  const known = made.get(kind);
  if (known) return known;
  const thresholds = equalised(valuesOf(kind));
  const at = (x: number, y: number): number =>
    thresholds[(y & (ENTRIES - 1)) * ENTRIES + (x & (ENTRIES - 1))]!;
  const table = new Float32Array(ENTRIES * ENTRIES * NUMBERS);
  for (let y = 0, to = 0; y < ENTRIES; y++)
    for (let x = 0; x < ENTRIES; x++, to += NUMBERS) {
      const here = at(x, y);
      const [left, right] = [here - at(x - 1, y), at(x + 1, y) - here];
      const [above, below] = [here - at(x, y - 1), at(x, y + 1) - here];
      // On a crest the two sides cancel out in the mean; how steep it is says the steeper one.
      const steep = length(
        Math.max(Math.abs(left), Math.abs(right)),
        Math.max(Math.abs(above), Math.abs(below)),
      );
      table.set([here, (left + right) / 2, (above + below) / 2, steep].map(perPeriod), to);
    }
  made.set(kind, table);
  return table;
}

/** Places a side of a table of shares, densities of each, and the bytes that each has (as in `kernels/halftone.ts`). */
const SHARE_ENTRIES = 64;
const SHARES = 63;
const SHARE_BYTES = 64;
/** Looks into a pixel, a side. */
const LOOKS = 8;

/** Looked up once: this goes through a quarter of a million looks. */
const { ceil, floor, max, min, round } = Math;

const placeAt = (table: Float32Array, u: number, v: number): number =>
  table[((floor(v) & (ENTRIES - 1)) * ENTRIES + (floor(u) & (ENTRIES - 1))) * NUMBERS]!;

/** The threshold between the places of a table, by the slopes of the nearest one. */
function between(table: Float32Array, u: number, v: number): number {
  const column = round(u);
  const row = round(v);
  const at = ((row & (ENTRIES - 1)) * ENTRIES + (column & (ENTRIES - 1))) * NUMBERS;
  const rise = ((u - column) * table[at + 1]! + (v - row) * table[at + 2]!) / ENTRIES;
  return min(1, max(0, table[at]! + rise));
}

/** Where the looks into a pixel lie about its middle, in places of the table: across, down, across … */
function looksInto(pixel: number, cos: number, sin: number): Float64Array {
  const step = (pixel * ENTRIES) / LOOKS;
  const looks = new Float64Array(2 * LOOKS * LOOKS);
  for (let j = 0, to = 0; j < LOOKS; j++)
    for (let i = 0; i < LOOKS; i++) {
      // No two looks share a row or a column, so that upright edges are met as finely as slanting ones.
      const across = (i + (j + 0.5) / LOOKS - LOOKS / 2) * step;
      const down = (j + (i + 0.5) / LOOKS - LOOKS / 2) * step;
      looks[to++] = across * cos + down * sin;
      looks[to++] = down * cos - across * sin;
    }
  return looks;
}

/**
 * Of dots of few pixels: what a pixel is inked, 0…255, at 64 × 64 places of a period for densities 0…1 in 63 steps.
 * @param pixel a pixel, in periods of the table
 * @param cos and `sin`: how the screen is turned; a pixel is a square turned the other way on it
 */
export function shareTable(kind: ScreenKind, pixel: number, cos: number, sin: number): Uint8Array {
  const table = screenTable(kind);
  const out = new Uint8Array(SHARE_ENTRIES * SHARE_ENTRIES * SHARE_BYTES);
  const counts = new Int32Array(SHARES + 1);
  const looks = looksInto(pixel, cos, sin);
  // Grain is as fine as its table: its slopes lead nowhere.
  const thresholdAt = kind === "grain" ? placeAt : between;
  for (let place = 0; place < SHARE_ENTRIES * SHARE_ENTRIES; place++) {
    counts.fill(0);
    const x = ((place % SHARE_ENTRIES) * ENTRIES) / SHARE_ENTRIES;
    const y = (floor(place / SHARE_ENTRIES) * ENTRIES) / SHARE_ENTRIES;
    for (let i = 0; i < looks.length; i += 2)
      counts[ceil(thresholdAt(table, x + looks[i]!, y + looks[i + 1]!) * SHARES)]!++;
    const to = place * SHARE_BYTES;
    let inked = 0;
    for (let i = 1; i <= SHARES; i++) {
      inked += counts[i]!;
      out[to + i] = round((inked * 255) / (LOOKS * LOOKS));
    }
  }
  return out;
}

/** Densities for which the cut is told (as in `kernels/halftone.ts`), 0…1 with both ends. */
const TONES = 256;
/** Cuts that are tried to find them. */
const TRIED = 128;

/**
 * Where ink is cut for a mean of each density 0…1 in 256 steps, edges being as wide as a pixel: with soft edges a
 * cut at the density itself would ink too much in the lights and too little in the darks.
 * @param pixel a pixel, in periods of the table
 * @param least least width of an edge, in thresholds
 */
export function toneTable(kind: ScreenKind, pixel: number, least: number): Float32Array {
  const table = screenTable(kind);
  const numbers = ENTRIES * ENTRIES * NUMBERS;
  // A screen of one dot is smooth enough for every third place; grain is not.
  const stride = (kind === "grain" ? 1 : 3) * NUMBERS;
  const places = Math.ceil(numbers / stride);
  let widest = least;
  for (let i = 0; i < numbers; i += stride) widest = Math.max(widest, table[i + 3]! * pixel);
  const from = -widest / 2;
  const step = (1 + widest) / TRIED;
  const inked = new Float64Array(TRIED + 1);
  for (let i = 0; i < numbers; i += stride) {
    const threshold = table[i]!;
    const per = 1 / Math.max(table[i + 3]! * pixel, least);
    for (let t = 0; t <= TRIED; t++) {
      const on = 0.5 + (from + t * step - threshold) * per;
      inked[t]! += on <= 0 ? 0 : on >= 1 ? 1 : on;
    }
  }
  const out = new Float32Array(TONES + 1);
  for (let i = 0, t = 0; i <= TONES; i++) {
    const wanted = (i / TONES) * places;
    while (t < TRIED - 1 && inked[t + 1]! < wanted) t++;
    const rise = inked[t + 1]! - inked[t]!;
    out[i] = from + (t + (rise > 0 ? (wanted - inked[t]!) / rise : 0)) * step;
  }
  return out;
}
