import { BLOCK_BYTES, ROW_BYTES } from "../layout";
import { paperAt } from "../contact";
import { heights, paperBand } from "../grain";
import { colour4 } from "../pigment";
import { highToFloat, lowToFloat } from "../q15";

/**
 * A tile of wet paint while it is worked: for each four pixels of a row nineteen lots of four f32, 304 bytes.
 * A skin over a bulk: of each what its paint takes up of light in seven bands, times its thickness in px, and
 * the thickness; then the height of what is dry below, px; how far the place is open to change, 0…1; and the
 * thinner in the paint, px of it.
 */
export const GROUP: usize = 304;
export const ROW_OF_WET: usize = GROUP * 16;
export const BANDS: usize = 7;
export const SKIN_H: usize = 112;
export const BULK: usize = 128;
export const BULK_H: usize = 240;
export const GROUND: usize = 256;
export const OPEN: usize = 272;
export const THINNER: usize = 288;
/**
 * After its groups a tile of wet paint has a byte for each: 1 where it has changed since it was shown, and 2 where
 * it was among what was shown last.
 */
export const CHANGED: usize = 1024 * GROUP;
/** What `showWet` shows: what has changed but was not shown last, as it changes again anyway; all of it; all that has changed. */
const DUE: i32 = 0;
const WHOLE: i32 = 1;

/** At rest: four numbers a pixel to a tile, as colours lie. Roots of what a band takes up, thickness, heights. */
const ROOT_SCALE: f32 = 32767.0 / 6.6;
const THICK_SCALE: f32 = 2047.9375;
/** Heights of the surface from this far below the middle of the ground's weave, px. */
export const DEEPEST: f32 = 1;
export const HEIGHT_SCALE: f32 = 1800;
/** The weave of the ground, px of paint: its valleys, and from there to its threads. */
const WEAVE_LOW: f32 = -0.9;
const WEAVE_SPAN: f32 = 2;
/** How a film hides what is under it; and how the skin hides the bulk. */
const HIDES: f32 = 4.4;
/** Thinner than this there is no paint, px. */
const LEAST: f32 = 0.00001;

/** 1 − 1/(1 + x + x²/2 + x³/6), which stands for 1 − e^(−x). */
// @ts-ignore: decorator
@inline export function grows(x: v128): v128 {
  const one = f32x4.splat(1);
  const inner = f32x4.add(f32x4.splat(0.5), f32x4.mul(x, f32x4.splat(<f32>(1.0 / 6.0))));
  const sum = f32x4.add(one, f32x4.mul(x, f32x4.add(one, f32x4.mul(x, inner))));
  return f32x4.sub(one, f32x4.div(one, sum));
}

/** e^(−x) for x ≥ 0. */
// @ts-ignore: decorator
@inline function fades(x: v128): v128 {
  const y = f32x4.mul(x, f32x4.splat(0.25));
  const one = f32x4.splat(1);
  const inner = f32x4.add(f32x4.splat(0.5), f32x4.mul(y, f32x4.splat(<f32>(1.0 / 6.0))));
  const q = f32x4.div(one, f32x4.add(one, f32x4.mul(y, f32x4.add(one, f32x4.mul(y, inner)))));
  const q2 = f32x4.mul(q, q);
  return f32x4.mul(q2, q2);
}

/** How high the surface stands over the weave's middle: thick paint levels what lies below it. */
// @ts-ignore: decorator
@inline export function surface(ground: v128, h: v128): v128 {
  const soft = f32x4.add(f32x4.splat(<f32>(1.0 / 2.2)), f32x4.mul(h, f32x4.splat(0.4)));
  return f32x4.add(f32x4.div(ground, f32x4.add(f32x4.splat(1), f32x4.mul(h, soft))), h);
}

// @ts-ignore: decorator
@inline function half(at: usize, high: bool): v128 {
  const both = v128.load(at);
  return high ? i32x4.extend_high_i16x8_u(both) : i32x4.extend_low_i16x8_u(both);
}

// @ts-ignore: decorator
@inline function real(at: usize, high: bool, per: f32): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(half(at, high)), f32x4.splat(per));
}

// @ts-ignore: decorator
@inline function over(amount: v128): v128 {
  return v128.and(f32x4.div(f32x4.splat(1), amount), f32x4.gt(amount, f32x4.splat(LEAST)));
}

