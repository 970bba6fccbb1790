import { defineCommand } from "./define";
import { z } from "zod";
import { Refusal } from "../picture/refusal";
import { brushSchema } from "../stroke/brush";
import { redrawLinesOn } from "../lines/draw-lines";
import { type Applying } from "./command";

/** Brushes that one picture may hold. */
export const MOST_BRUSHES = 500;

export const bringBrushSchema = z.strictObject({
  do: z.literal("brush.bring"),
  brush: brushSchema,
});

/**
 * Puts a brush into the picture's own kit, in place of one with its id: strokes that name it
 * find it there, whoever opens the picture. What was painted before stays as it is; lines are drawn with the new one.
 * @throws Refusal where a tip's picture cannot be read
 */
export function bringBrush(
  applying: Applying,
  { brush }: z.infer<typeof bringBrushSchema>,
): string {
  const { picture, bench, setStructure } = applying;
  const { structure } = picture;
  const { brushes } = structure;
  if (!(brush.id in brushes) && Object.keys(brushes).length >= MOST_BRUSHES)
    throw new Refusal(`a picture holds at most ${MOST_BRUSHES} brushes`);
  for (const { tip } of [brush, ...(brush.overtip ? [brush.overtip] : [])])
    if (tip.kind === "pictures") for (const one of tip.pictures) bench.tips.get(one);
  setStructure({ ...structure, brushes: { ...brushes, [brush.id]: brush } });
  redrawLinesOn(applying, ({ id }) => id === brush.id);
  return "bring brush";
}

export const brushCommand = defineCommand({
  schema: bringBrushSchema,
  apply: bringBrush,
  silent: true,
});
