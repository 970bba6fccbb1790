import { z } from "zod";
import { type Adjustment, adjustmentSchema, isTone } from "../adjust/adjustment";
import { blurPlane } from "../adjust/blur";
import { addNoise, sharpened } from "../adjust/grain";
import { writeTone } from "../adjust/write";
import { rewriteTiles } from "../fill/cover";
import { layerId, type Picture, workableLayer } from "../picture/picture";
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
  const keys = [...picture.plane(id).keys()];
  if (isTone(adjustment)) {
    rewriteTiles(applying, id, keys, (_key, address, before) =>
      writeTone(store, workforce, adjustment, address, before),
    );
    return;
  }
  const made =
    adjustment.kind === "noise"
      ? addNoise(bench, picture.plane(id), adjustment)
      : blurred(applying, picture, id, adjustment.radius);
  if (adjustment.kind === "sharpen") sharpened(bench, picture.plane(id), made, adjustment.amount);
  putTiles(applying, id, made, picture.layer(id).lockTransparency);
}

const blurred = ({ bench }: Applying, picture: Picture, id: string, radius: number) =>
  blurPlane(bench, picture, picture.plane(id), radius);

/** Exchanges a layer's tiles for made ones, inside the selection; the made ones are let go of. */
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
  for (const tile of made.values()) store.release(tile);
}

/** The same adjustment on a sheet `by` times as large: a blur reaches farther. */
export function scaledAdjust(
  command: z.infer<typeof adjustSchema>,
  by: number,
): z.infer<typeof adjustSchema> {
  const { adjustment } = command;
  if (adjustment.kind !== "blur" && adjustment.kind !== "sharpen") return command;
  const most = adjustment.kind === "blur" ? 500 : 100;
  const radius = Math.min(most, Math.max(0.5, adjustment.radius * by));
  return { ...command, adjustment: { ...adjustment, radius } };
}
