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

/** A finite material that rises, whatever was cut and joined: what readers of profiles need. */
export const isSound = ({ curve: { points, material, corners }, width, hand }: Line): boolean =>
  material.length >= 2 &&
  points.length === 6 * (material.length - 1) + 2 &&
  corners.length === material.length &&
  width.length >= 2 &&
  width.length % 2 === 0 &&
  hand.length >= HAND_NUMBERS &&
  hand.length % HAND_NUMBERS === 0 &&
  [...points, ...material, ...width, ...hand].every(Number.isFinite) &&
  material.every((m, i) => i === 0 || m >= (material[i - 1] as number));
