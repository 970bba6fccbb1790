import { COVERAGE_ROW_BYTES, NOISE_ROW_BYTES } from "./layout";
import { accumulate, disc, real, segmentPart, whole, word } from "./mark";
import { clamp01, fromFloat, mul } from "./q15";
import { chordSpan, discSpan, segmentSpan, spanFrom, spanTo, stampSpan } from "./span";
import { grainPart } from "./grain";

/**
 * One row of a mark at a time, into rows of 64 Q15 numbers: what every kind of mark shares
 * when it is laid with colours of its own, drags what it crosses, or has a picture for a tip.
 *
 *   row 0  coverage · row 1  tone × coverage (two-tone) or red · row 2  green · row 3  blue
 */
export const ROW: usize = 128;
export const DISC: i32 = 0;
export const GRAIN_DISC: i32 = 1;
export const SEGMENT: i32 = 2;
export const STAMP: i32 = 3;
export const STAMP_TONES: i32 = 4;
export const STAMP_COLOURS: i32 = 5;
export const CHORD: i32 = 6;

const LANES = f32x4(0.5, 1.5, 2.5, 3.5);
/** Farther than any picture is wide, 16ths of a px. */
const FAR: i64 = 1000000000;
/** A tip whose columns change by less than this a pixel lies along the row. */
const ALONG_ROW: f32 = 0.0001;
/** Room past the rows and past the word that admits a helper: eight numbers on their way, and constants. */
const SPARE: usize = 640;
/** How far short of a tip's edge a sample is held: a 64th of a texel in 16.16. */
const INSIDE: i32 = 1024;

/**
 * First and one past the last pixel (multiples of eight) of a tile's row that a mark can reach,
 * within x0…x1: the first is returned, the end is left in `rowEnd`. Nothing where they meet.
 */
export let rowEnd: i32 = 0;

export function rowStart(mark: usize, kind: i32, px: i32, y: i32, x0: i32, x1: i32): i32 {
  if (kind <= GRAIN_DISC) discSpan(mark, px, y);
  else if (kind == SEGMENT) segmentSpan(mark, px, y);
  else if (kind == CHORD) chordSpan(mark, px, y);
  else stampSpan(mark, px, y);
  rowEnd = min(x1, (whole(max<f32>(-64, min<f32>(128, spanTo + 0.5))) + 7) & ~7);
  return max(x0, whole(max<f32>(-64, min<f32>(128, spanFrom - 0.5))) & ~7);
}

/** Fills the rows of one mark for pixels from…to−1 of the picture's row y. */
export function markRow(
  mark: usize, kind: i32, px: i32, y: i32, from: i32, to: i32, rows: usize, grain: usize, period: i32,
): void {
  if (kind <= GRAIN_DISC) discRow(mark, px, y, from, to, rows);
  else if (kind == SEGMENT) segmentRow(mark, px, y, from, to, rows);
  else if (kind == CHORD) chordRow(mark, px, y, from, to, rows);
  else stampRow(mark, kind, px, y, from, to, rows);
  if (word(mark, 34)) grainRow(mark, kind, px, y, from, to, rows, grain, period);
}

function discRow(mark: usize, px: i32, y: i32, from: i32, to: i32, rows: usize): void {
  const m00 = f32x4.splat(real(mark, 7)), m10 = f32x4.splat(real(mark, 9));
  const inverse = f32x4.splat(real(mark, 11)), softness = f32x4.splat(real(mark, 12));
  const dy = <f32>y + 0.5 - real(mark, 6), cx = real(mark, 5);
  const rowU = f32x4.splat(dy * real(mark, 8)), rowV = f32x4.splat(dy * real(mark, 10));
  const four = f32x4.splat(4);
  for (let x = from; x < to; x += 8) {
    const dx = f32x4.add(LANES, f32x4.splat(<f32>(px + x) - cx)), dx2 = f32x4.add(dx, four);
    const low = disc(f32x4.add(f32x4.mul(dx, m00), rowU), f32x4.add(f32x4.mul(dx, m10), rowV), inverse, softness);
    const high = disc(f32x4.add(f32x4.mul(dx2, m00), rowU), f32x4.add(f32x4.mul(dx2, m10), rowV), inverse, softness);
    v128.store(rows + <usize>(x << 1), fromFloat(low, high));
  }
}

