import {
  BRINE, CELLS, cellRow, cellsOf, CLINGS, COMES_UP, COVER, DRAWN, DRIES, gather, GATHERED, GRAINS, greatest, hangs, HEIGHT,
  held01, HELD, LETS, MOIST, PAINT_ROW, PAINT_TABLE, RESIST, rowOf, SALT, SETTLED, SETTLES, splat, STRAYS, TILT_X,
  TILT_Y, VAPOUR, WATER,
} from "./film";

/**
 * One step, a sixtieth of a second, of a wash on one tile: the state before is read, that after it written. Water
 * runs by its level and by the sheet's tilt, spreads over the paper where its film is thick enough to wet it,
 * soaks in and dries; what hangs in it goes along, is drawn to where more dries, settles and comes up again.
 * Each face between two cells is worked out by both tiles alike, so nothing is lost between them.
 */
const MARGIN: i32 = 4;
const ROW: usize = 160;
const FIELD: usize = 6400;

/** Fields that a thread works with. */
const W: usize = 0;
const C: usize = FIELD;
const S: usize = FIELD * 2;
const F: usize = FIELD * 3;
const R: usize = FIELD * 4;
/** Thickness of the film; the new vapour; water blurred; where it strays. */
const L: usize = FIELD * 5;
const N: usize = FIELD * 6;
const B: usize = FIELD * 7;
const Y: usize = FIELD * 8;
const T: usize = FIELD * 9;
/** Faces to the right and below: how fast water goes, what of a cell's paint goes, and what of its neighbour's comes. */
const RIGHT: usize = FIELD * 10;
const BELOW: usize = FIELD * 13;
const OUT: usize = FIELD * 16;
const P: usize = FIELD * 17;
const X: usize = FIELD * 18;
const ONWARD: usize = FIELD;
const BACK: usize = FIELD * 2;

/** No more of a cell than this goes through one face in a step. */
const MOST: f32 = 0.24;

// @ts-ignore: decorator
@inline function at(x: i32, y: i32): usize {
  return ROW * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
}

// @ts-ignore: decorator
@inline function k(v: f32): v128 {
  return f32x4.splat(v);
}

// @ts-ignore: decorator
@inline function within(a: v128, bound: v128): v128 {
  return f32x4.pmax(f32x4.pmin(a, bound), f32x4.neg(bound));
}

/** Thickness of the film, vapour after the step, water blurred, and where it strays. */
function prepare(m: usize, strays: usize, paperRow: usize): void {
  for (let i: usize = 0; i < FIELD; i += 16)
    v128.store(m + L + i, f32x4.div(v128.load(m + W + i), f32x4.pmax(v128.load(m + C + i), k(0.05))));
  for (let y = -3; y < CELLS + 3; y++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y);
      const l = v128.load(o + L);
      let wet = f32x4.div(l, f32x4.add(l, k(0.08)));
      const damp = f32x4.pmin(k(1), f32x4.mul(k(1.3), v128.load(o + S)));
      wet = f32x4.add(wet, f32x4.mul(k(0.3), f32x4.pmax(k(0), f32x4.sub(damp, wet))));
      wet = f32x4.mul(wet, v128.load(o + C));
      const f = v128.load(o + F);
      const across = f32x4.add(v128.load(o + F - 4), v128.load(o + F + 4));
      const down = f32x4.add(v128.load(o + F - ROW), v128.load(o + F + ROW));
      const lap = f32x4.sub(f32x4.add(across, down), f32x4.mul(k(4), f));
      const next = f32x4.add(f, f32x4.add(f32x4.mul(k(0.2), lap), f32x4.mul(k(0.06), f32x4.sub(wet, f))));
      v128.store(o + N, next);
      const s = v128.load(strays + paperRow * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2));
      v128.store(o + Y, f32x4.mul(s, held01(f32x4.sub(f32x4.mul(k(2.2), next), k(1.1)))));
    }
  }
  for (let y = -4; y < CELLS + 4; y++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y) + W;
      const far = f32x4.add(v128.load(o - 8), v128.load(o + 8));
      const near = f32x4.mul(k(4), f32x4.add(v128.load(o - 4), v128.load(o + 4)));
      v128.store(o - W + T, f32x4.add(f32x4.add(far, near), f32x4.mul(k(6), v128.load(o))));
    }
  }
  for (let y = -2; y < CELLS + 2; y++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y) + T;
      const far = f32x4.add(v128.load(o - 2 * ROW), v128.load(o + 2 * ROW));
      const near = f32x4.mul(k(4), f32x4.add(v128.load(o - ROW), v128.load(o + ROW)));
      const sum = f32x4.add(f32x4.add(far, near), f32x4.mul(k(6), v128.load(o)));
      v128.store(o - T + B, f32x4.mul(sum, k(<f32>(1.0 / 256.0))));
    }
  }
}

