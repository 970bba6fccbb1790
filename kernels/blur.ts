import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";

/**
 * A Gaussian by three running means (Wells 1986): eight lines side by side, each element of
 * a line 64 bytes, R G B A of the eight. Lines run down a block's columns, or, turned,
 * along eight rows. Beyond its ends a line goes on as it ends.
 */

// @ts-ignore: decorator
@inline function low(v: v128): v128 {
  return i32x4.extend_low_i16x8_u(v);
}

// @ts-ignore: decorator
@inline function high(v: v128): v128 {
  return i32x4.extend_high_i16x8_u(v);
}

// @ts-ignore: decorator
@inline function mean(a: v128, b: v128, share: v128): v128 {
  const magic = f32x4.splat(12582912.0);
  const l = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(a), share), magic);
  const h = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(b), share), magic);
  return v128.shuffle<u16>(l, h, 0, 2, 4, 6, 8, 10, 12, 14);
}

/** One channel of one running mean: `n` elements, windows of 2r + 1. */
function meanOf(dst: usize, src: usize, n: i32, r: i32): void {
  const share = f32x4.splat(<f32>(1.0 / <f64>((r << 1) + 1)));
  const first = v128.load(src), last = v128.load(src + <usize>((n - 1) * BLOCK_BYTES));
  let a = i32x4.mul(low(first), i32x4.splat(r + 1)), b = i32x4.mul(high(first), i32x4.splat(r + 1));
  for (let i = 0; i < r; i++) {
    const v = i < n ? v128.load(src + <usize>(i * BLOCK_BYTES)) : last;
    a = i32x4.add(a, low(v));
    b = i32x4.add(b, high(v));
  }
  for (let i = 0; i < n; i++) {
    const comes = i + r < n ? v128.load(src + <usize>((i + r) * BLOCK_BYTES)) : last;
    a = i32x4.add(a, low(comes));
    b = i32x4.add(b, high(comes));
    const goes = i - r - 1 >= 0 ? v128.load(src + <usize>((i - r - 1) * BLOCK_BYTES)) : first;
    if (i > 0) {
      a = i32x4.sub(a, low(goes));
      b = i32x4.sub(b, high(goes));
    } else {
      a = i32x4.sub(a, low(first));
      b = i32x4.sub(b, high(first));
    }
    v128.store(dst + <usize>(i * BLOCK_BYTES), mean(a, b, share));
  }
}

/** Three means of `n` elements at `buffer`, through as many behind them; the result is at the second place. */
function blurLine(buffer: usize, other: usize, n: i32, r0: i32, r1: i32, r2: i32): void {
  for (let c: usize = 0; c < 64; c += 16) {
    meanOf(other + c, buffer + c, n, r0);
    meanOf(buffer + c, other + c, n, r1);
    meanOf(other + c, buffer + c, n, r2);
  }
}

/**
 * A column of tiles blurred downward. `from`, `to`: `count` addresses each (0: nothing
 * there, or not wanted); `length`: px of the column; `buffer`: 2 · 64 · (64 · count) bytes.
 */
export function blurColumn(
  from: usize, to: usize, count: i32, length: i32, buffer: usize, r0: i32, r1: i32, r2: i32,
): void {
  const other = buffer + <usize>(count * SIDE * BLOCK_BYTES);
  for (let block = 0; block < 8; block++) {
    for (let t = 0; t < count; t++) {
      const tile = load<u32>(from + <usize>(t << 2)), at = buffer + <usize>(t * SIDE * BLOCK_BYTES);
      if (tile == 0) {
        memory.fill(at, 0, SIDE * BLOCK_BYTES);
        continue;
      }
      for (let y = 0; y < SIDE; y++)
        memory.copy(at + <usize>(y * BLOCK_BYTES), <usize>tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES), BLOCK_BYTES);
    }
    blurLine(buffer, other, length, r0, r1, r2);
    for (let t = 0; t < count; t++) {
      const tile = load<u32>(to + <usize>(t << 2)), at = other + <usize>(t * SIDE * BLOCK_BYTES);
      if (tile == 0) continue;
      const rows = min(SIDE, length - t * SIDE);
      for (let y = 0; y < rows; y++)
        memory.copy(<usize>tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES), at + <usize>(y * BLOCK_BYTES), BLOCK_BYTES);
    }
  }
}

