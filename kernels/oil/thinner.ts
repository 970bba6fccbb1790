import { SIDE } from "../layout";
import { BULK, BULK_H, GROUND, GROUP, OPEN, ROW_OF_WET, SKIN_H, THINNER } from "./wet";
import { noise } from "./uneven";

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
/** Bytes of what runs of four pixels besides their thinner: skin and bulk, seven bands and a thickness each. */
const RUNS: usize = 256;
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
/** What its fronts are uneven by. */
const FRONTS: i32 = 77;
/** More than any paint stands up. */
const NEVER: f32 = 1e9;

/** 3t² − 2t³ of a number held in 0…1. */
// @ts-ignore: decorator
@inline function smooth(t: v128): v128 {
  const held = f32x4.pmin(f32x4.pmax(t, f32x4.splat(0)), f32x4.splat(1));
  return f32x4.mul(f32x4.mul(held, held), f32x4.sub(f32x4.splat(3), f32x4.add(held, held)));
}

/** How easily each pixel's paint moves, and how thick it lies with its thinner; some of the thinner goes first. */
export function thinField(wet: usize, field: usize): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  let most = zero, mostThinner = zero;
  for (let i: usize = 0; i < <usize>(SIDE * SIDE / 4); i++) {
    const at = wet + i * GROUP;
    const before = v128.load(at, THINNER);
    const left = f32x4.sub(f32x4.sub(before, f32x4.mul(before, f32x4.splat(GOES))), f32x4.splat(GOES_AT_LEAST));
    const thinner = f32x4.pmax(left, zero);
    const hs = v128.load(at, SKIN_H);
    const whole = f32x4.add(f32x4.add(hs, v128.load(at, BULK_H)), thinner);
    let ease = zero;
    if (v128.any_true(f32x4.gt(before, zero))) {
      v128.store(at, thinner, THINNER);
      if (v128.any_true(f32x4.gt(hs, f32x4.splat(SKIN)))) settle(at, hs);
      const share = v128.and(f32x4.div(thinner, whole), f32x4.gt(thinner, zero));
      const loose = smooth(f32x4.mul(f32x4.sub(share, f32x4.splat(MOVES_FROM)), f32x4.splat(<f32>1 / (MOVES_WHOLLY - MOVES_FROM))));
      ease = f32x4.mul(f32x4.mul(loose, f32x4.pmin(one, f32x4.mul(whole, whole))), v128.load(at, OPEN));
    }
    v128.store(field + EASE + (i << 4), ease);
    v128.store(field + THICK + (i << 4), whole);
    most = f32x4.pmax(most, ease);
    mostThinner = f32x4.pmax(mostThinner, thinner);
  }
  store<f32>(field, greatest(most), MOST);
  store<f32>(field, greatest(mostThinner), MOST + 4);
}

// @ts-ignore: decorator
@inline function greatest(v: v128): f32 {
  const low = max<f32>(f32x4.extract_lane(v, 0), f32x4.extract_lane(v, 1));
  return max<f32>(low, max<f32>(f32x4.extract_lane(v, 2), f32x4.extract_lane(v, 3)));
}

/** What has run onto a skin and is more than a skin goes below. */
function settle(at: usize, hs: v128): void {
  const over = f32x4.pmax(f32x4.sub(hs, f32x4.splat(SKIN)), f32x4.splat(0));
  const sinks = f32x4.div(over, f32x4.pmax(hs, f32x4.splat(SKIN)));
  for (let w: usize = 0; w < 128; w += 16) {
    const part = f32x4.mul(v128.load(at + w), sinks);
    v128.store(at + w, f32x4.sub(v128.load(at + w), part));
    v128.store(at + w + BULK, f32x4.add(v128.load(at + w + BULK), part));
  }
}

/** A plane of a tile with two px of those around it, as rows of 72: its own begin at the fourth. */
const MARGIN: i32 = 2;
const WIDE: i32 = 72;
const FIRST: i32 = 4;
const ROOM: usize = <usize>(WIDE * (SIDE + 2 * MARGIN)) << 2;

