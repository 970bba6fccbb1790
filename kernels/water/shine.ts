import { BLOCK_BYTES, ROW_BYTES, SIDE } from "../layout";
import { clamp01, fromFloat, highToFloat, lowToFloat } from "../q15";
import { CELLS, gather, PIXEL_MARGIN, rowOf, WATER } from "./film";

/**
 * The light that wet paper gives back, on the table alone: where water stands over the tooth all of it shines; as it
 * sinks the peaks come out of it and the shine breaks up, last in the hollows; its banked edges catch the light, or
 * turn from it. What is painted stays as it is.
 */
const MARGIN: i32 = 4;
const FIELD: usize = 6400;
/** Water, how it rises toward the lower right, and a row of each between its rows of cells. */
const RISES: usize = FIELD;
const LINES: usize = FIELD * 2;

/** Of a film of water: what the hollows hold, how much more the peaks need, and over how much the shine comes. */
const HOLLOWS: f32 = 0.04;
const PEAKS: f32 = 0.4;
const COMES: f32 = 0.16;
/** Of all light: what a flat film gives back, and what a bank adds or takes for its slope, at most. */
const SHEEN: f32 = 0.1;
const BANK: f32 = 0.25;
const MOST_BANK: f32 = 0.16;

// @ts-ignore: decorator
@inline function k(v: f32): v128 {
  return f32x4.splat(v);
}

// @ts-ignore: decorator
@inline function even(line: usize): v128 {
  return f32x4.add(f32x4.mul(k(0.25), v128.load(line - 4)), f32x4.mul(k(0.75), v128.load(line)));
}

// @ts-ignore: decorator
@inline function odd(line: usize): v128 {
  return f32x4.add(f32x4.mul(k(0.75), v128.load(line)), f32x4.mul(k(0.25), v128.load(line + 4)));
}

/** How far water stands over four pixels. */
// @ts-ignore: decorator
@inline function glossOf(film: v128, height: usize): v128 {
  const wide = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(height)));
  const peak = f32x4.mul(f32x4.convert_i32x4_s(wide), k(<f32>(1.0 / 255.0)));
  const stands = f32x4.sub(f32x4.sub(film, k(HOLLOWS)), f32x4.mul(peak, k(PEAKS)));
  return clamp01(f32x4.mul(stands, k(1 / COMES)));
}

/** A colour under a gloss: its banks lighter toward the light and darker away from it, and a sheen over all. */
// @ts-ignore: decorator
@inline function glossy(colour: v128, gloss: v128, rises: v128): v128 {
  const bank = f32x4.mul(gloss, f32x4.pmax(k(-MOST_BANK), f32x4.pmin(k(MOST_BANK), f32x4.mul(rises, k(BANK)))));
  const room = v128.bitselect(f32x4.sub(k(1), colour), colour, f32x4.gt(bank, k(0)));
  const banked = f32x4.add(colour, f32x4.mul(room, bank));
  return f32x4.add(banked, f32x4.mul(f32x4.sub(k(1), banked), f32x4.mul(gloss, k(SHEEN))));
}

/** Lets a tile shine, all of which is opaque. `hood`, `paper`, `side`: see `film.ts`. */
export function shineWash(tile: usize, hood: usize, px: i32, py: i32, paper: usize, side: i32, m: usize): void {
  gather(m, hood, WATER, MARGIN, 0);
  const row = rowOf(MARGIN);
  for (let y = 1; y < CELLS + 7; y++)
    for (let x: usize = 0; x < row; x += 16) {
      const at = m + row * <usize>y + x;
      const before = x == 0 ? at - row : at - row - 4, after = x + 16 < row ? at + row + 4 : at + row;
      v128.store(at + RISES, f32x4.sub(v128.load(after), v128.load(before)));
    }
  const stride = <usize>(side + 2 * PIXEL_MARGIN);
  const heights = paper + stride * <usize>((py % side) + PIXEL_MARGIN) + <usize>((px % side) + PIXEL_MARGIN);
  for (let y = 0; y < SIDE; y++) shineRow(m, tile + ROW_BYTES * <usize>y, y, heights + stride * <usize>y, row);
}

function shineRow(m: usize, to: usize, y: i32, heights: usize, row: usize): void {
  const above = m + row * <usize>(((y - 1) >> 1) + MARGIN);
  const near = k(y & 1 ? <f32>0.75 : <f32>0.25), far = k(y & 1 ? <f32>0.25 : <f32>0.75);
  const film = m + LINES, rises = film + row;
  let any = k(0);
  for (let x: usize = 0; x < row; x += 16) {
    const water = f32x4.add(f32x4.mul(near, v128.load(above + x)), f32x4.mul(far, v128.load(above + row + x)));
    any = v128.or(any, water);
    v128.store(film + x, water);
    v128.store(rises + x, f32x4.add(f32x4.mul(near, v128.load(above + RISES + x)), f32x4.mul(far, v128.load(above + row + RISES + x))));
  }
  if (!v128.any_true(any)) return;
  for (let block: usize = 0; block < 8; block++) {
    const f = film + 16 + (block << 4), r = rises + 16 + (block << 4);
    const f0 = even(f), f1 = odd(f), r0 = even(r), r1 = odd(r);
    const low = glossOf(v128.shuffle<f32>(f0, f1, 0, 4, 1, 5), heights + (block << 3));
    const high = glossOf(v128.shuffle<f32>(f0, f1, 2, 6, 3, 7), heights + (block << 3) + 4);
    if (!v128.any_true(v128.or(low, high))) continue;
    const lowRise = v128.shuffle<f32>(r0, r1, 0, 4, 1, 5), highRise = v128.shuffle<f32>(r0, r1, 2, 6, 3, 7);
    const at = to + block * BLOCK_BYTES;
    for (let c: usize = 0; c < 48; c += 16) {
      const channel = v128.load(at + c);
      v128.store(at + c, fromFloat(clamp01(glossy(lowToFloat(channel), low, lowRise)), clamp01(glossy(highToFloat(channel), high, highRise))));
    }
  }
}
