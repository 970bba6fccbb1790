import { z } from "zod";

/** Widest fringe, px: what a blurred alpha of nine tiles can tell. */
export const MOST_FRINGE = 30;
const LEAST_FRINGE = 1;

/** The rim of a wash without its water: how far in from the rim it reaches, px, and how strong it is, 0…1. */
export const fringeSchema = z.strictObject({
  width: z.number().min(LEAST_FRINGE).max(MOST_FRINGE),
  strength: z.number().min(0).max(1),
});
export type Fringe = Readonly<z.infer<typeof fringeSchema>>;

/** What a fringe begins as on a sheet of `ppi`: as wide as a fresh wash's rim, half a mm. */
export const usualFringe = (ppi: number): Fringe => ({
  width: Math.max(2, Math.min(MOST_FRINGE, Math.round(ppi / 50))),
  strength: 0.6,
});

/** A fringe on a sheet that is `by` times as large. */
export const scaledFringe = (fringe: Fringe, by: number): Fringe => ({
  ...fringe,
  width: Math.min(MOST_FRINGE, Math.max(LEAST_FRINGE, fringe.width * by)),
});
