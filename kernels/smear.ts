import { BLOCK_BYTES, NOISE_ROW_BYTES, ROW_BYTES, SIDE } from "./layout";
import { word } from "./mark";
import { complement, fromFloat, highToFloat, lowToFloat, mul, plus } from "./q15";
import { markRow, rowEnd, rowStart } from "./rows";

/** Bits by which slow exchanges are kept finer than the plane while they are rounded. */
const FINE_BITS: i32 = 4;

/**
 * One blending mark on one tile. The tip carries a patch of paint (four planes R G B A of
 * `patchSide` × `patchSide` Q15 numbers; its top left is at picture px (ox, oy)). Under the
 * mask the layer moves toward the patch by `strength`, the patch by `pickUp` toward what lay
 * there before; both with dither, so that a slow drag does not stall on rounding.
 * With `fill` the patch only takes up (the first touch of a stroke).
 * `keepAlpha`: transparency locked, only colour moves. `below`: a tile of what lies under
 * the layer (0: none); then the patch takes up what is seen, and the layer alone receives.
 */
export function smearMark(
  tile: usize, px: i32, py: i32, mark: usize, noise: usize,
  patch: usize, patchSide: i32, ox: i32, oy: i32,
  strength: i32, pickUp: i32, fill: i32, keepAlpha: i32,
  below: usize, grain: usize, period: i32, sheetRight: i32, sheetBottom: i32, scratch: usize,
  beside: i32, besideShare: i32, above: i32, aboveShare: i32,
): void {
  // Where the patch lies between pixels, its neighbours to the side and above or below have a share.
  const wx = i16x8.splat(<i16>besideShare), wy = i16x8.splat(<i16>aboveShare);
  const across = <usize>(beside * 2), down = <usize>(above * patchSide * 2);
  const isBetween = besideShare != 0 || aboveShare != 0;
  const left = max(max(load<i32>(mark, 4), ox) - px, 0), top = max(max(load<i32>(mark, 8), oy) - py, 0);
  const right = min(min(load<i32>(mark, 12), ox + patchSide - 8) - px, SIDE);
  const bottom = min(min(min(load<i32>(mark, 16), oy + patchSide), sheetBottom) - py, SIDE);
  if (left >= right || top >= bottom) return;
  // Patch columns are eight wide beyond either side of the tip, so whole blocks always fit.
  const x0 = left & ~7, x1 = (right + 7) & ~7;
  const kind = word(mark, 0);
  const shift = load<i32>(mark, 56), sx = shift & 63, sy = shift >> 6;
  const plane = <usize>(patchSide * patchSide * 2);
  const push = i16x8.splat(<i16>strength), pick = i16x8.splat(<i16>pickUp);
  for (let y = top; y < bottom; y++) {
    const from = fill ? x0 : rowStart(mark, kind, px, py + y, x0, x1), to = fill ? x1 : rowEnd;
    if (from >= to) continue;
    if (!fill) markRow(mark, kind, px, py + y, from, to, scratch, grain, period);
    // A tile goes on beyond the sheet, where nothing is to be taken up.
    for (let x = sheetRight - px; x < to; x++) if (x >= from) store<i16>(scratch + <usize>(x << 1), 0);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    const patchRow = patch + <usize>(((py + y - oy) * patchSide + px - ox) << 1);
    for (let x = from; x < to; x += 8) {
      const at = tile + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const carry = patchRow + <usize>(x << 1);
      if (fill) {
        for (let c: usize = 0; c < 4; c++) v128.store(carry + c * plane, seen(at, below, tile, c));
        continue;
      }
      const mask = v128.load(scratch + <usize>(x << 1));
      if (!v128.any_true(mask)) continue;
      const noise8 = i16x8.shr_u(v128.load(noiseRow + <usize>(x << 1)), 8 - FINE_BITS);
      const give = mul(mask, push), take = mul(mask, pick);
      const oldAlpha = v128.load(at, 48);
      for (let c: usize = 0; c < 4; c++) {
        const d = v128.load(at + c * 16), p = v128.load(carry + c * plane);
        const own = carry + c * plane;
        const laid = isBetween ? between(own, p, across, wx, down, wy) : p;
        const s = below ? plus(d, mul(complement(oldAlpha), v128.load(below + (at - tile) + c * 16))) : d;
        v128.store(at + c * 16, toward(d, laid, give, noise8));
        v128.store(carry + c * plane, toward(p, s, take, noise8));
      }
      const a = v128.load(at, 48);
      for (let c: usize = 0; c < 3; c++) {
        v128.store(at + c * 16, i16x8.min_s(v128.load(at + c * 16), a));
      }
      if (keepAlpha) restoreAlpha(at, oldAlpha);
    }
  }
}

/** The patch between four of its pixels. */
// @ts-ignore: decorator
@inline function between(at: usize, p: v128, across: usize, wx: v128, down: usize, wy: v128): v128 {
  const top = mixed(p, v128.load(at + across), wx);
  return mixed(top, mixed(v128.load(at + down), v128.load(at + down + across), wx), wy);
}

/** a + (b − a)·share. */
// @ts-ignore: decorator
@inline function mixed(a: v128, b: v128, share: v128): v128 {
  return plus(a, mul(i16x8.sub(b, a), share));
}

/** What is seen of channel c: the layer's, over what lies below. */
// @ts-ignore: decorator
@inline function seen(at: usize, below: usize, tile: usize, c: usize): v128 {
  const d = v128.load(at + c * 16);
  if (!below) return d;
  return plus(d, mul(complement(v128.load(at, 48)), v128.load(below + (at - tile) + c * 16)));
}

/** d + (p − d)·a, the fraction below one step decided by noise. */
// @ts-ignore: decorator
@inline function toward(d: v128, p: v128, a: v128, noise: v128): v128 {
  const gap = i16x8.sub(p, d);
  // The product's low half holds what rounding would throw away.
  const low = i32x4.shr_s(i32x4.extmul_low_i16x8_s(gap, a), 15 - FINE_BITS);
  const high = i32x4.shr_s(i32x4.extmul_high_i16x8_s(gap, a), 15 - FINE_BITS);
  const nl = i32x4.extend_low_i16x8_u(noise), nh = i32x4.extend_high_i16x8_u(noise);
  const moved = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.add(low, nl), FINE_BITS),
    i32x4.shr_s(i32x4.add(high, nh), FINE_BITS),
  );
  return i16x8.max_s(plus(d, moved), i16x8.splat(0));
}

// @ts-ignore: decorator
@inline function restoreAlpha(at: usize, alpha: v128): void {
  const now = v128.load(at, 48);
  const tiny = f32x4.splat(<f32>1e-9), one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const nl = lowToFloat(now), nh = highToFloat(now);
  const low = v128.and(f32x4.div(lowToFloat(alpha), f32x4.pmax(nl, tiny)), f32x4.gt(nl, zero));
  const high = v128.and(f32x4.div(highToFloat(alpha), f32x4.pmax(nh, tiny)), f32x4.gt(nh, zero));
  for (let c: usize = 0; c < 3; c++) {
    const v = v128.load(at + c * 16);
    const scaled = fromFloat(f32x4.pmin(f32x4.mul(lowToFloat(v), low), one), f32x4.pmin(f32x4.mul(highToFloat(v), high), one));
    v128.store(at + c * 16, i16x8.min_s(scaled, alpha));
  }
  v128.store(at, alpha, 48);
}
