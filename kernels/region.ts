import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { cubeRoot } from "./roots";
import { complement, fromFloat, highToFloat, lowToFloat, mul, plus } from "./q15";

/**
 * Regions as bit pictures: one bit a pixel, rows of `words` 64-bit words, the lowest bit at
 * the left. A tile is a column of 64 words, so a region of a whole sheet is flooded, grown
 * and compared sixty-four pixels at a time.
 */

/** −1, all bits. */
const ALL: i64 = -1;

// ---- which pixels ----

/** Bits where alpha reaches `least` (Q15). 64 words, `stride` bytes apart. */
export function alphaBits(dst: usize, stride: i32, tile: usize, least: i32): void {
  const from = i16x8.splat(<i16>(least - 1));
  for (let y = 0; y < SIDE; y++) {
    const row = tile + <usize>(y * ROW_BYTES);
    let bits: i64 = 0;
    for (let b = 0; b < 8; b++) {
      const found = i16x8.bitmask(i16x8.gt_s(v128.load(row + <usize>(b * BLOCK_BYTES), 48), from));
      bits |= <i64>found << (b << 3);
    }
    store<i64>(dst + <usize>(y * stride), bits);
  }
}

/** sRGB to linear light by a cubic that stays within 0.006 of it. */
// @ts-ignore: decorator
@inline function linear(c: v128): v128 {
  const inner = f32x4.add(f32x4.mul(c, f32x4.splat(<f32>0.305306011)), f32x4.splat(<f32>0.682171111));
  return f32x4.mul(c, f32x4.add(f32x4.mul(c, inner), f32x4.splat(<f32>0.012522878)));
}

/** Squared OKLab distance (Ottosson 2020) of four colours to the one at `seed` (L a b, f32). */
// @ts-ignore: decorator
@inline function apart(r: v128, g: v128, b: v128, seed: usize): v128 {
  const lr = linear(r), lg = linear(g), lb = linear(b);
  const l = cubeRoot(three(lr, lg, lb, <f32>0.4122214708, <f32>0.5363325363, <f32>0.0514459929));
  const m = cubeRoot(three(lr, lg, lb, <f32>0.2119034982, <f32>0.6806995451, <f32>0.1073969566));
  const s = cubeRoot(three(lr, lg, lb, <f32>0.0883024619, <f32>0.2817188376, <f32>0.6299787005));
  const dl = f32x4.sub(three(l, m, s, <f32>0.2104542553, <f32>0.793617785, <f32>-0.0040720468), f32x4.splat(load<f32>(seed)));
  const da = f32x4.sub(three(l, m, s, <f32>1.9779984951, <f32>-2.428592205, <f32>0.4505937099), f32x4.splat(load<f32>(seed, 4)));
  const db = f32x4.sub(three(l, m, s, <f32>0.0259040371, <f32>0.7827717662, <f32>-0.808675766), f32x4.splat(load<f32>(seed, 8)));
  return f32x4.add(f32x4.add(f32x4.mul(dl, dl), f32x4.mul(da, da)), f32x4.mul(db, db));
}

// @ts-ignore: decorator
@inline function three(x: v128, y: v128, z: v128, a: f32, b: f32, c: f32): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(x, f32x4.splat(a)), f32x4.mul(y, f32x4.splat(b))),
    f32x4.mul(z, f32x4.splat(c)),
  );
}

/** Four pixels near enough to the seed, over white and over black. */
// @ts-ignore: decorator
@inline function near4(r: v128, g: v128, b: v128, a: v128, seed: usize, most: v128): i32 {
  const white = f32x4.sub(f32x4.splat(1), a);
  const onWhite = apart(f32x4.add(r, white), f32x4.add(g, white), f32x4.add(b, white), seed);
  const onBlack = apart(r, g, b, seed + 12);
  return i32x4.bitmask(f32x4.le(f32x4.pmax(onWhite, onBlack), most));
}

/**
 * Bits where a pixel's colour lies within a distance of a seed's. `seed`: its OKLab over
 * white and over black (6 × f32), the square of the greatest distance (f32), and the seed
 * itself (r g b a, Q15 in i32), for most pixels of a page are exactly like it.
 */
