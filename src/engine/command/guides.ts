import { defineCommand } from "./define";
import { z } from "zod";
import { guidesSchema, scaledGuide } from "../guides/guide";
import { type Applying } from "./command";

export const setGuidesSchema = z.strictObject({
  do: z.literal("guides.set"),
  guides: guidesSchema,
});

/** Replaces the picture's guides. Strokes are logged as they were drawn: nothing moves with a guide. */
export function setGuides(
  { picture, setStructure }: Applying,
  { guides }: z.infer<typeof setGuidesSchema>,
): string {
  setStructure({ ...picture.structure, guides });
  return "guides";
}

export const guidesCommand = defineCommand({
  schema: setGuidesSchema,
  apply: setGuides,
  scaled: (command, by) => ({
    ...command,
    guides: command.guides.map((guide) => scaledGuide(guide, by)),
  }),
});
