import { BLOCK_BYTES, ONE, ROW_BYTES, SIDE } from "../layout";
import {
  BACK, FARTHEST, FILL, FACING, GROUND_COLOUR, HAS_SHADOWS, IS_CHOSEN, IS_CONVEX, NEAREST, NOTHING, num, ON_GROUND, ownerAt,
  RAY, RAY_X, RAY_Y, RIGHT, SUN, SUN_WAY, triangleAt, TWO_SIDED, UP,
} from "./layout";
import { isShaded } from "./shadow";

/** Where a surface at a sample faces. */
let nx: f64 = 0, ny: f64 = 0, nz: f64 = 0;
/** What light comes from it. */
let red: f64 = 0, green: f64 = 0, blue: f64 = 0;

/** Finds where the surface faces that a sample at (x, y) shows. */
function face(scene: usize, index: i32, x: f64, y: f64): void {
  if (index == ON_GROUND) {
    nx = 0;
    nz = 0;
    ny = num(scene, 1) >= 0 ? 1 : -1;
    return;
  }
  const t = triangleAt(scene, index);
  const e0 = load<f64>(t) * x + (load<f64>(t, 8) * y + load<f64>(t, 16));
  const e1 = load<f64>(t, 24) * x + (load<f64>(t, 32) * y + load<f64>(t, 40));
  const e2 = load<f64>(t, 48) * x + (load<f64>(t, 56) * y + load<f64>(t, 64));
  const facing = <usize>load<u32>(scene + <usize>FACING);
  const p = facing + <usize>(load<i32>(t, 84) * 12), q = facing + <usize>(load<i32>(t, 88) * 12), r = facing + <usize>(load<i32>(t, 92) * 12);
  nx = e0 * <f64>load<f32>(p) + e1 * <f64>load<f32>(q) + e2 * <f64>load<f32>(r);
  ny = e0 * <f64>load<f32>(p, 4) + e1 * <f64>load<f32>(q, 4) + e2 * <f64>load<f32>(r, 4);
  nz = e0 * <f64>load<f32>(p, 8) + e1 * <f64>load<f32>(q, 8) + e2 * <f64>load<f32>(r, 8);
  let per = 1.0 / sqrt(max<f64>(1e-300, nx * nx + ny * ny + nz * nz));
  if (load<i32>(ownerAt(scene, index), 16) & TWO_SIDED) {
    const dx = num(scene, RAY) + x * num(scene, RAY_X) + y * num(scene, RAY_Y);
    const dy = num(scene, RAY + 1) + x * num(scene, RAY_X + 1) + y * num(scene, RAY_Y + 1);
    const dz = num(scene, RAY + 2) + x * num(scene, RAY_X + 2) + y * num(scene, RAY_Y + 2);
    if (nx * dx + ny * dy + nz * dz > 0) per = -per;
  }
  nx *= per;
  ny *= per;
  nz *= per;
}

/** How far the sun meets the surface: `face` has been found. */
// @ts-ignore: decorator
@inline function towardSun(scene: usize): f64 {
  return nx * num(scene, SUN_WAY) + ny * num(scene, SUN_WAY + 1) + nz * num(scene, SUN_WAY + 2);
}

/** The same, none where the surface faces away. */
// @ts-ignore: decorator
@inline function litBy(scene: usize): f64 {
  const sun = towardSun(scene);
  return sun > 0 ? sun : 0;
}

/** Whether the sun reaches a surface that faces it. */
function isLit(scene: usize, index: i32, near: f64, x: f64, y: f64, stack: usize): bool {
  const w = 1.0 / near;
  let except = -1;
  let off = 1e-4 * w;
  if (index >= 0) {
    const owner = ownerAt(scene, index);
    off += <f64>load<f32>(owner, 12);
    if (load<i32>(owner, 16) & IS_CONVEX) except = load<i32>(triangleAt(scene, index), 80);
  }
  return !isShaded(
    scene,
    <f32>(num(scene, 0) + w * (num(scene, RAY) + x * num(scene, RAY_X) + y * num(scene, RAY_Y)) + off * nx),
    <f32>(num(scene, 1) + w * (num(scene, RAY + 1) + x * num(scene, RAY_X + 1) + y * num(scene, RAY_Y + 1)) + off * ny),
    <f32>(num(scene, 2) + w * (num(scene, RAY + 2) + x * num(scene, RAY_X + 2) + y * num(scene, RAY_Y + 2)) + off * nz),
    <f32>num(scene, SUN_WAY), <f32>num(scene, SUN_WAY + 1), <f32>num(scene, SUN_WAY + 2), except, stack,
  );
}

