import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";
import { fromFloat, highToFloat, lowToFloat } from "./q15";

/**
 * A layer shown as dots, lines or grain: ink lies where a pixel's density passes the screen's threshold there.
 * The screen is a table over one period in which each threshold comes equally often, so that a density inks just its
 * share.
 *
 * Of dots of few pixels the table holds what a pixel is inked at each place for each density: the box of the pixel is
 * worked out beforehand, and no pattern beats against the pixels. Of larger ones it holds thresholds and their slopes:
 * a pixel's edge of ink is as wide as the pixel.
 */
/** Places a side of a table of slopes, and how far a phase (2³² a period) is shifted to be one. */
const ENTRIES: u32 = 128;
const SHIFT: u32 = 25;
const HALF_ENTRY: u32 = 1 << 24;
/** Places a side of a table of shares. */
const SHARE_SHIFT: u32 = 26;
const SHARE_ENTRIES_LOG2: i32 = 6;
const HALF_SHARE: u32 = 1 << 25;
/** Densities of each of its places, 0…1 with both ends, a byte each: 64 bytes a place, a line of the cache. */
const SHARES: f32 = 63;
const SHARE_BYTES_LOG2: i32 = 6;
const PER_PERIOD: f32 = <f32>(1.0 / 4294967296.0);
/** Steps of the table that says where ink must be cut for its mean to be the density. */
const TONES: i32 = 256;

/** The ink's colour is that of the paint. */
const OWN: i32 = 1;
/** Between the dots lies white, not nothing. */
const WHITE: i32 = 2;
/** The screen cannot be told apart: its mean. */
const MEAN: i32 = 4;
/** Dots of few pixels: a table of shares. */
const FINE: i32 = 8;

/**
 * `screen`: of 128 × 128 places the threshold, its slopes across and down and their length, or of 64 × 64 the shares
 * that are inked; `tones`: where thresholds are cut for each density (not of shares);
 * `u v` the phase of the tile's first pixel, `ux vx uy vy` what a pixel across and down adds;
 * `pixel`: a pixel in periods; `least`: least width of an edge in thresholds; `gain`: density times this;
 * `steps`: so many greys, 0: all. Ink in Q15.
 */
export function halftoneTile(dst: usize, src: usize, screen: usize, tones: usize, u: u32, v: u32, ux: u32, vx: u32, uy: u32, vy: u32, pixel: f32, least: f32, gain: f32, steps: i32, r: i32, g: i32, b: i32, how: i32): void {
  const none = i16x8.splat(0), per: f32 = <f32>(1.0 / 32767.0);
  const ir = f32x4.splat(<f32>r * per), ig = f32x4.splat(<f32>g * per), ib = f32x4.splat(<f32>b * per);
  // Phases of four pixels beside each other.
  const four = i32x4(0, 1, 2, 3), across = i32x4.mul(four, i32x4.splat(ux)), down = i32x4.mul(four, i32x4.splat(vx));
  for (let y = 0; y < SIDE; y++) {
    let pu = u + <u32>y * uy, pv = v + <u32>y * vy;
    for (let block = 0; block < 8; block++) {
      const from = src + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const to = dst + <usize>(y * ROW_BYTES + block * BLOCK_BYTES);
      const a = v128.load(from, 48);
      if (!v128.any_true(a)) {
        for (let c: usize = 0; c < 64; c += 16) v128.store(to + c, none);
        pu += ux << 3;
        pv += vx << 3;
        continue;
      }
      const red = v128.load(from), green = v128.load(from, 16), blue = v128.load(from, 32);
      inkFour(lowToFloat(red), lowToFloat(green), lowToFloat(blue), lowToFloat(a), screen, tones, pu, pv, ux, vx, across, down, pixel, least, gain, steps, ir, ig, ib, how);
      const lr = inkedR, lg = inkedG, lb = inkedB, la = inkedA;
      pu += ux << 2;
      pv += vx << 2;
      inkFour(highToFloat(red), highToFloat(green), highToFloat(blue), highToFloat(a), screen, tones, pu, pv, ux, vx, across, down, pixel, least, gain, steps, ir, ig, ib, how);
      pu += ux << 2;
      pv += vx << 2;
      v128.store(to, fromFloat(lr, inkedR));
      v128.store(to, fromFloat(lg, inkedG), 16);
      v128.store(to, fromFloat(lb, inkedB), 32);
      v128.store(to, fromFloat(la, inkedA), 48);
    }
  }
}

let inkedR: v128 = i32x4.splat(0);
let inkedG: v128 = i32x4.splat(0);
let inkedB: v128 = i32x4.splat(0);
let inkedA: v128 = i32x4.splat(0);

// @ts-ignore: decorator
@inline function held(v: v128): v128 {
  return f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), v));
}

