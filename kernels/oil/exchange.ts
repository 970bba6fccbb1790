import { SIDE } from "../layout";
import { BANDS, BULK, BULK_H, CHANGED, GROUND, GROUP, grows, OPEN, ROW_OF_WET, SKIN_H, surface, THINNER } from "./wet";

/**
 * Bristles and wet paint give each other paint (after Baxter, Wendt & Lin 2004; the bristles are swept, not
 * stamped: over each straight piece of a bristle's way the kernel 1 − d²/r² is integrated exactly, so no mark
 * shows). One sweep is written down as 56 words by `src/engine/oil/sweep.ts`:
 *
 *   0 1 where it began · 2 3 direction · 4 length · 5 radius · 6 radius of its bead
 *   7 pressing down, in lengths · 8 radius of that · 9 pressure a px
 *  10 gives · 11 takes of the skin · 12 of the bulk · 13 ploughs · 14 stirs · 15 film that clings
 *  16 how far hair is even · 17 height where it touches, less its own · 18 where thick paint meets it · 19 how softly
 *  20 bead laid · 21 bead laid without touching · 22 to the outer side · 23 thick
 *  24 … 30 what its paint takes up · 31 … 37 what its bead does
 *  38 … 45 hair: the first knot, then seven slopes and changes of slope
 *  46 47 48 49 left top right bottom, whole px · 50 51 share of paint and of thinner in what is given
 *
 * What moved is summed, 20 words: what was taken (seven bands, thickness), what was ploughed (the same), what was
 * given, what the bead laid, and the height of what lies there, weighed by nearness, with its weight. Volumes in px³.
 */
export const SWEEP_BYTES: usize = 224;
const SUM_BYTES: usize = 80;
/** The skin is no thicker than this, px. */
const SKIN: f32 = 0.45;
const TAKEN: usize = 0;
const PLOUGHED: usize = 128;
const GIVEN: usize = 256;
const LAID: usize = 272;
const HEIGHT: usize = 288;
const WEIGHT: usize = 304;
const LANES = f32x4(0, 1, 2, 3);

// @ts-ignore: decorator
@inline function f(sweep: usize, word: usize): f32 {
  return load<f32>(sweep + (word << 2));
}

// @ts-ignore: decorator
@inline function all(sweep: usize, word: usize): v128 {
  return v128.load32_splat(sweep + (word << 2));
}

// @ts-ignore: decorator
@inline function add(at: usize, value: v128): void {
  v128.store(at, f32x4.add(v128.load(at), value));
}

// @ts-ignore: decorator
@inline function clamp01(a: v128): v128 {
  return f32x4.pmin(f32x4.pmax(a, f32x4.splat(0)), f32x4.splat(1));
}

/** One step of the bristles in one tile: `list` names the `count` sweeps that reach it, in order. */
export function sweepTile(wet: usize, px: i32, py: i32, sweeps: usize, list: usize, count: i32, sums: usize, scratch: usize): void {
  for (let i = 0; i < count; i++) {
    const sweep = sweeps + <usize>load<i32>(list + (<usize>i << 2)) * SWEEP_BYTES;
    memory.fill(scratch, 0, 320);
    sweepOne(wet, px, py, sweep, scratch);
    const to = sums + <usize>i * SUM_BYTES;
    for (let n: usize = 0; n < 20; n++) {
      const at = scratch + (n << 4);
      store<f32>(to + (n << 2), (load<f32>(at) + load<f32>(at, 8)) + (load<f32>(at, 4) + load<f32>(at, 12)));
    }
  }
}

/** How long a disc of square radius r² is over a place, weighed 1 − d²/r²: `a` along and `n` across from its start. */
// @ts-ignore: decorator
@inline function swept(a: v128, n2: v128, length: v128, square: f32): v128 {
  const zero = f32x4.splat(0);
  const q = f32x4.sub(f32x4.splat(square), n2);
  const s = f32x4.sqrt(f32x4.pmax(q, zero));
  const lo = f32x4.pmax(f32x4.neg(a), f32x4.neg(s));
  const hi = f32x4.pmax(f32x4.pmin(f32x4.sub(length, a), s), lo);
  const lo3 = f32x4.mul(f32x4.mul(lo, lo), lo), hi3 = f32x4.mul(f32x4.mul(hi, hi), hi);
  const whole = f32x4.sub(f32x4.mul(q, f32x4.sub(hi, lo)), f32x4.mul(f32x4.sub(hi3, lo3), f32x4.splat(<f32>(1.0 / 3.0))));
  return f32x4.pmax(f32x4.mul(whole, f32x4.splat(<f32>1 / square)), zero);
}

