import { BLOCK_BYTES, ROW_BYTES } from "../layout";
import { colour4 } from "../pigment";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "../q15";
import {
  cellRow, CELLS, cellsOf, COVER, gather, GATHERED_MEAN, GATHERS_FROM, GATHERS_SPAN, GRAIN, hangs, OUTLINE, PAINT_ROW, PAINT_TABLE, PIXEL_MARGIN,
  pixelPlane, RESIST, rowOf, SETTLED, splat,
} from "./film";

/**
 * What is seen of a wash: from amounts in cells to colour in pixels. Each cell's paint lies where its pixels are
 * covered, more in the hollows of the paper where it granulates; its light goes through the film, so that coats
 * multiply. Nothing is lost on the way: what a cell holds is spread over its own ground.
 */
const MARGIN: i32 = 8;
const ROW: usize = 192;
const FIELD: usize = 9216;
/** Cover, smoothed; what each pixel's cover gives a cell to lie on, plain and by what the paper gathers. */
const C: usize = 0;
const SMOOTH: usize = FIELD;
const GROUND: usize = FIELD * 2;
const GATHERS: usize = FIELD * 3;
const R: usize = FIELD * 4;
/** Density in red, green and blue, even and gathered. */
const DENSITY: usize = FIELD * 5;
/** Amounts of eight paints. */
const AMOUNT: usize = FIELD * 11;
const TEMP: usize = FIELD * 19;
/** How far pixels are covered, 80 of them a row, from 8 above and left of the tile. */
const COVERED: usize = FIELD * 20;
const COVERED_ROW: usize = 320;
/** A row of pixels summed into cells, plain and gathered; 80 rows of 40 cells. */
const SUMS: usize = COVERED + COVERED_ROW * 80;
const SUMS_ROW: usize = 160;
const GATHERED_SUMS: usize = SUMS + SUMS_ROW * 80;
const LINES: usize = GATHERED_SUMS + SUMS_ROW * 80;
const PAINT: usize = LINES + 6 * ROW;
/** Density of each paint alone, by itself in red, green and blue: 3 × 8 f32. */
const ALONE: usize = PAINT + 112;

/** A cell with less ground than this hands its paint to those around it. */
const LEAST_GROUND: f32 = 0.3;
const LEAST_COVER: f32 = 0.004;
const NOTHING: f32 = 1e-7;

// @ts-ignore: decorator
@inline function at(x: i32, y: i32): usize {
  return ROW * <usize>(y + MARGIN) + (<usize>(x + MARGIN) << 2);
}

// @ts-ignore: decorator
@inline function k(v: f32): v128 {
  return f32x4.splat(v);
}

/** −ln x for 0 < x ≤ 1, to 1e-6: the exponent, and a series for the rest. */
// @ts-ignore: decorator
@inline function density(x: v128): v128 {
  const exponent = i32x4.sub(i32x4.shr_u(x, 23), i32x4.splat(127));
  const part = v128.or(v128.and(x, i32x4.splat(0x007fffff)), i32x4.splat(0x3f800000));
  const root = k(<f32>1.41421356);
  const z = f32x4.div(f32x4.sub(part, root), f32x4.add(part, root));
  const z2 = f32x4.mul(z, z);
  let series = f32x4.add(k(<f32>(1.0 / 5.0)), f32x4.mul(z2, k(<f32>(1.0 / 7.0))));
  series = f32x4.add(k(<f32>(1.0 / 3.0)), f32x4.mul(z2, series));
  series = f32x4.add(k(1), f32x4.mul(z2, series));
  const ln = f32x4.add(k(<f32>0.34657359), f32x4.mul(f32x4.add(z, z), series));
  const whole = f32x4.mul(f32x4.convert_i32x4_s(exponent), k(<f32>0.69314718));
  return f32x4.pmax(k(0), f32x4.neg(f32x4.add(whole, ln)));
}

