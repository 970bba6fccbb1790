import { ONE } from "./layout";

/**
 * a · b, rounded. The two instructions differ in −1 × −1 alone, which no kernel asks for; the
 * relaxed one need not look for it and takes a third of the work.
 */
// @ts-ignore: decorator
@inline export function mul(a: v128, b: v128): v128 {
  if (ASC_FEATURE_RELAXED_SIMD) return v128.relaxed_q15mulr<i16>(a, b);
  return i16x8.q15mulr_sat_s(a, b);
}

/** 1 − a */
// @ts-ignore: decorator
@inline export function complement(a: v128): v128 {
  return i16x8.sub(i16x8.splat(<i16>ONE), a);
}

/** a + b, held at one: rounding may carry a sum one step past it. */
// @ts-ignore: decorator
@inline export function plus(a: v128, b: v128): v128 {
  return i16x8.add_sat_s(a, b);
}

/** Four low lanes of eight Q15 numbers as floats 0…1. */
// @ts-ignore: decorator
@inline export function lowToFloat(a: v128): v128 {
  return f32x4.mul(
    f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(a)),
    f32x4.splat(<f32>(1.0 / 32767.0)),
  );
}

/** Four high lanes of eight Q15 numbers as floats 0…1. */
// @ts-ignore: decorator
@inline export function highToFloat(a: v128): v128 {
  return f32x4.mul(
    f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(a)),
    f32x4.splat(<f32>(1.0 / 32767.0)),
  );
}

/**
 * Two × four floats 0…1 as eight Q15 numbers, rounded to nearest.
 * Adding 1.5·2²³ leaves the rounded integer in the low bits, which is quicker than
 * a saturating conversion.
 */
// @ts-ignore: decorator
@inline export function fromFloat(low: v128, high: v128): v128 {
  const magic = f32x4.splat(12582912.0);
  const scale = f32x4.splat(32767.0);
  const a = f32x4.add(f32x4.mul(low, scale), magic);
  const b = f32x4.add(f32x4.mul(high, scale), magic);
  return v128.shuffle<u16>(a, b, 0, 2, 4, 6, 8, 10, 12, 14);
}

// @ts-ignore: decorator
@inline export function clamp01(a: v128): v128 {
  return f32x4.pmin(f32x4.pmax(a, f32x4.splat(0)), f32x4.splat(1));
}
