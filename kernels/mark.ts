import { COVERAGE_ROW_BYTES, NOISE_ROW_BYTES, SIDE } from "./layout";
import { paperAt } from "./contact";
import { heights, paperBand, paperStride, touch } from "./grain";
import { coverByRows } from "./paint";
import { capsuleSpan, segmentFills, segmentMisses, segmentSpan, spanFrom, spanTo } from "./span";
import { clamp01, complement, fromFloat, mul, plus } from "./q15";

/**
 * Marks into a coverage tile.
 *
 * A mark is a record of 48 words (f32 unless said), written by
 * `src/engine/stroke/marks.ts`:
 *
 *  0 kind      i32  0 soft disc · 1 disc that catches grain · 2 tapered segment ·
 *                   3 picture · 4 picture in two tones · 5 picture in colours · 6 chord ·
 *                   8 round cone
 *  1 left, 2 top, 3 right, 4 bottom   bounds in picture px, exclusive at right/bottom (i32)
 *  5 x, 6 y    centre, or start of a segment or chord, picture px
 *  7 m00, 8 m01, 9 m10, 10 m11   picture px → unit disc (disc)
 *              dx, dy, 1/length², –        (segment)
 *              dx, dy, 1/length², k/√(1−k²), k = (end − start radius)/length   (round cone)
 *              dx, dy, 1/length, –         (chord)
 *  11 inverse  1 / (1 − inner²): steepness of the rim      (disc) | start radius
 *  12 softness 0 straight rim t … 1 smooth rim t²          (disc) | end radius − start radius
 *  13 flow     0…1
 *  14 shift    i32  where in the noise this mark reads: y · 64 + x
 *  15 k        i32  bits of dithered accumulation: 0, 4 or 8
 *  16 flowK    i32  flow · 2^k in Q15
 *  17 threshold  height of grain from which pigment touches
 *  18 steepness  1 / softness of that threshold
 *  19 slope      how much slopes that face the travel add
 *  20 ahead      i32  (dy << 16) | (dx & 0xffff): one pixel along the travel
 *  21 disc: fast i32  1: a large soft round disc, computed in 16-bit numbers; then
 *                     word 11 is its outer radius, word 12 √flowK in Q15 (i32), and
 *  22 unit       f32  Q15 step a pixel: 32768 · √√flowK / outer radius
 *  21 others: builds i32  1: coverage builds up mark by mark · 0: the larger stays
 *  23 tip        i32  address of the tip's corners (0: none), 24 columns, 25 rows of them,
 *  26 plane bytes i32 from one of its planes to the next
 *  27…30         picture px → texels (picture); first column and columns passed (chord: 27, 28)
 *  34 grainy     i32  whether words 17…20 hold
 *  35 tones      i32  kind of the tip's planes: 3, 4 or 5 as above; 0 without one
 *  36…39         directions of a chord's first and last bisector, x and y
 *  40…42         colour r g b, Q15 (i32); 43…45 the second colour
 */
export const MARK_BYTES: i32 = 192;

/** A round cone: a clean line's piece. */
const CONE: i32 = 8;

const LANES_LOW = f32x4(0.5, 1.5, 2.5, 3.5);

// @ts-ignore: decorator
@inline export function word(mark: usize, index: i32): i32 {
  return load<i32>(mark + (index << 2));
}

// @ts-ignore: decorator
@inline export function real(mark: usize, index: i32): f32 {
  return load<f32>(mark + (index << 2));
}

/** The nearest whole number, |x| < 2²²; a conversion that checks for overflow costs ten times as much. */
// @ts-ignore: decorator
@inline export function whole(x: f32): i32 {
  return reinterpret<i32>(x + <f32>12582912.0) - 0x4b400000;
}

/** Coverage of four pixels of a disc with a rim: 1 inside, falling to 0 at the unit circle. */
// @ts-ignore: decorator
@inline export function disc(u: v128, v: v128, inverse: v128, softness: v128): v128 {
  const r2 = f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v));
  const t = clamp01(f32x4.mul(f32x4.sub(f32x4.splat(1), r2), inverse));
  return f32x4.add(t, f32x4.mul(softness, f32x4.sub(f32x4.mul(t, t), t)));
}

