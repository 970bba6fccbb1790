import { CASTERS, CASTER_BYTES, NODES } from "./layout";

/**
 * Whether anything stands between a place and the sun: the first triangle hit along the way ends the search (Möller and
 * Trumbore 1997, through a tree of boxes).
 * @param except an owner whose triangles throw no shadow on it, −1: all do
 * @param stack room for 64 numbers
 */
export function isShaded(scene: usize, x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32, except: i32, stack: usize): bool {
  const nodes = <usize>load<u32>(scene + <usize>NODES), casters = <usize>load<u32>(scene + <usize>CASTERS);
  if (nodes == 0) return false;
  const ix = <f32>1 / dx, iy = <f32>1 / dy, iz = <f32>1 / dz;
  let depth = 1;
  store<i32>(stack, 0);
  while (depth > 0) {
    depth--;
    const node = nodes + (<usize>load<i32>(stack + (<usize>depth << 2)) << 5);
    const ax = (load<f32>(node) - x) * ix, bx = (load<f32>(node, 16) - x) * ix;
    const ay = (load<f32>(node, 4) - y) * iy, by = (load<f32>(node, 20) - y) * iy;
    const az = (load<f32>(node, 8) - z) * iz, bz = (load<f32>(node, 24) - z) * iz;
    const enter = max(max(min(ax, bx), min(ay, by)), min(az, bz));
    const leave = min(min(max(ax, bx), max(ay, by)), max(az, bz));
    // Not a number where the way lies in a box's side: looked into, to be safe.
    if (leave < 0 || enter > leave) continue;
    const first = load<i32>(node, 12), count = load<i32>(node, 28);
    if (count == 0) {
      store<i32>(stack + (<usize>depth << 2), first);
      store<i32>(stack + (<usize>(depth + 1) << 2), first + 1);
      depth += 2;
      continue;
    }
    for (let i = first; i < first + count; i++) {
      const t = casters + <usize>(i * CASTER_BYTES);
      if (load<i32>(t, 36) != except && isHit(t, x, y, z, dx, dy, dz)) return true;
    }
  }
  return false;
}

// @ts-ignore: decorator
@inline function isHit(t: usize, x: f32, y: f32, z: f32, dx: f32, dy: f32, dz: f32): bool {
  const ux = load<f32>(t, 12), uy = load<f32>(t, 16), uz = load<f32>(t, 20);
  const vx = load<f32>(t, 24), vy = load<f32>(t, 28), vz = load<f32>(t, 32);
  const px = dy * vz - dz * vy, py = dz * vx - dx * vz, pz = dx * vy - dy * vx;
  const det = ux * px + uy * py + uz * pz;
  if (det == 0) return false;
  const per = <f32>1 / det;
  const fx = x - load<f32>(t), fy = y - load<f32>(t, 4), fz = z - load<f32>(t, 8);
  const u = (fx * px + fy * py + fz * pz) * per;
  if (u < 0 || u > 1) return false;
  const qx = fy * uz - fz * uy, qy = fz * ux - fx * uz, qz = fx * uy - fy * ux;
  const v = (dx * qx + dy * qy + dz * qz) * per;
  if (v < 0 || u + v > 1) return false;
  return (vx * qx + vy * qy + vz * qz) * per > 0;
}
