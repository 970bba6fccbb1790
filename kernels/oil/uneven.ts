/** Chance at a place, 0…1: PCG on its numbers (O’Neill 2014). */
// @ts-ignore: decorator
@inline function hash(x: i32, y: i32, seed: i32): f32 {
  let v = <u32>x * 747796405 + <u32>y * 2891336453 + <u32>seed * 277803737;
  v = ((v >> ((v >> 28) + 4)) ^ v) * 277803737;
  v = (v >> 22) ^ v;
  v = ((v >> ((v >> 28) + 4)) ^ v) * 747796405;
  return <f32>(((v >> 22) ^ v) & 0xffff) * <f32>(1.0 / 65535.0);
}

/** Smooth chance 0…1 that changes over one unit. */
export function noise(x: f32, y: f32, seed: i32): f32 {
  const fx = Mathf.floor(x), fy = Mathf.floor(y);
  const column = <i32>fx, row = <i32>fy;
  let u = x - fx, v = y - fy;
  u = u * u * (<f32>3 - 2 * u);
  v = v * v * (<f32>3 - 2 * v);
  const top = hash(column, row, seed) * (1 - u) + hash(column + 1, row, seed) * u;
  const low = hash(column, row + 1, seed) * (1 - u) + hash(column + 1, row + 1, seed) * u;
  return top * (1 - v) + low * v;
}