/**
 * Half of the stretch of a row that an ellipse covers, px from the stretch's middle, which
 * lies at `slant · dy`; below 0 where the row misses it. Most of a long leaning mark's box
 * is empty. `r2`: 1 for the whole ellipse, less for a smaller one of the same shape.
 */
// @ts-ignore: decorator
@inline export function halfSpan(mark: usize, dy: f32, a: f32, b: f32, r2: f32): f32 {
  const m01 = real(mark, 8), m11 = real(mark, 10);
  const c = m01 * m01 + m11 * m11;
  const d = (b * b - a * c) * dy * dy + a * r2;
  return d < 0 ? -1 : sqrt(d) / a;
}

/**
 * c += (1 − c) · a, a = mask · flow, accumulated with k more bits than the plane has:
 * the sum is kept at 2^k times its size and cut back after blue noise has been added,
 * so that hundreds of faint marks reach what they should.
 */
// @ts-ignore: decorator
@inline export function accumulate(at: usize, a: v128, k: i32, noiseAt: usize): void {
  const c = v128.load(at);
  let grown = mul(complement(c), a);
  // Shifts by a number known beforehand are quick, so k is 0, 4 or 8.
  if (k == 4) {
    grown = i16x8.shr_s(i16x8.add(grown, i16x8.shr_u(v128.load(noiseAt), 4)), 4);
  } else if (k == 8) {
    grown = i16x8.shr_s(i16x8.add(grown, v128.load(noiseAt)), 8);
  }
  v128.store(at, plus(c, grown));
}

function softDisc(cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32, mark: usize, noise: usize): void {
  const m00 = f32x4.splat(real(mark, 7)), m10 = f32x4.splat(real(mark, 9));
  const inverse = f32x4.splat(real(mark, 11)), softness = f32x4.splat(real(mark, 12));
  const k = word(mark, 15), flowK = i16x8.splat(<i16>word(mark, 16));
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6;
  const cx = real(mark, 5), cy = real(mark, 6);
  const m01 = real(mark, 8), m11 = real(mark, 10);
  const four = f32x4.splat(4);
  const m0 = real(mark, 7), m1 = real(mark, 9);
  const qa = m0 * m0 + m1 * m1, qb = m0 * m01 + m1 * m11;
  const inner2: f32 = <f32>1 - <f32>1 / real(mark, 11), full = mul(i16x8.splat(32767), flowK);
  for (let y = y0; y < y1; y++) {
    const dy = <f32>(py + y) + 0.5 - cy;
    const half = halfSpan(mark, dy, qa, qb, 1);
    if (half < 0) continue;
    const middle = cx - <f32>px - (qb * dy) / qa;
    const from = max(x0, whole(middle - half - 0.5) & ~7), to = min(x1, (whole(middle + half + 0.5) + 7) & ~7);
    const rowU = f32x4.splat(dy * m01), rowV = f32x4.splat(dy * m11);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    // Within the rim the whole flow is laid.
    let fullFrom = to, fullTo = to;
    const inside = halfSpan(mark, dy, qa, qb, inner2);
    if (inside > 8) {
      fullFrom = max(from, (whole(max<f32>(-64, min<f32>(128, middle - inside + 1))) + 7) & ~7);
      fullTo = min(to, whole(max<f32>(-64, min<f32>(128, middle + inside - 1))) & ~7);
      if (fullFrom >= fullTo) fullFrom = fullTo = to;
    }
    for (let x = from; x < to; x += 8) {
      if (x == fullFrom) {
        for (; x < fullTo; x += 8)
          accumulate(cov + <usize>(y * COVERAGE_ROW_BYTES + (x << 1)), full, k, noiseRow + <usize>(x << 1));
        if (x >= to) break;
      }
      const dx = f32x4.add(LANES_LOW, f32x4.splat(<f32>(px + x) - cx));
      const dx2 = f32x4.add(dx, four);
      const low = disc(f32x4.add(f32x4.mul(dx, m00), rowU), f32x4.add(f32x4.mul(dx, m10), rowV), inverse, softness);
      const high = disc(f32x4.add(f32x4.mul(dx2, m00), rowU), f32x4.add(f32x4.mul(dx2, m10), rowV), inverse, softness);
      const at = cov + <usize>(y * COVERAGE_ROW_BYTES + (x << 1));
      accumulate(at, mul(fromFloat(low, high), flowK), k, noiseRow + <usize>(x << 1));
    }
  }
}