/**
 * The faces of four cells to their neighbours `on` bytes on. `curl`: by how much what strays differs along the
 * face; `p`: the paper's cell, `pOn` bytes before its neighbour; `planes` bytes from plane to plane.
 */
// @ts-ignore: decorator
@inline function faces(
  o: usize, on: usize, to: usize, p: usize, pOn: usize, planes: usize, tilt: v128, drawn: v128, curl: v128,
  isSalted: bool,
): void {
  const zero = k(0), one = k(1);
  const li = v128.load(o + L), lj = v128.load(o + on + L);
  const si = v128.load(o + S), sj = v128.load(o + on + S);
  const wi = v128.load(o + W), wj = v128.load(o + on + W);
  const open = f32x4.mul(f32x4.sub(one, v128.load(o + R)), f32x4.sub(one, v128.load(o + on + R)));
  const lets = p + planes * <usize>LETS, clings = p + planes * <usize>CLINGS, strays = p + planes * <usize>STRAYS;
  const pass = f32x4.pmin(v128.load(lets), v128.load(lets + pOn));
  const level = f32x4.sub(li, lj);
  const dl = f32x4.add(level, f32x4.mul(k(0.04), f32x4.sub(v128.load(p), v128.load(p + pOn))));
  const d = f32x4.add(dl, tilt);
  const onward = f32x4.ge(d, zero);
  const clung = v128.bitselect(v128.load(clings + pOn), v128.load(clings), onward);
  const lDown = v128.bitselect(lj, li, onward), lUp = v128.bitselect(li, lj, onward);
  const sDown = v128.bitselect(sj, si, onward), wUp = v128.bitselect(wi, wj, onward);
  const dryness = f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(k(2.2), lDown)));
  const yields = f32x4.mul(f32x4.mul(f32x4.mul(k(0.8), clung), dryness), f32x4.sub(k(1.2), sDown));
  const size = f32x4.abs(d);
  const eager = f32x4.div(f32x4.pmax(zero, f32x4.sub(size, yields)), f32x4.add(size, k(<f32>1e-9)));
  const both = f32x4.mul(li, lj);
  const levelled = f32x4.mul(f32x4.mul(f32x4.mul(k(0.22), pass), f32x4.div(both, f32x4.add(both, k(0.05)))), dl);
  const up2 = f32x4.mul(lUp, lUp);
  const head = f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(k(2.5), f32x4.pmax(zero, f32x4.sub(lDown, lUp)))));
  const runs = f32x4.mul(f32x4.div(f32x4.mul(f32x4.mul(k(0.35), up2), lUp), f32x4.add(k(0.5), up2)), f32x4.mul(tilt, head));
  const covered = f32x4.mul(f32x4.pmin(v128.load(o + C), v128.load(o + on + C)), open);
  const flow = f32x4.mul(f32x4.mul(covered, eager), f32x4.add(levelled, runs));
  const v = within(f32x4.div(flow, f32x4.add(wUp, k(<f32>1e-9))), k(MOST));
  const left = f32x4.sub(k(MOST), f32x4.abs(v));
  const thin = f32x4.pmin(li, lj);
  const gate = f32x4.mul(f32x4.pmin(one, f32x4.mul(k(4), thin)), open);
  const moves = f32x4.mul(f32x4.pmin(one, f32x4.add(k(0.08), f32x4.mul(k(<f32>(0.92 / 0.6)), thin))), f32x4.add(k(0.5), pass));
  const spread = f32x4.pmin(left, f32x4.mul(f32x4.mul(k(0.1), gate), moves));
  const stray = f32x4.mul(k(0.03), f32x4.add(v128.load(strays), v128.load(strays + pOn)));
  const q = f32x4.pmin(k(1.6), f32x4.pmax(k(0.45), f32x4.add(one, stray)));
  let pull = f32x4.mul(f32x4.mul(drawn, q), f32x4.sub(v128.load(o + N), v128.load(o + on + N)));
  pull = f32x4.add(pull, f32x4.mul(k(0.015), curl));
  if (isSalted) {
    const way = f32x4.pmin(one, f32x4.mul(k(1.6), pass));
    pull = f32x4.add(pull, f32x4.mul(f32x4.mul(k(0.9), way), f32x4.sub(v128.load(o + X), v128.load(o + on + X))));
  }
  const u = within(f32x4.mul(gate, pull), f32x4.sub(left, spread));
  const common = f32x4.pmin(wi, wj);
  const fromI = f32x4.div(common, f32x4.add(wi, k(<f32>1e-9))), fromJ = f32x4.div(common, f32x4.add(wj, k(<f32>1e-9)));
  v128.store(o + to, v);
  const forth = f32x4.mul(fromI, f32x4.add(spread, f32x4.pmax(u, zero)));
  const back = f32x4.mul(fromJ, f32x4.add(spread, f32x4.pmax(f32x4.neg(u), zero)));
  v128.store(o + to + ONWARD, f32x4.add(f32x4.pmax(v, zero), forth));
  v128.store(o + to + BACK, f32x4.add(f32x4.pmax(f32x4.neg(v), zero), back));
}

