import { TILE_BYTES } from "./layout";
import { glaze4 } from "./pigment";
import { clamp01, complement, fromFloat, highToFloat, lowToFloat, mul, plus } from "./q15";

/**
 * The sixteen blend modes of W3C Compositing and Blending Level 1, and glaze, on premultiplied values:
 *
 *   co = cs·(1 − αb) + cb·(1 − αs) + αs·αb·B(Cb, Cs)        source-over
 *   co = cb·(1 − αs) + αs·αb·B(Cb, Cs),  αo = αb            inside (clipped to the base)
 *
 * Inside, the base's coverage is its shape and not a backdrop that shines through, so a
 * clipped shade leaves no pale rim on the base's soft edge.
 * Numbers of the modes are those of `src/engine/compose/blend-modes.ts`.
 */
export const NORMAL: i32 = 0;
export const MULTIPLY: i32 = 1;
export const SCREEN: i32 = 2;
export const OVERLAY: i32 = 3;
export const DARKEN: i32 = 4;
export const LIGHTEN: i32 = 5;
export const COLOR_DODGE: i32 = 6;
export const COLOR_BURN: i32 = 7;
export const HARD_LIGHT: i32 = 8;
export const SOFT_LIGHT: i32 = 9;
export const DIFFERENCE: i32 = 10;
export const EXCLUSION: i32 = 11;
export const HUE: i32 = 12;
export const SATURATION: i32 = 13;
export const COLOR: i32 = 14;
export const LUMINOSITY: i32 = 15;
export const ADD: i32 = 16;
export const GLAZE: i32 = 17;

/** αs·αb·B for the modes that need no division. */
// @ts-ignore: decorator
@inline function product(mode: i32, cs: v128, cb: v128, as: v128, ab: v128): v128 {
  if (mode == MULTIPLY) return mul(cs, cb);
  if (mode == DARKEN) return i16x8.min_s(mul(cs, ab), mul(cb, as));
  if (mode == LIGHTEN) return i16x8.max_s(mul(cs, ab), mul(cb, as));
  // The difference first: the sum of both alone would not fit.
  if (mode == SCREEN) return plus(mul(cs, ab), i16x8.sub(mul(cb, as), mul(cs, cb)));
  if (mode == DIFFERENCE) {
    const x = mul(cs, ab), y = mul(cb, as);
    return i16x8.sub(i16x8.max_s(x, y), i16x8.min_s(x, y));
  }
  if (mode == EXCLUSION) {
    const both = mul(cs, cb);
    return i16x8.add(i16x8.sub(mul(cs, ab), both), i16x8.sub(mul(cb, as), both));
  }
  const both = mul(cs, cb);
  const dark = plus(both, both);
  const rest = mul(i16x8.sub(as, cs), i16x8.sub(ab, cb));
  const light = i16x8.sub(i16x8.sub(mul(as, ab), rest), rest);
  // Twice a value would overflow, so the half is compared with what is left of it.
  const isDark = mode == HARD_LIGHT
    ? i16x8.le_s(cs, i16x8.sub(as, cs))
    : i16x8.le_s(cb, i16x8.sub(ab, cb));
  return v128.bitselect(dark, i16x8.max_s(light, i16x8.splat(0)), isDark);
}

// @ts-ignore: decorator
@inline function over(x: v128, cs: v128, cb: v128, notAs: v128, notAb: v128, inside: bool): v128 {
  const base = plus(x, mul(cb, notAs));
  return inside ? base : plus(base, mul(cs, notAb));
}

function integerModes(dst: usize, src: usize, mode: i32, opacity: i32, inside: bool): void {
  const op = i16x8.splat(<i16>opacity);
  const full = opacity >= 32767;
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o;
    let as = v128.load(from, 48);
    if (!v128.any_true(as)) continue;
    let r = v128.load(from), g = v128.load(from, 16), b = v128.load(from, 32);
    if (!full) {
      as = mul(as, op);
      r = mul(r, op);
      g = mul(g, op);
      b = mul(b, op);
    }
    const br = v128.load(to), bg = v128.load(to, 16), bb = v128.load(to, 32), ab = v128.load(to, 48);
    const notAs = complement(as), notAb = complement(ab);
    const alpha = inside ? ab : plus(as, mul(ab, notAs));
    v128.store(to, i16x8.min_s(over(product(mode, r, br, as, ab), r, br, notAs, notAb, inside), alpha));
    v128.store(to, i16x8.min_s(over(product(mode, g, bg, as, ab), g, bg, notAs, notAb, inside), alpha), 16);
    v128.store(to, i16x8.min_s(over(product(mode, b, bb, as, ab), b, bb, notAs, notAb, inside), alpha), 32);
    v128.store(to, alpha, 48);
  }
}

