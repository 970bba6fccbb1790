import { z } from "zod";
import { fromBase64 } from "../file/base64";
import { readDeepPng } from "../file/png";
import { layerId, workableLayer } from "../picture/picture";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { type Applying } from "./command";

/** Largest PNG that a log may carry in one line, as base64. */
const MOST_BASE64 = 400_000_000;

export const placeSchema = z.strictObject({
  do: z.literal("place"),
  layer: layerId,
  x: z.int().min(-16384).max(16384),
  y: z.int().min(-16384).max(16384),
  /** The pixels: a PNG, base64. */
  png: z.base64().max(MOST_BASE64),
});

/** Puts a picture's pixels on a layer in place of what was there. What lies outside the sheet is cut off. */
export function place(applying: Applying, command: z.infer<typeof placeSchema>): string {
  const { picture, bench } = applying;
  workableLayer(picture, command.layer);
  const image = readDeepPng(fromBase64(command.png));
  const { store } = bench;
  const { data } = image;
  const isDeep = data instanceof Uint16Array;
  const at = store.heap.allocate(data.byteLength);
  store.heap.u8.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at);
  const pixelBytes = isDeep ? 8 : 4;
  const unpack = isDeep ? store.kernels.unpackStraight16 : store.kernels.unpackStraight8;
  const { x, y } = command;
  const box = { left: x, top: y, right: x + image.width, bottom: y + image.height };
  for (const key of tilesIn(box, picture.width, picture.height)) {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const left = Math.max(x, px);
    const top = Math.max(y, py);
    const width = Math.min(x + image.width, px + TILE_SIDE, picture.width) - left;
    const height = Math.min(y + image.height, py + TILE_SIDE, picture.height) - top;
    const known = picture.plane(command.layer).get(key);
    const tile = known ? store.copy(known) : store.plain([0, 0, 0, 0]);
    const source = at + ((top - y) * image.width + (left - x)) * pixelBytes;
    unpack(
      store.address(tile),
      source,
      image.width * pixelBytes,
      left - px,
      top - py,
      width,
      height,
    );
    store.settle(tile);
    if (store.isEmpty(tile)) {
      store.release(tile);
      if (known) applying.swap(command.layer, key, null);
    } else applying.swap(command.layer, key, tile);
    store.trim();
  }
  store.heap.free(at, data.byteLength);
  return "bring in";
}
