import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { real, word } from "./mark";
import { colour4, PAINT_BYTES, paint4 } from "./pigment";
import { highToFloat, lowToFloat } from "./q15";
import { markRow, rowEnd, rowStart } from "./rows";

/**
 * A tile's paint while it is stirred: for each four pixels nine lots of four f32, 144 bytes, row by row.
 * What the paint takes up of light in seven bands (`kernels/pigment.ts`), times how much paint there is;
 * how much, its sign set as long as nothing has changed; and how far the place is open to change.
 * A colour is made of three numbers and a paint of seven, so a stroke that went over colours in between
 * would lose its greens.
 */
const GROUP: usize = 144;
const AMOUNT_AT: usize = 112;
const OPEN_AT: usize = 128;
const ROW_OF_PAINT: usize = GROUP * 16;
/** Of what is carried, planes of f32: bands, then the amount of paint. */
const BANDS: usize = 7;
const AMOUNT: usize = 7;
/** In a thread's scratch a row's mask comes first, then paints of what lies below. */
const PAINTS_AT: usize = 256;

/** Writes the paint of a tile's colours, untouched and open. `scratch`: 1024 bytes of this thread's own. */
export function encodePaint(paint: usize, tile: usize, scratch: usize): void {
  const untouched = f32x4.splat(<f32>-0.0);
  for (let i: usize = 0; i < 1024; i++) {
    const at = tile + (i >> 1) * BLOCK_BYTES, to = paint + i * GROUP, high = (i & 1) == 1;
    const a = half(at + 48, high);
    paintsOf(half(at, high), half(at + 16, high), half(at + 32, high), a, to, scratch);
    for (let band: usize = 0; band < BANDS; band++) v128.store(to + (band << 4), f32x4.mul(v128.load(to + (band << 4)), a));
    v128.store(to, v128.or(a, untouched), AMOUNT_AT);
    v128.store(to, f32x4.splat(1), OPEN_AT);
  }
}

/** Closes a tile's paint as far as a mask's alpha leaves it open. */
export function closePaint(paint: usize, mask: usize): void {
  for (let i: usize = 0; i < 1024; i++) {
    const open = half(mask + (i >> 1) * BLOCK_BYTES + 48, (i & 1) == 1);
    const at = paint + i * GROUP + OPEN_AT;
    v128.store(at, f32x4.mul(v128.load(at), open));
  }
}

/** Shows in a tile what has become of its paint; untouched pixels stay to the last bit. */
export function showPaint(tile: usize, paint: usize, scratch: usize): void {
  for (let block: usize = 0; block < 512; block++) {
    const at = tile + block * BLOCK_BYTES, from = paint + (block << 1) * GROUP;
    const first = i32x4.shr_s(v128.load(from, AMOUNT_AT), 31), second = i32x4.shr_s(v128.load(from + GROUP, AMOUNT_AT), 31);
    if (i32x4.all_true(first) && i32x4.all_true(second)) continue;
    const stays = i16x8.narrow_i32x4_s(first, second);
    coloursOf(from, scratch);
    const r = v128.load(scratch), g = v128.load(scratch, 16), b = v128.load(scratch, 32), a = v128.load(scratch, 48);
    coloursOf(from + GROUP, scratch);
    const alphas = i16x8.narrow_i32x4_s(a, v128.load(scratch, 48));
    show(at, i16x8.min_s(i16x8.narrow_i32x4_s(r, v128.load(scratch)), alphas), stays);
    show(at + 16, i16x8.min_s(i16x8.narrow_i32x4_s(g, v128.load(scratch, 16)), alphas), stays);
    show(at + 32, i16x8.min_s(i16x8.narrow_i32x4_s(b, v128.load(scratch, 32)), alphas), stays);
    show(at + 48, alphas, stays);
  }
}

// @ts-ignore: decorator
@inline function show(at: usize, value: v128, stays: v128): void {
  v128.store(at, v128.bitselect(v128.load(at), value, stays));
}

/** Four pixels of paint as colours, premultiplied, in whole Q15 steps: r, g, b, a, written to `out`. */
// @ts-ignore: decorator
@inline function coloursOf(paint: usize, out: usize): void {
  const a = f32x4.abs(v128.load(paint, AMOUNT_AT));
  const per = over(a);
  for (let band: usize = 0; band < BANDS; band++)
    v128.store(out + (band << 4), f32x4.mul(v128.load(paint + (band << 4)), per));
  colour4(out);
  for (let c: usize = 0; c < 48; c += 16) v128.store(out + c, steps(f32x4.mul(v128.load(out + c), a)));
  v128.store(out, steps(a), 48);
}

/** Numbers 0…1 as Q15 steps, rounded to nearest. */
// @ts-ignore: decorator
@inline function steps(value: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(value, f32x4.splat(32767)), f32x4.splat(0.5)));
}

