import { BLOCK_BYTES, ROW_BYTES, TILE_BYTES } from "./layout";
import { mul } from "./q15";

/** Q15 → 8 bits, rounded: v·255/32768. */
// @ts-ignore: decorator
@inline function eight(a: v128): v128 {
  return i16x8.q15mulr_sat_s(a, i16x8.splat(255));
}

/** An opaque tile as RGBA8 rows `stride` bytes apart at `dst`. */
function packFull(dst: usize, stride: i32, src: usize): void {
  const opaque = i16x8.splat(<i16>0xff00);
  for (let y = 0; y < 64; y++) {
    const row = dst + <usize>(y * stride);
    const from = src + <usize>(y * ROW_BYTES);
    for (let block = 0; block < 8; block++) {
      const at = from + <usize>(block * BLOCK_BYTES);
      const rg = v128.or(eight(v128.load(at)), i16x8.shl(eight(v128.load(at, 16)), 8));
      const ba = v128.or(eight(v128.load(at, 32)), opaque);
      const to = row + <usize>(block << 5);
      v128.store(to, v128.shuffle<u16>(rg, ba, 0, 8, 1, 9, 2, 10, 3, 11));
      v128.store(to, v128.shuffle<u16>(rg, ba, 4, 12, 5, 13, 6, 14, 7, 15), 16);
    }
  }
}

// @ts-ignore: decorator
@inline function sumPlane(src: usize, x0: i32, y0: i32, size: i32, plane: i32): i32 {
  let sum = 0;
  for (let y = y0; y < y0 + size; y++) {
    const row = src + <usize>(y * ROW_BYTES + plane);
    for (let x = x0; x < x0 + size; x++) {
      sum += load<u16>(row + <usize>((x >> 3) * BLOCK_BYTES + ((x & 7) << 1)));
    }
  }
  return sum;
}

/**
 * An opaque tile as RGBA8, each pixel the mean of 2^level × 2^level of the tile's
 * (level 0…6), rows `stride` bytes apart.
 */
export function packTile(dst: usize, stride: i32, src: usize, level: i32): void {
  if (level == 0) {
    packFull(dst, stride, src);
    return;
  }
  const size = 1 << level, side = 64 >> level, shift = level + level;
  const round = 1 << (shift - 1);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const to = dst + <usize>(y * stride + (x << 2));
      for (let c = 0; c < 3; c++) {
        const mean = (sumPlane(src, x << level, y << level, size, c << 4) + round) >> shift;
        store<u8>(to + <usize>c, <u8>((mean * 255 + 16384) >> 15));
      }
      store<u8>(to, 255, 3);
    }
  }
}

/**
 * A tile in black and white: of its 64 rows eight bytes each, rows `stride` bytes apart, the first pixel in the highest
 * bit, 1 where it is at least half as light as white (luma by ITU-R BT.709, on sRGB values).
 */
export function packBits(dst: usize, stride: i32, src: usize): void {
  const r = i16x8.splat(6966), g = i16x8.splat(23436), b = i16x8.splat(2366), half = i16x8.splat(16383);
  for (let y = 0; y < 64; y++) {
    const row = src + <usize>(y * ROW_BYTES), to = dst + <usize>(y * stride);
    for (let block: usize = 0; block < 8; block++) {
      const at = row + block * <usize>BLOCK_BYTES;
      const luma = i16x8.add(mul(v128.load(at), r), i16x8.add(mul(v128.load(at, 16), g), mul(v128.load(at, 32), b)));
      const light = i16x8.gt_s(luma, half);
      // The first pixel's bit comes last of a mask, and first of a byte.
      store<u8>(to + block, <u8>i16x8.bitmask(v128.shuffle<u16>(light, light, 7, 6, 5, 4, 3, 2, 1, 0)));
    }
  }
}

