import { bytesToFloat, paperAt } from "./contact";
import { clings, decay, fromMass, massHigh, massLow, minusLog } from "./dry";
import { paperBand, paperStride } from "./grain";
import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { real } from "./mark";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "./q15";

/**
 * A rub of a stump, a fingertip or a soft brush on one tile. Under the tip powder is taken up, peaks and
 * what lies loose first, and what the tip carries is laid down, in the valleys first: no mass is made or
 * lost, and no colour. What it carries is a patch that goes with it, six planes of f32 of `side` × `side`,
 * its top left at picture px (ox, oy): mass, thickness (−ln of what shines through), thickness in each
 * colour, and the part of the mass that water takes up. Paint that is no powder goes along by its thickness alone.
 *
 * Of the mark: 5, 6 its middle, 7…10 picture px → its unit disc, 13 pressure (`src/engine/stroke/marks.ts`).
 */
const MASS: usize = 0;
const THICK: usize = 1;
const RED: usize = 2;
const SOLUBLE: usize = 5;
const PLANES: usize = 6;

/** How readily powder comes off and is laid down again; what of paint moves as powder does. */
const LIFTS: f32 = 0.42;
const LAYS: f32 = 0.95;
const PAINT_MOVES: f32 = 0.6;
/** Mass below this is none. */
const NO_MASS: f32 = 0.001;

// @ts-ignore: decorator
@inline function plain(value: f32): v128 {
  return f32x4.splat(value);
}

/** Moves what lies under four pixels of a mark. Channels come and go as `pixel[0…3]`, powder as loose, mass and soluble. */
let red: v128 = i32x4.splat(0), green: v128 = i32x4.splat(0), blue: v128 = i32x4.splat(0), alpha: v128 = i32x4.splat(0);
let loose: v128 = i32x4.splat(0), mass: v128 = i32x4.splat(0), soluble: v128 = i32x4.splat(0);

// @ts-ignore: decorator
@inline function exchange(touch: v128, height: v128, rate: v128, carry: usize, plane: usize): void {
  const one = plain(1), zero = plain(0);
  const thick = minusLog(f32x4.pmax(f32x4.sub(one, alpha), plain(<f32>0.00002)));
  const has = f32x4.gt(mass, plain(NO_MASS));
  const bound = f32x4.pmax(f32x4.sub(mass, loose), zero);
  const movable = f32x4.add(loose, f32x4.mul(bound, plain(clings * <f32>0.4)));
  const pulls = f32x4.mul(rate, f32x4.mul(plain(LIFTS), f32x4.mul(touch, f32x4.add(plain(<f32>0.55), f32x4.mul(plain(<f32>0.75), height)))));
  const taken = f32x4.sub(one, decay(pulls));
  const lifted = v128.and(f32x4.mul(movable, taken), has);
  const shareLifted = v128.bitselect(
    f32x4.div(lifted, f32x4.pmax(mass, plain(NO_MASS))),
    f32x4.mul(plain(PAINT_MOVES), taken),
    has,
  );
  const thickLifted = f32x4.mul(thick, shareLifted);
  const thickLeft = f32x4.sub(thick, thickLifted);
  const perAlpha = f32x4.div(one, f32x4.pmax(alpha, plain(<f32>0.00002)));
  const alphaLeft = f32x4.sub(one, decay(thickLeft));
  // What is laid down comes from what was carried before.
  const carriedMass = v128.load(carry), carriedThick = v128.load(carry + plane * THICK);
  const lays = f32x4.mul(rate, f32x4.mul(plain(LAYS), f32x4.mul(touch, f32x4.add(plain(<f32>0.6), f32x4.mul(plain(<f32>0.6), f32x4.sub(one, height))))));
  const share = f32x4.sub(one, decay(lays));
  const stays = f32x4.sub(one, share);
  const laidMass = f32x4.mul(carriedMass, share);
  const laidThick = f32x4.mul(carriedThick, share);
  const through = decay(laidThick);
  const covers = f32x4.sub(one, through);
  const perThick = f32x4.div(one, f32x4.pmax(carriedThick, plain(<f32>0.0000001)));
  const keeps = f32x4.mul(f32x4.mul(alphaLeft, perAlpha), through);
  v128.store(carry, f32x4.add(f32x4.mul(carriedMass, stays), lifted));
  v128.store(carry + plane * THICK, f32x4.add(f32x4.mul(carriedThick, stays), thickLifted));
  const lift = f32x4.mul(thickLifted, perAlpha);
  red = moved(red, carry + plane * RED, keeps, perThick, covers, stays, lift);
  green = moved(green, carry + plane * (RED + 1), keeps, perThick, covers, stays, lift);
  blue = moved(blue, carry + plane * (RED + 2), keeps, perThick, covers, stays, lift);
  alpha = f32x4.add(f32x4.mul(alphaLeft, through), covers);
  const fromLoose = f32x4.mul(lifted, f32x4.div(loose, f32x4.pmax(movable, plain(NO_MASS))));
  loose = f32x4.add(f32x4.pmax(f32x4.sub(loose, fromLoose), zero), laidMass);
  mass = f32x4.add(f32x4.pmax(f32x4.sub(mass, lifted), zero), laidMass);
  const goes = f32x4.mul(soluble, shareLifted), carriedSoluble = v128.load(carry + plane * SOLUBLE);
  v128.store(carry + plane * SOLUBLE, f32x4.add(f32x4.mul(carriedSoluble, stays), goes));
  soluble = f32x4.add(f32x4.sub(soluble, goes), f32x4.mul(carriedSoluble, share));
}

