import { hexToRgb, rgbToHex } from "../colour/oklch";
import { type Picture } from "../picture/picture";
import { colourOf, mixed, paintOf } from "../pigment/pigment";
import { tubesOf } from "../pigment/tubes";
import { type Heap } from "../tiles/heap";
import { MOST_PAINTS, type Tilt, type Wash, type WashPaint } from "./wash-state";

const rgbOf = (hex: string): readonly number[] => hexToRgb(hex);

const apart = (a: string, b: string): number => {
  const [from, to] = [rgbOf(a), rgbOf(b)];
  return from.reduce((sum, v, i) => sum + (v - (to[i] as number)) ** 2, 0);
};

/** Which of some paints a colour is nearest to; 0 where there is none. */
export function nearestPaint(paints: readonly { colour: string }[], colour: string): number {
  let best = 0;
  for (let i = 1; i < paints.length; i++)
    if (
      apart((paints[i] as WashPaint).colour, colour) <
      apart((paints[best] as WashPaint).colour, colour)
    )
      best = i;
  return best;
}

/** A colour as a paint: it behaves as the nearest tube at hand does. */
export function washPaint(picture: Picture, colour: string): WashPaint {
  const tubes = tubesOf(picture.structure.tubes);
  const nearest = tubes[nearestPaint(tubes, colour)];
  return {
    colour,
    granulates: nearest?.granulates ?? 0.3,
    stains: nearest?.stains ?? 0.4,
  };
}

/** Two paints as one: the share `share` of it is the second. */
export function mixedPaint(a: WashPaint, b: WashPaint, share: number): WashPaint {
  const between = (x: number, y: number): number => x + (y - x) * share;
  const both = mixed([
    [1 - share, paintOf(hexToRgb(a.colour))],
    [share, paintOf(hexToRgb(b.colour))],
  ]);
  return {
    colour: rgbToHex(colourOf(both)),
    granulates: between(a.granulates, b.granulates),
    stains: between(a.stains, b.stains),
  };
}

/** Two paints that are nearest to each other among many: they are taken for one where another is to come. */
export function nearestPair(paints: readonly WashPaint[]): readonly [number, number] {
  let best: readonly [number, number] = [0, 1];
  let least = Infinity;
  for (let i = 0; i < paints.length; i++)
    for (let j = i + 1; j < paints.length; j++) {
      const distance = apart((paints[i] as WashPaint).colour, (paints[j] as WashPaint).colour);
      if (distance < least) [least, best] = [distance, [i, j]];
    }
  return best;
}

/** Bytes of the numbers of a wash: see `kernels/water/film.ts`. */
export const NUMBERS_BYTES = 32 + 64 * MOST_PAINTS;

/** How strongly paint is drawn to the rim where the edge is 1. */
const MOST_DRAWN = 0.55;
/** Water that goes in a step of 1/60 s, films a step. */
const DRIES = 0.0025;
const OUTLINE = 0.14;

/** Steps that water and what the paper holds take to go, about: see `kernels/water/step.ts`. */
export function stepsUntilDry(water: number, moist: number, pace: number): number {
  const soaked = Math.min(1, moist + 0.3 * water);
  const air = 0.6 * DRIES * pace;
  return water / (DRIES * pace) + Math.log((0.3 + soaked) / 0.3) / air;
}

/** Writes what the kernels need to know of a wash. `pace`: how soon it dries, where that is not its own. */
export function writeNumbers(
  heap: Heap,
  at: number,
  { paints, edge, pace: own }: Wash,
  { x, y }: Tilt,
  pace = own,
): void {
  const { f32 } = heap;
  const slope = Math.sqrt(x * x + y * y);
  const first = at >> 2;
  const drawn = (edge * MOST_DRAWN) / (1 + 3 * slope);
  f32.set([x, y, drawn, DRIES * pace, OUTLINE, 0, 0, 0], first);
  paints.forEach(({ colour, granulates, stains }, i) => {
    const gives = 1 - stains;
    // As measured in media-water: heavy grains fall sooner and into hollows, and come up again from hills.
    const row = [0.004 + 0.016 * granulates, 0.3 * granulates, 0.015, 0.18 * granulates];
    const lifts = 0.12 + 0.88 * (0.5 * granulates + 0.5 * gives);
    f32.set([...paintOf(hexToRgb(colour)), ...row, lifts, 0.3 * granulates], first + 8 + 16 * i);
  });
}
