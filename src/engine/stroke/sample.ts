import { z } from "zod";

/**
 * One report of the pen: `[t, x, y, pressure, altitude, azimuth, twist]`.
 * t in ms from the stroke's start; x, y in picture px; pressure 0–1; altitude, azimuth and
 * twist in radians as in Pointer Events Level 3 (altitude π/2 is upright, azimuth 0 points
 * to +x). What follows pressure may be left out: an upright pen.
 */
export type Sample = [
  t: number,
  x: number,
  y: number,
  pressure: number,
  altitude: number,
  azimuth: number,
  twist: number,
];

/** Reports closer in time than this, ms, came in one parcel: their times say nothing of the hand. */
export const LEAST_STEP_MS = 2;

const UPRIGHT = Math.PI / 2;
/** How far outside the picture a pen may be heard, px. */
const REACH = 65536;
const place = z.number().min(-REACH).max(REACH);

export const sampleSchema = z
  .tuple([
    z.number().min(0).max(86_400_000),
    place,
    place,
    z.number().min(0).max(1).default(0.5),
    z.number().min(0).max(Math.PI).default(UPRIGHT),
    z
      .number()
      .min(-Math.PI * 2)
      .max(Math.PI * 2)
      .default(0),
    z
      .number()
      .min(-Math.PI * 2)
      .max(Math.PI * 2)
      .default(0),
  ])
  .transform((sample) => sample as Sample);
