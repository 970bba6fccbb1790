import { type Bits, type Regions } from "../region/regions";
import { ONE, pixelOffset, tileColumn, tileKey, tileRow, TILE_SIDE } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { tilesWithBits } from "./cover";

/** How far from a bridged gap's edge the edge is smoothed, px. */
const REACH = 3;
/** Width of the mean that smooths it (σ of a Gaussian), px. */
const WIDTH = 1.6;
/** How much steeper than that mean the edge is: about a pixel from bare to covered. */
const STEEP = 2.2;

/** A pixel with less of the region around it is none of its edge. */
const LEAST_OWN = 0.15;

const weights = Array.from({ length: (2 * REACH + 1) ** 2 }, (_, i) => {
  const dx = (i % (2 * REACH + 1)) - REACH;
  const dy = Math.floor(i / (2 * REACH + 1)) - REACH;
  return { dx, dy, weight: Math.exp(-(dx * dx + dy * dy) / (2 * WIDTH * WIDTH)) };
});
const whole = weights.reduce((sum, { weight }) => sum + weight, 0);

/**
 * Where a region ends in the open, in the mouth of a bridged gap, its edge is made smooth: `bits`
 * takes in what the soft edge reaches, and the masks (the caller's, alpha) say how far each pixel
 * of their tiles is covered. Lines count as covered, so that the edge runs to their ends.
 * @param open pixels that are no border
 */
export function softMouths(regions: Regions, open: Bits, bits: Bits): Map<number, Tile> {
  const masks = new Map<number, Tile>();
  const rim = rimInTheOpen(regions, open, bits);
  if (rim.length === 0) return masks;
  const edge = new Map<number, { x: number; y: number; share: number }>();
  for (const [x0, y0] of rim)
    for (const { dx, dy } of weights) {
      const [x, y] = [x0 + dx, y0 + dy];
      const name = y * regions.width + x;
      if (edge.has(name) || !regions.has(open, x, y)) continue;
      edge.set(name, { x, y, share: shareAt(regions, open, bits, x, y) });
    }
  const { store } = regions.bench;
  for (const { x, y, share } of edge.values()) {
    if (share > 0) regions.set(bits, x, y);
    const key = tileKey(x >> 6, y >> 6);
    let mask = masks.get(key);
    if (!mask) {
      mask = store.create();
      store.kernels.fillTile(mask.address, 0, 0, 0, ONE);
      masks.set(key, mask);
    }
    const at = (mask.address + pixelOffset(x & 63, y & 63, 3)) >> 1;
    store.heap.u16[at] = Math.round(share * ONE);
  }
  return masks;
}

/** How far a pixel in a mouth is covered, 0…1. */
function shareAt(regions: Regions, open: Bits, bits: Bits, x: number, y: number): number {
  let [own, lines] = [0, 0];
  for (const { dx, dy, weight } of weights)
    if (regions.has(bits, x + dx, y + dy)) own += weight;
    else if (!regions.has(open, x + dx, y + dy)) lines += weight;
  // Round the end of a line, on its other side, there is nothing of the region.
  if (own / whole < LEAST_OWN) return 0;
  return Math.min(1, Math.max(0, ((own + lines) / whole - 0.5) * STEEP + 0.5));
}

/** Pixels of a region beside others that are open too, but not of it. */
function rimInTheOpen(regions: Regions, open: Bits, bits: Bits): [number, number][] {
  const beyond = regions.make();
  const rim = regions.make();
  regions.copy(beyond, open);
  regions.join(beyond, "andNot", bits);
  regions.grow(rim, beyond, 1);
  regions.join(rim, "and", bits);
  regions.join(rim, "and", open);
  const found: [number, number][] = [];
  for (const key of tilesWithBits(regions, rim)) {
    const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    for (let y = top; y < top + TILE_SIDE; y++)
      for (let x = left; x < left + TILE_SIDE; x++) if (regions.has(rim, x, y)) found.push([x, y]);
  }
  regions.release(beyond);
  regions.release(rim);
  return found;
}
