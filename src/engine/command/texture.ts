import { defineCommand } from "./define";
import { z } from "zod";
import { hexColour, hexToQ15 } from "../colour/srgb";
import { heightAt, paperMap, type PaperMap, paperSchema, scaledPaper } from "../paper/paper";
import { layerId, newId, layerName } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { ONE, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { type Applying } from "./command";
import { addClipped } from "./shading";

/**
 * The grain of a paper laid over what a layer holds, on a new layer clipped to it: full in the
 * hollows, nothing on the heights, so that a flat gets a surface and keeps its value on the whole.
 */
export const textureSchema = z.strictObject({
  do: z.literal("texture"),
  layer: layerId,
  id: newId,
  name: layerName,
  paper: paperSchema,
  colour: hexColour,
  /** How strong it is in the deepest hollow, 0…1. */
  strength: z.number().min(0.01).max(1).default(0.2),
});

export function layTexture(applying: Applying, command: z.infer<typeof textureSchema>): string {
  const { picture, bench } = applying;
  const { layer: source, id, paper, strength } = command;
  const below = addClipped(applying, command);
  const plane = picture.plane(source);
  if (plane.size === 0)
    throw new Refusal(`“${below.name}” holds nothing that a texture could lie on.`);
  const map = paperMap(paper);
  const { store } = bench;
  const ink = hexToQ15(command.colour);
  const sheet = store.create();
  for (const [key, shape] of [...plane]) {
    writeGrain(store.heap.u16, sheet, key, map, ink, strength);
    const tile = store.create();
    store.kernels.holdBack(tile.address, sheet.address, store.address(shape), 0);
    store.settle(tile);
    if (store.isEmpty(tile)) store.release(tile);
    else applying.swap(id, key, tile);
  }
  store.release(sheet);
  return "lay texture";
}

/** One tile of a colour that is as strong as the paper is deep, premultiplied. */
function writeGrain(
  u16: Uint16Array,
  { address }: Tile,
  key: number,
  map: PaperMap,
  [r, g, b]: readonly number[],
  strength: number,
): void {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  for (let y = 0; y < TILE_SIDE; y++)
    for (let x = 0; x < TILE_SIDE; x++) {
      const depth = strength * (1 - heightAt(map, left + x, top + y));
      const at = (address >> 1) + y * 256 + (x >> 3) * 32 + (x & 7);
      u16[at] = Math.round((r as number) * depth);
      u16[at + 8] = Math.round((g as number) * depth);
      u16[at + 16] = Math.round((b as number) * depth);
      u16[at + 24] = Math.round(ONE * depth);
    }
}

export const textureCommand = defineCommand({
  schema: textureSchema,
  apply: layTexture,
  scaled: (command, by) => ({ ...command, paper: scaledPaper(command.paper, by) }),
});
