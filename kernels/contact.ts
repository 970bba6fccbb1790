import { real, word } from "./mark";
import { SIDE } from "./layout";
import { mul } from "./q15";

/**
 * Where a dry tip touched: two sums a pixel, kept without the paper, which answers once when they
 * are laid (`kernels/dry.ts`). W1 = ∫ P ds and W2 = ∫ P² ds over the stroke, in 1/1024, u16, for the
 * pressure P = p (1 − d²) under a tip at the distance d of its radius. Blocks of eight pixels:
 * W1 ×8, W2 ×8; 256 bytes a row.
 *
 * A mark here is a tip that goes straight from one place to another:
 *  5 x, 6 y      where it begins, picture px
 *  7 ax, 8 ay    picture px → along the travel, in radii
 *  9 nx, 10 ny   picture px → across it, in radii
 * 11 length      of the travel, in radii
 * 12 u, 13 ux, 14 uy   along the tip's long axis, from its middle on the way: −1 point … 1 shoulder
 * 15 k           contact where it presses most
 * 16 p           pressure
 * 17 flat        0 a rounded tip … 1 one worn flat
 * 18 shade       how much lighter the shoulder lies than the point
 * 19 sx, 20 sy   what a slope toward the travel catches, a height of the paper (i32: a quarter of it, Q15)
 * 21 drag, 22 and 23  what heights that were passed add: how much, and where they lie ((dy << 16) | dx)
 * 24 face        how uneven the tip's face is; 25 radii → streaks across, 26 place along them, 27 seed
 * 28 edge        0 a tip that fades to its rim … 1 a broad one whose face lies on to its rim; 29 px of that rim
 */
const STEP: f32 = 1024;
const ROW_BYTES: i32 = 256;
const BLOCK_BYTES: i32 = 32;
/** Added to |x| < 2²², it leaves the nearest whole number in the low bits. */
const ROUNDS: f32 = 12582912;
const LANES = f32x4(0.5, 1.5, 2.5, 3.5);

/** Margins of a paper in memory: columns on either side, rows above and below. */
export const PAPER_COLUMNS: i32 = 16;
export const PAPER_ROWS: i32 = 8;

/** Where the height at a picture pixel lies in a band of a paper. */
// @ts-ignore: decorator
@inline export function paperAt(paper: usize, period: i32, x: i32, y: i32): usize {
  const stride = period + 2 * PAPER_COLUMNS;
  return paper + <usize>((PAPER_ROWS + (y % period)) * stride + PAPER_COLUMNS + (x % period));
}

/** Four bytes as floats 0…1. */
// @ts-ignore: decorator
@inline export function bytesToFloat(at: usize): v128 {
  const wide = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at)));
  return f32x4.mul(f32x4.convert_i32x4_s(wide), f32x4.splat(<f32>(1.0 / 255.0)));
}

// @ts-ignore: decorator
@inline function hash(input: u32): u32 {
  const state = input * 747796405 + 2891336453;
  const mixed = ((state >> ((state >> 28) + 4)) ^ state) * 277803737;
  return (mixed >> 22) ^ mixed;
}

/** A number −1…1 that belongs to a place of a lattice. */
// @ts-ignore: decorator
@inline function lattice(x: i32, y: i32, seed: i32): f32 {
  return <f32>(<i32>hash(<u32>x * 0x9e3779b1 + hash(<u32>y + <u32>seed))) * <f32>(1.0 / 2147483648.0);
}

// @ts-ignore: decorator
@inline function smooth(t: f32): f32 {
  return t * t * (3 - 2 * t);
}

function valueNoise(x: f32, y: f32, seed: i32): f32 {
  const fx = Mathf.floor(x), fy = Mathf.floor(y);
  const ix = <i32>fx, iy = <i32>fy;
  const u = smooth(x - fx), v = smooth(y - fy);
  const top = lattice(ix, iy, seed), bottom = lattice(ix, iy + 1, seed);
  const upper = top + (lattice(ix + 1, iy, seed) - top) * u;
  const lower = bottom + (lattice(ix + 1, iy + 1, seed) - bottom) * u;
  return upper + (lower - upper) * v;
}

/** Places across a tip at which its face is looked up, half a pixel apart; a tile's diagonal and some. */
const FACES: i32 = 200;

/**
 * What the tip's face gives across what a tile sees of it: its unevenness, and how far toward its rim it lies
 * on. Returns the radii at which it begins.
 */
