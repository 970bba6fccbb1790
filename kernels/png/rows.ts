/**
 * Rows of a PNG: filters put on and taken off (PNG, third edition, 9 and 12.7), samples widened
 * to straight RGBA. A module of its own with memory of its own, so that files are read and
 * written where there is no engine. Rows lie from `room()` on; byte counts are without the byte
 * that says the kind of filter.
 */

const NONE: i32 = 0;
const SUB: i32 = 1;
const UP: i32 = 2;
const AVERAGE: i32 = 3;
const PAETH: i32 = 4;

/** Makes sure that `bytes` bytes lie beyond the returned address. */
export function room(bytes: i32): usize {
  const pages = ((<usize>bytes + __heap_base) >> 16) + 1;
  if (<usize>memory.size() < pages) memory.grow(<i32>pages - memory.size());
  return (__heap_base + 15) & ~15;
}

// @ts-ignore: decorator
@inline function paeth(a: i32, b: i32, c: i32): i32 {
  const pa = abs(b - c), pb = abs(a - c), pc = abs(a + b - 2 * c);
  return pa <= pb && pa <= pc ? a : pb <= pc ? b : c;
}

// @ts-ignore: decorator
@inline function pixelAt(at: usize): v128 {
  return i16x8.extend_low_i8x16_u(v128.load32_zero(at));
}

/**
 * As `unfilter`, for pixels of three or four bytes: the bytes of a pixel side by side, since
 * each pixel waits for the one before it.
 */
function unfilterPixels(kind: i32, row: usize, above: usize, n: i32, step: i32): void {
  const byte = i16x8.splat(255);
  let a = i16x8.splat(0), c = a;
  for (let i = 0; i < n; i += step) {
    const b = pixelAt(above + i), x = pixelAt(row + i);
    let taken = a;
    if (kind == AVERAGE) taken = i16x8.shr_u(i16x8.add(a, b), 1);
    else if (kind == PAETH) taken = paethHalf(a, b, c);
    a = v128.and(i16x8.add(x, taken), byte);
    c = b;
    const out = i32x4.extract_lane(i8x16.narrow_i16x8_u(a, a), 0);
    if (step == 4) store<u32>(row + i, out);
    else {
      store<u16>(row + i, <u16>out);
      store<u8>(row + i, <u8>(out >> 16), 2);
    }
  }
}

/** Takes the filter off a row in place. @returns 0 where its kind is unknown */
export function unfilter(kind: i32, row: usize, above: usize, n: i32, step: i32): i32 {
  if (kind == NONE) return 1;
  if ((step == 3 || step == 4) && (kind == SUB || kind == AVERAGE || kind == PAETH)) {
    unfilterPixels(kind, row, above, n, step);
    return 1;
  }
  if (kind == SUB) {
    for (let i = step; i < n; i++) store<u8>(row + i, load<u8>(row + i) + load<u8>(row + i - step));
  } else if (kind == UP) {
    let i = 0;
    for (; i + 16 <= n; i += 16) v128.store(row + i, i8x16.add(v128.load(row + i), v128.load(above + i)));
    for (; i < n; i++) store<u8>(row + i, load<u8>(row + i) + load<u8>(above + i));
  } else if (kind == AVERAGE) {
    for (let i = 0; i < step; i++) store<u8>(row + i, load<u8>(row + i) + (load<u8>(above + i) >> 1));
    for (let i = step; i < n; i++) {
      const mean = (<i32>load<u8>(row + i - step) + <i32>load<u8>(above + i)) >> 1;
      store<u8>(row + i, load<u8>(row + i) + <u8>mean);
    }
  } else if (kind == PAETH) {
    for (let i = 0; i < step; i++) store<u8>(row + i, load<u8>(row + i) + load<u8>(above + i));
    for (let i = step; i < n; i++) {
      const near = paeth(load<u8>(row + i - step), load<u8>(above + i), load<u8>(above + i - step));
      store<u8>(row + i, load<u8>(row + i) + <u8>near);
    }
  } else return 0;
  return 1;
}

/**
 * Widens a row of `width` pixels to RGBA: 1 to 4 channels of one or two bytes (two: high byte
 * first in `row`, low byte first in `out`). `bare`: the packed samples of the one colour that is
 * transparent, one after the other from there; 0: none.
 */
