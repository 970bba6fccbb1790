import { real, word } from "./mark";
import { clamp01, fromFloat } from "./q15";

/** Where pigment touches: h − threshold through a smooth step `1/steepness` wide. */
// @ts-ignore: decorator
@inline export function touch(h: v128, ahead: v128, slope: v128, threshold: v128, steepness: v128): v128 {
  const lifted = f32x4.add(h, f32x4.mul(slope, f32x4.sub(ahead, h)));
  const t = clamp01(f32x4.add(f32x4.mul(f32x4.sub(lifted, threshold), steepness), f32x4.splat(0.5)));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}

/** Four heights of the paper as floats 0…1. */
// @ts-ignore: decorator
@inline export function heights(at: usize): v128 {
  return f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(at)), f32x4.splat(<f32>(1.0 / 65535.0)));
}

/**
 * How far a mark touches eight pixels of paper, Q15. `grain` is `period` rows of
 * `period + 16` heights (u16, 0…65535), eight wrapped columns on either side.
 */
// @ts-ignore: decorator
@inline export function grainPart(mark: usize, x: i32, y: i32, grain: usize, period: i32): v128 {
  const threshold = f32x4.splat(real(mark, 17)), steepness = f32x4.splat(real(mark, 18)), slope = f32x4.splat(real(mark, 19));
  const aheadX = <i32>(<i16>word(mark, 20)), aheadY = word(mark, 20) >> 16;
  const stride = (period + 16) << 1;
  const gy = y % period, gx = <usize>((x % period) << 1);
  const here = grain + <usize>(gy * stride + 16) + gx;
  const ahead = grain + <usize>(((gy + aheadY + period) % period) * stride + 16 + (aheadX << 1)) + gx;
  return fromFloat(
    touch(heights(here), heights(ahead), slope, threshold, steepness),
    touch(heights(here + 8), heights(ahead + 8), slope, threshold, steepness),
  );
}
