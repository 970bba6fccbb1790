import { type Bits, type Regions } from "../region/regions";
import { eachRegion } from "../fill/region";

/** Bare places this large are left bare on purpose: a share of the sheet. */
const MEANT = 0.02;
const MOST_FOUND = 400;

export type Hole = { left: number; top: number; right: number; bottom: number; area: number };

/**
 * Bare pixels that paint closes in: regions of `bare` that do not reach the sheet's edge and
 * are too small to be meant.
 */
export function holesIn(regions: Regions, bare: Bits): Hole[] {
  const left = regions.make();
  const one = regions.make();
  regions.copy(left, bare);
  const most = MEANT * regions.width * regions.height;
  const found: Hole[] = [];
  eachRegion(regions, left, one, (region) => {
    if (region.area > most || found.length >= MOST_FOUND) return 0;
    const box = boxOf(regions, one, region.tiles);
    const isInside =
      box.left > 0 && box.top > 0 && box.right < regions.width && box.bottom < regions.height;
    if (isInside) found.push({ ...box, area: region.area });
    return 0;
  });
  regions.release(left);
  regions.release(one);
  return found.sort((a, b) => b.area - a.area);
}

function boxOf(regions: Regions, bits: Bits, tiles: Int32Array): Omit<Hole, "area"> {
  const box = { left: Infinity, top: Infinity, right: 0, bottom: 0 };
  for (const tile of tiles) {
    const x0 = (tile % regions.words) * 64;
    const y0 = Math.floor(tile / regions.words) * 64;
    for (let y = y0; y < Math.min(y0 + 64, regions.height); y++)
      for (let x = x0; x < Math.min(x0 + 64, regions.width); x++) {
        if (!regions.has(bits, x, y)) continue;
        box.left = Math.min(box.left, x);
        box.right = Math.max(box.right, x + 1);
        box.top = Math.min(box.top, y);
        box.bottom = Math.max(box.bottom, y + 1);
      }
  }
  return box;
}
