import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { Refusal } from "../picture/refusal";
import { type TipPicture } from "./tip";
import { type TipPixels } from "./tip-shelf";

/** How a tip is made of pixels: by where there is paint, by a light copy laid over a dark one, as it is. */
export const tipMakings = ["coverage", "two tones", "colours"] as const;
export type TipMaking = (typeof tipMakings)[number];

/** Longest side of a tip made here, px: larger than it is ever seen, small enough to share. */
const SIDE = 384;
/** How far up and to the left the light part lies, as a share of the longer side. */
const OFFSET = 0.09;
/** Least alpha that counts as paint where the edges are looked for. */
const PAINT = 4;

/** The part of a picture that has paint. @throws Refusal where it has none */
function trimmed({ width, height, data }: TipPixels): TipPixels {
  let left = width;
  let top = height;
  let right = -1;
  let bottom = -1;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if ((data[(y * width + x) * 4 + 3] as number) < PAINT) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  if (right < 0) throw new Refusal("there is no paint there to make a tip of");
  const w = right - left + 1;
  const h = bottom - top + 1;
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++) {
    const from = ((top + y) * width + left) * 4;
    out.set(data.subarray(from, from + w * 4), y * w * 4);
  }
  return { width: w, height: h, data: out };
}

/** At most `side` px a side: means of areas, weighted by alpha. */
function fitted(pixels: TipPixels, side: number): TipPixels {
  const scale = Math.max(1, Math.max(pixels.width, pixels.height) / side);
  if (scale === 1) return pixels;
  const width = Math.max(1, Math.round(pixels.width / scale));
  const height = Math.max(1, Math.round(pixels.height / scale));
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      meanOf(pixels, x * scale, y * scale, scale, data, (y * width + x) * 4);
  return { width, height, data };
}

function meanOf(
  { width, height, data }: TipPixels,
  x0: number,
  y0: number,
  scale: number,
  out: Uint8Array,
  to: number,
): void {
  const sums = [0, 0, 0, 0];
  let count = 0;
  for (let y = Math.floor(y0); y < Math.min(height, y0 + scale); y++)
    for (let x = Math.floor(x0); x < Math.min(width, x0 + scale); x++) {
      const at = (y * width + x) * 4;
      const a = data[at + 3] as number;
      for (let c = 0; c < 3; c++) sums[c] = (sums[c] as number) + (data[at + c] as number) * a;
      sums[3] = (sums[3] as number) + a;
      count++;
    }
  const alpha = sums[3] as number;
  for (let c = 0; c < 3; c++) out[to + c] = alpha > 0 ? Math.round((sums[c] as number) / alpha) : 0;
  out[to + 3] = Math.round(alpha / Math.max(1, count));
}

/** Whether every pixel is opaque: then darkness says where paint is. */
const isSolid = ({ data }: TipPixels): boolean => {
  for (let i = 3; i < data.length; i += 4) if ((data[i] as number) < 250) return false;
  return true;
};

/** How light a pixel is, 0…255. */
const lightOf = (data: Uint8Array, at: number): number =>
  0.2126 * (data[at] as number) +
  0.7152 * (data[at + 1] as number) +
  0.0722 * (data[at + 2] as number);

/** Black where there is paint (or, on an opaque picture, where it is dark). */
function shape(pixels: TipPixels): TipPixels {
  const { width, height, data } = pixels;
  const solid = isSolid(pixels);
  const out = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i += 4) {
    out[i + 3] = solid ? Math.round(255 - lightOf(data, i)) : (data[i + 3] as number);
  }
  return { width, height, data: out };
}

/** The shape dark, and a light one of itself over it, a little up and to the left. */
function twoTones({ width, height, data }: TipPixels): TipPixels {
  const off = Math.max(1, Math.round(Math.max(width, height) * OFFSET));
  const w = width + off;
  const h = height + off;
  const out = new Uint8Array(w * h * 4);
  const cover = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height
      ? 0
      : (data[(y * width + x) * 4 + 3] as number) / 255;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const dark = cover(x - off, y - off);
      const light = cover(x, y);
      const alpha = light + dark * (1 - light);
      const tone = alpha > 0 ? Math.round((light / alpha) * 255) : 0;
      out.set([tone, tone, tone, Math.round(alpha * 255)], (y * w + x) * 4);
    }
  return { width: w, height: h, data: out };
}

/** Lightness that paint must span for its own tones to be taken, 0…255. */
const TONES_SPAN = 48;

/** Paint whose darks are to take the first colour and its lights the second; null: it is all of one tone. */
function ownTones(pixels: TipPixels): TipPixels | null {
  const { width, height, data } = pixels;
  if (isSolid(pixels)) return null;
  let least = 255;
  let most = 0;
  for (let i = 0; i < data.length; i += 4) {
    if ((data[i + 3] as number) < 128) continue;
    least = Math.min(least, lightOf(data, i));
    most = Math.max(most, lightOf(data, i));
  }
  if (most - least < TONES_SPAN) return null;
  const out = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i += 4) {
    const tone = ((lightOf(data, i) - least) * 255) / (most - least);
    const held = Math.min(255, Math.max(0, Math.round(tone)));
    out.set([held, held, held, data[i + 3] as number], i);
  }
  return { width, height, data: out };
}

/**
 * A tip's picture from pixels (straight RGBA): trimmed to what is painted and brought to a
 * handy size.
 * @throws Refusal where there is no paint
 */
export function tipFrom(pixels: TipPixels, making: TipMaking): TipPicture {
  const toned = making === "two tones" ? ownTones(pixels) : null;
  if (toned) return packed(fitted(trimmed(toned), SIDE), making);
  const source = making === "colours" ? pixels : shape(pixels);
  const small = fitted(trimmed(source), SIDE);
  const made = making === "two tones" ? twoTones(small) : small;
  return packed(made, making);
}

const packed = (pixels: TipPixels, tones: TipMaking): TipPicture => ({
  tones,
  png: toBase64(writePng(pixels, 72)),
});
