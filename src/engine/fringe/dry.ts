import { type Applying } from "../command/command";
import { withLayers } from "../command/layers";
import { tilesAround } from "../tiles/layout";
import { writeFringe } from "./write";

/** Lays a layer's fringe into its pixels: it looks as it did, and is not changed any more. */
export function dryFringe(applying: Applying, id: string): void {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const { fringe } = picture.layer(id);
  if (!fringe) return;
  const plane = picture.plane(id);
  const keys = [...plane.keys()];
  const addressAt = (key: number): number => {
    const tile = plane.get(key);
    return tile ? store.address(tile) : 0;
  };
  const made = keys.map((key) => {
    const tile = store.create();
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    const places = [tile.address, addressAt(key)] as const;
    writeFringe(workforce, fringe, key, places, tilesAround(key).map(addressAt), picture);
    workforce.endJob();
    return tile;
  });
  workforce.run(true);
  keys.forEach((key, i) => applying.swap(id, key, made[i] ?? null));
  withLayers(
    applying,
    picture.structure.layers.map((one) => (one.id === id ? { ...one, fringe: null } : one)),
  );
}