/** Seven bands and a thickness from two tiles at rest. */
// @ts-ignore: decorator
@inline function awake(to: usize, first: usize, second: usize, high: bool): void {
  const h = real(first + 48, high, <f32>1 / THICK_SCALE);
  for (let band: usize = 0; band < BANDS; band++) {
    const from = band < 3 ? first + (band << 4) : second + ((band - 3) << 4);
    const root = real(from, high, <f32>1 / ROOT_SCALE);
    v128.store(to + (band << 4), f32x4.mul(f32x4.mul(root, root), h));
  }
  v128.store(to, h, 112);
}

/**
 * Unpacks a tile of wet paint. `skin`, `skinMore`, `bulk`, `bulkMore`, `thinner`: its tiles at rest, all zero
 * where it is dry; `relief`: 0 where nobody has painted yet, then the ground is the paper at (px, py), `rough` times as deep
 * as a canvas.
 */
export function wakePaint(
  wet: usize, skin: usize, skinMore: usize, bulk: usize, bulkMore: usize, thinner: usize, relief: usize, isWet: i32,
  px: i32, py: i32, paper: usize, period: i32, rough: f32,
): void {
  const band = paperBand(period);
  memory.fill(wet + CHANGED, 0, 1024);
  for (let i: usize = 0; i < 1024; i++) {
    const block = (i >> 1) * BLOCK_BYTES, to = wet + i * GROUP, high = (i & 1) == 1;
    awake(to, skin + block, skinMore + block, high);
    awake(to + BULK, bulk + block, bulkMore + block, high);
    let ground: v128;
    if (relief) {
      // A piece that was moved has soft edges: there the height is a share of itself.
      const there = f32x4.convert_i32x4_s(half(relief + block + 48, high));
      const raw = f32x4.convert_i32x4_s(half(relief + block + (isWet ? 16 : 0), high));
      const some = f32x4.gt(there, f32x4.splat(0));
      const whole = f32x4.mul(f32x4.div(raw, f32x4.pmax(there, f32x4.splat(1))), f32x4.splat(<f32>32767 / HEIGHT_SCALE));
      ground = v128.and(f32x4.sub(whole, f32x4.splat(DEEPEST)), some);
    } else {
      const x = px + <i32>((i & 15) << 2), y = py + <i32>(i >> 4);
      const tooth = heights(paperAt(paper, period, x, y), band);
      ground = f32x4.add(f32x4.splat(WEAVE_LOW * rough), f32x4.mul(tooth, f32x4.splat(WEAVE_SPAN * rough)));
    }
    v128.store(to, ground, GROUND);
    v128.store(to, f32x4.splat(1), OPEN);
    v128.store(to, real(thinner + block, high, <f32>1 / THICK_SCALE), THINNER);
  }
}

/** Closes a tile of wet paint as far as a mask's alpha leaves it open. */
export function closeWet(wet: usize, mask: usize): void {
  for (let i: usize = 0; i < 1024; i++) {
    const both = v128.load(mask + (i >> 1) * BLOCK_BYTES + 48);
    const open = (i & 1) == 1 ? highToFloat(both) : lowToFloat(both);
    const at = wet + i * GROUP + OPEN;
    v128.store(at, f32x4.mul(v128.load(at), open));
  }
}

/** Whole steps, rounded, held in 0…32767, of two groups, stored as eight u16. */
// @ts-ignore: decorator
@inline function keep(at: usize, low: v128, high: v128): void {
  const magic = f32x4.splat(0.5), most = f32x4.splat(32767), zero = f32x4.splat(0);
  const a = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.pmin(f32x4.pmax(low, zero), most), magic));
  const b = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.pmin(f32x4.pmax(high, zero), most), magic));
  v128.store(at, i16x8.narrow_i32x4_s(a, b));
}

/** The root of what one band of four pixels' paint takes up, in steps; never quite none where there is paint. */
// @ts-ignore: decorator
@inline function rootOf(at: usize, band: usize, per: v128): v128 {
  const k = f32x4.pmax(f32x4.mul(v128.load(at + (band << 4)), per), f32x4.splat(0));
  const steps = f32x4.mul(f32x4.sqrt(k), f32x4.splat(ROOT_SCALE));
  const some = f32x4.gt(per, f32x4.splat(0));
  return v128.and(f32x4.pmax(steps, f32x4.splat(1)), some);
}

