/**
 * Fields of numbers: what papers are made of. A module of its own with memory of its own, so that papers
 * are made where there is no engine. A field is a square of f32, its side a power of two, and repeats
 * without a seam.
 */

/** Makes sure that `bytes` bytes lie beyond the returned address. */
export function room(bytes: i32): usize {
  const pages = ((<usize>bytes + __heap_base) >> 16) + 1;
  if (<usize>memory.size() < pages) memory.grow(<i32>pages - memory.size());
  return (__heap_base + 15) & ~15;
}

// @ts-ignore: decorator
@inline function cell(row: usize, x: i32, last: i32): f32 {
  return load<f32>(row + <usize>((x & last) << 2));
}

/** A mean of 2 · whole + 1 cells along each row, the two beyond them counted in part. */
function meanAlong(from: usize, to: usize, side: i32, whole: i32, part: f32, share: f32): void {
  const last = side - 1;
  for (let y = 0; y < side; y++) {
    const row = from + <usize>((y * side) << 2), out = to + <usize>((y * side) << 2);
    let total: f32 = 0;
    for (let i = -whole; i <= whole; i++) total += cell(row, i, last);
    for (let x = 0; x < side; x++) {
      const coming = cell(row, x + whole + 1, last);
      store<f32>(out + <usize>(x << 2), (total + part * (cell(row, x - whole - 1, last) + coming)) * share);
      total += coming - cell(row, x - whole, last);
    }
  }
}

/** The same down the columns, a row at a time; `totals`: room for a row. */
function meanDown(from: usize, to: usize, totals: usize, side: i32, whole: i32, part: f32, share: f32): void {
  const last = side - 1;
  const bytes = side << 2;
  const parts = f32x4.splat(part), shares = f32x4.splat(share);
  memory.fill(totals, 0, bytes);
  for (let i = -whole; i <= whole; i++) {
    const row = from + <usize>((i & last) * bytes);
    for (let x: usize = 0; x < <usize>bytes; x += 16)
      v128.store(totals + x, f32x4.add(v128.load(totals + x), v128.load(row + x)));
  }
  for (let y = 0; y < side; y++) {
    const after = from + <usize>(((y + whole + 1) & last) * bytes);
    const before = from + <usize>(((y - whole - 1) & last) * bytes);
    const leaves = from + <usize>(((y - whole) & last) * bytes);
    const out = to + <usize>(y * bytes);
    for (let x: usize = 0; x < <usize>bytes; x += 16) {
      const coming = v128.load(after + x), total = v128.load(totals + x);
      const sum = f32x4.add(total, f32x4.mul(parts, f32x4.add(v128.load(before + x), coming)));
      v128.store(out + x, f32x4.mul(sum, shares));
      v128.store(totals + x, f32x4.add(total, f32x4.sub(coming, v128.load(leaves + x))));
    }
  }
}

/** Three means one after another, in both directions; `between`: room for another field and a row. */
export function blur(field: usize, between: usize, side: i32, whole: i32, part: f32, share: f32): void {
  for (let pass = 0; pass < 3; pass++) {
    meanAlong(field, between, side, whole, part, share);
    meanDown(between, field, between + <usize>(side * side * 4), side, whole, part, share);
  }
}

/** Numbers 0…1 by chance, the same for the same seed: a linear generator, its bits stirred. */
let state: u32 = 0;

// @ts-ignore: decorator
@inline function sow(seed: i32): void {
  state = (<u32>seed + 1) * 0x9e3779b1;
}

// @ts-ignore: decorator
@inline function chance(): f32 {
  state = state * 1664525 + 1013904223;
  const x = (state ^ (state >> 15)) * 0x2c1b3c6d;
  return <f32>(<f64>(x ^ (x >> 12)) / 4294967296.0);
}

export function white(field: usize, count: i32, seed: i32): void {
  sow(seed);
  for (let i = 0; i < count; i++) store<f32>(field + <usize>(i << 2), chance());
}

export function copy(to: usize, from: usize, count: i32): void {
  memory.copy(to, from, count << 2);
}

/** to += by · from */
export function add(to: usize, from: usize, by: f32, count: i32): void {
  const share = f32x4.splat(by);
  for (let at: usize = 0; at < <usize>(count << 2); at += 16)
    v128.store(to + at, f32x4.add(v128.load(to + at), f32x4.mul(share, v128.load(from + at))));
}

/** Brings a field to mean 0 and variance 1. */
export function unit(field: usize, count: i32): void {
  let mean: f64 = 0, square: f64 = 0;
  for (let i = 0; i < count; i++) mean += <f64>load<f32>(field + <usize>(i << 2));
  mean /= <f64>count;
  for (let i = 0; i < count; i++) {
    const off = <f64>load<f32>(field + <usize>(i << 2)) - mean;
    square += off * off;
  }
  const less = f32x4.splat(<f32>mean), scale = f32x4.splat(<f32>(1.0 / Math.sqrt(square / <f64>count)));
  for (let at: usize = 0; at < <usize>(count << 2); at += 16)
    v128.store(field + at, f32x4.mul(f32x4.sub(v128.load(field + at), less), scale));
}

/** Takes the sign away. */
export function fold(field: usize, count: i32): void {
  for (let at: usize = 0; at < <usize>(count << 2); at += 16) v128.store(field + at, f32x4.abs(v128.load(field + at)));
}

