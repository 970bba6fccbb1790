import { unpackRaw } from "../engine/file/zlib";
import { TILE_BYTES } from "../engine/tiles/layout";
import { type Tile, type TileStore } from "../engine/tiles/tile-store";
import { tileRecord } from "./records";

/**
 * A tile in memory from its record.
 * @throws an error where it cannot be read
 */
export function readTile(store: TileStore, value: unknown): Tile {
  const record = tileRecord.parse(value);
  if (!(record instanceof Uint8Array)) return store.plain(record);
  const filtered = new Uint8Array(TILE_BYTES);
  unpackRaw(record, filtered);
  return store.fromFiltered(filtered);
}
