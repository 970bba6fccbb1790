import { z } from "zod";
import { curveSchema } from "./curve";

/** What may drive a parameter. All give 0…1. */
export const drivers = {
  pressure: "how hard the pen presses",
  tilt: "0 upright, 1 flat",
  speed: "0 at rest, 1 at 3000 px a second",
  "chance of a mark": "new for each mark",
  "chance of a stroke": "one for the whole stroke",
} as const;

export type Driver = keyof typeof drivers;

const driveSchema = z.strictObject({
  by: z.enum(Object.keys(drivers) as [Driver, ...Driver[]]),
  curve: curveSchema,
  how: z.enum(["multiply", "add", "larger"]).default("multiply"),
});

/** base, then each drive in turn: multiplied, added, or the larger taken. */
const parameter = (least: number, most: number) =>
  z.strictObject({
    base: z.number().min(least).max(most),
    drives: z.array(driveSchema).max(8).default([]),
  });

export type Parameter = z.infer<ReturnType<typeof parameter>>;

/**
 * A brush as data. Lengths in picture px; `diameter` is a factor on the chosen size, and
 * `spacing` a fraction of the mark's smaller diameter.
 */
export const brushSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/),
  name: z.string().min(1).max(80),
  kit: z.string().min(1).max(80),
  medium: z.enum(["pencil", "ink", "soft"]),
  size: z.number().min(0.5).max(2000),
  strength: z.number().min(0).max(1),
  spacing: z.number().min(0.01).max(4),
  hardness: z.number().min(0).max(1),
  diameter: parameter(0, 8),
  /** Longer axis ÷ shorter axis of a mark, the longer along the tilt. */
  stretch: parameter(1, 32),
  flow: parameter(0, 1),
  /** Shift of each mark across the path, as a fraction of the diameter. */
  jitter: z.number().min(0).max(4).default(0),
  grain: z
    .strictObject({
      /** 0 paints over the tooth, 1 only what pressure reaches. */
      depth: z.number().min(0).max(1),
      /** Width of the change from bare to covered, in heights of the paper. */
      softness: z.number().min(0.01).max(1),
      /** How much slopes that face the travel catch. */
      slope: z.number().min(0).max(4),
      /** What counts as pressure on the tooth. */
      press: parameter(0, 1),
    })
    .nullable(),
  /** Lengths over which the line swells at its start and thins at its end, px at size 10. */
  taper: z.strictObject({ in: z.number().min(0).max(2000), out: z.number().min(0).max(2000) }),
});

export type Brush = z.infer<typeof brushSchema>;
