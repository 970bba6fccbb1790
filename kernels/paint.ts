import { BLOCK_BYTES, COVERAGE_ROW_BYTES, NOISE_ROW_BYTES, ROW_BYTES, SIDE } from "./layout";
import { accumulate, MARK_BYTES, real, word } from "./mark";
import { complement, mul, plus } from "./q15";
import {
  CHORD, coverStamp, markRow, ROW, rowEnd, rowStart, SEGMENT, STAMP, STAMP_COLOURS, STAMP_TONES,
} from "./rows";
import { chordMisses, segmentMisses } from "./span";

/**
 * Lays `count` marks, in order, with colours of their own into a paint tile: premultiplied
 * pixels, laid out as a layer's, each mark over those before it.
 */
export function paintMarks(
  paint: usize, px: i32, py: i32, marks: usize, count: i32, noise: usize, grain: usize, period: i32, scratch: usize,
): void {
  for (let i = 0; i < count; i++) {
    const mark = marks + <usize>(i * MARK_BYTES);
    const left = max(word(mark, 1) - px, 0), top = max(word(mark, 2) - py, 0);
    const right = min(word(mark, 3) - px, SIDE), bottom = min(word(mark, 4) - py, SIDE);
    if (left >= right || top >= bottom) continue;
    paintMark(paint, px, py, left & ~7, top, (right + 7) & ~7, bottom, mark, noise, grain, period, scratch);
  }
}

/** Whether a mark's box reaches a tile that the mark itself does not. */
// @ts-ignore: decorator
@inline function misses(mark: usize, kind: i32, px: i32, py: i32): bool {
  if (kind == CHORD) return chordMisses(mark, px, py);
  return kind == SEGMENT && segmentMisses(mark, px, py);
}

function paintMark(
  paint: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32,
  mark: usize, noise: usize, grain: usize, period: i32, scratch: usize,
): void {
  const kind = word(mark, 0), k = word(mark, 15), flow = i16x8.splat(<i16>word(mark, 16));
  if (misses(mark, kind, px, py)) return;
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6;
  const r = i16x8.splat(<i16>word(mark, 40)), g = i16x8.splat(<i16>word(mark, 41)), b = i16x8.splat(<i16>word(mark, 42));
  const r2 = i16x8.splat(<i16>word(mark, 43)), g2 = i16x8.splat(<i16>word(mark, 44)), b2 = i16x8.splat(<i16>word(mark, 45));
  const tones = word(mark, 35) == STAMP_TONES, colours = word(mark, 35) == STAMP_COLOURS;
  for (let y = y0; y < y1; y++) {
    const from = rowStart(mark, kind, px, py + y, x0, x1), to = rowEnd;
    if (from >= to) continue;
    markRow(mark, kind, px, py + y, from, to, scratch, grain, period);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    for (let x = from; x < to; x += 8) {
      const at = paint + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const row = scratch + <usize>(x << 1);
      const a = v128.load(row);
      if (!v128.any_true(a)) continue;
      const n = noise8(noiseRow + <usize>(x << 1), k);
      const alpha = over(v128.load(at, 48), a, a, flow, k, n);
      if (colours) {
        v128.store(at, i16x8.min_s(over(v128.load(at), v128.load(row + ROW), a, flow, k, n), alpha));
        v128.store(at, i16x8.min_s(over(v128.load(at, 16), v128.load(row + 2 * ROW), a, flow, k, n), alpha), 16);
        v128.store(at, i16x8.min_s(over(v128.load(at, 32), v128.load(row + 3 * ROW), a, flow, k, n), alpha), 32);
      } else if (tones) {
        const light = i16x8.min_s(v128.load(row + ROW), a), dark = i16x8.sub(a, light);
        v128.store(at, i16x8.min_s(over(v128.load(at), plus(mul(r, dark), mul(r2, light)), a, flow, k, n), alpha));
        v128.store(at, i16x8.min_s(over(v128.load(at, 16), plus(mul(g, dark), mul(g2, light)), a, flow, k, n), alpha), 16);
        v128.store(at, i16x8.min_s(over(v128.load(at, 32), plus(mul(b, dark), mul(b2, light)), a, flow, k, n), alpha), 32);
      } else {
        v128.store(at, i16x8.min_s(over(v128.load(at), mul(r, a), a, flow, k, n), alpha));
        v128.store(at, i16x8.min_s(over(v128.load(at, 16), mul(g, a), a, flow, k, n), alpha), 16);
        v128.store(at, i16x8.min_s(over(v128.load(at, 32), mul(b, a), a, flow, k, n), alpha), 32);
      }
      v128.store(at, alpha, 48);
    }
  }
}

