import { bytesToFloat, paperAt } from "./contact";
import { paperBand, paperStride } from "./grain";
import { BLOCK_BYTES, ROW_BYTES, SIDE, TILE_BYTES } from "./layout";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "./q15";

/**
 * Dry media laid: what a stroke's contact (`kernels/contact.ts`) leaves on the paper, or takes off it.
 *
 * What lies on a layer besides colour is its powder, a tile as of colour (Q15, premultiplied, so that
 * it is moved and cut as colour is): R the loose part of the mass, G wax, B what water takes up again, A the
 * mass; one whole ≙ 2.
 *
 * `dry` says how, f32 unless said:
 *  0 coarse, 1 fine    what of the paper's bands the tip feels
 *  2 fill              how far valleys are found filled by what lies there
 *  3 foot, 4 soft²     the height from which the tip touches, and how softly that begins
 *  5 1/(1 − foot)
 *  6, 7, 8             how the touch grows with height: see `touched`
 *  9 rough, 10 level   of the paper: the depth of its tooth, and what a smooth sheet takes
 * 11 valley            what of the press reaches the deepest hollow
 * 12 gives, 13 dust, 14 press   mass a contact; what dust adds everywhere; what pressing adds
 * 15 slips             how far wax that lies there keeps off
 * 16 grit              unevenness of the particles
 * 18 most, 19 covers   mass that the paper holds; how a mass covers
 * 20 clear, 21 loose, 22 wax, 23 relief, 24 crumbs, 25 shine
 * 26 strength, 27 r, 28 g, 29 b
 * 30 how        i32    0 lays · 1 lifts · 2 lays inside what is there
 * 31 grit noise i32    address: 256 rows of 320 bytes, signed, 32 ≙ one spread
 * 32 where in it i32   (y << 16) | x
 * 33 kneads            how much a contact takes, where it lifts
 * 34 dissolves         share that water takes up again
 */
const LAYS: i32 = 0;
const LIFTS: i32 = 1;

const CONTACT_ROW: i32 = 256;
const CONTACT_BLOCK: i32 = 32;
const GRIT_ROW: i32 = 320;
const GRIT_ROWS: i32 = 256;
/** No pigment takes all the light of a channel. */
const LEAST_SEEN: f32 = 0.02;
/** Mass of a whole Q15 number. */
const WHOLE_MASS: f32 = 2;

// @ts-ignore: decorator
@inline function real(dry: usize, index: i32): v128 {
  return v128.load32_splat(dry + (index << 2));
}

// @ts-ignore: decorator
@inline function word(dry: usize, index: i32): i32 {
  return load<i32>(dry + (index << 2));
}

// @ts-ignore: decorator
@inline function plain(value: f32): v128 {
  return f32x4.splat(value);
}

/** e^−x for x of 0 and more: a quotient of a polynomial, squared twice; within 2·10⁻⁴. */
// @ts-ignore: decorator
@inline export function decay(x: v128): v128 {
  const u = f32x4.mul(f32x4.pmin(x, plain(12)), plain(0.25));
  let d = f32x4.add(plain(<f32>(1.0 / 6.0)), f32x4.mul(u, plain(<f32>(1.0 / 24.0))));
  d = f32x4.add(plain(0.5), f32x4.mul(u, d));
  d = f32x4.add(plain(1), f32x4.mul(u, d));
  d = f32x4.add(plain(1), f32x4.mul(u, d));
  const r = f32x4.div(plain(1), d);
  const r2 = f32x4.mul(r, r);
  return f32x4.mul(r2, r2);
}

/** −ln x for 0 < x ≤ 1: the exponent, and a series of (m − 1)/(m + 1) for the rest. */
// @ts-ignore: decorator
@inline export function minusLog(x: v128): v128 {
  const exponent = f32x4.convert_i32x4_s(i32x4.sub(i32x4.shr_u(x, 23), i32x4.splat(127)));
  const m = v128.or(v128.and(x, i32x4.splat(0x007fffff)), i32x4.splat(0x3f800000));
  const z = f32x4.div(f32x4.sub(m, plain(1)), f32x4.add(m, plain(1)));
  const z2 = f32x4.mul(z, z);
  let s = f32x4.add(plain(<f32>(1.0 / 5.0)), f32x4.mul(z2, plain(<f32>(1.0 / 7.0))));
  s = f32x4.add(plain(<f32>(1.0 / 3.0)), f32x4.mul(z2, s));
  s = f32x4.mul(f32x4.add(plain(1), f32x4.mul(z2, s)), f32x4.add(z, z));
  return f32x4.neg(f32x4.add(f32x4.mul(exponent, plain(<f32>0.6931471805599453)), s));
}

