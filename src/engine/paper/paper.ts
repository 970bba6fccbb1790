import { z } from "zod";
import { fromBase64 } from "../file/base64";
import { readPng, readPngHeader } from "../file/png";
import { Refusal } from "../picture/refusal";
import { type Bands, bandsFrom, bandsOf, type PaperKind } from "./bands";
import { FieldMaker, FIELD_SIDE } from "./fields";

// Looked up once: some surroundings are slow to find a global.
const { floor, max, min, round } = Math;

export const paperKinds: Record<PaperKind, string> = {
  "cold-pressed": "Cold-pressed",
  "hot-pressed": "Hot-pressed",
  board: "Smooth board",
  laid: "Laid",
  sugar: "Sugar paper",
  canvas: "Canvas",
};

/** Side of the picture that a paper may be made from, px. */
export const PICTURE_SIDE = 512;

/** Most that a paper's own picture may weigh in a log, as base64. */
const MOST_BASE64 = 4_000_000;

/** Largest and smallest grain that is made; beyond it stays as it is. */
const SCALES = { least: 0.25, most: 8 };

export const paperSchema = z
  .strictObject({
    kind: z.enum([...(Object.keys(paperKinds) as PaperKind[]), "picture"]),
    /** Size of the grain; 1 is the natural one at 300 ppi. */
    scale: z.number().min(0.25).max(16).default(1),
    /** For the kind “picture”: 512 × 512 px, the lighter the higher, as PNG in base64. */
    picture: z.base64().max(MOST_BASE64).optional(),
  })
  .refine(({ kind, picture }) => (kind === "picture") === (picture !== undefined), {
    message: "a paper made from a picture has one, and no other has",
    path: ["picture"],
  });

export type Paper = z.infer<typeof paperSchema>;

/** What a paper is called. */
export const paperName = ({ kind }: Paper): string =>
  kind === "picture" ? "From a picture" : paperKinds[kind];

/** Papers from pictures that are kept made. */
const MOST_PICTURES = 6;
const fromPictures = new Map<string, Bands>();

/**
 * The two bands of any paper, at its natural size.
 * @throws Refusal where its picture cannot be read, or is not 512 × 512 px
 */
export function paperBands({ kind, picture = "" }: Pick<Paper, "kind" | "picture">): Bands {
  if (kind !== "picture") return bandsOf(kind);
  const known = fromPictures.get(picture);
  if (known) return known;
  const bytes = fromBase64(picture);
  // Its header first: nothing of another size is unpacked.
  const { width, height } = readPngHeader(bytes);
  if (width !== PICTURE_SIDE || height !== PICTURE_SIDE)
    throw new Refusal(
      `a paper's picture is ${PICTURE_SIDE} × ${PICTURE_SIDE} px, not ${width} × ${height}`,
    );
  const { data } = readPng(bytes);
  const heights = new Uint8Array(PICTURE_SIDE * PICTURE_SIDE);
  for (let i = 0; i < heights.length; i++) heights[i] = data[i * 4] as number;
  const bands = bandsFrom(heights, PICTURE_SIDE);
  const [oldest] = fromPictures.keys();
  if (oldest !== undefined && fromPictures.size >= MOST_PICTURES) fromPictures.delete(oldest);
  fromPictures.set(picture, bands);
  return bands;
}

/** How high a paper at its natural size stands at a place, about 0: both bands, as deep as its tooth is. */
export function surfaceOf(
  paper: Pick<Paper, "kind" | "picture">,
): (x: number, y: number) => number {
  const { coarse, fine, roughness } = paperBands(paper);
  const last = FIELD_SIDE - 1;
  return (x, y) => {
    const at = (y & last) * FIELD_SIDE + (x & last);
    const height = (coarse[at] as number) + 0.3 * (fine[at] as number);
    return roughness * (height / 255 - 0.65);
  };
}

/** The same paper under a sheet `by` times as large. */
export const scaledPaper = (paper: Paper, by: number): Paper => ({
  ...paper,
  scale: min(16, max(0.25, paper.scale * by)),
});

/** Margins of a paper in memory, as `kernels/contact.ts` has them. */
const COLUMNS = 16;
const ROWS = 8;

/**
 * A paper at its scale, as the kernels read it: its coarse band and then its fine one, each
 * `period + 16` rows of `period + 32` heights 0…255, the paper in the middle of its own wrapped ends.
 */
export type PaperMap = {
  period: number;
  bytes: Uint8Array;
  /** 0 glass … 1 cold-pressed. */
  roughness: number;
};

/**
 * Lays out a paper for the kernels.
 * @param from the place of the paper, px, that lies at the sheet's corner: a sheet that was cut keeps its grain
 * @throws Refusal where its picture cannot be read
 */
