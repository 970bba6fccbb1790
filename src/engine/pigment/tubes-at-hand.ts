import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { tubes } from "./tubes";

const names = tubes.map(({ name }) => name);

/** Tubes that are at hand in a picture, by name; null: the whole box. */
export const tubesAtHandSchema = z
  .array(
    z.string().refine((name) => names.includes(name), {
      error: ({ input }) => `there is no tube “${String(input)}” in the box`,
    }),
  )
  .min(1, { message: "one tube at least is at hand" })
  .max(tubes.length)
  .refine((list) => new Set(list).size === list.length, { message: "a tube is named twice" })
  .nullable();

export const setTubesSchema = z.strictObject({
  do: z.literal("tubes.set"),
  tubes: tubesAtHandSchema,
});

/** Lays out the tubes that a picture is painted with. */
function setTubes(
  { picture, setStructure }: Applying,
  { tubes: atHand }: z.infer<typeof setTubesSchema>,
): string {
  setStructure({ ...picture.structure, tubes: atHand });
  return "choose tubes";
}

export const tubesCommand = defineCommand({ schema: setTubesSchema, apply: setTubes });