/**
 * One blending mark on one tile, stirred as paint. The tip carries a patch of it: eight planes of f32 of
 * `patchSide` × `patchSide`, its top left at picture px (ox, oy): bands and amount as in a tile's paint.
 * Under the mask the layer moves toward the patch by `strength`, the patch by `pickUp` toward what lay
 * there before; both by the amounts of paint.
 * With `fill` the patch only takes up, from a tile's colours (the first touch of a stroke).
 * `keepAlpha`: transparency locked, only colour moves. `below`: a tile of what lies under
 * the layer (0: none); then the patch takes up what is seen, and the layer alone receives.
 * `scratch`: 1024 bytes of this thread's own.
 */
export function smearMark(
  paint: usize, px: i32, py: i32, mark: usize,
  patch: usize, patchSide: i32, ox: i32, oy: i32,
  strength: i32, pickUp: i32, fill: i32, keepAlpha: i32,
  below: usize, grain: usize, period: i32, sheetRight: i32, sheetBottom: i32,
  beside: i32, besideShare: i32, above: i32, aboveShare: i32, scratch: usize,
): void {
  const left = max(max(load<i32>(mark, 4), ox) - px, 0), top = max(max(load<i32>(mark, 8), oy) - py, 0);
  const right = min(min(load<i32>(mark, 12), ox + patchSide - 8) - px, SIDE);
  const bottom = min(min(min(load<i32>(mark, 16), oy + patchSide), sheetBottom) - py, SIDE);
  if (left >= right || top >= bottom) return;
  // Where the patch lies between pixels, its neighbours to the side and above or below have a share.
  wx = share(besideShare), wy = share(aboveShare);
  across = <usize>(beside << 2), down = <usize>((above * patchSide) << 2);
  isBetween = besideShare != 0 || aboveShare != 0;
  keeps = keepAlpha != 0;
  // Patch columns are eight wide beyond either side of the tip, so whole blocks always fit.
  const x0 = left & ~7, x1 = (right + 7) & ~7;
  const kind = word(mark, 0);
  plane = <usize>(patchSide * patchSide * 4);
  push = share(strength), pick = share(pickUp);
  perFlow = f32x4.splat(<f32>1 / max<f32>(real(mark, 13), <f32>0.0001));
  const own = scratch + PAINTS_AT;
  for (let y = top; y < bottom; y++) {
    const from = fill ? x0 : rowStart(mark, kind, px, py + y, x0, x1), to = fill ? x1 : rowEnd;
    if (from >= to) continue;
    if (!fill) markRow(mark, kind, px, py + y, from, to, scratch, grain, period);
    // A tile goes on beyond the sheet, where nothing is to be taken up.
    for (let x = sheetRight - px; x < to; x++) if (x >= from) store<i16>(scratch + <usize>(x << 1), 0);
    const patchRow = patch + <usize>(((py + y - oy) * patchSide + px - ox) << 2);
    for (let x = from; x < to; x += 8) {
      const block = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const carry = patchRow + <usize>(x << 2);
      const under = below ? below + block : 0;
      if (fill) {
        fillPatch(paint + block, under, carry, own, false);
        fillPatch(paint + block, under, carry + 16, own, true);
        continue;
      }
      const mask = v128.load(scratch + <usize>(x << 1));
      if (!v128.any_true(mask)) continue;
      const at = paint + <usize>y * ROW_OF_PAINT + <usize>(x >> 2) * GROUP;
      stir(at, under, carry, own, lowToFloat(mask), false);
      stir(at + GROUP, under, carry + 16, own, highToFloat(mask), true);
    }
  }
}

// What a mark's blocks share, so that it need not be handed on one by one.
let wx: v128 = i32x4.splat(0), wy: v128 = i32x4.splat(0);
let push: v128 = i32x4.splat(0), pick: v128 = i32x4.splat(0), perFlow: v128 = i32x4.splat(0);
let across: usize = 0, down: usize = 0, plane: usize = 0;
let isBetween: bool = false, keeps: bool = false;

/** A Q15 number as four floats. */
// @ts-ignore: decorator
@inline function share(q15: i32): v128 {
  return f32x4.splat(<f32>q15 * <f32>(1.0 / 32767.0));
}

// @ts-ignore: decorator
@inline function half(at: usize, high: bool): v128 {
  const both = v128.load(at);
  return high ? highToFloat(both) : lowToFloat(both);
}

/** One over an amount of paint, 0 where there is none. */
// @ts-ignore: decorator
@inline function over(amount: v128): v128 {
  const some = f32x4.gt(amount, f32x4.splat(<f32>0.00001));
  return v128.and(f32x4.div(f32x4.splat(1), amount), some);
}