export function nearBits(dst: usize, stride: i32, tile: usize, seed: usize): void {
  const sr = i16x8.splat(<i16>load<i32>(seed, 28)), sg = i16x8.splat(<i16>load<i32>(seed, 32));
  const sb = i16x8.splat(<i16>load<i32>(seed, 36)), sa = i16x8.splat(<i16>load<i32>(seed, 40));
  const most = f32x4.splat(load<f32>(seed, 24));
  for (let y = 0; y < SIDE; y++) {
    let bits: i64 = 0;
    for (let block = 0; block < 8; block++) {
      const at = tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const r = v128.load(at), g = v128.load(at, 16), b = v128.load(at, 32), a = v128.load(at, 48);
      const same = v128.and(
        v128.and(i16x8.eq(r, sr), i16x8.eq(g, sg)),
        v128.and(i16x8.eq(b, sb), i16x8.eq(a, sa)),
      );
      let found = 255;
      if (!i16x8.all_true(same)) {
        found =
          near4(lowToFloat(r), lowToFloat(g), lowToFloat(b), lowToFloat(a), seed, most) |
          (near4(highToFloat(r), highToFloat(g), highToFloat(b), highToFloat(a), seed, most) << 4);
      }
      bits |= <i64>found << (block << 3);
    }
    store<i64>(dst + <usize>(y * stride), bits);
  }
}

// ---- growing ----

// @ts-ignore: decorator
@inline function sideways(row: usize, x: i32, words: i32): i64 {
  const v = load<i64>(row + <usize>(x << 3));
  const left: i64 = x > 0 ? <i64>(load<u64>(row + <usize>((x - 1) << 3)) >> 63) : 0;
  const right: i64 = x + 1 < words ? load<i64>(row + <usize>((x + 1) << 3)) << 63 : 0;
  return v | (v << 1) | left | <i64>(<u64>v >> 1) | right;
}

/**
 * Rows y0…y1−1 of `src` grown by a disc: for each row dy away, widened by `reach[|dy|]` px
 * (i32, r + 1 of them, never growing). Exact: the bits within the disc's radius of a set one.
 * `onto`: what is set in `dst` stays.
 */
export function growBits(
  dst: usize, src: usize, words: i32, rows: i32, y0: i32, y1: i32, r: i32, reach: usize, onto: i32,
  scratch: usize,
): void {
  const rowBytes = words << 3;
  if (!onto) memory.fill(dst + <usize>(y0 * rowBytes), 0, <usize>((y1 - y0) * rowBytes));
  let a = scratch, b = scratch + <usize>rowBytes;
  for (let s = max(0, y0 - r); s < min(rows, y1 + r); s++) {
    const row = src + <usize>(s * rowBytes);
    let any: i64 = 0;
    for (let x = 0; x < words; x++) any |= load<i64>(row + <usize>(x << 3));
    if (any == 0) continue;
    memory.copy(a, row, rowBytes);
    let w = 0;
    // The farthest rows are widened least, so widening goes on inward.
    for (let dy = r; dy >= 0; dy--) {
      const wanted = load<i32>(reach + <usize>(dy << 2));
      if (wanted < 0) continue;
      for (; w < wanted; w++) {
        for (let x = 0; x < words; x++) store<i64>(b + <usize>(x << 3), sideways(a, x, words));
        const t = a;
        a = b;
        b = t;
      }
      if (s + dy >= y0 && s + dy < y1) orRow(dst + <usize>((s + dy) * rowBytes), a, words);
      if (dy > 0 && s - dy >= y0 && s - dy < y1) orRow(dst + <usize>((s - dy) * rowBytes), a, words);
    }
  }
}

// @ts-ignore: decorator
@inline function orRow(dst: usize, src: usize, words: i32): void {
  for (let x = 0; x < words; x++) {
    const o = <usize>(x << 3);
    store<i64>(dst + o, load<i64>(dst + o) | load<i64>(src + o));
  }
}

/**
 * One step of growth within bounds but not into `without` (0: nothing): to the four
 * neighbours, or (`eight`) to all. Rows y0…y1−1 of words x0…x1−1.
 */