/** The height that the tip feels, valleys found partly filled. */
// @ts-ignore: decorator
@inline function heightFelt(dry: usize, coarse: v128, fine: v128): v128 {
  const half = plain(0.5);
  const tooth = f32x4.mul(real(dry, 0), f32x4.sub(coarse, half));
  return clamp01(f32x4.add(half, f32x4.add(tooth, f32x4.mul(real(dry, 1), f32x4.sub(fine, half)))));
}

/** How far a height stands into the tip: soft at its foot, as heights differ inside a pixel. */
// @ts-ignore: decorator
@inline function reach(dry: usize, height: v128): v128 {
  const d = f32x4.sub(height, real(dry, 3));
  const root = f32x4.sqrt(f32x4.add(f32x4.mul(d, d), real(dry, 4)));
  return f32x4.mul(f32x4.mul(plain(0.5), f32x4.add(d, root)), real(dry, 5));
}

/** What of a contact touches a height: .9(1+m)·t·((2−m) + (m−1)t), evened out on a smooth sheet. */
// @ts-ignore: decorator
@inline function touched(dry: usize, t: v128): v128 {
  const grown = f32x4.add(real(dry, 7), f32x4.mul(real(dry, 8), t));
  const a = f32x4.mul(f32x4.mul(real(dry, 6), t), grown);
  return f32x4.add(f32x4.mul(real(dry, 9), f32x4.pmax(a, plain(0))), real(dry, 10));
}

/** Particles: chance that grows as the root of the mass, and never beyond it. */
// @ts-ignore: decorator
@inline function gritty(dry: usize, g: v128, grit: v128): v128 {
  const spread = f32x4.pmin(g, f32x4.sqrt(f32x4.mul(g, real(dry, 16))));
  return f32x4.pmax(f32x4.add(g, f32x4.mul(spread, grit)), plain(0));
}

// @ts-ignore: decorator
@inline function signedToFloat(at: usize): v128 {
  const wide = i32x4.extend_low_i16x8_s(i16x8.extend_low_i8x16_s(v128.load32_zero(at)));
  return f32x4.mul(f32x4.convert_i32x4_s(wide), plain(<f32>(1.0 / 32.0)));
}

/** The mass that four pixels take. */
// @ts-ignore: decorator
@inline function taken(dry: usize, h: v128, mass: v128, wax: v128, w1: v128, w2: v128, grit: v128, speck: v128): v128 {
  const one = plain(1);
  const filled = f32x4.mul(real(dry, 2), f32x4.pmin(one, mass));
  const height = f32x4.sub(one, f32x4.mul(f32x4.sub(one, h), f32x4.sub(one, filled)));
  const a = touched(dry, reach(dry, height));
  const valley = real(dry, 11);
  const deep = f32x4.pmin(plain(<f32>1.2), f32x4.mul(plain(<f32>1.25), height));
  const b = f32x4.add(valley, f32x4.mul(f32x4.sub(one, valley), deep));
  let g = f32x4.mul(w1, f32x4.add(a, real(dry, 13)));
  g = f32x4.add(g, f32x4.mul(f32x4.mul(real(dry, 14), w2), b));
  const slips = f32x4.mul(real(dry, 15), f32x4.pmin(one, f32x4.mul(plain(<f32>1.6), wax)));
  g = f32x4.mul(f32x4.mul(g, real(dry, 12)), f32x4.sub(one, slips));
  g = gritty(dry, g, grit);
  if (word(dry, 24)) {
    const specks = f32x4.mul(real(dry, 24), f32x4.pmax(f32x4.sub(speck, plain(<f32>1.4)), plain(0)));
    g = f32x4.add(g, f32x4.mul(specks, f32x4.pmin(one, f32x4.mul(plain(<f32>0.8), w1))));
  }
  const most = real(dry, 18);
  const room = f32x4.pmax(f32x4.sub(most, mass), plain(0));
  return f32x4.mul(room, f32x4.sub(one, decay(f32x4.div(g, most))));
}

