import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { mul, plus } from "./q15";

/** Steps of a table: 0…1 in 1024, both ends. */
const STEPS: f32 = 1024;
/** Corners a side of a colour cube. */
const CUBE: i32 = 33;

// @ts-ignore: decorator
@inline function held(v: f32): f32 {
  return v < 0 ? 0 : v > 1 ? 1 : v;
}

/** Between the entries of a table of f32, `step` numbers apart. */
// @ts-ignore: decorator
@inline function look(table: usize, step: i32, v: f32): f32 {
  const at = held(v) * STEPS;
  const i = min(1023, <i32>at);
  const from = table + <usize>((i * step) << 2);
  const a = load<f32>(from);
  return a + (load<f32>(from + <usize>(step << 2)) - a) * (at - <f32>i);
}

/** Three tables one after the other: each channel by its own. */
export const CHANNELS: i32 = 0;
/** One table of r g b by how light a colour is. */
export const BY_VALUE: i32 = 1;
/** A cube of r g b, red going slowest: a colour for each colour. */
export const BY_COLOUR: i32 = 2;

/** Lightness 0…1 of a colour: OKLab L (Ottosson 2020), linear light by a cubic. */
// @ts-ignore: decorator
@inline function lightness(r: f32, g: f32, b: f32): f32 {
  const lr = linear(r), lg = linear(g), lb = linear(b);
  const l = root(<f32>0.4122214708 * lr + <f32>0.5363325363 * lg + <f32>0.0514459929 * lb);
  const m = root(<f32>0.2119034982 * lr + <f32>0.6806995451 * lg + <f32>0.1073969566 * lb);
  const s = root(<f32>0.0883024619 * lr + <f32>0.2817188376 * lg + <f32>0.6299787005 * lb);
  return <f32>0.2104542553 * l + <f32>0.793617785 * m - <f32>0.0040720468 * s;
}

// @ts-ignore: decorator
@inline function linear(c: f32): f32 {
  return c * (c * (c * <f32>0.305306011 + <f32>0.682171111) + <f32>0.012522878);
}

// @ts-ignore: decorator
@inline function root(x: f32): f32 {
  if (x < <f32>1e-7) return 0;
  const v = x;
  let y = reinterpret<f32>(<i32>(<f32>reinterpret<i32>(v) * <f32>(1.0 / 3.0)) + 709921077);
  y = (y + y + v / (y * y)) * <f32>(1.0 / 3.0);
  return (y + y + v / (y * y)) * <f32>(1.0 / 3.0);
}

let outR: f32 = 0;
let outG: f32 = 0;
let outB: f32 = 0;

/** A colour looked up in a cube, between its eight corners. */
function fromCube(table: usize, r: f32, g: f32, b: f32): void {
  const x = held(r) * <f32>(CUBE - 1), y = held(g) * <f32>(CUBE - 1), z = held(b) * <f32>(CUBE - 1);
  const i = min(CUBE - 2, <i32>x), j = min(CUBE - 2, <i32>y), k = min(CUBE - 2, <i32>z);
  const fx = x - <f32>i, fy = y - <f32>j, fz = z - <f32>k;
  let sr: f32 = 0, sg: f32 = 0, sb: f32 = 0;
  for (let corner = 0; corner < 8; corner++) {
    const cx = corner & 1, cy = (corner >> 1) & 1, cz = corner >> 2;
    const w = (cx ? fx : 1 - fx) * (cy ? fy : 1 - fy) * (cz ? fz : 1 - fz);
    if (w == 0) continue;
    const at = table + <usize>(((((i + cx) * CUBE + j + cy) * CUBE + k + cz) * 3) << 2);
    sr += w * load<f32>(at);
    sg += w * load<f32>(at, 4);
    sb += w * load<f32>(at, 8);
  }
  outR = sr;
  outG = sg;
  outB = sb;
}

/** A tile's colours changed by a table, on straight colour; alpha stays. */
export function adjustTile(dst: usize, src: usize, kind: i32, table: usize): void {
  let lastR: u32 = 0xffff, lastG: u32 = 0xffff, lastB: u32 = 0xffff, lastA: u32 = 0xffff;
  let r16: u16 = 0, g16: u16 = 0, b16: u16 = 0;
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const o = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const r = <u32>load<u16>(src + o), g = <u32>load<u16>(src + o, 16), b = <u32>load<u16>(src + o, 32), a = <u32>load<u16>(src + o, 48);
      // Neighbours are often alike.
      if (r != lastR || g != lastG || b != lastB || a != lastA) {
        lastR = r;
        lastG = g;
        lastB = b;
        lastA = a;
        if (a == 0) {
          r16 = g16 = b16 = 0;
        } else {
          const per: f32 = <f32>1 / <f32>a;
          const fr = <f32>r * per, fg = <f32>g * per, fb = <f32>b * per;
          if (kind == CHANNELS) {
            outR = look(table, 1, fr);
            outG = look(table + 4100, 1, fg);
            outB = look(table + 8200, 1, fb);
          } else if (kind == BY_VALUE) {
            const v = lightness(held(fr), held(fg), held(fb));
            outR = look(table, 3, v);
            outG = look(table + 4, 3, v);
            outB = look(table + 8, 3, v);
          } else fromCube(table, fr, fg, fb);
          const fa = <f32>a;
          r16 = <u16>(held(outR) * fa + <f32>0.5);
          g16 = <u16>(held(outG) * fa + <f32>0.5);
          b16 = <u16>(held(outB) * fa + <f32>0.5);
        }
      }
      store<u16>(dst + o, r16);
      store<u16>(dst + o, g16, 16);
      store<u16>(dst + o, b16, 32);
      store<u16>(dst + o, <u16>a, 48);
    }
  }
}