/** Lays a plane of nine fields out with its margin; 0 beyond the tiles that there are. */
function layOut(fields: usize, plane: usize, to: usize): void {
  memory.fill(to, 0, ROOM);
  for (let y = -MARGIN; y < SIDE + MARGIN; y++) {
    const row = y < 0 ? 0 : y < SIDE ? 1 : 2;
    const line = to + (<usize>((y + MARGIN) * WIDE + FIRST) << 2);
    const from = plane + (<usize>((y & (SIDE - 1)) * SIDE) << 2);
    const left = <usize>load<u32>(fields + <usize>((row * 3) << 2));
    const own = <usize>load<u32>(fields + <usize>((row * 3 + 1) << 2));
    const right = <usize>load<u32>(fields + <usize>((row * 3 + 2) << 2));
    if (left) store<u64>(line - 8, load<u64>(left + from + (<usize>(SIDE - MARGIN) << 2)));
    if (own) memory.copy(line, own + from, <usize>SIDE << 2);
    if (right) store<u64>(line + (<usize>SIDE << 2), load<u64>(right + from));
  }
}

/** The sum of three in a row, about each of four. */
// @ts-ignore: decorator
@inline function three(at: usize): v128 {
  return f32x4.add(f32x4.add(v128.load(at - 4), v128.load(at)), v128.load(at + 4));
}

/** Smooths how easily paint moves, and works out what it takes to wet each dry place, from what lies around. */
export function thinAround(fields: usize, px: i32, py: i32, scratch: usize): void {
  const field = <usize>load<u32>(fields, 16), zero = f32x4.splat(0);
  const eases = scratch, thicks = scratch + ROOM, row: usize = <usize>WIDE << 2;
  layOut(fields, EASE, eases);
  layOut(fields, THICK, thicks);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x += 4) {
      const i = <usize>(y * SIDE + x) << 2;
      const at = <usize>((y + MARGIN) * WIDE + FIRST + x) << 2;
      const sum = f32x4.add(f32x4.add(three(eases + at - row), three(eases + at)), three(eases + at + row));
      const own = v128.load(eases + at);
      v128.store(field + SMOOTH + i, f32x4.add(f32x4.mul(own, f32x4.splat(<f32>0.35)), f32x4.mul(sum, f32x4.splat(<f32>(0.65 / 9.0)))));
      v128.store(field + WETS + i, f32x4.splat(NEVER));
      const isFront = v128.and(f32x4.lt(v128.load(thicks + at), f32x4.splat(DRY)), f32x4.gt(sum, zero));
      if (!v128.any_true(isFront)) continue;
      for (let lane = 0; lane < 4; lane++)
        if (load<f32>(thicks + at + (<usize>lane << 2)) < DRY)
          store<f32>(field + WETS + i + (<usize>lane << 2), toWet(thicks + at + (<usize>lane << 2), px + x + lane, py + y));
    }
  }
}

/** How thick paint must lie beside a dry place before it is wetted: less where much lies around, and unevenly. */
function toWet(at: usize, x: i32, y: i32): f32 {
  let mean: f32 = 0;
  for (let v = -2; v <= 2; v++) for (let u = -2; u <= 2; u++) mean += load<f32>(at + ((v * WIDE + u) << 2));
  const wx = <f32>x, wy = <f32>y;
  const uneven = <f32>0.6 * noise(wx / 9, wy / 9, FRONTS) + <f32>0.4 * noise(wx * <f32>0.25 + 40, wy * <f32>0.25, FRONTS);
  return <f32>0.25 + <f32>0.6 * uneven - <f32>(1.1 / 25.0) * mean;
}

/**
 * Paint runs between a tile's pixels and their neighbours to the right (direction 0) or below (1), every second
 * pair beginning with the first (odd 0) or the second. `other`: the tile that the last pairs lead into, 0 where
 * there is none.
 */
export function thinRun(wet: usize, other: usize, field: usize, otherField: usize, direction: i32, odd: i32, gravity: f32): void {
  if (direction) runDown(wet, other, field, otherField, odd, gravity);
  else if (odd) runAcross(wet, other, field, otherField);
  else runWithin(wet, field);
}

