import { FieldMaker, type Field } from "../paper/fields";
import { type PaperMap } from "../paper/paper";

// Looked up once: some surroundings are slow to find a global.
const { max, min, round, sqrt } = Math;

/** Margins in px and cells: see `kernels/water/film.ts`. */
const PIXELS = 8;
const CELLS = 4;
/** Granulation runs over this. */
const GATHERS = { from: -0.95, span: 3.95 };
/** A paper that repeats after more px than this is met by water as one of this period. */
export const MOST_SIDE = 2048;

/** A paper as water meets it. `side`: px after which it repeats. */
export type WashPaper = { side: number; bytes: Uint8Array };

/** Three boxes of so many cells each way are as broad as this deviation. */
const broad = (radius: number): number => sqrt(((2 * radius + 1) ** 2 - 1) / 4);

/** 0…1, each as common as the others. */
function evened(make: FieldMaker, field: Field): Float32Array {
  const ranks = make.ranked(field);
  const out = new Float32Array(ranks.length);
  for (let i = 0; i < out.length; i++) out[i] = (ranks[i] as number) / 255;
  return out;
}

/** The mean of each cell's four pixels, by a factor. */
function halved(px: Float32Array, side: number, by: number): Float32Array {
  const half = side >> 1;
  const cells = new Float32Array(half * half);
  for (let y = 0, i = 0; y < half; y++)
    for (let x = 0; x < half; x++, i++) {
      const at = 2 * y * side + 2 * x;
      const upper = (px[at] as number) + (px[at + 1] as number);
      const lower = (px[at + side] as number) + (px[at + side + 1] as number);
      cells[i] = ((upper + lower) / 4) * by;
    }
  return cells;
}

/** Over each cell's own four pixels and half of the next ones each way, the mean of what was rounded to bytes. */
function tented(bytes: Uint8Array, side: number): Float32Array {
  const half = side >> 1;
  const rows = new Float32Array(side * half);
  const at = (v: number): number => (v + side) % side;
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < half; x++, i++) {
      const line = y * side;
      const inner = (bytes[line + 2 * x] as number) + (bytes[line + 2 * x + 1] as number);
      const outer =
        (bytes[line + at(2 * x - 1)] as number) + (bytes[line + at(2 * x + 2)] as number);
      rows[i] = 0.375 * inner + 0.125 * outer;
    }
  const cells = new Float32Array(half * half);
  for (let y = 0, i = 0; y < half; y++)
    for (let x = 0; x < half; x++, i++) {
      const row = (v: number): number => rows[at(v) * half + x] as number;
      const inner = row(2 * y) + row(2 * y + 1);
      const mean = 0.375 * inner + 0.125 * (row(2 * y - 1) + row(2 * y + 2));
      cells[i] = GATHERS.from + (mean / 255) * GATHERS.span;
    }
  return cells;
}

/** Copies a square into the middle of its own wrapped ends. */
function wrap<T extends Uint8Array | Float32Array>(from: T, side: number, margin: number, to: T) {
  const row = side + 2 * margin;
  for (let y = 0; y < row; y++) {
    const line = ((y + side - margin) % side) * side;
    const at = y * row;
    to.set(from.subarray(line + side - margin, line + side), at);
    to.set(from.subarray(line, line + side), at + margin);
    to.set(from.subarray(line, line + margin), at + margin + side);
  }
}

/** As bytes, 0…255 over a span. */
function asBytes(from: Float32Array, low: number, span: number): Uint8Array {
  const out = new Uint8Array(from.length);
  for (let i = 0; i < out.length; i++) out[i] = round((((from[i] as number) - low) / span) * 255);
  return out;
}

/** Heights of a paper's two bands together, each as common as the others: what edges break on. */
function tooth(make: FieldMaker, { period, bytes }: PaperMap, side: number): Float32Array {
  const stride = period + 32;
  const band = stride * (period + 16);
  const sum = new Float32Array(side * side);
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i++) {
      const at = (y + 8) * stride + x + 16;
      sum[i] = 0.45 * (bytes[at] as number) + 0.55 * (bytes[at + band] as number);
    }
  return evened(make, make.of(sum));
}

