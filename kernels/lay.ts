import { BLOCK_BYTES, COVERAGE_ROW_BYTES, ROW_BYTES, TILE_BYTES } from "./layout";
import { complement, mul, plus } from "./q15";

/**
 * From here on coverage counts as whole. The Q15 product with 32767 falls one short of its
 * other factor, and a lifted pixel must be empty, not nearly so.
 */
const WHOLE: i32 = 32764;

// @ts-ignore: decorator
@inline function toward(from: v128, to: v128, a: v128, whole: v128): v128 {
  return v128.bitselect(to, plus(from, mul(i16x8.sub(to, from), a)), whole);
}

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
    none = i16x8.splat(0),
    s = i16x8.splat(<i16>strength);
  const full = strength >= 32767;
  for (let y = top; y < bottom; y++) {
    for (let block = left; block < right; block++) {
      const offset = <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const from = before + offset,
        to = layer + offset;
      let a = v128.load(cov + <usize>(y * COVERAGE_ROW_BYTES + (block << 4)));
      if (!full) a = mul(a, s);
      const whole = i16x8.ge_s(a, i16x8.splat(<i16>WHOLE));
      const br = v128.load(from),
        bg = v128.load(from, 16),
        bb = v128.load(from, 32),
        ba = v128.load(from, 48);
      if (mode == PAINT) {
        v128.store(to, toward(br, cr, a, whole));
        v128.store(to, toward(bg, cg, a, whole), 16);
        v128.store(to, toward(bb, cb, a, whole), 32);
        v128.store(to, toward(ba, one, a, whole), 48);
      } else if (mode == LIFT) {
        v128.store(to, toward(br, none, a, whole));
        v128.store(to, toward(bg, none, a, whole), 16);
        v128.store(to, toward(bb, none, a, whole), 32);
        v128.store(to, toward(ba, none, a, whole), 48);
      } else {
        v128.store(to, i16x8.min_s(toward(br, mul(cr, ba), a, whole), ba));
        v128.store(to, i16x8.min_s(toward(bg, mul(cg, ba), a, whole), ba), 16);
        v128.store(to, i16x8.min_s(toward(bb, mul(cb, ba), a, whole), ba), 32);
        v128.store(to, ba, 48);
      }
    }
  }
}

/**
 * layer = before, with a stroke's paint tile laid over it at `strength`; `weight` (0: none)
 * is a coverage tile that scales it pixel by pixel. Modes as for `layCoverage`; lifting
 * takes away as much as the paint covers.
 */
export function layPaint(
  layer: usize,
  before: usize,
  paint: usize,
  weight: usize,
  mode: i32,
  strength: i32,
  left: i32,
  top: i32,
  right: i32,
  bottom: i32,
): void {
  const whole = i16x8.splat(<i16>WHOLE),
    zero = i16x8.splat(0);
  for (let y = top; y < bottom; y++) {
    for (let block = left; block < right; block++) {
      const offset = <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const from = before + offset,
        to = layer + offset,
        source = paint + offset;
      let s = i16x8.splat(<i16>strength);
      if (weight) s = mul(s, v128.load(weight + <usize>(y * COVERAGE_ROW_BYTES + (block << 4))));
      const full = i16x8.ge_s(s, whole);
      const sa = scaled(v128.load(source, 48), s, full);
      const covered = i16x8.ge_s(sa, whole);
      const rest = v128.andnot(i16x8.sub(i16x8.splat(32767), sa), covered);
      const ba = v128.load(from, 48);
      const alpha =
        mode == PAINT_INSIDE ? ba : mode == LIFT ? left15(ba, rest, sa) : plus(v128.bitselect(i16x8.splat(32767), sa, covered), left15(ba, rest, sa));
      for (let c: usize = 0; c < 48; c += 16) {
        const kept = left15(v128.load(from + c), rest, sa);
        let colour = mode == LIFT ? zero : scaled(v128.load(source + c), s, full);
        if (mode == PAINT_INSIDE) colour = mul(colour, ba);
        v128.store(to + c, i16x8.min_s(plus(colour, kept), alpha));
      }
      v128.store(to, alpha, 48);
    }
  }
}

// @ts-ignore: decorator
@inline function scaled(v: v128, s: v128, full: v128): v128 {
  return v128.bitselect(v, mul(v, s), full);
}

/** What is left of b under paint: all of it where there is none, for the product falls one short. */
// @ts-ignore: decorator
@inline function left15(b: v128, rest: v128, sa: v128): v128 {
  return v128.bitselect(b, mul(b, rest), i16x8.eq(sa, i16x8.splat(0)));
}

/** What lies under a tile shows through it: dst + src · (1 − alpha of dst). */
export function layUnder(dst: usize, src: usize): void {
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o;
    const rest = complement(v128.load(to, 48));
    v128.store(to, plus(v128.load(to), mul(v128.load(from), rest)));
    v128.store(to, plus(v128.load(to, 16), mul(v128.load(from, 16), rest)), 16);
    v128.store(to, plus(v128.load(to, 32), mul(v128.load(from, 32), rest)), 32);
    v128.store(to, plus(v128.load(to, 48), mul(v128.load(from, 48), rest)), 48);
  }
}