// @ts-ignore: decorator
@inline function rest(first: usize, second: usize, from: usize): void {
  const next = from + GROUP;
  const low = v128.load(from, 112), high = v128.load(next, 112);
  const perLow = over(low), perHigh = over(high);
  for (let band: usize = 0; band < BANDS; band++) {
    const at = band < 3 ? first + (band << 4) : second + ((band - 3) << 4);
    keep(at, rootOf(from, band, perLow), rootOf(next, band, perHigh));
  }
  const scale = f32x4.splat(THICK_SCALE);
  keep(first + 48, f32x4.mul(low, scale), f32x4.mul(high, scale));
}

/**
 * Packs a tile of wet paint into its tiles at rest. Unpacked and packed again it stays the same. `thinner`: 0
 * where there is none.
 */
export function restPaint(wet: usize, skin: usize, skinMore: usize, bulk: usize, bulkMore: usize, thinner: usize): void {
  const scale = f32x4.splat(THICK_SCALE);
  for (let i: usize = 0; i < 512; i++) {
    const block = i * BLOCK_BYTES, from = wet + (i << 1) * GROUP;
    rest(skin + block, skinMore + block, from);
    rest(bulk + block, bulkMore + block, from + BULK);
    if (!thinner) continue;
    keep(thinner + block, f32x4.mul(v128.load(from, THINNER), scale), f32x4.mul(v128.load(from + GROUP, THINNER), scale));
    // Its other numbers mean nothing yet.
    memory.fill(thinner + block + 16, 0, 48);
  }
}

/** The share of what lies below that four pixels of wet paint hide. */
// @ts-ignore: decorator
@inline function hiding(from: usize): v128 {
  const h = f32x4.add(v128.load(from, SKIN_H), v128.load(from, BULK_H));
  return f32x4.sub(f32x4.splat(1), fades(f32x4.mul(h, f32x4.splat(HIDES))));
}

/** The colours of four pixels of wet paint: r g b, written to `out`. */
function look(from: usize, out: usize): void {
  const hs = v128.load(from, SKIN_H), hb = v128.load(from, BULK_H);
  const one = f32x4.splat(1), hides = f32x4.splat(HIDES);
  const perBulk = over(hb);
  const noBulk = f32x4.le(hb, f32x4.splat(LEAST));
  const front = v128.bitselect(one, f32x4.sub(one, fades(f32x4.mul(hs, hides))), noBulk);
  const ofSkin = f32x4.mul(front, over(hs)), ofBulk = f32x4.mul(f32x4.sub(one, front), perBulk);
  // Where there is no skin the bulk is seen whole.
  const per = over(f32x4.add(f32x4.mul(hs, ofSkin), f32x4.mul(hb, ofBulk)));
  for (let band: usize = 0; band < BANDS; band++) {
    const at = from + (band << 4);
    const sum = f32x4.add(f32x4.mul(v128.load(at), ofSkin), f32x4.mul(v128.load(at + BULK), ofBulk));
    v128.store(out + (band << 4), f32x4.mul(sum, per));
  }
  colour4(out);
}

/**
 * Shows wet paint over what is dry below: the rows and blocks of `box` (left, top, right, bottom; columns in
 * blocks of eight) of the colour tile and of the relief, which gets the surface and what is dry below it.
 * `what`: see DUE.
 */