export function spreadBits(
  dst: usize, src: usize, within: usize, without: usize, words: i32, rows: i32,
  y0: i32, y1: i32, x0: i32, x1: i32, eight: i32,
): void {
  const rowBytes = words << 3;
  for (let y = y0; y < y1; y++) {
    const row = src + <usize>(y * rowBytes);
    const up = y > 0 ? row - <usize>rowBytes : 0, down = y + 1 < rows ? row + <usize>rowBytes : 0;
    for (let x = x0; x < x1; x++) {
      const o = <usize>(x << 3);
      let bound = load<i64>(within + <usize>(y * rowBytes) + o);
      if (without) bound &= ~load<i64>(without + <usize>(y * rowBytes) + o);
      const here = load<i64>(row + o);
      if (bound == 0) {
        store<i64>(dst + <usize>(y * rowBytes) + o, here);
        continue;
      }
      let grown = sideways(row, x, words);
      if (up) grown |= eight ? sideways(up, x, words) : load<i64>(up + o);
      if (down) grown |= eight ? sideways(down, x, words) : load<i64>(down + o);
      store<i64>(dst + <usize>(y * rowBytes) + o, (grown & bound) | here);
    }
  }
}

// ---- flooding ----

/** All bits of `open` that hang together with a bit of `s` in one word (Kogge & Stone 1973). */
// @ts-ignore: decorator
@inline function along(s: i64, open: i64): i64 {
  if (open == ALL) return ALL;
  let east = s, p = open;
  east |= p & (east << 1);
  p &= p << 1;
  east |= p & (east << 2);
  p &= p << 2;
  east |= p & (east << 4);
  p &= p << 4;
  east |= p & (east << 8);
  p &= p << 8;
  east |= p & (east << 16);
  p &= p << 16;
  east |= p & (east << 32);
  let west = <u64>s, q = <u64>open;
  west |= q & (west >> 1);
  q &= q >> 1;
  west |= q & (west >> 2);
  q &= q >> 2;
  west |= q & (west >> 4);
  q &= q >> 4;
  west |= q & (west >> 8);
  q &= q >> 8;
  west |= q & (west >> 16);
  q &= q >> 16;
  west |= q & (west >> 32);
  return east | <i64>west;
}

/** A tile's flags in a flood. */
const WAITS: u8 = 1;
const TOUCHED: u8 = 2;

/**
 * Floods `open` from the bits already set in `fill`, tile by tile, four ways. `queue` holds
 * the `waiting` tiles to begin with (row · words + column); it and `touched` have room for
 * every tile, `flags` a byte for each, all zero. Returns how many tiles were touched, their
 * numbers in `touched`; flags are zero again.
 */
export function floodBits(
  open: usize, fill: usize, words: i32, tileRows: i32, queue: usize, waiting: i32, touched: usize, flags: usize,
): i32 {
  const tiles = words * tileRows, stride = words << 3;
  let head = 0, count = waiting, found = 0;
  for (let i = 0; i < waiting; i++) {
    const tile = load<i32>(queue + <usize>(i << 2));
    store<u8>(flags + <usize>tile, WAITS);
  }
  while (count > 0) {
    const tile = load<i32>(queue + <usize>(head << 2));
    head = head + 1 == tiles ? 0 : head + 1;
    count--;
    const flag = load<u8>(flags + <usize>tile) & ~WAITS;
    if (!(flag & TOUCHED)) store<i32>(touched + <usize>(found++ << 2), tile);
    store<u8>(flags + <usize>tile, flag | TOUCHED);
    const column = tile % words, row = tile / words;
    const at = <usize>((row << 6) * stride + (column << 3));
    const ways = floodTile(open + at, fill + at, stride, column > 0, column + 1 < words, row > 0, row + 1 < tileRows);
    if (ways & 1) count = push(queue, flags, head, count, tiles, tile - words);
    if (ways & 2) count = push(queue, flags, head, count, tiles, tile + words);
    if (ways & 4) count = push(queue, flags, head, count, tiles, tile - 1);
    if (ways & 8) count = push(queue, flags, head, count, tiles, tile + 1);
  }
  for (let i = 0; i < found; i++) store<u8>(flags + <usize>load<i32>(touched + <usize>(i << 2)), 0);
  return found;
}

// @ts-ignore: decorator
@inline function push(queue: usize, flags: usize, head: i32, count: i32, tiles: i32, tile: i32): i32 {
  const flag = load<u8>(flags + <usize>tile);
  if (flag & WAITS) return count;
  store<u8>(flags + <usize>tile, flag | WAITS);
  let at = head + count;
  if (at >= tiles) at -= tiles;
  store<i32>(queue + <usize>(at << 2), tile);
  return count + 1;
}

