import { flatten, flattenBits, type Progress } from "../../compose/flatten";
import { type Engine } from "../../engine";
import { type Picture } from "../../picture/picture";
import { ResizedRows, type Sizing } from "./resized-rows";

/** What of its colours a file keeps: all, their lightness as greys, or black and white alone. */
export const tones = ["colour", "grey", "black-and-white"] as const;
export type Tones = (typeof tones)[number];

/** How a picture goes out as rows of samples. */
export type Rendering = {
  tones: Tones;
  /** Bits a sample; of black and white always one. */
  depth: 8 | 16;
  /** Whether it lies on its ground; otherwise it keeps its transparency (not in black and white). */
  ground: boolean;
  /** Whether halftones go out dot by dot, or as the greys that they stand for. */
  dots: boolean;
  /** Another size than the picture's own, px, and how pixels are made for it. Dots are never resized: they go out as greys. */
  size?: { width: number; height: number; sizing: Sizing; ppi?: number | undefined } | undefined;
};

/** The size of what goes out, px, and its px an inch: where none are asked for, it is as large on paper as the picture. */
export function outSize(
  { width, height, ppi }: Pick<Picture, "width" | "height" | "ppi">,
  { size }: Pick<Rendering, "size">,
): { width: number; height: number; ppi: number } {
  if (!size) return { width, height, ppi };
  const same = (ppi * size.width) / width;
  return { width: size.width, height: size.height, ppi: size.ppi ?? same };
}

/** Lightness from which on a pixel is white, of 255. */
const WHITE_FROM = 128;
/** Luma of sRGB (ITU-R BT.709), in 65536ths, so that white is white to the bit. */
const [R, G, B] = [13933, 46871, 4732] as const;

/** Whether it keeps its transparency. */
export const hasAlpha = ({ tones: kept, ground }: Rendering): boolean =>
  !ground && kept !== "black-and-white";

/** Samples a pixel: grey or R G B, and alpha. */
export const channelsOf = (rendering: Rendering): number =>
  (rendering.tones === "colour" ? 3 : 1) + (hasAlpha(rendering) ? 1 : 0);

/** Bits of a sample. */
export const bitsOf = ({ tones: kept, depth }: Rendering): 1 | 8 | 16 =>
  kept === "black-and-white" ? 1 : depth;

/** Rows of eight-bit R G B, or R G B A, as greys. */
function greys(row: Uint8Array, out: Uint8Array, step: number): void {
  const more = step === 4;
  for (let from = 0, to = 0; from < row.length; from += step) {
    const sum = R * row[from]! + G * row[from + 1]! + B * row[from + 2]!;
    out[to++] = (sum + 32768) >> 16;
    if (more) out[to++] = row[from + 3]!;
  }
}

/** The same of sixteen bits, high byte first. */
function deepGreys(row: Uint8Array, out: Uint8Array, step: number): void {
  const at = (i: number): number => (row[i]! << 8) | row[i + 1]!;
  for (let from = 0, to = 0; from < row.length; from += step * 2) {
    const sum = R * at(from) + G * at(from + 2) + B * at(from + 4);
    const grey = Math.floor((sum + 32768) / 65536);
    out[to++] = grey >> 8;
    out[to++] = grey & 255;
    if (step < 4) continue;
    out[to++] = row[from + 6]!;
    out[to++] = row[from + 7]!;
  }
}

/** Samples of sixteen bits at eight, rounded to nearest. */
function inEight(samples: Uint8Array, out: Uint8Array): Uint8Array {
  for (let i = 0; i < out.length; i++)
    out[i] = Math.round(((samples[i * 2]! << 8) | samples[i * 2 + 1]!) / 257);
  return out;
}

/** Eight pixels a byte, the first highest, 1 is white. */
function bits(row: Uint8Array, out: Uint8Array): void {
  const least = WHITE_FROM * 65536 - 32768;
  out.fill(0);
  for (let from = 0, x = 0; from < row.length; from += 3, x++)
    if (R * row[from]! + G * row[from + 1]! + B * row[from + 2]! >= least)
      out[x >> 3]! |= 128 >> (x & 7);
}

/**
 * The picture as seen, row by row, as a file of these tones holds it (16 bits: high byte first).
 * @param row given a view that is good until the next one
 */
export function writeTones(
  engine: Pick<Engine, "store" | "workforce">,
  picture: Picture,
  rendering: Rendering,
  row: (samples: Uint8Array) => void,
  progress?: Progress,
): void {
  const { tones: kept, size } = rendering;
  const isBits = kept === "black-and-white";
  const { store, workforce } = engine;
  if (isBits && !size)
    return flattenBits(picture, store, workforce, row, progress, rendering.dots ? 1 : 0);
  const depth = isBits ? 8 : rendering.depth;
  const alpha = hasAlpha(rendering);
  const step = alpha ? 4 : 3;
  const { width } = outSize(picture, rendering);
  const out = new Uint8Array(Math.ceil((width * channelsOf(rendering) * bitsOf(rendering)) / 8));
  const changed = (samples: Uint8Array): Uint8Array => {
    if (kept === "colour") return samples;
    if (isBits) bits(samples, out);
    else if (depth === 8) greys(samples, out, step);
    else deepGreys(samples, out, step);
    return out;
  };
  const shallow = new Uint8Array(size && depth === 8 ? width * step : 0);
  const last = (samples: Uint8Array): void =>
    row(changed(size && depth === 8 ? inEight(samples, shallow) : samples));
  const resized = size && new ResizedRows(picture, size, alpha, size.sizing, last);
  flatten(
    picture,
    store,
    workforce,
    !alpha,
    {
      depth: resized ? 16 : depth,
      alpha,
      row: (samples) => (resized ? resized.row(samples) : last(samples)),
    },
    progress,
    rendering.dots && !size ? 1 : 0,
  );
}
