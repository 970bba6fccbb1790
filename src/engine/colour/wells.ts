import { z } from "zod";
import { hexColour } from "./srgb";

/** Colours that one set of wells holds, and sets that a picture has, at most. */
export const MOST_COLOURS = 256;
export const MOST_WELLS = 24;

export const wellSchema = z.strictObject({
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(80),
  colours: z
    .array(z.strictObject({ hex: hexColour, name: z.string().max(80).default("") }))
    .max(MOST_COLOURS),
});

/** A named set of colours. */
export type Wells = z.infer<typeof wellSchema>;
export const wellsSchema = z.array(wellSchema).max(MOST_WELLS);

/** The colour moved to another place among the others. */
export function withMoved(wells: Wells, from: number, to: number): Wells {
  const colours = [...wells.colours];
  const [moved] = colours.splice(from, 1);
  if (moved) colours.splice(to, 0, moved);
  return { ...wells, colours };
}
