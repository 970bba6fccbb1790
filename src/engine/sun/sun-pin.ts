import { z } from "zod";

const HALF_TURN = Math.PI;

/**
 * Where the light comes from. `azimuth`: round the picture, radians clockwise as seen from
 * above, 0 from the right, π/2 from the front (the painter's side). `height`: 0 along the
 * ground, π/2 from straight above, below 0 from beneath. It lies over the picture at `at` and
 * is never exported; other aids read it.
 */
export const sunPinSchema = z.strictObject({
  at: z.strictObject({
    x: z.number().min(-65536).max(65536),
    y: z.number().min(-65536).max(65536),
  }),
  azimuth: z.number().min(-HALF_TURN).max(HALF_TURN),
  height: z
    .number()
    .min(-HALF_TURN / 2)
    .max(HALF_TURN / 2),
});
export type SunPin = z.infer<typeof sunPinSchema>;

/** Right, up and toward the painter. */
export type Direction = readonly [right: number, up: number, front: number];

/** Unit vector from the picture to the light. */
export function towardLight({ azimuth, height }: Pick<SunPin, "azimuth" | "height">): Direction {
  const flat = Math.cos(height);
  return [flat * Math.cos(azimuth), Math.sin(height), flat * Math.sin(azimuth)];
}

/** A turn brought to −π…π. */
export const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));

const SIDES = ["the right", "the front right", "the front", "the front left", "the left"] as const;
const BEHIND = ["the right", "the back right", "the back", "the back left", "the left"] as const;

/** Where the light comes from, in words. */
export function inWords({ azimuth, height }: Pick<SunPin, "azimuth" | "height">): string {
  const degrees = Math.round((height * 180) / Math.PI);
  if (Math.abs(degrees) > 80) return degrees > 0 ? "from straight above" : "from straight beneath";
  const step = Math.round((Math.abs(azimuth) / HALF_TURN) * 4);
  const side = (azimuth >= 0 ? SIDES : BEHIND)[step] as string;
  return `from ${side}, ${Math.abs(degrees)}° ${degrees >= 0 ? "high" : "beneath"}`;
}
