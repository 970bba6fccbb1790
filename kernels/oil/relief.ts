import { BLOCK_BYTES, ROW_BYTES, SIDE } from "../layout";
import { fromFloat, highToFloat, lowToFloat } from "../q15";
import { BARE, DEEPEST, HEIGHT_SCALE } from "./wet";

/**
 * Light on paint that stands up: Lambert from one direction, held between a floor and a shoulder, hollows a
 * little darker, and two highlights (Blinn 1977), a broad and a narrow one.
 */
const REACH: i32 = 8;
const WIDE: i32 = SIDE + 2 * REACH;
const ROW: usize = <usize>WIDE << 2;
const PLANE: usize = ROW * <usize>WIDE;

/**
 * The relief of paint that has dried: its surface alone, which no longer shines as wet paint does. Heights go by
 * steps of eight, 1/225 px, so that they take less room when they are kept.
 */
export function dryRelief(dst: usize, src: usize): void {
  const none = i16x8.splat(0), half = i16x8.splat(4), most = i16x8.splat(32760);
  for (let at: usize = 0; at < <usize>(SIDE * ROW_BYTES); at += BLOCK_BYTES) {
    const height = i16x8.shl(i16x8.shr_u(i16x8.add(i16x8.min_u(v128.load(src + at), most), half), 3), 3);
    v128.store(dst + at, i16x8.min_u(height, v128.load(src + at, 48)));
    v128.store(dst + at, none, 16);
    const seen = v128.load(src + at, 32), bare = i16x8.splat(BARE);
    v128.store(dst + at, v128.and(bare, i16x8.eq(seen, bare)), 32);
    v128.store(dst + at, v128.load(src + at, 48), 48);
  }
}

/** Heights of a tile and 8 px around it, px, as f32 rows; beside the sheet, or where nobody painted, the tile's edge goes on. */
function heightsAround(tiles: usize, out: usize): void {
  for (let y = -REACH; y < SIDE + REACH; y++) {
    const row = y < 0 ? 0 : y < SIDE ? 1 : 2;
    for (let x = -REACH; x < SIDE + REACH; x += 8) {
      const column = x < 0 ? 0 : x < SIDE ? 1 : 2;
      let tile = <usize>load<u32>(tiles + <usize>((row * 3 + column) << 2));
      const isThere = tile != 0;
      if (!isThere) tile = <usize>load<u32>(tiles, 16);
      const inX = isThere ? x & (SIDE - 1) : min(max(x, 0), SIDE - 8), inY = isThere ? y & (SIDE - 1) : min(max(y, 0), SIDE - 1);
      const at = tile + <usize>(inY * ROW_BYTES + (inX >> 3) * BLOCK_BYTES);
      const to = out + <usize>(y + REACH) * ROW + (<usize>(x + REACH) << 2);
      const stored = v128.load(at), there = v128.load(at, 48);
      let low = heightOf(lowToFloat(stored), lowToFloat(there)), high = heightOf(highToFloat(stored), highToFloat(there));
      if (!isThere && column == 0) low = high = f32x4.splat(f32x4.extract_lane(low, 0));
      if (!isThere && column == 2) low = high = f32x4.splat(f32x4.extract_lane(high, 3));
      v128.store(to, low);
      v128.store(to, high, 16);
    }
  }
}

// @ts-ignore: decorator
@inline function heightOf(stored: v128, there: v128): v128 {
  const some = f32x4.gt(there, f32x4.splat(0));
  const whole = f32x4.div(stored, f32x4.pmax(there, f32x4.splat(<f32>0.00001)));
  return v128.and(f32x4.sub(f32x4.mul(whole, f32x4.splat(<f32>32767 / HEIGHT_SCALE)), f32x4.splat(DEEPEST)), some);
}

/** to = 0.2 · before + 0.6 · here + 0.2 · after, `step` bytes apart. */
function softened(to: usize, from: usize, step: usize): void {
  const side = f32x4.splat(<f32>0.2), middle = f32x4.splat(<f32>0.6);
  for (let at: usize = ROW; at < PLANE - ROW; at += 16) {
    const beside = f32x4.add(v128.load(from + at - step), v128.load(from + at + step));
    v128.store(to + at, f32x4.add(f32x4.mul(beside, side), f32x4.mul(v128.load(from + at), middle)));
  }
}

/** Means of nine, `step` bytes apart. */
function mean9(to: usize, from: usize, step: usize, first: usize, last: usize): void {
  const per = f32x4.splat(<f32>(1.0 / 9.0));
  for (let at = first; at < last; at += 16) {
    let sum = v128.load(from + at);
    for (let i: usize = 1; i < 5; i++) sum = f32x4.add(sum, f32x4.add(v128.load(from + at - i * step), v128.load(from + at + i * step)));
    v128.store(to + at, f32x4.mul(sum, per));
  }
}

/** x^28 / 2 + x^90 / 2. */
// @ts-ignore: decorator
@inline function glints(x: v128): v128 {
  const x2 = f32x4.mul(x, x), x4 = f32x4.mul(x2, x2), x8 = f32x4.mul(x4, x4), x16 = f32x4.mul(x8, x8);
  const x32 = f32x4.mul(x16, x16), x64 = f32x4.mul(x32, x32);
  const broad = f32x4.mul(f32x4.mul(x16, x8), x4);
  const narrow = f32x4.mul(f32x4.mul(x64, x16), f32x4.mul(x8, x2));
  return f32x4.mul(f32x4.add(broad, narrow), f32x4.splat(0.5));
}