/** Adds the light from a surface; `face` has been found, `sun` is how much of it arrives. */
// @ts-ignore: decorator
@inline function addLight(scene: usize, index: i32, sun: f64): void {
  const sky = 0.65 + 0.35 * ny;
  const r = sun * num(scene, SUN) + sky * num(scene, FILL);
  const g = sun * num(scene, SUN + 1) + sky * num(scene, FILL + 1);
  const b = sun * num(scene, SUN + 2) + sky * num(scene, FILL + 2);
  if (index == ON_GROUND) {
    red += r * num(scene, GROUND_COLOUR);
    green += g * num(scene, GROUND_COLOUR + 1);
    blue += b * num(scene, GROUND_COLOUR + 2);
    return;
  }
  const owner = ownerAt(scene, index);
  red += r * <f64>load<f32>(owner);
  green += g * <f64>load<f32>(owner, 4);
  blue += b * <f64>load<f32>(owner, 8);
}

// @ts-ignore: decorator
@inline function put(tile: usize, x: i32, y: i32, r: i32, g: i32, b: i32, a: i32): void {
  const at = tile + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
  store<u16>(at, <u16>r);
  store<u16>(at, <u16>g, 16);
  store<u16>(at, <u16>b, 32);
  store<u16>(at, <u16>a, 48);
}

// @ts-ignore: decorator
@inline function toOne(v: f64): i32 {
  return v <= 0 ? 0 : v >= 1 ? ONE : <i32>(v * <f64>ONE + 0.5);
}

/** Whether two samples show the same surface without a fold between them. */
function isSame(scene: usize, one: i32, other: i32): bool {
  if (one == other) return true;
  if (one < 0 || other < 0) return false;
  return load<i32>(triangleAt(scene, one), 80) == load<i32>(triangleAt(scene, other), 80);
}

const UNLIT: u8 = 0;
const LIT: u8 = 1;
const AWAY: u8 = 2;

/** Finds which pixels' middles the sun reaches, a byte each. */
function lightMiddles(scene: usize, region: usize, room: usize, px: i32, py: i32, side: i32, samples: i32, stack: usize): void {
  const across = side * samples, half = samples >> 1;
  const shadows = num(scene, HAS_SHADOWS) != 0;
  const middle = (<f64>half + 0.5) / <f64>samples;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const at = region + (<usize>((y * samples + half) * across + x * samples + half) << 3);
      const index = load<i32>(at, 4);
      let lit = AWAY;
      if (index != NOTHING) {
        const sx = <f64>(px + x) + middle, sy = <f64>(py + y) + middle;
        face(scene, index, sx, sy);
        if (towardSun(scene) > 0) lit = !shadows || isLit(scene, index, <f64>load<f32>(at), sx, sy, stack) ? LIT : UNLIT;
      }
      store<u8>(room + <usize>(y * side + x), lit);
    }
}

/**
 * Whether the sun reaches a sample that faces it: as it reaches the middles around of pixels that show the same, where
 * these agree.
 * @param seen byte of the pixel; `middle`: its middle sample
 */
function isSampleLit(scene: usize, index: i32, at: usize, seen: usize, middle: usize, side: i32, across: i32, samples: i32, x: f64, y: f64, stack: usize): bool {
  let lit = 0, unlit = 0;
  for (let v = -1; v <= 1; v++)
    for (let u = -1; u <= 1; u++) {
      const there = load<i32>(middle + <usize>((v * across + u) * samples << 3), 4);
      if (!isSame(scene, there, index)) continue;
      const is = load<u8>(seen + <usize>(v * side + u));
      if (is == LIT) lit++;
      else if (is == UNLIT) unlit++;
    }
  if (lit > 0 && unlit == 0) return true;
  if (unlit > 0 && lit == 0) return false;
  return isLit(scene, index, <f64>load<f32>(at), x, y, stack);
}

/**
 * A tile of the scene in its light, linear Q15, from a region of `samples` a side of each pixel with `pad` px around the
 * tile. A pixel whose samples show one surface, and whose neighbours are in the light as it is, takes its middle
 * sample; of any other each sample is lit for itself.
 * @param pad at least one where shadows fall or there are several samples
 * @param room bytes for a pixel each of the region, then for 64 numbers
 */