/** e^(−x) for x ≥ 0, to 1e-6. */
// @ts-ignore: decorator
@inline function through(x: v128): v128 {
  const t = f32x4.pmax(f32x4.mul(x, k(<f32>-1.44269504)), k(-40));
  const whole = f32x4.floor(t);
  const f = f32x4.sub(t, whole);
  let p = f32x4.add(k(<f32>0.0096181291), f32x4.mul(f, k(<f32>0.0013333558)));
  p = f32x4.add(k(<f32>0.0555041087), f32x4.mul(f, p));
  p = f32x4.add(k(<f32>0.2402265069), f32x4.mul(f, p));
  p = f32x4.add(k(<f32>0.6931471806), f32x4.mul(f, p));
  p = f32x4.add(k(1), f32x4.mul(f, p));
  const power = i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23);
  return f32x4.mul(p, power);
}

/** Cover smoothed: half of itself, half its mean with those around; resist counts as cover that is no hole. */
function smoothCover(m: usize): void {
  const ninth = k(<f32>(0.5 / 9.0)), half = k(0.5);
  for (let y = -7; y < CELLS + 7; y++) {
    for (let x = -8; x < CELLS + 8; x += 4) {
      const o = m + at(x, y);
      let sum = k(0), held = k(0);
      for (let v: isize = -1; v <= 1; v++) {
        const line = <usize>(<isize>o + v * <isize>ROW);
        sum = f32x4.add(sum, f32x4.add(f32x4.add(v128.load(line + C - 4), v128.load(line + C)), v128.load(line + C + 4)));
        held = f32x4.add(held, f32x4.add(f32x4.add(v128.load(line + R - 4), v128.load(line + R)), v128.load(line + R + 4)));
      }
      const c = f32x4.add(f32x4.mul(half, v128.load(o + C)), f32x4.mul(ninth, sum));
      // Less than a thousandth is none.
      const there = v128.and(f32x4.add(c, f32x4.mul(ninth, held)), f32x4.ge(c, k(0.001)));
      v128.store(o + SMOOTH, there);
    }
  }
}

/** Four cells on the way to eight pixels: between the middles of cells. */
// @ts-ignore: decorator
@inline function evens(line: usize): v128 {
  return f32x4.add(f32x4.mul(k(0.25), v128.load(line - 4)), f32x4.mul(k(0.75), v128.load(line)));
}

// @ts-ignore: decorator
@inline function odds(line: usize): v128 {
  return f32x4.add(f32x4.mul(k(0.75), v128.load(line)), f32x4.mul(k(0.25), v128.load(line + 4)));
}

// @ts-ignore: decorator
@inline function firstFour(even: v128, odd: v128): v128 {
  return v128.shuffle<f32>(even, odd, 0, 4, 1, 5);
}

// @ts-ignore: decorator
@inline function lastFour(even: v128, odd: v128): v128 {
  return v128.shuffle<f32>(even, odd, 2, 6, 3, 7);
}

/** Four heights of the paper or of what it gathers, 0…255. */
// @ts-ignore: decorator
@inline function bytes(from: usize): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from))));
}

// @ts-ignore: decorator
@inline function gathers(from: usize): v128 {
  return f32x4.add(k(GATHERS_FROM), f32x4.mul(bytes(from), k(GATHERS_SPAN / 255)));
}

/** How far four pixels are covered: the paper's tooth breaks an edge. */
// @ts-ignore: decorator
@inline function covered(smooth: v128, height: usize, outline: v128): v128 {
  const h = f32x4.mul(f32x4.sub(f32x4.mul(bytes(height), k(<f32>(1.0 / 255.0))), k(0.5)), k(0.6));
  const e = f32x4.add(f32x4.sub(smooth, k(0.5)), h);
  const t = clamp01(f32x4.div(f32x4.add(e, outline), f32x4.add(outline, outline)));
  const step = f32x4.mul(f32x4.mul(t, t), f32x4.sub(k(3), f32x4.add(t, t)));
  const c = f32x4.add(k(LEAST_COVER), f32x4.mul(step, k(1 - LEAST_COVER)));
  return v128.and(c, f32x4.gt(smooth, k(0)));
}