function segmentRow(mark: usize, px: i32, y: i32, from: i32, to: i32, rows: usize): void {
  const four = f32x4.splat(4);
  const ry = f32x4.splat(<f32>y + 0.5 - real(mark, 6));
  for (let x = from; x < to; x += 8) {
    const rx = f32x4.add(LANES, f32x4.splat(<f32>(px + x) - real(mark, 5)));
    v128.store(rows + <usize>(x << 1), fromFloat(segmentPart(mark, rx, ry), segmentPart(mark, f32x4.add(rx, four), ry)));
  }
}

/** Rows × how far each pixel's paper is touched. */
function grainRow(
  mark: usize, kind: i32, px: i32, y: i32, from: i32, to: i32, rows: usize, grain: usize, period: i32,
): void {
  const count: usize = kind == STAMP_TONES ? 2 : kind == STAMP_COLOURS ? 4 : 1;
  for (let x = from; x < to; x += 8) {
    const touched = grainPart(mark, px + x, y, grain, period);
    const at = rows + <usize>(x << 1);
    for (let r: usize = 0; r < count; r++) v128.store(at + r * ROW, mul(v128.load(at + r * ROW), touched));
  }
}

/** Texel coordinates are kept in 16.16 fixed point. */
const UNIT: f32 = 65536.0;

// @ts-ignore: decorator
@inline function fixed(x: f32): i32 {
  // Held as a whole number: comparing floats costs several times as much.
  return <i32>max<i64>(-2000000000, min<i64>(2000000000, <i64>(x * UNIT)));
}

/** Four floats as 16.16, held to 0…most on the way. */
// @ts-ignore: decorator
@inline function fixed4(x: v128, most: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.pmin(f32x4.pmax(x, f32x4.splat(0)), most), f32x4.splat(UNIT)));
}

// @ts-ignore: decorator
@inline function held(x: v128, most: v128): v128 {
  return i32x4.max_s(i32x4.min_s(x, most), i32x4.splat(0));
}

/** Byte offsets of four texels' corners: (row · columns + column) · 8, by one product of pairs. */
// @ts-ignore: decorator
@inline function cornersAt(u: v128, v: v128, stride: v128, whole: v128): v128 {
  const pairs = v128.or(v128.and(v, whole), i32x4.shr_u(u, 16));
  return i32x4.shl(i32x4.dot_i16x8_s(pairs, stride), 3);
}

/** The parts behind the point, Q15. */
// @ts-ignore: decorator
@inline function parts(low: v128, high: v128, whole: v128): v128 {
  return i16x8.narrow_i32x4_s(i32x4.shr_u(v128.andnot(low, whole), 1), i32x4.shr_u(v128.andnot(high, whole), 1));
}

/** Eight samples of one plane: where the corners' offsets lie, and the corners' weights pixel by pixel. */
// @ts-ignore: decorator
@inline function quads(plane: usize, offsets: usize, half: v128, w01: v128, w23: v128, w45: v128, w67: v128): v128 {
  const a = i32x4.dot_i16x8_s(pair(plane, load<i32>(offsets, 0), load<i32>(offsets, 4)), w01);
  const b = i32x4.dot_i16x8_s(pair(plane, load<i32>(offsets, 8), load<i32>(offsets, 12)), w23);
  const c = i32x4.dot_i16x8_s(pair(plane, load<i32>(offsets, 16), load<i32>(offsets, 20)), w45);
  const d = i32x4.dot_i16x8_s(pair(plane, load<i32>(offsets, 24), load<i32>(offsets, 28)), w67);
  const l = i32x4.add(v128.shuffle<u32>(a, b, 0, 2, 4, 6), v128.shuffle<u32>(a, b, 1, 3, 5, 7));
  const h = i32x4.add(v128.shuffle<u32>(c, d, 0, 2, 4, 6), v128.shuffle<u32>(c, d, 1, 3, 5, 7));
  return i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(l, half), 15), i32x4.shr_s(i32x4.add(h, half), 15));
}

