import { SIDE } from "../layout";
import { BULK, BULK_H, GROUND, GROUP, OPEN, ROW_OF_WET, SKIN_H, THINNER } from "./wet";

/**
 * Paint with thinner in it runs: from pixel to pixel where it stands higher, and down the sheet, all that it is
 * made of by the same share. A step goes over pairs of neighbours four times (right, even and odd; down, even and
 * odd), so that no pixel is in two pairs at once and what one loses the other gets.
 *
 * What a tile needs besides is kept in a field of four planes of 64 × 64 f32: how easily paint moves, its whole
 * thickness with the thinner, the first smoothed, and what it takes to wet a dry place; then how easily paint
 * moves at most, and the most thinner.
 */
const PLANE: usize = <usize>(SIDE * SIDE) << 2;
const EASE: usize = 0;
const THICK: usize = PLANE;
const SMOOTH: usize = PLANE * 2;
const WETS: usize = PLANE * 3;
const MOST: usize = PLANE * 4;
/** Words of a pixel that run: skin and bulk, seven bands and a thickness each. */
const RUNS: usize = 16;
/** The skin is no thicker than this, px. */
const SKIN: f32 = 0.45;
/** Of the thinner so much is gone after a step: a share of it, and a little more, px. */
const GOES: f32 = 0.004;
const GOES_AT_LEAST: f32 = 0.0004;
/** From this share of thinner on paint moves; from there on wholly. */
const MOVES_FROM: f32 = 0.12;
const MOVES_WHOLLY: f32 = 0.75;
/** A place with less than this is dry, px. */
const DRY: f32 = 0.05;

// @ts-ignore: decorator
@inline function smooth(from: f32, to: f32, x: f32): f32 {
  const t = max<f32>(0, min<f32>(1, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
}

// @ts-ignore: decorator
@inline function hash(x: i32, y: i32): f32 {
  let v = <u32>x * 747796405 + <u32>y * 2891336453 + 1013904223;
  v = ((v >> ((v >> 28) + 4)) ^ v) * 277803737;
  v = (v >> 22) ^ v;
  v = ((v >> ((v >> 28) + 4)) ^ v) * 747796405;
  return <f32>(((v >> 22) ^ v) & 0xffff) * <f32>(1.0 / 65535.0);
}

/** Smooth noise 0…1 that changes over one unit. */
function noise(x: f32, y: f32): f32 {
  const fx = Mathf.floor(x), fy = Mathf.floor(y);
  const column = <i32>fx, row = <i32>fy;
  let u = x - fx, v = y - fy;
  u = u * u * (<f32>3 - 2 * u);
  v = v * v * (<f32>3 - 2 * v);
  const top = hash(column, row) * (1 - u) + hash(column + 1, row) * u;
  const low = hash(column, row + 1) * (1 - u) + hash(column + 1, row + 1) * u;
  return top * (1 - v) + low * v;
}

// @ts-ignore: decorator
@inline function pixelAt(wet: usize, x: i32, y: i32): usize {
  return wet + <usize>y * ROW_OF_WET + <usize>(x >> 2) * GROUP + (<usize>(x & 3) << 2);
}

/** How easily each pixel's paint moves, and how thick it lies with its thinner; some of the thinner goes first. */
export function thinField(wet: usize, field: usize): void {
  let most: f32 = 0, mostThinner: f32 = 0;
  for (let i: usize = 0; i < <usize>(SIDE * SIDE); i++) {
    const at = wet + (i >> 2) * GROUP + ((i & 3) << 2);
    const before = load<f32>(at, THINNER);
    const thinner = max<f32>(0, before - before * GOES - GOES_AT_LEAST);
    if (before > 0) {
      store<f32>(at, thinner, THINNER);
      settle(at);
    }
    const h = load<f32>(at, SKIN_H) + load<f32>(at, BULK_H);
    const whole = h + thinner;
    const share = thinner > 0 ? thinner / whole : 0;
    const ease = smooth(MOVES_FROM, MOVES_WHOLLY, share) * min<f32>(1, whole * whole) * load<f32>(at, OPEN);
    store<f32>(field + EASE + (i << 2), ease);
    store<f32>(field + THICK + (i << 2), whole);
    most = max<f32>(most, ease);
    mostThinner = max<f32>(mostThinner, thinner);
  }
  store<f32>(field, most, MOST);
  store<f32>(field, mostThinner, MOST + 4);
}

/** What has run onto a skin and is more than a skin goes below. */
function settle(at: usize): void {
  const hs = load<f32>(at, SKIN_H);
  if (hs <= SKIN) return;
  const sinks = (hs - SKIN) / hs;
  for (let w: usize = 0; w < 128; w += 16) {
    const part = load<f32>(at + w) * sinks;
    store<f32>(at + w, load<f32>(at + w) - part);
    store<f32>(at + w + BULK, load<f32>(at + w + BULK) + part);
  }
}

/** A number of a plane of nine fields, by pixel of the middle one; 0 beyond the tiles that there are. */
// @ts-ignore: decorator
@inline function around(fields: usize, plane: usize, x: i32, y: i32): f32 {
  const column = x < 0 ? 0 : x < SIDE ? 1 : 2, row = y < 0 ? 0 : y < SIDE ? 1 : 2;
  const field = <usize>load<u32>(fields + <usize>((row * 3 + column) << 2));
  if (!field) return 0;
  return load<f32>(field + plane + (<usize>((y & (SIDE - 1)) * SIDE + (x & (SIDE - 1))) << 2));
}

/** Smooths how easily paint moves, and works out what it takes to wet each dry place, from what lies around. */
export function thinAround(fields: usize, px: i32, py: i32): void {
  const field = <usize>load<u32>(fields, 16);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const i = <usize>(y * SIDE + x) << 2;
      let ease: f32 = 0;
      for (let v = -1; v <= 1; v++) for (let u = -1; u <= 1; u++) ease += around(fields, EASE, x + u, y + v);
      store<f32>(field + SMOOTH + i, <f32>0.35 * load<f32>(field + EASE + i) + <f32>(0.65 / 9.0) * ease);
      let wets: f32 = 1e9;
      if (load<f32>(field + THICK + i) < DRY && ease > 0) {
        let mean: f32 = 0;
        for (let v = -2; v <= 2; v++) for (let u = -2; u <= 2; u++) mean += around(fields, THICK, x + u, y + v);
        const wx = <f32>(px + x), wy = <f32>(py + y);
        const uneven = <f32>0.6 * noise(wx / 9, wy / 9) + <f32>0.4 * noise(wx * <f32>0.25 + 40, wy * <f32>0.25);
        wets = <f32>0.25 + <f32>0.6 * uneven - <f32>(1.1 / 25.0) * mean;
      }
      store<f32>(field + WETS + i, wets);
    }
  }
}