export function paperMap(paper: Paper, from: readonly [x: number, y: number] = [0, 0]): PaperMap {
  const { coarse, fine, roughness } = paperBands(paper);
  const scale = min(SCALES.most, max(SCALES.least, paper.scale));
  const period = round((FIELD_SIDE * scale) / 64) * 64;
  const stride = period + 2 * COLUMNS;
  const band = stride * (period + 2 * ROWS);
  const bytes = new Uint8Array(2 * band);
  for (const [i, source] of [coarse, fine].entries())
    spread(
      rolled(atScale(source, period), period, from),
      period,
      bytes.subarray(i * band, (i + 1) * band),
    );
  return { period, bytes, roughness };
}

/** The height at a place of a map's coarse band, 0…1. */
export function heightAt({ period, bytes }: PaperMap, x: number, y: number): number {
  const row = ROWS + (y % period);
  return (bytes[row * (period + 2 * COLUMNS) + COLUMNS + (x % period)] as number) / 255;
}

/** A square that repeats, begun at another place of it. */
function rolled(square: Uint8Array, period: number, [x, y]: readonly [number, number]): Uint8Array {
  const wrapped = (v: number): number => ((v % period) + period) % period;
  const [left, top] = [wrapped(x), wrapped(y)];
  if (left === 0 && top === 0) return square;
  const out = new Uint8Array(square.length);
  for (let row = 0; row < period; row++) {
    const at = wrapped(row + top) * period;
    out.set(square.subarray(at + left, at + period), row * period);
    out.set(square.subarray(at, at + left), row * period + period - left);
  }
  return out;
}

/** Copies a square into the middle of its own wrapped ends. */
function spread(square: Uint8Array, period: number, to: Uint8Array): void {
  const stride = period + 2 * COLUMNS;
  for (let row = -ROWS; row < period + ROWS; row++) {
    const from = ((row + period) % period) * period;
    const at = (row + ROWS) * stride;
    to.set(square.subarray(from + period - COLUMNS, from + period), at);
    to.set(square.subarray(from, from + period), at + COLUMNS);
    to.set(square.subarray(from, from + COLUMNS), at + COLUMNS + period);
  }
}

/** A band over another number of pixels: between its heights where it grows, their mean where it shrinks. */
function atScale(source: Uint8Array, period: number): Uint8Array {
  if (period === FIELD_SIDE) return source;
  return period > FIELD_SIDE ? larger(source, period) : evened(smaller(source, period));
}

/** Every height as common as the others. */
function evened(field: Float32Array): Uint8Array {
  const make = new FieldMaker(Math.sqrt(field.length));
  return make.ranked(make.of(field));
}

function larger(source: Uint8Array, period: number): Uint8Array {
  const out = new Uint8Array(period * period);
  const step = FIELD_SIDE / period;
  const last = FIELD_SIDE - 1;
  for (let y = 0, at = 0; y < period; y++) {
    const upper = floor(y * step);
    const down = y * step - upper;
    const top = upper * FIELD_SIDE;
    const bottom = ((upper + 1) & last) * FIELD_SIDE;
    for (let x = 0; x < period; x++, at++) {
      const left = floor(x * step);
      const across = x * step - left;
      const right = (left + 1) & last;
      const a = source[top + left] as number;
      const b = source[bottom + left] as number;
      const above = a + ((source[top + right] as number) - a) * across;
      const below = b + ((source[bottom + right] as number) - b) * across;
      out[at] = above + (below - above) * down + 0.5;
    }
  }
  return out;
}

/** Means of the heights that fall into a pixel, each as far as it does. */
function smaller(source: Uint8Array, period: number): Float32Array {
  const rows = new Float32Array(FIELD_SIDE * period);
  for (let y = 0; y < FIELD_SIDE; y++)
    means(source, y * FIELD_SIDE, 1, rows, y * period, 1, period);
  const out = new Float32Array(period * period);
  for (let x = 0; x < period; x++) means(rows, x, period, out, x, period, period);
  return out;
}

/** One line of a field in fewer cells. */
function means(
  from: Uint8Array | Float32Array,
  start: number,
  step: number,
  to: Float32Array,
  first: number,
  toStep: number,
  count: number,
): void {
  const width = FIELD_SIDE / count;
  for (let i = 0; i < count; i++) {
    const begin = i * width;
    const end = begin + width;
    let total = 0;
    for (let cell = floor(begin); cell < end; cell++) {
      const share = min(end, cell + 1) - max(begin, cell);
      total += share * (from[start + cell * step] as number);
    }
    to[first + i * toStep] = total / width;
  }
}