function allFaces(m: usize, paper: usize, row: usize, planes: usize, numbers: usize, isSalted: bool): void {
  const drawn = splat(numbers + DRAWN);
  const tiltX = splat(numbers + TILT_X), tiltY = splat(numbers + TILT_Y);
  const quarter = k(0.25);
  for (let y = -1; y < CELLS; y++) {
    for (let x = -4; x < CELLS; x += 4) {
      const o = m + at(x, y), p = paper + row * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
      if (y >= 0) {
        const low = f32x4.add(v128.load(o + Y + ROW), v128.load(o + Y + ROW + 4));
        const high = f32x4.add(v128.load(o + Y - ROW), v128.load(o + Y - ROW + 4));
        faces(o, 4, RIGHT, p, 4, planes, tiltX, drawn, f32x4.mul(quarter, f32x4.sub(low, high)), isSalted);
      }
      if (x < 0) continue;
      const right = f32x4.add(v128.load(o + Y + 4), v128.load(o + Y + ROW + 4));
      const left = f32x4.add(v128.load(o + Y - 4), v128.load(o + Y + ROW - 4));
      faces(o, ROW, BELOW, p, row, planes, tiltY, drawn, f32x4.mul(quarter, f32x4.sub(left, right)), isSalted);
    }
  }
}

/** What a neighbour that is covered farther does to the cover of four cells. */
// @ts-ignore: decorator
@inline function front(o: usize, n: usize, tilt: v128, holds: v128, own: v128, blurred: v128): v128 {
  const cn = v128.load(n + C);
  const film = f32x4.mul(k(1.5), v128.load(n + L));
  const pushed = f32x4.pmin(film, f32x4.add(v128.load(n + B), blurred));
  const drive = f32x4.add(f32x4.mul(pushed, f32x4.add(k(1), f32x4.mul(k(0.15), tilt))), holds);
  const comes = f32x4.mul(f32x4.mul(k(0.4), f32x4.pmax(k(0), drive)), f32x4.pmax(k(0), f32x4.sub(cn, k(0.35))));
  return v128.and(comes, f32x4.gt(cn, own));
}

