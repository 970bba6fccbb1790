import { type Picture } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { type DeepPixels, inEightBits, type Pixels } from "../engine/file/png";
import { type Box, ONE, pixelOffset, tileKey } from "../engine/tiles/layout";
import { type TileStore } from "../engine/tiles/tile-store";

/** Most pixels that are read one by one. */
const MOST_PIXELS = 4096 * 4096;
const MOST = 65535;

/**
 * What a layer holds in a box: straight RGBA, sixteen bits a channel.
 * @throws Refusal where the box lies outside the picture or is too large
 */
export function deepLayerPixels(
  picture: Picture,
  store: TileStore,
  layer: string,
  box: Box,
): DeepPixels & { data: Uint16Array } {
  picture.layer(layer);
  const left = Math.max(0, Math.floor(box.left));
  const top = Math.max(0, Math.floor(box.top));
  const width = Math.min(picture.width, Math.ceil(box.right)) - left;
  const height = Math.min(picture.height, Math.ceil(box.bottom)) - top;
  if (!(width > 0 && height > 0)) throw new Refusal("the box lies outside the picture");
  if (width * height > MOST_PIXELS) throw new Refusal("the box is too large");
  const data = new Uint16Array(width * height * 4);
  const plane = picture.plane(layer);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const tile = plane.get(tileKey((left + x) >> 6, (top + y) >> 6));
      if (!tile) continue;
      const at = store.address(tile) + pixelOffset((left + x) & 63, (top + y) & 63, 0);
      const { u16 } = store.heap;
      const a = u16[(at >> 1) + 24] as number;
      if (a === 0) continue;
      const to = (y * width + x) * 4;
      for (let c = 0; c < 3; c++)
        data[to + c] = Math.min(MOST, Math.round(((u16[(at >> 1) + c * 8] as number) / a) * MOST));
      data[to + 3] = Math.round((a / ONE) * MOST);
    }
  return { width, height, data };
}

/** The same at eight bits a channel. */
export function layerPixels(picture: Picture, store: TileStore, layer: string, box: Box): Pixels {
  const pixels = deepLayerPixels(picture, store, layer, box);
  return { ...pixels, data: inEightBits(pixels.data) };
}