// @ts-ignore: decorator
@inline function pair(plane: usize, first: i32, second: i32): v128 {
  return v128.load64_lane(plane + <usize>second, v128.load64_zero(plane + <usize>first), 1);
}

/** Lays numbers that every sample needs where a load finds them, which is sooner than making them anew. */
function layConstants(spare: usize): void {
  v128.store(spare, i32x4.splat(-65536), 32);
  v128.store(spare, i32x4.splat(16384), 48);
  v128.store(spare, i16x8.splat(32767), 64);
}

/**
 * A picture for a tip, between its texels (Q15). The tip is kept as its corners: for each
 * place between four texels the four of them, eight bytes, so that a sample is one load.
 * u, v: columns and rows in 16.16, within the tip; `stride`: 1 and its columns, in pairs.
 */
// @ts-ignore: decorator
@inline function sampleTip(
  tip: usize, stride: v128, planes: i32, planeBytes: i32, u: v128, v: v128, u2: v128, v2: v128, at: usize, spare: usize,
): void {
  const whole = v128.load(spare, 32), half = v128.load(spare, 48);
  // Through memory: to load eight numbers is less work than to take eight lanes apart.
  v128.store(spare, cornersAt(u, v, stride, whole));
  v128.store(spare, cornersAt(u2, v2, stride, whole), 16);
  const fx = parts(u, u2, whole), fy = parts(v, v2, whole);
  const w11 = mul(fx, fy), w10 = i16x8.sub(fx, w11), w01 = i16x8.sub(fy, w11);
  const w00 = i16x8.sub(i16x8.sub(v128.load(spare, 64), fx), w01);
  const topLow = v128.shuffle<u16>(w00, w10, 0, 8, 1, 9, 2, 10, 3, 11);
  const topHigh = v128.shuffle<u16>(w00, w10, 4, 12, 5, 13, 6, 14, 7, 15);
  const bottomLow = v128.shuffle<u16>(w01, w11, 0, 8, 1, 9, 2, 10, 3, 11);
  const bottomHigh = v128.shuffle<u16>(w01, w11, 4, 12, 5, 13, 6, 14, 7, 15);
  const a = v128.shuffle<u32>(topLow, bottomLow, 0, 4, 1, 5), b = v128.shuffle<u32>(topLow, bottomLow, 2, 6, 3, 7);
  const c = v128.shuffle<u32>(topHigh, bottomHigh, 0, 4, 1, 5), d = v128.shuffle<u32>(topHigh, bottomHigh, 2, 6, 3, 7);
  v128.store(at, quads(tip, spare, half, a, b, c, d));
  for (let p = 1; p < planes; p++)
    v128.store(at + <usize>p * ROW, quads(tip + <usize>(p * planeBytes), spare, half, a, b, c, d));
}

// @ts-ignore: decorator
@inline function planesOf(kind: i32): i32 {
  return kind == STAMP_TONES ? 2 : kind == STAMP_COLOURS ? 4 : 1;
}