/** The share of its paint that each of four pixels gives to another. `push`: how much steeper it is than it lies. */
function leaves(self: usize, other: usize, ease: v128, wets: v128, push: v128): v128 {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const thinner = v128.load(self, THINNER);
  const h = f32x4.add(f32x4.add(v128.load(self, SKIN_H), v128.load(self, BULK_H)), thinner);
  const there = f32x4.add(f32x4.add(v128.load(other, SKIN_H), v128.load(other, BULK_H)), v128.load(other, THINNER));
  const fall = f32x4.mul(f32x4.sub(v128.load(self, GROUND), v128.load(other, GROUND)), f32x4.splat(<f32>0.35));
  const slope = f32x4.add(f32x4.add(fall, f32x4.sub(h, there)), push);
  const some = f32x4.pmax(h, f32x4.splat(<f32>1e-6));
  const stiff = f32x4.mul(f32x4.sub(one, f32x4.div(thinner, some)), f32x4.splat(<f32>0.06));
  const steep = f32x4.pmax(f32x4.sub(slope, stiff), zero);
  const flux = f32x4.pmin(f32x4.mul(f32x4.mul(ease, steep), f32x4.splat(<f32>0.24)), f32x4.mul(h, f32x4.splat(<f32>0.3)));
  const opens = v128.or(f32x4.ge(there, f32x4.splat(DRY)), f32x4.gt(f32x4.mul(h, f32x4.splat(<f32>0.4)), wets));
  const may = v128.and(v128.and(opens, f32x4.gt(thinner, zero)), f32x4.gt(slope, zero));
  return v128.and(f32x4.div(f32x4.mul(flux, v128.load(other, OPEN)), some), may);
}

/** Between the rows of a tile, and its last one and the first of the tile below. */
function runDown(wet: usize, other: usize, field: usize, otherField: usize, odd: i32, gravity: f32): void {
  const zero = f32x4.splat(0), down = f32x4.splat(gravity), up = f32x4.splat(-gravity);
  for (let y = odd; y < SIDE; y += 2) {
    const isOut = y + 1 == SIDE;
    if (isOut && !other) return;
    const nextField = isOut ? otherField : field, nextRow = (y + 1) & (SIDE - 1);
    for (let x = 0; x < SIDE; x += 4) {
      const i = <usize>(y * SIDE + x) << 2, j = <usize>(nextRow * SIDE + x) << 2;
      const easeA = v128.load(field + SMOOTH + i), easeB = v128.load(nextField + SMOOTH + j);
      if (!v128.any_true(f32x4.gt(f32x4.add(easeA, easeB), zero))) continue;
      const a = wet + <usize>y * ROW_OF_WET + <usize>(x >> 2) * GROUP;
      const b = (isOut ? other : wet) + <usize>nextRow * ROW_OF_WET + <usize>(x >> 2) * GROUP;
      const fromA = leaves(a, b, easeA, v128.load(nextField + WETS + j), down);
      const fromB = leaves(b, a, easeB, v128.load(field + WETS + i), up);
      if (!v128.any_true(f32x4.gt(f32x4.add(fromA, fromB), zero))) continue;
      for (let w: usize = 0; w < RUNS; w += 16) trade(a + w, b + w, fromA, fromB);
      trade(a + THINNER, b + THINNER, fromA, fromB);
    }
  }
}

// @ts-ignore: decorator
@inline function trade(a: usize, b: usize, fromA: v128, fromB: v128): void {
  const va = v128.load(a), vb = v128.load(b);
  const down = f32x4.mul(va, fromA), up = f32x4.mul(vb, fromB);
  v128.store(a, f32x4.add(f32x4.sub(va, down), up));
  v128.store(b, f32x4.add(f32x4.sub(vb, up), down));
}

/** Each with the other one of its pair. */
// @ts-ignore: decorator
@inline function partners(v: v128): v128 {
  return v128.shuffle<i32>(v, v, 1, 0, 3, 2);
}

/** Between the first and the second, the third and the fourth of each four. */
function runWithin(wet: usize, field: usize): void {
  const zero = f32x4.splat(0);
  for (let i: usize = 0; i < <usize>(SIDE * SIDE / 4); i++) {
    const ease = v128.load(field + SMOOTH + (i << 4));
    if (!v128.any_true(f32x4.gt(ease, zero))) continue;
    const at = wet + i * GROUP;
    const gives = leavesBeside(
      v128.load(at, SKIN_H), v128.load(at, BULK_H), v128.load(at, GROUND), v128.load(at, OPEN), v128.load(at, THINNER),
      ease, v128.load(field + WETS + (i << 4)),
    );
    if (!v128.any_true(f32x4.gt(gives, zero))) continue;
    for (let w: usize = 0; w < RUNS; w += 16) passWithin(at + w, gives);
    passWithin(at + THINNER, gives);
  }
}