/**
 * A large soft round disc in 16-bit numbers, eight pixels at a time. The rim (1 − r²)² and
 * the flow are one square: (s − s·r²)² with s = √flow, so that two products a pixel do it
 * all. Goes down columns of eight pixels: a column's stretch is long and found once, where
 * the ends of short rows would cost more than the rows. `scratch`: 128 bytes of this
 * thread's own.
 */
function softDiscFast(
  cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32,
  mark: usize, noise: usize, scratch: usize,
): void {
  const cx = real(mark, 5) - <f32>px, cy = real(mark, 6) - <f32>py, unit = real(mark, 22), outer = real(mark, 11);
  const s = i16x8.splat(<i16>word(mark, 12));
  const k = word(mark, 15);
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6;
  const lanes = fromFloatSteps(unit, i16x8(0, 1, 2, 3, 4, 5, 6, 7));
  const step = whole(unit * 8);
  // s·v² is the same in every column.
  const yFrom = y0 & ~7;
  let v = whole(clampReach((<f32>yFrom + 0.5 - cy) * unit));
  for (let y = yFrom; y < y1; y += 8, v += step) {
    const vs = held16(i16x8.add_sat_s(i16x8.splat(<i16>min(32767, max(-32767, v))), lanes));
    v128.store(scratch + <usize>(y << 1), mul(vs, vs));
  }
  for (let x = x0; x < x1; x += 8) {
    const near = max(<f32>0, max(<f32>x + 0.5 - cx, cx - <f32>x - 7.5));
    const d = outer * outer - near * near;
    if (d <= 0) continue;
    const half = sqrt(d);
    const from = max(y0, whole(cy - half - 0.5)), to = min(y1, whole(cy + half + 0.5));
    const us = held16(i16x8.add_sat_s(i16x8.splat(<i16>whole(clampReach((<f32>x + 0.5 - cx) * unit))), lanes));
    const su = i16x8.sub_sat_s(s, mul(us, us));
    const noiseColumn = noise + <usize>((sx + x) << 1);
    // The noise begins anew somewhere on the way.
    const turn = min(to, max(from, SIDE - sy));
    softColumn(cov, x, from, turn, su, k, noiseColumn + <usize>(sy * NOISE_ROW_BYTES), scratch);
    softColumn(cov, x, turn, to, su, k, noiseColumn + <usize>((sy - SIDE) * NOISE_ROW_BYTES), scratch);
  }
}

// @ts-ignore: decorator
@inline function held16(x: v128): v128 {
  return i16x8.max_s(x, i16x8.splat(-32767));
}

/** Within what an i16 holds, but for −32768: its square differs between the two builds. */
// @ts-ignore: decorator
@inline function clampReach(x: f32): f32 {
  return max(<f32>-32767, min(<f32>32767, x));
}

/** Eight pixels of a faint soft disc: as `accumulate` with k = 8. */
// @ts-ignore: decorator
@inline function soft8(at: usize, su: v128, v2: v128, noise8: v128): void {
  const t = i16x8.max_s(i16x8.sub_sat_s(su, v2), i16x8.splat(0));
  const c = v128.load(at);
  const grown = i16x8.add(mul(complement(c), mul(t, t)), noise8);
  v128.store(at, plus(c, i16x8.shr_s(grown, 8)));
}

