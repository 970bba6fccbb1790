import { type Applying } from "../command/command";
import { rewriteSelection } from "../command/select";
import { tilesWithBits } from "../fill/cover";
import { SELECTION } from "../picture/picture";
import { bitsOfPlane } from "../region/bits-of";
import { type Bits, type Regions } from "../region/regions";
import { ONE, tileColumn, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { blurPlane } from "../adjust/blur";

/** Grown edges are smooth: means of discs that differ by a quarter of a pixel. */
const RINGS = [0, 0.25, 0.5, 0.75];

/** The pixels that are selected by half and more. */
export const bitsOfSelection = ({ picture }: Applying, regions: Regions): Bits =>
  bitsOfPlane(regions, picture.plane(SELECTION));

/** The selection grown or shrunk by a disc, or its border that wide; edges smooth. */
export function grownBy(
  applying: Applying,
  regions: Regions,
  selected: Bits,
  kind: "grow" | "shrink" | "border",
  by: number,
): void {
  const rest = regions.make();
  regions.not(rest, selected);
  const rings = RINGS.map((off) => {
    const ring = regions.make();
    if (kind === "grow") regions.grow(ring, selected, by + off);
    else if (kind === "shrink") {
      regions.grow(ring, rest, by + off);
      const kept = regions.make();
      regions.not(kept, ring);
      return kept;
    } else {
      const inner = regions.make();
      regions.grow(ring, selected, by / 2 + off);
      regions.grow(inner, rest, by / 2 + off);
      regions.join(ring, "and", inner);
    }
    return ring;
  });
  const keys = new Set(applying.picture.plane(SELECTION).keys());
  for (const ring of rings) for (const key of tilesWithBits(regions, ring)) keys.add(key);
  const share = Math.round(ONE / RINGS.length);
  rewriteSelection(applying, [...keys], (key, address) => {
    const { workforce } = applying.bench;
    workforce.write(TAPE.fill, address, 0, 0, 0, 0);
    for (const ring of rings) {
      const at = regions.at(ring, tileColumn(key), tileRow(key));
      workforce.write(TAPE.raiseBits, address, at, regions.stride, share);
    }
  });
}

/** How steep a smoothed edge is: alpha goes from none to all over this share of the blur's. */
const STEEP = 6;

/**
 * The selection's edge blurred; where it is to be smooth rather than soft, made steep again
 * around its middle, so that notches and spikes are gone.
 */
export function softened(applying: Applying, radius: number, steep: boolean): void {
  const { picture, bench } = applying;
  const { store } = bench;
  const made = blurPlane(bench, picture, picture.plane(SELECTION), radius);
  for (const key of new Set([...picture.plane(SELECTION).keys(), ...made.keys()])) {
    const tile = made.get(key) ?? null;
    if (tile && steep && !tile.colour) {
      const alpha = (store.address(tile) >> 1) + 24;
      const { u16 } = store.heap;
      for (let y = 0; y < 64; y++)
        for (let x = 0; x < 64; x++) {
          const at = alpha + y * 256 + (x >> 3) * 32 + (x & 7);
          const v = ((u16[at] as number) - ONE / 2) * STEEP + ONE / 2;
          u16[at] = Math.round(Math.min(ONE, Math.max(0, v)));
        }
      store.settle(tile);
    }
    if (tile && store.isEmpty(tile)) {
      store.release(tile);
      if (picture.plane(SELECTION).has(key)) applying.swap(SELECTION, key, null);
    } else if (tile || picture.plane(SELECTION).has(key)) applying.swap(SELECTION, key, tile);
  }
}
