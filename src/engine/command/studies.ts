import { defineCommand } from "./define";
import { z } from "zod";
import { Refusal } from "../picture/refusal";
import { studiesSchema } from "../studies/studies";
import { type Applying } from "./command";

export const setStudiesSchema = z.strictObject({
  do: z.literal("studies.set"),
  /** null: it is no longer a sheet of studies. */
  studies: studiesSchema.nullable(),
});

/** Lays the frames of a sheet of studies. @throws Refusal where one does not lie on the sheet */
export function setStudies(
  { picture, setStructure }: Applying,
  { studies }: z.infer<typeof setStudiesSchema>,
): string {
  for (const { right, bottom } of studies?.frames ?? [])
    if (right > picture.width || bottom > picture.height)
      throw new Refusal(
        `a frame reaches to ${right}, ${bottom}, but the sheet is ${picture.width} × ${picture.height} px`,
      );
  setStructure({ ...picture.structure, studies });
  return "frames";
}

/** The same frames on a sheet `by` times as large. */
function scaledStudies(
  command: z.infer<typeof setStudiesSchema>,
  by: number,
): z.infer<typeof setStudiesSchema> {
  if (!command.studies) return command;
  const frames = command.studies.frames.map(({ left, top, right, bottom }) => ({
    left: Math.round(left * by),
    top: Math.round(top * by),
    right: Math.round(right * by),
    bottom: Math.round(bottom * by),
  }));
  return { ...command, studies: { ...command.studies, frames } };
}

export const studiesCommand = defineCommand({
  schema: setStudiesSchema,
  apply: setStudies,
  scaled: scaledStudies,
});
