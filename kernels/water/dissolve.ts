import { decay, fromMass, massHigh, massLow, minusLog } from "../dry";
import { BLOCK_BYTES, ROW_BYTES, SIDE, TILE_BYTES } from "../layout";
import { fromFloat, highToFloat, lowToFloat } from "../q15";
import { CELLS, hangs, PLANE, RESIST } from "./film";

/**
 * Dry marks that water takes up again: pencils that dissolve, loose powder, gouache, ink that is not waterproof.
 * How much of a pixel that is stands in the blue of its powder (see `kernels/dry.ts`), as a mass; it covers as
 * 1 − e^(−`COVERS` · mass). What goes of a pixel's alpha comes into the wash as paint of a cell, `STRENGTH` times as
 * much of a flat wash's, as dry marks are strong: none is made or lost.
 */
const COVERS: f32 = 2.2;
const STRENGTH: f32 = 1.5;
/** Alpha below this is none. */
const NO_ALPHA: f32 = 0.00002;

/** What of four pixels' alpha water can take up. */
// @ts-ignore: decorator
@inline function soluble(mass: v128, alpha: v128): v128 {
  const covers = f32x4.sub(f32x4.splat(1), decay(f32x4.mul(mass, f32x4.splat(COVERS))));
  return f32x4.pmin(covers, alpha);
}

/** Which of `count` paints (r, g, b, free; f32) a colour is nearest to. */
function nearest(paints: usize, count: i32, r: f32, g: f32, b: f32): i32 {
  let best = 0;
  let least: f32 = 100;
  for (let n = 0; n < count; n++) {
    const at = paints + (<usize>n << 4);
    const x = r - load<f32>(at), y = g - load<f32>(at, 4), z = b - load<f32>(at, 8);
    const far = x * x + y * y + z * z;
    if (far >= least) continue;
    least = far;
    best = n;
  }
  return best;
}

// @ts-ignore: decorator
@inline function q15(at: usize): f32 {
  return <f32>load<u16>(at) * <f32>(1.0 / 32767.0);
}

/** What water can take up of each cell of a tile, by `count` paints: planes of 32 × 32 f32, in a cell's amounts. */
export function solubleOf(out: usize, powder: usize, pixels: usize, paints: usize, count: i32): void {
  memory.fill(out, 0, PLANE * <usize>count);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const at = ROW_BYTES * <usize>y + BLOCK_BYTES * <usize>(x >> 3) + (<usize>(x & 7) << 1);
      if (load<u16>(powder + at, 32) == 0) continue;
      const alpha = q15(pixels + at + 48);
      if (alpha < NO_ALPHA) continue;
      const mass = f32x4.splat(q15(powder + at + 32) * 2);
      const takes = f32x4.extract_lane(soluble(mass, f32x4.splat(alpha)), 0);
      const paint = nearest(paints, count, q15(pixels + at) / alpha, q15(pixels + at + 16) / alpha, q15(pixels + at + 32) / alpha);
      const cell = out + PLANE * <usize>paint + (<usize>((y >> 1) * CELLS + (x >> 1)) << 2);
      store<f32>(cell, load<f32>(cell) + takes * <f32>(0.25 * STRENGTH));
    }
  }
}

/** What of cell `i` comes into a wash: `slots` says in four bits how many paints there are, then where each goes. */
export function dissolve(i: usize, state: usize, by: f32, cells: usize, slots: i32): void {
  const count = slots & 15;
  for (let n = 0; n < count; n++) {
    const at = state + hangs((slots >> (4 + 4 * n)) & 15) + i;
    store<f32>(at, load<f32>(at) + load<f32>(cells + PLANE * <usize>n + i) * by);
  }
}

/** How far a cell has given what it can give. */
// @ts-ignore: decorator
@inline function given(covered: usize, state: usize, x: i32, y: i32, by: f32): f32 {
  const i = <usize>((y >> 1) * CELLS + (x >> 1)) << 2;
  return load<f32>(covered + i) * (<f32>1 - load<f32>(state + RESIST + i)) * by;
}

// @ts-ignore: decorator
@inline function fourGiven(covered: usize, state: usize, x: i32, y: i32, by: f32): v128 {
  const a = given(covered, state, x, y, by), b = given(covered, state, x + 2, y, by);
  return f32x4(a, a, b, b);
}

/**
 * What is dry below a wash, and its powder, without what has dissolved: `pixels` and `powder` as they were before the
 * stroke, `covered` how far the stroke has come over its cells; a whole pass takes the share `by`.
 */
