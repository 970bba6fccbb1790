import { BLOCK_BYTES, ROW_BYTES } from "./layout";
import { complement, mul, plus } from "./q15";

/**
 * Resampling. What is to be seen of the source is first laid out pixel after pixel (a
 * *region*: R G B A, eight bytes a pixel), so that a pair of neighbours is one load; then each
 * pixel of a target tile is the sum of the source's pixels around its place, weighed by a
 * separable kernel of four taps (bicubic) or six (Lanczos).
 *
 * Where a pixel comes from is given every eighth pixel, in nodes of 9 × 9, and is linear
 * between them. A cell with a corner that comes from nowhere is left empty.
 */
const NODES: i32 = 9;
/** Phases between two pixels of the source, and the bytes of one phase's eight weights (Q14). */
const PHASE_BYTES: i32 = 16;
const PIXEL_BYTES: i32 = 8;
/** Nodes below this come from nowhere. */
const NOWHERE: f32 = -1000000000.0;
const FOUR_TAPS: i32 = 4;

/** Puts the rows y0…y1−1 of a tile's blocks b0…b1−1 into a region at `to`. */
export function unweave(to: usize, stride: i32, tile: usize, b0: i32, b1: i32, y0: i32, y1: i32): void {
  for (let y = y0; y < y1; y++) {
    let out = to + <usize>((y - y0) * stride);
    for (let b = b0; b < b1; b++, out += 64) {
      const at = tile + <usize>(y * ROW_BYTES + b * BLOCK_BYTES);
      const r = v128.load(at), g = v128.load(at, 16), bl = v128.load(at, 32), a = v128.load(at, 48);
      const rg = v128.shuffle<u16>(r, g, 0, 8, 1, 9, 2, 10, 3, 11), ba = v128.shuffle<u16>(bl, a, 0, 8, 1, 9, 2, 10, 3, 11);
      const rg2 = v128.shuffle<u16>(r, g, 4, 12, 5, 13, 6, 14, 7, 15), ba2 = v128.shuffle<u16>(bl, a, 4, 12, 5, 13, 6, 14, 7, 15);
      v128.store(out, v128.shuffle<u32>(rg, ba, 0, 4, 1, 5));
      v128.store(out, v128.shuffle<u32>(rg, ba, 2, 6, 3, 7), 16);
      v128.store(out, v128.shuffle<u32>(rg2, ba2, 0, 4, 1, 5), 32);
      v128.store(out, v128.shuffle<u32>(rg2, ba2, 2, 6, 3, 7), 48);
    }
  }
}

/** Two pixels' channels side by side, weighed: R G B A as 32-bit sums. */
// @ts-ignore: decorator
@inline function pairSum(at: usize, weights: v128): v128 {
  const two = v128.load(at);
  return i32x4.dot_i16x8_s(v128.shuffle<u16>(two, two, 0, 4, 1, 5, 2, 6, 3, 7), weights);
}

// @ts-ignore: decorator
@inline function across4(at: usize, w01: v128, w23: v128): v128 {
  return i32x4.add(pairSum(at, w01), pairSum(at + 16, w23));
}

// @ts-ignore: decorator
@inline function across6(at: usize, w01: v128, w23: v128, w45: v128): v128 {
  return i32x4.add(across4(at, w01, w23), pairSum(at + 32, w45));
}

/** Two rows' sums weighed together. */
// @ts-ignore: decorator
@inline function down(first: v128, second: v128, weights: v128): v128 {
  const half = i32x4.splat(8192);
  const two = i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(first, half), 14), i32x4.shr_s(i32x4.add(second, half), 14));
  return i32x4.dot_i16x8_s(v128.shuffle<u16>(two, two, 0, 4, 1, 5, 2, 6, 3, 7), weights);
}

/** A 16.16 place in the region → R G B A as 32-bit sums of Q15 · Q14. */
// @ts-ignore: decorator
@inline function sample(region: usize, stride: i32, weights: usize, taps: i32, u: i32, v: i32): v128 {
  const wx = weights + <usize>(((u >> 8) & 255) * PHASE_BYTES), wy = weights + <usize>(((v >> 8) & 255) * PHASE_BYTES);
  const x01 = v128.load32_splat(wx), x23 = v128.load32_splat(wx, 4);
  const y01 = v128.load32_splat(wy), y23 = v128.load32_splat(wy, 4);
  const before = taps == FOUR_TAPS ? 1 : 2;
  const row = region + <usize>(((v >> 16) - before) * stride + ((u >> 16) - before) * PIXEL_BYTES);
  const s = <usize>stride;
  if (taps == FOUR_TAPS) {
    return i32x4.add(
      down(across4(row, x01, x23), across4(row + s, x01, x23), y01),
      down(across4(row + 2 * s, x01, x23), across4(row + 3 * s, x01, x23), y23),
    );
  }
  const x45 = v128.load32_splat(wx, 8), y45 = v128.load32_splat(wy, 8);
  return i32x4.add(
    i32x4.add(
      down(across6(row, x01, x23, x45), across6(row + s, x01, x23, x45), y01),
      down(across6(row + 2 * s, x01, x23, x45), across6(row + 3 * s, x01, x23, x45), y23),
    ),
    down(across6(row + 4 * s, x01, x23, x45), across6(row + 5 * s, x01, x23, x45), y45),
  );
}

/** Two pixels' sums as eight Q15 numbers R G B A R G B A. */
// @ts-ignore: decorator
@inline function settled(a: v128, b: v128): v128 {
  const half = i32x4.splat(8192);
  return i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(a, half), 14), i32x4.shr_s(i32x4.add(b, half), 14));
}

