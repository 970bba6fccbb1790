import { packRaw } from "../engine/file/zlib";
import { type Picture, type PlaneName } from "../engine/picture/picture";
import { type Tile, type TileStore } from "../engine/tiles/tile-store";
import { type TileRecord } from "./records";

/** Compression of tiles at rest: they are written in the background, often. */
const DEFLATE_LEVEL = 1;
/** Tiles encoded before giving way. */
const SLICE = 6;

/** A tile as it was at one moment, held on to until it is encoded; null: none. */
export type Captured = { layer: string; plane: PlaneName; key: number; tile: Tile | null };
export type Encoded = { layer: string; plane: PlaneName; key: number; record: TileRecord | null };

/** Bytes that a tile's record takes, about. */
export const sizeOf = (record: unknown): number =>
  record instanceof Uint8Array ? record.length : record ? 16 : 0;

/** Takes hold of tiles as they are now. */
export function capture(
  store: TileStore,
  picture: Picture,
  planes: Iterable<{ layer: string; plane: PlaneName; keys: Iterable<number> }>,
): Captured[] {
  const captured: Captured[] = [];
  for (const { layer, plane, keys } of planes) {
    const tiles = picture.plane(layer, plane);
    for (const key of keys) {
      const tile = tiles.get(key) ?? null;
      captured.push({ layer, plane, key, tile: tile && store.retain(tile) });
    }
  }
  return captured;
}

/** Encodes captured tiles and lets go of them; other work goes first now and then. */
export async function encode(
  store: TileStore,
  captured: readonly Captured[],
  giveWay: () => Promise<void>,
): Promise<Encoded[]> {
  const encoded: Encoded[] = [];
  for (const [i, { layer, plane, key, tile }] of captured.entries()) {
    let record: TileRecord | null = null;
    if (tile) {
      record = tile.colour ? [...tile.colour] : packRaw(store.filtered(tile), DEFLATE_LEVEL);
      store.release(tile);
    }
    encoded.push({ layer, plane, key, record });
    if (i % SLICE === SLICE - 1) await giveWay();
  }
  return encoded;
}