export function widen(row: usize, out: usize, width: i32, channels: i32, deep: i32, bare: usize): void {
  const g = channels < 3 ? 0 : 1, b = channels < 3 ? 0 : 2, last = channels - 1;
  const hasAlpha = channels == 2 || channels == 4;
  if (deep) {
    for (let x = 0; x < width; x++, row += channels * 2, out += 8) {
      const vr = bswap<u16>(load<u16>(row)), vg = bswap<u16>(load<u16>(row + g * 2)), vb = bswap<u16>(load<u16>(row + b * 2));
      store<u16>(out, vr);
      store<u16>(out, vg, 2);
      store<u16>(out, vb, 4);
      const isBare = bare && vr == load<u16>(bare) && vg == load<u16>(bare, 2) && vb == load<u16>(bare, 4);
      store<u16>(out, hasAlpha ? bswap<u16>(load<u16>(row + last * 2)) : isBare ? 0 : 65535, 6);
    }
    return;
  }
  for (let x = 0; x < width; x++, row += channels, out += 4) {
    const vr = load<u8>(row), vg = load<u8>(row + g), vb = load<u8>(row + b);
    store<u8>(out, vr);
    store<u8>(out, vg, 1);
    store<u8>(out, vb, 2);
    const isBare = bare && <u16>vr == load<u16>(bare) && <u16>vg == load<u16>(bare, 2) && <u16>vb == load<u16>(bare, 4);
    store<u8>(out, hasAlpha ? load<u8>(row + last) : isBare ? 0 : 255, 3);
  }
}

/** Σ of how far eight-bit lanes lie from 0 on the circle of 256, added to four sums. */
// @ts-ignore: decorator
@inline function far(sum: v128, v: v128): v128 {
  return i32x4.add(sum, i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(i8x16.abs(v))));
}

// @ts-ignore: decorator
@inline function total(sum: v128): i32 {
  return i32x4.extract_lane(sum, 0) + i32x4.extract_lane(sum, 1) + i32x4.extract_lane(sum, 2) + i32x4.extract_lane(sum, 3);
}

// @ts-ignore: decorator
@inline function mean16(a: v128, b: v128): v128 {
  return i8x16.sub(i8x16.avgr_u(a, b), v128.and(v128.xor(a, b), i8x16.splat(1)));
}

// @ts-ignore: decorator
@inline function paethHalf(a: v128, b: v128, c: v128): v128 {
  const bc = i16x8.sub(b, c), ac = i16x8.sub(a, c);
  const pa = i16x8.abs(bc), pb = i16x8.abs(ac), pc = i16x8.abs(i16x8.add(bc, ac));
  const isA = v128.and(i16x8.le_s(pa, pb), i16x8.le_s(pa, pc));
  return v128.bitselect(a, v128.bitselect(b, c, i16x8.le_s(pb, pc)), isA);
}

// @ts-ignore: decorator
@inline function paeth16(a: v128, b: v128, c: v128): v128 {
  return i8x16.narrow_i16x8_u(
    paethHalf(i16x8.extend_low_i8x16_u(a), i16x8.extend_low_i8x16_u(b), i16x8.extend_low_i8x16_u(c)),
    paethHalf(i16x8.extend_high_i8x16_u(a), i16x8.extend_high_i8x16_u(b), i16x8.extend_high_i8x16_u(c)),
  );
}

/**
 * Puts a filter on a row: the kind that leaves the smallest differences. `out` takes the kind
 * and then the row. Sixteen bytes of zeros must lie before `row` and before `above`.
 */
export function filter(row: usize, above: usize, n: i32, step: i32, out: usize): void {
  const whole = n & ~15;
  let none = i32x4.splat(0), sub = none, up = none, mean = none, near = none;
  for (let i = 0; i < whole; i += 16) {
    const v = v128.load(row + i), a = v128.load(row + i - step), b = v128.load(above + i), c = v128.load(above + i - step);
    none = far(none, v);
    sub = far(sub, i8x16.sub(v, a));
    up = far(up, i8x16.sub(v, b));
    mean = far(mean, i8x16.sub(v, mean16(a, b)));
    near = far(near, i8x16.sub(v, paeth16(a, b, c)));
  }
  const ns = total(none), ss = total(sub), us = total(up), ms = total(mean), ps = total(near);
  const least = min(min(min(ns, ss), min(us, ms)), ps);
  const kind = least == ns ? NONE : least == us ? UP : least == ss ? SUB : least == ps ? PAETH : AVERAGE;
  store<u8>(out, <u8>kind);
  out++;
  // The last few bytes are done with what lies behind them, which is cut off.
  for (let i = 0; i < n; i += 16) {
    const v = v128.load(row + i), a = v128.load(row + i - step), b = v128.load(above + i), c = v128.load(above + i - step);
    let taken = i8x16.splat(0);
    if (kind == SUB) taken = a;
    else if (kind == UP) taken = b;
    else if (kind == AVERAGE) taken = mean16(a, b);
    else if (kind == PAETH) taken = paeth16(a, b, c);
    v128.store(out + i, i8x16.sub(v, taken));
  }
}
