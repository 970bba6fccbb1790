import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "./q15";

/**
 * The fringe of a wash without its water: pigment gathers along the rim of what is painted and leaves its middle
 * paler. How near the rim a pixel lies is told by its alpha against the blurred alpha around it; what that does to
 * the paint is the pigment density of Bousseau et al. 2006: C' = C − (C − C²)(d − 1).
 */
const MOST_WIDE: i32 = 3 * SIDE;
const PLANE: usize = <usize>(MOST_WIDE * MOST_WIDE) << 2;
/** Places of the noise are so many px apart, and lie between the pixels evenly. */
const STEP: i32 = 4;
const PLACES: i32 = SIDE / STEP + 1;
/** How much denser the rim is and how much paler the middle, at full strength. */
const RIM: f32 = 1.25;
const MIDDLE: f32 = 0.62;
/** How far chance has a say in both. */
const UNEVEN: f32 = 0.45;

/** The PCG hash: see `src/engine/stroke/chance.ts`. */
// @ts-ignore: decorator
@inline function pcg(input: u32): u32 {
  const state = input * 747796405 + 2891336453;
  const word = ((state >> ((state >> 28) + 4)) ^ state) * 277803737;
  return (word >> 22) ^ word;
}

/** A number −1…1 that belongs to a place of a lattice. */
// @ts-ignore: decorator
@inline function lot(x: i32, y: i32, key: u32): f32 {
  return <f32>(<i32>(pcg(pcg(<u32>x ^ key) + <u32>y) >> 8)) * <f32>(1.0 / 8388608.0) - 1;
}

// @ts-ignore: decorator
@inline function eased(t: f32): f32 {
  return t * t * (3 - 2 * t);
}

/** Smooth noise −1…1 with `per` cells a px, its lattice at a slant to the pixels, which nothing else shares. */
function unevenAt(x: f32, y: f32, per: f32, key: u32): f32 {
  const u = (x * <f32>0.8 - y * <f32>0.6) * per, v = (x * <f32>0.6 + y * <f32>0.8) * per;
  const i = <i32>Mathf.floor(u), j = <i32>Mathf.floor(v);
  const s = eased(u - <f32>i), t = eased(v - <f32>j);
  const above = lot(i, j, key) + (lot(i + 1, j, key) - lot(i, j, key)) * s;
  const below = lot(i, j + 1, key) + (lot(i + 1, j + 1, key) - lot(i, j + 1, key)) * s;
  return above + (below - above) * t;
}

/**
 * Alpha 0…1 of a tile and `reach` px around it, rows of `wide`; beyond `box` (left, top, right, bottom from the middle
 * tile's corner) its edge goes on.
 */
function alphaAround(tiles: usize, box: usize, reach: i32, wide: i32, out: usize): void {
  const left = load<i32>(box), top = load<i32>(box, 4), right = load<i32>(box, 8), bottom = load<i32>(box, 12);
  for (let y = -reach; y < SIDE + reach; y++) {
    const inY = max(top, min(bottom - 1, y)) + SIDE;
    const row = (inY >> 6) * 3, within = (inY & (SIDE - 1)) * ROW_BYTES;
    for (let x = -reach; x < wide - reach; x++) {
      const inX = max(left, min(right - 1, x)) + SIDE;
      const tile = <usize>load<u32>(tiles + <usize>((row + (inX >> 6)) << 2));
      const px = inX & (SIDE - 1);
      const a = tile == 0 ? 0 : <i32>load<u16>(tile + <usize>(within + (px >> 3) * BLOCK_BYTES + ((px & 7) << 1)), 48);
      store<f32>(out, <f32>a * <f32>(1.0 / 32767.0));
      out += 4;
    }
  }
}