/** Rows of pixels from `top` to `bottom`: how far each is covered, and that summed into cells along the row. */
function coverPixels(m: usize, heights: usize, gathered: usize, stride: usize, top: i32, bottom: i32, outline: v128): void {
  const line = m + LINES;
  for (let y = top; y < bottom; y++) {
    const cell = (y - 1) >> 1;
    const near = k(y & 1 ? <f32>0.75 : <f32>0.25), far = k(y & 1 ? <f32>0.25 : <f32>0.75);
    // Of the two rows of cells that a row of pixels lies between.
    for (let x = -8; x < CELLS + 8; x += 4) {
      const o = m + at(x, cell) + SMOOTH;
      v128.store(line + (<usize>(x + 8) << 2), f32x4.add(f32x4.mul(near, v128.load(o)), f32x4.mul(far, v128.load(o + ROW))));
    }
    const to = m + COVERED + COVERED_ROW * <usize>(y + 8);
    const hs = heights + stride * <usize>(y + 8), gs = gathered + stride * <usize>(y + 8);
    for (let x = -4; x < CELLS + 4; x += 4) {
      const l = line + (<usize>(x + 8) << 2);
      const even = evens(l), odd = odds(l);
      const px = <usize>(x + 4) << 1;
      v128.store(to + (px << 2), covered(firstFour(even, odd), hs + px, outline));
      v128.store(to + (px << 2) + 16, covered(lastFour(even, odd), hs + px + 4, outline));
    }
    const sums = m + SUMS + SUMS_ROW * <usize>(y + 8), gatheredSums = m + GATHERED_SUMS + SUMS_ROW * <usize>(y + 8);
    for (let x = -3; x < CELLS + 3; x++) {
      const px = <usize>(x + 4) << 1;
      const c = v128.load(to + ((px - 1) << 2));
      const tent = f32x4.mul(c, TENT());
      store<f32>(sums + (<usize>(x + 4) << 2), sum4(tent));
      store<f32>(gatheredSums + (<usize>(x + 4) << 2), sum4(f32x4.mul(tent, gathers(gs + px - 1))));
    }
  }
}

// @ts-ignore: decorator
@inline function TENT(): v128 {
  return f32x4(0.25, 0.75, 0.75, 0.25);
}

// @ts-ignore: decorator
@inline function sum4(a: v128): f32 {
  return (f32x4.extract_lane(a, 0) + f32x4.extract_lane(a, 1)) + (f32x4.extract_lane(a, 2) + f32x4.extract_lane(a, 3));
}

/** The ground of each cell: its own four pixels and half of the next ones each way. */
function groundCells(m: usize, first: i32, last: i32): void {
  for (let y = first; y < last; y++) {
    const r = <usize>(2 * y - 1 + 8);
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y);
      const p = SUMS_ROW * r + (<usize>(x + 4) << 2);
      v128.store(o + GROUND, columns(m + SUMS + p));
      v128.store(o + GATHERS, columns(m + GATHERED_SUMS + p));
    }
  }
}

// @ts-ignore: decorator
@inline function columns(from: usize): v128 {
  const inner = f32x4.mul(k(0.75), f32x4.add(v128.load(from + SUMS_ROW), v128.load(from + 2 * SUMS_ROW)));
  const outer = f32x4.mul(k(0.25), f32x4.add(v128.load(from), v128.load(from + 3 * SUMS_ROW)));
  return f32x4.mul(k(0.25), f32x4.add(inner, outer));
}