/**
 * What pixels gather of grains: hollows much, hills little, and chance. Grains clump over broader hollows than the
 * tooth has, so that they read as grain and not as weave.
 */
function gathering(make: FieldMaker, heights: Float32Array, scale: number): Float32Array {
  const clumps = make.sum(
    [0.55, make.unit(make.of(heights))],
    [0.5, noise(make, 1, 212, scale)],
    [0.5, noise(make, 2, 213, scale)],
    [0.5, noise(make, 4, 214, scale)],
    [0.3, noise(make, 11, 215, scale)],
  );
  const level = evened(make, clumps);
  const out = make.values(make.unit(make.blurred(make.white(211), 0.8)));
  let mean = 0;
  for (let i = 0; i < out.length; i++) {
    const u = 1 - (level[i] as number);
    out[i] = 0.6 * (4 * u * u * u - 1) + 0.28 * min(2.5, max(-2, out[i] as number));
    mean += (out[i] as number) / out.length;
  }
  for (let i = 0; i < out.length; i++) out[i] = min(3, max(-0.95, (out[i] as number) - mean));
  return out;
}

/** Noise without what is finer than three boxes of a radius, at unit variance. */
const noise = (make: FieldMaker, radius: number, seed: number, scale: number): Field =>
  make.low(broad(radius) * scale, seed);

/** Noises together: each so strong, without what is finer than three boxes of its radius, by its seed. */
function noises(
  make: FieldMaker,
  scale: number,
  ...parts: [by: number, radius: number, seed: number][]
): Float32Array {
  const made = parts.map(([by, radius, seed]) => [by, noise(make, radius, seed, scale)] as const);
  return make.values(make.sum(...made));
}

/** What of the water a cell lets through: coarse paper is open in places. */
function letting(field: Float32Array): Float32Array {
  for (let i = 0; i < field.length; i++) {
    const two = max(0, 1 + (field[i] as number) / 4) ** 2;
    field[i] = min(1, max(0.06, 0.5 * two * two * two * two));
  }
  return field;
}

/** How a dry cell holds a front: hills more than hollows. */
function clinging(field: Float32Array, level: Float32Array): Float32Array {
  for (let i = 0; i < field.length; i++) {
    const hill = 0.54 * (2 * (level[i] as number) - 1);
    field[i] = max(0.35, 1 + 0.55 * (hill + (field[i] as number)));
  }
  return field;
}

/** Works out how water meets a paper (a second's work). `paper`: as `paperMap` lays it out. */
export function washPaper(paper: PaperMap): WashPaper {
  const side = min(MOST_SIDE, paper.period);
  const scale = side / 1024;
  const half = side >> 1;
  const pixels = new FieldMaker(side);
  const cells = new FieldMaker(half);
  const heights = tooth(pixels, paper, side);
  const gathers = gathering(pixels, heights, scale);
  const level = evened(cells, cells.of(halved(heights, side, 1)));
  const gathered = asBytes(gathers, GATHERS.from, GATHERS.span);
  const planes = [
    level,
    halved(gathers, side, 1.25),
    letting(noises(cells, scale, [0.55, 1, 221], [0.65, 2, 222], [0.5, 9, 223])),
    clinging(noises(cells, scale, [0.27, 2, 224], [0.21, 9, 225]), level),
    noises(cells, scale, [1.8, 4, 226], [5.5, 10, 227]),
    tented(gathered, side),
  ];
  const pixelPlane = (side + 2 * PIXELS) ** 2;
  const cellPlane = (half + 2 * CELLS) ** 2;
  const bytes = new Uint8Array(2 * pixelPlane + 4 * planes.length * cellPlane);
  wrap(asBytes(heights, 0, 1), side, PIXELS, bytes.subarray(0, pixelPlane));
  wrap(gathered, side, PIXELS, bytes.subarray(pixelPlane, 2 * pixelPlane));
  for (const [i, plane] of planes.entries()) {
    const at = 2 * pixelPlane + 4 * cellPlane * i;
    wrap(plane, half, CELLS, new Float32Array(bytes.buffer, at, cellPlane));
  }
  return { side, bytes };
}
