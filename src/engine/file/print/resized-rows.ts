import { linearToSrgb, srgbToLinear } from "../../colour/oklch";

/**
 * How pixels are made anew at another size: Lanczos of three lobes (crisp), Mitchell and Netravali's cubic (1988, soft,
 * without rims), the mean of what a pixel covers, or the nearest one (pixels stay pixels).
 */
export const sizings = ["crisp", "soft", "mean", "nearest"] as const;
export type Sizing = (typeof sizings)[number];

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));

const filters: Record<Exclude<Sizing, "nearest">, { reach: number; at: (x: number) => number }> = {
  crisp: { reach: 3, at: (x) => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0) },
  soft: {
    reach: 2,
    at: (x) => {
      const d = Math.abs(x);
      if (d < 1) return (7 * d ** 3 - 12 * d ** 2 + 16 / 3) / 6;
      return d < 2 ? ((-7 / 3) * d ** 3 + 12 * d ** 2 - 20 * d + 32 / 3) / 6 : 0;
    },
  },
  mean: { reach: 0.5, at: (x) => (Math.abs(x) <= 0.5 ? 1 : 0) },
};

/** Of each new place along a side: its first old one, and the weights of that and those after it. */
export type Taps = { first: Int32Array; weights: Float32Array[] };

/** What new places along a side are made of. Beyond the edge the last pixel goes on. */
export function tapsFor(from: number, to: number, sizing: Sizing): Taps {
  const step = from / to;
  const first = new Int32Array(to);
  const weights: Float32Array[] = [];
  for (let i = 0; i < to; i++) {
    const middle = (i + 0.5) * step - 0.5;
    if (sizing === "nearest") {
      first[i] = Math.min(from - 1, Math.max(0, Math.floor((i + 0.5) * step)));
      weights.push(Float32Array.of(1));
      continue;
    }
    const { reach, at } = filters[sizing];
    const stretch = Math.max(1, step);
    const low = Math.ceil(middle - reach * stretch - 1e-9);
    const high = Math.floor(middle + reach * stretch + 1e-9);
    const start = Math.min(from - 1, Math.max(0, low));
    const end = Math.min(from - 1, Math.max(0, high));
    const own = new Float64Array(end - start + 1);
    let sum = 0;
    for (let at1 = low; at1 <= high; at1++) {
      // Of a mean, pixels at the rim count by the part that is covered.
      const weight =
        sizing === "mean"
          ? Math.max(
              0,
              Math.min(at1 + 0.5, middle + step / 2) - Math.max(at1 - 0.5, middle - step / 2),
            )
          : at((at1 - middle) / stretch);
      const place = Math.min(end, Math.max(start, at1)) - start;
      own[place] = own[place]! + weight;
      sum += weight;
    }
    if (sum === 0) {
      own.fill(0);
      own[Math.min(own.length - 1, Math.max(0, Math.round(middle) - start))] = 1;
      sum = 1;
    }
    first[i] = start;
    weights.push(Float32Array.from(own, (w) => w / sum));
  }
  return { first, weights };
}

const LINEAR = Float32Array.from({ length: 65_536 }, (_, v) => srgbToLinear(v / 65_535));
/** Steps of light that sRGB values are looked up in; finer than sixteen bits need where it is dark. */
const STEPS = 1 << 16;
const ENCODED = Float32Array.from({ length: STEPS + 1 }, (_, i) => {
  const root = i / STEPS;
  return linearToSrgb(root * root);
});

/**
 * A picture at another size, row by row, in premultiplied linear light: only the rows that a new one is made of are in
 * memory. Rows come and go as sixteen-bit R G B or R G B A, high byte first.
 */
export class ResizedRows {
  #across: Taps;
  #down: Taps;
  #kept = new Map<number, Float32Array>();
  #spare: Float32Array[] = [];
  #read = 0;
  #written = 0;
  #light: Float32Array;
  #sum: Float32Array;
  #out: Uint8Array;
  readonly channels: number;

  constructor(
    readonly from: { width: number; height: number },
    readonly to: { width: number; height: number },
    readonly alpha: boolean,
    sizing: Sizing,
    /** Given each new row: a view that is good until the next one. */
    readonly take: (samples: Uint8Array) => void,
  ) {
    this.channels = alpha ? 4 : 3;
    this.#across = tapsFor(from.width, to.width, sizing);
    this.#down = tapsFor(from.height, to.height, sizing);
    this.#light = new Float32Array(from.width * this.channels);
    this.#sum = new Float32Array(to.width * this.channels);
    this.#out = new Uint8Array(to.width * this.channels * 2);
  }

  /** Adds the next row of the old size. */
  row(samples: Uint8Array): void {
    const { channels } = this;
    const light = this.#light;
    for (let i = 0; i < light.length; i += channels) {
      const a = this.alpha ? ((samples[i * 2 + 6]! << 8) | samples[i * 2 + 7]!) / 65_535 : 1;
      for (let c = 0; c < 3; c++)
        light[i + c] = LINEAR[(samples[(i + c) * 2]! << 8) | samples[(i + c) * 2 + 1]!]! * a;
      if (this.alpha) light[i + 3] = a;
    }
    const narrow = this.#spare.pop() ?? new Float32Array(this.to.width * channels);
    this.#acrossRow(narrow);
    this.#kept.set(this.#read++, narrow);
    this.#writeReady();
  }

  #acrossRow(out: Float32Array): void {
    const { channels } = this;
    const light = this.#light;
    const { first, weights } = this.#across;
    for (let x = 0; x < this.to.width; x++) {
      const own = weights[x]!;
      const start = first[x]! * channels;
      for (let c = 0; c < channels; c++) {
        let sum = 0;
        for (let t = 0; t < own.length; t++) sum += own[t]! * light[start + t * channels + c]!;
        out[x * channels + c] = sum;
      }
    }
  }

  /** Writes the new rows for which all old ones are there. */
  #writeReady(): void {
    const { first, weights } = this.#down;
    while (this.#written < this.to.height) {
      const own = weights[this.#written]!;
      const start = first[this.#written]!;
      if (start + own.length > this.#read) return;
      const sum = this.#sum.fill(0);
      for (let t = 0; t < own.length; t++) {
        const weight = own[t]!;
        const row = this.#kept.get(start + t)!;
        for (let i = 0; i < sum.length; i++) sum[i] = sum[i]! + weight * row[i]!;
      }
      this.#put(sum);
      this.#written++;
      const next = first[this.#written] ?? this.from.height;
      for (const [y, row] of this.#kept) {
        if (y >= next) break;
        this.#spare.push(row);
        this.#kept.delete(y);
      }
    }
  }

  #put(sum: Float32Array): void {
    const { channels } = this;
    const out = this.#out;
    for (let i = 0; i < sum.length; i += channels) {
      const a = this.alpha ? Math.min(1, Math.max(0, sum[i + 3]!)) : 1;
      for (let c = 0; c < channels; c++) {
        const straight = c === 3 ? a : a > 0 ? encoded(sum[i + c]! / a) : 0;
        const v = Math.round(straight * 65_535);
        out[(i + c) * 2] = v >> 8;
        out[(i + c) * 2 + 1] = v & 255;
      }
    }
    this.take(out);
  }
}

/** An sRGB value of linear light, held between black and white. */
function encoded(light: number): number {
  const root = Math.sqrt(Math.min(1, Math.max(0, light))) * STEPS;
  const i = Math.min(STEPS - 1, Math.floor(root));
  return ENCODED[i]! + (ENCODED[i + 1]! - ENCODED[i]!) * (root - i);
}