/** A row of tiles blurred along it: as `blurColumn`, eight rows at a time, turned. */
export function blurRow(
  from: usize, to: usize, count: i32, length: i32, buffer: usize, r0: i32, r1: i32, r2: i32,
): void {
  const other = buffer + <usize>(count * SIDE * BLOCK_BYTES);
  for (let y = 0; y < SIDE; y += 8) {
    for (let t = 0; t < count; t++) {
      const tile = load<u32>(from + <usize>(t << 2)), at = buffer + <usize>(t * SIDE * BLOCK_BYTES);
      if (tile == 0) {
        memory.fill(at, 0, SIDE * BLOCK_BYTES);
        continue;
      }
      for (let block = 0; block < 8; block++)
        for (let c: usize = 0; c < 64; c += 16)
          turn(at + <usize>(block * 8 * BLOCK_BYTES) + c, BLOCK_BYTES, <usize>tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES) + c, ROW_BYTES);
    }
    blurLine(buffer, other, length, r0, r1, r2);
    for (let t = 0; t < count; t++) {
      const tile = load<u32>(to + <usize>(t << 2)), at = other + <usize>(t * SIDE * BLOCK_BYTES);
      if (tile == 0) continue;
      for (let block = 0; block < 8; block++) {
        if (t * SIDE + block * 8 >= length) break;
        for (let c: usize = 0; c < 64; c += 16)
          turn(<usize>tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES) + c, ROW_BYTES, at + <usize>(block * 8 * BLOCK_BYTES) + c, BLOCK_BYTES);
      }
    }
  }
}

/** Eight rows of eight numbers turned into columns. */
// @ts-ignore: decorator
@inline function turn(dst: usize, dstStep: i32, src: usize, srcStep: i32): void {
  const s = <usize>srcStep, d = <usize>dstStep;
  const a = v128.load(src), b = v128.load(src + s), c = v128.load(src + 2 * s), e = v128.load(src + 3 * s);
  const f = v128.load(src + 4 * s), g = v128.load(src + 5 * s), h = v128.load(src + 6 * s), i = v128.load(src + 7 * s);
  const ab = v128.shuffle<u16>(a, b, 0, 8, 1, 9, 2, 10, 3, 11), ab2 = v128.shuffle<u16>(a, b, 4, 12, 5, 13, 6, 14, 7, 15);
  const ce = v128.shuffle<u16>(c, e, 0, 8, 1, 9, 2, 10, 3, 11), ce2 = v128.shuffle<u16>(c, e, 4, 12, 5, 13, 6, 14, 7, 15);
  const fg = v128.shuffle<u16>(f, g, 0, 8, 1, 9, 2, 10, 3, 11), fg2 = v128.shuffle<u16>(f, g, 4, 12, 5, 13, 6, 14, 7, 15);
  const hi = v128.shuffle<u16>(h, i, 0, 8, 1, 9, 2, 10, 3, 11), hi2 = v128.shuffle<u16>(h, i, 4, 12, 5, 13, 6, 14, 7, 15);
  four(dst, d, v128.shuffle<u32>(ab, ce, 0, 4, 1, 5), v128.shuffle<u32>(fg, hi, 0, 4, 1, 5));
  four(dst + 2 * d, d, v128.shuffle<u32>(ab, ce, 2, 6, 3, 7), v128.shuffle<u32>(fg, hi, 2, 6, 3, 7));
  four(dst + 4 * d, d, v128.shuffle<u32>(ab2, ce2, 0, 4, 1, 5), v128.shuffle<u32>(fg2, hi2, 0, 4, 1, 5));
  four(dst + 6 * d, d, v128.shuffle<u32>(ab2, ce2, 2, 6, 3, 7), v128.shuffle<u32>(fg2, hi2, 2, 6, 3, 7));
}

// @ts-ignore: decorator
@inline function four(dst: usize, step: usize, low: v128, high: v128): void {
  v128.store(dst, v128.shuffle<u64>(low, high, 0, 2));
  v128.store(dst + step, v128.shuffle<u64>(low, high, 1, 3));
}

/**
 * A tile made sharper: what its blurred one lacks of it is added `amount` times (unsharp mask;
 * the bits of an f32). Alpha stays, and colour stays within it.
 */
export function sharpenTile(dst: usize, src: usize, soft: usize, amount: i32): void {
  const by = f32x4.splat(reinterpret<f32>(amount));
  for (let o: usize = 0; o < <usize>(SIDE * ROW_BYTES); o += BLOCK_BYTES) {
    const a = v128.load(src + o, 48);
    for (let c: usize = 0; c < 48; c += 16) {
      const v = v128.load(src + o + c), s = v128.load(soft + o + c);
      const l = sharper(low(v), low(s), by), h = sharper(high(v), high(s), by);
      const out = i16x8.narrow_i32x4_s(l, h);
      v128.store(dst + o + c, i16x8.max_s(i16x8.min_s(out, a), i16x8.splat(0)));
    }
    v128.store(dst + o, a, 48);
  }
}

// @ts-ignore: decorator
@inline function sharper(v: v128, soft: v128, by: v128): v128 {
  const lacks = f32x4.convert_i32x4_s(i32x4.sub(v, soft));
  return i32x4.add(v, i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(lacks, by))));
}
