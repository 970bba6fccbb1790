import { BLOCK_BYTES, TILE_BYTES } from "./layout";
import { complement, mul, plus } from "./q15";

/**
 * A layer's powder laid on what lies below it, when they are merged. Mass comes to mass; paint without any hides what
 * lies under it, as far as it covers. `colour`, `powder`, `mask`: the layer's tiles, 0 where there is none;
 * `opacity` Q15; `covers`: whether its paint hides what is below.
 */
export function mergeDust(below: usize, colour: usize, powder: usize, mask: usize, opacity: i32, covers: i32): void {
  const whole = i16x8.splat(<i16>opacity), none = i16x8.splat(0);
  for (let at: usize = 0; at < <usize>TILE_BYTES; at += BLOCK_BYTES) {
    const seen = mask ? mul(whole, complement(v128.load(mask + at, 48))) : whole;
    const mass = powder ? v128.load(powder + at, 48) : none;
    const paint = v128.and(colour && covers ? mul(seen, v128.load(colour + at, 48)) : none, i16x8.eq(mass, none));
    const left = complement(paint);
    for (let c: usize = at; c < at + 64; c += 16) {
      const own = powder ? mul(seen, v128.load(powder + c)) : none;
      v128.store(below + c, plus(mul(v128.load(below + c), left), own));
    }
  }
}
