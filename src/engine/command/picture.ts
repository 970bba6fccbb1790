import { defineCommand } from "./define";
import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { paperBands, paperSchema, scaledPaper } from "../paper/paper";
import { Refusal } from "../picture/refusal";
import { redrawLinesOn } from "../lines/draw-lines";
import { dryOf } from "../stroke/brush";
import { type Applying } from "./command";

export const pictureSetSchema = z.strictObject({
  do: z.literal("picture.set"),
  ground: hexColour.optional(),
  paper: paperSchema.optional(),
});

/** Changes the ground colour or the paper; what was painted before keeps its grain, lines are drawn anew. */
export function setPicture(applying: Applying, command: z.infer<typeof pictureSetSchema>): string {
  const { ground, paper } = command;
  if (!ground && !paper) throw new Refusal("neither a ground nor a paper was given");
  // Its picture is read before anything is drawn on it.
  if (paper?.kind === "picture") paperBands(paper);
  const { structure } = applying.picture;
  applying.setStructure({
    ...structure,
    ground: ground ?? structure.ground,
    paper: paper ?? structure.paper,
  });
  // Dry lines stay editable: they are drawn on the sheet that is there.
  if (paper) redrawLinesOn(applying, (brush) => dryOf(brush) !== null || brush.grain !== null);
  return paper ? "change paper" : "change ground";
}

export const pictureCommand = defineCommand({
  schema: pictureSetSchema,
  apply: setPicture,
  scaled: ({ paper, ...command }, by) =>
    paper ? { ...command, paper: scaledPaper(paper, by) } : command,
});