function stampRow(mark: usize, kind: i32, px: i32, y: i32, from: i32, to: i32, rows: usize): void {
  const tip = <usize>word(mark, 23), columns = word(mark, 24), tipRows = word(mark, 25), planeBytes = word(mark, 26);
  layConstants(rows + SPARE);
  const t00 = real(mark, 27), t10 = real(mark, 29);
  const dx = <f32>(px + from) + 0.5 - real(mark, 5), dy = <f32>y + 0.5 - real(mark, 6);
  const du = fixed(t00), dv = fixed(t10);
  const lanes = i32x4(0, 1, 2, 3);
  const duLanes = i32x4.mul(lanes, i32x4.splat(du)), dvLanes = i32x4.mul(lanes, i32x4.splat(dv));
  const du4 = i32x4.splat(du << 2), dv4 = i32x4.splat(dv << 2);
  const mostU = i32x4.splat((columns << 16) - INSIDE), mostV = i32x4.splat((tipRows << 16) - INSIDE);
  const stride = i32x4.splat((columns << 16) | 1);
  let u = i32x4.add(i32x4.splat(fixed(t00 * dx + real(mark, 28) * dy + <f32>columns * 0.5)), duLanes);
  let v = i32x4.add(i32x4.splat(fixed(t10 * dx + real(mark, 30) * dy + <f32>tipRows * 0.5)), dvLanes);
  const planes = planesOf(kind);
  for (let x = from; x < to; x += 8) {
    const u2 = i32x4.add(u, du4), v2 = i32x4.add(v, dv4);
    sampleTip(
      tip, stride, planes, planeBytes, held(u, mostU), held(v, mostV), held(u2, mostU), held(v2, mostV),
      rows + <usize>(x << 1), rows + SPARE,
    );
    u = i32x4.add(u2, du4);
    v = i32x4.add(v2, dv4);
  }
}

/** 16ths of a px, held so that two of them can be added. */
// @ts-ignore: decorator
@inline function sixteenths(x: f32): i32 {
  return <i32>max<i64>(-FAR, min<i64>(FAR, <i64>(x * 16)));
}

/** How far the strip |step · dx| ≤ half reaches, 16ths of a px; all the way where it runs along the row. */
// @ts-ignore: decorator
@inline function stripReach(step: f32, half: f32): i32 {
  return abs<f32>(step) < ALONG_ROW ? <i32>FAR : sixteenths(half / abs<f32>(step)) + 16;
}

/** Whether |a·x + b·y| stays a texel within `half` in a whole box. */
// @ts-ignore: decorator
@inline function cornersWithin(a: f32, b: f32, x0: f32, x1: f32, y0: f32, y1: f32, half: f32): bool {
  const x = max<f32>(abs<f32>(x0), abs<f32>(x1)), y = max<f32>(abs<f32>(y0), abs<f32>(y1));
  return abs<f32>(a) * x + abs<f32>(b) * y < half - 1;
}

/**
 * A mark with a picture for a tip into a coverage tile: the plain case, without grain or
 * colours, which great tips are held up by. Of every row only what lies within the turned
 * tip is gone through; whatever is the same for all rows is found once.
 */