export function colourScene(dst: usize, scene: usize, region: usize, room: usize, px: i32, py: i32, pad: i32, samples: i32): void {
  const side = SIDE + 2 * pad, across = side * samples, half = samples >> 1;
  const stack = room + <usize>((side * side + 63) & ~63);
  const step = 1.0 / <f64>samples, centre = (<f64>half + 0.5) * step;
  const share = 1.0 / <f64>(samples * samples);
  if (pad > 0) lightMiddles(scene, region, room, px - pad, py - pad, side, samples, stack);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const corner = region + (<usize>((y + pad) * samples * across + (x + pad) * samples) << 3);
      const middleAt = corner + (<usize>(half * across + half) << 3);
      const middle = load<i32>(middleAt, 4);
      const seen = room + <usize>((y + pad) * side + x + pad);
      let lit = LIT;
      let even = true;
      if (pad > 0) {
        lit = load<u8>(seen);
        even = load<u8>(seen - 1) == lit && load<u8>(seen + 1) == lit && load<u8>(seen - <usize>side) == lit && load<u8>(seen + <usize>side) == lit;
        for (let j = 0; even && j < samples; j++)
          for (let i = 0; i < samples; i++) {
            const index = load<i32>(corner + (<usize>(j * across + i) << 3), 4);
            if (index != middle && !isSame(scene, index, middle)) {
              even = false;
              break;
            }
          }
      }
      red = 0;
      green = 0;
      blue = 0;
      if (even) {
        if (middle == NOTHING) {
          put(dst, x, y, 0, 0, 0, 0);
          continue;
        }
        face(scene, middle, <f64>(px + x) + centre, <f64>(py + y) + centre);
        addLight(scene, middle, lit == LIT ? litBy(scene) : 0);
        put(dst, x, y, toOne(red), toOne(green), toOne(blue), ONE);
        continue;
      }
      let shown = 0;
      for (let j = 0; j < samples; j++)
        for (let i = 0; i < samples; i++) {
          const at = corner + (<usize>(j * across + i) << 3);
          const index = load<i32>(at, 4);
          if (index == NOTHING) continue;
          shown++;
          const sx = <f64>(px + x) + (<f64>i + 0.5) * step, sy = <f64>(py + y) + (<f64>j + 0.5) * step;
          face(scene, index, sx, sy);
          const sun = towardSun(scene);
          const reaches = sun > 0 && isSampleLit(scene, index, at, seen, middleAt, side, across, samples, sx, sy, stack);
          addLight(scene, index, reaches ? sun : 0);
        }
      const a = toOne(<f64>shown * share);
      put(dst, x, y, min(a, toOne(red * share)), min(a, toOne(green * share)), min(a, toOne(blue * share)), a);
    }
}

/** What a flat tile of a scene holds. */
const DEPTH: i32 = 0;
const IDS: i32 = 1;
const CHOSEN: i32 = 3;

/**
 * A tile of depths (near black, far white), of ids, or of where surfaces face, by the middle sample of each pixel; or
 * of how much of each pixel shows chosen solids.
 */
export function flatScene(dst: usize, scene: usize, region: usize, px: i32, py: i32, pad: i32, samples: i32, what: i32): void {
  const across = (SIDE + 2 * pad) * samples, half = samples >> 1;
  const nearest = num(scene, NEAREST), per = 1.0 / (num(scene, FARTHEST) - nearest);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const at = region + (<usize>(((y + pad) * samples + half) * across + (x + pad) * samples + half) << 3);
      const index = load<i32>(at, 4);
      if (what == CHOSEN) put(dst, x, y, 0, 0, 0, chosenIn(scene, at - (<usize>(half * across + half) << 3), across, samples));
      else if (index == NOTHING) put(dst, x, y, 0, 0, 0, 0);
      else if (what == DEPTH) {
        const v = toOne((1.0 / <f64>load<f32>(at) - nearest) * per);
        put(dst, x, y, v, v, v, ONE);
      } else if (what == IDS) {
        if (index == ON_GROUND) put(dst, x, y, 0, 0, 0, ONE);
        else {
          const owner = ownerAt(scene, index);
          put(dst, x, y, load<i32>(owner, 20), load<i32>(owner, 24), load<i32>(owner, 28), ONE);
        }
      } else {
        face(scene, index, <f64>(px + x) + 0.5, <f64>(py + y) + 0.5);
        const r = nx * num(scene, RIGHT) + ny * num(scene, RIGHT + 1) + nz * num(scene, RIGHT + 2);
        const u = nx * num(scene, UP) + ny * num(scene, UP + 1) + nz * num(scene, UP + 2);
        const b = nx * num(scene, BACK) + ny * num(scene, BACK + 1) + nz * num(scene, BACK + 2);
        put(dst, x, y, toOne(0.5 + 0.5 * r), toOne(0.5 + 0.5 * u), toOne(0.5 + 0.5 * b), ONE);
      }
    }
}