function normalOver(dst: usize, src: usize, opacity: i32): void {
  const op = i16x8.splat(<i16>opacity);
  const full = opacity >= 32767;
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o;
    let as = v128.load(from, 48);
    let r = v128.load(from), g = v128.load(from, 16), b = v128.load(from, 32);
    if (!full) {
      as = mul(as, op);
      r = mul(r, op);
      g = mul(g, op);
      b = mul(b, op);
    }
    const notAs = complement(as);
    v128.store(to, plus(r, mul(v128.load(to), notAs)));
    v128.store(to, plus(g, mul(v128.load(to, 16), notAs)), 16);
    v128.store(to, plus(b, mul(v128.load(to, 32), notAs)), 32);
    v128.store(to, plus(as, mul(v128.load(to, 48), notAs)), 48);
  }
}

function normalInside(dst: usize, src: usize, opacity: i32): void {
  const op = i16x8.splat(<i16>opacity);
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o;
    const as = mul(v128.load(from, 48), op);
    const ab = v128.load(to, 48), notAs = complement(as);
    for (let c: usize = 0; c < 48; c += 16) {
      const s = mul(v128.load(from + c), op);
      v128.store(to + c, i16x8.min_s(plus(mul(s, ab), mul(v128.load(to + c), notAs)), ab));
    }
  }
}

// ---- modes that work on plain colour, four pixels at a time in floats ----

// @ts-ignore: decorator
@inline function select(a: v128, b: v128, condition: v128): v128 {
  return v128.bitselect(a, b, condition);
}

// @ts-ignore: decorator
@inline function separable(mode: i32, cb: v128, cs: v128): v128 {
  const one = f32x4.splat(1), zero = f32x4.splat(0), two = f32x4.splat(2);
  if (mode == COLOR_DODGE) {
    const raised = f32x4.pmin(one, f32x4.div(cb, f32x4.sub(one, cs)));
    return select(zero, select(one, raised, f32x4.ge(cs, one)), f32x4.le(cb, zero));
  }
  if (mode == COLOR_BURN) {
    const lowered = f32x4.sub(one, f32x4.pmin(one, f32x4.div(f32x4.sub(one, cb), cs)));
    return select(one, select(zero, lowered, f32x4.le(cs, zero)), f32x4.ge(cb, one));
  }
  // soft-light
  const twice = f32x4.sub(f32x4.mul(two, cs), one);
  const darker = f32x4.add(cb, f32x4.mul(twice, f32x4.mul(cb, f32x4.sub(one, cb))));
  const quartic = f32x4.mul(
    f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), cb), f32x4.splat(12)), cb), f32x4.splat(4)),
    cb,
  );
  const d = select(quartic, f32x4.sqrt(cb), f32x4.le(cb, f32x4.splat(0.25)));
  const lighter = f32x4.add(cb, f32x4.mul(twice, f32x4.sub(d, cb)));
  return select(darker, lighter, f32x4.le(twice, zero));
}

// @ts-ignore: decorator
@inline function lum(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(0.3)), f32x4.mul(g, f32x4.splat(0.59))),
    f32x4.mul(b, f32x4.splat(0.11)),
  );
}

// @ts-ignore: decorator
@inline function least(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmin(f32x4.pmin(r, g), b);
}

// @ts-ignore: decorator
@inline function greatest(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmax(f32x4.pmax(r, g), b);
}

