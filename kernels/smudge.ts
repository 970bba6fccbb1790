import { bytesToFloat, paperAt } from "./contact";
import { clings, decay, fromMass, massHigh, massLow, minusLog } from "./dry";
import { paperBand, paperStride } from "./grain";
import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { real } from "./mark";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "./q15";

/**
 * A rub of a stump, a fingertip or a soft brush on one tile. Under the tip powder is taken up, peaks and
 * what lies loose first, and what the tip carries is laid down, in the valleys first: no mass is made or
 * lost, and no colour. What it carries is a patch that goes with it, seven planes of f32 of `side` × `side`,
 * its top left at picture px (ox, oy): mass, thickness (−ln of what shines through), thickness in each
 * colour, the part of the mass that water takes up, and the part that is wax. Paint that is no powder goes along
 * by its thickness alone. Wax gives way as far as `melts` says.
 *
 * A waxy stick that draws over wax takes it along too (`soils`, colour as of a tile, or 0): what its face lays down
 * again is gathered there, and comes to the paper with the stick's own colour (`kernels/dry.ts`); no other paint
 * comes off.
 *
 * Of the mark: 5, 6 its middle, 7…10 picture px → its unit disc, 13 pressure (`src/engine/stroke/marks.ts`).
 */
const MASS: usize = 0;
const THICK: usize = 1;
const RED: usize = 2;
const SOLUBLE: usize = 5;
const WAX: usize = 6;
const PLANES: usize = 7;

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

/** What bound powder gives way, beside what lies loose, whatever rubs it. */
const BOUND_MOVES: f32 = clings * <f32>0.4;

/** What four pixels of a mark are, before and after: their colour, and their powder. */
let red: v128 = i32x4.splat(0), green: v128 = i32x4.splat(0), blue: v128 = i32x4.splat(0), alpha: v128 = i32x4.splat(0);
let loose: v128 = i32x4.splat(0), mass: v128 = i32x4.splat(0), soluble: v128 = i32x4.splat(0), wax: v128 = i32x4.splat(0);
/** What was laid down on them: what it covers, and its colour. */
let laid: v128 = i32x4.splat(0), laidRed: v128 = i32x4.splat(0), laidGreen: v128 = i32x4.splat(0), laidBlue: v128 = i32x4.splat(0);

