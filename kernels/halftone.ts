import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";

/**
 * A layer shown as dots, lines or grain: ink lies where a pixel's density passes the screen's threshold there.
 * The screen is a table of thresholds over one period, each value equally often (so that a density inks just its
 * share), with its slopes; a pixel's edge of ink is as wide as the pixel.
 */
/** Table entries a side, and how far a phase (2³² a period) is shifted to be one. */
const ENTRIES: u32 = 128;
const SHIFT: u32 = 25;
const HALF_ENTRY: u32 = 1 << 24;
const PER_PERIOD: f32 = <f32>(1.0 / 4294967296.0);
/** Steps of the table that says where ink must be cut for its mean to be the density. */
const TONES: i32 = 256;

/** The ink's colour is that of the paint. */
const OWN: i32 = 1;
/** Between the dots lies white, not nothing. */
const WHITE: i32 = 2;
/** The screen cannot be told apart: its mean. */
const MEAN: i32 = 4;
/** Dots of few pixels: each pixel is looked at in four places, so that none catches the pattern's beat. */
const FINE: i32 = 8;

// @ts-ignore: decorator
@inline function held(v: f32): f32 {
  return min<f32>(1, max<f32>(0, v));
}

/**
 * `screen`: table of threshold, its slopes across and down, and their length, for 128 × 128 places;
 * `u v` the phase of the tile's first pixel, `ux vx uy vy` what a pixel across and down adds;
 * `pixel`: a pixel in periods; `least`: least width of an edge in thresholds; `gain`: density times this;
 * `steps`: so many greys, 0: all. Ink in Q15.
 */
export function halftoneTile(dst: usize, src: usize, screen: usize, tones: usize, u: u32, v: u32, ux: u32, vx: u32, uy: u32, vy: u32, pixel: f32, least: f32, gain: f32, steps: i32, r: i32, g: i32, b: i32, how: i32): void {
  const none = i16x8.splat(0);
  for (let y = 0; y < SIDE; y++) {
    for (let block = 0; block < 8; block++) {
      const from = src + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const to = dst + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      if (!v128.any_true(v128.load(from, 48))) {
        for (let c: usize = 0; c < 64; c += 16) v128.store(to + c, none);
        continue;
      }
      for (let x = 0; x < 8; x++) {
        const across = <u32>(block * 8 + x), down = <u32>y;
        screened(to + <usize>(x << 1), from + <usize>(x << 1), screen, tones, u + across * ux + down * uy, v + across * vx + down * vy, ux, vx, uy, vy, pixel, least, gain, steps, r, g, b, how);
      }
    }
  }
}

// @ts-ignore: decorator
@inline function screened(to: usize, from: usize, screen: usize, tones: usize, u: u32, v: u32, ux: u32, vx: u32, uy: u32, vy: u32, pixel: f32, least: f32, gain: f32, steps: i32, r: i32, g: i32, b: i32, how: i32): void {
  const per: f32 = <f32>(1.0 / 32767.0);
  const pr = <f32>load<u16>(from) * per, pg = <f32>load<u16>(from, 16) * per, pb = <f32>load<u16>(from, 32) * per, pa = <f32>load<u16>(from, 48) * per;
  // How much ink the paint stands for on white: by its darkest channel where it keeps its colour, else by its luma.
  const full = how & OWN ? pa - min(pr, min(pg, pb)) : pa - (<f32>0.2126 * pr + <f32>0.7152 * pg + <f32>0.0722 * pb);
  let density = held(full * gain);
  if (steps > 0) density = <f32>Math.floor(density * <f32>steps + <f32>0.5) / <f32>steps;
  let on = density;
  if (!(how & MEAN) && density > 0 && density < 1) {
    const cut = cutFor(tones, density);
    if (how & FINE) {
      // An eighth and three eighths of a pixel off, on a turned square.
      const ax = <u32>(<i32>ux >> 3), ay = <u32>(<i32>uy >> 3), bx = <u32>(<i32>vx >> 3), by = <u32>(<i32>vy >> 3);
      const u1 = ax + 3 * ay, v1 = bx + 3 * by, u2 = 3 * ax - ay, v2 = 3 * bx - by;
      const half = covered(screen, u + u1, v + v1, pixel, least, cut) + covered(screen, u - u1, v - v1, pixel, least, cut);
      on = <f32>0.25 * (half + covered(screen, u + u2, v + v2, pixel, least, cut) + covered(screen, u - u2, v - v2, pixel, least, cut));
    } else on = covered(screen, u, v, pixel, least, cut);
  }
  let ir = <f32>r * per, ig = <f32>g * per, ib = <f32>b * per;
  if (how & OWN && full > 0) {
    const whole: f32 = <f32>1 / full;
    ir = held((pr - pa + full) * whole);
    ig = held((pg - pa + full) * whole);
    ib = held((pb - pa + full) * whole);
  }
  const bare = how & WHITE ? max<f32>(0, pa - on) : <f32>0;
  store<u16>(to, <u16>((ir * on + bare) * <f32>32767 + <f32>0.5));
  store<u16>(to, <u16>((ig * on + bare) * <f32>32767 + <f32>0.5), 16);
  store<u16>(to, <u16>((ib * on + bare) * <f32>32767 + <f32>0.5), 32);
  store<u16>(to, <u16>((on + bare) * <f32>32767 + <f32>0.5), 48);
}

/** Where thresholds are cut for a density. */
// @ts-ignore: decorator
@inline function cutFor(tones: usize, density: f32): f32 {
  const tone = density * <f32>TONES;
  const step = min(TONES - 1, <i32>tone);
  const low = load<f32>(tones + <usize>(step << 2)), high = load<f32>(tones + <usize>(step << 2), 4);
  return low + (high - low) * (tone - <f32>step);
}

/** How much is inked around a place. */
function covered(screen: usize, u: u32, v: u32, pixel: f32, least: f32, cut: f32): f32 {
  const column = ((u + HALF_ENTRY) >> SHIFT) & (ENTRIES - 1), row = ((v + HALF_ENTRY) >> SHIFT) & (ENTRIES - 1);
  const place = screen + <usize>((row * ENTRIES + column) << 4);
  const aside = <f32><i32>(u - (column << SHIFT)) * PER_PERIOD, below = <f32><i32>(v - (row << SHIFT)) * PER_PERIOD;
  const threshold = load<f32>(place) + load<f32>(place, 4) * aside + load<f32>(place, 8) * below;
  const width = max(load<f32>(place, 12) * pixel, least);
  return held(<f32>0.5 + (cut - threshold) / width);
}
