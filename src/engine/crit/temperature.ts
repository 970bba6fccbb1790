import { oklabToLinear, linearToSrgb, rgbToOklab } from "../colour/oklch";

/** Toward orange in OKLab, as a direction of a and b: what painters call warm. */
const WARM = [Math.cos(1.05), Math.sin(1.05)] as const;
/** Chroma along it from which on a colour counts as warm or cool at all, and at which it is shown fullest. */
const FAINT = 0.015;
const FULL = 0.12;
/** What warm and cool are shown in: chroma at the fullest. */
const SHOWN = 0.15;

/** How warm a colour is: chroma toward orange, below 0 toward blue. @param rgb 0…1 each */
export function warmthOf(rgb: readonly [number, number, number]): number {
  const [, a, b] = rgbToOklab([...rgb]);
  return a * WARM[0] + b * WARM[1];
}

/**
 * Turns RGBA pixels to their temperature, in place: as light as they were, orange where they are warm, blue where they
 * are cool, grey between.
 * @returns which shares of the picture are warm and cool, 0…1
 */
export function toTemperature(pixels: Uint8ClampedArray): { warm: number; cool: number } {
  const counts = { warm: 0, cool: 0 };
  const all = pixels.length / 4;
  for (let i = 0; i < pixels.length; i += 4) {
    const rgb = [0, 1, 2].map((c) => (pixels[i + c] as number) / 255) as [number, number, number];
    const warmth = warmthOf(rgb);
    if (warmth > FAINT) counts.warm++;
    else if (warmth < -FAINT) counts.cool++;
    const shown = Math.max(-1, Math.min(1, warmth / FULL)) * SHOWN;
    const [l] = rgbToOklab(rgb);
    // Deep and bright colours have less room for chroma.
    const seen = oklabToLinear([0.25 + l * 0.6, shown * WARM[0], shown * WARM[1]]);
    seen.forEach((v, c) => (pixels[i + c] = linearToSrgb(Math.min(1, Math.max(0, v))) * 255));
  }
  return { warm: all ? counts.warm / all : 0, cool: all ? counts.cool / all : 0 };
}