// @ts-ignore: decorator
@inline function passed(v: v128, gives: v128): v128 {
  const part = f32x4.mul(v, gives);
  return f32x4.add(f32x4.sub(v, part), partners(part));
}

// @ts-ignore: decorator
@inline function passWithin(at: usize, gives: v128): void {
  v128.store(at, passed(v128.load(at), gives));
}

/** As `leaves`, each of four pixels to its partner among them. */
function leavesBeside(hs: v128, hb: v128, ground: v128, open: v128, thinner: v128, ease: v128, wets: v128): v128 {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const h = f32x4.add(f32x4.add(hs, hb), thinner), there = partners(h);
  const fall = f32x4.mul(f32x4.sub(ground, partners(ground)), f32x4.splat(<f32>0.35));
  const slope = f32x4.add(fall, f32x4.sub(h, there));
  const some = f32x4.pmax(h, f32x4.splat(<f32>1e-6));
  const stiff = f32x4.mul(f32x4.sub(one, f32x4.div(thinner, some)), f32x4.splat(<f32>0.06));
  const steep = f32x4.pmax(f32x4.sub(slope, stiff), zero);
  const flux = f32x4.pmin(f32x4.mul(f32x4.mul(ease, steep), f32x4.splat(<f32>0.24)), f32x4.mul(h, f32x4.splat(<f32>0.3)));
  const opens = v128.or(f32x4.ge(there, f32x4.splat(DRY)), f32x4.gt(f32x4.mul(h, f32x4.splat(<f32>0.4)), partners(wets)));
  const may = v128.and(v128.and(opens, f32x4.gt(thinner, zero)), f32x4.gt(slope, zero));
  return v128.and(f32x4.div(f32x4.mul(flux, partners(open)), some), may);
}

/** The last three of four pixels and the first of the next four. */
// @ts-ignore: decorator
@inline function joined(a: usize, b: usize): v128 {
  return v128.shuffle<i32>(v128.load(a), v128.load(b), 1, 2, 3, 4);
}

/** Between the second and the third of each four, the fourth and the first of the next, across the tile's edge too. */
function runAcross(wet: usize, other: usize, field: usize, otherField: usize): void {
  const zero = f32x4.splat(0);
  for (let y = 0; y < SIDE; y++) {
    for (let g = 0; g < SIDE / 4; g++) {
      const isLast = g == SIDE / 4 - 1;
      const i = <usize>(y * SIDE + g * 4) << 2, j = isLast ? <usize>(y * SIDE) << 2 : i + 16;
      const a = wet + <usize>y * ROW_OF_WET + <usize>g * GROUP;
      // Beside the last tile there is nothing: the pixels go with themselves, and only the inner pair counts.
      const isOut = isLast && !other;
      const b = isLast ? (other ? other + <usize>y * ROW_OF_WET : a) : a + GROUP;
      const fb = isLast ? (other ? otherField : field) : field;
      const ease = joined(field + SMOOTH + i, fb + SMOOTH + j);
      if (!v128.any_true(f32x4.gt(ease, zero))) continue;
      let gives = leavesBeside(
        joined(a + SKIN_H, b + SKIN_H), joined(a + BULK_H, b + BULK_H), joined(a + GROUND, b + GROUND),
        joined(a + OPEN, b + OPEN), joined(a + THINNER, b + THINNER), ease, joined(field + WETS + i, fb + WETS + j),
      );
      if (isOut) gives = v128.and(gives, i32x4(-1, -1, 0, 0));
      if (!v128.any_true(f32x4.gt(gives, zero))) continue;
      for (let w: usize = 0; w < RUNS; w += 16) passAcross(a + w, b + w, gives);
      passAcross(a + THINNER, b + THINNER, gives);
    }
  }
}

// @ts-ignore: decorator
@inline function passAcross(a: usize, b: usize, gives: v128): void {
  const next = passed(joined(a, b), gives);
  store<f32>(a, f32x4.extract_lane(next, 0), 4);
  store<f32>(a, f32x4.extract_lane(next, 1), 8);
  store<f32>(a, f32x4.extract_lane(next, 2), 12);
  // The first of the next four; beside the sheet that is a pixel of these, which has not changed.
  if (b != a) store<f32>(b, f32x4.extract_lane(next, 3));
}
