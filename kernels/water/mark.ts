import { BLOCK_BYTES, ROW_BYTES } from "../layout";
import { dissolve } from "./dissolve";
import {
  BRINE, CELLS, cellsOf, COVER, hangs, HEIGHT, cellRow, LIFTS, MOIST, PAINT_ROW, PAINT_TABLE, RESIST, SALT, SETTLED, WATER,
} from "./film";

/**
 * What a brush leaves in a wash, and takes from it. A stroke covers each cell once, as far as its marks cover it
 * at most; what that grows by brings water and paint, or takes them.
 *
 * A mark is sixteen f32: place, radii along and across, cosine and sine of its angle, how wide its edge is (px), 1 for
 * a square tip, water, load, how much of the tooth it meets (0: all of it), how much salt it strews, and whether it pours:
 * what it brings is added then to what the stroke has left there already; the last are free.
 */
const MARK_BYTES: usize = 64;
/** What a brush does. */
const LAY: i32 = 0;
const THIRST: i32 = 1;
/** From so much water on it falls as a drop, films, and pushes away what it falls into. */
const DROP: f32 = 2;
const PUSHES: f32 = 0.25;
/** Where a brush goes over a film it fills it up to its own, and leaves at least this share of its water. */
const TOPS_UP: f32 = 0.25;
/** How far what is in a brush and what is in the film under it change places, where the brush has more. */
const MIXES: f32 = 0.5;
/** Of a cell that a stroke covers: how far, and the film and the paint that it found there. */
const FOUND_WATER: usize = 4096;
const FOUND_PAINT: usize = 8192;
/** So thin a film does not run: paint stays where the tooth took it. */
const DRY_BRUSH: f32 = 0.12;

// @ts-ignore: decorator
@inline function smooth(t: f32): f32 {
  const held = min<f32>(1, max<f32>(0, t));
  return held * held * (<f32>3 - 2 * held);
}

/** How far a mask (0: none) lets a stroke into a cell. */
function opened(mask: usize, x: i32, y: i32): f32 {
  if (!mask) return 1;
  const at = mask + ROW_BYTES * <usize>(2 * y) + BLOCK_BYTES * <usize>(x >> 2) + 48 + (<usize>((2 * x) & 7) << 1);
  const sum = <i32>load<u16>(at) + <i32>load<u16>(at, 2) + <i32>load<u16>(at + ROW_BYTES) + <i32>load<u16>(at + ROW_BYTES, 2);
  return <f32>sum * <f32>(1.0 / (4.0 * 32767.0));
}

// @ts-ignore: decorator
@inline function num(mark: usize, index: usize): f32 {
  return load<f32>(mark + (index << 2));
}

/** How far a mark covers a place, 0…1. */
function covers(mark: usize, x: f32, y: f32): f32 {
  const dx = x - num(mark, 0), dy = y - num(mark, 1);
  const long = num(mark, 2), short = num(mark, 3);
  const u = Mathf.abs(dx * num(mark, 4) + dy * num(mark, 5)), v = Mathf.abs(dy * num(mark, 4) - dx * num(mark, 5));
  const within = num(mark, 7) > 0
    ? min<f32>(long - u, short - v)
    : (<f32>1 - Mathf.sqrt((u / long) * (u / long) + (v / short) * (v / short))) * min<f32>(long, short);
  // A tip thinner than a cell covers it in part.
  const full = min<f32>(1, short);
  const edge = num(mark, 6);
  return full * smooth(edge > 2.5 ? within / edge : within / edge + 0.5);
}

/** What four paints and more lose to a thirsty brush, or bring up. */
function takeUp(i: usize, state: usize, by: f32, rub: f32, slots: i32, numbers: usize): void {
  const w = load<f32>(state + WATER + i);
  const isDry = w < 0.02;
  for (let slot = 0; slot < slots; slot++) {
    const at = state + hangs(slot) + i;
    const d = load<f32>(at + SETTLED), lifts = load<f32>(numbers + PAINT_TABLE + PAINT_ROW * <usize>slot + LIFTS);
    const up = d * min<f32>(1, rub * lifts * by);
    store<f32>(at + SETTLED, d - up);
    const p = load<f32>(at) + up;
    store<f32>(at, isDry ? p - up : p - p * min<f32>(1, <f32>0.7 * by));
  }
  store<f32>(state + WATER + i, w - w * min<f32>(1, <f32>0.7 * by));
  const s = load<f32>(state + MOIST + i);
  store<f32>(state + MOIST + i, s - <f32>0.3 * by * s);
}

/** How much of a brush's water stays where it found a film, for a whole pass. What falls all stays. */
// @ts-ignore: decorator
@inline function stays(water: f32, found: f32): f32 {
  return water > DROP ? water : max<f32>(TOPS_UP * water, water - found);
}

/** How much paint comes with it: what its water brings, and what changes places with what the film has. */
// @ts-ignore: decorator
@inline function comes(water: f32, loaded: f32, found: f32, foundPaint: f32): f32 {
  if (water > DROP || water < DRY_BRUSH) return loaded;
  const strong = loaded / water;
  return strong * stays(water, found) + MIXES * max<f32>(0, strong * min<f32>(found, water) - foundPaint);
}