/** A cell with hardly any ground hands its paint to those around it, as much ground as they have. */
function handOver(m: usize, amount: usize, first: i32, last: i32): void {
  memory.copy(m + TEMP, amount, FIELD);
  for (let y = first; y < last; y++) {
    for (let x = -2; x < CELLS + 2; x++) {
      const o = at(x, y);
      const n = load<f32>(m + TEMP + o);
      if (load<f32>(m + GROUND + o) >= LEAST_GROUND || n < NOTHING) continue;
      let total: f32 = 0;
      for (let v = -1; v <= 1; v++)
        for (let u = -1; u <= 1; u++) total += weight(u, v) * load<f32>(m + GROUND + at(x + u, y + v));
      store<f32>(amount + o, load<f32>(amount + o) - n);
      if (total <= 0) continue;
      const each = n / total;
      for (let v = -1; v <= 1; v++) {
        for (let u = -1; u <= 1; u++) {
          const there = at(x + u, y + v);
          store<f32>(amount + there, load<f32>(amount + there) + each * weight(u, v) * load<f32>(m + GROUND + there));
        }
      }
    }
  }
}

// @ts-ignore: decorator
@inline function weight(u: i32, v: i32): f32 {
  return <f32>((u == 0 ? 2 : 1) * (v == 0 ? 2 : 1));
}

/** Density of four paints at once, each laid alone: their amount 1 is their own colour. */
function aloneDensities(m: usize, slots: i32, numbers: usize): void {
  for (let first = 0; first < slots; first += 4) {
    for (let band: usize = 0; band < 7; band++) {
      const row = numbers + PAINT_TABLE + PAINT_ROW * <usize>first + (band << 2);
      const to = m + PAINT + (band << 4);
      for (let i: usize = 0; i < 4; i++) store<f32>(to + (i << 2), load<f32>(row + PAINT_ROW * i));
    }
    colour4(m + PAINT);
    for (let c: usize = 0; c < 3; c++)
      v128.store(m + ALONE + (c << 5) + (<usize>first << 2), colourDensity(m + PAINT + (c << 4)));
  }
}

// @ts-ignore: decorator
@inline function colourDensity(colour: usize): v128 {
  return density(f32x4.pmax(k(<f32>1e-3), clamp01(v128.load(colour))));
}

/** Densities of cells: the amount over its ground, in the colour that its paints make together. */
function densities(m: usize, slots: i32, numbers: usize, first: i32, last: i32): void {
  const table = numbers + PAINT_TABLE;
  for (let y = first; y < last; y++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y);
      const ground = v128.load(o + GROUND), gathered = v128.load(o + GATHERS);
      let all = k(0), even = k(0), grained = k(0);
      let kinds = 0, one: usize = 0;
      for (let slot = 0; slot < slots; slot++) {
        const n = f32x4.pmax(k(0), v128.load(o + AMOUNT + FIELD * <usize>slot));
        if (!v128.any_true(f32x4.gt(n, k(NOTHING)))) continue;
        if (kinds == 1) startMixing(m, table + PAINT_ROW * <usize>one, all);
        kinds++;
        one = <usize>slot;
        const row = table + PAINT_ROW * <usize>slot;
        const grain = splat(row + GRAIN);
        const lies = f32x4.pmax(f32x4.add(ground, f32x4.mul(grain, gathered)), k(0.02));
        const thick = f32x4.div(n, lies);
        all = f32x4.add(all, n);
        even = f32x4.add(even, thick);
        grained = f32x4.add(grained, f32x4.mul(thick, grain));
        if (kinds == 1) continue;
        for (let band: usize = 0; band < 7; band++) {
          const to = m + PAINT + (band << 4);
          v128.store(to, f32x4.add(v128.load(to), f32x4.mul(n, splat(row + (band << 2)))));
        }
      }
      const is = f32x4.gt(all, k(NOTHING));
      if (kinds > 1) {
        const per = v128.and(f32x4.div(k(1), all), is);
        for (let band: usize = 0; band < 112; band += 16) v128.store(m + PAINT + band, f32x4.mul(v128.load(m + PAINT + band), per));
        colour4(m + PAINT);
      }
      even = v128.and(even, is);
      grained = v128.and(grained, is);
      for (let c: usize = 0; c < 3; c++) {
        const d = kinds > 1 ? colourDensity(m + PAINT + (c << 4)) : splat(m + ALONE + (c << 5) + (one << 2));
        v128.store(o + DENSITY + FIELD * c, f32x4.mul(even, d));
        v128.store(o + DENSITY + FIELD * (c + 3), f32x4.mul(grained, d));
      }
    }
  }
}