/** Floods one tile from its own bits and its neighbours'. Returns where it may go on: 1 up, 2 down, 4 left, 8 right. */
function floodTile(open: usize, fill: usize, stride: i32, left: bool, right: bool, up: bool, down: bool): i32 {
  let changed = true, downward = true, first = true;
  while (changed) {
    changed = false;
    let before: i64 = 0;
    if (downward && up) before = load<i64>(fill - <usize>stride);
    if (!downward && down) before = load<i64>(fill + <usize>(SIDE * stride));
    for (let i = 0; i < SIDE; i++) {
      const o = <usize>((downward ? i : SIDE - 1 - i) * stride);
      const bound = load<i64>(open + o);
      if (bound == 0) {
        before = 0;
        continue;
      }
      const here = load<i64>(fill + o);
      let s = here | before;
      if (left) s |= <i64>(load<u64>(fill + o - 8) >> 63);
      if (right) s |= load<i64>(fill + o + 8) << 63;
      s &= bound;
      if (s != 0 && s != bound) s = along(s, bound);
      if (s != here) {
        store<i64>(fill + o, s);
        changed = true;
      }
      before = s;
    }
    // Both ways have to be gone at least once.
    if (first) changed = true;
    first = false;
    downward = !downward;
  }
  let ways = 0;
  if (up && load<i64>(fill) & load<i64>(open - <usize>stride) & ~load<i64>(fill - <usize>stride)) ways |= 1;
  const last = <usize>((SIDE - 1) * stride), next = <usize>(SIDE * stride);
  if (down && load<i64>(fill + last) & load<i64>(open + next) & ~load<i64>(fill + next)) ways |= 2;
  let toLeft: u64 = 0, toRight: u64 = 0;
  for (let y = 0; y < SIDE; y++) {
    const o = <usize>(y * stride);
    const here = load<u64>(fill + o);
    if (left) toLeft |= (here << 63) & load<u64>(open + o - 8) & ~load<u64>(fill + o - 8);
    if (right) toRight |= (here >> 63) & load<u64>(open + o + 8) & ~load<u64>(fill + o + 8);
  }
  if (toLeft) ways |= 4;
  if (toRight) ways |= 8;
  return ways;
}

// ---- taking regions together ----

export const AND: i32 = 0;
export const OR: i32 = 1;
export const AND_NOT: i32 = 2;
/** Only what is set in just one of them. */
export const EITHER: i32 = 3;

/** dst = dst (and, or, and not, either) src, over `count` words. */
export function joinBits(dst: usize, src: usize, count: i32, how: i32): void {
  for (let i = 0; i < count; i++) {
    const o = <usize>(i << 3);
    const a = load<i64>(dst + o), b = load<i64>(src + o);
    store<i64>(dst + o, how == AND ? a & b : how == OR ? a | b : how == AND_NOT ? a & ~b : a ^ b);
  }
}

export function countBits(src: usize, count: i32): i32 {
  let n: i64 = 0;
  for (let i = 0; i < count; i++) n += popcnt<i64>(load<i64>(src + <usize>(i << 3)));
  return <i32>n;
}

/** The first word from `from` on that is not empty, −1 where all are. */
export function nextWord(src: usize, from: i32, count: i32): i32 {
  for (let i = from; i < count; i++) if (load<i64>(src + <usize>(i << 3)) != 0) return i;
  return -1;
}

/** Set pixels of a flooded region. */
export function regionArea(fill: usize, words: i32, touched: usize, count: i32): i32 {
  let n: i64 = 0;
  for (let t = 0; t < count; t++) {
    const at = fill + firstWord(load<i32>(touched + <usize>(t << 2)), words);
    for (let y = 0; y < SIDE; y++) n += popcnt<i64>(load<i64>(at + <usize>(y * words << 3)));
  }
  return <i32>n;
}

// @ts-ignore: decorator
@inline function firstWord(tile: i32, words: i32): usize {
  return <usize>((((tile / words) << 6) * words + (tile % words)) << 3);
}

/**
 * A flooded region is taken out of what is left, its pixels get a number (0: none), and
 * `fill` is empty again. `labels`: a u16 a pixel, rows of 64 · words.
 */
