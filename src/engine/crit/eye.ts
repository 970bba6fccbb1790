import { rgbToOklab } from "../colour/oklch";

/** Neighbourhoods that are compared, pixels of the small picture: three scales. */
const SCALES = [2, 6, 18];
/** Chroma counts this much more than lightness: its range in sRGB is so much smaller. */
const CHROMA_WEIGHT = 2.2;

/**
 * Where the eye goes: how far each pixel stands out from its neighbourhood in lightness and
 * in chroma, over three scales (a centre–surround difference, Itti, Koch & Niebur 1998, on
 * OKLab). 0…1, the strongest 1.
 * @param rgba straight 8-bit pixels of a small picture
 */
export function pullOf(rgba: Uint8ClampedArray, width: number, height: number): Float32Array {
  const count = width * height;
  const planes = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < count; i++) {
    const lab = rgbToOklab([
      (rgba[i * 4] as number) / 255,
      (rgba[i * 4 + 1] as number) / 255,
      (rgba[i * 4 + 2] as number) / 255,
    ]);
    lab.forEach((v, c) => ((planes[c] as Float64Array)[i] = v));
  }
  const pull = new Float32Array(count);
  for (const reach of SCALES) {
    const means = planes.map((plane) => boxMean(plane, width, height, reach));
    for (let i = 0; i < count; i++) {
      const off = (c: number): number =>
        ((planes[c] as Float64Array)[i] as number) - ((means[c] as Float64Array)[i] as number);
      const light = Math.abs(off(0));
      const chroma = Math.hypot(off(1), off(2)) * CHROMA_WEIGHT;
      pull[i] = (pull[i] as number) + (light + chroma) / SCALES.length;
    }
  }
  const soft = boxMean(Float64Array.from(pull), width, height, 2);
  const most = Math.max(1e-6, ...soft);
  return Float32Array.from(soft, (v) => v / most);
}

/** Mean over a square reaching `reach` px to each side, cut off at the edges (summed areas, Crow 1984). */
function boxMean(plane: Float64Array, width: number, height: number, reach: number): Float64Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += plane[y * width + x] as number;
      sums[(y + 1) * (width + 1) + x + 1] = (sums[y * (width + 1) + x + 1] as number) + row;
    }
  }
  const out = new Float64Array(width * height);
  const at = (x: number, y: number): number => sums[y * (width + 1) + x] as number;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const [y0, y1] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)];
      const sum = at(x1, y1) - at(x0, y1) - at(x1, y0) + at(x0, y0);
      out[y * width + x] = sum / ((x1 - x0) * (y1 - y0));
    }
  return out;
}
