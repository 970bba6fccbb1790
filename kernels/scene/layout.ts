/**
 * A scene as the kernels read it; `src/engine/scene/stage.ts` writes it. Numbers are f64 unless it is said otherwise.
 *
 * Scene: eye 3, ray 3, its change with x 3, with y 3, way to the sun 3, sunlight 3, fill light 3, 1/depth of the ground
 * (with x, with y, at 0), ground's colour 3, nearest and farthest depth, right 3, up 3, back 3, whether there is a
 * ground, whether shadows fall, largest 1/depth; then i32 addresses of triangles, facing, owners, nodes, casters.
 * Triangle, 112 bytes: three edges (with x, with y, at 0), 1/determinant, i32 owner, its three corners, i32 left top
 * right bottom px. Facing of a corner: three f32. Owner, 32 bytes: f32 r g b and how far off the surface a shadow
 * begins, i32 flags, i32 r g b of its id. Node, 32 bytes: f32 least corner, i32 first, f32 largest corner, i32 count (0:
 * first is the left child, the right one comes next). Caster, 40 bytes: f32 corner, two edges, i32 owner.
 */
export const RAY: i32 = 3;
export const RAY_X: i32 = 6;
export const RAY_Y: i32 = 9;
export const SUN_WAY: i32 = 12;
export const SUN: i32 = 15;
export const FILL: i32 = 18;
export const GROUND: i32 = 21;
export const GROUND_COLOUR: i32 = 24;
export const NEAREST: i32 = 27;
export const FARTHEST: i32 = 28;
export const RIGHT: i32 = 29;
export const UP: i32 = 32;
export const BACK: i32 = 35;
export const HAS_GROUND: i32 = 38;
export const HAS_SHADOWS: i32 = 39;
export const LARGEST: i32 = 40;

export const TRIANGLES: i32 = 328;
export const FACING: i32 = 332;
export const OWNERS: i32 = 336;
export const NODES: i32 = 340;
export const CASTERS: i32 = 344;

export const TRIANGLE_BYTES: i32 = 112;
export const OWNER_BYTES: i32 = 32;
export const CASTER_BYTES: i32 = 40;

export const IS_CONVEX: i32 = 1;
export const TWO_SIDED: i32 = 2;
export const IS_CHOSEN: i32 = 4;

/** What a sample shows that shows no triangle. */
export const NOTHING: i32 = -1;
export const ON_GROUND: i32 = -2;

// @ts-ignore: decorator
@inline export function num(scene: usize, at: i32): f64 {
  return load<f64>(scene + (<usize>at << 3));
}

// @ts-ignore: decorator
@inline export function triangleAt(scene: usize, index: i32): usize {
  return <usize>load<u32>(scene + <usize>TRIANGLES) + <usize>(index * TRIANGLE_BYTES);
}

// @ts-ignore: decorator
@inline export function ownerAt(scene: usize, triangle: i32): usize {
  return <usize>load<u32>(scene + <usize>OWNERS) + <usize>(load<i32>(triangleAt(scene, triangle), 80) * OWNER_BYTES);
}
