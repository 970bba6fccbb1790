import { z } from "zod";
import { guidesSchema } from "../guides/guide";
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
