import { Compositor } from "../engine/compose/compositor";
import { isEverywhere } from "../engine/compose/tree";
import { flattenBox } from "../engine/compose/flatten";
import { type Engine } from "../engine/engine";
import { writePng } from "../engine/file/png";
import { Picture, type Plane, SELECTION } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { TILE_BYTES, tilesIn } from "../engine/tiles/layout";
import { type Tile } from "../engine/tiles/tile-store";
import { contentBox } from "../engine/transform/bounds";
import { letGo, lift } from "../engine/transform/lift";
import { type Clipping } from "./protocol";

/** Whether a layer has paint where something is selected; without a selection, anywhere. */
export function hasSelected({ store }: Engine, picture: Picture, layer: string): boolean {
  const selection = picture.structure.selection ? picture.plane(SELECTION) : null;
  const parts = lift(store, picture.plane(layer), null, selection);
  const isThere = parts.lifted.size > 0;
  letGo(store, parts);
  return isThere;
}

/**
 * What is selected of layers, or of all that is seen (null), cut out as a picture; without a
 * selection all that they hold.
 * @throws Refusal where there is nothing
 */
export function copySelected(
  { store, workforce }: Engine,
  picture: Picture,
  layers: readonly string[] | null,
): Clipping {
  const stack = new Picture(picture.header);
  stack.structure = {
    ...picture.structure,
    layers: layers
      ? picture.structure.layers
          .filter(({ id }) => layers.includes(id))
          .map((layer) => ({ ...layer, group: null }))
      : picture.structure.layers,
  };
  for (const [id, planes] of picture.planes) stack.planes.set(id, planes);
  const compositor = new Compositor(stack, store, workforce, false);
  const seen: Plane = new Map();
  const hold = (key: number, tile: Tile): void => {
    store.settle(tile);
    if (store.isEmpty(tile)) store.release(tile);
    else seen.set(key, tile);
  };
  try {
    const selection = picture.structure.selection ? picture.plane(SELECTION) : null;
    const { width, height } = picture;
    const whole = { left: 0, top: 0, right: width, bottom: height };
    const painted = isEverywhere(stack.structure.layers)
      ? tilesIn(whole, width, height)
      : [...new Set(stack.structure.layers.flatMap(({ id }) => [...stack.plane(id).keys()]))];
    const keys = painted.filter((key) => !selection || selection.has(key));
    compositor.compose(keys, (key, from) => {
      const tile = store.create();
      const mask = selection?.get(key);
      if (mask) store.kernels.holdBack(tile.address, from, store.address(mask), 0);
      else store.kernels.copyBytes(tile.address, from, TILE_BYTES);
      hold(key, tile);
    });
    const box = contentBox(store, seen);
    if (!box) throw new Refusal("there is nothing here to be copied");
    const pixels = flattenBox(store, seen, box);
    const png = new Uint8Array(writePng(pixels, picture.ppi));
    return { png, x: box.left, y: box.top, width: pixels.width, height: pixels.height };
  } finally {
    for (const tile of seen.values()) store.release(tile);
    compositor.free();
  }
}