/** A running mean of `n` fours of numbers, `step` bytes apart, windows of 2r + 1; beyond its ends the line goes on. */
// @ts-ignore: decorator
@inline function meanOf(to: usize, from: usize, step: usize, n: i32, r: i32): void {
  const share = f32x4.splat(<f32>1 / <f32>((r << 1) + 1));
  const first = v128.load(from), last = v128.load(from + <usize>(n - 1) * step);
  let sum = f32x4.mul(first, f32x4.splat(<f32>(r + 1)));
  for (let i = 0; i < r; i++) sum = f32x4.add(sum, i < n ? v128.load(from + <usize>i * step) : last);
  for (let i = 0; i < n; i++) {
    sum = f32x4.add(sum, i + r < n ? v128.load(from + <usize>(i + r) * step) : last);
    sum = f32x4.sub(sum, i - r - 1 >= 0 ? v128.load(from + <usize>(i - r - 1) * step) : first);
    v128.store(to + (<usize>i << 4), f32x4.mul(sum, share));
  }
}

/**
 * Three means down `n` rows of `columns` numbers, of which the middle 64 rows are kept, turned: a column becomes a row
 * of 64. `how`: the radii. `strip`: 6 KiB.
 */
function meansDown(to: usize, from: usize, n: i32, columns: i32, how: usize, strip: usize): void {
  const r0 = load<i32>(how), r1 = load<i32>(how, 4), r2 = load<i32>(how, 8);
  const step = <usize>columns << 2, other = strip + (<usize>MOST_WIDE << 4);
  const middle = strip + (<usize>((n - SIDE) >> 1) << 4);
  for (let c = 0; c < columns; c += 4) {
    meanOf(strip, from + (<usize>c << 2), step, n, r0);
    meanOf(other, strip, 16, n, r1);
    meanOf(strip, other, 16, n, r2);
    for (let lane = 0; lane < 4; lane++)
      for (let i = 0; i < SIDE; i++)
        store<f32>(to + (<usize>((c + lane) * SIDE + i) << 2), load<f32>(middle + (<usize>i << 4) + (<usize>lane << 2)));
  }
}

/** The unevenness of a tile, at places of a grid. */
function unevenness(out: usize, left: i32, top: i32, per: f32, key: u32): void {
  for (let j = 0; j < PLACES; j++)
    for (let i = 0; i < PLACES; i++) {
      const x = <f32>(left + i * STEP), y = <f32>(top + j * STEP);
      const n = unevenAt(x, y, per, key) * <f32>0.65 + unevenAt(y, x, per * <f32>3.1, key + 1) * <f32>0.35;
      store<f32>(out + (<usize>(j * PLACES + i) << 2), n * UNEVEN);
    }
}

/** The greatest alpha of four pixels and those beside each: an edge's half-covered pixels belong to the rim. */
// @ts-ignore: decorator
@inline function solidAt(raw: usize, row: usize): v128 {
  const across = f32x4.pmax(v128.load(raw - 4), v128.load(raw + 4));
  const down = f32x4.pmax(v128.load(raw - row), v128.load(raw + row));
  return f32x4.pmax(v128.load(raw), f32x4.pmax(across, down));
}

/** How dense the paint of four pixels is, 1 as it was laid: by alpha around them, the greatest beside them, and chance. */
// @ts-ignore: decorator
@inline function densityOf(around: v128, solid: v128, n: v128, strength: v128): v128 {
  const one = f32x4.splat(1), two = f32x4.splat(2);
  const part = f32x4.div(f32x4.mul(around, two), f32x4.pmax(solid, f32x4.splat(<f32>0.00001)));
  const e = f32x4.pmax(f32x4.splat(0), f32x4.pmin(one, f32x4.sub(two, part)));
  const rim = f32x4.mul(f32x4.mul(f32x4.mul(e, e), f32x4.splat(RIM)), f32x4.add(one, n));
  const fades = f32x4.add(one, f32x4.mul(n, f32x4.splat(<f32>0.8)));
  const middle = f32x4.mul(f32x4.mul(f32x4.sub(one, e), f32x4.splat(MIDDLE)), fades);
  return f32x4.add(one, f32x4.mul(strength, f32x4.sub(rim, middle)));
}

/** Premultiplied colour of four pixels at a density. */
// @ts-ignore: decorator
@inline function denser(colour: v128, straighten: v128, more: v128, alpha: v128): v128 {
  const s = f32x4.pmin(f32x4.splat(1), f32x4.mul(colour, straighten));
  return f32x4.mul(f32x4.sub(s, f32x4.mul(f32x4.sub(s, f32x4.mul(s, s)), more)), alpha);
}