/** Four pairs of pixels back into a block, held to what premultiplied colour may be, over what is there. */
// @ts-ignore: decorator
@inline function storeBlock(to: usize, p01: v128, p23: v128, p45: v128, p67: v128): void {
  const rgA = v128.shuffle<u16>(p01, p23, 0, 4, 8, 12, 1, 5, 9, 13), rgB = v128.shuffle<u16>(p45, p67, 0, 4, 8, 12, 1, 5, 9, 13);
  const baA = v128.shuffle<u16>(p01, p23, 2, 6, 10, 14, 3, 7, 11, 15), baB = v128.shuffle<u16>(p45, p67, 2, 6, 10, 14, 3, 7, 11, 15);
  const zero = i16x8.splat(0);
  const a = i16x8.max_s(v128.shuffle<u64>(baA, baB, 1, 3), zero);
  const r = i16x8.max_s(i16x8.min_s(v128.shuffle<u64>(rgA, rgB, 0, 2), a), zero);
  const g = i16x8.max_s(i16x8.min_s(v128.shuffle<u64>(rgA, rgB, 1, 3), a), zero);
  const b = i16x8.max_s(i16x8.min_s(v128.shuffle<u64>(baA, baB, 0, 2), a), zero);
  const rest = complement(a);
  v128.store(to, plus(r, mul(v128.load(to), rest)));
  v128.store(to, plus(g, mul(v128.load(to, 16), rest)), 16);
  v128.store(to, plus(b, mul(v128.load(to, 32), rest)), 32);
  v128.store(to, plus(a, mul(v128.load(to, 48), rest)), 48);
}

// @ts-ignore: decorator
@inline function fixed(x: f32): i32 {
  return <i32>(<i64>(x * <f32>65536.0));
}

/**
 * Lays the resampled source over a tile. `nodes`: 9 × 9 pairs of places in the region, px, a
 * pixel's centre being a whole number; the region reaches two (bicubic) or three pixels farther
 * on all sides than any of them. `weights`: 256 phases of eight numbers in Q14.
 */
export function warpTile(dst: usize, nodes: usize, region: usize, stride: i32, weights: usize, taps: i32): void {
  for (let cell = 0; cell < 64; cell++) {
    const column = cell & 7, line = cell >> 3;
    const top = nodes + <usize>((line * NODES + column) * 8), bottom = top + <usize>(NODES * 8);
    const x00 = load<f32>(top), y00 = load<f32>(top, 4), x01 = load<f32>(top, 8), y01 = load<f32>(top, 12);
    const x10 = load<f32>(bottom), y10 = load<f32>(bottom, 4), x11 = load<f32>(bottom, 8), y11 = load<f32>(bottom, 12);
    if (x00 < NOWHERE || x01 < NOWHERE || x10 < NOWHERE || x11 < NOWHERE) continue;
    let to = dst + <usize>(line * 8 * ROW_BYTES + column * BLOCK_BYTES);
    for (let y = 0; y < 8; y++, to += ROW_BYTES) {
      const t = (<f32>y + 0.5) * 0.125;
      const left = x00 + (x10 - x00) * t, leftY = y00 + (y10 - y00) * t;
      const stepX = (x01 + (x11 - x01) * t - left) * 0.125, stepY = (y01 + (y11 - y01) * t - leftY) * 0.125;
      const du = fixed(stepX), dv = fixed(stepY);
      let u = fixed(left + stepX * 0.5) + 128, v = fixed(leftY + stepY * 0.5) + 128;
      const a = sample(region, stride, weights, taps, u, v), b = sample(region, stride, weights, taps, u + du, v + dv);
      u += du << 1; v += dv << 1;
      const c = sample(region, stride, weights, taps, u, v), d = sample(region, stride, weights, taps, u + du, v + dv);
      u += du << 1; v += dv << 1;
      const e = sample(region, stride, weights, taps, u, v), f = sample(region, stride, weights, taps, u + du, v + dv);
      u += du << 1; v += dv << 1;
      const g = sample(region, stride, weights, taps, u, v), h = sample(region, stride, weights, taps, u + du, v + dv);
      storeBlock(to, settled(a, b), settled(c, d), settled(e, f), settled(g, h));
    }
  }
}

/** Even and odd numbers of sixteen, meaned. */
// @ts-ignore: decorator
@inline function halved(a: v128, b: v128): v128 {
  return i16x8.avgr_u(
    v128.shuffle<u16>(a, b, 0, 2, 4, 6, 8, 10, 12, 14),
    v128.shuffle<u16>(a, b, 1, 3, 5, 7, 9, 11, 13, 15),
  );
}

/** A tile at half its size, into the quarter of `dst` at (32·qx, 32·qy). */
export function halveTile(dst: usize, src: usize, qx: i32, qy: i32): void {
  for (let y = 0; y < 32; y++) {
    const from = src + <usize>(2 * y * ROW_BYTES), to = dst + <usize>((qy * 32 + y) * ROW_BYTES + qx * 4 * BLOCK_BYTES);
    for (let b = 0; b < 4; b++) {
      for (let c = 0; c < 64; c += 16) {
        const at = from + <usize>(b * 2 * BLOCK_BYTES + c);
        const left = i16x8.avgr_u(v128.load(at), v128.load(at + ROW_BYTES));
        const right = i16x8.avgr_u(v128.load(at, 64), v128.load(at + ROW_BYTES, 64));
        v128.store(to + <usize>(b * BLOCK_BYTES + c), halved(left, right));
      }
    }
  }
}
