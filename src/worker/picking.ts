import { linearToSrgb, rgbToHex, srgbToLinear } from "../engine/colour/oklch";
import { ONE, pixelOffset, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";

/** What a colour is picked from: the mean of a disc, of all that is seen or of one layer's paint. */
export type Picking = { radius: number; layer: string | null };
export const MOST_PICK_RADIUS = 64;

/** Gives a tile's address where there is one. */
export type ReadTiles = (keys: number[], take: (key: number, address: number) => void) => void;

/**
 * The mean colour of the disc of `radius` px about a place, mixed as light is (in linear light)
 * and weighed by alpha; radius 0: of its pixel. Null where nothing is painted, or beside the sheet.
 */
export function pickedColour(
  { u16 }: Pick<Heap, "u16">,
  { width, height }: { width: number; height: number },
  [x, y]: readonly [number, number],
  radius: number,
  read: ReadTiles,
): string | null {
  const px = Math.floor(x);
  const py = Math.floor(y);
  if (px < 0 || py < 0 || px >= width || py >= height) return null;
  const reach = Math.min(MOST_PICK_RADIUS, Math.max(0, Math.floor(radius)));
  const box = { left: px - reach, top: py - reach, right: px + reach + 1, bottom: py + reach + 1 };
  const light: [number, number, number] = [0, 0, 0];
  let weight = 0;
  read(tilesIn(box, width, height), (key, address) => {
    const left = tileColumn(key) * TILE_SIDE;
    const top = tileRow(key) * TILE_SIDE;
    for (let j = Math.max(0, box.top - top); j < Math.min(TILE_SIDE, box.bottom - top); j++)
      for (let i = Math.max(0, box.left - left); i < Math.min(TILE_SIDE, box.right - left); i++) {
        if ((left + i - px) ** 2 + (top + j - py) ** 2 > (reach + 0.5) ** 2) continue;
        const at = (address + pixelOffset(i, j, 0)) >> 1;
        const alpha = (u16[at + 24] as number) / ONE;
        if (alpha === 0) continue;
        for (let c = 0; c < 3; c++) {
          const straight = (u16[at + c * 8] as number) / ONE / alpha;
          light[c] = (light[c] as number) + alpha * srgbToLinear(Math.min(1, straight));
        }
        weight += alpha;
      }
  });
  if (weight === 0) return null;
  const [r, g, b] = light.map((sum) => linearToSrgb(sum / weight)) as [number, number, number];
  return rgbToHex([r, g, b]);
}
