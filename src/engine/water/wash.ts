import { z } from "zod";

/**
 * A brush of water and paint. What it lays spreads, settles and dries as time passes (see `kernels/water`). Size
 * is its width, strength how strong the paint in it is.
 */
export const washBrushSchema = z.strictObject({
  kind: z.literal("wash"),
  outline: z.enum(["round", "square"]),
  /** Its shorter side ÷ its longer one. */
  depth: z.number().min(0.02).max(1),
  /** Whether its longer side turns across the stroke. */
  turns: z.boolean(),
  /** How far its edge fades inward, 0…1. */
  soft: z.number().min(0).max(1),
  /** How much less of it lies on at no pressure, 0…1. */
  narrows: z.number().min(0).max(1),
  /** Water in it, films of a flat wash. */
  water: z.number().min(0).max(4),
  /** Paint in it; 0: clear water. */
  load: z.number().min(0).max(4),
  /** How far a load goes, in widths. */
  run: z.number().min(1).max(200),
  /** How much of the tooth a dry brush meets; 0: the water finds it all. */
  tooth: z.number().min(0).max(2),
  /** Drops that fall around the tip instead: how many at a place, and how large they are, px at 300 ppi. */
  drops: z
    .strictObject({
      count: z.number().min(0.05).max(300),
      least: z.number().min(0.5).max(40),
      most: z.number().min(0.5).max(200),
      /** How much salt is in each; 0: none. */
      salt: z.number().min(0).max(6),
      /** A mist: most falls in the middle, and what falls on each other gathers, until it stands and runs. */
      gathers: z.boolean().optional(),
    })
    .nullable(),
});

export type WashBrush = z.infer<typeof washBrushSchema>;
