import { isWarm, rgbToOklch } from "../colour/oklch";

export const BINS = 64;
export const HUE_BINS = 36;
/** Colours with less chroma have no hue worth counting. */
const HUELESS = 0.02;

/** How often each step of red, green, blue and lightness (OKLab L) is met, and each hue, by chroma. */
export type Histogram = {
  red: number[];
  green: number[];
  blue: number[];
  light: number[];
  hues: number[];
  /** Pixels with too little chroma to have a hue. */
  grey: number;
  /** Pixels with a warm hue, and with a cool one. */
  warm: number;
  cool: number;
  /** Pixels that were looked at. */
  count: number;
};

export const emptyHistogram = (): Histogram => ({
  red: new Array<number>(BINS).fill(0),
  green: new Array<number>(BINS).fill(0),
  blue: new Array<number>(BINS).fill(0),
  light: new Array<number>(BINS).fill(0),
  hues: new Array<number>(HUE_BINS).fill(0),
  grey: 0,
  warm: 0,
  cool: 0,
  count: 0,
});

const bin = (v: number, bins: number): number =>
  Math.min(bins - 1, Math.max(0, Math.floor(v * bins)));

/**
 * Counts a pixel.
 * @param weight how far it counts, 0…1
 */
export function countPixel(
  into: Histogram,
  [r, g, b]: readonly [number, number, number],
  weight: number,
): void {
  const add = (counts: number[], at: number, by: number): void => {
    counts[at] = (counts[at] as number) + by;
  };
  add(into.red, bin(r, BINS), weight);
  add(into.green, bin(g, BINS), weight);
  add(into.blue, bin(b, BINS), weight);
  const { l, c, h } = rgbToOklch([r, g, b]);
  add(into.light, bin(l, BINS), weight);
  if (c <= HUELESS) into.grey += weight;
  else {
    add(into.hues, bin(h / 360, HUE_BINS), weight * c);
    if (isWarm(h)) into.warm += weight;
    else into.cool += weight;
  }
  into.count += weight;
}

/** How much of what was counted is warm, cool or grey, in whole hundredths that sum to 100 (to 0 for nothing). */
export function temperatureOf({ warm, cool, grey }: Histogram): {
  warm: number;
  cool: number;
  grey: number;
} {
  const all = warm + cool + grey;
  if (all === 0) return { warm: 0, cool: 0, grey: 0 };
  const share = (n: number): number => Math.round((n / all) * 100);
  return { warm: share(warm), cool: share(cool), grey: 100 - share(warm) - share(cool) };
}
