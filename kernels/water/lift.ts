import { BLOCK_BYTES, ROW_BYTES, SIDE } from "../layout";
import { fromFloat, highToFloat, lowToFloat } from "../q15";
import { CELLS } from "./film";

// @ts-ignore: decorator
@inline function near(cells: usize, x: i32, y: i32): f32 {
  const u = min<i32>(CELLS - 1, max<i32>(0, x)), v = min<i32>(CELLS - 1, max<i32>(0, y));
  return load<f32>(cells + (<usize>(v * CELLS + u) << 2));
}

/** Between the middles of cells. */
function at(cells: usize, x: i32, y: i32): f32 {
  const u = (x - 1) >> 1, v = (y - 1) >> 1;
  const a: f32 = x & 1 ? 0.25 : 0.75, b: f32 = y & 1 ? 0.25 : 0.75;
  const upper = near(cells, u, v) * (1 - a) + near(cells, u + 1, v) * a;
  const lower = near(cells, u, v + 1) * (1 - a) + near(cells, u + 1, v + 1) * a;
  return upper * (1 - b) + lower * b;
}

/** What is left of four pixels of a row. */
function left(covered: usize, x: i32, y: i32, by: f32): v128 {
  let four = f32x4.splat(<f32>1 - by * at(covered, x, y));
  four = f32x4.replace_lane(four, 1, <f32>1 - by * at(covered, x + 1, y));
  four = f32x4.replace_lane(four, 2, <f32>1 - by * at(covered, x + 2, y));
  return f32x4.replace_lane(four, 3, <f32>1 - by * at(covered, x + 3, y));
}

/**
 * What is dry below a wash, thinned where a thirsty brush has rubbed: `from` as it was before the stroke, `covered`
 * how far the stroke has come over its cells; a whole pass takes the share `by`.
 */
export function liftUnder(to: usize, from: usize, covered: usize, by: f32): void {
  for (let y = 0; y < SIDE; y++) {
    for (let block = 0; block < 8; block++) {
      const o = ROW_BYTES * <usize>y + BLOCK_BYTES * <usize>block;
      const x = block << 3;
      const low = left(covered, x, y, by), high = left(covered, x + 4, y, by);
      const end: usize = o + 64;
      for (let c: usize = o; c < end; c += 16) {
        const v = v128.load(from + c);
        v128.store(to + c, fromFloat(f32x4.mul(lowToFloat(v), low), f32x4.mul(highToFloat(v), high)));
      }
    }
  }
}
