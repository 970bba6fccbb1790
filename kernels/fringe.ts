import { BLOCK_BYTES, ONE, ROW_BYTES, SIDE } from "./layout";

/**
 * The fringe of a wash without its water: pigment gathers along the rim of what is painted and leaves its middle
 * paler. How near the rim a pixel lies is told by its alpha against the blurred alpha around it; what that does to
 * the paint is the pigment density of Bousseau et al. 2006: C' = C − (C − C²)(d − 1).
 */
const WIDE: i32 = 3 * SIDE;
const RAW: usize = <usize>(WIDE * WIDE) << 2;
/** Rows of the middle column of tiles alone. */
const COLUMN: usize = <usize>(WIDE * SIDE) << 2;
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

/** Alpha 0…1 of nine tiles; beyond `box` (left, top, right, bottom from the middle tile's corner) its edge goes on. */
function alphaAround(tiles: usize, box: usize, out: usize): void {
  const left = load<i32>(box), top = load<i32>(box, 4), right = load<i32>(box, 8), bottom = load<i32>(box, 12);
  for (let y = -SIDE; y < 2 * SIDE; y++) {
    const inY = max(top, min(bottom - 1, y)) + SIDE;
    for (let x = -SIDE; x < 2 * SIDE; x++) {
      const inX = max(left, min(right - 1, x)) + SIDE;
      const tile = <usize>load<u32>(tiles + <usize>(((inY >> 6) * 3 + (inX >> 6)) << 2));
      const px = inX & (SIDE - 1), py = inY & (SIDE - 1);
      const a = tile == 0 ? 0 : <i32>load<u16>(tile + <usize>(py * ROW_BYTES + (px >> 3) * BLOCK_BYTES + ((px & 7) << 1)), 48);
      store<f32>(out, <f32>a * <f32>(1.0 / 32767.0));
      out += 4;
    }
  }
}

/** A running mean of `n` numbers, windows of 2r + 1; beyond its ends the line goes on. */
function meanLine(to: usize, from: usize, n: i32, r: i32): void {
  const share: f32 = <f32>1 / <f32>((r << 1) + 1);
  const first = load<f32>(from), last = load<f32>(from + (<usize>(n - 1) << 2));
  let sum = first * <f32>(r + 1);
  for (let i = 0; i < r; i++) sum += i < n ? load<f32>(from + (<usize>i << 2)) : last;
  for (let i = 0; i < n; i++) {
    sum += i + r < n ? load<f32>(from + (<usize>(i + r) << 2)) : last;
    sum -= i - r - 1 >= 0 ? load<f32>(from + (<usize>(i - r - 1) << 2)) : first;
    store<f32>(to + (<usize>i << 2), sum * share);
  }
}

/** The same down columns, four side by side. */
function meanColumns(to: usize, from: usize, n: i32, r: i32): void {
  const share = f32x4.splat(<f32>1 / <f32>((r << 1) + 1));
  const row = <usize>SIDE << 2;
  const end = from + <usize>(n - 1) * row;
  for (let c: usize = 0; c < row; c += 16) {
    const first = v128.load(from + c), last = v128.load(end + c);
    let sum = f32x4.mul(first, f32x4.splat(<f32>(r + 1)));
    for (let i = 0; i < r; i++) sum = f32x4.add(sum, i < n ? v128.load(from + c + <usize>i * row) : last);
    for (let i = 0; i < n; i++) {
      sum = f32x4.add(sum, i + r < n ? v128.load(from + c + <usize>(i + r) * row) : last);
      sum = f32x4.sub(sum, i - r - 1 >= 0 ? v128.load(from + c + <usize>(i - r - 1) * row) : first);
      v128.store(to + c + <usize>i * row, f32x4.mul(sum, share));
    }
  }
}

/** The greatest alpha of a pixel and those beside it: an edge's half-covered pixels belong to the rim. */
// @ts-ignore: decorator
@inline function solidAt(raw: usize): f32 {
  const row = <usize>WIDE << 2;
  const across = max(load<f32>(raw - 4), load<f32>(raw + 4));
  const down = max(load<f32>(raw - row), load<f32>(raw + row));
  return max(load<f32>(raw), max(across, down));
}

/**
 * A tile of paint with a fringe. `tiles`: addresses of nine tiles, row by row, 0 where there is none. `how`: strength
 * 0…1 and noise cells a px (f32), three radii of running means whose sum is below 64, where the tile lies on the
 * sheet (left, top), what of the nine tiles is sheet (left, top, right, bottom from the middle one's corner), key of
 * the noise. `region`: 245 760 bytes of this thread's own.
 */
export function fringeTile(dst: usize, src: usize, tiles: usize, how: usize, region: usize): void {
  const strength = load<f32>(how), per = load<f32>(how, 4);
  const r0 = load<i32>(how, 8), r1 = load<i32>(how, 12), r2 = load<i32>(how, 16);
  const left = load<i32>(how, 20), top = load<i32>(how, 24), key = load<u32>(how, 44);
  const one = region + RAW, two = one + COLUMN;
  alphaAround(tiles, how + 28, region);
  const reach = r0 + r1 + r2;
  const first = SIDE - reach, rows = SIDE + 2 * reach;
  for (let y = 0; y < rows; y++) {
    const row = region + (<usize>((first + y) * WIDE) << 2);
    meanLine(two, row, WIDE, r0);
    meanLine(two + 1024, two, WIDE, r1);
    meanLine(two, two + 1024, WIDE, r2);
    memory.copy(one + (<usize>(y * SIDE) << 2), two + (<usize>SIDE << 2), SIDE << 2);
  }
  meanColumns(two, one, rows, r0);
  meanColumns(one, two, rows, r1);
  meanColumns(two, one, rows, r2);
  const soft = two + (<usize>(reach * SIDE) << 2);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const o = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const stored = <i32>load<u16>(src + o, 48);
      if (stored == 0) {
        for (let c: usize = 0; c < 64; c += 16) store<u16>(dst + o + c, 0);
        continue;
      }
      const solid = solidAt(region + (<usize>((SIDE + y) * WIDE + SIDE + x) << 2));
      const around = load<f32>(soft + (<usize>(y * SIDE + x) << 2));
      const e = max<f32>(0, min<f32>(1, 2 - (2 * around) / solid));
      const n = UNEVEN * (unevenAt(<f32>(left + x), <f32>(top + y), per, key) * <f32>0.65 + unevenAt(<f32>(top + y), <f32>(left + x), per * <f32>3.1, key + 1) * <f32>0.35);
      const d: f32 = <f32>1 + strength * (e * e * RIM * (<f32>1 + n) - (<f32>1 - e) * MIDDLE * (<f32>1 + n * <f32>0.8));
      const alpha = min(<f32>ONE, <f32>stored * d);
      const more = max<f32>(0, min<f32>(1, d - 1));
      for (let c: usize = 0; c < 48; c += 16) {
        const straight = min<f32>(1, <f32>load<u16>(src + o + c) / <f32>stored);
        const dense = straight - (straight - straight * straight) * more;
        store<u16>(dst + o + c, <u16>(dense * alpha + <f32>0.5));
      }
      store<u16>(dst + o, <u16>(alpha + <f32>0.5), 48);
    }
  }
}