/** A pigment over what shows through it. */
// @ts-ignore: decorator
@inline function over(dry: usize, pigment: v128, channel: v128, alpha: v128): v128 {
  if (!word(dry, 20)) return pigment;
  const one = plain(1);
  const under = f32x4.add(channel, f32x4.sub(one, alpha));
  const seen = f32x4.add(plain(<f32>0.45), f32x4.mul(plain(<f32>0.55), under));
  return f32x4.mul(pigment, f32x4.sub(one, f32x4.mul(real(dry, 20), f32x4.sub(one, seen))));
}

/**
 * A pigment kneaded with what soils it (premultiplied, `share` of the whole): what each takes of the light adds up, as 1/R
 * does in a strong mixture, so yellow and blue come to green. `bare`: (1 − share) of the pigment.
 */
// @ts-ignore: decorator
@inline function kneaded(own: v128, dirt: v128, share: v128, bare: v128): v128 {
  const seen = f32x4.pmax(dirt, f32x4.mul(share, plain(LEAST_SEEN)));
  const takes = f32x4.div(f32x4.mul(share, share), f32x4.pmax(seen, plain(<f32>0.000001)));
  return f32x4.div(plain(1), f32x4.add(takes, f32x4.div(bare, f32x4.pmax(own, plain(LEAST_SEEN)))));
}

/** From a channel of before to the pigment: `covers` says how far, `within` how much of it there can be. */
// @ts-ignore: decorator
@inline function toward(channel: v128, pigment: v128, covers: v128, within: v128): v128 {
  return f32x4.add(channel, f32x4.mul(covers, f32x4.sub(f32x4.mul(pigment, within), channel)));
}

/**
 * A stroke's contact laid on a tile, or lifting from it. Rows top…bottom−1, blocks left…right−1. `soil`: what the tip has
 * taken along and lays down with its own colour, a tile as of colour; 0: nothing.
 */
export function layContact(
  layer: usize, before: usize, powder: usize, powderBefore: usize, contact: usize, soil: usize, dry: usize,
  paper: usize, period: i32, px: i32, py: i32, left: i32, top: i32, right: i32, bottom: i32,
): void {
  const stride = <usize>paperStride(period);
  const coarse = paperAt(paper, period, px, py), fine = coarse + paperBand(period);
  const noise = word(dry, 31), place = word(dry, 32);
  const shiftX = (px + (place & 0xffff)) & 255, shiftY = py + (place >> 16);
  const how = word(dry, 30);
  for (let y = top; y < bottom; y++) {
    const grit = <usize>(noise + ((shiftY + y) & (GRIT_ROWS - 1)) * GRIT_ROW + shiftX);
    const crumbs = <usize>(noise + ((shiftY + y + 97) & (GRIT_ROWS - 1)) * GRIT_ROW + ((shiftX + 131) & 255));
    for (let block = left; block < right; block++) {
      const at = <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const touch = contact + <usize>(y * CONTACT_ROW + block * CONTACT_BLOCK);
      const w1 = v128.load(touch), w2 = v128.load(touch, 16);
      if (!v128.any_true(w1)) {
        memory.copy(layer + at, before + at, BLOCK_BYTES);
        if (powder) memory.copy(powder + at, powderBefore + at, BLOCK_BYTES);
        continue;
      }
      const x = <usize>(block << 3);
      const paperRow = coarse + <usize>y * stride + x;
      const fineRow = fine + <usize>y * stride + x;
      if (how == LIFTS) liftBlock(layer + at, before + at, powder ? powder + at : 0, powderBefore + at, dry, w1, w2, paperRow, fineRow);
      else
        layBlock(
          layer + at, before + at, powder ? powder + at : 0, powderBefore + at, soil ? soil + at : 0, dry, w1, w2, paperRow, fineRow,
          stride, grit + x, crumbs + x, how == LAYS,
        );
    }
  }
}