/** How far cover goes: the film pushes on, dry paper holds. */
function spreadCover(m: usize, o: usize, p: usize, planes: usize, tiltX: v128, tiltY: v128): v128 {
  const c = v128.load(o + C);
  const across = f32x4.add(v128.load(o + C - 4), v128.load(o + C + 4));
  const down = f32x4.add(v128.load(o + C - ROW), v128.load(o + C + ROW));
  const high = f32x4.add(v128.load(o + C - ROW - 4), v128.load(o + C - ROW + 4));
  const low = f32x4.add(v128.load(o + C + ROW - 4), v128.load(o + C + ROW + 4));
  const corners = f32x4.add(high, low);
  const mean = f32x4.mul(
    f32x4.add(f32x4.add(corners, f32x4.mul(k(2), f32x4.add(across, down))), f32x4.mul(k(4), c)), k(<f32>(1.0 / 16.0)));
  const dryness = f32x4.sub(k(1), f32x4.pmin(k(1), f32x4.mul(v128.load(o + S), k(<f32>(1.0 / 0.45)))));
  const clung = f32x4.mul(k(1.9), f32x4.mul(v128.load(p + planes * <usize>CLINGS), dryness));
  const holds = f32x4.sub(f32x4.mul(k(0.35), f32x4.sub(f32x4.mul(k(4), mean), k(1))), clung);
  const blurred = v128.load(o + B);
  let sum = front(o, o - 4, tiltX, holds, c, blurred);
  sum = f32x4.add(sum, front(o, o + 4, f32x4.neg(tiltX), holds, c, blurred));
  sum = f32x4.add(sum, front(o, o - ROW, tiltY, holds, c, blurred));
  sum = f32x4.add(sum, front(o, o + ROW, f32x4.neg(tiltY), holds, c, blurred));
  const next = f32x4.add(c, f32x4.pmin(k(0.4), sum));
  return f32x4.pmin(next, f32x4.sub(k(1), v128.load(o + R)));
}

/** Moisture that goes between four cells and their neighbours `on` bytes on. */
// @ts-ignore: decorator
@inline function soaks(o: usize, on: isize, lets: usize, pOn: isize, own: v128, ownLets: v128): v128 {
  const pass = f32x4.pmin(ownLets, v128.load(<usize>(<isize>lets + pOn)));
  const there = v128.load(<usize>(<isize>o + on) + S);
  const open = f32x4.lt(v128.load(<usize>(<isize>o + on) + R), k(1));
  return v128.and(f32x4.mul(f32x4.mul(k(0.03), pass), f32x4.sub(there, own)), open);
}