/** Every pixel of a tile set to one premultiplied colour. */
export function fillTile(dst: usize, r: i32, g: i32, b: i32, a: i32): void {
  const vr = i16x8.splat(<i16>r), vg = i16x8.splat(<i16>g), vb = i16x8.splat(<i16>b), va = i16x8.splat(<i16>a);
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    v128.store(dst + o, vr);
    v128.store(dst + o, vg, 16);
    v128.store(dst + o, vb, 32);
    v128.store(dst + o, va, 48);
  }
}

/** 1 where all pixels of the tile are the same. */
export function isUniform(src: usize): i32 {
  const r = i16x8.splat(load<i16>(src)), g = i16x8.splat(load<i16>(src, 16));
  const b = i16x8.splat(load<i16>(src, 32)), a = i16x8.splat(load<i16>(src, 48));
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const same = v128.and(
      v128.and(i16x8.eq(v128.load(src + o), r), i16x8.eq(v128.load(src + o, 16), g)),
      v128.and(i16x8.eq(v128.load(src + o, 32), b), i16x8.eq(v128.load(src + o, 48), a)),
    );
    if (!i16x8.all_true(same)) return 0;
  }
  return 1;
}

/**
 * Straight 8-bit RGBA pixels into a tile: `width` × `height` px of `src` (rows `stride`
 * bytes apart) to (x, y) inside the tile. Alpha multiplied in, rounded to nearest.
 */
export function unpackStraight8(dst: usize, src: usize, stride: i32, x: i32, y: i32, width: i32, height: i32): void {
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const from = src + <usize>(j * stride + (i << 2));
      const tx = x + i;
      const at = dst + <usize>((y + j) * ROW_BYTES + (tx >> 3) * BLOCK_BYTES + ((tx & 7) << 1));
      if ((tx & 7) == 0 && i + 8 <= width) {
        unpackBlock8(at, from);
        i += 7;
        continue;
      }
      const px = load<u32>(from);
      const a = px >> 24;
      store<u16>(at, premultiplied(px & 255, a));
      store<u16>(at, premultiplied((px >> 8) & 255, a), 16);
      store<u16>(at, premultiplied((px >> 16) & 255, a), 32);
      store<u16>(at, <u16>((a * 32767 + 127) / 255), 48);
    }
  }
}

/** Eight pixels at once, the same numbers as one by one. */
// @ts-ignore: decorator
@inline function unpackBlock8(at: usize, from: usize): void {
  const p = v128.load(from), q = v128.load(from, 16);
  const a = i16x8.extend_low_i8x16_u(v128.shuffle<u8>(p, q, 3, 7, 11, 15, 19, 23, 27, 31, 0, 0, 0, 0, 0, 0, 0, 0));
  if (!v128.any_true(a)) {
    for (let c: usize = 0; c < 64; c += 16) v128.store(at + c, i16x8.splat(0));
    return;
  }
  const r = i16x8.extend_low_i8x16_u(v128.shuffle<u8>(p, q, 0, 4, 8, 12, 16, 20, 24, 28, 0, 0, 0, 0, 0, 0, 0, 0));
  const g = i16x8.extend_low_i8x16_u(v128.shuffle<u8>(p, q, 1, 5, 9, 13, 17, 21, 25, 29, 0, 0, 0, 0, 0, 0, 0, 0));
  const b = i16x8.extend_low_i8x16_u(v128.shuffle<u8>(p, q, 2, 6, 10, 14, 18, 22, 26, 30, 0, 0, 0, 0, 0, 0, 0, 0));
  const isOpaque = i16x8.all_true(i16x8.eq(a, i16x8.splat(255)));
  v128.store(at, isOpaque ? widened(r) : premultiplied8(r, a));
  v128.store(at, isOpaque ? widened(g) : premultiplied8(g, a), 16);
  v128.store(at, isOpaque ? widened(b) : premultiplied8(b, a), 32);
  v128.store(at, widened(a), 48);
}

/** (v · 32767 + 127) / 255, which is 128 v + (127 v + 127) / 255; by 255 as t + 1 + t/256 over 256. */
// @ts-ignore: decorator
@inline function widened(v: v128): v128 {
  const t = i16x8.mul(i16x8.add(v, i16x8.splat(1)), i16x8.splat(127));
  const rest = i16x8.shr_u(i16x8.add(i16x8.add(t, i16x8.splat(1)), i16x8.shr_u(t, 8)), 8);
  return i16x8.add(i16x8.shl(v, 7), rest);
}