// @ts-ignore: decorator
@inline function low(sums: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(sums)), plain(<f32>(1.0 / 1024.0)));
}

// @ts-ignore: decorator
@inline function high(sums: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(sums)), plain(<f32>(1.0 / 1024.0)));
}

// @ts-ignore: decorator
@inline export function massLow(a: v128): v128 {
  return f32x4.mul(lowToFloat(a), plain(WHOLE_MASS));
}

// @ts-ignore: decorator
@inline export function massHigh(a: v128): v128 {
  return f32x4.mul(highToFloat(a), plain(WHOLE_MASS));
}

// @ts-ignore: decorator
@inline export function fromMass(a: v128, b: v128): v128 {
  const half = plain(<f32>1 / WHOLE_MASS);
  return fromFloat(f32x4.pmin(f32x4.mul(a, half), plain(1)), f32x4.pmin(f32x4.mul(b, half), plain(1)));
}

/** How much lighter or darker a pigment is seen where light from the upper left falls on what lies there. */
// @ts-ignore: decorator
@inline function lit(dry: usize, at: usize, stride: usize, mass: v128): v128 {
  if (!word(dry, 23)) return plain(1);
  const rises = f32x4.add(
    f32x4.sub(bytesToFloat(at + 1), bytesToFloat(at - 1)),
    f32x4.sub(bytesToFloat(at + stride), bytesToFloat(at - stride)),
  );
  return f32x4.add(plain(1), f32x4.mul(real(dry, 23), f32x4.mul(rises, f32x4.pmin(mass, plain(1)))));
}

/** How a heavy press polishes graphite, and so makes it paler. */
// @ts-ignore: decorator
@inline function polished(dry: usize, w2: v128): v128 {
  if (!word(dry, 25)) return plain(0);
  return f32x4.mul(real(dry, 25), f32x4.sub(plain(1), decay(f32x4.mul(plain(<f32>0.6), f32x4.mul(w2, w2)))));
}

function layBlock(
  layer: usize, before: usize, powder: usize, powderBefore: usize, soil: usize, dry: usize, sums1: v128, sums2: v128,
  coarse: usize, fine: usize, stride: usize, grit: usize, crumbs: usize, grows: bool,
): void {
  const one = plain(1);
  const none = i16x8.splat(0);
  const looseBefore = powder ? v128.load(powderBefore) : none;
  const waxBefore = powder ? v128.load(powderBefore, 16) : none;
  const massBefore = powder ? v128.load(powderBefore, 48) : none;
  const m0 = massLow(massBefore), m1 = massHigh(massBefore);
  const h0 = heightFelt(dry, bytesToFloat(coarse), bytesToFloat(fine));
  const h1 = heightFelt(dry, bytesToFloat(coarse + 4), bytesToFloat(fine + 4));
  const w20 = low(sums2), w21 = high(sums2);
  const d0 = taken(dry, h0, m0, massLow(waxBefore), low(sums1), w20, signedToFloat(grit), signedToFloat(crumbs));
  const d1 = taken(dry, h1, m1, massHigh(waxBefore), high(sums1), w21, signedToFloat(grit + 4), signedToFloat(crumbs + 4));
  const strength = real(dry, 26), covers = real(dry, 19);
  const c0 = f32x4.mul(strength, f32x4.sub(one, decay(f32x4.mul(covers, d0))));
  const c1 = f32x4.mul(strength, f32x4.sub(one, decay(f32x4.mul(covers, d1))));
  const alpha = v128.load(before, 48);
  const a0 = lowToFloat(alpha), a1 = highToFloat(alpha);
  const within0 = grows ? one : a0, within1 = grows ? one : a1;
  const shine0 = polished(dry, w20), shine1 = polished(dry, w21);
  const lit0 = lit(dry, coarse, stride, f32x4.add(m0, d0));
  const lit1 = lit(dry, coarse + 4, stride, f32x4.add(m1, d1));
  const soiled = soil ? v128.load(soil, 48) : none;
  const isSoiled = v128.any_true(soiled);
  const soiled0 = lowToFloat(soiled), soiled1 = highToFloat(soiled);
  const clean0 = f32x4.sub(one, soiled0), clean1 = f32x4.sub(one, soiled1);
  for (let c = 0; c < 3; c++) {
    const channel = v128.load(before + <usize>(c << 4));
    const from0 = lowToFloat(channel), from1 = highToFloat(channel);
    const own = real(dry, 27 + c);
    let own0 = own, own1 = own;
    if (isSoiled) {
      const dirt = v128.load(soil + <usize>(c << 4));
      own0 = kneaded(own, lowToFloat(dirt), soiled0, clean0);
      own1 = kneaded(own, highToFloat(dirt), soiled1, clean1);
    }
    const p0 = clamp01(f32x4.mul(f32x4.add(over(dry, own0, from0, a0), shine0), lit0));
    const p1 = clamp01(f32x4.mul(f32x4.add(over(dry, own1, from1, a1), shine1), lit1));
    const to0 = toward(from0, p0, c0, within0), to1 = toward(from1, p1, c1, within1);
    v128.store(layer + <usize>(c << 4), fromFloat(clamp01(to0), clamp01(to1)));
  }
  v128.store(layer, grows ? fromFloat(toward(a0, one, c0, one), toward(a1, one, c1, one)) : alpha, 48);
  holdUnder(layer);
  if (!powder) return;
  const laid0 = f32x4.mul(d0, strength), laid1 = f32x4.mul(d1, strength);
  v128.store(powder, withPart(dry, 21, looseBefore, laid0, laid1));
  v128.store(powder, withPart(dry, 22, waxBefore, laid0, laid1), 16);
  v128.store(powder, withPart(dry, 34, v128.load(powderBefore, 32), laid0, laid1), 32);
  v128.store(powder, fromMass(f32x4.add(m0, laid0), f32x4.add(m1, laid1)), 48);
}