/** Water, moisture, cover and vapour of all cells after the step. */
function settleWater(m: usize, to: usize, paper: usize, row: usize, planes: usize, numbers: usize, stats: usize): void {
  const zero = k(0), one = k(1);
  const tiltX = splat(numbers + TILT_X), tiltY = splat(numbers + TILT_Y), dries = splat(numbers + DRIES);
  let mostWater = zero, mostMoist = zero;
  let i: usize = 0;
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x += 4, i += 16) {
      const o = m + at(x, y), p = paper + row * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
      const w0 = v128.load(o + W), l = v128.load(o + L), c0 = v128.load(o + C);
      const vr = v128.load(o + RIGHT), vl = v128.load(o + RIGHT - 4);
      const vb = v128.load(o + BELOW), va = v128.load(o + BELOW - ROW);
      const outX = f32x4.add(f32x4.pmax(vr, zero), f32x4.pmax(f32x4.neg(vl), zero));
      const outY = f32x4.add(f32x4.pmax(vb, zero), f32x4.pmax(f32x4.neg(va), zero));
      const inX = f32x4.add(f32x4.mul(v128.load(o + W - 4), f32x4.pmax(vl, zero)), f32x4.mul(v128.load(o + W + 4), f32x4.pmax(f32x4.neg(vr), zero)));
      const inY = f32x4.add(f32x4.mul(v128.load(o + W - ROW), f32x4.pmax(va, zero)), f32x4.mul(v128.load(o + W + ROW), f32x4.pmax(f32x4.neg(vb), zero)));
      let w = f32x4.add(f32x4.sub(w0, f32x4.mul(w0, f32x4.add(outX, outY))), f32x4.add(inX, inY));
      v128.store(o + OUT, f32x4.add(
        f32x4.add(v128.load(o + RIGHT + ONWARD), v128.load(o + RIGHT + BACK - 4)),
        f32x4.add(v128.load(o + BELOW + ONWARD), v128.load(o + BELOW + BACK - ROW))));
      let s = v128.load(o + S);
      const lets = p + planes * <usize>LETS, ownLets = v128.load(lets);
      const soaked = f32x4.add(
        f32x4.add(soaks(o, -4, lets, -4, s, ownLets), soaks(o, 4, lets, 4, s, ownLets)),
        f32x4.add(soaks(o, -<isize>ROW, lets, -<isize>row, s, ownLets), soaks(o, ROW, lets, row, s, ownLets)));
      s = f32x4.add(s, soaked);
      const c = spreadCover(m, o, p, planes, tiltX, tiltY);
      const under = f32x4.pmin(c0, f32x4.mul(k(4), w));
      const taken = f32x4.pmin(f32x4.mul(k(5), w), f32x4.mul(f32x4.mul(k(0.012), f32x4.sub(one, s)), under));
      s = f32x4.add(s, taken);
      w = f32x4.sub(w, f32x4.mul(k(0.2), taken));
      const goes = f32x4.mul(f32x4.mul(dries, f32x4.pmax(c0, k(0.15))), f32x4.pmax(one, f32x4.add(k(0.2), f32x4.mul(k(0.8), l))));
      w = f32x4.sub(w, v128.and(goes, f32x4.gt(c0, zero)));
      const isDry = f32x4.lt(w, k(<f32>1e-4));
      w = v128.andnot(w, isDry);
      // Dry air takes what the paper holds: as much faster as it takes water.
      const air = f32x4.mul(f32x4.mul(dries, k(0.6)), f32x4.add(k(0.3), s));
      s = f32x4.sub(s, v128.and(air, isDry));
      s = v128.andnot(s, f32x4.lt(s, k(<f32>1e-5)));
      mostWater = f32x4.pmax(mostWater, w);
      mostMoist = f32x4.pmax(mostMoist, s);
      v128.store(to + WATER + i, w);
      v128.store(to + COVER + i, c);
      v128.store(to + MOIST + i, s);
      const f = v128.load(o + N);
      v128.store(to + VAPOUR + i, v128.and(f, f32x4.gt(f, k(<f32>1e-12))));
    }
  }
  store<f32>(stats, greatest(mostWater));
  store<f32>(stats, greatest(mostMoist), 4);
}

/** One paint: what hangs goes along, settles and comes up again. */
function carryPaint(
  m: usize, from: usize, to: usize, hood: usize, slot: i32, paper: usize, row: usize, planes: usize, numbers: usize,
): void {
  const zero = k(0), one = k(1);
  const plane = hangs(slot);
  const table = numbers + PAINT_TABLE + PAINT_ROW * <usize>slot;
  const settles = splat(table + SETTLES), gathered = splat(table + GATHERED), comesUp = splat(table + COMES_UP), held = splat(table + HELD);
  gather(m + P, hood, plane, MARGIN, 0);
  let i: usize = 0;
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x += 4, i += 16) {
      const o = m + at(x, y), p = paper + row * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
      const d = v128.load(from + plane + SETTLED + i);
      const stays = f32x4.mul(v128.load(o + P), f32x4.sub(one, v128.load(o + OUT)));
      const fromX = f32x4.add(f32x4.mul(v128.load(o + P - 4), v128.load(o + RIGHT + ONWARD - 4)), f32x4.mul(v128.load(o + P + 4), v128.load(o + RIGHT + BACK)));
      const fromY = f32x4.add(f32x4.mul(v128.load(o + P - ROW), v128.load(o + BELOW + ONWARD - ROW)), f32x4.mul(v128.load(o + P + ROW), v128.load(o + BELOW + BACK)));
      const q = f32x4.add(stays, f32x4.add(fromX, fromY));
      if (!v128.any_true(v128.or(f32x4.gt(q, zero), f32x4.gt(d, zero)))) {
        v128.store(to + plane + i, zero);
        v128.store(to + plane + SETTLED + i, zero);
        continue;
      }
      const l = v128.load(o + L);
      const last = f32x4.mul(k(0.12), f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(k(10), l))));
      const falls = v128.bitselect(k(0.5), last, f32x4.le(v128.load(to + WATER + i), zero));
      const where = f32x4.add(one, f32x4.mul(gathered, v128.load(p + planes * <usize>GRAINS)));
      const down = f32x4.mul(q, held01(f32x4.mul(f32x4.add(settles, falls), where)));
      const h = v128.load(p);
      const loose = f32x4.sub(one, f32x4.mul(held, f32x4.sub(one, f32x4.add(h, h))));
      const rises = f32x4.mul(f32x4.mul(d, comesUp), f32x4.mul(f32x4.pmin(one, f32x4.mul(l, k(<f32>(1.0 / 0.35)))), loose));
      const net = f32x4.sub(down, rises);
      const hang = f32x4.sub(q, net);
      v128.store(to + plane + i, v128.and(hang, f32x4.gt(hang, k(<f32>1e-12))));
      v128.store(to + plane + SETTLED + i, f32x4.pmax(zero, f32x4.add(d, net)));
    }
  }
}