export function showWet(
  tile: usize, relief: usize, under: usize, wet: usize, left: i32, top: i32, right: i32, bottom: i32, what: i32, scratch: usize,
): void {
  const first = scratch, second = scratch + 112;
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const changed = wet + CHANGED + <usize>((y << 4) + (x << 1));
      const marks = load<u16>(changed);
      if (what != WHOLE && marks == 0) continue;
      const isDue = what == WHOLE || ((marks & 0x101) != 0 && (what != DUE || (marks & 0x202) == 0));
      store<u16>(changed, isDue ? (what == DUE ? 0x202 : 0) : marks & 0x101);
      if (!isDue) continue;
      const block = <usize>(y * ROW_BYTES + x * BLOCK_BYTES);
      const from = wet + <usize>y * ROW_OF_WET + (<usize>x << 1) * GROUP;
      const a = hiding(from), b = hiding(from + GROUP);
      heightsOf(relief + block, from);
      if (!v128.any_true(painted(a, b))) {
        bared(tile + block, under + block);
        continue;
      }
      look(from, first);
      look(from + GROUP, second);
      const one = f32x4.splat(1);
      const dryA = f32x4.sub(one, a), dryB = f32x4.sub(one, b);
      laid(tile + block + 48, one, a, dryA, one, b, dryB, v128.load(under + block + 48));
      const alpha = v128.load(tile + block + 48);
      const whole = i16x8.splat(32767), nearly = i16x8.gt_s(alpha, i16x8.splat(32740));
      const full = v128.bitselect(whole, alpha, v128.and(nearly, painted(a, b)));
      v128.store(tile + block + 48, full);
      for (let c: usize = 0; c < 48; c += 16) {
        const below = v128.load(under + block + c);
        laid(tile + block + c, v128.load(first + c), a, dryA, v128.load(second + c), b, dryB, below);
        v128.store(tile + block + c, i16x8.min_s(v128.load(tile + block + c), full));
      }
    }
  }
}

/** Eight pixels without wet paint: what is dry below. */
// @ts-ignore: decorator
@inline function bared(tile: usize, under: usize): void {
  const alpha = v128.load(under, 48);
  v128.store(tile, alpha, 48);
  for (let c: usize = 0; c < 48; c += 16) v128.store(tile + c, i16x8.min_s(v128.load(under + c), alpha));
}

/** Which of eight pixels have wet paint. */
// @ts-ignore: decorator
@inline function painted(a: v128, b: v128): v128 {
  const zero = f32x4.splat(0);
  return i16x8.narrow_i32x4_s(f32x4.gt(a, zero), f32x4.gt(b, zero));
}

/**
 * colour · a + below · (1 − a), for eight pixels. Where there is paint it goes by steps of eight (1/16 of a step
 * of eight bits), so that it takes less room when it is kept; elsewhere it is what lay below, to the last bit.
 */
// @ts-ignore: decorator
@inline function laid(at: usize, c0: v128, a0: v128, d0: v128, c1: v128, a1: v128, d1: v128, below: v128): void {
  const scale = f32x4.splat(32767);
  const low = f32x4.add(f32x4.mul(f32x4.mul(c0, a0), scale), f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(below)), d0));
  const high = f32x4.add(f32x4.mul(f32x4.mul(c1, a1), scale), f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(below)), d1));
  keep(at, low, high);
  const exact = v128.load(at);
  const coarse = i16x8.shl(i16x8.shr_u(i16x8.add(i16x8.min_s(exact, i16x8.splat(32760)), i16x8.splat(4)), 3), 3);
  v128.store(at, v128.bitselect(coarse, exact, painted(a0, a1)));
}

/** In the blue of a relief: here nobody has painted with what stands up. Other marks there are not lit by the paper's weave. */
export const BARE: i16 = 64;

// @ts-ignore: decorator
@inline function heightsOf(at: usize, from: usize): void {
  const next = from + GROUP;
  const scale = f32x4.splat(HEIGHT_SCALE), lift = f32x4.splat(DEEPEST);
  const g0 = v128.load(from, GROUND), g1 = v128.load(next, GROUND);
  const h0 = f32x4.add(v128.load(from, SKIN_H), v128.load(from, BULK_H));
  const h1 = f32x4.add(v128.load(next, SKIN_H), v128.load(next, BULK_H));
  const seen = v128.load(at + 32), there = v128.load(at + 48);
  const bare = v128.or(i16x8.eq(there, i16x8.splat(0)), i16x8.eq(seen, i16x8.splat(BARE)));
  keep(at, f32x4.mul(f32x4.add(surface(g0, h0), lift), scale), f32x4.mul(f32x4.add(surface(g1, h1), lift), scale));
  keep(at + 16, f32x4.mul(f32x4.add(g0, lift), scale), f32x4.mul(f32x4.add(g1, lift), scale));
  const shine = i16x8.splat(32767);
  // Wet paint shines; how much is left of that once it has dried is for the light to say.
  const isWet = i16x8.gt_s(v128.load(at), v128.load(at + 16));
  v128.store(at + 32, v128.bitselect(shine, v128.and(i16x8.splat(BARE), bare), isWet));
  v128.store(at + 48, shine);
}
