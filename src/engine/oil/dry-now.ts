import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { dryFringe } from "../fringe/dry";
import { hasFringe, layerId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { blowDry } from "../water/blow-dry";
import { isWashWet } from "../water/wash-planes";
import { isWet } from "./drying";

export const dryPaintSchema = z.strictObject({
  do: z.literal("paint.dry"),
  layers: z.array(layerId).min(1).max(500),
});

/**
 * Lets wet paint dry at once. It looks as it did, but for its shine; what comes over
 * it no longer mixes with it, and its fringe is part of it.
 * @throws Refusal where none of the layers is wet
 */
function dryPaint(applying: Applying, { layers }: z.infer<typeof dryPaintSchema>): string {
  const { picture } = applying;
  for (const id of layers) workableLayer(picture, id);
  const oils = layers.filter((id) => isWet(picture, id));
  const washes = layers.filter((id) => isWashWet(picture, id));
  const fringed = layers.filter((id) => hasFringe(picture.layer(id)));
  if (oils.length + washes.length + fringed.length === 0)
    throw new Refusal("No paint is wet there.");
  for (const id of washes) blowDry(applying, id);
  for (const id of oils) applying.dry(id);
  for (const id of fringed) dryFringe(applying, id);
  return "dry";
}

export const dryPaintCommand = defineCommand({ schema: dryPaintSchema, apply: dryPaint });
