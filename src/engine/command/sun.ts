import { defineCommand } from "./define";
import { z } from "zod";
import { sunPinSchema } from "../sun/sun-pin";
import { type Applying } from "./command";

export const setSunSchema = z.strictObject({
  do: z.literal("sun.set"),
  /** null takes it away. */
  sun: sunPinSchema.nullable(),
});

/** Says where the picture's light comes from. */
export function setSun(
  { picture, setStructure }: Applying,
  { sun }: z.infer<typeof setSunSchema>,
): string {
  setStructure({ ...picture.structure, sun });
  return "sun pin";
}

export const sunCommand = defineCommand({
  schema: setSunSchema,
  apply: setSun,
  scaled: ({ sun, ...command }, by) => ({
    ...command,
    sun: sun && { ...sun, at: { x: sun.at.x * by, y: sun.at.y * by } },
  }),
});