// @ts-ignore: decorator
@inline function premultiplied8(c: v128, a: v128): v128 {
  const low = i32x4.extmul_low_i16x8_u(c, a), high = i32x4.extmul_high_i16x8_u(c, a);
  return i16x8.narrow_i32x4_u(quotients(low), quotients(high));
}

/** (n · 32767 + 32512) / 65025 by a product: 2164359683 is 2⁴⁷ / 65025, rounded up, which is exact for all that fit. */
// @ts-ignore: decorator
@inline function quotients(n: v128): v128 {
  const times = i32x4.splat(<i32>2164359683);
  const wide = i32x4.add(i32x4.sub(i32x4.shl(n, 15), n), i32x4.splat(32512));
  const a = i64x2.shr_u(i64x2.extmul_low_i32x4_u(wide, times), 47);
  const b = i64x2.shr_u(i64x2.extmul_high_i32x4_u(wide, times), 47);
  return v128.shuffle<u32>(a, b, 0, 2, 4, 6);
}

// @ts-ignore: decorator
@inline function premultiplied(c: u32, a: u32): u16 {
  return <u16>((c * a * 32767 + 32512) / 65025);
}

/** The same for straight 16-bit RGBA pixels (rows `stride` bytes apart, low byte first). */
export function unpackStraight16(dst: usize, src: usize, stride: i32, x: i32, y: i32, width: i32, height: i32): void {
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) {
      const from = src + <usize>(j * stride + (i << 3));
      const a = <u64>load<u16>(from, 6);
      const tx = x + i;
      const at = dst + <usize>((y + j) * ROW_BYTES + (tx >> 3) * BLOCK_BYTES + ((tx & 7) << 1));
      store<u16>(at, premultiplied16(load<u16>(from), a));
      store<u16>(at, premultiplied16(load<u16>(from, 2), a), 16);
      store<u16>(at, premultiplied16(load<u16>(from, 4), a), 32);
      store<u16>(at, <u16>((a * 32767 + 32767) / 65535), 48);
    }
  }
}

// @ts-ignore: decorator
@inline function premultiplied16(c: u64, a: u64): u16 {
  return <u16>((c * a * 32767 + 2147418112) / 4294836225);
}

/**
 * Rows of a tile as straight samples, as they lie in a PNG: `width` × `height` px from its top
 * left to `dst` (rows `stride` bytes apart). `deep`: sixteen bits, high byte first, instead of
 * eight; `alpha`: with a fourth sample. Eight bits of what is opaque are those of the screen.
 */
export function packStraight(dst: usize, stride: i32, src: usize, width: i32, height: i32, deep: i32, alpha: i32): void {
  const most: f64 = deep ? 65535 : 255, sample: usize = deep ? 2 : 1;
  for (let y = 0; y < height; y++) {
    let to = dst + <usize>(y * stride);
    for (let x = 0; x < width; x++) {
      const at = src + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const a = <u32>load<u16>(at, 48);
      const opaque = a == 32767 && !deep;
      const scale = a ? most / <f64>a : 0;
      for (let c: usize = 0; c < 48; c += 16) {
        const v = <u32>load<u16>(at + c);
        to = put(to, opaque ? (v * 255 + 16384) >> 15 : <u32>min<f64>(most, floor<f64>(<f64>v * scale + 0.5)), deep);
      }
      if (alpha) to = put(to, deep ? <u32>floor<f64>(<f64>a * 65535 / 32767 + 0.5) : (a * 255 + 16384) >> 15, deep);
    }
  }
}

// @ts-ignore: decorator
@inline function put(to: usize, v: u32, deep: i32): usize {
  if (!deep) {
    store<u8>(to, v);
    return to + 1;
  }
  store<u8>(to, v >> 8);
  store<u8>(to, v & 255, 1);
  return to + 2;
}
