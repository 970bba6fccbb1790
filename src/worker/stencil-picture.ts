import { type Stencil } from "../engine/stencil/stencil";
import { type Picture, stencilPlanes } from "../engine/picture/picture";
import { pixelOffset, tileKey } from "../engine/tiles/layout";
import { type Tile, type TileStore } from "../engine/tiles/tile-store";

/** A stencil's shape as it was cut: `alpha` of `width` × `height` points spread over its box. */
export type StencilPicture = { width: number; height: number; alpha: Uint8Array<ArrayBuffer> };

/** Longest side of the small picture, px. */
const LONGEST = 1600;

/** A small picture of a stencil's shape, to be seen over the sheet. */
export function stencilPicture(
  picture: Picture,
  store: TileStore,
  { id, from }: Pick<Stencil, "id" | "from">,
): StencilPicture {
  const across = from.right - from.left;
  const down = from.bottom - from.top;
  const step = Math.max(1, Math.max(across, down) / LONGEST);
  const width = Math.max(1, Math.round(across / step));
  const height = Math.max(1, Math.round(down / step));
  const alpha = new Uint8Array(width * height);
  const plane = picture.plane(stencilPlanes(id));
  let key = -1;
  let tile: Tile | undefined;
  let address = 0;
  for (let j = 0, at = 0; j < height; j++) {
    const y = Math.floor(from.top + ((j + 0.5) * down) / height);
    for (let i = 0; i < width; i++, at++) {
      const x = Math.floor(from.left + ((i + 0.5) * across) / width);
      const next = tileKey(x >> 6, y >> 6);
      if (next !== key) {
        key = next;
        tile = plane.get(key);
        if (tile && !tile.colour) address = store.address(tile);
      }
      if (!tile) continue;
      // The heap may grow when a cold tile is unpacked: no view of it is kept.
      const own = tile.colour
        ? tile.colour[3]
        : (store.heap.u16[(address + pixelOffset(x & 63, y & 63, 3)) >> 1] as number);
      alpha[at] = own >> 7;
    }
  }
  return { width, height, alpha };
}
