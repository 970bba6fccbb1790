import { type Plane } from "../picture/picture";
import { type Box, ONE, TILE_BYTES, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";

/** A plane in two: what lies in a box, and the rest. Both hold their tiles; free them with `letGo`. */
export type Lifted = { lifted: Plane; rest: Plane };

/**
 * Parts a plane along a box (whole pixels; null: all of it is lifted), or along a mask where
 * one is given: the share of a pixel that its alpha says is lifted, the rest stays.
 */
export function lift(
  store: TileStore,
  plane: Plane,
  box: Box | null,
  mask: Plane | null = null,
): Lifted {
  const lifted: Plane = new Map();
  const rest: Plane = new Map();
  if (mask && !box) {
    for (const [key, tile] of plane) liftThrough(store, key, tile, mask.get(key), lifted, rest);
    return { lifted, rest };
  }
  for (const [key, tile] of plane) {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const part = box ? within(box, px, py) : ALL;
    if (part === ALL) lifted.set(key, store.retain(tile));
    else if (part === null) rest.set(key, store.retain(tile));
    else {
      lifted.set(key, kept(store, tile, part, true));
      rest.set(key, kept(store, tile, part, false));
    }
  }
  return { lifted, rest };
}

function liftThrough(
  store: TileStore,
  key: number,
  tile: Tile,
  mask: Tile | undefined,
  lifted: Plane,
  rest: Plane,
): void {
  if (!mask) rest.set(key, store.retain(tile));
  else if (mask.colour?.[3] === ONE) lifted.set(key, store.retain(tile));
  else
    for (const [plane, outside] of [
      [lifted, 0],
      [rest, 1],
    ] as const) {
      const made = store.create();
      store.kernels.holdBack(made.address, store.address(tile), store.address(mask), outside);
      store.settle(made);
      if (store.isEmpty(made)) store.release(made);
      else plane.set(key, made);
    }
}

export function letGo(store: TileStore, { lifted, rest }: Lifted): void {
  for (const plane of [lifted, rest]) for (const tile of plane.values()) store.release(tile);
}

const ALL = { left: 0, top: 0, right: TILE_SIDE, bottom: TILE_SIDE };

/** The part of a tile that a box covers, px of the tile; null: none. */
function within(box: Box, px: number, py: number): Box | null {
  const left = Math.max(0, box.left - px);
  const top = Math.max(0, box.top - py);
  const right = Math.min(TILE_SIDE, box.right - px);
  const bottom = Math.min(TILE_SIDE, box.bottom - py);
  if (right <= left || bottom <= top) return null;
  if (left === 0 && top === 0 && right === TILE_SIDE && bottom === TILE_SIDE) return ALL;
  return { left, top, right, bottom };
}

/** A copy of a tile with only what is inside of a part, or only what is outside. */
function kept(store: TileStore, tile: Tile, part: Box, inside: boolean): Tile {
  const from = store.address(tile);
  const made = store.create();
  const to = store.address(made);
  store.kernels.copyBytes(to, from, TILE_BYTES);
  const { u16 } = store.heap;
  for (let y = 0; y < TILE_SIDE; y++)
    for (let x = 0; x < TILE_SIDE; x++) {
      const isIn = x >= part.left && x < part.right && y >= part.top && y < part.bottom;
      if (isIn === inside) continue;
      const at = (to >> 1) + y * 256 + (x >> 3) * 32 + (x & 7);
      for (let c = 0; c < 32; c += 8) u16[at + c] = 0;
    }
  return made;
}
