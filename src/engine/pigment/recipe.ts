import {
  hexToRgb,
  linearToOklab,
  linearToRgb,
  type Rgb,
  rgbToHex,
  rgbToOklab,
} from "../colour/oklch";
import { linearOf, paintOf } from "./pigment";
import { type Tube, tubes } from "./tubes";

// Looked up once: some surroundings are slow to find a global.
const { sqrt } = Math;

/** A mixture from tubes, in whole parts, most of it first; how far it is from what was asked, in OKLab. */
export type Recipe = { parts: { tube: Tube; parts: number }[]; colour: string; off: number };

/** Parts of one tube in a recipe of two and of three, at most. */
const MOST_PARTS = 8;
const FEW_PARTS = 4;
/** What another tube must make good: a painter would rather squeeze out two than three. */
const A_TUBE = 0.006;
/** Pairs that a third tube is tried with. */
const BEST_PAIRS = 40;

type Stirred = { at: readonly number[]; parts: readonly number[]; score: number; off: number };

/** Stirs tubes by their places in a box, and sees how far the mixture is from a colour. */
class Stirrer {
  readonly #paints: (readonly number[])[];
  readonly #wanted: readonly [number, number, number];
  #mixture = new Float64Array(7);
  #linear: Rgb = [0, 0, 0];

  constructor(
    readonly atHand: readonly Tube[],
    hex: string,
  ) {
    this.#paints = atHand.map(({ colour }) => paintOf(hexToRgb(colour)));
    this.#wanted = rgbToOklab(hexToRgb(hex));
  }

  /** Linear sRGB of a mixture; the same numbers are written again at the next call. */
  linear(at: readonly number[], parts: readonly number[]): Rgb {
    const mixture = this.#mixture.fill(0);
    let whole = 0;
    for (let i = 0; i < at.length; i++) {
      const tube = at[i] as number;
      const share = (parts[i] as number) * (this.atHand[tube] as Tube).strength;
      const paint = this.#paints[tube] as readonly number[];
      whole += share;
      for (let j = 0; j < 7; j++)
        mixture[j] = (mixture[j] as number) + share * (paint[j] as number);
    }
    for (let j = 0; j < 7; j++) mixture[j] = (mixture[j] as number) / whole;
    return linearOf(mixture, this.#linear);
  }

  /** The best of several ways to part the same tubes. */
  best(at: readonly number[], ways: readonly (readonly number[])[]): Stirred {
    const [l, a, b] = this.#wanted;
    let [off, parts] = [Infinity, ways[0] as readonly number[]];
    for (const way of ways) {
      const [ml, ma, mb] = linearToOklab(this.linear(at, way));
      const here = sqrt((ml - l) * (ml - l) + (ma - a) * (ma - a) + (mb - b) * (mb - b));
      if (here < off) [off, parts] = [here, way];
    }
    return { at, parts, off, score: off + A_TUBE * at.length };
  }
}

/**
 * The nearest mixture of one, two or three tubes to a colour.
 * @throws RangeError where there is no tube
 */
export function recipeFor(hex: string, atHand: readonly Tube[] = tubes): Recipe {
  if (atHand.length === 0)
    throw new RangeError("a recipe is mixed from one tube at least, not none");
  const stirrer = new Stirrer(atHand, hex);
  const places = atHand.map((_, i) => i);
  const alone = places.map((i) => stirrer.best([i], [[1]]));
  const pairs = places
    .flatMap((i) => places.slice(i + 1).map((j) => stirrer.best([i, j], PAIRS)))
    .sort((one, other) => one.score - other.score);
  const threes = pairs
    .slice(0, BEST_PAIRS)
    .flatMap(({ at }) =>
      places.filter((k) => !at.includes(k)).map((k) => stirrer.best([...at, k], THREES)),
    );
  const best = [...alone, ...pairs.slice(0, 1), ...threes].reduce((nearest, one) =>
    one.score < nearest.score ? one : nearest,
  );
  return {
    parts: best.at
      .map((i, k) => ({ tube: atHand[i] as Tube, parts: best.parts[k] as number }))
      .sort((one, other) => other.parts - one.parts),
    colour: rgbToHex(linearToRgb(stirrer.linear(best.at, best.parts))),
    off: best.off,
  };
}

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
const counted = (most: number): number[] => Array.from({ length: most }, (_, i) => i + 1);

/** Parts of two that no smaller ones say, and of three. */
const PAIRS = counted(MOST_PARTS).flatMap((one) =>
  counted(MOST_PARTS).flatMap((other) => (divisor(one, other) === 1 ? [[one, other]] : [])),
);
const THREES = counted(FEW_PARTS).flatMap((one) =>
  counted(FEW_PARTS).flatMap((other) =>
    counted(FEW_PARTS).flatMap((third) =>
      divisor(divisor(one, other), third) === 1 ? [[one, other, third]] : [],
    ),
  ),
);