// @ts-ignore: decorator
@inline function softColumn(
  cov: usize, x: i32, from: i32, to: i32, su: v128, k: i32, noise: usize, scratch: usize,
): void {
  let at = cov + <usize>(from * COVERAGE_ROW_BYTES + (x << 1));
  const end = cov + <usize>(to * COVERAGE_ROW_BYTES + (x << 1));
  let noiseAt = noise + <usize>(from * NOISE_ROW_BYTES), v2At = scratch + <usize>(from << 1);
  const zero = i16x8.splat(0);
  if (k == 8) {
    for (; at + COVERAGE_ROW_BYTES < end; at += 2 * COVERAGE_ROW_BYTES, noiseAt += 2 * NOISE_ROW_BYTES, v2At += 4) {
      soft8(at, su, v128.load16_splat(v2At), v128.load(noiseAt));
      soft8(at + COVERAGE_ROW_BYTES, su, v128.load16_splat(v2At, 2), v128.load(noiseAt, NOISE_ROW_BYTES));
    }
    if (at < end) soft8(at, su, v128.load16_splat(v2At), v128.load(noiseAt));
  } else {
    for (; at < end; at += COVERAGE_ROW_BYTES, noiseAt += NOISE_ROW_BYTES, v2At += 2) {
      const t = i16x8.max_s(i16x8.sub_sat_s(su, v128.load16_splat(v2At)), zero);
      accumulate(at, mul(t, t), k, noiseAt);
    }
  }
}

// @ts-ignore: decorator
@inline function fromFloatSteps(unit: f32, ramp: v128): v128 {
  const low = f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(ramp)), f32x4.splat(unit));
  const high = f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(ramp)), f32x4.splat(unit));
  const magic = f32x4.splat(12582912.0);
  return v128.shuffle<u16>(f32x4.add(low, magic), f32x4.add(high, magic), 0, 2, 4, 6, 8, 10, 12, 14);
}

/** A disc of pigment that catches the tooth of the paper in memory at `grain`. */
function grainDisc(
  cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32,
  mark: usize, noise: usize, grain: usize, period: i32,
): void {
  const m00 = f32x4.splat(real(mark, 7)), m10 = f32x4.splat(real(mark, 9));
  const inverse = f32x4.splat(real(mark, 11)), softness = f32x4.splat(real(mark, 12));
  const k = word(mark, 15), flowK = i16x8.splat(<i16>word(mark, 16));
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6;
  const cx = real(mark, 5), cy = real(mark, 6);
  const m01 = real(mark, 8), m11 = real(mark, 10);
  const threshold = f32x4.splat(real(mark, 17)), steepness = f32x4.splat(real(mark, 18));
  const slope = f32x4.splat(real(mark, 19));
  const aheadX = <i32>(<i16>word(mark, 20)), aheadY = word(mark, 20) >> 16;
  const four = f32x4.splat(4);
  const m0 = real(mark, 7), m1 = real(mark, 9);
  const qa = m0 * m0 + m1 * m1, qb = m0 * m01 + m1 * m11;
  const band = paperBand(period);
  const ahead = <usize>(aheadY * paperStride(period) + aheadX);
  for (let y = y0; y < y1; y++) {
    const dy = <f32>(py + y) + 0.5 - cy;
    const half = halfSpan(mark, dy, qa, qb, 1);
    if (half < 0) continue;
    const middle = cx - <f32>px - (qb * dy) / qa;
    const from = max(x0, whole(middle - half - 0.5) & ~7), to = min(x1, (whole(middle + half + 0.5) + 7) & ~7);
    const rowU = f32x4.splat(dy * m01), rowV = f32x4.splat(dy * m11);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    for (let x = from; x < to; x += 8) {
      const dx = f32x4.add(LANES_LOW, f32x4.splat(<f32>(px + x) - cx));
      const dx2 = f32x4.add(dx, four);
      const low = disc(f32x4.add(f32x4.mul(dx, m00), rowU), f32x4.add(f32x4.mul(dx, m10), rowV), inverse, softness);
      const high = disc(f32x4.add(f32x4.mul(dx2, m00), rowU), f32x4.add(f32x4.mul(dx2, m10), rowV), inverse, softness);
      const here = paperAt(grain, period, px + x, py + y), there = here + ahead;
      const touchLow = touch(heights(here, band), heights(there, band), slope, threshold, steepness);
      const touchHigh = touch(heights(here + 4, band), heights(there + 4, band), slope, threshold, steepness);
      const mask = fromFloat(f32x4.mul(low, touchLow), f32x4.mul(high, touchHigh));
      const at = cov + <usize>(y * COVERAGE_ROW_BYTES + (x << 1));
      accumulate(at, mul(mask, flowK), k, noiseRow + <usize>(x << 1));
    }
  }
}

