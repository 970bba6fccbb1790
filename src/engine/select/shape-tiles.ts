import { type Regions } from "../region/regions";
import { ONE, TILE_SIDE, tileKey } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Polygon, polygonRow, rowsOf } from "./shapes";

/** A polygon as tiles of a mask: alpha is how much of a pixel it covers. The caller releases them. */
export function shapeTiles(
  store: TileStore,
  { width, height, words }: Pick<Regions, "width" | "height" | "words">,
  polygon: Polygon,
): Map<number, Tile> {
  const made = new Map<number, Tile>();
  const { top, bottom } = rowsOf(polygon, height);
  const band = Array.from({ length: TILE_SIDE }, () => new Float32Array(width));
  for (let row = Math.floor(top / TILE_SIDE); row * TILE_SIDE < bottom; row++) {
    let any = false;
    band.forEach((line, i) => {
      line.fill(0);
      const y = row * TILE_SIDE + i;
      if (y >= top && y < bottom && polygonRow(polygon, y, line)) any = true;
    });
    if (!any) continue;
    for (let column = 0; column < words; column++) {
      const tile = tileFrom(store, band, column * TILE_SIDE, width);
      if (tile) made.set(tileKey(column, row), tile);
    }
  }
  return made;
}

/** Looked up once: globals are slow to come by in a loop over pixels. */
const { round } = Math;

function tileFrom(
  store: TileStore,
  band: readonly Float32Array[],
  left: number,
  width: number,
): Tile | null {
  const right = Math.min(left + TILE_SIDE, width);
  let any = false;
  let all = right - left === TILE_SIDE;
  for (const line of band)
    for (let x = left; x < right; x++) {
      const v = line[x] as number;
      if (v > 0) any = true;
      if (v < 0.9999) all = false;
    }
  if (!any) return null;
  if (all) return store.plain([0, 0, 0, ONE]);
  const tile = store.create();
  store.kernels.fillTile(tile.address, 0, 0, 0, 0);
  const { u16 } = store.heap;
  band.forEach((line, y) => {
    const row = (tile.address >> 1) + y * 256 + 24;
    for (let x = left; x < right; x++) {
      const inTile = x - left;
      const share = line[x] as number;
      u16[row + (inTile >> 3) * 32 + (inTile & 7)] = round(share < 1 ? share * ONE : ONE);
    }
  });
  return tile;
}