/** A second paint comes to one that was alone in four cells. */
function startMixing(m: usize, row: usize, amount: v128): void {
  for (let band: usize = 0; band < 7; band++)
    v128.store(m + PAINT + (band << 4), f32x4.mul(amount, splat(row + (band << 2))));
}

/** Whether all that lies on and around a tile is covered, and nothing held back. */
function isWhole(m: usize): bool {
  let least = k(1), most = k(0);
  for (let i: usize = 0; i < FIELD; i += 16) {
    least = f32x4.pmin(least, v128.load(m + C + i));
    most = f32x4.pmax(most, v128.load(m + R + i));
  }
  return !v128.any_true(v128.or(f32x4.lt(least, k(1)), f32x4.gt(most, k(0))));
}

/** A tile that is covered all over: every cell lies on all of its ground. */
function groundWhole(m: usize, gathered: usize, row: usize, first: i32, last: i32): void {
  for (let y = first; y < last; y++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, y);
      v128.store(o + GROUND, k(1));
      v128.store(o + GATHERS, v128.load(gathered + row * <usize>(y + 4) + (<usize>(x + 4) << 2)));
    }
  }
  for (let i: usize = 0; i < COVERED_ROW * 80; i += 16) v128.store(m + COVERED + i, k(1));
}

/** Light of one band through eight pixels of film, and what it was. */
// @ts-ignore: decorator
@inline function lightLow(even: usize, grained: usize, cover: usize, gs: usize): v128 {
  const q = firstFour(evens(even), odds(even)), g = firstFour(evens(grained), odds(grained));
  return through(f32x4.pmax(k(0), f32x4.mul(v128.load(cover), f32x4.add(q, f32x4.mul(g, gathers(gs))))));
}

// @ts-ignore: decorator
@inline function lightHigh(even: usize, grained: usize, cover: usize, gs: usize): v128 {
  const q = lastFour(evens(even), odds(even)), g = lastFour(evens(grained), odds(grained));
  return through(f32x4.pmax(k(0), f32x4.mul(v128.load(cover, 16), f32x4.add(q, f32x4.mul(g, gathers(gs + 4))))));
}

/** Four pixels of one colour after the film: paint below is glazed, bare sheet gets the film itself. */
// @ts-ignore: decorator
@inline function glazed(under: v128, light: v128, bare: v128, least: v128): v128 {
  return f32x4.add(f32x4.mul(under, light), f32x4.mul(bare, f32x4.sub(light, least)));
}

