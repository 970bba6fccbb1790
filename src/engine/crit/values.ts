import { linearToSrgb, srgbToLinear } from "../colour/oklch";

/**
 * How light a picture is, seen without its colours. A pixel's value is its CIE lightness L*
 * (CIE 15), taken from its relative luminance (sRGB, Rec. 709 primaries).
 */
export const MOST_STEPS = 7;

/** Luminance is looked up in tables of this many entries. */
const LEVELS = 4096;

/** L* 0…100 of a luminance 0…1. */
export const lightness = (y: number): number =>
  y <= 216 / 24389 ? (y * 24389) / 27 : 116 * Math.cbrt(y) - 16;

/** Luminance 0…1 of an L* 0…100. */
export const luminance = (l: number): number => (l <= 8 ? (l * 27) / 24389 : ((l + 16) / 116) ** 3);

const table = (weight: number): Float64Array =>
  Float64Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255) * weight * (LEVELS - 1));
const RED = table(0.2126);
const GREEN = table(0.7152);
const BLUE = table(0.0722);

/** The grey of a luminance, in so many steps of equal lightness; 0: in as many as there are. */
function greys(steps: number): Uint8Array {
  return Uint8Array.from({ length: LEVELS }, (_, i) => {
    const y = i / (LEVELS - 1);
    if (steps === 0) return Math.round(linearToSrgb(y) * 255);
    const step = Math.min(steps - 1, Math.floor((lightness(y) / 100) * steps));
    return Math.round(linearToSrgb(luminance((step / (steps - 1)) * 100)) * 255);
  });
}

const made = new Map<number, Uint8Array>();

/** Turns RGBA pixels to their values, in place. @param steps 2…7, or 0 for all greys */
export function toValues(pixels: Uint8ClampedArray | Uint8Array, steps: number): void {
  let grey = made.get(steps);
  if (!grey) made.set(steps, (grey = greys(steps)));
  for (let i = 0; i < pixels.length; i += 4) {
    const y =
      (RED[pixels[i] as number] as number) +
      (GREEN[pixels[i + 1] as number] as number) +
      (BLUE[pixels[i + 2] as number] as number);
    const v = grey[Math.round(y)] as number;
    pixels[i] = v;
    pixels[i + 1] = v;
    pixels[i + 2] = v;
  }
}

/** How much of RGBA pixels lies in each of so many steps of value, dark first, 0…1 each. */
export function valueShares(pixels: Uint8ClampedArray | Uint8Array, steps: number): number[] {
  const counts = new Array<number>(steps).fill(0);
  for (let i = 0; i < pixels.length; i += 4) {
    const y =
      (RED[pixels[i] as number] as number) +
      (GREEN[pixels[i + 1] as number] as number) +
      (BLUE[pixels[i + 2] as number] as number);
    const value = lightness(y / (LEVELS - 1)) / 100;
    const step = Math.min(steps - 1, Math.floor(value * steps));
    counts[step] = (counts[step] as number) + 1;
  }
  const all = pixels.length / 4;
  return counts.map((count) => (all === 0 ? 0 : count / all));
}
