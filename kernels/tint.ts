import { BLOCK_BYTES, TILE_BYTES } from "./layout";
import { complement, mul, plus } from "./q15";

/** Rec. 709 weights of red, green and blue, Q15; together exactly one. */
const RED: i32 = 6966;
const GREEN: i32 = 23436;
const BLUE: i32 = 2365;

/**
 * A tile seen in one colour: dark paint takes it, white stays white, greys lie between;
 * alpha stays. Premultiplied: tint · alpha + light · (1 − tint).
 */
export function tintTile(target: usize, source: usize, r: i32, g: i32, b: i32): void {
  const wr = i16x8.splat(<i16>RED), wg = i16x8.splat(<i16>GREEN), wb = i16x8.splat(<i16>BLUE);
  const tr = i16x8.splat(<i16>r), tg = i16x8.splat(<i16>g), tb = i16x8.splat(<i16>b);
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += <usize>BLOCK_BYTES) {
    const from = source + o, to = target + o;
    const a = v128.load(from, 48);
    const light = i16x8.min_s(plus(plus(mul(v128.load(from), wr), mul(v128.load(from, 16), wg)), mul(v128.load(from, 32), wb)), a);
    v128.store(to, i16x8.min_s(plus(mul(tr, a), mul(complement(tr), light)), a));
    v128.store(to, i16x8.min_s(plus(mul(tg, a), mul(complement(tg), light)), a), 16);
    v128.store(to, i16x8.min_s(plus(mul(tb, a), mul(complement(tb), light)), a), 32);
    v128.store(to, a, 48);
  }
}
