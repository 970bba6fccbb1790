import { lightness } from "./values";
import { srgbToLinear } from "../colour/oklch";

/** Lightness 0…100 of every pixel (CIE L*). */
export function lightnesses(pixels: Uint8ClampedArray): Float32Array {
  const out = new Float32Array(pixels.length / 4);
  for (let i = 0; i < out.length; i++) {
    const [r, g, b] = [0, 1, 2].map((c) => srgbToLinear((pixels[i * 4 + c] as number) / 255)) as [
      number,
      number,
      number,
    ];
    out[i] = lightness(0.2126 * r + 0.7152 * g + 0.0722 * b);
  }
  return out;
}

/** The lightness that parts a picture's darks from its lights best: the greatest variance between them (Otsu 1979). */
export function partingOf(values: Float32Array): number {
  const counts = new Float64Array(101);
  for (const v of values) counts[Math.min(100, Math.max(0, Math.round(v)))]!++;
  const total = values.length;
  let all = 0;
  counts.forEach((count, v) => (all += v * count));
  let [below, sum, best, at] = [0, 0, -1, 50];
  for (let v = 0; v < 100; v++) {
    below += counts[v]!;
    sum += v * counts[v]!;
    if (below === 0 || below === total) continue;
    const apart = sum / below - (all - sum) / (total - below);
    const variance = below * (total - below) * apart * apart;
    // Where several part as well, the middle of them: the first stays until a better one comes.
    if (variance > best * (1 + 1e-9)) [best, at] = [variance, v + 0.5];
  }
  return at;
}

/** Turns RGBA pixels to two masses, in place: dark and light. @returns which share is dark, 0…1 */
export function toMasses(pixels: Uint8ClampedArray): number {
  const values = lightnesses(pixels);
  const parting = partingOf(values);
  let dark = 0;
  values.forEach((v, i) => {
    const isDark = v < parting;
    if (isDark) dark++;
    pixels.fill(isDark ? 28 : 238, i * 4, i * 4 + 3);
  });
  return values.length === 0 ? 0 : dark / values.length;
}
