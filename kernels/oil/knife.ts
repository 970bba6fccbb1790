import { SIDE } from "../layout";
import { BANDS, BULK, BULK_H, GROUND, GROUP, OPEN, ROW_OF_WET, SKIN_H } from "./wet";
import { noise } from "./uneven";

/**
 * A knife drawn over wet paint: its edge has a cell for each px of its width, each with four slots of paint that
 * mix little, so that it marbles. Between two places of the edge every pixel is met once: what stands higher than
 * the blade leaves is taken up, what is lower is filled, and some is exchanged. One step is 24 words:
 *
 *   0 1 middle of the edge before · 2 3 its direction of travel · 4 5 the middle now · 6 7 its direction now
 *   8 half of its width · 9 pressure 0…1 · 10 marbling 0…1 · 11 px of this step · 12 px come so far
 *   13 how thick it leaves paint, 1 as usual · 14 how much of what is taken stays on it
 *   15 seed · 16 17 18 19 left top right bottom, whole px
 */
const SLOTS: i32 = 4;
/** Bytes of a slot: seven bands, and how much. */
const SLOT: usize = 32;
const CELL: usize = 128;
const VOLUME: usize = 28;
const SKIN: f32 = 0.45;
/** Most of a slot that one pixel takes. */
const PART: f32 = 0.35;
/** Over so many px it comes down. */
const STARTS: f32 = 14;
/** How far beyond its ends a knife sheds, px. */
const SHEDS: f32 = 2;

// @ts-ignore: decorator
@inline function f(step: usize, word: usize): f32 {
  return load<f32>(step + (word << 2));
}

