import { Picture } from "../picture/picture";
import { type Below } from "../bench";
import { TILE_BYTES } from "../tiles/layout";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { Compositor } from "./compositor";
import { groupsAround, isEverywhere } from "./tree";

/** What is seen of the layers under one, without the ground: composited when asked for, and kept. */
export function below(
  picture: Picture,
  layer: string,
  store: TileStore,
  workforce: Workforce,
): Below {
  const under = new Picture(picture.header);
  const { structure } = picture;
  const place = picture.indexOf(layer);
  const above = groupsAround(structure.layers, layer);
  under.structure = {
    ...structure,
    layers: structure.layers.map((one, i) =>
      i < place || above.has(one.id) ? one : { ...one, visible: false },
    ),
  };
  for (const [id, planes] of picture.planes) under.planes.set(id, planes);
  const compositor = new Compositor(under, store, workforce, false);
  const kept = new Map<number, number>();
  const everywhere = isEverywhere(under.structure.layers);
  const isPainted = (key: number): boolean =>
    everywhere ||
    under.structure.layers.some(({ id, visible }) => visible && under.plane(id).has(key));
  return {
    at(key) {
      const known = kept.get(key);
      if (known !== undefined) return known;
      if (!isPainted(key)) {
        kept.set(key, 0);
        return 0;
      }
      const address = store.heap.allocate(TILE_BYTES);
      compositor.compose([key], (_key, from) => store.kernels.copyBytes(address, from, TILE_BYTES));
      kept.set(key, address);
      return address;
    },
    free() {
      for (const address of kept.values()) if (address) store.heap.free(address, TILE_BYTES);
      kept.clear();
      compositor.free();
    },
  };
}