/** The paints of four pixels (r g b premultiplied), to `out`. */
// @ts-ignore: decorator
@inline function paintsOf(r: v128, g: v128, b: v128, a: v128, out: usize, scratch: usize): void {
  const straight = over(a);
  paint4(f32x4.mul(r, straight), f32x4.mul(g, straight), f32x4.mul(b, straight), out, scratch);
}

/** The first touch: the patch is what is seen of a tile, with what lies below. */
function fillPatch(at: usize, under: usize, carry: usize, own: usize, high: bool): void {
  let r = half(at, high), g = half(at + 16, high), b = half(at + 32, high), a = half(at + 48, high);
  if (under) {
    const through = f32x4.sub(f32x4.splat(1), a);
    r = f32x4.add(r, f32x4.mul(through, half(under, high)));
    g = f32x4.add(g, f32x4.mul(through, half(under + 16, high)));
    b = f32x4.add(b, f32x4.mul(through, half(under + 32, high)));
    a = f32x4.add(a, f32x4.mul(through, half(under + 48, high)));
  }
  paintsOf(r, g, b, a, own, own + PAINT_BYTES);
  for (let band: usize = 0; band < BANDS; band++)
    v128.store(carry + band * plane, f32x4.mul(v128.load(own + (band << 4)), a));
  v128.store(carry + AMOUNT * plane, a);
}

/** The paints of what lies below four pixels, to `out`. Returns how much of it shows between the layer's own. */
function seenBelow(under: usize, a: v128, out: usize, high: bool): v128 {
  const amount = half(under + 48, high);
  paintsOf(half(under, high), half(under + 16, high), half(under + 32, high), amount, out, out + PAINT_BYTES);
  return f32x4.mul(f32x4.sub(f32x4.splat(1), a), amount);
}

/** Stirs four pixels of the layer's paint and of the patch. */
// @ts-ignore: decorator
@inline function stir(at: usize, under: usize, carry: usize, own: usize, mask: v128, high: bool): void {
  const marked = v128.load(at, AMOUNT_AT);
  const a = f32x4.abs(marked);
  const give = f32x4.mul(f32x4.mul(mask, push), v128.load(at, OPEN_AT));
  const take = f32x4.mul(mask, pick);
  const shows = under ? seenBelow(under, a, own, high) : f32x4.splat(0);
  const laidAmount = carried(carry + AMOUNT * plane);
  const grows = f32x4.mul(f32x4.sub(laidAmount, a), give);
  const amount = f32x4.add(a, grows);
  // A trace of a strong paint shows: so that a soft edge is seen as soft, what is laid counts for less there.
  const counts = f32x4.mul(give, f32x4.pmin(f32x4.mul(mask, perFlow), f32x4.splat(1)));
  const stays = f32x4.sub(f32x4.splat(1), give);
  const inAll = over(f32x4.add(f32x4.mul(a, stays), f32x4.mul(laidAmount, counts)));
  const scale = f32x4.mul(keeps ? a : amount, inAll);
  let moved = f32x4.ne(grows, f32x4.splat(0));
  for (let band: usize = 0; band < BANDS; band++) {
    const from = carry + band * plane;
    const mine = v128.load(at + (band << 4));
    const laid = carried(from);
    const differs = v128.and(f32x4.ne(laid, mine), f32x4.gt(give, f32x4.splat(0)));
    moved = v128.or(moved, differs);
    const now = f32x4.mul(f32x4.add(f32x4.mul(mine, stays), f32x4.mul(laid, counts)), scale);
    const p = v128.load(from);
    const seen = under ? f32x4.add(mine, f32x4.mul(v128.load(own + (band << 4)), shows)) : mine;
    v128.store(at + (band << 4), v128.bitselect(now, mine, differs));
    v128.store(from, f32x4.add(p, f32x4.mul(f32x4.sub(seen, p), take)));
  }
  const p = v128.load(carry + AMOUNT * plane);
  v128.store(carry + AMOUNT * plane, f32x4.add(p, f32x4.mul(f32x4.sub(f32x4.add(a, shows), p), take)));
  const sign = v128.andnot(v128.and(marked, f32x4.splat(<f32>-0.0)), moved);
  v128.store(at, v128.or(keeps ? a : amount, sign), AMOUNT_AT);
}

/** The patch at four pixels, or between them and their neighbours. */
// @ts-ignore: decorator
@inline function carried(at: usize): v128 {
  const p = v128.load(at);
  if (!isBetween) return p;
  const top = mixed(p, v128.load(at + across), wx);
  return mixed(top, mixed(v128.load(at + down), v128.load(at + down + across), wx), wy);
}

/** a + (b − a)·share. */
// @ts-ignore: decorator
@inline function mixed(a: v128, b: v128, share: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), share));
}
