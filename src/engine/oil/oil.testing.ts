import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { rgbToOklch } from "../colour/oklch";
import { colourOf } from "../pigment/pigment";
import { pixelOffset, tileKey } from "../tiles/layout";
import { BULK, BULK_MORE, SKIN, SKIN_MORE } from "./wet-planes";

/** What tests read of wet paint at rest: see `kernels/oil/wet.ts`. */
const ROOT_SCALE = 32767 / 6.6;
const THICK_SCALE = 2047.9375;

/** `owner`: whose planes they are, those of layer “a” where it is left out. */
export type Wet = { engine: Engine; work: Work; owner?: string };

/** One number of a plane, 0 where there is no tile. */
export function stored(wet: Wet, plane: string, x: number, y: number, c: number) {
  const { engine, work, owner = "a" } = wet;
  const tile = work.picture.plane(owner, plane).get(tileKey(x >> 6, y >> 6));
  if (!tile) return 0;
  const address = engine.store.address(tile) + pixelOffset(x & 63, y & 63, c);
  return engine.store.heap.u16[address >> 1] as number;
}

/** How thick wet paint lies, px. */
export const thickness = (wet: Wet, x: number, y: number): number =>
  (stored(wet, SKIN, x, y, 3) + stored(wet, BULK, x, y, 3)) / THICK_SCALE;

/** What wet paint takes up in each band at a place, times its thickness. */
export function bandsAt(wet: Wet, x: number, y: number): number[] {
  const of = (first: string, second: string): number[] => {
    const h = stored(wet, first, x, y, 3) / THICK_SCALE;
    return Array.from({ length: 7 }, (_, band) => {
      const [plane, c] = band < 3 ? [first, band] : [second, band - 3];
      return h * (stored(wet, plane, x, y, c) / ROOT_SCALE) ** 2;
    });
  };
  const bulk = of(BULK, BULK_MORE);
  return of(SKIN, SKIN_MORE).map((k, band) => k + (bulk[band] as number));
}

/** All the wet paint in a box, px³. */
export function volume(wet: Wet, left: number, top: number, right: number, bottom: number) {
  let sum = 0;
  for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) sum += thickness(wet, x, y);
  return sum;
}

/** The colour of wet paint at a place, whole through. */
export function paintAt(wet: Wet, x: number, y: number) {
  const bands = bandsAt(wet, x, y);
  const h = thickness(wet, x, y);
  return rgbToOklch(colourOf(bands.map((k) => k / h)));
}