/** Salt dissolves, and its brine spreads and pushes paint away. */
function dissolve(m: usize, from: usize, to: usize, paper: usize, row: usize, planes: usize): void {
  const one = k(1), zero = k(0);
  let i: usize = 0;
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x += 4, i += 16) {
      const o = m + at(x, y), p = paper + planes * <usize>LETS + row * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
      const z = v128.load(from + SALT + i), l = v128.load(o + L), own = v128.load(o + X), ownLets = v128.load(p);
      const d = f32x4.mul(f32x4.mul(k(0.02), z), f32x4.pmin(one, f32x4.mul(k(5), l)));
      let brine = f32x4.add(own, d);
      brine = f32x4.add(brine, seeps(o, o - 4, ownLets, v128.load(p - 4), own, l));
      brine = f32x4.add(brine, seeps(o, o + 4, ownLets, v128.load(p + 4), own, l));
      brine = f32x4.add(brine, seeps(o, o - ROW, ownLets, v128.load(p - row), own, l));
      brine = f32x4.add(brine, seeps(o, o + ROW, ownLets, v128.load(p + row), own, l));
      const left = f32x4.sub(z, d);
      v128.store(to + SALT + i, v128.and(left, f32x4.gt(left, k(<f32>1e-4))));
      v128.store(to + BRINE + i, v128.and(brine, f32x4.gt(brine, k(<f32>1e-6))));
    }
  }
}

// @ts-ignore: decorator
@inline function seeps(o: usize, n: usize, lets: v128, letsThere: v128, own: v128, l: v128): v128 {
  const thin = f32x4.pmin(k(1), f32x4.mul(k(4), f32x4.pmin(l, v128.load(n + L))));
  const way = f32x4.pmin(k(1), f32x4.mul(k(1.6), f32x4.pmin(lets, letsThere)));
  return f32x4.mul(f32x4.mul(f32x4.mul(k(0.24), thin), way), f32x4.sub(v128.load(n + X), own));
}

/** The most water in what lies along each side of a tile: left, right, above, below. */
function alongSides(to: usize, stats: usize): void {
  let left = k(0), right = k(0), above = k(0), below = k(0);
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x += 4) {
      const c = v128.load(to + COVER + (<usize>(y * CELLS + x) << 2));
      if (x < 16) left = f32x4.pmax(left, c);
      if (x >= 16) right = f32x4.pmax(right, c);
      if (y < 14) above = f32x4.pmax(above, c);
      if (y >= CELLS - 14) below = f32x4.pmax(below, c);
    }
  }
  store<f32>(stats, greatest(left), 8);
  store<f32>(stats, greatest(right), 12);
  store<f32>(stats, greatest(above), 16);
  store<f32>(stats, greatest(below), 20);
}

/** At the sheet's edge water runs off where the sheet slopes outward there. Returns what of the paint goes. */
function drain(to: usize, slots: i32, tilt: f32, first: i32, step: i32): f32 {
  let gone: f32 = 0;
  if (tilt <= 0) return gone;
  for (let n = 0; n < CELLS; n++) {
    const i = <usize>(first + n * step) << 2;
    const w = load<f32>(to + WATER + i);
    if (w <= 0) continue;
    const l = w / max<f32>(load<f32>(to + COVER + i), 0.05);
    const v = min<f32>(MOST, (<f32>0.35 * l * l / (<f32>0.5 + l * l)) * tilt);
    store<f32>(to + WATER + i, w - w * v);
    for (let slot = 0; slot < slots; slot++) {
      const at = to + hangs(slot) + i;
      const p = load<f32>(at);
      store<f32>(at, p - p * v);
      gone += p * v;
    }
  }
  return gone;
}