/** Moves what lies under four pixels of a mark. `onto`: all bits where what is laid down comes to lie with what is there. */
// @ts-ignore: decorator
@inline function exchange(touch: v128, height: v128, rate: v128, melts: v128, onto: v128, carry: usize, plane: usize): void {
  const one = plain(1), zero = plain(0);
  const thick = minusLog(f32x4.pmax(f32x4.sub(one, alpha), plain(<f32>0.00002)));
  const has = f32x4.gt(mass, plain(NO_MASS));
  const bound = f32x4.pmax(f32x4.sub(mass, loose), zero);
  const softened = f32x4.mul(f32x4.pmin(bound, wax), melts);
  const movable = f32x4.add(f32x4.add(loose, softened), f32x4.mul(f32x4.sub(bound, softened), plain(BOUND_MOVES)));
  const pulls = f32x4.mul(rate, f32x4.mul(plain(LIFTS), f32x4.mul(touch, f32x4.add(plain(<f32>0.55), f32x4.mul(plain(<f32>0.75), height)))));
  const taken = f32x4.sub(one, decay(pulls));
  const lifted = v128.and(f32x4.mul(movable, taken), has);
  const shareLifted = v128.bitselect(
    f32x4.div(lifted, f32x4.pmax(mass, plain(NO_MASS))),
    v128.and(f32x4.mul(plain(PAINT_MOVES), taken), onto),
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
  const left = f32x4.mul(alphaLeft, perAlpha);
  const keeps = v128.bitselect(f32x4.mul(left, through), left, onto);
  v128.store(carry, f32x4.add(f32x4.mul(carriedMass, stays), lifted));
  v128.store(carry + plane * THICK, f32x4.add(f32x4.mul(carriedThick, stays), thickLifted));
  const lift = f32x4.mul(thickLifted, perAlpha);
  const perCover = f32x4.mul(perThick, covers);
  laid = covers;
  laidRed = carriedOn(red, carry + plane * RED, perCover, stays, lift);
  laidGreen = carriedOn(green, carry + plane * (RED + 1), perCover, stays, lift);
  laidBlue = carriedOn(blue, carry + plane * (RED + 2), perCover, stays, lift);
  red = f32x4.add(f32x4.mul(red, keeps), v128.and(laidRed, onto));
  green = f32x4.add(f32x4.mul(green, keeps), v128.and(laidGreen, onto));
  blue = f32x4.add(f32x4.mul(blue, keeps), v128.and(laidBlue, onto));
  alpha = v128.bitselect(f32x4.add(f32x4.mul(alphaLeft, through), covers), alphaLeft, onto);
  const fromLoose = f32x4.mul(lifted, f32x4.div(loose, f32x4.pmax(movable, plain(NO_MASS))));
  const comes = v128.and(share, onto);
  // What was taken up lies loose where it is laid, but for wax.
  const powdery = f32x4.pmax(f32x4.sub(carriedMass, v128.load(carry + plane * WAX)), zero);
  loose = f32x4.add(f32x4.pmax(f32x4.sub(loose, fromLoose), zero), f32x4.mul(powdery, comes));
  mass = f32x4.add(f32x4.pmax(f32x4.sub(mass, lifted), zero), v128.and(laidMass, onto));
  soluble = partMoved(soluble, carry + plane * SOLUBLE, shareLifted, stays, comes);
  wax = partMoved(wax, carry + plane * WAX, shareLifted, stays, comes);
}

/** One channel: what is laid down of it; and what is carried on. */
// @ts-ignore: decorator
@inline function carriedOn(channel: v128, carry: usize, perCover: v128, stays: v128, lift: v128): v128 {
  const carried = v128.load(carry);
  v128.store(carry, f32x4.add(f32x4.mul(carried, stays), f32x4.mul(channel, lift)));
  return f32x4.mul(carried, perCover);
}

/** A part of the mass: what is left of it with what comes; and what is carried on. */
// @ts-ignore: decorator
@inline function partMoved(part: v128, carry: usize, lifts: v128, stays: v128, comes: v128): v128 {
  const goes = f32x4.mul(part, lifts), carried = v128.load(carry);
  v128.store(carry, f32x4.add(f32x4.mul(carried, stays), goes));
  return f32x4.add(f32x4.sub(part, goes), f32x4.mul(carried, comes));
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
  tile: usize, powder: usize, soils: usize, px: i32, py: i32, mark: usize, patch: usize, side: i32, ox: i32, oy: i32,
  paper: usize, period: i32, rate: f32, melts: f32, sheetRight: i32, sheetBottom: i32,
): void {
  const left = max(max(load<i32>(mark, 4), ox) - px, 0) & ~7;
  const top = max(max(load<i32>(mark, 8), oy) - py, 0);
  const right = min(min(load<i32>(mark, 12), min(ox + side - 8, sheetRight)) - px, SIDE);
  const bottom = min(min(min(load<i32>(mark, 16), oy + side), sheetBottom) - py, SIDE);
  if (left >= right || top >= bottom) return;
  const plane = <usize>(side * side * 4);
  const stride = paperStride(period), band = paperBand(period);
  const heights = paperAt(paper, period, px, py);
  const rates = f32x4.splat(rate), melting = f32x4.splat(melts);
  const onto = i32x4.splat(soils ? 0 : -1);
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
      const l8 = v128.load(dust), w8 = v128.load(dust, 16), s8 = v128.load(dust, 32), m8 = v128.load(dust, 48);
      red = lowToFloat(r8), green = lowToFloat(g8), blue = lowToFloat(b8), alpha = lowToFloat(a8);
      loose = massLow(l8), wax = massLow(w8), soluble = massLow(s8), mass = massLow(m8);
      exchange(low, height(here, band), rates, melting, onto, carry, plane);
      const r = red, g = green, b = blue, a = alpha, l = loose, w = wax, s = soluble, m = mass;
      const on = laid, onRed = laidRed, onGreen = laidGreen, onBlue = laidBlue;
      red = highToFloat(r8), green = highToFloat(g8), blue = highToFloat(b8), alpha = highToFloat(a8);
      loose = massHigh(l8), wax = massHigh(w8), soluble = massHigh(s8), mass = massHigh(m8);
      exchange(high, height(here + 4, band), rates, melting, onto, carry + 16, plane);
      const alphas = fromFloat(clamp01(a), clamp01(alpha));
      v128.store(at, i16x8.min_s(fromFloat(clamp01(r), clamp01(red)), alphas));
      v128.store(at, i16x8.min_s(fromFloat(clamp01(g), clamp01(green)), alphas), 16);
      v128.store(at, i16x8.min_s(fromFloat(clamp01(b), clamp01(blue)), alphas), 32);
      v128.store(at, alphas, 48);
      const masses = fromMass(m, mass);
      v128.store(dust, i16x8.min_s(fromMass(l, loose), masses));
      v128.store(dust, i16x8.min_s(fromMass(w, wax), masses), 16);
      v128.store(dust, fromMass(s, soluble), 32);
      v128.store(dust, masses, 48);
      if (soils) soil(soils + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES), on, onRed, onGreen, onBlue);
    }
  }
}

/** What was laid down on eight pixels, the first four given and the others as they stand, lies over what soils them already. */
// @ts-ignore: decorator
@inline function soil(at: usize, on: v128, onRed: v128, onGreen: v128, onBlue: v128): void {
  const one = plain(1);
  const left0 = f32x4.sub(one, on), left1 = f32x4.sub(one, laid);
  const a8 = v128.load(at, 48);
  const alphas = fromFloat(f32x4.add(f32x4.mul(lowToFloat(a8), left0), on), f32x4.add(f32x4.mul(highToFloat(a8), left1), laid));
  soilChannel(at, left0, left1, onRed, laidRed, alphas);
  soilChannel(at + 16, left0, left1, onGreen, laidGreen, alphas);
  soilChannel(at + 32, left0, left1, onBlue, laidBlue, alphas);
  v128.store(at, alphas, 48);
}

// @ts-ignore: decorator
@inline function soilChannel(at: usize, left0: v128, left1: v128, on0: v128, on1: v128, alphas: v128): void {
  const was = v128.load(at);
  const is = fromFloat(f32x4.add(f32x4.mul(lowToFloat(was), left0), on0), f32x4.add(f32x4.mul(highToFloat(was), left1), on1));
  v128.store(at, i16x8.min_s(is, alphas));
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
