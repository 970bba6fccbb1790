import { Refusal } from "../picture/refusal";
import { defineCommand } from "./define";
import { z } from "zod";
import { fromBase64 } from "../file/base64";
import { ontoTiles } from "../file/onto-tiles";
import { readDeepPng, readPngHeader } from "../file/png";
import { layerId, workableLayer } from "../picture/picture";
import { type Applying } from "./command";

/** Largest PNG that a log may carry in one line, as base64. */
export const MOST_BASE64 = 400_000_000;

export const placeSchema = z.strictObject({
  do: z.literal("place"),
  layer: layerId,
  x: z.int().min(-16384).max(16384),
  y: z.int().min(-16384).max(16384),
  /** The pixels: a PNG, base64. That it is one is found when it is unpacked. */
  png: z.string().max(MOST_BASE64),
});

/** Pixels from which on it is told how far the work has come. */
const LONG_WORK = 4_000_000;
/** How much of the work is decoding. */
const DECODING = 0.8;

/** Puts a picture's pixels on a layer in place of what was there. What lies outside the sheet is cut off. */
export function place(applying: Applying, command: z.infer<typeof placeSchema>): string {
  const { picture, bench } = applying;
  const { layer, x, y } = command;
  workableLayer(picture, layer);
  const bytes = fromBase64(command.png);
  const { width, height } = readPngHeader(bytes);
  const told = (share: number): void => applying.tell("Bringing in the picture", share * DECODING);
  const { heap } = bench.store;
  let held: { at: number; bytes: number } | undefined;
  // Unpacked where the tiles are filled from, so that it need not be copied.
  const room = (count: number): Uint8Array => {
    held = { at: heap.allocate(count), bytes: count };
    return heap.u8.subarray(held.at, held.at + count);
  };
  try {
    const image = readDeepPng(bytes, width * height < LONG_WORK ? undefined : told, room);
    const under = picture.plane(layer);
    const sheet = { width: picture.width, height: picture.height, x, y };
    for (const [key, tile] of ontoTiles(bench.store, image, sheet, under, held?.at)) {
      if (!bench.store.isEmpty(tile)) applying.swap(layer, key, tile);
      else {
        bench.store.release(tile);
        if (under.has(key)) applying.swap(layer, key, null);
      }
    }
  } finally {
    if (held) heap.free(held.at, held.bytes);
  }
  return "bring in";
}

/** Why brought-in pixels stay at their size. */
export function refuseScaled(): never {
  throw new Refusal(
    "this picture holds brought-in pixels, which cannot be drawn anew at another size",
  );
}

export const placeCommand = defineCommand({
  schema: placeSchema,
  apply: place,
  scaled: refuseScaled,
});