function faceAcross(mark: usize, least: f32, most: f32, scratch: usize): f32 {
  const amount = real(mark, 24), scale = real(mark, 25), along = real(mark, 26), seed = word(mark, 27);
  const step = perFace(mark);
  const from = max<f32>(-1, least), to = min<f32>(1, most);
  const count = min<i32>(FACES, <i32>((to - from) / step) + 2);
  const edge = real(mark, 28), rim = <f32>4 * step * real(mark, 29);
  for (let i = 0; i < count; i++) {
    const n = from + <f32>i * step;
    const uneven: f32 = amount > 0 ? <f32>1 + amount * valueNoise(n * scale, along, seed) : 1;
    store<f32>(scratch + <usize>(i << 2), uneven * lies(n, edge, rim));
  }
  return from;
}

/** A rounded tip gives (1 − n²)^1.5 across its way; this takes that back, but for its rim. */
// @ts-ignore: decorator
@inline function lies(n: f32, edge: f32, rim: f32): f32 {
  if (edge == 0) return 1;
  const q = max<f32>(<f32>1 - n * n, 0) + rim;
  return <f32>1 + edge * (<f32>1 / (q * Mathf.sqrt(q)) - <f32>1);
}

/** Radii across from one place of the face to the next: half a pixel. */
// @ts-ignore: decorator
@inline function perFace(mark: usize): f32 {
  const nx = real(mark, 9), ny = real(mark, 10);
  return <f32>0.5 * Mathf.sqrt(nx * nx + ny * ny);
}

// @ts-ignore: decorator
@inline function facesAt(at: v128, scratch: usize): v128 {
  const index = i32x4.sub(f32x4.add(at, f32x4.splat(ROUNDS)), i32x4.splat(0x4b400000));
  const a = load<f32>(scratch + <usize>(i32x4.extract_lane(index, 0) << 2));
  const b = load<f32>(scratch + <usize>(i32x4.extract_lane(index, 1) << 2));
  const c = load<f32>(scratch + <usize>(i32x4.extract_lane(index, 2) << 2));
  const d = load<f32>(scratch + <usize>(i32x4.extract_lane(index, 3) << 2));
  return f32x4(a, b, c, d);
}

// @ts-ignore: decorator
@inline function clamp(a: v128, low: f32, high: f32): v128 {
  return f32x4.pmin(f32x4.pmax(a, f32x4.splat(low)), f32x4.splat(high));
}

/** Adds to eight sums. */
// @ts-ignore: decorator
@inline function add(at: usize, low: v128, high: v128): void {
  // The nearest whole number lies in the low bits.
  const a = f32x4.add(f32x4.mul(low, f32x4.splat(STEP)), f32x4.splat(ROUNDS));
  const b = f32x4.add(f32x4.mul(high, f32x4.splat(STEP)), f32x4.splat(ROUNDS));
  const whole = v128.shuffle<u16>(a, b, 0, 2, 4, 6, 8, 10, 12, 14);
  v128.store(at, i16x8.add_sat_u(v128.load(at), whole));
}

/** Where on its way the tip comes to a pixel, and where it leaves: lengths from the pixel, in radii. */
// @ts-ignore: decorator
@inline function comes(a: v128, root: v128): v128 {
  return f32x4.pmax(f32x4.neg(a), f32x4.neg(root));
}

// @ts-ignore: decorator
@inline function leaves(a: v128, root: v128, length: v128, from: v128): v128 {
  // Where the tip does not come at all the two are one.
  return f32x4.pmax(f32x4.pmin(f32x4.sub(length, a), root), from);
}

/** ∫ (q − u²) du */
// @ts-ignore: decorator
@inline function once(q: v128, from: v128, to: v128): v128 {
  const d1 = f32x4.sub(to, from);
  const d3 = f32x4.sub(f32x4.mul(f32x4.mul(to, to), to), f32x4.mul(f32x4.mul(from, from), from));
  return f32x4.sub(f32x4.mul(q, d1), f32x4.mul(d3, f32x4.splat(<f32>(1.0 / 3.0))));
}

/** ∫ (q − u²)² du */
// @ts-ignore: decorator
@inline function squared(q: v128, from: v128, to: v128): v128 {
  const d1 = f32x4.sub(to, from);
  const to2 = f32x4.mul(to, to), from2 = f32x4.mul(from, from);
  const to3 = f32x4.mul(to2, to), from3 = f32x4.mul(from2, from);
  const d3 = f32x4.sub(to3, from3);
  const d5 = f32x4.sub(f32x4.mul(to3, to2), f32x4.mul(from3, from2));
  const inner = f32x4.sub(f32x4.mul(q, d1), f32x4.mul(d3, f32x4.splat(<f32>(2.0 / 3.0))));
  return f32x4.add(f32x4.mul(q, inner), f32x4.mul(d5, f32x4.splat(<f32>0.2)));
}