/** A part of the powder of eight pixels with a share of what is laid. */
// @ts-ignore: decorator
@inline function withPart(dry: usize, index: i32, before: v128, laid0: v128, laid1: v128): v128 {
  if (!word(dry, index)) return before;
  const share = real(dry, index);
  return fromMass(f32x4.add(massLow(before), f32x4.mul(laid0, share)), f32x4.add(massHigh(before), f32x4.mul(laid1, share)));
}

/** Rounding must not carry a colour past its alpha. */
// @ts-ignore: decorator
@inline function holdUnder(pixels: usize): void {
  const alpha = v128.load(pixels, 48);
  v128.store(pixels, i16x8.min_s(v128.load(pixels), alpha));
  v128.store(pixels, i16x8.min_s(v128.load(pixels, 16), alpha), 16);
  v128.store(pixels, i16x8.min_s(v128.load(pixels, 32), alpha), 32);
}

/** How much of the loose, and of what is bound, a lifting contact leaves; peaks are reached first. */
// @ts-ignore: decorator
@inline function pull(dry: usize, h: v128, w1: v128, w2: v128): v128 {
  const t = f32x4.pmax(reach(dry, h), plain(0));
  // t^1.25
  const rises = f32x4.mul(t, f32x4.sqrt(f32x4.sqrt(t)));
  const pressed = f32x4.mul(f32x4.mul(plain(0.5), w2), f32x4.pmin(plain(1), f32x4.mul(plain(<f32>1.25), h)));
  return f32x4.mul(real(dry, 33), f32x4.add(f32x4.mul(w1, f32x4.mul(plain(<f32>2.2), rises)), pressed));
}

/** What wax takes off a pull. */
const STICKS: f32 = 0.65;
/** What a bound particle clings, beside a loose one. */
export const clings: f32 = 0.3;

/** The share of alpha that is left where `share` of the mass is: 1 − α' = (1 − α)^share. */
// @ts-ignore: decorator
@inline function alphaLeft(alpha: v128, share: v128): v128 {
  const clear = f32x4.pmax(f32x4.sub(plain(1), alpha), plain(<f32>0.00002));
  const left = f32x4.sub(plain(1), decay(f32x4.mul(minusLog(clear), share)));
  const ratio = f32x4.div(left, f32x4.pmax(alpha, plain(<f32>0.00001)));
  return f32x4.pmin(ratio, plain(1));
}

