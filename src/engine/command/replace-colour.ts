import { defineCommand } from "./define";
import { z } from "zod";
import { hexColour, hexToQ15 } from "../colour/srgb";
import { cover } from "../fill/cover";
import { layerId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { openBits, sourceOf } from "../region/source";
import { type Applying } from "./command";
import { withRegions } from "./fill";

export const replaceColourSchema = z.strictObject({
  do: z.literal("colour.replace"),
  layer: layerId,
  from: hexColour,
  to: hexColour,
  /** How far a colour may lie from `from` (ΔE in OKLab). */
  tolerance: z.number().min(0).max(1).default(0.03),
});

/** Every pixel of a layer that has one colour takes another; alpha stays. */
export function replaceColour(
  applying: Applying,
  { layer, from, to, tolerance }: z.infer<typeof replaceColourSchema>,
): string {
  workableLayer(applying.picture, layer);
  withRegions(applying, (regions) => {
    const source = sourceOf(regions, applying.picture, "layer", layer);
    const bits = openBits(regions, source, hexToQ15(from), tolerance);
    if (regions.area(bits) === 0) throw new Refusal(`nothing on this layer is coloured ${from}`);
    cover(applying, regions, bits, layer, to, "inside");
  });
  return "replace a colour";
}

export const replaceColourCommand = defineCommand({
  schema: replaceColourSchema,
  apply: replaceColour,
});