function sweepOne(wet: usize, px: i32, py: i32, sweep: usize, sums: usize): void {
  const left = max(load<i32>(sweep, 184) - px, 0) & ~3, top = max(load<i32>(sweep, 188) - py, 0);
  const right = min(load<i32>(sweep, 192) - px, SIDE), bottom = min(load<i32>(sweep, 196) - py, SIDE);
  const x0 = <f32>px + <f32>0.5 - f(sweep, 0), y0 = <f32>py + <f32>0.5 - f(sweep, 1);
  const dx = f(sweep, 2), dy = f(sweep, 3), length = all(sweep, 4);
  const square = f(sweep, 5) * f(sweep, 5), wide = f(sweep, 6) * f(sweep, 6);
  const dwell = all(sweep, 7), perDwell = f32x4.splat(<f32>1 / (f(sweep, 8) * f(sweep, 8)));
  const endX = f(sweep, 4) * dx, endY = f(sweep, 4) * dy;
  const one = f32x4.splat(1), zero = f32x4.splat(0);
  // Most bristles go on as hard as they were pressed: then none comes down farther.
  const comesDown = f(sweep, 7) > 0;
  for (let y = top; y < bottom; y++) {
    const fy = y0 + <f32>y;
    for (let x = left; x < right; x += 4) {
      const fx = f32x4.add(f32x4.splat(x0 + <f32>x), LANES);
      const a = f32x4.add(f32x4.mul(fx, f32x4.splat(dx)), f32x4.splat(fy * dy));
      const n = f32x4.sub(f32x4.splat(fy * dx), f32x4.mul(fx, f32x4.splat(dy)));
      const n2 = f32x4.mul(n, n);
      const at = wet + <usize>y * ROW_OF_WET + <usize>(x >> 2) * GROUP;
      const open = v128.load(at, OPEN);
      let pressed = zero;
      if (comesDown) {
        const ex = f32x4.sub(fx, f32x4.splat(endX)), ey = fy - endY;
        const far = f32x4.add(f32x4.mul(ex, ex), f32x4.splat(ey * ey));
        pressed = f32x4.mul(dwell, f32x4.pmax(f32x4.sub(one, f32x4.mul(far, perDwell)), zero));
      }
      const around = f32x4.mul(open, f32x4.add(swept(a, n2, length, wide), pressed));
      if (!v128.any_true(f32x4.gt(around, zero))) continue;
      const under = f32x4.mul(open, f32x4.add(swept(a, n2, length, square), pressed));
      if (!exchange(at, sweep, n, under, around, sums)) continue;
      const changed = wet + CHANGED + <usize>((y << 4) + (x >> 2));
      store<u8>(changed, load<u8>(changed) | 1);
    }
  }
}

/** A share of a thickness; the last breath of paint is taken whole, or it would go on as numbers too small to reckon with. */
// @ts-ignore: decorator
@inline function wholly(h: v128, w: v128, share: v128): v128 {
  const isBreath = v128.and(f32x4.lt(h, f32x4.splat(<f32>0.00002)), f32x4.gt(w, f32x4.splat(0)));
  return v128.bitselect(f32x4.splat(1), share, isBreath);
}

/** Hair is uneven across a bristle: knots joined by straight pieces, as changes of slope. */
// @ts-ignore: decorator
@inline function hairAt(n: v128, sweep: usize): v128 {
  const zero = f32x4.splat(0);
  // 0 … 7 from one side of the bead to the other.
  const per = <f32>3.5 / f(sweep, 6);
  const u = f32x4.pmin(f32x4.pmax(f32x4.add(f32x4.mul(n, f32x4.splat(per)), f32x4.splat(<f32>3.5)), zero), f32x4.splat(7));
  let hair = f32x4.add(all(sweep, 38), f32x4.mul(u, all(sweep, 39)));
  for (let knot: usize = 1; knot < 7; knot++) {
    const beyond = f32x4.pmax(f32x4.sub(u, f32x4.splat(<f32>knot)), zero);
    hair = f32x4.add(hair, f32x4.mul(beyond, all(sweep, 39 + knot)));
  }
  return hair;
}