/** How much of a pixel shows chosen solids, Q15. */
function chosenIn(scene: usize, corner: usize, across: i32, samples: i32): i32 {
  let count = 0;
  for (let j = 0; j < samples; j++)
    for (let i = 0; i < samples; i++) {
      const index = load<i32>(corner + (<usize>(j * across + i) << 3), 4);
      if (index >= 0 && load<i32>(ownerAt(scene, index), 16) & IS_CHOSEN) count++;
    }
  return (count * ONE) / (samples * samples);
}

/** Two faces of one solid that meet at more than this many (cosine) make a line. */
const CREASE: f64 = 0.85;
/** A step in depth of this share makes one too. */
const JUMP: f64 = 0.04;

/** 1/depth of a triangle's plane. */
// @ts-ignore: decorator
@inline function nearAt(scene: usize, index: i32, x: f64, y: f64): f64 {
  const t = triangleAt(scene, index);
  const a = load<f64>(t) + load<f64>(t, 24) + load<f64>(t, 48);
  const b = load<f64>(t, 8) + load<f64>(t, 32) + load<f64>(t, 56);
  return (a * x + b * y + (load<f64>(t, 16) + load<f64>(t, 40) + load<f64>(t, 64))) * load<f64>(t, 72);
}

/** 0: no line between two samples of different triangles, 1: one within a solid, 2: an outline. */
function lineBetween(scene: usize, one: usize, other: usize, x: f64, y: f64, dx: f64, dy: f64): i32 {
  const a = load<i32>(one, 4), b = load<i32>(other, 4);
  if (a < 0 || b < 0) return 2;
  if (load<i32>(triangleAt(scene, a), 80) != load<i32>(triangleAt(scene, b), 80)) return 2;
  // Whether the one's surface, gone on with, misses the other's.
  const goesOn = nearAt(scene, a, x + dx, y + dy), is = <f64>load<f32>(other);
  if (abs(goesOn - is) > JUMP * is) return 2;
  face(scene, a, x, y);
  const ax = nx, ay = ny, az = nz;
  face(scene, b, x + dx, y + dy);
  return ax * nx + ay * ny + az * nz < CREASE ? 1 : 0;
}

/** Darkens a disc of samples. */
function stamp(marks: usize, across: i32, x: i32, y: i32, radius: f64): void {
  const reach = <i32>ceil(radius);
  const most = radius * radius;
  for (let dy = -reach; dy <= reach; dy++) {
    const row = y + dy;
    if (row < 0 || row >= across) continue;
    for (let dx = -reach; dx <= reach; dx++) {
      const column = x + dx;
      if (column >= 0 && column < across && <f64>(dx * dx + dy * dy) <= most) store<u8>(marks + <usize>(row * across + column), 1);
    }
  }
}

/**
 * Part of a tile, clear so far, with the scene's lines: outlines `width` px wide, folds narrower. The region has `pad` px around the
 * part, which is `side` px wide and begins at (`left`, `top`) of the tile.
 * @param marks a byte for each sample
 */
export function lineScene(dst: usize, scene: usize, region: usize, marks: usize, px: i32, py: i32, left: i32, top: i32, side: i32, pad: i32, samples: i32, width: f32, r: i32, g: i32, b: i32): void {
  const across = (side + 2 * pad) * samples;
  memory.fill(marks, 0, <usize>(across * across));
  const step = 1.0 / <f64>samples;
  const outline = <f64>width * <f64>samples / 2, fold = outline * 0.6;
  const pitch = <usize>across << 3;
  let any = false;
  for (let row = 0; row < across; row++) {
    let at = region + <usize>row * pitch;
    for (let column = 0; column < across; column++, at += 8) {
      const index = load<i32>(at, 4);
      const right = column + 1 < across && load<i32>(at, 12) != index, down = row + 1 < across && load<i32>(at + pitch, 4) != index;
      if (!right && !down) continue;
      const x = <f64>(px + left - pad) + (<f64>column + 0.5) * step, y = <f64>(py + top - pad) + (<f64>row + 0.5) * step;
      let line = 0;
      if (right) line = lineBetween(scene, at, at + 8, x, y, step, 0);
      if (down && line < 2) line = max(line, lineBetween(scene, at, at + pitch, x, y, 0, step));
      if (line == 0) continue;
      any = true;
      stamp(marks, across, column, row, line == 2 ? outline : fold);
    }
  }
  if (!any) return;
  const each = <f64>ONE / <f64>(samples * samples);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      let count = 0;
      for (let j = 0; j < samples; j++)
        for (let i = 0; i < samples; i++) count += <i32>load<u8>(marks + <usize>(((y + pad) * samples + j) * across + (x + pad) * samples + i));
      const a = <i32>(<f64>count * each + 0.5);
      put(dst, left + x, top + y, (r * a + 16383) / ONE, (g * a + 16383) / ONE, (b * a + 16383) / ONE, a);
    }
}