/**
 * Coverage of four pixels by a segment whose half-width goes from r0 to r0 + dr: the part
 * of a pixel-wide window across the line that the line fills, which is exact for lines
 * along an axis and keeps its weight below one pixel.
 */
// @ts-ignore: decorator
@inline function segment(x: v128, y: v128, dx: v128, dy: v128, perLength2: v128, r0: v128, dr: v128): v128 {
  const h = clamp01(f32x4.mul(f32x4.add(f32x4.mul(x, dx), f32x4.mul(y, dy)), perLength2));
  const ex = f32x4.sub(x, f32x4.mul(h, dx)), ey = f32x4.sub(y, f32x4.mul(h, dy));
  const d = f32x4.sqrt(f32x4.add(f32x4.mul(ex, ex), f32x4.mul(ey, ey)));
  const r = f32x4.add(r0, f32x4.mul(h, dr));
  const half = f32x4.splat(0.5);
  const filled = f32x4.sub(
    f32x4.pmin(f32x4.add(d, half), r),
    f32x4.pmax(f32x4.sub(d, half), f32x4.neg(r)),
  );
  return clamp01(filled);
}

/** A segment's coverage of four pixels at (rx, ry) from its start. */
// @ts-ignore: decorator
@inline export function segmentPart(mark: usize, rx: v128, ry: v128): v128 {
  return segment(
    rx, ry, f32x4.splat(real(mark, 7)), f32x4.splat(real(mark, 8)), f32x4.splat(real(mark, 9)),
    f32x4.splat(real(mark, 11)), f32x4.splat(real(mark, 12)),
  );
}

/**
 * Area of a pixel beyond a straight edge `x` px from its middle, by the edge's direction: `a` ≥ `b` are the parts
 * of its unit normal. Exact for a straight edge.
 */
// @ts-ignore: decorator
@inline function areaBeyond(x: v128, perA: v128, c: v128, u: v128, perAB: v128): v128 {
  const half = f32x4.splat(0.5), ax = f32x4.abs(x);
  const left = f32x4.pmax(f32x4.sub(u, ax), f32x4.splat(0));
  const corner = f32x4.mul(f32x4.mul(left, left), perAB);
  const middle = f32x4.sub(half, f32x4.mul(ax, perA));
  const area = v128.bitselect(middle, corner, f32x4.le(ax, c));
  return v128.bitselect(f32x4.sub(f32x4.splat(1), area), area, f32x4.lt(x, f32x4.splat(0)));
}

/**
 * Coverage of four pixels by a round cone: the hull of two discs. Its side leans as the discs do, so that a line's
 * shape does not hang on how many pieces it is drawn in; what it covers of a pixel goes by its direction, so that
 * a hair's line holds its ink at any angle.
 */