/**
 * A tile of paint as it looks in the light. `tiles`: addresses of the reliefs of nine tiles, row by row, 0 where
 * there is none. `light`: five f32: where it comes from (x right, y down, z up, length 1), how deep relief
 * seems, how much it shines. `region`: 102 400 bytes of this thread's own.
 */
export function lightRelief(dst: usize, src: usize, tiles: usize, light: usize, region: usize): void {
  const raw = region, soft = region + PLANE, work = region + 2 * PLANE, hollow = region + 3 * PLANE;
  heightsAround(tiles, raw);
  memory.copy(work, raw, PLANE);
  memory.copy(soft, raw, PLANE);
  softened(work, raw, 4);
  softened(soft, work, ROW);
  mean9(work, raw, 4, ROW, PLANE - ROW);
  mean9(hollow, work, ROW, 4 * ROW, PLANE - 4 * ROW);
  const lx = load<f32>(light), ly = load<f32>(light, 4), lz = load<f32>(light, 8);
  const depth = load<f32>(light, 12), gloss = load<f32>(light, 16);
  const length = <f32>1 / Mathf.sqrt(lx * lx + ly * ly + (lz + 1) * (lz + 1));
  const hx = lx * length, hy = ly * length, hz = (lz + 1) * length;
  const flat = glints(f32x4.splat(hz));
  const one = f32x4.splat(1), zero = f32x4.splat(0);
  const relief = load<u32>(tiles, 16);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x += 8) {
      const block = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const alpha = v128.load(src + block, 48);
      if (!v128.any_true(alpha)) {
        memory.fill(dst + block, 0, BLOCK_BYTES);
        continue;
      }
      const wet = v128.load(relief + block, 32);
      const isBare = i16x8.eq(wet, i16x8.splat(BARE));
      for (let part = 0; part < 2; part++) {
        const at = <usize>(y + REACH) * ROW + (<usize>(x + REACH + 4 * part) << 2);
        const s = soft + at;
        const gx = f32x4.mul(f32x4.sub(v128.load(s + 4), v128.load(s - 4)), f32x4.splat(<f32>0.5 * depth));
        const gy = f32x4.mul(f32x4.sub(v128.load(s + ROW), v128.load(s - ROW)), f32x4.splat(<f32>0.5 * depth));
        const steep = f32x4.sqrt(f32x4.add(one, f32x4.add(f32x4.mul(gx, gx), f32x4.mul(gy, gy))));
        const toward = f32x4.sub(f32x4.splat(lz), f32x4.add(f32x4.mul(gx, f32x4.splat(lx)), f32x4.mul(gy, f32x4.splat(ly))));
        const e = f32x4.sub(f32x4.div(toward, f32x4.mul(steep, f32x4.splat(lz))), one);
        const lit = f32x4.mul(e, f32x4.splat(<f32>0.66));
        const rises = f32x4.pmax(lit, zero);
        const held = f32x4.div(rises, f32x4.add(one, f32x4.mul(rises, f32x4.splat(<f32>1.6))));
        const lack = f32x4.mul(f32x4.sub(v128.load(raw + at), v128.load(hollow + at)), f32x4.splat(<f32>0.05 / <f32>0.55 * depth));
        const shade = f32x4.pmin(f32x4.pmax(lack, f32x4.splat(<f32>-0.14)), f32x4.splat(<f32>0.07));
        const fall = f32x4.pmin(lit, zero);
        const m = f32x4.pmax(f32x4.add(f32x4.add(one, f32x4.add(held, fall)), shade), f32x4.splat(0.25));
        const half = f32x4.div(f32x4.sub(f32x4.splat(hz), f32x4.add(f32x4.mul(gx, f32x4.splat(hx)), f32x4.mul(gy, f32x4.splat(hy)))), steep);
        const more = f32x4.sub(glints(f32x4.pmax(half, zero)), flat);
        const less = f32x4.mul(f32x4.pmin(more, zero), f32x4.splat(<f32>0.3));
        const isWet = part ? highToFloat(wet) : lowToFloat(wet);
        const shines = f32x4.mul(f32x4.add(f32x4.splat(<f32>0.3), f32x4.mul(isWet, f32x4.splat(<f32>0.7))), f32x4.splat(<f32>0.32 * gloss));
        const a = part ? highToFloat(alpha) : lowToFloat(alpha);
        const glint = f32x4.mul(f32x4.mul(f32x4.add(f32x4.pmax(more, zero), less), shines), a);
        v128.store(work + (part << 5), m);
        v128.store(work + (part << 5), glint, 16);
      }
      const m0 = v128.load(work), g0 = v128.load(work, 16), m1 = v128.load(work, 32), g1 = v128.load(work, 48);
      for (let c: usize = 0; c < 48; c += 16) {
        const colour = v128.load(src + block + c);
        const low = f32x4.pmax(f32x4.add(f32x4.mul(lowToFloat(colour), m0), g0), zero);
        const high = f32x4.pmax(f32x4.add(f32x4.mul(highToFloat(colour), m1), g1), zero);
        const lit = i16x8.min_s(fromFloat(f32x4.pmin(low, one), f32x4.pmin(high, one)), alpha);
        v128.store(dst + block + c, v128.bitselect(colour, lit, isBare));
      }
      v128.store(dst + block, alpha, 48);
    }
  }
}