// @ts-ignore: decorator
@inline function smooth(from: f32, to: f32, x: f32): f32 {
  const t = max<f32>(0, min<f32>(1, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
}

/** The part of a row that a step may reach, px. */
let from: f32 = 0;
let to: f32 = 0;
/** A slope so small says nothing of where in a row it begins. */
const FLAT: f32 = 0.02;

/** Holds the part of a row to where `slope · (x − middle) + offset` is above 0. */
// @ts-ignore: decorator
@inline function hold(slope: f32, offset: f32, middle: f32): void {
  if (slope > FLAT) from = max<f32>(from, middle - offset / slope - 2);
  else if (slope < -FLAT) to = min<f32>(to, middle - offset / slope + 2);
  else if (offset < -32) to = from;
}

/** One step of the knife in one tile. `cells`: those of its edge, `count` of them. */
export function knifeTile(wet: usize, px: i32, py: i32, step: usize, cells: usize, count: i32): void {
  const left = max(load<i32>(step, 64) - px, 0), top = max(load<i32>(step, 68) - py, 0);
  const right = min(load<i32>(step, 72) - px, SIDE), bottom = min(load<i32>(step, 76) - py, SIDE);
  const half = f(step, 8);
  for (let y = top; y < bottom; y++) {
    const wy = <f32>(py + y) + <f32>0.5;
    // Of a row only what lies between the two edges is looked at: a px or two more, never less.
    from = <f32>(px + left);
    to = <f32>(px + right);
    hold(f(step, 2), (wy - f(step, 1)) * f(step, 3), f(step, 0));
    hold(-f(step, 6), -(wy - f(step, 5)) * f(step, 7), f(step, 4));
    hold(-f(step, 7), (wy - f(step, 5)) * f(step, 6) + half + SHEDS, f(step, 4));
    hold(f(step, 7), half + SHEDS - (wy - f(step, 5)) * f(step, 6), f(step, 4));
    const first = max(left, <i32>Mathf.floor(from) - px), last = min(right, <i32>Mathf.ceil(to) - px);
    for (let x = first; x < last; x++) {
      const wx = <f32>(px + x) + <f32>0.5;
      const before = (wx - f(step, 0)) * f(step, 2) + (wy - f(step, 1)) * f(step, 3);
      const now = (wx - f(step, 4)) * f(step, 6) + (wy - f(step, 5)) * f(step, 7);
      if (before <= 0 || now > 0) continue;
      const along = (wy - f(step, 5)) * f(step, 6) - (wx - f(step, 4)) * f(step, 7);
      const end = half - Mathf.abs(along);
      if (end <= -SHEDS) continue;
      const at = wet + <usize>y * ROW_OF_WET + <usize>(x >> 2) * GROUP + <usize>((x & 3) << 2);
      if (end <= 0) {
        shed(at, cells + (along > 0 ? <usize>(count - 1) * CELL : 0), step, f(step, 12) + now);
        continue;
      }
      const cell = min(count - 1, <i32>(along + half));
      meet(at, cells + <usize>cell * CELL, step, along, end, f(step, 12) + now);
    }
  }
}

/** One pixel under the edge, so far along it and from its end, so far along the way. */
function meet(at: usize, cell: usize, step: usize, along: f32, end: f32, way: f32): void {
  const pressure = f(step, 9), marbles = f(step, 10), seed = load<i32>(step, 60);
  const light: f32 = 1 - pressure;
  const grain = noise(along * <f32>0.16, way * <f32>0.05, seed);
  // Its ends are ragged; farther in that need not be asked.
  const ragged = end < 6 ? smooth(<f32>-1, <f32>1.2 + 4 * noise(way * <f32>0.2, 0, seed ^ 7), end) : 1;
  // Nor does a blade come down along a line.
  const started = way < STARTS ? smooth(0, STARTS, way + STARTS * (noise(along * <f32>0.09, <f32>0.5, seed ^ 41) - <f32>0.3)) : 1;
  const reaches = load<f32>(at, OPEN) * ragged * started;
  if (reaches <= 0) return;
  const hs = load<f32>(at, SKIN_H), hb = load<f32>(at, BULK_H);
  const h = hs + hb;
  let carried: f32 = 0;
  for (let i = 0; i < SLOTS; i++) carried += load<f32>(cell + <usize>i * SLOT, VOLUME);
  let film = <f32>3.4 * light * light + <f32>0.25 * light + <f32>0.08 - <f32>0.6 * smooth(<f32>0.7, 1, pressure)
    - <f32>0.6 * load<f32>(at, GROUND) + <f32>0.5 * light * (grain - <f32>0.5);
  // Loaded and light it lays on top of what is there.
  film = film * f(step, 13) + h * min<f32>(1, carried / 14) * (1 - smooth(<f32>0.35, <f32>0.8, pressure));
  film = max<f32>(0, film);
  const warp = <f32>9 * marbles * (noise(along * <f32>0.07, way * <f32>0.04, seed ^ 21) - <f32>0.5);
  const filling = slotAt(noise((along + warp) / 7, (way - warp) / 16, seed ^ 5));
  if (h > film) {
    const taking = slotAt(noise((along + warp) / 7, (way + warp) / 16, seed ^ 3));
    take(at, cell, taking, (h - film) * reaches / h, f(step, 14));
  } else if (carried > 0) give(at, cell, filling, (film - h) * reaches);
  if (carried > 0) swap(at, cell, filling, exchanged(noise(along / 6, way / 26, seed ^ 11), marbles) * reaches);
}

/** Beside the edge's ends what is more than they hold is left in a ridge. */
function shed(at: usize, cell: usize, step: usize, way: f32): void {
  let carried: f32 = 0;
  for (let i = 0; i < SLOTS; i++) carried += load<f32>(cell + <usize>i * SLOT, VOLUME);
  const h = load<f32>(at, SKIN_H) + load<f32>(at, BULK_H);
  const uneven = noise(way * <f32>0.11, <f32>0.5, load<i32>(step, 60) ^ 29);
  const most = <f32>0.45 / (1 + <f32>0.2 * h * h) * smooth(<f32>0.45, <f32>0.85, uneven) * smooth(<f32>0.8, 6, carried) * load<f32>(at, OPEN);
  for (let i: usize = 0; i < <usize>SLOTS; i++) giveFrom(at, cell + i * SLOT, most * <f32>0.25);
}

/** Where among the slots a noise points. */
// @ts-ignore: decorator
@inline function slotAt(n: f32): f32 {
  return max<f32>(0, min<f32>(<f32>2.999, 5 * n - 1));
}

/** Share of a pixel's paint that is exchanged: streaks, the sharper the more it marbles. */
// @ts-ignore: decorator
@inline function exchanged(n: f32, marbles: f32): f32 {
  const soft = min<f32>(<f32>0.9, <f32>0.08 + <f32>1.9 * n * n * n);
  const sharp = n > <f32>0.5 ? <f32>0.75 * smooth(<f32>0.45, <f32>0.7, n) : <f32>0.03;
  return soft + (sharp - soft) * marbles;
}

/** Moves a share of a pixel's paint into two slots; `stays`: what of that stays on the knife. */
function take(at: usize, cell: usize, slot: f32, share: f32, stays: f32): void {
  const first = <usize>slot, t = slot - <f32>first;
  const a = cell + first * SLOT, b = a + SLOT;
  for (let band: usize = 0; band <= BANDS; band++) {
    const w = band << 2, p = at + (band << 4);
    const skin = load<f32>(p) * share, bulk = load<f32>(p + BULK) * share;
    store<f32>(p, load<f32>(p) - skin);
    store<f32>(p + BULK, load<f32>(p + BULK) - bulk);
    const sum = (skin + bulk) * stays;
    store<f32>(a + w, load<f32>(a + w) + sum * (1 - t));
    store<f32>(b + w, load<f32>(b + w) + sum * t);
  }
}

/** Fills a pixel by so much from two slots, as far as they have it. */
function give(at: usize, cell: usize, slot: f32, wanted: f32): void {
  const first = <usize>slot, t = slot - <f32>first;
  giveFrom(at, cell + first * SLOT, wanted * (1 - t));
  giveFrom(at, cell + (first + 1) * SLOT, wanted * t);
}

function giveFrom(at: usize, slot: usize, wanted: f32): void {
  const there = load<f32>(slot, VOLUME);
  if (there <= <f32>0.0001) return;
  const share = min<f32>(PART, wanted / there);
  const given = there * share;
  // Older skin sinks below what is laid on it.
  const hs = load<f32>(at, SKIN_H);
  const sinks = hs > 0 ? min<f32>(1, max<f32>(0, hs + given - SKIN) / hs) : 0;
  const onSkin = min<f32>(1, SKIN / given);
  for (let band: usize = 0; band <= BANDS; band++) {
    const w = band << 2, p = at + (band << 4);
    const part = load<f32>(slot + w) * share;
    store<f32>(slot + w, load<f32>(slot + w) - part);
    const sunk = load<f32>(p) * sinks;
    store<f32>(p, load<f32>(p) - sunk + part * onSkin);
    store<f32>(p + BULK, load<f32>(p + BULK) + sunk + part * (1 - onSkin));
  }
}

/** Exchanges as much of a pixel's paint for as much of a slot's. */
function swap(at: usize, cell: usize, slot: f32, share: f32): void {
  const from = cell + <usize>slot * SLOT;
  const there = load<f32>(from, VOLUME), h = load<f32>(at, SKIN_H) + load<f32>(at, BULK_H);
  const volume = share * min<f32>(h, there * PART);
  if (volume <= <f32>0.00001) return;
  const ofSlot = volume / there, ofPixel = volume / h;
  for (let band: usize = 0; band <= BANDS; band++) {
    const w = band << 2, p = at + (band << 4);
    const skin = load<f32>(p), bulk = load<f32>(p + BULK), held = load<f32>(from + w);
    const up = (skin + bulk) * ofPixel, down = held * ofSlot;
    store<f32>(from + w, held + up - down);
    // Into skin and bulk as they were, so that neither grows.
    const inSkin = load<f32>(at, SKIN_H) / h;
    store<f32>(p, skin - skin * ofPixel + (band < BANDS ? down * inSkin : skin * ofPixel));
    store<f32>(p + BULK, bulk - bulk * ofPixel + (band < BANDS ? down * (1 - inSkin) : bulk * ofPixel));
  }
}

/** After a step: paint creeps along the edge from cell to cell, and slots mix a little. */
export function knifeCreep(cells: usize, count: i32, px: f32, marbles: f32, way: f32, seed: i32): void {
  for (let i = 0; i + 1 < count; i++) {
    const a = cells + <usize>i * CELL, b = a + CELL;
    const wanders = (<f32>0.16 + <f32>0.3 * marbles) * 2 * (noise(<f32>i * <f32>0.08, way * <f32>0.03, seed ^ 17) - <f32>0.5);
    for (let s = 0; s < SLOTS; s++) {
      const from = a + <usize>s * SLOT, to = b + <usize>s * SLOT;
      const mine = load<f32>(from, VOLUME), other = load<f32>(to, VOLUME);
      const flow = px * (<f32>0.15 * (mine - other) + wanders * min<f32>(mine, other));
      if (flow == 0) continue;
      if (flow > 0) creep(from, to, min<f32>(<f32>0.3, flow / max<f32>(mine, <f32>0.0001)));
      else creep(to, from, min<f32>(<f32>0.3, -flow / max<f32>(other, <f32>0.0001)));
    }
  }
  const share = min<f32>(<f32>0.5, <f32>0.0015 * px);
  for (let i = 0; i < count; i++) {
    const cell = cells + <usize>i * CELL;
    for (let s = 0; s + 1 < SLOTS; s++) {
      const from = cell + <usize>s * SLOT;
      creep(from, from + SLOT, share);
      creep(from + SLOT, from, share);
    }
  }
}

function creep(from: usize, to: usize, share: f32): void {
  for (let w: usize = 0; w < SLOT; w += 16) {
    const there = v128.load(from + w);
    const part = f32x4.mul(there, f32x4.splat(share));
    v128.store(from + w, f32x4.sub(there, part));
    v128.store(to + w, f32x4.add(v128.load(to + w), part));
  }
}
