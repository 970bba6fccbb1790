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
  const from = f32x4(x, y, z, 0), per = f32x4.div(f32x4.splat(1), f32x4(dx, dy, dz, 1));
  let depth = 1;
  store<i32>(stack, 0);
  while (depth > 0) {
    depth--;
    const node = nodes + (<usize>load<i32>(stack + (<usize>depth << 2)) << 5);
    // The fourth lane holds a whole number, which as an f32 would be one of those that processors are slow with.
    const three = i32x4(-1, -1, -1, 0);
    const a = f32x4.mul(f32x4.sub(v128.and(v128.load(node), three), from), per), b = f32x4.mul(f32x4.sub(v128.and(v128.load(node, 16), three), from), per);
    const near = f32x4.pmin(a, b), far = f32x4.pmax(a, b);
    const enters = v128.shuffle<f32>(near, near, 1, 2, 0, 2), leaves = v128.shuffle<f32>(far, far, 1, 2, 0, 2);
    const latest = f32x4.pmax(near, enters), soonest = f32x4.pmin(far, leaves);
    const enter = f32x4.extract_lane(f32x4.pmax(latest, v128.shuffle<f32>(latest, latest, 1, 0, 2, 3)), 0);
    const leave = f32x4.extract_lane(f32x4.pmin(soonest, v128.shuffle<f32>(soonest, soonest, 1, 0, 2, 3)), 0);
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