export function takeRegion(
  fill: usize, left: usize, labels: usize, words: i32, touched: usize, count: i32, label: i32,
): void {
  for (let t = 0; t < count; t++) {
    const at = firstWord(load<i32>(touched + <usize>(t << 2)), words);
    for (let y = 0; y < SIDE; y++) {
      const o = at + <usize>(y * words << 3);
      let bits = load<i64>(fill + o);
      if (bits == 0) continue;
      store<i64>(left + o, load<i64>(left + o) & ~bits);
      store<i64>(fill + o, 0);
      if (label == 0) continue;
      // A word of bits is 64 numbers of two bytes: eight times eight bytes' sixteenfold.
      const row = labels + (o << 4);
      while (bits != 0) {
        const x = ctz<i64>(bits);
        store<u16>(row + <usize>(x << 1), <u16>label);
        bits &= bits - 1;
      }
    }
  }
}

/**
 * One step in which every numbered region grows into what is free, four ways or (`eight`)
 * eight. `known`: which pixels have a number; `next` becomes that with the new ones. A pixel
 * takes the number of the first neighbour that had one: left, up, right, down, then the
 * corners. Returns how many pixels were won.
 */
export function spreadLabels(
  labels: usize, known: usize, next: usize, free: usize, words: i32, rows: i32, eight: i32,
): i32 {
  const rowBytes = words << 3, pixels = words << 6;
  let won = 0;
  for (let y = 0; y < rows; y++) {
    const row = known + <usize>(y * rowBytes);
    const up = y > 0 ? row - <usize>rowBytes : 0, down = y + 1 < rows ? row + <usize>rowBytes : 0;
    for (let x = 0; x < words; x++) {
      const o = <usize>(x << 3);
      const here = load<i64>(row + o);
      const room = load<i64>(free + <usize>(y * rowBytes) + o) & ~here;
      let bits: i64 = 0;
      if (room != 0) {
        bits = sideways(row, x, words);
        if (up) bits |= eight ? sideways(up, x, words) : load<i64>(up + o);
        if (down) bits |= eight ? sideways(down, x, words) : load<i64>(down + o);
        bits &= room;
      }
      store<i64>(next + <usize>(y * rowBytes) + o, here | bits);
      while (bits != 0) {
        const px = (x << 6) + <i32>ctz<i64>(bits);
        bits &= bits - 1;
        store<u16>(labels + <usize>((y * pixels + px) << 1), neighbour(labels, row, up, down, px, y, pixels));
        won++;
      }
    }
  }
  return won;
}

// @ts-ignore: decorator
@inline function isSet(row: usize, x: i32, pixels: i32): bool {
  if (row == 0 || x < 0 || x >= pixels) return false;
  return ((load<i64>(row + <usize>((x >> 6) << 3)) >> (x & 63)) & 1) != 0;
}

function neighbour(labels: usize, row: usize, up: usize, down: usize, x: i32, y: i32, pixels: i32): u16 {
  const at = labels + <usize>((y * pixels + x) << 1), line = <usize>(pixels << 1);
  if (isSet(row, x - 1, pixels)) return load<u16>(at - 2);
  if (isSet(up, x, pixels)) return load<u16>(at - line);
  if (isSet(row, x + 1, pixels)) return load<u16>(at + 2);
  if (isSet(down, x, pixels)) return load<u16>(at + line);
  if (isSet(up, x - 1, pixels)) return load<u16>(at - line - 2);
  if (isSet(up, x + 1, pixels)) return load<u16>(at - line + 2);
  if (isSet(down, x + 1, pixels)) return load<u16>(at + line + 2);
  return load<u16>(at + line - 2);
}

// ---- from regions to paint ----

/** How paint is laid through a region. */
export const COVER: i32 = 0;
export const BEHIND: i32 = 1;
export const TAKE: i32 = 2;
export const TINT_INSIDE: i32 = 3;

/** Eight bits as eight lanes, all ones or none. */
// @ts-ignore: decorator
@inline function lanes(bits: i32): v128 {
  const each = i16x8(1, 2, 4, 8, 16, 32, 64, 128);
  return i16x8.eq(v128.and(i16x8.splat(<i16>bits), each), each);
}

