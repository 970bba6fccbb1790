import { BLOCK_BYTES, COVERAGE_ROW_BYTES, ROW_BYTES } from "./layout";
import { mul, plus } from "./q15";

/** What a stroke's coverage does to the layer. */
export const PAINT: i32 = 0;
export const LIFT: i32 = 1;
export const PAINT_INSIDE: i32 = 2;

/**
 * layer = before, with the stroke laid over it: one colour through its coverage × strength.
 * Rows top…bottom−1, blocks left…right−1 of one tile. `PAINT_INSIDE` keeps alpha
 * (transparency locked).
 */
export function layCoverage(
  layer: usize,
  before: usize,
  cov: usize,
  mode: i32,
  r: i32,
  g: i32,
  b: i32,
  strength: i32,
  left: i32,
  top: i32,
  right: i32,
  bottom: i32,
): void {
  const cr = i16x8.splat(<i16>r),
    cg = i16x8.splat(<i16>g),
    cb = i16x8.splat(<i16>b);
  const one = i16x8.splat(32767),
    s = i16x8.splat(<i16>strength);
  const full = strength >= 32767;
  for (let y = top; y < bottom; y++) {
    for (let block = left; block < right; block++) {
      const offset = <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const from = before + offset,
        to = layer + offset;
      let a = v128.load(cov + <usize>(y * COVERAGE_ROW_BYTES + (block << 4)));
      if (!full) a = mul(a, s);
      const br = v128.load(from),
        bg = v128.load(from, 16),
        bb = v128.load(from, 32),
        ba = v128.load(from, 48);
      if (mode == PAINT) {
        v128.store(to, plus(br, mul(i16x8.sub(cr, br), a)));
        v128.store(to, plus(bg, mul(i16x8.sub(cg, bg), a)), 16);
        v128.store(to, plus(bb, mul(i16x8.sub(cb, bb), a)), 32);
        v128.store(to, plus(ba, mul(i16x8.sub(one, ba), a)), 48);
      } else if (mode == LIFT) {
        v128.store(to, i16x8.sub(br, mul(br, a)));
        v128.store(to, i16x8.sub(bg, mul(bg, a)), 16);
        v128.store(to, i16x8.sub(bb, mul(bb, a)), 32);
        v128.store(to, i16x8.sub(ba, mul(ba, a)), 48);
      } else {
        v128.store(to, i16x8.min_s(plus(br, mul(i16x8.sub(mul(cr, ba), br), a)), ba));
        v128.store(to, i16x8.min_s(plus(bg, mul(i16x8.sub(mul(cg, ba), bg), a)), ba), 16);
        v128.store(to, i16x8.min_s(plus(bb, mul(i16x8.sub(mul(cb, ba), bb), a)), ba), 32);
        v128.store(to, ba, 48);
      }
    }
  }
}