// @ts-ignore: decorator
@inline function noise8(at: usize, k: i32): v128 {
  if (k == 8) return v128.load(at);
  if (k == 4) return i16x8.shr_u(v128.load(at), 4);
  return i16x8.splat(0);
}

/** p + (source − p · a) · flow, kept at k more bits while it is rounded. */
// @ts-ignore: decorator
@inline function over(p: v128, source: v128, a: v128, flow: v128, k: i32, noise: v128): v128 {
  let grown = i16x8.add(mul(i16x8.sub(source, mul(p, a)), flow), noise);
  if (k == 8) grown = i16x8.shr_s(grown, 8);
  else if (k == 4) grown = i16x8.shr_s(grown, 4);
  return i16x8.max_s(plus(p, grown), i16x8.splat(0));
}

/** One mark of any kind into a coverage tile, row by row: it builds up, or the larger stays. */
export function coverByRows(
  cov: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32,
  mark: usize, noise: usize, grain: usize, period: i32, scratch: usize,
): void {
  const kind = word(mark, 0), k = word(mark, 15), flowK = i16x8.splat(<i16>word(mark, 16));
  if (misses(mark, kind, px, py)) return;
  if (kind == STAMP && !word(mark, 34)) {
    coverStamp(cov, px, py, x0, y0, x1, y1, mark, noise, scratch);
    return;
  }
  const flow = i16x8.splat(<i16>(real(mark, 13) * <f32>32767.0));
  const shift = word(mark, 14), sx = shift & 63, sy = shift >> 6, builds = word(mark, 21);
  for (let y = y0; y < y1; y++) {
    const from = rowStart(mark, kind, px, py + y, x0, x1), to = rowEnd;
    if (from >= to) continue;
    markRow(mark, kind, px, py + y, from, to, scratch, grain, period);
    const noiseRow = noise + <usize>(((y + sy) & 63) * NOISE_ROW_BYTES + (sx << 1));
    for (let x = from; x < to; x += 8) {
      const at = cov + <usize>(y * COVERAGE_ROW_BYTES + (x << 1));
      const a = v128.load(scratch + <usize>(x << 1));
      if (builds) accumulate(at, mul(a, flowK), k, noiseRow + <usize>(x << 1));
      else v128.store(at, i16x8.max_s(v128.load(at), mul(a, flow)));
    }
  }
}

/** How an overtip's coverage b changes the first tip's a. */
const MULTIPLY: i32 = 0;
const DODGE: i32 = 1;
const SUBTRACT: i32 = 2;

/**
 * The share of a stroke's paint that is left by its overtip, one Q15 number a pixel:
 * multiply a·b, dodge a / (1 − b), subtract a − b, darken the lesser. For coverage the
 * result itself; for a paint tile (`painted`) the result over its alpha, at most 1.
 */
export function combine(target: usize, plane: usize, over: usize, mode: i32, painted: i32): void {
  for (let i: usize = 0; i < 512; i++) {
    const a = painted ? v128.load(plane + (i >> 3) * <usize>ROW_BYTES + (i & 7) * <usize>BLOCK_BYTES, 48) : v128.load(plane + (i << 4));
    const b = v128.load(over + (i << 4));
    let out: v128;
    if (mode == MULTIPLY) out = painted ? b : mul(a, b);
    else if (mode == DODGE) out = painted ? i16x8.splat(32767) : share(a, complement(b));
    else if (mode == SUBTRACT) {
      const left = i16x8.max_s(i16x8.sub(a, b), i16x8.splat(0));
      out = painted ? share(left, a) : left;
    } else {
      const left = i16x8.min_s(a, b);
      out = painted ? share(left, a) : left;
    }
    v128.store(target + (i << 4), out);
  }
}

/** a ÷ b, at most 1; nothing of nothing. */
// @ts-ignore: decorator
@inline function share(a: v128, b: v128): v128 {
  const one = f32x4.splat(1), least = f32x4.splat(<f32>0.5);
  const al = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(a)), ah = f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(a));
  const bl = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(b)), bh = f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(b));
  const l = f32x4.pmin(f32x4.div(al, f32x4.pmax(bl, least)), one), h = f32x4.pmin(f32x4.div(ah, f32x4.pmax(bh, least)), one);
  const magic = f32x4.splat(12582912.0), scale = f32x4.splat(32767.0);
  return v128.shuffle<u16>(f32x4.add(f32x4.mul(l, scale), magic), f32x4.add(f32x4.mul(h, scale), magic), 0, 2, 4, 6, 8, 10, 12, 14);
}
