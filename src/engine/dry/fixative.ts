import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { rewriteTiles } from "../fill/cover";
import { layerId, POWDER, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { realWord, TAPE } from "../tiles/tape";

export const fixPowderSchema = z.strictObject({
  do: z.literal("powder.fix"),
  layers: z.array(layerId).min(1).max(500),
  /** Share of the loose powder that one coat binds. */
  share: z.number().min(0).max(1).default(0.7),
});

/**
 * A coat of fixative: part of the powder that lies loose is bound, inside the selection where there is
 * one. Colour, mass and wax stay; a stump or an eraser takes up less of it from then on.
 * @throws Refusal where no powder lies on any of the layers
 */
function fixPowder(applying: Applying, { layers, share }: z.infer<typeof fixPowderSchema>): string {
  const { picture, bench } = applying;
  for (const id of layers) workableLayer(picture, id);
  const dusty = layers.filter((id) => picture.plane(id, POWDER).size > 0);
  if (dusty.length === 0) throw new Refusal("No powder lies there that could be fixed.");
  const left = realWord(1 - share);
  for (const id of dusty)
    rewriteTiles(
      applying,
      id,
      [...picture.plane(id, POWDER).keys()],
      (_key, address, before) => bench.workforce.write(TAPE.bind, address, before, left),
      POWDER,
    );
  return "fixative";
}

export const fixPowderCommand = defineCommand({ schema: fixPowderSchema, apply: fixPowder });
