import { type Node, treeOf } from "../compose/tree";
import { COLOUR, hasPixels, MASK, type Picture, POWDER } from "../picture/picture";
import { type Bench } from "../bench";
import { ONE, TILE_BYTES } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";

/** A layer that is merged, and how far it is seen through the groups around it. */
type Laid = { id: string; opacity: number; covers: boolean; masked: boolean };

/** Layers with pixels, from the lowest. What is clipped to others neither has powder of its own then nor hides any. */
function laidOf(nodes: readonly Node[], through = 1): Laid[] {
  return nodes.flatMap(({ layer, children }): Laid[] => {
    const opacity = layer.opacity * through;
    if (layer.kind === "group") return laidOf(children, opacity);
    if (!hasPixels(layer.kind)) return [];
    const masked = layer.mask?.on ?? false;
    return [{ id: layer.id, opacity, covers: layer.blend === "normal", masked }];
  });
}

/**
 * The powder of layers that become one, tile by tile: graphite is still graphite, so that rubber lifts it, a stump
 * takes it along and water finds what dissolves. Tiles without any are left out.
 * @param stack a picture of these layers alone
 */
export function mergedPowder({ store, workforce }: Bench, stack: Picture): Map<number, Tile> {
  const laid = laidOf(treeOf(stack.structure.layers));
  const plane = (id: string, name: string): Map<number, Tile> | undefined =>
    stack.planes.get(id)?.get(name);
  const address = (id: string, name: string, key: number): number => {
    const tile = plane(id, name)?.get(key);
    return tile ? store.address(tile) : 0;
  };
  const keys = new Set(laid.flatMap(({ id }) => [...(plane(id, POWDER)?.keys() ?? [])]));
  const merged = new Map<number, Tile>();
  for (const key of keys) {
    const tile = store.create();
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.clear, tile.address, TILE_BYTES);
    for (const { id, opacity, covers, masked } of laid)
      workforce.write(
        ...[TAPE.mergeDust, tile.address, address(id, COLOUR, key), address(id, POWDER, key)],
        ...[masked ? address(id, MASK, key) : 0, Math.round(opacity * ONE), covers ? 1 : 0],
      );
    workforce.endJob();
    merged.set(key, tile);
  }
  workforce.run(true);
  for (const [key, tile] of merged) {
    store.settle(tile);
    if (!store.isEmpty(tile)) continue;
    store.release(tile);
    merged.delete(key);
  }
  return merged;
}