/**
 * Paint runs between a tile's pixels and their neighbours to the right (direction 0) or below (1), every second
 * pair beginning with the first (odd 0) or the second. `other`: the tile that the last pairs lead into, 0 where
 * there is none.
 */
export function thinRun(wet: usize, other: usize, field: usize, otherField: usize, direction: i32, odd: i32, gravity: f32): void {
  for (let y = direction ? odd : 0; y < SIDE; y += direction ? 2 : 1) {
    for (let x = direction ? 0 : odd; x < SIDE; x += direction ? 1 : 2) {
      const nx = direction ? x : x + 1, ny = direction ? y + 1 : y;
      const isOut = nx == SIDE || ny == SIDE;
      if (isOut && !other) continue;
      const i = <usize>(y * SIDE + x) << 2, j = <usize>((ny & (SIDE - 1)) * SIDE + (nx & (SIDE - 1))) << 2;
      const nextField = isOut ? otherField : field;
      const mine = load<f32>(field + SMOOTH + i), its = load<f32>(nextField + SMOOTH + j);
      if (mine <= 0 && its <= 0) continue;
      const a = pixelAt(wet, x, y), b = pixelAt(isOut ? other : wet, nx & (SIDE - 1), ny & (SIDE - 1));
      pair(a, b, mine, its, load<f32>(field + WETS + i), load<f32>(nextField + WETS + j), direction ? gravity : 0);
    }
  }
}

// @ts-ignore: decorator
@inline function thick(at: usize): f32 {
  return load<f32>(at, SKIN_H) + load<f32>(at, BULK_H) + load<f32>(at, THINNER);
}

/** What runs from one pixel to the next, or back. `easeA`, `wetsA`: of the first, as its field says. */
function pair(a: usize, b: usize, easeA: f32, easeB: f32, wetsA: f32, wetsB: f32, gravity: f32): void {
  const ha = thick(a), hb = thick(b);
  const slope = <f32>0.35 * (load<f32>(a, GROUND) - load<f32>(b, GROUND)) + ha - hb + gravity;
  const goesOn = slope > 0;
  const from = goesOn ? a : b, to = goesOn ? b : a;
  const ease = goesOn ? easeA : easeB, h = goesOn ? ha : hb, there = goesOn ? hb : ha, wets = goesOn ? wetsB : wetsA;
  const thinner = load<f32>(from, THINNER);
  if (ease <= 0 || thinner <= 0) return;
  if (there < DRY && <f32>0.4 * h <= wets) return;
  const steep = (goesOn ? slope : -slope) - <f32>0.06 * (1 - thinner / h);
  if (steep <= 0) return;
  const flux = min<f32>(<f32>0.24 * ease * steep, <f32>0.3 * h) * load<f32>(to, OPEN);
  const share = flux / h;
  if (share < <f32>1e-5) return;
  for (let w: usize = 0; w < RUNS << 4; w += 16) {
    const part = load<f32>(from + w) * share;
    store<f32>(from + w, load<f32>(from + w) - part);
    store<f32>(to + w, load<f32>(to + w) + part);
  }
  const part = thinner * share;
  store<f32>(from, thinner - part, THINNER);
  store<f32>(to, load<f32>(to, THINNER) + part, THINNER);
}
