import { type Plane } from "../picture/picture";
import { type Bench } from "../bench";
import { ONE } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";

/** What of paint makes a shape: that there is any, how light it is, or how dark. */
export const shapeWays = ["shape", "light", "dark"] as const;
export type ShapeWay = (typeof shapeWays)[number];

/** The shape of what a plane holds, in the alpha of tiles that are the caller's. */
export function shapeOf(
  { store, workforce }: Bench,
  plane: Plane,
  by: ShapeWay,
): Map<number, Tile> {
  const made = new Map<number, Tile>();
  const full = store.plain([0, 0, 0, ONE]);
  for (const [key, from] of plane) {
    const tile = store.create();
    made.set(key, tile);
    const source = store.address(from);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    if (by === "shape")
      workforce.write(TAPE.holdBack, tile.address, store.address(full), source, 0);
    else workforce.write(TAPE.lightMask, tile.address, source, by === "dark" ? 1 : 0);
    workforce.endJob();
  }
  workforce.run(true);
  store.release(full);
  for (const [key, tile] of made) {
    store.settle(tile);
    if (!store.isEmpty(tile)) continue;
    made.delete(key);
    store.release(tile);
  }
  return made;
}
