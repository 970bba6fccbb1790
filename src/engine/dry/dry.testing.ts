import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { POWDER } from "../picture/picture";
import { type Rub } from "../stroke/laying/contact";
import { pixelOffset } from "../tiles/layout";

/** A round tip that goes nowhere yet, with nothing uneven about it. */
export const PLAIN_RUB: Rub = {
  fromX: 0,
  fromY: 0,
  toX: 0,
  toY: 0,
  long: 9,
  short: 9,
  angle: 0,
  pressure: 0.5,
  share: 1,
  shade: 0,
  flat: 0,
  catches: 0,
  skips: 0,
  grain: 1,
  face: 0,
  edge: 0,
  rim: 6,
  streak: 2,
  along: 0,
  seed: 1,
};

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