export const LINEAR: i32 = 0;
export const RADIAL: i32 = 1;
export const ALONG_PATH: i32 = 2;

/**
 * A gradient over the tile at (px, py). `shape`: x0 y0 x1 y1 (f32), the count of points of a
 * path (i32) and the points (x, y, share of the length). `table`: 1025 colours, premultiplied
 * r g b a in f32 0…1. `noise`: blue noise, against bands.
 */
export function gradientTile(dst: usize, px: i32, py: i32, kind: i32, shape: usize, table: usize, noise: usize): void {
  const x0 = load<f32>(shape), y0 = load<f32>(shape, 4), dx = load<f32>(shape, 8) - x0, dy = load<f32>(shape, 12) - y0;
  const length2 = dx * dx + dy * dy;
  const per: f32 = length2 > 0 ? 1 / length2 : 0;
  const count = load<i32>(shape, 16);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const ex = <f32>(px + x) + 0.5 - x0, ey = <f32>(py + y) + 0.5 - y0;
      let t: f32;
      if (kind == LINEAR) t = (ex * dx + ey * dy) * per;
      else if (kind == RADIAL) t = sqrt((ex * ex + ey * ey) * per);
      else t = alongPath(shape + 20, count, <f32>(px + x) + 0.5, <f32>(py + y) + 0.5);
      const o = <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      // Half a step of 1/256 either way, so that slow gradients show no bands at 8 bits.
      const n = (<f32>load<u16>(noise + <usize>((y << 8) + (x << 1))) - <f32>127.5) * <f32>(1.0 / 65536.0);
      const a = look(table + 12, 4, t);
      const shake = a > 0 ? n : 0;
      const a16 = <i32>(a * <f32>32767 + <f32>0.5);
      store<u16>(dst + o, shaken(look(table, 4, t), shake, a16));
      store<u16>(dst + o, shaken(look(table + 4, 4, t), shake, a16), 16);
      store<u16>(dst + o, shaken(look(table + 8, 4, t), shake, a16), 32);
      store<u16>(dst + o, <u16>a16, 48);
    }
  }
}

// @ts-ignore: decorator
@inline function shaken(v: f32, n: f32, a: i32): u16 {
  const q = <i32>(held(v + n) * <f32>32767 + <f32>0.5);
  return <u16>min(q, a);
}

/** The share of a path's length at its point nearest to (x, y). */
function alongPath(points: usize, count: i32, x: f32, y: f32): f32 {
  let best: f32 = 1e30, share: f32 = 0;
  for (let i = 0; i + 1 < count; i++) {
    const at = points + <usize>(i * 12);
    const ax = load<f32>(at), ay = load<f32>(at, 4), bx = load<f32>(at, 12) - ax, by = load<f32>(at, 16) - ay;
    const l2 = bx * bx + by * by;
    const h: f32 = l2 > 0 ? held(((x - ax) * bx + (y - ay) * by) / l2) : 0;
    const ex = x - ax - h * bx, ey = y - ay - h * by;
    const d = ex * ex + ey * ey;
    if (d >= best) continue;
    best = d;
    const from = load<f32>(at, 8);
    share = from + (load<f32>(at, 20) - from) * h;
  }
  return share;
}

/** dst = before + (dst − before) · share (Q15). */
export function mixTile(dst: usize, before: usize, share: i32): void {
  const s = i16x8.splat(<i16>share);
  for (let o: usize = 0; o < 32768; o += 16) {
    const from = v128.load(before + o);
    v128.store(dst + o, plus(from, mul(i16x8.sub(v128.load(dst + o), from), s)));
  }
}

/** A mask in one colour: r g b become the colour times alpha. */
export function colourMask(tile: usize, r: i32, g: i32, b: i32): void {
  const cr = i16x8.splat(<i16>r), cg = i16x8.splat(<i16>g), cb = i16x8.splat(<i16>b), one = i16x8.splat(32767);
  for (let o: usize = 0; o < 32768; o += 64) {
    const a = v128.load(tile + o, 48);
    const whole = i16x8.eq(a, one);
    v128.store(tile + o, v128.bitselect(cr, mul(cr, a), whole));
    v128.store(tile + o, v128.bitselect(cg, mul(cg, a), whole), 16);
    v128.store(tile + o, v128.bitselect(cb, mul(cb, a), whole), 32);
  }
}
