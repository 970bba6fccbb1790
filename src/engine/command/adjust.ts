import { defineCommand } from "./define";
import { z } from "zod";
import { type Adjustment, adjustmentSchema, isTone } from "../adjust/adjustment";
import { blurPlane } from "../adjust/blur";
import { writeNoise, writeSharper, writeTone } from "../adjust/write";
import { rewriteTiles } from "../fill/cover";
import { layerId, workableLayer } from "../picture/picture";
import { ONE, TILE_BYTES } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Applying } from "./command";

export const adjustSchema = z.strictObject({
  do: z.literal("adjust"),
  layers: z.array(layerId).min(1).max(500),
  adjustment: adjustmentSchema,
});

/** Changes the colours of layers, inside the selection where there is one. */
export function adjust(
  applying: Applying,
  { layers, adjustment }: z.infer<typeof adjustSchema>,
): string {
  for (const id of layers) workableLayer(applying.picture, id);
  for (const id of layers) adjustLayer(applying, id, adjustment);
  return adjustment.kind;
}

function adjustLayer(applying: Applying, id: string, adjustment: Adjustment): void {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const plane = picture.plane(id);
  if (isTone(adjustment))
    return rewriteTiles(applying, id, [...plane.keys()], (_key, address, before) =>
      writeTone(store, workforce, adjustment, address, before),
    );
  if (adjustment.kind === "noise")
    return rewriteTiles(applying, id, [...plane.keys()], (key, address, before) =>
      writeNoise(workforce, adjustment, key, address, before),
    );
  const soft = blurPlane(bench, picture, plane, adjustment.radius);
  if (adjustment.kind === "blur") putTiles(applying, id, soft, picture.layer(id).lockTransparency);
  else
    rewriteTiles(applying, id, [...plane.keys()], (key, address, before) => {
      const tile = soft.get(key);
      const from = tile ? store.address(tile) : store.nothing;
      writeSharper(workforce, adjustment, address, before, from);
    });
  for (const tile of soft.values()) store.release(tile);
}

/** Exchanges a layer's tiles for made ones, inside the selection. */
function putTiles(
  applying: Applying,
  id: string,
  made: Map<number, Tile>,
  keepAlpha: boolean,
): void {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const keys = new Set([...picture.plane(id).keys(), ...(keepAlpha ? [] : made.keys())]);
  rewriteTiles(applying, id, [...keys], (key, address, before) => {
    const tile = made.get(key);
    const from = tile ? store.address(tile) : store.nothing;
    if (!keepAlpha) return workforce.write(TAPE.copy, address, from, TILE_BYTES);
    // New colour inside the old shape.
    workforce.write(TAPE.copy, address, before, TILE_BYTES);
    workforce.write(TAPE.blend, address, from, 0, ONE, 1);
  });
}

/** Farthest that a blur and a sharpening of a layer's paint may reach, px. */
const MOST = { blur: 500, sharpen: 100 };

/** The same adjustment on a sheet `by` times as large: a blur reaches farther, `most` px at most. */
export function scaledAdjustment(adjustment: Adjustment, by: number, most?: number): Adjustment {
  if (adjustment.kind !== "blur" && adjustment.kind !== "sharpen") return adjustment;
  const farthest = most ?? MOST[adjustment.kind];
  return { ...adjustment, radius: Math.min(farthest, Math.max(0.5, adjustment.radius * by)) };
}

const scaledAdjust = (
  command: z.infer<typeof adjustSchema>,
  by: number,
): z.infer<typeof adjustSchema> => ({
  ...command,
  adjustment: scaledAdjustment(command.adjustment, by),
});

export const adjustCommand = defineCommand({
  schema: adjustSchema,
  apply: adjust,
  scaled: scaledAdjust,
});