/** Closes what lies beyond the sheet. */
function closeBeyond(m: usize, px: i32, py: i32, width: i32, height: i32): void {
  const right = (width - px + 1) >> 1, low = (height - py + 1) >> 1;
  for (let y = -MARGIN; y < CELLS + MARGIN; y++) {
    for (let x = -MARGIN; x < CELLS + MARGIN; x++) {
      if (x >= right || y >= low) store<f32>(m + at(x, y) + R, 1);
    }
  }
}

/**
 * One step of a tile. `from`, `to`: its state before and after; `hood`: nine states before, row by row, 0 where
 * there is none; `numbers`: see `film.ts`; `paper`: the paper as water meets it, `side` px.
 * `stats` (f32): the most water, the most moisture, the most cover along the left, right, upper and lower side,
 * and how much paint ran off the sheet.
 */
export function washStep(
  from: usize, to: usize, hood: usize, slots: i32, px: i32, py: i32, width: i32, height: i32, paper: usize, side: i32,
  numbers: usize, stats: usize, m: usize,
): void {
  const row = cellRow(side);
  const planes = row * <usize>((side >> 1) + 2 * MARGIN);
  // The cell where the margin of this tile begins.
  const cells = cellsOf(paper, side, HEIGHT, px, py) - row * MARGIN - (MARGIN << 2);
  gather(m + W, hood, WATER, MARGIN, 0);
  gather(m + C, hood, COVER, MARGIN, 0);
  gather(m + S, hood, MOIST, MARGIN, 0);
  gather(m + F, hood, VAPOUR, MARGIN, 0);
  gather(m + R, hood, RESIST, MARGIN, 1);
  if (px + 72 > width || py + 72 > height) closeBeyond(m, px, py, width, height);
  gather(m + X, hood, BRINE, MARGIN, 0);
  const isSalted = salted(from, m);
  prepare(m, cells + planes * <usize>STRAYS, row);
  allFaces(m, cells, row, planes, numbers, isSalted);
  settleWater(m, to, cells, row, planes, numbers, stats);
  for (let slot = 0; slot < slots; slot++) carryPaint(m, from, to, hood, slot, cells, row, planes, numbers);
  memory.copy(to + RESIST, from + RESIST, 4096);
  if (isSalted) dissolve(m, from, to, cells, row, planes);
  else memory.fill(to + SALT, 0, 8192);
  alongSides(to, stats);
  const tx = load<f32>(numbers + TILT_X), ty = load<f32>(numbers + TILT_Y);
  let gone: f32 = 0;
  const last = ((width - px + 1) >> 1) - 1, lowest = ((height - py + 1) >> 1) - 1;
  if (px == 0) gone += drain(to, slots, -tx, 0, CELLS);
  if (last < CELLS) gone += drain(to, slots, tx, last, CELLS);
  if (py == 0) gone += drain(to, slots, -ty, 0, 1);
  if (lowest < CELLS) gone += drain(to, slots, ty, lowest * CELLS, 1);
  store<f32>(stats, gone, 24);
}

/** Says of a state what a step says of it: see `washStep`. */
export function lookAtWash(state: usize, stats: usize): void {
  let water = k(0), moist = k(0);
  for (let i: usize = 0; i < 4096; i += 16) {
    water = f32x4.pmax(water, v128.load(state + WATER + i));
    moist = f32x4.pmax(moist, v128.load(state + MOIST + i));
  }
  store<f32>(stats, greatest(water));
  store<f32>(stats, greatest(moist), 4);
  alongSides(state, stats);
  store<f32>(stats, 0, 24);
}

/** Whether there is salt or brine on a tile or close to it. */
function salted(from: usize, m: usize): bool {
  let any = k(0);
  for (let i: usize = 0; i < 4096; i += 16) any = v128.or(any, v128.load(from + SALT + i));
  for (let i: usize = 0; i < FIELD; i += 16) any = v128.or(any, v128.load(m + X + i));
  return v128.any_true(any);
}