/** ClipColor for one component, given the colour's luminosity and extremes. */
// @ts-ignore: decorator
@inline function clipped(c: v128, l: v128, n: v128, x: v128): v128 {
  const one = f32x4.splat(1), zero = f32x4.splat(0), tiny = f32x4.splat(<f32>1e-7);
  const off = f32x4.sub(c, l);
  const up = f32x4.add(l, f32x4.div(f32x4.mul(off, l), f32x4.pmax(f32x4.sub(l, n), tiny)));
  const low = select(up, c, f32x4.lt(n, zero));
  const offLow = f32x4.sub(low, l);
  const down = f32x4.add(l, f32x4.div(f32x4.mul(offLow, f32x4.sub(one, l)), f32x4.pmax(f32x4.sub(x, l), tiny)));
  return select(down, low, f32x4.gt(x, one));
}

// @ts-ignore: decorator
@inline function unit(c: v128, a: v128): v128 {
  const zero = f32x4.splat(0);
  return v128.and(f32x4.div(c, a), f32x4.gt(a, zero));
}

/** Four pixels from `at` (as floats r g b a) blended; the result replaces the source in `half`. */
function colourModeHalf(mode: i32, sr: v128, sg: v128, sb: v128, as: v128, br: v128, bg: v128, bb: v128, ab: v128, inside: bool, out: usize, scratch: usize): void {
  const csr = clamp01(unit(sr, as)), csg = clamp01(unit(sg, as)), csb = clamp01(unit(sb, as));
  const cbr = clamp01(unit(br, ab)), cbg = clamp01(unit(bg, ab)), cbb = clamp01(unit(bb, ab));
  let r: v128, g: v128, b: v128;
  if (mode == GLAZE) {
    // Behind the four results of both halves there is room for what a glaze works with.
    glaze4(cbr, cbg, cbb, csr, csg, csb, out, scratch);
    r = v128.load(out);
    g = v128.load(out, 32);
    b = v128.load(out, 64);
  } else if (mode < HUE) {
    r = separable(mode, cbr, csr);
    g = separable(mode, cbg, csg);
    b = separable(mode, cbb, csb);
  } else {
    const fromSource = mode == HUE || mode == COLOR;
    r = fromSource ? csr : cbr;
    g = fromSource ? csg : cbg;
    b = fromSource ? csb : cbb;
    if (mode == HUE || mode == SATURATION) {
      // SetSat: the extremes go to 0 and s, the middle one keeps its place between them.
      const s = mode == HUE
        ? f32x4.sub(greatest(cbr, cbg, cbb), least(cbr, cbg, cbb))
        : f32x4.sub(greatest(csr, csg, csb), least(csr, csg, csb));
      const low = least(r, g, b), range = f32x4.sub(greatest(r, g, b), low);
      const scale = v128.and(f32x4.div(s, range), f32x4.gt(range, f32x4.splat(0)));
      r = f32x4.mul(f32x4.sub(r, low), scale);
      g = f32x4.mul(f32x4.sub(g, low), scale);
      b = f32x4.mul(f32x4.sub(b, low), scale);
    }
    const l = mode == LUMINOSITY ? lum(csr, csg, csb) : lum(cbr, cbg, cbb);
    const d = f32x4.sub(l, lum(r, g, b));
    r = f32x4.add(r, d);
    g = f32x4.add(g, d);
    b = f32x4.add(b, d);
    const l2 = lum(r, g, b), n = least(r, g, b), x = greatest(r, g, b);
    r = clipped(r, l2, n, x);
    g = clipped(g, l2, n, x);
    b = clipped(b, l2, n, x);
  }
  const one = f32x4.splat(1);
  const both = f32x4.mul(as, ab), notAs = f32x4.sub(one, as), notAb = f32x4.sub(one, ab);
  r = f32x4.add(f32x4.mul(both, r), f32x4.mul(br, notAs));
  g = f32x4.add(f32x4.mul(both, g), f32x4.mul(bg, notAs));
  b = f32x4.add(f32x4.mul(both, b), f32x4.mul(bb, notAs));
  if (!inside) {
    r = f32x4.add(r, f32x4.mul(sr, notAb));
    g = f32x4.add(g, f32x4.mul(sg, notAb));
    b = f32x4.add(b, f32x4.mul(sb, notAb));
  }
  v128.store(out, clamp01(r));
  v128.store(out, clamp01(g), 32);
  v128.store(out, clamp01(b), 64);
  v128.store(out, inside ? ab : f32x4.add(as, f32x4.mul(ab, notAs)), 96);
}