/** A mat of curved fibres lying every way, one over another; lengths and half their thickness in px. */
export function fibres(mat: usize, side: i32, count: i32, short: f32, long: f32, half: f32, seed: i32): void {
  const last = side - 1;
  const one: f32 = 1, two: f32 = 2;
  const per = one / (half * half);
  memory.fill(mat, 0, <usize>(side * side) << 2);
  sow(seed);
  for (let fibre = 0; fibre < count; fibre++) {
    let x = chance() * <f32>side, y = chance() * <f32>side;
    const t = chance() * two - one;
    let dx = (one - t * t) / (one + t * t), dy = (two * t) / (one + t * t);
    const length = short + chance() * (long - short);
    const height = <f32>0.5 + chance();
    const bend = (chance() * 2 - 1) * <f32>0.12;
    for (let s: f32 = 0; s < length; s += one) {
      const right = <i32>Mathf.floor(x + half), bottom = <i32>Mathf.floor(y + half);
      for (let v = <i32>Mathf.ceil(y - half); v <= bottom; v++)
        for (let u = <i32>Mathf.ceil(x - half); u <= right; u++) {
          const ox = <f32>u - x, oy = <f32>v - y;
          const off = (ox * ox + oy * oy) * per;
          if (off >= one) continue;
          const at = mat + <usize>(((v & last) * side + (u & last)) << 2);
          store<f32>(at, load<f32>(at) + height * (one - off));
        }
      x += dx;
      y += dy;
      const turnedX = dx - dy * bend, turnedY = dy + dx * bend;
      const turn = one / Mathf.sqrt(turnedX * turnedX + turnedY * turnedY);
      dx = turnedX * turn;
      dy = turnedY * turn;
    }
  }
}

/** A wave of period 1 from −1 to 1, two parabolas: near a sine. */
// @ts-ignore: decorator
@inline function wave(t: f32): f32 {
  const u = t - Mathf.floor(t);
  const half = u < <f32>0.5 ? u * <f32>2 : u * <f32>2 - <f32>1;
  const hump = <f32>4 * half * (<f32>1 - half);
  return u < <f32>0.5 ? hump : -hump;
}

/** Adds to fibres the wires of a mould, close together one way, and its chains, far apart the other. */
export function wires(field: usize, waver: usize, side: i32, count: f32, apart: f32): void {
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const at = <usize>((y * side + x) << 2);
      const off = load<f32>(waver + at);
      const wire = wave((<f32>y * count) / <f32>side + off * <f32>0.07);
      const place = <f32>x + off * <f32>1.2 + apart * <f32>1.5;
      const away = Mathf.abs(place - Mathf.floor(place / apart) * apart - apart / <f32>2);
      const chain = max<f32>(0, <f32>1 - away / <f32>5);
      store<f32>(field + at, <f32>0.62 * load<f32>(field + at) + <f32>0.75 * wire - <f32>1.3 * chain);
    }
}

// @ts-ignore: decorator
@inline function thread(at: f32, width: f32): f32 {
  const off = (at - Mathf.floor(at / width) * width) / (width / <f32>2) - <f32>1;
  return Mathf.sqrt(max<f32>(0, <f32>1 - off * off));
}

/** Round threads over and under each other, shifted and uneven, into the nap. */
export function weave(field: usize, shift: usize, uneven: usize, side: i32, width: f32): void {
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const at = <usize>((y * side + x) << 2);
      const off = load<f32>(shift + at) * <f32>0.5;
      const px = <f32>x + off, py = <f32>y + off;
      const over = <f32>0.45 * wave(px / (<f32>2 * width)) * wave(py / (<f32>2 * width));
      const thick = <f32>1 + <f32>0.12 * load<f32>(uneven + at);
      const warp = thread(px, width) * thick + over, weft = thread(py, width) * thick - over;
      store<f32>(field + at, max<f32>(warp, weft) + <f32>0.12 * load<f32>(field + at));
    }
}

/** Steps in which values are told apart when they are ranked. */
const STEPS: i32 = 65536;

/** Every value replaced by its rank, 0…255, in bytes at `out`; `below`: room for 65 537 words. */
export function rank(field: usize, count: i32, out: usize, below: usize): void {
  let least = load<f32>(field), most = least;
  for (let i = 1; i < count; i++) {
    const v = load<f32>(field + <usize>(i << 2));
    least = min<f32>(least, v);
    most = max<f32>(most, v);
  }
  const scale = <f32>(STEPS - 1) / max<f32>(most - least, <f32>1e-9);
  memory.fill(below, 0, <usize>(STEPS + 1) << 2);
  for (let i = 0; i < count; i++) {
    const at = below + <usize>((<i32>((load<f32>(field + <usize>(i << 2)) - least) * scale) + 1) << 2);
    store<i32>(at, load<i32>(at) + 1);
  }
  for (let i = 1; i <= STEPS; i++) {
    const at = below + <usize>(i << 2);
    store<i32>(at, load<i32>(at) + load<i32>(at - 4));
  }
  for (let i = 0; i < count; i++) {
    const at = below + <usize>(<i32>((load<f32>(field + <usize>(i << 2)) - least) * scale) << 2);
    const middle = (<f64>load<i32>(at) + <f64>load<i32>(at + 4)) / 2;
    store<u8>(out + <usize>i, <u8>min<i32>(255, <i32>((middle / <f64>count) * 256.0)));
  }
}
