import { Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { type Picture } from "../engine/picture/picture";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";

/** The whole picture as it is seen, RGBA, made smaller where it is large. */
export type Snapshot = { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> };

/** Longest side of a snapshot, px. */
const LONGEST = 2048;

/** Halvings that bring a side to at most {@link LONGEST}. */
export const snapshotLevel = ({ width, height }: { width: number; height: number }): number =>
  Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / LONGEST)));

export function snapshotOf({ store, workforce }: Engine, picture: Picture): Snapshot {
  const level = snapshotLevel(picture);
  const width = Math.max(1, picture.width >> level);
  const height = Math.max(1, picture.height >> level);
  const data = new Uint8ClampedArray(width * height * 4);
  const side = TILE_SIDE >> level;
  const all = { left: 0, top: 0, right: picture.width, bottom: picture.height };
  const compositor = new Compositor(picture, store, workforce);
  compositor.pack(tilesIn(all, picture.width, picture.height), level, (key, address) => {
    const left = tileColumn(key) * side;
    const top = tileRow(key) * side;
    const across = Math.min(side, width - left);
    if (across <= 0) return;
    for (let y = 0; y < Math.min(side, height - top); y++) {
      const from = address + y * side * 4;
      const row = store.heap.u8.subarray(from, from + across * 4);
      data.set(row, ((top + y) * width + left) * 4);
    }
  });
  compositor.free();
  return { width, height, data };
}
