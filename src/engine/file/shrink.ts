import { linearToSrgb, srgbToLinear } from "../colour/oklch";
import { type DeepPixels } from "./png";

/** How a row of output lies over the input: from where to where each pixel reaches. */
type Span = { from: number; to: number };

const spanOf = (i: number, scale: number): Span => ({ from: i * scale, to: (i + 1) * scale });

/** The size that fits into another without changing its proportion; never larger than it is. */
export function fittedSize(
  { width, height }: { width: number; height: number },
  into: { width: number; height: number },
): { width: number; height: number } {
  const scale = Math.min(1, into.width / width, into.height / height);
  return {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
}

/**
 * A picture made smaller: each pixel is the mean of what it covers, in linear light and weighed
 * by alpha, at the depth that it had. Straight RGBA.
 */
export function shrunk(
  image: DeepPixels,
  { width, height }: { width: number; height: number },
): DeepPixels {
  const most = image.data instanceof Uint16Array ? 65535 : 255;
  const linear = Float32Array.from({ length: most + 1 }, (_, v) => srgbToLinear(v / most));
  const data =
    most === 255 ? new Uint8Array(width * height * 4) : new Uint16Array(width * height * 4);
  const sums = new Float32Array(width * 4);
  const row = new Float32Array(width * 4);
  for (let y = 0; y < height; y++) {
    sums.fill(0);
    const { from, to } = spanOf(y, image.height / height);
    let weight = 0;
    for (let sy = Math.floor(from); sy < Math.min(image.height, Math.ceil(to)); sy++) {
      const share = Math.min(to, sy + 1) - Math.max(from, sy);
      if (share <= 0) continue;
      weight += share;
      narrowed(row, image, sy, width, linear, most);
      for (let i = 0; i < sums.length; i++)
        sums[i] = (sums[i] as number) + (row[i] as number) * share;
    }
    writeRow(data, y * width * 4, sums, weight, most);
  }
  return { width, height, data };
}

/** One row of the input as means for each output pixel: linear, premultiplied. */
function narrowed(
  row: Float32Array,
  { data, width: across }: DeepPixels,
  y: number,
  width: number,
  linear: Float32Array,
  most: number,
): void {
  const scale = across / width;
  for (let x = 0; x < width; x++) {
    const { from, to } = spanOf(x, scale);
    let [r, g, b, a, weight] = [0, 0, 0, 0, 0];
    for (let sx = Math.floor(from); sx < Math.min(across, Math.ceil(to)); sx++) {
      const share = Math.min(to, sx + 1) - Math.max(from, sx);
      if (share <= 0) continue;
      const at = (y * across + sx) * 4;
      const alpha = ((data[at + 3] as number) / most) * share;
      r += (linear[data[at] as number] as number) * alpha;
      g += (linear[data[at + 1] as number] as number) * alpha;
      b += (linear[data[at + 2] as number] as number) * alpha;
      a += alpha;
      weight += share;
    }
    row[x * 4] = r / weight;
    row[x * 4 + 1] = g / weight;
    row[x * 4 + 2] = b / weight;
    row[x * 4 + 3] = a / weight;
  }
}

function writeRow(
  data: Uint8Array | Uint16Array,
  at: number,
  sums: Float32Array,
  weight: number,
  most: number,
): void {
  for (let i = 0; i < sums.length; i += 4) {
    const alpha = sums[i + 3] as number;
    if (alpha <= 0) continue;
    for (let c = 0; c < 3; c++)
      data[at + i + c] = Math.round(linearToSrgb((sums[i + c] as number) / alpha) * most);
    data[at + i + 3] = Math.round((alpha / weight) * most);
  }
}