/**
 * One colour (Q15, straight, opaque) laid through the bits of a tile: over what is there,
 * behind it, only its alpha taken away, or its colour changed and its alpha kept.
 */
export function layBits(tile: usize, bits: usize, stride: i32, how: i32, r: i32, g: i32, b: i32): void {
  const cr = i16x8.splat(<i16>r), cg = i16x8.splat(<i16>g), cb = i16x8.splat(<i16>b);
  const zero = i16x8.splat(0), one = i16x8.splat(32767);
  for (let y = 0; y < SIDE; y++) {
    const row = load<i64>(bits + <usize>(y * stride));
    if (row == 0) continue;
    for (let block = 0; block < 8; block++) {
      const here = <i32>(row >> (block << 3)) & 255;
      if (here == 0) continue;
      const mask = lanes(here), at = tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const a = v128.load(at, 48);
      let nr = cr, ng = cg, nb = cb, na = one;
      if (how == TAKE) {
        nr = ng = nb = na = zero;
      } else if (how == BEHIND) {
        const rest = complement(a);
        nr = plus(v128.load(at), mul(cr, rest));
        ng = plus(v128.load(at, 16), mul(cg, rest));
        nb = plus(v128.load(at, 32), mul(cb, rest));
      } else if (how == TINT_INSIDE) {
        const whole = i16x8.eq(a, one);
        nr = v128.bitselect(cr, mul(cr, a), whole);
        ng = v128.bitselect(cg, mul(cg, a), whole);
        nb = v128.bitselect(cb, mul(cb, a), whole);
        na = a;
      }
      v128.store(at, v128.bitselect(nr, v128.load(at), mask));
      v128.store(at, v128.bitselect(ng, v128.load(at, 16), mask), 16);
      v128.store(at, v128.bitselect(nb, v128.load(at, 32), mask), 32);
      v128.store(at, v128.bitselect(na, a, mask), 48);
    }
  }
}

/** Numbered regions in colours: `palette` r g b a (u16, premultiplied) by number. */
export function layLabels(tile: usize, labels: usize, stride: i32, palette: usize): void {
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const colour = palette + (<usize>load<u16>(labels + <usize>(y * stride + (x << 1))) << 3);
      const at = tile + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      store<u16>(at, load<u16>(colour));
      store<u16>(at, load<u16>(colour, 2), 16);
      store<u16>(at, load<u16>(colour, 4), 32);
      store<u16>(at, load<u16>(colour, 6), 48);
    }
  }
}

// ---- masks ----

/** Alpha raised by `amount` (Q15), to one at most, through the bits of a tile. */
export function raiseBits(tile: usize, bits: usize, stride: i32, amount: i32): void {
  const more = i16x8.splat(<i16>amount);
  for (let y = 0; y < SIDE; y++) {
    const row = load<i64>(bits + <usize>(y * stride));
    if (row == 0) continue;
    for (let block = 0; block < 8; block++) {
      const at = tile + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const raised = v128.and(more, lanes(<i32>(row >> (block << 3)) & 255));
      v128.store(at, plus(v128.load(at, 48), raised), 48);
    }
  }
}

/** Rec. 709 light of four pixels, weighed in 32 bits: the weights sum to 1, so that white is exactly light. */
@inline function light4(r: v128, g: v128, b: v128): v128 {
  return i32x4.shr_s(i32x4.add(i32x4.add(r, g), i32x4.add(b, i32x4.splat(16384))), 15);
}

/** A mask from how light (or dark) paint is: alpha × light, or alpha less it; Rec. 709 weights. */
export function lightMask(dst: usize, src: usize, dark: i32): void {
  const wr = i16x8.splat(6966), wg = i16x8.splat(23436), wb = i16x8.splat(2366), zero = i16x8.splat(0);
  for (let o: usize = 0; o < 32768; o += 64) {
    const from = src + o, a = v128.load(from, 48);
    const r = v128.load(from), g = v128.load(from, 16), b = v128.load(from, 32);
    const low = light4(i32x4.extmul_low_i16x8_s(r, wr), i32x4.extmul_low_i16x8_s(g, wg), i32x4.extmul_low_i16x8_s(b, wb));
    const high = light4(i32x4.extmul_high_i16x8_s(r, wr), i32x4.extmul_high_i16x8_s(g, wg), i32x4.extmul_high_i16x8_s(b, wb));
    const light = i16x8.min_s(i16x8.narrow_i32x4_s(low, high), a);
    v128.store(dst + o, zero);
    v128.store(dst + o, zero, 16);
    v128.store(dst + o, zero, 32);
    v128.store(dst + o, dark ? i16x8.sub(a, light) : light, 48);
  }
}

