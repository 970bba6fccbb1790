import { cosine, sine } from "../../scene/vector";
import { Chance } from "../../stroke/chance";
import { ONE } from "../../tiles/layout";

/** Looked up once: globals are slow to come by where tests run. */
const { floor, min, round, sqrt } = Math;

export type Rgb = readonly [r: number, g: number, b: number];
/** A colour under a cover, 0…1, premultiplied. Changed in place while a place is painted. */
export type Painted = [r: number, g: number, b: number, a: number];

/**
 * A picture that is worked out at each place: x to the right, y down, −1…1 both ways; it leaves a rim of 3 % empty.
 * It lays what is seen there over `onto`, which is empty. + − × ÷ and roots alone, and sines of our own.
 */
export type Art = (x: number, y: number, onto: Painted) => void;

export const rgb = (hex: string): Rgb => {
  const n = parseInt(hex.slice(1), 16);
  return [(n >> 16) / 255, ((n >> 8) & 255) / 255, (n & 255) / 255];
};

/** Lays a colour over what is there. */
export function over(onto: Painted, colour: Rgb, cover: number): void {
  if (cover <= 0) return;
  const left = 1 - cover;
  onto[0] = onto[0] * left + colour[0] * cover;
  onto[1] = onto[1] * left + colour[1] * cover;
  onto[2] = onto[2] * left + colour[2] * cover;
  onto[3] = onto[3] * left + cover;
}

export const between = (a: Rgb, b: Rgb, t: number): Rgb => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
export const lit = (a: Rgb, by: number): Rgb => [
  min(1, a[0] * by),
  min(1, a[1] * by),
  min(1, a[2] * by),
];

/** Directions round a circle, evenly: cosine and sine of each. */
export const rays = (count: number, step: number, from = 0): (readonly [number, number])[] =>
  Array.from(
    { length: count },
    (_, i) => [cosine(from + i * step), sine(from + i * step)] as const,
  );

export const held = (t: number): number => (t < 0 ? 0 : t > 1 ? 1 : t);
/** 0 at `from` … 1 at `to`, without a corner. */
export function eased(from: number, to: number, at: number): number {
  const t = held((at - from) / (to - from));
  return t * t * (3 - 2 * t);
}

/** How far a place lies from a stretch, and how far along it is, 0…1. */
export function offStretch(
  x: number,
  y: number,
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
): [off: number, along: number] {
  const dx = bx - ax;
  const dy = by - ay;
  const t = held(((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy));
  const ox = x - ax - dx * t;
  const oy = y - ay - dy * t;
  return [sqrt(ox * ox + oy * oy), t];
}

/** Places of a table of noise, a side. */
const PLACES = 128;

/** Smooth noise of a picture's own, 0…1, about its mean a half: `fine` swells across the picture, 60 at most. */
export function swells(seed: number): (x: number, y: number, fine: number) => number {
  const chance = new Chance(seed);
  const table = Float64Array.from({ length: PLACES * PLACES }, (_, i) => chance.at(i));
  return (x, y, fine) => {
    const u = x * fine * 0.5 + PLACES / 2;
    const v = y * fine * 0.5 + PLACES / 2;
    const i = floor(u);
    const j = floor(v);
    const a = u - i;
    const b = v - j;
    const s = a * a * (3 - 2 * a);
    const t = b * b * (3 - 2 * b);
    const at = j * PLACES + i;
    const from = table[at] as number;
    const below = table[at + PLACES] as number;
    const top = from + ((table[at + 1] as number) - from) * s;
    const low = below + ((table[at + PLACES + 1] as number) - below) * s;
    return top + (low - top) * t;
  };
}

/** Noise of three sizes, 0…1. */
export function clouded(seed: number): (x: number, y: number, fine: number) => number {
  const noise = swells(seed);
  return (x, y, fine) =>
    noise(x, y, fine) * 0.55 + noise(y, x, fine * 2.1) * 0.3 + noise(x, -y, fine * 4.3) * 0.15;
}

/** Places a texel is looked at, a side: of large ones fewer, which are looked at four times a pixel when they are laid. */
const looksFor = (side: number): number => (side > 128 ? 2 : 3);

/**
 * Art as texels: R G B A in Q15, premultiplied, row by row.
 * @param side texels a side
 */
export function rendered(art: Art, side: number): Uint16Array {
  const out = new Uint16Array(side * side * 4);
  const sum: Painted = [0, 0, 0, 0];
  const one: Painted = [0, 0, 0, 0];
  const looks = looksFor(side);
  const step = 2 / side / looks;
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      sum.fill(0);
      for (let j = 0; j < looks; j++)
        for (let i = 0; i < looks; i++) {
          one.fill(0);
          art((column * looks + i + 0.5) * step - 1, (row * looks + j + 0.5) * step - 1, one);
          for (let c = 0; c < 4; c++) (sum[c] as number) += one[c] as number;
        }
      const at = (row * side + column) * 4;
      for (let c = 0; c < 4; c++)
        out[at + c] = round(held((sum[c] as number) / (looks * looks)) * ONE);
    }
  return out;
}