export function coverStamp(
  cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32, mark: usize, noise: usize, scratch: usize,
): void {
  const tip = <usize>word(mark, 23), columns = word(mark, 24), tipRows = word(mark, 25);
  layConstants(scratch + SPARE);
  const t00 = real(mark, 27), t01 = real(mark, 28), t10 = real(mark, 29), t11 = real(mark, 30);
  const k = word(mark, 15), flowK = i16x8.splat(<i16>word(mark, 16)), builds = word(mark, 21) != 0;
  const flow = builds ? flowK : i16x8.splat(<i16>(real(mark, 13) * <f32>32767.0));
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6;
  const halfU = <f32>columns * 0.5, halfV = <f32>tipRows * 0.5;
  const perU: f32 = abs<f32>(t00) < ALONG_ROW ? 0 : 1 / t00, perV: f32 = abs<f32>(t10) < ALONG_ROW ? 0 : 1 / t10;
  const reachU = stripReach(t00, halfU), reachV = stripReach(t10, halfV);
  const du = fixed(t00), dv = fixed(t10), lanes = i32x4(0, 1, 2, 3);
  const duLanes = i32x4.mul(lanes, i32x4.splat(du)), dvLanes = i32x4.mul(lanes, i32x4.splat(dv));
  const du4 = i32x4.splat(du << 2), dv4 = i32x4.splat(dv << 2);
  const mostU = i32x4.splat((columns << 16) - INSIDE), mostV = i32x4.splat((tipRows << 16) - INSIDE);
  const stride = i32x4.splat((columns << 16) | 1);
  const centre = sixteenths(real(mark, 5) - <f32>px);
  const ax = <f32>(px + x0) - 1 - real(mark, 5), bx = <f32>(px + x1) + 8 - real(mark, 5);
  const ay = <f32>(py + y0) - 1 - real(mark, 6), by = <f32>(py + y1) + 1 - real(mark, 6);
  const inside = cornersWithin(t00, t01, ax, bx, ay, by, halfU) && cornersWithin(t10, t11, ax, bx, ay, by, halfV);
  for (let y = y0; y < y1; y++) {
    const dy = <f32>(py + y) + 0.5 - real(mark, 6);
    const middleU = centre + sixteenths(-t01 * dy * perU), middleV = centre + sixteenths(-t11 * dy * perV);
    const from = max(x0, (max(middleU - reachU, middleV - reachV) >> 4) & ~7);
    const to = min(x1, ((min(middleU + reachU, middleV + reachV) >> 4) + 8) & ~7);
    const dx = <f32>(px + from) + 0.5 - real(mark, 5);
    let u = i32x4.add(i32x4.splat(fixed(t00 * dx + t01 * dy + halfU)), duLanes);
    let v = i32x4.add(i32x4.splat(fixed(t10 * dx + t11 * dy + halfV)), dvLanes);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    const row = cov + <usize>(y * COVERAGE_ROW_BYTES);
    for (let x = from; x < to; x += 8) {
      const u2 = i32x4.add(u, du4), v2 = i32x4.add(v, dv4), at = row + <usize>(x << 1);
      if (inside) sampleTip(tip, stride, 1, 0, u, v, u2, v2, scratch, scratch + SPARE);
      else sampleTip(tip, stride, 1, 0, held(u, mostU), held(v, mostV), held(u2, mostU), held(v2, mostV), scratch, scratch + SPARE);
      const a = mul(v128.load(scratch), flow);
      if (builds) accumulate(at, a, k, noiseRow + <usize>(x << 1));
      else v128.store(at, i16x8.max_s(v128.load(at), a));
      u = i32x4.add(u2, du4);
      v = i32x4.add(v2, dv4);
    }
  }
}

/**
 * A chord of a line that is bounded by the bisectors of its joints, so that the chords of a
 * line meet without a gap and without lying over each other. Without a tip: a clean line
 * with an edge one pixel wide. With one: the tip's columns lie along the line (between the
 * shares in words 27 and 29), its rows across.
 */
function chordRow(mark: usize, px: i32, y: i32, from: i32, to: i32, rows: usize): void {
  const cx = real(mark, 5), ry = f32x4.splat(<f32>y + 0.5 - real(mark, 6));
  layConstants(rows + SPARE);
  for (let x = from; x < to; x += 8) {
    const rx = f32x4.add(LANES, f32x4.splat(<f32>(px + x) - cx));
    chord8(mark, rx, f32x4.add(rx, f32x4.splat(4)), ry, rows + <usize>(x << 1), rows + SPARE);
  }
}

/** How far along its chord a pixel lies, 0…1, outside where it belongs to another. */
// @ts-ignore: decorator
@inline function along(mark: usize, rx: v128, ry: v128): v128 {
  const dx = f32x4.splat(real(mark, 7)), dy = f32x4.splat(real(mark, 8));
  const d0 = f32x4.add(f32x4.mul(rx, f32x4.splat(real(mark, 36))), f32x4.mul(ry, f32x4.splat(real(mark, 37))));
  const ex = f32x4.sub(dx, rx), ey = f32x4.sub(dy, ry);
  const d1 = f32x4.add(f32x4.mul(ex, f32x4.splat(real(mark, 38))), f32x4.mul(ey, f32x4.splat(real(mark, 39))));
  const inside = v128.and(f32x4.ge(d0, f32x4.splat(0)), f32x4.gt(d1, f32x4.splat(0)));
  const h = f32x4.div(d0, f32x4.add(d0, d1));
  return v128.bitselect(h, f32x4.splat(-1), inside);
}