/** `found`, `foundPaint`: the film and the paint there before the stroke. */
function lay(i: usize, state: usize, by: f32, cover: f32, mark: usize, slot: i32, found: f32, foundPaint: f32): void {
  const open = <f32>1 - load<f32>(state + RESIST + i);
  const water = num(mark, 8), loaded = num(mark, 9), salt = num(mark, 11);
  if (salt > 0) {
    store<f32>(state + SALT + i, load<f32>(state + SALT + i) + salt * by);
    return;
  }
  store<f32>(state + WATER + i, load<f32>(state + WATER + i) + stays(water, found) * by * open);
  const c = cover * open;
  store<f32>(state + COVER + i, max<f32>(load<f32>(state + COVER + i), c));
  const damp = min<f32>(0.35, <f32>0.7 * water) * min<f32>(1, 4 * cover);
  store<f32>(state + MOIST + i, max<f32>(load<f32>(state + MOIST + i), damp * open));
  if (slot < 0 || loaded <= 0) return;
  const at = state + hangs(slot) + i + (water < DRY_BRUSH ? SETTLED : 0);
  store<f32>(at, load<f32>(at) + comes(water, loaded, found, foundPaint) * by * open);
}

/** Notes what a stroke finds in a cell that it covers for the first time. */
function find(i: usize, state: usize, covered: usize, slot: i32): void {
  store<f32>(covered + FOUND_WATER + i, load<f32>(state + WATER + i));
  store<f32>(covered + FOUND_PAINT + i, slot < 0 ? 0 : load<f32>(state + hangs(slot) + i));
}

/**
 * Lays marks on a tile. `covered`: how far the stroke has covered its cells so far, and what it found in them, 3 × 32 × 32 f32; `what`: 0 lays
 * (paint into `slot`, −1: clear water), 1 takes up, `rub` times as strongly; `mask`: a tile that is open where the stroke may go, or 0.
 * `cells`: what its water can take up of dry marks (0: nothing), into which paints (`dissolving`: see `dissolve`), and
 * which share of it a whole pass takes up.
 */
export function washMarks(
  state: usize, covered: usize, px: i32, py: i32, marks: usize, count: i32, what: i32, slot: i32, rub: f32, mask: usize,
  slots: i32, numbers: usize, paper: usize, side: i32, cells: usize, dissolving: i32, dissolves: f32,
): void {
  const heights = cellsOf(paper, side, HEIGHT, px, py), row = cellRow(side);
  for (let n = 0; n < count; n++) {
    const mark = marks + MARK_BYTES * <usize>n;
    const cos = Mathf.abs(num(mark, 4)), sin = Mathf.abs(num(mark, 5)), long = num(mark, 2), short = num(mark, 3);
    const wide = cos * long + sin * short + 2, high = sin * long + cos * short + 2;
    const x0 = max<i32>(0, <i32>((num(mark, 0) - wide - <f32>px) * 0.5)), y0 = max<i32>(0, <i32>((num(mark, 1) - high - <f32>py) * 0.5));
    const x1 = min<i32>(CELLS - 1, <i32>((num(mark, 0) + wide - <f32>px) * 0.5)), y1 = min<i32>(CELLS - 1, <i32>((num(mark, 1) + high - <f32>py) * 0.5));
    if (num(mark, 0) + wide < <f32>px || num(mark, 1) + high < <f32>py) continue;
    const tooth = num(mark, 10), pours = num(mark, 12) > 0;
    for (let y = y0; y <= y1; y++) {
      for (let x = x0; x <= x1; x++) {
        const i = <usize>(y * CELLS + x) << 2;
        let cover = covers(mark, <f32>(px + 2 * x + 1), <f32>(py + 2 * y + 1));
        const before = load<f32>(covered + i);
        if (pours) {
          cover *= opened(mask, x, y);
          if (cover > 0) lay(i, state, cover, cover, mark, slot, 0, 0);
          continue;
        }
        if (cover <= before) continue;
        if (tooth > 0) cover *= smooth((cover * tooth - <f32>1 + load<f32>(heights + row * <usize>y + (<usize>x << 2)) + <f32>0.16) * <f32>(1.0 / 0.32));
        cover *= opened(mask, x, y);
        if (cover <= before) continue;
        store<f32>(covered + i, cover);
        if (before == 0) find(i, state, covered, slot);
        if (what == THIRST) takeUp(i, state, cover - before, rub, slots, numbers);
        else {
          if (num(mark, 8) > DROP) store<f32>(state + BRINE + i, load<f32>(state + BRINE + i) + PUSHES * (num(mark, 8) - DROP) * (cover - before));
          lay(i, state, cover - before, cover, mark, slot, load<f32>(covered + FOUND_WATER + i), load<f32>(covered + FOUND_PAINT + i));
          if (cells) dissolve(i, state, (cover - before) * (<f32>1 - load<f32>(state + RESIST + i)) * dissolves, cells, dissolving);
        }
      }
    }
  }
}