/** Four pixels beside each other; what becomes of them is in `inked…`. */
// @ts-ignore: decorator
@inline function inkFour(r: v128, g: v128, b: v128, a: v128, screen: usize, tones: usize, u: u32, v: u32, ux: u32, vx: u32, across: v128, down: v128, pixel: f32, least: f32, gain: f32, steps: i32, ir: v128, ig: v128, ib: v128, how: i32): void {
  // How much ink the paint stands for on white: by its darkest channel where it keeps its colour, else by its luma.
  const luma = f32x4.add(f32x4.mul(r, f32x4.splat(<f32>0.2126)), f32x4.add(f32x4.mul(g, f32x4.splat(<f32>0.7152)), f32x4.mul(b, f32x4.splat(<f32>0.0722))));
  const full = f32x4.sub(a, how & OWN ? f32x4.pmin(r, f32x4.pmin(g, b)) : luma);
  let density = held(f32x4.mul(full, f32x4.splat(gain)));
  if (steps > 0) density = f32x4.div(f32x4.floor(f32x4.add(f32x4.mul(density, f32x4.splat(<f32>steps)), f32x4.splat(<f32>0.5))), f32x4.splat(<f32>steps));
  let on = density;
  if (!(how & MEAN)) on = how & FINE ? sharesOf(screen, density, i32x4.add(i32x4.splat(u + HALF_SHARE), across), i32x4.add(i32x4.splat(v + HALF_SHARE), down)) : coversOf(screen, tones, density, u, v, ux, vx, pixel, least);
  let kr = ir, kg = ig, kb = ib;
  if (how & OWN) {
    const whole = f32x4.div(f32x4.splat(1), f32x4.pmax(full, f32x4.splat(<f32>1e-6))), bare = f32x4.sub(full, a);
    kr = held(f32x4.mul(f32x4.add(r, bare), whole));
    kg = held(f32x4.mul(f32x4.add(g, bare), whole));
    kb = held(f32x4.mul(f32x4.add(b, bare), whole));
  }
  const white = how & WHITE ? f32x4.pmax(f32x4.splat(0), f32x4.sub(a, on)) : f32x4.splat(0);
  inkedR = f32x4.add(f32x4.mul(kr, on), white);
  inkedG = f32x4.add(f32x4.mul(kg, on), white);
  inkedB = f32x4.add(f32x4.mul(kb, on), white);
  inkedA = f32x4.add(on, white);
}

/** What is inked of four pixels, by a table of shares. */
// @ts-ignore: decorator
@inline function sharesOf(screen: usize, density: v128, us: v128, vs: v128): v128 {
  const column = i32x4.shr_u(us, SHARE_SHIFT), row = i32x4.shr_u(vs, SHARE_SHIFT);
  const tone = f32x4.mul(density, f32x4.splat(SHARES));
  const step = i32x4.trunc_sat_f32x4_s(f32x4.pmin(tone, f32x4.splat(SHARES - 1)));
  const rest = f32x4.sub(tone, f32x4.convert_i32x4_s(step));
  const at = i32x4.add(i32x4.shl(i32x4.add(i32x4.shl(row, SHARE_ENTRIES_LOG2), column), SHARE_BYTES_LOG2), i32x4.add(step, i32x4.splat(<i32>screen)));
  // The share of the density below in the low byte, of that above in the high one.
  let both = i32x4.splat(load<u16>(<usize>i32x4.extract_lane(at, 0)));
  both = i32x4.replace_lane(both, 1, load<u16>(<usize>i32x4.extract_lane(at, 1)));
  both = i32x4.replace_lane(both, 2, load<u16>(<usize>i32x4.extract_lane(at, 2)));
  both = i32x4.replace_lane(both, 3, load<u16>(<usize>i32x4.extract_lane(at, 3)));
  const low = f32x4.convert_i32x4_s(v128.and(both, i32x4.splat(255))), high = f32x4.convert_i32x4_s(i32x4.shr_u(both, 8));
  return f32x4.mul(f32x4.add(low, f32x4.mul(f32x4.sub(high, low), rest)), f32x4.splat(<f32>(1.0 / 255.0)));
}

/** What is inked of four pixels, by thresholds and their slopes. */
// @ts-ignore: decorator
@inline function coversOf(screen: usize, tones: usize, density: v128, u: u32, v: u32, ux: u32, vx: u32, pixel: f32, least: f32): v128 {
  let on = density;
  on = f32x4.replace_lane(on, 0, covered(screen, tones, f32x4.extract_lane(density, 0), u, v, pixel, least));
  on = f32x4.replace_lane(on, 1, covered(screen, tones, f32x4.extract_lane(density, 1), u + ux, v + vx, pixel, least));
  on = f32x4.replace_lane(on, 2, covered(screen, tones, f32x4.extract_lane(density, 2), u + 2 * ux, v + 2 * vx, pixel, least));
  return f32x4.replace_lane(on, 3, covered(screen, tones, f32x4.extract_lane(density, 3), u + 3 * ux, v + 3 * vx, pixel, least));
}

/** How much is inked around a place. */
// @ts-ignore: decorator
@inline function covered(screen: usize, tones: usize, density: f32, u: u32, v: u32, pixel: f32, least: f32): f32 {
  if (density <= 0) return 0;
  if (density >= 1) return 1;
  const tone = density * <f32>TONES;
  const step = min(TONES - 1, <i32>tone);
  const low = load<f32>(tones + <usize>(step << 2)), high = load<f32>(tones + <usize>(step << 2), 4);
  const cut = low + (high - low) * (tone - <f32>step);
  const column = ((u + HALF_ENTRY) >> SHIFT) & (ENTRIES - 1), row = ((v + HALF_ENTRY) >> SHIFT) & (ENTRIES - 1);
  const place = screen + <usize>((row * ENTRIES + column) << 4);
  const aside = <f32><i32>(u - (column << SHIFT)) * PER_PERIOD, below = <f32><i32>(v - (row << SHIFT)) * PER_PERIOD;
  const threshold = load<f32>(place) + load<f32>(place, 4) * aside + load<f32>(place, 8) * below;
  const width = max(load<f32>(place, 12) * pixel, least);
  return min<f32>(1, max<f32>(0, <f32>0.5 + (cut - threshold) / width));
}
