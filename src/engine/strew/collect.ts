import { z } from "zod";
import { type Applying } from "../command/command";
import { hasPixels, layerId, layerName, SELECTION } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import {
  type Box,
  emptyBox,
  growBox,
  ONE,
  pixelOffset,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
} from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { MOST_OWN_SETS, MOST_PICTURE_SIDE, MOST_PICTURES, ownNumber, setPlanes } from "./strew";

export const collectSchema = z.strictObject({
  do: z.literal("strew.collect"),
  /** The layer whose paint in the selection becomes a picture of the set. */
  layer: layerId,
  set: ownNumber,
  /** The set's name, where it is a new one. */
  name: layerName,
});

/** A layer's tiles with what is not selected taken away, and the box of what is left. */
type Cut = { tiles: Map<number, Uint16Array>; box: Box };

/** Paint that is cut out of a layer by the selection, in memory of its own. */
function cutOut({ bench: { store }, picture }: Applying, layer: string): Cut {
  const selection = picture.plane(SELECTION);
  const tiles = new Map<number, Uint16Array>();
  const box = emptyBox();
  for (const [key, tile] of picture.plane(layer)) {
    const mask = selection.get(key);
    if (!mask) continue;
    const [from, through] = [store.address(tile), store.address(mask)];
    const { u16 } = store.heap;
    const cut = new Uint16Array(TILE_BYTES / 2);
    for (let y = 0; y < TILE_SIDE; y++)
      for (let x = 0; x < TILE_SIDE; x++) {
        const at = pixelOffset(x, y, 0) >>> 1;
        const share = (u16[(through >>> 1) + at + 24] as number) / ONE;
        const alpha = (u16[(from >>> 1) + at + 24] as number) * share;
        if (alpha < 1) continue;
        for (let c = 0; c < 32; c += 8)
          cut[at + c] = Math.round((u16[(from >>> 1) + at + c] as number) * share);
        const [px, py] = [tileColumn(key) * TILE_SIDE + x, tileRow(key) * TILE_SIDE + y];
        growBox(box, { left: px, top: py, right: px + 1, bottom: py + 1 });
      }
    tiles.set(key, cut);
  }
  return { tiles, box };
}

/** The cut's pixels as tiles whose first pixel is the box's corner. */
function* shifted({ bench: { store } }: Applying, { tiles, box }: Cut): Generator<[number, Tile]> {
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  for (let row = 0; row * TILE_SIDE < height; row++)
    for (let column = 0; column * TILE_SIDE < width; column++) {
      const tile = store.create();
      const { u16 } = store.heap;
      u16.fill(0, tile.address >>> 1, (tile.address + TILE_BYTES) >>> 1);
      for (let y = 0; y < Math.min(TILE_SIDE, height - row * TILE_SIDE); y++)
        for (let x = 0; x < Math.min(TILE_SIDE, width - column * TILE_SIDE); x++) {
          const [px, py] = [box.left + column * TILE_SIDE + x, box.top + row * TILE_SIDE + y];
          const from = tiles.get(tileKey(px >> 6, py >> 6));
          if (!from) continue;
          const source = pixelOffset(px & 63, py & 63, 0) >>> 1;
          const to = (tile.address + pixelOffset(x, y, 0)) >>> 1;
          for (let c = 0; c < 32; c += 8) u16[to + c] = from[source + c] as number;
        }
      store.settle(tile);
      yield [tileKey(column, row), tile];
    }
}

/** What is selected of a layer becomes one more picture of a set to strew, or the first of a new one. */
export function collect(applying: Applying, command: z.infer<typeof collectSchema>): string {
  const { picture } = applying;
  const layer = picture.layer(command.layer);
  if (!picture.structure.selection)
    throw new Refusal("Select what is to be strewn first: its paint becomes a picture of the set.");
  if (!hasPixels(layer.kind))
    throw new Refusal(`“${layer.name}” has no paint of its own. Choose the layer that it is on.`);
  const sets = picture.structure.strewn ?? [];
  const known = sets.find(({ number }) => number === command.set);
  if (!known && sets.length >= MOST_OWN_SETS)
    throw new Refusal(`a picture holds ${MOST_OWN_SETS} sets of its own at most`);
  const index = known?.pictures.length ?? 0;
  if (index >= MOST_PICTURES) throw new Refusal(`a set holds ${MOST_PICTURES} pictures at most`);
  const cut = cutOut(applying, command.layer);
  const [width, height] = [cut.box.right - cut.box.left, cut.box.bottom - cut.box.top];
  if (!(width > 0)) throw new Refusal(`There is no paint of “${layer.name}” in the selection.`);
  if (Math.max(width, height) > MOST_PICTURE_SIDE)
    throw new Refusal(
      `A picture to strew has at most ${MOST_PICTURE_SIDE} px a side; this one is ${width} × ${height}.`,
    );
  for (const [key, tile] of shifted(applying, cut))
    applying.swap(setPlanes(command.set), key, tile, String(index));
  const size: [number, number] = [width, height];
  const made = known
    ? { ...known, pictures: [...known.pictures, size] }
    : { number: command.set, name: command.name, pictures: [size] };
  applying.setStructure({
    ...picture.structure,
    strewn: known ? sets.map((one) => (one === known ? made : one)) : [...sets, made],
  });
  return `collect for “${made.name}”`;
}