/** A row of pixels: eight at a time. */
function developRow(m: usize, to: usize, under: usize, y: i32, gs: usize): void {
  const lines = m + LINES;
  const cell = (y - 1) >> 1;
  const near = k(y & 1 ? <f32>0.75 : <f32>0.25), far = k(y & 1 ? <f32>0.25 : <f32>0.75);
  for (let c: usize = 0; c < 6; c++) {
    for (let x = -4; x < CELLS + 4; x += 4) {
      const o = m + at(x, cell) + DENSITY + FIELD * c;
      v128.store(lines + c * ROW + (<usize>(x + 8) << 2), f32x4.add(f32x4.mul(near, v128.load(o)), f32x4.mul(far, v128.load(o + ROW))));
    }
  }
  const covers = m + COVERED + COVERED_ROW * <usize>(y + 8) + 32;
  for (let block: usize = 0; block < 8; block++) {
    const l = lines + 32 + (block << 4);
    const from = under + block * BLOCK_BYTES, into = to + block * BLOCK_BYTES;
    let any = v128.or(v128.or(v128.load(l - 4), v128.load(l)), v128.load(l + 4));
    any = v128.or(any, v128.or(v128.or(v128.load(l + ROW - 4), v128.load(l + ROW)), v128.load(l + ROW + 4)));
    any = v128.or(any, v128.or(v128.or(v128.load(l + 2 * ROW - 4), v128.load(l + 2 * ROW)), v128.load(l + 2 * ROW + 4)));
    if (!v128.any_true(any)) {
      memory.copy(into, from, BLOCK_BYTES);
      continue;
    }
    const cover = covers + (block << 5), g = gs + (block << 3);
    const r0 = lightLow(l, l + 3 * ROW, cover, g), r1 = lightHigh(l, l + 3 * ROW, cover, g);
    const g0 = lightLow(l + ROW, l + 4 * ROW, cover, g), g1 = lightHigh(l + ROW, l + 4 * ROW, cover, g);
    const b0 = lightLow(l + 2 * ROW, l + 5 * ROW, cover, g), b1 = lightHigh(l + 2 * ROW, l + 5 * ROW, cover, g);
    const least0 = f32x4.pmin(f32x4.pmin(r0, g0), b0), least1 = f32x4.pmin(f32x4.pmin(r1, g1), b1);
    const ur = v128.load(from), ug = v128.load(from, 16), ub = v128.load(from, 32), ua = v128.load(from, 48);
    const bare0 = f32x4.sub(k(1), lowToFloat(ua)), bare1 = f32x4.sub(k(1), highToFloat(ua));
    const a = fromFloat(f32x4.sub(k(1), f32x4.mul(bare0, least0)), f32x4.sub(k(1), f32x4.mul(bare1, least1)));
    v128.store(into, i16x8.min_s(a, fromFloat(glazed(lowToFloat(ur), r0, bare0, least0), glazed(highToFloat(ur), r1, bare1, least1))));
    v128.store(into, i16x8.min_s(a, fromFloat(glazed(lowToFloat(ug), g0, bare0, least0), glazed(highToFloat(ug), g1, bare1, least1))), 16);
    v128.store(into, i16x8.min_s(a, fromFloat(glazed(lowToFloat(ub), b0, bare0, least0), glazed(highToFloat(ub), b1, bare1, least1))), 32);
    v128.store(into, a, 48);
  }
}

/**
 * Writes to `tile` what a wash looks like over what is dry below it, rows `top` (even) to `bottom`. `hood`: nine states, row by
 * row; `paper`, `side`, `numbers`: see `film.ts`.
 */
export function developWash(
  tile: usize, under: usize, hood: usize, slots: i32, px: i32, py: i32, paper: usize, side: i32, numbers: usize,
  top: i32, bottom: i32, m: usize,
): void {
  const stride = <usize>(side + 2 * PIXEL_MARGIN);
  const heights = paper + stride * <usize>(py % side) + <usize>(px % side);
  const gathered = heights + pixelPlane(side);
  const outline = splat(numbers + OUTLINE);
  const first = (top >> 1) - 1, last = ((bottom + 1) >> 1) + 1;
  gather(m + C, hood, COVER, MARGIN, 0);
  gather(m + R, hood, RESIST, MARGIN, 0);
  const whole = isWhole(m);
  if (whole) {
    const row = cellRow(side);
    groundWhole(m, cellsOf(paper, side, GATHERED_MEAN, px, py) - 4 * row - 16, row, first, last);
  } else {
    smoothCover(m);
    coverPixels(m, heights, gathered, stride, top - 8, bottom + 8, outline);
    groundCells(m, first - 2, last + 2);
  }
  aloneDensities(m, slots, numbers);
  for (let slot = 0; slot < slots; slot++) {
    const amount = m + AMOUNT + FIELD * <usize>slot;
    gather(amount, hood, hangs(slot), MARGIN, 0);
    gather(m + TEMP, hood, hangs(slot) + SETTLED, MARGIN, 0);
    for (let i: usize = 0; i < FIELD; i += 16) v128.store(amount + i, f32x4.add(v128.load(amount + i), v128.load(m + TEMP + i)));
    if (!whole) handOver(m, amount, first - 1, last + 1);
  }
  densities(m, slots, numbers, first, last);
  for (let y = top; y < bottom; y++)
    developRow(m, tile + ROW_BYTES * <usize>y, under + ROW_BYTES * <usize>y, y, gathered + stride * <usize>(y + 8) + 8);
}