/** Four pixels and one sweep, each having lain under it for so long. Whether that changed anything. */
function exchange(at: usize, sweep: usize, n: v128, under: v128, around: v128, sums: usize): bool {
  const one = f32x4.splat(1), zero = f32x4.splat(0), least = f32x4.splat(<f32>0.000001), cap = f32x4.splat(SKIN);
  let hs = v128.load(at, SKIN_H), hb = v128.load(at, BULK_H);
  const thickness = f32x4.add(hs, hb);
  const z = surface(v128.load(at, GROUND), thickness);
  add(sums + HEIGHT, f32x4.mul(around, z));
  add(sums + WEIGHT, around);
  // Where it touches: peaks and thick paint first.
  const thick = clamp01(f32x4.mul(f32x4.splat(<f32>1.1), f32x4.sub(thickness, all(sweep, 18))));
  const down = f32x4.add(f32x4.add(z, all(sweep, 17)), f32x4.mul(thick, f32x4.splat(<f32>0.8)));
  const t = clamp01(f32x4.add(f32x4.mul(down, all(sweep, 19)), f32x4.splat(<f32>0.5)));
  const touches = f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
  // The bead runs off beside it.
  const limit = all(sweep, 23);
  const above = f32x4.pmax(f32x4.sub(thickness, f32x4.mul(limit, f32x4.splat(<f32>1.2))), zero);
  const crowded = f32x4.add(one, f32x4.add(f32x4.mul(above, f32x4.splat(<f32>0.6)), f32x4.mul(f32x4.mul(above, above), f32x4.splat(<f32>0.3))));
  const side = f32x4.pmax(f32x4.add(one, f32x4.mul(all(sweep, 22), n)), zero);
  const reached = f32x4.add(touches, f32x4.mul(f32x4.sub(one, touches), all(sweep, 21)));
  const beside = f32x4.pmax(f32x4.sub(around, under), zero);
  const bead = f32x4.div(f32x4.mul(f32x4.mul(f32x4.mul(all(sweep, 20), beside), side), reached), crowded);
  add(sums + LAID, bead);
  hb = f32x4.add(hb, bead);
  const touched = f32x4.mul(under, touches);
  // Under its bead alone the hair need not be asked.
  const w = v128.any_true(f32x4.gt(touched, zero)) ? f32x4.mul(f32x4.mul(touched, hairMixed(n, sweep)), all(sweep, 9)) : zero;
  if (!v128.any_true(f32x4.gt(w, zero))) {
    if (!v128.any_true(f32x4.gt(bead, zero))) return false;
    for (let band: usize = 0; band < BANDS; band++) add(at + BULK + (band << 4), f32x4.mul(bead, all(sweep, 31 + band)));
    v128.store(at, hb, BULK_H);
    return true;
  }
  const h = f32x4.add(hs, hb);
  const thinner = v128.load(at, THINNER);
  const thinned = f32x4.div(thinner, f32x4.pmax(f32x4.add(h, thinner), least));
  const over = f32x4.pmax(f32x4.sub(h, limit), zero);
  const free = f32x4.pmax(f32x4.sub(one, f32x4.div(f32x4.mul(all(sweep, 15), f32x4.sub(one, thinned)), f32x4.pmax(h, least))), f32x4.splat(<f32>0.06));
  const moved = f32x4.mul(f32x4.mul(w, free), f32x4.add(one, f32x4.mul(thinned, f32x4.splat(1.5))));
  // What is taken, and what of the rest is ploughed aside.
  const ploughs = grows(f32x4.mul(f32x4.mul(all(sweep, 13), moved), f32x4.add(one, f32x4.mul(over, f32x4.splat(0.5)))));
  const covered = f32x4.sub(one, f32x4.mul(hs, f32x4.splat(<f32>0.5 / SKIN)));
  const skinTaken = wholly(hs, w, grows(f32x4.mul(all(sweep, 11), moved)));
  const bulkTaken = wholly(hb, w, grows(f32x4.mul(f32x4.mul(all(sweep, 12), moved), covered)));
  const skinPloughed = f32x4.mul(f32x4.sub(one, skinTaken), ploughs), bulkPloughed = f32x4.mul(f32x4.sub(one, bulkTaken), ploughs);
  const skinStays = f32x4.sub(f32x4.sub(one, skinTaken), skinPloughed), bulkStays = f32x4.sub(f32x4.sub(one, bulkTaken), bulkPloughed);
  add(sums + TAKEN + 112, f32x4.add(f32x4.mul(hs, skinTaken), f32x4.mul(hb, bulkTaken)));
  add(sums + PLOUGHED + 112, f32x4.add(f32x4.mul(hs, skinPloughed), f32x4.mul(hb, bulkPloughed)));
  hs = f32x4.mul(hs, skinStays);
  hb = f32x4.mul(hb, bulkStays);
  // Skin and bulk are stirred: as much goes down as comes up.
  const swap = f32x4.mul(f32x4.pmin(f32x4.mul(all(sweep, 14), w), f32x4.splat(0.5)), f32x4.pmin(hs, hb));
  const goesDown = f32x4.div(swap, f32x4.pmax(hs, least)), comesUp = f32x4.div(swap, f32x4.pmax(hb, least));
  // What is given makes the skin; older skin sinks, and what is more than a skin goes below.
  const given = f32x4.div(f32x4.mul(all(sweep, 10), w), f32x4.add(one, f32x4.add(f32x4.mul(over, f32x4.splat(<f32>0.6)), f32x4.mul(f32x4.mul(over, over), f32x4.splat(<f32>0.12)))));
  const laid = f32x4.mul(given, all(sweep, 50));
  const room = f32x4.pmax(f32x4.sub(cap, laid), zero);
  const sinks = f32x4.div(f32x4.pmax(f32x4.sub(hs, room), zero), f32x4.pmax(hs, least));
  const onSkin = f32x4.pmin(laid, cap), onBulk = f32x4.sub(laid, onSkin);
  // Who takes paint up takes its thinner too.
  v128.store(at, f32x4.add(f32x4.mul(thinner, f32x4.sub(one, bulkTaken)), f32x4.mul(given, all(sweep, 51))), THINNER);
  add(sums + GIVEN, given);
  const keepsSkin = f32x4.sub(one, sinks);
  const fromSkin = f32x4.mul(skinStays, f32x4.sub(one, goesDown)), fromBulk = f32x4.mul(bulkStays, comesUp);
  const skinSkin = f32x4.mul(fromSkin, keepsSkin), bulkSkin = f32x4.mul(fromBulk, keepsSkin);
  const skinBulk = f32x4.add(f32x4.mul(skinStays, goesDown), f32x4.mul(fromSkin, sinks));
  const bulkBulk = f32x4.add(f32x4.mul(bulkStays, f32x4.sub(one, comesUp)), f32x4.mul(fromBulk, sinks));
  for (let band: usize = 0; band < BANDS; band++) {
    const b = band << 4;
    const skin = v128.load(at + b), bulk = f32x4.add(v128.load(at + BULK + b), f32x4.mul(bead, all(sweep, 31 + band)));
    add(sums + TAKEN + b, f32x4.add(f32x4.mul(skin, skinTaken), f32x4.mul(bulk, bulkTaken)));
    add(sums + PLOUGHED + b, f32x4.add(f32x4.mul(skin, skinPloughed), f32x4.mul(bulk, bulkPloughed)));
    const paint = all(sweep, 24 + band);
    v128.store(at + b, f32x4.add(f32x4.add(f32x4.mul(skin, skinSkin), f32x4.mul(bulk, bulkSkin)), f32x4.mul(onSkin, paint)));
    v128.store(at + BULK + b, f32x4.add(f32x4.add(f32x4.mul(skin, skinBulk), f32x4.mul(bulk, bulkBulk)), f32x4.mul(onBulk, paint)));
  }
  const sunk = f32x4.mul(hs, sinks);
  v128.store(at, f32x4.add(f32x4.sub(hs, sunk), onSkin), SKIN_H);
  v128.store(at, f32x4.add(f32x4.add(hb, sunk), onBulk), BULK_H);
  return true;
}

/** A full bristle lays evenly whatever its hair. */
// @ts-ignore: decorator
@inline function hairMixed(n: v128, sweep: usize): v128 {
  const hair = hairAt(n, sweep);
  return f32x4.add(hair, f32x4.mul(f32x4.sub(f32x4.splat(1), hair), all(sweep, 16)));
}