// @ts-ignore: decorator
@inline function cone(
  x: v128, y: v128, dx: v128, dy: v128, perLength2: v128, lean: v128, r0: v128, dr: v128, acrossX: v128, acrossY: v128,
): v128 {
  const aside = f32x4.abs(f32x4.sub(f32x4.mul(x, dy), f32x4.mul(y, dx)));
  const on = f32x4.add(f32x4.add(f32x4.mul(x, dx), f32x4.mul(y, dy)), f32x4.mul(aside, lean));
  const h = clamp01(f32x4.mul(on, perLength2));
  const ex = f32x4.sub(x, f32x4.mul(h, dx)), ey = f32x4.sub(y, f32x4.mul(h, dy));
  const d = f32x4.sqrt(f32x4.add(f32x4.mul(ex, ex), f32x4.mul(ey, ey)));
  const r = f32x4.add(r0, f32x4.mul(h, dr));
  // In the very middle both edges lie across the line.
  const inMiddle = f32x4.lt(d, f32x4.splat(<f32>0.002));
  const perD = f32x4.div(f32x4.splat(1), f32x4.pmax(d, f32x4.splat(<f32>1e-6)));
  const nx = v128.bitselect(acrossX, f32x4.abs(f32x4.mul(ex, perD)), inMiddle);
  const ny = v128.bitselect(acrossY, f32x4.abs(f32x4.mul(ey, perD)), inMiddle);
  const a = f32x4.pmax(f32x4.pmax(nx, ny), f32x4.splat(<f32>0.7)), b = f32x4.pmax(f32x4.pmin(nx, ny), f32x4.splat(<f32>1e-5));
  const half = f32x4.splat(0.5), perA = f32x4.div(f32x4.splat(1), a);
  const c = f32x4.mul(f32x4.sub(a, b), half), u = f32x4.mul(f32x4.add(a, b), half);
  const perAB = f32x4.div(f32x4.mul(perA, half), b);
  return clamp01(f32x4.sub(
    areaBeyond(f32x4.sub(d, r), perA, c, u, perAB),
    areaBeyond(f32x4.add(d, r), perA, c, u, perAB),
  ));
}

/** A span's ends as px of a tile. */
// @ts-ignore: decorator
@inline function inTile(x: f32): i32 {
  return whole(max<f32>(-64, min<f32>(128, x)));
}

/**
 * Pixels from…to−1 of one row of a segment. Where the line is wider than the pixels are far
 * from its middle the coverage is its flow, and nothing has to be worked out.
 */
function segmentStretch(row: usize, px: i32, from: i32, to: i32, mark: usize, ry: f32): void {
  if (word(mark, 0) == CONE) return coneStretch(row, px, from, to, mark, ry);
  const dx = f32x4.splat(real(mark, 7)), dy = f32x4.splat(real(mark, 8));
  const perLength2 = f32x4.splat(real(mark, 9));
  const r0 = f32x4.splat(real(mark, 11)), dr = f32x4.splat(real(mark, 12));
  const flow = f32x4.splat(real(mark, 13)), cx = real(mark, 5);
  const four = f32x4.splat(4), below = f32x4.splat(ry);
  for (let x = from; x < to; x += 8) {
    const rx = f32x4.add(LANES_LOW, f32x4.splat(<f32>(px + x) - cx));
    const low = f32x4.mul(segment(rx, below, dx, dy, perLength2, r0, dr), flow);
    const high = f32x4.mul(segment(f32x4.add(rx, four), below, dx, dy, perLength2, r0, dr), flow);
    const at = row + <usize>(x << 1);
    v128.store(at, i16x8.max_s(v128.load(at), fromFloat(low, high)));
  }
}

function coneStretch(row: usize, px: i32, from: i32, to: i32, mark: usize, ry: f32): void {
  const dx = f32x4.splat(real(mark, 7)), dy = f32x4.splat(real(mark, 8));
  const perLength2 = f32x4.splat(real(mark, 9)), lean = f32x4.splat(real(mark, 10));
  const r0 = f32x4.splat(real(mark, 11)), dr = f32x4.splat(real(mark, 12));
  const flow = f32x4.splat(real(mark, 13)), cx = real(mark, 5);
  const four = f32x4.splat(4), below = f32x4.splat(ry);
  const square = real(mark, 9), perLength: f32 = square > 0 ? sqrt<f32>(square) : 0;
  const acrossX = f32x4.splat(square > 0 ? abs<f32>(real(mark, 8)) * perLength : 1);
  const acrossY = f32x4.splat(abs<f32>(real(mark, 7)) * perLength);
  for (let x = from; x < to; x += 8) {
    const rx = f32x4.add(LANES_LOW, f32x4.splat(<f32>(px + x) - cx));
    const low = f32x4.mul(cone(rx, below, dx, dy, perLength2, lean, r0, dr, acrossX, acrossY), flow);
    const high = f32x4.mul(cone(f32x4.add(rx, four), below, dx, dy, perLength2, lean, r0, dr, acrossX, acrossY), flow);
    const at = row + <usize>(x << 1);
    v128.store(at, i16x8.max_s(v128.load(at), fromFloat(low, high)));
  }
}