// @ts-ignore: decorator
@inline function shareOf(left: v128, mass: v128, otherwise: v128): v128 {
  const has = f32x4.gt(mass, plain(<f32>0.0005));
  return v128.bitselect(f32x4.div(left, f32x4.pmax(mass, plain(<f32>0.0005))), otherwise, has);
}

/** What is left of a pull where a share of the mass is wax, which sticks. */
// @ts-ignore: decorator
@inline function loosened(wax: v128): v128 {
  return f32x4.sub(plain(1), f32x4.mul(plain(STICKS), f32x4.pmin(wax, plain(1))));
}

function liftBlock(
  layer: usize, before: usize, powder: usize, powderBefore: usize, dry: usize, sums1: v128, sums2: v128,
  coarse: usize, fine: usize,
): void {
  const none = i16x8.splat(0);
  const looseBefore = powder ? v128.load(powderBefore) : none;
  const massBefore = powder ? v128.load(powderBefore, 48) : none;
  const h0 = heightFelt(dry, bytesToFloat(coarse), bytesToFloat(fine));
  const h1 = heightFelt(dry, bytesToFloat(coarse + 4), bytesToFloat(fine + 4));
  const waxBefore = powder ? v128.load(powderBefore, 16) : none, zero = f32x4.splat(0);
  const x0 = f32x4.mul(pull(dry, h0, low(sums1), low(sums2)), loosened(shareOf(massLow(waxBefore), massLow(massBefore), zero)));
  const x1 = f32x4.mul(pull(dry, h1, high(sums1), high(sums2)), loosened(shareOf(massHigh(waxBefore), massHigh(massBefore), zero)));
  const loosens0 = decay(x0), loosens1 = decay(x1);
  const binds0 = decay(f32x4.mul(x0, plain(clings))), binds1 = decay(f32x4.mul(x1, plain(clings)));
  const m0 = massLow(massBefore), m1 = massHigh(massBefore);
  const l0 = massLow(looseBefore), l1 = massHigh(looseBefore);
  const loose0 = f32x4.mul(l0, loosens0), loose1 = f32x4.mul(l1, loosens1);
  const left0 = f32x4.add(loose0, f32x4.mul(f32x4.pmax(f32x4.sub(m0, l0), plain(0)), binds0));
  const left1 = f32x4.add(loose1, f32x4.mul(f32x4.pmax(f32x4.sub(m1, l1), plain(0)), binds1));
  const alpha = v128.load(before, 48);
  const share0 = shareOf(left0, m0, binds0), share1 = shareOf(left1, m1, binds1);
  const keeps0 = alphaLeft(lowToFloat(alpha), share0);
  const keeps1 = alphaLeft(highToFloat(alpha), share1);
  for (let c = 0; c < 4; c++) {
    const channel = v128.load(before + <usize>(c << 4));
    const to = fromFloat(f32x4.mul(lowToFloat(channel), keeps0), f32x4.mul(highToFloat(channel), keeps1));
    v128.store(layer + <usize>(c << 4), to);
  }
  holdUnder(layer);
  if (!powder) return;
  const soluble = v128.load(powderBefore, 32);
  v128.store(powder, fromMass(loose0, loose1));
  v128.store(powder, fromMass(f32x4.mul(massLow(waxBefore), binds0), f32x4.mul(massHigh(waxBefore), binds1)), 16);
  v128.store(powder, fromMass(f32x4.mul(massLow(soluble), share0), f32x4.mul(massHigh(soluble), share1)), 32);
  v128.store(powder, fromMass(left0, left1), 48);
}

// @ts-ignore: decorator
@inline function bind(to: usize, from: usize, share: v128): void {
  const mass = v128.load(from);
  v128.store(to, fromMass(f32x4.mul(massLow(mass), share), f32x4.mul(massHigh(mass), share)));
}

/** Binds the powder of a tile, but for a share (bits of an f32): what lies loose, and what water would take up. */
export function bindTile(dst: usize, src: usize, left: i32): void {
  const share = plain(reinterpret<f32>(left));
  for (let at: usize = 0; at < <usize>TILE_BYTES; at += BLOCK_BYTES) {
    bind(dst + at, src + at, share);
    bind(dst + at + 32, src + at + 32, share);
  }
}
