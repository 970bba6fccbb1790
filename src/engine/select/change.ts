import { type Applying } from "../command/command";
import { rewriteSelection } from "../command/select";
import { tilesWithBits } from "../fill/cover";
import { type Plane, SELECTION } from "../picture/picture";
import { type Bits, type Regions } from "../region/regions";
import { grownCover, grownRest, writeMean } from "../region/soft-growth";
import { ONE } from "../tiles/layout";
import { blurPlane } from "../adjust/blur";

/**
 * The selection grown or shrunk by a disc, or its border that wide, px; its edges stay as soft
 * as they were.
 */
export function grownBy(
  applying: Applying,
  regions: Regions,
  kind: "grow" | "shrink" | "border",
  by: number,
): void {
  const plane = applying.picture.plane(SELECTION);
  const made = changed(regions, plane, kind, by);
  const keys = new Set(plane.keys());
  for (const bits of made) for (const key of tilesWithBits(regions, bits)) keys.add(key);
  rewriteSelection(applying, [...keys], (key, address) => writeMean(regions, made, key, address));
}

function changed(
  regions: Regions,
  plane: Plane,
  kind: "grow" | "shrink" | "border",
  by: number,
): Bits[] {
  if (kind === "grow") return grownCover(regions, plane, by);
  if (kind === "shrink")
    return grownRest(regions, plane, by).map((rest) => {
      const kept = regions.make();
      regions.not(kept, rest);
      regions.release(rest);
      return kept;
    });
  const inner = grownCover(regions, plane, by / 2);
  const outer = grownRest(regions, plane, by / 2);
  inner.forEach((bits, i) => regions.join(bits, "and", outer[i] as Bits));
  return inner;
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
