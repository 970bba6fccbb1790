import { z } from "zod";
import { type Paint } from "../pigment/pigment";

// What is on a brush between strokes. A stroke's command holds it as numbers: the stroke never asks what came before.

/** Bands of light that a paint is known in: see `engine/pigment`. */
const BANDS = 7;
/** Strips that a tuft or a blade is divided into across its width, so that it may carry stripes. */
export const STRIPS = 12;
/** The most that a strip takes up, in full loads: a brush pushed through a heap. */
const MOST_LOAD = 12;
/** The paint of nothing but soot takes up so much; no mixture more. */
const MOST_TAKEN_UP = 64;
/** What is left on a brush that was wiped on a rag. */
const LEFT_BY_RAG = 0.2;
/** Numbers are rounded to so many digits, so that a log stays small. */
const DIGITS = 6;

/** One strip: how much it carries (1 a full load), and what that takes up of light in seven bands, for each px³. */
const stripSchema = z
  .array(z.number().min(0).max(MOST_TAKEN_UP))
  .length(BANDS + 1, { message: `a strip is an amount and ${BANDS} bands` })
  .refine(([amount = 0]) => amount <= MOST_LOAD, {
    message: `a strip carries at most ${MOST_LOAD} full loads`,
  });

export const carriedSchema = z
  .array(stripSchema)
  .length(STRIPS, { message: `what a brush carries is ${STRIPS} strips` });

/** What a brush carries, strip by strip across its width. */
export type Carried = readonly (readonly number[])[];

const rounded = (x: number): number => Number(Math.max(0, x).toPrecision(DIGITS));

/**
 * Strips from sums.
 * @param amounts full loads in each strip
 * @param bands what each strip's paint takes up, times its amount: 7 a strip
 */
export const carriedFrom = (amounts: ArrayLike<number>, bands: ArrayLike<number>): Carried =>
  Array.from({ length: STRIPS }, (_, i) => {
    const amount = rounded(Math.min(MOST_LOAD, amounts[i] as number));
    const per = (amounts[i] as number) > 1e-9 ? 1 / (amounts[i] as number) : 0;
    return [
      amount,
      ...Array.from({ length: BANDS }, (__, band) =>
        rounded(Math.min(MOST_TAKEN_UP, (bands[i * BANDS + band] as number) * per)),
      ),
    ];
  });

/** A brush that was washed out. */
export const rinsed = (): Carried =>
  Array.from({ length: STRIPS }, () => new Array<number>(BANDS + 1).fill(0));

/** A brush drawn through a rag: less of everything. */
export const wiped = (carried: Carried): Carried =>
  carried.map(([amount = 0, ...paint]) => [rounded(amount * LEFT_BY_RAG), ...paint]);

/**
 * A brush dipped into a paint: each strip takes up what it has room for, so what was on it before stains the load.
 * @param amount full loads that it holds afterwards, where it does not hold more already
 */
export const dipped = (carried: Carried, paint: Paint, amount: number): Carried =>
  carried.map(([there = 0, ...bands]) => {
    const taken = Math.max(0, amount - there);
    const whole = there + taken;
    if (whole <= 0) return [0, ...bands];
    const mix = paint.map((k, i) => rounded((there * (bands[i] as number) + taken * k) / whole));
    return [rounded(whole), ...mix];
  });

/** All that it carries, in full loads of the whole brush. */
export const loadOf = (carried: Carried): number =>
  carried.reduce((sum, [amount = 0]) => sum + amount, 0) / STRIPS;

/** The strip that a place across the width lies in; `across` −½…½ of it. */
export const stripAt = (across: number): number =>
  Math.min(STRIPS - 1, Math.max(0, Math.floor((across + 0.5) * STRIPS)));

/** For each strip, the nearest one of those that hold anything at all: the ends of a tuft may have no bristle. */
export function nearestOf(held: readonly boolean[]): number[] {
  return held.map((_, strip) => {
    for (let away = 0; away < STRIPS; away++) {
      if (held[strip - away]) return strip - away;
      if (held[strip + away]) return strip + away;
    }
    return strip;
  });
}