/** One channel: what is left of it under what is laid; and what is carried of it. */
// @ts-ignore: decorator
@inline function moved(channel: v128, carry: usize, keeps: v128, perThick: v128, covers: v128, stays: v128, lift: v128): v128 {
  const carried = v128.load(carry);
  v128.store(carry, f32x4.add(f32x4.mul(carried, stays), f32x4.mul(channel, lift)));
  return f32x4.add(f32x4.mul(channel, keeps), f32x4.mul(f32x4.mul(carried, perThick), covers));
}

// @ts-ignore: decorator
@inline function touchAt(mark: usize, x: f32, y: f32): v128 {
  const dx = f32x4.add(f32x4(0.5, 1.5, 2.5, 3.5), f32x4.splat(x - real(mark, 5)));
  const dy = y + <f32>0.5 - real(mark, 6);
  const u = f32x4.add(f32x4.mul(dx, f32x4.splat(real(mark, 7))), f32x4.splat(dy * real(mark, 8)));
  const v = f32x4.add(f32x4.mul(dx, f32x4.splat(real(mark, 9))), f32x4.splat(dy * real(mark, 10)));
  const d2 = f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v));
  return f32x4.mul(f32x4.pmax(f32x4.sub(plain(1), d2), plain(0)), f32x4.splat(real(mark, 13)));
}

export function smudgeMark(
  tile: usize, powder: usize, px: i32, py: i32, mark: usize, patch: usize, side: i32, ox: i32, oy: i32,
  paper: usize, period: i32, rate: f32, sheetRight: i32, sheetBottom: i32,
): void {
  const left = max(max(load<i32>(mark, 4), ox) - px, 0) & ~7;
  const top = max(max(load<i32>(mark, 8), oy) - py, 0);
  const right = min(min(load<i32>(mark, 12), min(ox + side - 8, sheetRight)) - px, SIDE);
  const bottom = min(min(min(load<i32>(mark, 16), oy + side), sheetBottom) - py, SIDE);
  if (left >= right || top >= bottom) return;
  const plane = <usize>(side * side * 4);
  const stride = paperStride(period), band = paperBand(period);
  const heights = paperAt(paper, period, px, py);
  const rates = f32x4.splat(rate);
  const last = sheetRight - px;
  for (let y = top; y < bottom; y++) {
    const row = patch + <usize>(((py + y - oy) * side + px - ox) << 2);
    for (let x = left; x < right; x += 8) {
      if (px + x < ox) continue;
      const low = inside(touchAt(mark, <f32>(px + x), <f32>(py + y)), x, last);
      const high = inside(touchAt(mark, <f32>(px + x + 4), <f32>(py + y)), x + 4, last);
      if (!v128.any_true(low) && !v128.any_true(high)) continue;
      const at = tile + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const dust = powder + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const here = heights + <usize>(y * stride + x);
      const carry = row + <usize>(x << 2);
      const r8 = v128.load(at), g8 = v128.load(at, 16), b8 = v128.load(at, 32), a8 = v128.load(at, 48);
      const l8 = v128.load(dust), s8 = v128.load(dust, 32), m8 = v128.load(dust, 48);
      red = lowToFloat(r8), green = lowToFloat(g8), blue = lowToFloat(b8), alpha = lowToFloat(a8);
      loose = massLow(l8), mass = massLow(m8), soluble = massLow(s8);
      exchange(low, height(here, band), rates, carry, plane);
      const r = red, g = green, b = blue, a = alpha, l = loose, m = mass, s = soluble;
      red = highToFloat(r8), green = highToFloat(g8), blue = highToFloat(b8), alpha = highToFloat(a8);
      loose = massHigh(l8), mass = massHigh(m8), soluble = massHigh(s8);
      exchange(high, height(here + 4, band), rates, carry + 16, plane);
      const alphas = fromFloat(clamp01(a), clamp01(alpha));
      v128.store(at, i16x8.min_s(fromFloat(clamp01(r), clamp01(red)), alphas));
      v128.store(at, i16x8.min_s(fromFloat(clamp01(g), clamp01(green)), alphas), 16);
      v128.store(at, i16x8.min_s(fromFloat(clamp01(b), clamp01(blue)), alphas), 32);
      v128.store(at, alphas, 48);
      const masses = fromMass(m, mass);
      v128.store(dust, i16x8.min_s(fromMass(l, loose), masses));
      v128.store(dust, i16x8.min_s(v128.load(dust, 16), masses), 16);
      v128.store(dust, fromMass(s, soluble), 32);
      v128.store(dust, masses, 48);
    }
  }
}