/** Marks of a dry tip into a tile's contact. `scratch`: 1024 bytes of this thread's own. */
export function contactMarks(
  contact: usize,
  px: i32,
  py: i32,
  marks: usize,
  count: i32,
  paper: usize,
  period: i32,
  scratch: usize,
): void {
  for (let i = 0; i < count; i++) contactMark(contact, px, py, marks + <usize>(i * 192), paper, period, scratch);
}

function contactMark(contact: usize, px: i32, py: i32, mark: usize, paper: usize, period: i32, scratch: usize): void {
  const left = max<i32>(word(mark, 1) - px, 0), right = min<i32>(word(mark, 3) - px, SIDE);
  const top = max<i32>(word(mark, 2) - py, 0), bottom = min<i32>(word(mark, 4) - py, SIDE);
  if (left >= right || top >= bottom) return;
  const ax = real(mark, 7), ay = real(mark, 8), nx = real(mark, 9), ny = real(mark, 10);
  const x0 = <f32>px - real(mark, 5), y0 = <f32>py - real(mark, 6) + <f32>0.5;
  // What of the tip's width this tile sees.
  const l = x0 + <f32>left, r = x0 + <f32>right, t = y0 + <f32>top, b = y0 + <f32>bottom;
  const least = min<f32>(nx * l, nx * r) + min<f32>(ny * t, ny * b);
  const most = max<f32>(nx * l, nx * r) + max<f32>(ny * t, ny * b);
  if (least > 1 || most < -1) return;
  const hasFace = real(mark, 24) > 0 || real(mark, 28) > 0;
  const faceFrom = hasFace ? faceAcross(mark, least, most, scratch) : 0;
  const perStep = hasFace ? <f32>1 / perFace(mark) : 0;
  const ux = real(mark, 13), uy = real(mark, 14), u0 = real(mark, 12);
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const far = real(mark, 11);
  const length = f32x4.splat(far), flat = f32x4.splat(real(mark, 17)), shade = real(mark, 18);
  const shades = f32x4.splat(shade);
  const k = f32x4.splat(real(mark, 15)), p = f32x4.splat(real(mark, 16));
  const drag = real(mark, 21);
  // A slope of a whole height is 255 · 16 here; so four times as much as it catches fits.
  const sx = i16x8.splat(<i16>word(mark, 19)), sy = i16x8.splat(<i16>word(mark, 20));
  const perStep16 = f32x4.splat(<f32>(1.0 / (255.0 * 16.0)));
  const stride = <usize>(period + 2 * PAPER_COLUMNS);
  const near = offset(word(mark, 22), stride), behind = offset(word(mark, 23), stride);
  const heights = paperAt(paper, period, px, py);
  for (let y = top; y < bottom; y++) {
    const fy = y0 + <f32>y;
    // Along a row the tip passes between two lines across and two along: what lies beyond is not looked at.
    let from = <f32>left, to = <f32>right;
    if (Mathf.abs(nx) > <f32>1e-6) {
      const a = (-ny * fy - <f32>1) / nx - x0, b = (-ny * fy + <f32>1) / nx - x0;
      from = max<f32>(from, min<f32>(a, b) - 1);
      to = min<f32>(to, max<f32>(a, b) + 1);
    }
    if (Mathf.abs(ax) > <f32>1e-6) {
      const a = (-ay * fy - <f32>1) / ax - x0, b = (-ay * fy + far + <f32>1) / ax - x0;
      from = max<f32>(from, min<f32>(a, b) - 1);
      to = min<f32>(to, max<f32>(a, b) + 1);
    }
    const first = max<i32>(<i32>from, 0) & ~7, end = min<i32>(<i32>(to + 1), SIDE);
    const row = contact + <usize>(y * ROW_BYTES);
    const below = heights + <usize>y * stride;
    for (let x = first; x < end; x += 8) {
      const fx = f32x4.add(f32x4.splat(x0 + <f32>x), LANES), gx = f32x4.add(fx, f32x4.splat(4));
      const cn = f32x4.splat(ny * fy), ca = f32x4.splat(ay * fy);
      const n0 = f32x4.add(f32x4.mul(fx, f32x4.splat(nx)), cn), n1 = f32x4.add(f32x4.mul(gx, f32x4.splat(nx)), cn);
      const a0 = f32x4.add(f32x4.mul(fx, f32x4.splat(ax)), ca), a1 = f32x4.add(f32x4.mul(gx, f32x4.splat(ax)), ca);
      const q0 = f32x4.sub(one, f32x4.mul(n0, n0)), q1 = f32x4.sub(one, f32x4.mul(n1, n1));
      const r0 = f32x4.sqrt(f32x4.pmax(q0, zero)), r1 = f32x4.sqrt(f32x4.pmax(q1, zero));
      const lo0 = comes(a0, r0), lo1 = comes(a1, r1);
      const hi0 = leaves(a0, r0, length, lo0), hi1 = leaves(a1, r1, length, lo1);
      const e20 = squared(q0, lo0, hi0), e21 = squared(q1, lo1, hi1);
      let e10 = once(q0, lo0, hi0), e11 = once(q1, lo1, hi1);
      e10 = f32x4.add(e10, f32x4.mul(flat, f32x4.sub(e10, e20)));
      e11 = f32x4.add(e11, f32x4.mul(flat, f32x4.sub(e11, e21)));
      const here = below + <usize>x;
      const across = i16x8.sub(heights8(here + 1), heights8(here - 1));
      const down = i16x8.sub(heights8(here + stride), heights8(here - stride));
      const slope = i16x8.add_sat_s(mul(i16x8.shl(across, 6), sx), mul(i16x8.shl(down, 6), sy));
      let c0 = f32x4.add(one, f32x4.mul(lowHalf(slope), perStep16));
      let c1 = f32x4.add(one, f32x4.mul(highHalf(slope), perStep16));
      if (drag > 0) {
        const passed = i16x8.add(heights8(here + near), heights8(here + behind));
        c0 = f32x4.add(c0, skipped(lowHalf(passed), drag));
        c1 = f32x4.add(c1, skipped(highHalf(passed), drag));
      }
      let w0 = f32x4.mul(k, clamp(c0, <f32>0.1, <f32>2.2)), w1 = f32x4.mul(k, clamp(c1, <f32>0.1, <f32>2.2));
      if (shade > 0) {
        const cu = f32x4.splat(u0 + uy * fy);
        const u = f32x4.add(f32x4.mul(fx, f32x4.splat(ux)), cu), v = f32x4.add(f32x4.mul(gx, f32x4.splat(ux)), cu);
        w0 = f32x4.mul(w0, f32x4.sub(one, f32x4.mul(shades, clamp(u, -1, 1))));
        w1 = f32x4.mul(w1, f32x4.sub(one, f32x4.mul(shades, clamp(v, -1, 1))));
      }
      if (hasFace) {
        w0 = f32x4.mul(w0, facesAt(placeOn(n0, faceFrom, perStep), scratch));
        w1 = f32x4.mul(w1, facesAt(placeOn(n1, faceFrom, perStep), scratch));
      }
      const at = row + <usize>(x << 2);
      add(at, f32x4.mul(w0, f32x4.pmax(e10, zero)), f32x4.mul(w1, f32x4.pmax(e11, zero)));
      add(at + 16, f32x4.mul(f32x4.mul(w0, p), f32x4.pmax(e20, zero)), f32x4.mul(f32x4.mul(w1, p), f32x4.pmax(e21, zero)));
    }
  }
}

// @ts-ignore: decorator
@inline function heights8(at: usize): v128 {
  return v128.load8x8_u(at);
}

// @ts-ignore: decorator
@inline function lowHalf(a: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(a));
}

// @ts-ignore: decorator
@inline function highHalf(a: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(a));
}

/** What heights that were passed take off or add. */
// @ts-ignore: decorator
@inline function skipped(passed: v128, drag: f32): v128 {
  const off = f32x4.sub(f32x4.mul(passed, f32x4.splat(<f32>(1.0 / 255.0))), f32x4.splat(1));
  return f32x4.mul(f32x4.splat(drag), off);
}

/** Where across the face a pixel is looked up. */
// @ts-ignore: decorator
@inline function placeOn(n: v128, from: f32, perStep: f32): v128 {
  const place = f32x4.mul(f32x4.sub(clamp(n, -1, 1), f32x4.splat(from)), f32x4.splat(perStep));
  return clamp(place, 0, <f32>(FACES - 1));
}

/** Bytes from a height to one that lies (dx, dy) from it. */
// @ts-ignore: decorator
@inline function offset(word: i32, stride: usize): usize {
  return <usize>((word >> 16) * <i32>stride + <i32>(<i16>word));
}
