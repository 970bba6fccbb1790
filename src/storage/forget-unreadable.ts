import { LINES, linesOf } from "../engine/lines/line-set";
import { type LayerKind, type Picture } from "../engine/picture/picture";
import { PIECES, piecesOf } from "../engine/strew/heap-of-pieces";
import { type TileStore } from "../engine/tiles/tile-store";

/** Layers that hold more than their pixels: the plane that it is in, and how it is read. */
const HOLDING: Partial<
  Record<
    LayerKind,
    { plane: string; read(store: TileStore, picture: Picture, id: string): unknown }
  >
> = {
  lines: { plane: LINES, read: linesOf },
  strewn: { plane: PIECES, read: piecesOf },
};

/** Planes without which a layer is paint and no more. */
export const HELD_PLANES: readonly string[] = Object.values(HOLDING).map(({ plane }) => plane);

/**
 * Turns layers whose lines or pieces cannot be read into paint: what is seen of them is in their colour.
 * @param lacking layers of which it is known that a part is missing
 * @returns their names
 */
export function forgetUnreadable(
  store: TileStore,
  picture: Picture,
  lacking: ReadonlySet<string>,
): string[] {
  const broken = picture.structure.layers.filter(({ id, kind }) => {
    const holding = HOLDING[kind];
    if (!holding) return false;
    if (lacking.has(id)) return true;
    try {
      holding.read(store, picture, id);
      return false;
    } catch {
      return true;
    }
  });
  if (broken.length === 0) return [];
  for (const { id, kind } of broken) {
    const plane = picture.plane(id, HOLDING[kind]?.plane);
    for (const tile of plane.values()) store.release(tile);
    plane.clear();
  }
  const ids = new Set(broken.map(({ id }) => id));
  picture.structure = {
    ...picture.structure,
    layers: picture.structure.layers.map((layer) =>
      ids.has(layer.id) ? { ...layer, kind: "paint" as const } : layer,
    ),
  };
  return broken.map(({ name }) => name);
}
