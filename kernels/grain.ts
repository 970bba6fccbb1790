import { bytesToFloat, PAPER_COLUMNS, PAPER_ROWS, paperAt } from "./contact";
import { real, word } from "./mark";
import { clamp01, fromFloat } from "./q15";

/** Where pigment touches: h − threshold through a smooth step `1/steepness` wide. */
// @ts-ignore: decorator
@inline export function touch(h: v128, ahead: v128, slope: v128, threshold: v128, steepness: v128): v128 {
  const lifted = f32x4.add(h, f32x4.mul(slope, f32x4.sub(ahead, h)));
  const t = clamp01(f32x4.add(f32x4.mul(f32x4.sub(lifted, threshold), steepness), f32x4.splat(0.5)));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}

/** Bytes from a row of a paper to the next, and from one of its bands to the other. */
// @ts-ignore: decorator
@inline export function paperStride(period: i32): i32 {
  return period + 2 * PAPER_COLUMNS;
}
// @ts-ignore: decorator
@inline export function paperBand(period: i32): usize {
  return <usize>(paperStride(period) * (period + 2 * PAPER_ROWS));
}

/** Four heights of the paper as floats 0…1: its coarse band, and some of the fine one. */
// @ts-ignore: decorator
@inline export function heights(at: usize, band: usize): v128 {
  return f32x4.add(
    f32x4.mul(bytesToFloat(at), f32x4.splat(<f32>0.75)),
    f32x4.mul(bytesToFloat(at + band), f32x4.splat(<f32>0.25)),
  );
}

/** How far a mark touches eight pixels of paper, Q15. `grain`: a paper in memory, see `src/engine/paper/paper.ts`. */
// @ts-ignore: decorator
@inline export function grainPart(mark: usize, x: i32, y: i32, grain: usize, period: i32): v128 {
  const threshold = f32x4.splat(real(mark, 17)), steepness = f32x4.splat(real(mark, 18)), slope = f32x4.splat(real(mark, 19));
  const aheadX = <i32>(<i16>word(mark, 20)), aheadY = word(mark, 20) >> 16;
  const band = paperBand(period);
  const here = paperAt(grain, period, x, y);
  const ahead = here + <usize>(aheadY * paperStride(period) + aheadX);
  return fromFloat(
    touch(heights(here, band), heights(ahead, band), slope, threshold, steepness),
    touch(heights(here + 4, band), heights(ahead + 4, band), slope, threshold, steepness),
  );
}
