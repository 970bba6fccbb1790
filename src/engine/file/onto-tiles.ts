import { type Plane } from "../picture/picture";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type DeepPixels } from "./png";

const NOTHING = [0, 0, 0, 0] as const;

/** Where an image's upper left corner goes on a sheet, px. */
export type OnSheet = { x: number; y: number; width: number; height: number };

/**
 * An image (straight RGBA, 8 or 16 bits) as tiles of a sheet, over copies of what is `under`
 * it. Yields each tile that it reaches, settled; the tile is the caller's. What lies outside
 * of the sheet is cut off.
 * @param held where the image lies in the store's own memory already; left out, it is copied there
 */
export function* ontoTiles(
  store: TileStore,
  image: DeepPixels,
  sheet: OnSheet,
  under: Plane,
  held?: number,
): Generator<[key: number, tile: Tile]> {
  const { data, width: across } = image;
  const { x, y } = sheet;
  const isDeep = data instanceof Uint16Array;
  const own = held === undefined ? store.heap.allocate(data.byteLength) : null;
  if (own !== null)
    store.heap.u8.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), own);
  const at = own ?? (held as number);
  const pixelBytes = isDeep ? 8 : 4;
  const unpack = isDeep ? store.kernels.unpackStraight16 : store.kernels.unpackStraight8;
  const box = { left: x, top: y, right: x + across, bottom: y + image.height };
  try {
    for (const key of tilesIn(box, sheet.width, sheet.height)) {
      const px = tileColumn(key) * TILE_SIDE;
      const py = tileRow(key) * TILE_SIDE;
      const left = Math.max(x, px);
      const top = Math.max(y, py);
      const width = Math.min(x + across, px + TILE_SIDE, sheet.width) - left;
      const height = Math.min(y + image.height, py + TILE_SIDE, sheet.height) - top;
      const known = under.get(key);
      const isWhole = width === TILE_SIDE && height === TILE_SIDE;
      const tile = isWhole ? store.create() : known ? store.copy(known) : store.plain(NOTHING);
      const source = at + ((top - y) * across + (left - x)) * pixelBytes;
      const row = across * pixelBytes;
      unpack(store.address(tile), source, row, left - px, top - py, width, height);
      store.settle(tile);
      yield [key, tile];
      store.trim();
    }
  } finally {
    if (own !== null) store.heap.free(own, data.byteLength);
  }
}
