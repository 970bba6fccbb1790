/** Roots of four floats at a time: a share of the exponent as a first guess, then Newton's steps. */

/** Cube root: a third of the exponent, and two steps of Newton's. */
// @ts-ignore: decorator
@inline export function cubeRoot(x: v128): v128 {
  const held = f32x4.pmax(x, f32x4.splat(<f32>1e-7));
  const third = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.convert_i32x4_s(held), f32x4.splat(<f32>(1.0 / 3.0))));
  let y = i32x4.add(third, i32x4.splat(709921077));
  const a = f32x4.splat(<f32>(1.0 / 3.0));
  for (let i = 0; i < 2; i++) {
    y = f32x4.mul(a, f32x4.add(f32x4.add(y, y), f32x4.div(held, f32x4.mul(y, y))));
  }
  return y;
}

/** Fifth root, of 0.0001 and more. */
// @ts-ignore: decorator
@inline export function fifthRoot(x: v128): v128 {
  const fifth = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.convert_i32x4_s(x), f32x4.splat(<f32>0.2)));
  let y = i32x4.add(fifth, i32x4.splat(852000000));
  const a = f32x4.splat(<f32>0.2), four = f32x4.splat(4);
  for (let i = 0; i < 3; i++) {
    const y2 = f32x4.mul(y, y);
    y = f32x4.mul(a, f32x4.add(f32x4.mul(four, y), f32x4.div(x, f32x4.mul(y2, y2))));
  }
  return y;
}
