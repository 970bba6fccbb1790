import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { POWDER } from "../picture/picture";
import { pixelOffset } from "../tiles/layout";

/** Mass of all powder on a layer, and what of it lies loose, is wax, and is taken up by water. */
export function powderOf(
  { store }: Pick<Engine, "store">,
  work: Work,
  layer = "a",
): { mass: number; loose: number; wax: number; soluble: number } {
  const total = [0, 0, 0, 0];
  for (const tile of work.picture.plane(layer, POWDER).values()) {
    const at = store.address(tile);
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 64; x++)
        for (const c of [0, 1, 2, 3])
          total[c] =
            (total[c] as number) + (store.heap.u16[(at + pixelOffset(x, y, c)) >> 1] as number);
  }
  const [loose = 0, wax = 0, soluble = 0, mass = 0] = total.map((v) => v / 16383.5);
  return { mass, loose, wax, soluble };
}
