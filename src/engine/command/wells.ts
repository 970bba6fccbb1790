import { defineCommand } from "./define";
import { z } from "zod";
import { wellsSchema } from "../colour/wells";
import { Refusal } from "../picture/refusal";
import { type Applying } from "./command";

export const setWellsSchema = z.strictObject({ do: z.literal("wells.set"), wells: wellsSchema });

/** Sets the colours that are kept with the picture. */
export function setWells(
  { picture, setStructure }: Applying,
  { wells }: z.infer<typeof setWellsSchema>,
): string {
  if (new Set(wells.map(({ id }) => id)).size < wells.length)
    throw new Refusal("two of these wells have the same id");
  setStructure({ ...picture.structure, wells });
  return "change the wells";
}

export const wellsCommand = defineCommand({ schema: setWellsSchema, apply: setWells });
