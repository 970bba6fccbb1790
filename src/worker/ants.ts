import { type Picture, SELECTION } from "../engine/picture/picture";
import { pixelOffset, tileKey } from "../engine/tiles/layout";
import { type TileStore } from "../engine/tiles/tile-store";
import { type Size, toPicture, type View, viewMatrix } from "./view";

/** From this alpha on a pixel lies inside the outline. */
const HALF = 16384;

/**
 * The selection's outline as it lies in the view: alpha 255 on the pixels at its edge. The
 * page lets ants walk along it; they are no work of ours.
 */
export function outline(
  picture: Picture,
  store: TileStore,
  view: View,
  screen: Size,
): Uint8ClampedArray<ArrayBuffer> {
  const { width, height } = screen;
  const matrix = viewMatrix(view, screen);
  const inside = new Uint8Array((width + 1) * (height + 1));
  const plane = picture.plane(SELECTION);
  const [ox, oy] = toPicture(matrix, 0.5, 0.5);
  const [ax, ay] = toPicture(matrix, 1.5, 0.5);
  const [bx, by] = toPicture(matrix, 0.5, 1.5);
  let key = -1;
  let whole: boolean | null = null;
  let address = 0;
  for (let j = 0; j <= height; j++)
    for (let i = 0; i <= width; i++) {
      const x = Math.floor(ox + (ax - ox) * i + (bx - ox) * j);
      const y = Math.floor(oy + (ay - oy) * i + (by - oy) * j);
      if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) continue;
      const next = tileKey(x >> 6, y >> 6);
      if (next !== key) {
        key = next;
        const tile = plane.get(key);
        whole = tile ? (tile.colour ? tile.colour[3] >= HALF : null) : false;
        if (whole === null && tile) address = store.address(tile);
      }
      const isIn =
        whole ??
        (store.heap.u16[(address + pixelOffset(x & 63, y & 63, 3)) >> 1] as number) >= HALF;
      if (isIn) inside[j * (width + 1) + i] = 1;
    }
  const data = new Uint8ClampedArray(width * height * 4);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const at = j * (width + 1) + i;
      const own = inside[at];
      if (own === inside[at + 1] && own === inside[at + width + 1]) continue;
      data[(j * width + i) * 4 + 3] = 255;
    }
  return data;
}
