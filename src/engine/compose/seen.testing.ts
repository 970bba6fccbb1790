import { type Engine } from "../engine";
import { type Work } from "../command/work";
import { pixelOffset, tilesIn } from "../tiles/layout";
import { Compositor } from "./compositor";

/** All that is seen of a picture, Q15 r g b a, row by row; with a compositor of its own where none is given. */
export function seen(engine: Engine, { picture }: Work, compositor?: Compositor): Uint16Array {
  const own = compositor ?? new Compositor(picture, engine.store, engine.workforce);
  const { width, height } = picture;
  const out = new Uint16Array(width * height * 4);
  const all = tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  own.compose(all, (key, address) => {
    const { u16 } = engine.store.heap;
    const [left, top] = [(key & 255) * 64, (key >> 8) * 64];
    const right = Math.min(width, left + 64);
    const bottom = Math.min(height, top + 64);
    for (let y = top; y < bottom; y++)
      for (let x = left; x < right; x++) {
        // The channels of a pixel lie eight numbers apart.
        const at = (address + pixelOffset(x & 63, y & 63, 0)) >> 1;
        const to = (y * width + x) * 4;
        for (let c = 0; c < 4; c++) out[to + c] = u16[at + c * 8] as number;
      }
  });
  if (!compositor) own.free();
  return out;
}

/** The greatest difference of two lists of numbers. */
export function worst(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < a.length; i++)
    most = Math.max(most, Math.abs((a[i] as number) - (b[i] as number)));
  return most;
}