function taperedSegment(cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32, mark: usize): void {
  const r0 = real(mark, 11), least = min<f32>(r0, r0 + real(mark, 12)) - 1.5;
  const square = real(mark, 9), perLength: f32 = square > 0 ? sqrt<f32>(square) : 0;
  const flow = f32x4.splat(real(mark, 13)), full = fromFloat(flow, flow);
  if (segmentMisses(mark, px, py)) return;
  if (segmentFills(mark, px, py, x0, y0, x1, y1)) {
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x += 8) {
        const at = cov + <usize>(y * COVERAGE_ROW_BYTES + (x << 1));
        v128.store(at, i16x8.max_s(v128.load(at), full));
      }
    return;
  }
  const cx = real(mark, 5) - <f32>px;
  for (let y = y0; y < y1; y++) {
    const ry = <f32>(py + y) + 0.5 - real(mark, 6);
    segmentSpan(mark, px, py + y);
    const from = max(x0, inTile(spanFrom - 0.5) & ~7), to = min(x1, (inTile(spanTo + 0.5) + 7) & ~7);
    if (from >= to) continue;
    const row = cov + <usize>(y * COVERAGE_ROW_BYTES);
    let fullFrom = to, fullTo = to;
    if (least > 0) {
      capsuleSpan(real(mark, 7), real(mark, 8), perLength, ry, least);
      fullFrom = max(from, (inTile(spanFrom + cx + 0.5) + 7) & ~7);
      fullTo = min(to, inTile(spanTo + cx - 0.5) & ~7);
      if (fullFrom >= fullTo) fullFrom = fullTo = to;
    }
    segmentStretch(row, px, from, fullFrom, mark, ry);
    for (let x = fullFrom; x < fullTo; x += 8) {
      const at = row + <usize>(x << 1);
      v128.store(at, i16x8.max_s(v128.load(at), full));
    }
    segmentStretch(row, px, fullTo, to, mark, ry);
  }
}

/**
 * Lays `count` marks, in order, into the coverage tile whose top left pixel is (px, py).
 * Marks that miss the tile cost a comparison.
 */
export function layMarks(
  cov: usize, px: i32, py: i32, marks: usize, count: i32, noise: usize, grain: usize, period: i32,
  scratch: usize,
): void {
  for (let i = 0; i < count; i++) {
    const mark = marks + <usize>(i * MARK_BYTES);
    const left = max(word(mark, 1) - px, 0), top = max(word(mark, 2) - py, 0);
    const right = min(word(mark, 3) - px, SIDE), bottom = min(word(mark, 4) - py, SIDE);
    if (left >= right || top >= bottom) continue;
    const x0 = left & ~7, x1 = (right + 7) & ~7;
    const kind = word(mark, 0);
    if (kind == CONE) taperedSegment(cov, px, py, x0, top, x1, bottom, mark);
    else if (kind > 2 || (kind == 2 && word(mark, 21)))
      coverByRows(cov, px, py, x0, top, x1, bottom, mark, noise, grain, period, scratch);
    else if (kind == 2) taperedSegment(cov, px, py, x0, top, x1, bottom, mark);
    else if (kind == 1) grainDisc(cov, px, py, x0, top, x1, bottom, mark, noise, grain, period);
    else if (word(mark, 21)) softDiscFast(cov, px, py, x0, top, x1, bottom, mark, noise, scratch);
    else softDisc(cov, px, py, x0, top, x1, bottom, mark, noise);
  }
}
