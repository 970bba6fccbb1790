import { z } from "zod";

/**
 * A knife drawn over wet paint, its edge across the travel: it spreads what it carries, levels what stands
 * higher, and marbles what it meets. Size is the length of its edge, strength how much it is loaded with.
 */
export const knifeSchema = z.strictObject({
  kind: z.literal("knife"),
  /** 0 paints run into each other softly … 1 in clear streaks. */
  marbles: z.number().min(0).max(1),
  /** How long a load lasts, in widths. */
  run: z.number().min(1).max(20),
  /** How thick it leaves paint: 1 as a springy blade does. */
  leaves: z.number().min(0.2).max(3),
});

export type Knife = z.infer<typeof knifeSchema>;