/** Beyond the sheet there is nothing to rub. */
// @ts-ignore: decorator
@inline function inside(touch: v128, x: i32, last: i32): v128 {
  if (x + 4 <= last) return touch;
  return v128.and(touch, i32x4.lt_s(i32x4.add(i32x4(0, 1, 2, 3), i32x4.splat(x)), i32x4.splat(last)));
}

// @ts-ignore: decorator
@inline function height(at: usize, band: usize): v128 {
  return f32x4.add(
    f32x4.mul(bytesToFloat(at), plain(<f32>0.75)),
    f32x4.mul(bytesToFloat(at + band), plain(<f32>0.25)),
  );
}

/**
 * Rows y0 … y1 of what is carried spread on the tip: a fifth of it to the four neighbours. The patch's rim
 * stays as it is. `spans` says for each row from where to where anything may be carried (two i32, empty where the first is
 * not less), `grown` gets the same after the spreading; beyond them both patches are empty.
 */
export function spreadCarried(from: usize, to: usize, side: i32, spans: usize, grown: usize, y0: i32, y1: i32): void {
  const stays = plain(<f32>0.8), goes = plain(<f32>0.05);
  const row = <usize>(side << 2);
  const plane = row * <usize>side;
  for (let y = y0; y < y1; y++) growSpan(spans, grown, y, side);
  for (let p: usize = 0; p < PLANES; p++) {
    copyRim(from + plane * p, to + plane * p, side, y0, y1);
    for (let y = max(y0, 1); y < min(y1, side - 1); y++) {
      const left = load<i32>(grown + <usize>(y << 3));
      const right = min(load<i32>(grown + <usize>(y << 3), 4), side - 3);
      const at = plane * p + row * <usize>y;
      for (let x = max(((left - 1) & ~3) + 1, 1); x < right; x += 4) {
        const here = from + at + <usize>(x << 2);
        const beside = f32x4.add(v128.load(here - 4), v128.load(here + 4));
        const sum = f32x4.add(beside, f32x4.add(v128.load(here - row), v128.load(here + row)));
        v128.store(to + at + <usize>(x << 2), f32x4.add(f32x4.mul(v128.load(here), stays), f32x4.mul(sum, goes)));
      }
    }
  }
}

function growSpan(spans: usize, grown: usize, y: i32, side: i32): void {
  let left = side, right = 0;
  for (let beside = max(y - 1, 0); beside <= min(y + 1, side - 1); beside++) {
    left = min(left, load<i32>(spans + <usize>(beside << 3)));
    right = max(right, load<i32>(spans + <usize>(beside << 3), 4));
  }
  const is = left < right;
  store<i32>(grown + <usize>(y << 3), is ? max(left - 1, 0) : side);
  store<i32>(grown + <usize>(y << 3), is ? min(right + 1, side) : 0, 4);
}

function copyRim(from: usize, to: usize, side: i32, y0: i32, y1: i32): void {
  const row = <usize>(side << 2);
  const last = row * <usize>(side - 1);
  if (y0 == 0) memory.copy(to, from, row);
  if (y1 == side) memory.copy(to + last, from + last, row);
  const end = row * <usize>min(y1, side - 1);
  for (let at = row * <usize>max(y0, 1); at < end; at += row) {
    store<f32>(to + at, load<f32>(from + at));
    const right = at + row;
    store<f32>(to + right - 12, load<f32>(from + right - 12));
    store<f32>(to + right - 8, load<f32>(from + right - 8));
    store<f32>(to + right - 4, load<f32>(from + right - 4));
  }
}
