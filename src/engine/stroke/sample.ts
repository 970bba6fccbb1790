import { z } from "zod";
import { firstFault, Refusal } from "../picture/refusal";

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
const TURN = Math.PI * 2;
/** Whole turns that a report may be off by: earlier logs hold directions added up over a turned view. */
const MOST_TURNS = 1000;

/** A direction in radians; whole turns beyond ±2π are taken off. */
const direction = z
  .number()
  .min(-MOST_TURNS * TURN)
  .max(MOST_TURNS * TURN)
  .transform((angle) => (Math.abs(angle) <= TURN ? angle : angle % TURN));
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
    direction.default(0),
    direction.default(0),
  ])
  .transform((sample) => sample as Sample);

const samplesSchema = z.array(sampleSchema);

/**
 * Samples as a stroke may hold them: what the schema of the log would refuse cannot be drawn.
 * @throws Refusal that names what is wrong
 */
export function checkedSamples(samples: readonly Sample[]): Sample[] {
  const parsed = samplesSchema.safeParse(samples);
  if (parsed.success) return parsed.data;
  throw new Refusal(`The pen reported what cannot be kept (${firstFault(parsed.error)}).`);
}
