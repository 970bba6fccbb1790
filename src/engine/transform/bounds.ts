import { type Plane } from "../picture/picture";
import { type Box, growBox, emptyBox, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";

/** The least box around all that is painted in a plane, px; null where nothing is. */
export function contentBox(store: TileStore, plane: Plane): Box | null {
  const box = emptyBox();
  for (const [key, tile] of plane) {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const inside =
      px >= box.left &&
      py >= box.top &&
      px + TILE_SIDE <= box.right &&
      py + TILE_SIDE <= box.bottom;
    if (inside) continue;
    const own = paintedIn(store, tile);
    if (!own) continue;
    growBox(box, {
      left: px + own.left,
      top: py + own.top,
      right: px + own.right,
      bottom: py + own.bottom,
    });
  }
  return box.right > box.left ? box : null;
}

/** The least box around a tile's paint, px of the tile. */
function paintedIn(store: TileStore, tile: Tile): Box | null {
  if (tile.colour)
    return tile.colour[3] > 0 ? { left: 0, top: 0, right: TILE_SIDE, bottom: TILE_SIDE } : null;
  const alpha = (store.address(tile) >> 1) + 24;
  const { u16 } = store.heap;
  const box = emptyBox();
  for (let y = 0; y < TILE_SIDE; y++)
    for (let x = 0; x < TILE_SIDE; x++) {
      if (u16[alpha + y * 256 + (x >> 3) * 32 + (x & 7)] === 0) continue;
      if (x < box.left) box.left = x;
      if (x >= box.right) box.right = x + 1;
      if (y < box.top) box.top = y;
      box.bottom = y + 1;
    }
  return box.right > box.left ? box : null;
}
