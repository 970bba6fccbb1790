import { ROW_BYTES, TILE_BYTES } from "./layout";

/**
 * Makes a tile easy for a general compressor: each 16-bit value becomes its difference from
 * the pixel above, signs folded into the lowest bit, low bytes first and high bytes after.
 */
export function squeezeFilter(dst: usize, src: usize): void {
  const lowBytes = i16x8.splat(0xff);
  const half = <usize>(TILE_BYTES >> 1);
  for (let o: usize = 0, to: usize = dst; o < <usize>TILE_BYTES; o += 32, to += 16) {
    const a = folded(src, o), b = folded(src, o + 16);
    v128.store(to, i8x16.narrow_i16x8_u(v128.and(a, lowBytes), v128.and(b, lowBytes)));
    v128.store(to + half, i8x16.narrow_i16x8_u(i16x8.shr_u(a, 8), i16x8.shr_u(b, 8)));
  }
}

// @ts-ignore: decorator
@inline function folded(src: usize, o: usize): v128 {
  let d = v128.load(src + o);
  if (o >= <usize>ROW_BYTES) d = i16x8.sub(d, v128.load(src + o - <usize>ROW_BYTES));
  return v128.xor(i16x8.shl(d, 1), i16x8.shr_s(d, 15));
}

/** The way back. */
export function unsqueezeFilter(dst: usize, src: usize): void {
  const half = <usize>(TILE_BYTES >> 1);
  for (let o: usize = 0, from: usize = src; o < <usize>TILE_BYTES; o += 32, from += 16) {
    const low = v128.load(from), high = v128.load(from + half);
    unfold(dst, o, v128.shuffle<u8>(low, high, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23));
    unfold(dst, o + 16, v128.shuffle<u8>(low, high, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31));
  }
}

// @ts-ignore: decorator
@inline function unfold(dst: usize, o: usize, z: v128): void {
  let d = v128.xor(i16x8.shr_u(z, 1), i16x8.neg(v128.and(z, i16x8.splat(1))));
  if (o >= <usize>ROW_BYTES) d = i16x8.add(d, v128.load(dst + o - <usize>ROW_BYTES));
  v128.store(dst + o, d);
}
