import { z } from "zod";
import { hexColour } from "../colour/srgb";

/** Paints that are told apart in the wet of one layer. */
export const MOST_PAINTS = 8;

/** Paints that a layer's dry marks dissolve into. */
export const MOST_DISSOLVING = 6;

/** A paint in a wash: its colour, how far it granulates, and how hard it is to lift, 0…1. */
export const washPaintSchema = z.strictObject({
  colour: hexColour,
  granulates: z.number().min(0).max(1),
  stains: z.number().min(0).max(1),
});
export type WashPaint = z.infer<typeof washPaintSchema>;

export const dissolvingSchema = z.array(washPaintSchema).max(MOST_DISSOLVING);

/** How a layer's washes behave, and the paints in what is wet there. */
export const washSchema = z.strictObject({
  paints: z.array(washPaintSchema).max(MOST_PAINTS),
  /** How far paint is drawn to the rim while it dries, 0…1. */
  edge: z.number().min(0).max(1),
  /** How soon it dries: 0.5 is a sheet lying in a room; 0: time stands. */
  pace: z.number().min(0).max(8),
});
export type Wash = z.infer<typeof washSchema>;

export const USUAL_WASH: Wash = { paints: [], edge: 0.4, pace: 0.5 };

/** How the sheet is tilted: the slope across and down, as far as water goes by it. */
export const tiltSchema = z.strictObject({
  x: z.number().min(-1).max(1),
  y: z.number().min(-1).max(1),
});
export type Tilt = z.infer<typeof tiltSchema>;
export const FLAT: Tilt = { x: 0, y: 0 };