/** Signed distance from the chord's line, px. */
// @ts-ignore: decorator
@inline function across(mark: usize, rx: v128, ry: v128): v128 {
  const scale = real(mark, 9);
  return f32x4.sub(f32x4.mul(ry, f32x4.splat(real(mark, 7) * scale)), f32x4.mul(rx, f32x4.splat(real(mark, 8) * scale)));
}

// @ts-ignore: decorator
@inline function cleanPart(mark: usize, h: v128, e: v128): v128 {
  const r = f32x4.add(f32x4.splat(real(mark, 11)), f32x4.mul(h, f32x4.splat(real(mark, 12))));
  const half = f32x4.splat(0.5), d = f32x4.abs(e);
  const filled = clamp01(f32x4.sub(f32x4.pmin(f32x4.add(d, half), r), f32x4.pmax(f32x4.sub(d, half), f32x4.neg(r))));
  return v128.and(filled, f32x4.ge(h, f32x4.splat(0)));
}

function chord8(mark: usize, rx: v128, rx2: v128, ry: v128, at: usize, spare: usize): void {
  const h = along(mark, rx, ry), h2 = along(mark, rx2, ry);
  const e = across(mark, rx, ry), e2 = across(mark, rx2, ry);
  const reach = f32x4.splat(max(real(mark, 11), real(mark, 11) + real(mark, 12)) + 1), none = f32x4.splat(0);
  const near = v128.or(
    v128.and(f32x4.ge(h, none), f32x4.lt(f32x4.abs(e), reach)),
    v128.and(f32x4.ge(h2, none), f32x4.lt(f32x4.abs(e2), reach)),
  );
  const tip = <usize>word(mark, 23);
  // Most of a piece's box is not the piece.
  if (!v128.any_true(near)) {
    const kinds: usize = tip ? <usize>planesOf(word(mark, 35)) : 1;
    for (let p: usize = 0; p < kinds; p++) v128.store(at + p * ROW, i16x8.splat(0));
    return;
  }
  if (!tip) {
    v128.store(at, fromFloat(cleanPart(mark, h, e), cleanPart(mark, h2, e2)));
    return;
  }
  const columns = word(mark, 24), tipRows = word(mark, 25);
  const u0 = f32x4.splat(real(mark, 27)), du = f32x4.splat(real(mark, 28));
  const r0 = f32x4.splat(real(mark, 11)), dr = f32x4.splat(real(mark, 12));
  const zero = f32x4.splat(0), edge: f32 = 1.0 / 64.0;
  const mostU = f32x4.splat(<f32>columns - edge), mostV = f32x4.splat(<f32>tipRows - edge);
  const middle = f32x4.splat(<f32>tipRows * 0.5), tiny = f32x4.splat(<f32>0.01);
  const v = f32x4.add(middle, f32x4.mul(f32x4.div(e, f32x4.pmax(tiny, f32x4.add(r0, f32x4.mul(h, dr)))), middle));
  const v2 = f32x4.add(middle, f32x4.mul(f32x4.div(e2, f32x4.pmax(tiny, f32x4.add(r0, f32x4.mul(h2, dr)))), middle));
  const planes = planesOf(word(mark, 35));
  sampleTip(
    tip, i32x4.splat((columns << 16) | 1), planes, word(mark, 26),
    fixed4(f32x4.add(u0, f32x4.mul(h, du)), mostU), fixed4(v, mostV),
    fixed4(f32x4.add(u0, f32x4.mul(h2, du)), mostU), fixed4(v2, mostV), at, spare,
  );
  // What belongs to another chord gets nothing of this one.
  const low = f32x4.ge(h, zero), high = f32x4.ge(h2, zero);
  const mine = i16x8.narrow_i32x4_s(low, high);
  for (let p: usize = 0; p < <usize>planes; p++) v128.store(at + p * ROW, v128.and(v128.load(at + p * ROW), mine));
}