export function dissolveUnder(
  to: usize, pixels: usize, powderTo: usize, powder: usize, covered: usize, state: usize, by: f32,
): void {
  for (let y = 0; y < SIDE; y++) {
    for (let block = 0; block < 8; block++) {
      const o = ROW_BYTES * <usize>y + BLOCK_BYTES * <usize>block, x = block << 3;
      const mass = v128.load(powder + o, 32);
      if (!v128.any_true(mass)) {
        memory.copy(to + o, pixels + o, BLOCK_BYTES);
        memory.copy(powderTo + o, powder + o, BLOCK_BYTES);
        continue;
      }
      const low = fourGiven(covered, state, x, y, by), high = fourGiven(covered, state, x + 4, y, by);
      thin(to + o, pixels + o, mass, low, high);
      dust(powderTo + o, powder + o, mass, low, high);
    }
  }
}

/** The colour that is left. */
// @ts-ignore: decorator
@inline function thin(to: usize, from: usize, mass: v128, low: v128, high: v128): void {
  const one = f32x4.splat(1), none = f32x4.splat(NO_ALPHA);
  const alpha = v128.load(from, 48);
  const a0 = lowToFloat(alpha), a1 = highToFloat(alpha);
  const left0 = f32x4.sub(one, f32x4.div(f32x4.mul(low, soluble(massLow(mass), a0)), f32x4.pmax(a0, none)));
  const left1 = f32x4.sub(one, f32x4.div(f32x4.mul(high, soluble(massHigh(mass), a1)), f32x4.pmax(a1, none)));
  for (let c: usize = 0; c < 64; c += 16) {
    const v = v128.load(from + c);
    v128.store(to + c, fromFloat(f32x4.mul(lowToFloat(v), left0), f32x4.mul(highToFloat(v), left1)));
  }
}

/** The powder that is left: what dissolves is loose first. */
// @ts-ignore: decorator
@inline function dust(to: usize, from: usize, mass: v128, low: v128, high: v128): void {
  const gone0 = f32x4.mul(massLow(mass), low), gone1 = f32x4.mul(massHigh(mass), high);
  const zero = f32x4.splat(0);
  for (let c: usize = 0; c < 64; c += 16) {
    const v = v128.load(from + c);
    const is = c == 16 ? v : fromMass(f32x4.pmax(f32x4.sub(massLow(v), gone0), zero), f32x4.pmax(f32x4.sub(massHigh(v), gone1), zero));
    v128.store(to + c, is);
  }
}

/** How far four channels moved, and how far they could: the farthest of both. */
// @ts-ignore: decorator
@inline function farther(a: v128, b: v128): v128 {
  return f32x4.pmax(a, f32x4.abs(b));
}

/**
 * Notes in a tile's powder what a stroke in the colour (r, g, b: 0…1) laid there that water takes up again, the share
 * `share` of it: as far as each pixel went from `before` toward the colour.
 */
export function markSoluble(
  to: usize, powder: usize, after: usize, before: usize, r: f32, g: f32, b: f32, share: f32,
): void {
  memory.copy(to, powder, TILE_BYTES);
  for (let at: usize = 0; at < <usize>TILE_BYTES; at += BLOCK_BYTES) {
    const low = laid(before + at, after + at, r, g, b, false), high = laid(before + at, after + at, r, g, b, true);
    if (!v128.any_true(v128.or(low, high))) continue;
    const mass = v128.load(powder + at, 32);
    const is = fromMass(f32x4.add(massLow(mass), massOf(low, share)), f32x4.add(massHigh(mass), massOf(high, share)));
    v128.store(to + at, is, 32);
    // It fills the tooth, as all does that lies there.
    v128.store(to + at, i16x8.max_s(v128.load(powder + at, 48), is), 48);
  }
}

/** The mass that covers so far. */
// @ts-ignore: decorator
@inline function massOf(covers: v128, share: f32): v128 {
  const clear = f32x4.pmax(f32x4.sub(f32x4.splat(1), f32x4.mul(covers, f32x4.splat(share))), f32x4.splat(<f32>0.01));
  return f32x4.div(minusLog(clear), f32x4.splat(COVERS));
}

/** How far four pixels went toward a colour, 0…1. */
function laid(before: usize, after: usize, r: f32, g: f32, b: f32, isHigh: bool): v128 {
  let moved = f32x4.splat(0), could = f32x4.splat(<f32>0.001);
  for (let c: usize = 0; c < 4; c++) {
    const was = v128.load(before + (c << 4)), is = v128.load(after + (c << 4));
    const from = isHigh ? highToFloat(was) : lowToFloat(was), to = isHigh ? highToFloat(is) : lowToFloat(is);
    const own = c == 0 ? r : c == 1 ? g : c == 2 ? b : <f32>1;
    moved = farther(moved, f32x4.sub(to, from));
    could = farther(could, f32x4.sub(f32x4.splat(own), from));
  }
  return f32x4.pmin(f32x4.div(moved, could), f32x4.splat(1));
}
