import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { LEAST_SIZE, MOST_SIZE } from "../stroke/brush";
import { type Curve } from "./curve";

/** Lines that a layer may hold. */
export const MOST_LINES = 20_000;

/** What a line is drawn with. */
export const lineStyleSchema = z.strictObject({
  brush: z.string().min(1).max(64),
  size: z.number().min(LEAST_SIZE).max(MOST_SIZE),
  strength: z.number().min(0).max(1),
  colour: hexColour,
  /** Of tips in two tones, and colours that stray. */
  second: hexColour,
  seed: z.int().min(0).max(0xffffffff),
});

/** How far a line swells at its start and thins at its end, px; shorter where it is short. */
export const taperSchema = z.strictObject({
  in: z.number().min(0).max(20_000),
  out: z.number().min(0).max(20_000),
});

export type LineStyle = z.infer<typeof lineStyleSchema>;
export type Taper = z.infer<typeof taperSchema>;

/** Numbers that a place of the hand has: material, pressure, altitude, azimuth, twist, speed. */
export const HAND_NUMBERS = 6;

/**
 * One line of a line layer. Never changed in place. Coordinates are what an f32 holds, so that a line that was
 * kept is the line that was drawn.
 */
export type Line = LineStyle &
  Readonly<{
    id: number;
    /** Which lies over which: more lies higher; of the same, the younger. */
    z: number;
    curve: Curve;
    /** Half of its width by material, px, without its tapers (see `profile.ts`). */
    width: readonly number[];
    /** How the pen was held, place by place: {@link HAND_NUMBERS} numbers each. */
    hand: readonly number[];
    taper: Taper;
    /** Whether its end is its start: it has no tapers then. */
    closed: boolean;
  }>;

const { fround } = Math;

/** A line whose numbers are what its record will hold. */
export function settledLine(line: Line): Line {
  const { curve, width, hand } = line;
  return {
    ...line,
    curve: {
      points: curve.points.map(fround),
      material: curve.material.map(fround),
      corners: curve.corners,
    },
    width: width.map(fround),
    hand: hand.map(fround),
  };
}

/** Farthest that a line may lie from the sheet's corner, its longest material, and its widest half, px. */
const FARTHEST = 1e6;
const LONGEST = 1e8;
const WIDEST = 1e5;

const isWithin = (list: readonly number[], most: number): boolean =>
  list.every((v) => Number.isFinite(v) && Math.abs(v) <= most);

const everyOther = (list: readonly number[], first: number, step: number): number[] =>
  list.filter((_, i) => i % step === first);

const rises = (list: readonly number[]): boolean =>
  list.every((m, i) => i === 0 || m >= (list[i - 1] as number));

/** Whether a line is one that can be drawn: numbers that agree, within bounds, and materials that rise. */
export function isSound({ curve: { points, material, corners }, width, hand }: Line): boolean {
  const materials = [material, everyOther(width, 0, 2), everyOther(hand, 0, HAND_NUMBERS)];
  return (
    material.length >= 2 &&
    points.length === 6 * (material.length - 1) + 2 &&
    corners.length === material.length &&
    width.length >= 2 &&
    width.length % 2 === 0 &&
    hand.length >= HAND_NUMBERS &&
    hand.length % HAND_NUMBERS === 0 &&
    isWithin(points, FARTHEST) &&
    isWithin(hand, LONGEST) &&
    materials.every((list) => isWithin(list, LONGEST) && rises(list)) &&
    everyOther(width, 1, 2).every((r) => r >= 0 && r <= WIDEST)
  );
}