/**
 * A tile of paint with a fringe. `tiles`: addresses of nine tiles, row by row, 0 where there is none. `how`: strength
 * 0…1 and noise cells a px (f32), three radii of running means whose sum is below 60, where the tile lies on the
 * sheet (left, top), what of the nine tiles is sheet (left, top, right, bottom from the middle one's corner), key of
 * the noise. `region`: 294 912 bytes of this thread's own.
 */
export function fringeTile(dst: usize, src: usize, tiles: usize, how: usize, region: usize): void {
  // One px more, for what is looked at beside the tile; rows of whole fours.
  const reach = max(1, load<i32>(how, 8) + load<i32>(how, 12) + load<i32>(how, 16));
  const high = SIDE + 2 * reach, wide = (high + 3) & ~3;
  const turned = region + PLANE, soft = turned + (<usize>(MOST_WIDE * SIDE) << 2);
  const noise = soft + (<usize>(SIDE * SIDE) << 2), strip = noise + (<usize>(PLACES * PLACES + 3) << 2);
  alphaAround(tiles, how + 28, reach, wide, region);
  meansDown(turned, region, high, wide, how + 8, strip);
  meansDown(soft, turned, high, SIDE, how + 8, strip);
  unevenness(noise, load<i32>(how, 20), load<i32>(how, 24), load<f32>(how, 4), load<u32>(how, 44));
  const row = <usize>wide << 2, corner = region + <usize>reach * row + (<usize>reach << 2);
  const strength = f32x4.splat(load<f32>(how)), one = f32x4.splat(1), zero = f32x4.splat(0);
  for (let y = 0; y < SIDE; y++) {
    const above = noise + (<usize>((y / STEP) * PLACES) << 2), down = f32x4.splat(<f32>(y % STEP) / <f32>STEP);
    for (let x = 0; x < SIDE; x += 8) {
      const at = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES);
      const stored = v128.load(src + at, 48);
      if (!v128.any_true(stored)) {
        memory.fill(dst + at, 0, BLOCK_BYTES);
        continue;
      }
      const raw = corner + <usize>y * row + (<usize>x << 2), mean = soft + (<usize>(y * SIDE + x) << 2);
      const place = above + (<usize>(x / STEP) << 2);
      const d0 = densityOf(v128.load(mean), solidAt(raw, row), between(place, down), strength);
      const d1 = densityOf(v128.load(mean, 16), solidAt(raw + 16, row), between(place + 4, down), strength);
      const a0 = lowToFloat(stored), a1 = highToFloat(stored);
      const kept0 = f32x4.pmin(one, f32x4.mul(a0, d0)), kept1 = f32x4.pmin(one, f32x4.mul(a1, d1));
      const more0 = clamp01(f32x4.sub(d0, one)), more1 = clamp01(f32x4.sub(d1, one));
      const least = f32x4.splat(<f32>0.00001);
      const straight0 = f32x4.div(one, f32x4.pmax(a0, least)), straight1 = f32x4.div(one, f32x4.pmax(a1, least));
      for (let c: usize = 0; c < 48; c += 16) {
        const colour = v128.load(src + at + c);
        const low = denser(lowToFloat(colour), straight0, more0, kept0);
        const up = denser(highToFloat(colour), straight1, more1, kept1);
        v128.store(dst + at + c, fromFloat(f32x4.pmax(low, zero), f32x4.pmax(up, zero)));
      }
      v128.store(dst + at, fromFloat(kept0, kept1), 48);
    }
  }
}

/** The unevenness of four pixels from the place at their left, `down` of the way to the row of places below. */
// @ts-ignore: decorator
@inline function between(place: usize, down: v128): v128 {
  const below = place + (<usize>PLACES << 2);
  const left = mixed(v128.load32_splat(place), v128.load32_splat(below), down);
  const right = mixed(v128.load32_splat(place + 4), v128.load32_splat(below + 4), down);
  return mixed(left, right, f32x4(0, 0.25, 0.5, 0.75));
}

// @ts-ignore: decorator
@inline function mixed(a: v128, b: v128, share: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), share));
}
