import { defineCommand } from "./define";
import { z } from "zod";
import { blendNumber, blendSchema } from "../compose/blend-modes";
import { rewriteTiles } from "../fill/cover";
import { type GradientPaint, paintSchema, scaledPaint } from "../gradient/gradient";
import { writeGradient } from "../gradient/write";
import { layerId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { ONE, TILE_BYTES, tilesIn } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Applying } from "./command";

export const gradientSchema = z.strictObject({
  do: z.literal("gradient"),
  layer: layerId,
  paint: paintSchema,
  blend: blendSchema.default("normal"),
  opacity: z.number().min(0).max(1).default(1),
});

/** Lays a gradient over all of a layer, or what is selected of it. */
export function layGradient(applying: Applying, command: z.infer<typeof gradientSchema>): string {
  const { picture, bench } = applying;
  const layer = workableLayer(picture, command.layer);
  if (command.paint.kind !== "gradient") throw new Refusal("this is one colour and no gradient");
  const paint: GradientPaint = command.paint;
  const { width, height } = picture;
  const keys = layer.lockTransparency
    ? [...picture.plane(layer.id).keys()]
    : tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  const { store, workforce } = bench;
  const spare = store.create();
  for (const key of keys)
    rewriteTiles(applying, layer.id, [key], (_key, address, before) => {
      workforce.write(TAPE.copy, address, before, TILE_BYTES);
      writeGradient(store, workforce, paint, key, spare.address);
      workforce.write(
        TAPE.blend,
        address,
        spare.address,
        blendNumber(command.blend),
        Math.round(command.opacity * ONE),
        layer.lockTransparency ? 1 : 0,
      );
    });
  store.release(spare);
  return "gradient";
}

export const gradientCommand = defineCommand({
  schema: gradientSchema,
  apply: layGradient,
  scaled: (command, by) => ({ ...command, paint: scaledPaint(command.paint, by) }),
});