/** The cosine between four surfaces and the way toward a light, at least 0, as alpha: a direction is told by 2 · colour − alpha. */
// @ts-ignore: decorator
@inline function facing4(r: v128, g: v128, b: v128, a: v128, right: v128, up: v128, front: v128): v128 {
  const two = f32x4.splat(2);
  const x = f32x4.mul(f32x4.sub(f32x4.mul(r, two), a), right);
  const y = f32x4.mul(f32x4.sub(f32x4.mul(g, two), a), up);
  const z = f32x4.mul(f32x4.sub(f32x4.mul(b, two), a), front);
  return f32x4.pmin(a, f32x4.pmax(f32x4.splat(0), f32x4.add(x, f32x4.add(y, z))));
}

/** A mask of how far the surfaces that a picture shows face a light. */
export function facingMask(dst: usize, src: usize, right: f32, up: f32, front: f32): void {
  const x = f32x4.splat(right), y = f32x4.splat(up), z = f32x4.splat(front), zero = i16x8.splat(0);
  for (let o: usize = 0; o < 32768; o += 64) {
    const r = v128.load(src + o), g = v128.load(src + o, 16), b = v128.load(src + o, 32), a = v128.load(src + o, 48);
    const low = facing4(lowToFloat(r), lowToFloat(g), lowToFloat(b), lowToFloat(a), x, y, z);
    const high = facing4(highToFloat(r), highToFloat(g), highToFloat(b), highToFloat(a), x, y, z);
    v128.store(dst + o, zero);
    v128.store(dst + o, zero, 16);
    v128.store(dst + o, zero, 32);
    v128.store(dst + o, fromFloat(low, high), 48);
  }
}

/** Two masks taken together: the greater alpha, the lesser, or the first less the second. */
export function joinMasks(dst: usize, src: usize, how: i32): void {
  for (let o: usize = 48; o < 32768; o += 64) {
    const a = v128.load(dst + o), b = v128.load(src + o);
    let out: v128;
    if (how == OR) out = i16x8.max_s(a, b);
    else if (how == AND) out = i16x8.min_s(a, b);
    else out = i16x8.min_s(a, complement(b));
    v128.store(dst + o, out);
  }
}

/**
 * dst = before where the mask's alpha is nothing, dst where it is whole, between them between. Rows top…bottom−1, blocks
 * left…right−1: what is kept twice is held back twice, so it is asked for where dst was made anew, and there alone.
 */
export function keepInside(dst: usize, before: usize, mask: usize, left: i32, top: i32, right: i32, bottom: i32): void {
  const one = i16x8.splat(32767);
  for (let y = top; y < bottom; y++) {
    const end = <usize>y * ROW_BYTES + <usize>right * BLOCK_BYTES;
    for (let o = <usize>y * ROW_BYTES + <usize>left * BLOCK_BYTES; o < end; o += BLOCK_BYTES) {
      const m = v128.load(mask + o, 48);
      const whole = i16x8.eq(m, one);
      if (i16x8.all_true(whole)) continue;
      for (let c: usize = 0; c < 64; c += 16) {
        const from = v128.load(before + o + c), to = v128.load(dst + o + c);
        v128.store(dst + o + c, v128.bitselect(to, plus(from, mul(i16x8.sub(to, from), m)), whole));
      }
    }
  }
}

/** dst = src as far as a mask holds nothing back (`outside`), or only what it covers. */
export function holdBack(dst: usize, src: usize, mask: usize, outside: i32): void {
  const one = i16x8.splat(32767);
  for (let o: usize = 0; o < 32768; o += 64) {
    let m = v128.load(mask + o, 48);
    if (outside) m = complement(m);
    const whole = i16x8.eq(m, one);
    for (let c: usize = 0; c < 64; c += 16) {
      const v = v128.load(src + o + c);
      v128.store(dst + o + c, v128.bitselect(v, mul(v, m), whole));
    }
  }
}