/** `scratch` is 128 bytes of this thread's own, and for a glaze `GLAZE_SCRATCH` more. */
function floatModes(dst: usize, src: usize, mode: i32, opacity: i32, inside: bool, scratch: usize): void {
  const op = i16x8.splat(<i16>opacity);
  const full = opacity >= 32767;
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o;
    let as = v128.load(from, 48);
    if (!v128.any_true(as)) continue;
    let r = v128.load(from), g = v128.load(from, 16), b = v128.load(from, 32);
    if (!full) {
      as = mul(as, op);
      r = mul(r, op);
      g = mul(g, op);
      b = mul(b, op);
    }
    const br = v128.load(to), bg = v128.load(to, 16), bb = v128.load(to, 32), ab = v128.load(to, 48);
    colourModeHalf(mode, lowToFloat(r), lowToFloat(g), lowToFloat(b), lowToFloat(as), lowToFloat(br), lowToFloat(bg), lowToFloat(bb), lowToFloat(ab), inside, scratch, scratch + 128);
    colourModeHalf(mode, highToFloat(r), highToFloat(g), highToFloat(b), highToFloat(as), highToFloat(br), highToFloat(bg), highToFloat(bb), highToFloat(ab), inside, scratch + 16, scratch + 128);
    const alpha = fromFloat(v128.load(scratch, 96), v128.load(scratch, 112));
    v128.store(to, i16x8.min_s(fromFloat(v128.load(scratch), v128.load(scratch, 16)), alpha));
    v128.store(to, i16x8.min_s(fromFloat(v128.load(scratch, 32), v128.load(scratch, 48)), alpha), 16);
    v128.store(to, i16x8.min_s(fromFloat(v128.load(scratch, 64), v128.load(scratch, 80)), alpha), 32);
    v128.store(to, alpha, 48);
  }
}

/** Plus-lighter: premultiplied values are added, to one at most; inside a shape, to its alpha. */
function addModes(dst: usize, src: usize, opacity: i32, inside: bool): void {
  const op = i16x8.splat(<i16>opacity);
  const full = opacity >= 32767;
  for (let o: usize = 0; o < <usize>TILE_BYTES; o += 64) {
    const to = dst + o, from = src + o, ab = v128.load(to, 48);
    for (let c: usize = 0; c < 64; c += 16) {
      if (inside && c == 48) break;
      let s = v128.load(from + c);
      if (!full) s = mul(s, op);
      if (inside) v128.store(to + c, i16x8.min_s(plus(v128.load(to + c), mul(s, ab)), ab));
      else v128.store(to + c, plus(v128.load(to + c), s));
    }
  }
}

/** Blends the tile `src` at `opacity` (Q15) into the tile `dst`. */
export function blendTile(dst: usize, src: usize, mode: i32, opacity: i32, inside: bool, scratch: usize): void {
  if (opacity <= 0) return;
  switch (mode) {
    case NORMAL:
      if (inside) normalInside(dst, src, opacity);
      else normalOver(dst, src, opacity);
      break;
    // The mode is a constant in each call so that the compiler can specialise the loop.
    case MULTIPLY: integerModes(dst, src, MULTIPLY, opacity, inside); break;
    case SCREEN: integerModes(dst, src, SCREEN, opacity, inside); break;
    case OVERLAY: integerModes(dst, src, OVERLAY, opacity, inside); break;
    case DARKEN: integerModes(dst, src, DARKEN, opacity, inside); break;
    case LIGHTEN: integerModes(dst, src, LIGHTEN, opacity, inside); break;
    case HARD_LIGHT: integerModes(dst, src, HARD_LIGHT, opacity, inside); break;
    case DIFFERENCE: integerModes(dst, src, DIFFERENCE, opacity, inside); break;
    case EXCLUSION: integerModes(dst, src, EXCLUSION, opacity, inside); break;
    case ADD: addModes(dst, src, opacity, inside); break;
    default: floatModes(dst, src, mode, opacity, inside, scratch);
  }
}
