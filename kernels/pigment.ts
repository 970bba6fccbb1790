import { clamp01 } from "./q15";
import { cubeRoot, fifthRoot } from "./roots";

/**
 * Pigment on seven bands of light. A colour becomes the reflectances of a smooth spectrum that
 * returns exactly to it: white, cyan, magenta, yellow, red, green and blue in the amounts that
 * make it up (after Smits 1999), never quite black.
 */
const BANDS: i32 = 7;
const LOWEST: f32 = 0.0033169;
/** How much of a glaze's own colour shows over black: its body. */
const BODY: f32 = 0.1;
/** No glaze is whiter than this: it still has a surface. */
const WHITEST: f32 = 0.9995;

/** Reflectances of the six corners by band (cyan, magenta, yellow, red, green, blue), then the rows of linear sRGB. */
const TABLE = memory.data<f32>([
  0.975500, 0.997821, 0.997852, 0.997765, 0.992654, 0.643506, 0.051686,
  0.996925, 0.867879, 0.275740, 0.068983, 0.006200, 0.349846, 0.971685,
  0.037574, 0.089170, 0.749750, 0.966787, 0.958228, 0.998011, 0.997983,
  0.023698, 0.003982, 0.004012, 0.003997, 0.005075, 0.352952, 0.950671,
  0.021603, 0.073543, 0.691841, 0.974305, 0.958051, 0.609132, 0.054099,
  0.918451, 0.998001, 0.463934, 0.004201, 0.023632, 0.004007, 0.022629,
  0.071514, -0.050112, -0.088854, -0.332114, 0.182779, 0.263507, 0.953280,
  -0.081419, 0.025956, 0.081381, 0.540356, 0.390726, 0.072814, -0.029813,
  0.799917, 0.238805, 0.061837, -0.019509, -0.051201, -0.014320, -0.015529,
]);

/** The number of row `row` and a band, four times. */
// @ts-ignore: decorator
@inline function number(row: i32, band: i32): v128 {
  return v128.load32_splat(TABLE + <usize>((row * BANDS + band) << 2));
}

/** sRGB to linear light, exact to 1e-6. */
// @ts-ignore: decorator
@inline function linear(c: v128): v128 {
  const x = f32x4.mul(f32x4.add(c, f32x4.splat(<f32>0.055)), f32x4.splat(<f32>(1.0 / 1.055)));
  const square = f32x4.mul(x, x);
  const high = f32x4.mul(square, fifthRoot(square));
  const low = f32x4.mul(c, f32x4.splat(<f32>(1.0 / 12.92)));
  return v128.bitselect(low, high, f32x4.le(c, f32x4.splat(<f32>0.04045)));
}

/** Linear light to sRGB. */
// @ts-ignore: decorator
@inline function curved(c: v128): v128 {
  const q = f32x4.sqrt(f32x4.sqrt(cubeRoot(c)));
  const q2 = f32x4.mul(q, q);
  const high = f32x4.sub(
    f32x4.mul(f32x4.mul(f32x4.mul(q2, q2), q), f32x4.splat(<f32>1.055)),
    f32x4.splat(<f32>0.055),
  );
  const low = f32x4.mul(c, f32x4.splat(<f32>12.92));
  return v128.bitselect(low, high, f32x4.le(c, f32x4.splat(<f32>0.0031308)));
}

// @ts-ignore: decorator
@inline function positive(a: v128): v128 {
  return f32x4.pmax(a, f32x4.splat(0));
}

/**
 * Writes what four colours are made of, in linear light, at `out`: white, cyan, magenta,
 * yellow, red, green, blue (7 × 16 bytes).
 */
// @ts-ignore: decorator
@inline function parts(r0: v128, g0: v128, b0: v128, out: usize): void {
  const lr = linear(r0), lg = linear(g0), lb = linear(b0);
  const white = f32x4.pmin(f32x4.pmin(lr, lg), lb);
  const r = f32x4.sub(lr, white), g = f32x4.sub(lg, white), b = f32x4.sub(lb, white);
  v128.store(out, white);
  v128.store(out, f32x4.pmin(g, b), 16);
  v128.store(out, f32x4.pmin(r, b), 32);
  v128.store(out, f32x4.pmin(r, g), 48);
  v128.store(out, positive(f32x4.pmin(f32x4.sub(r, b), f32x4.sub(r, g))), 64);
  v128.store(out, positive(f32x4.pmin(f32x4.sub(g, b), f32x4.sub(g, r))), 80);
  v128.store(out, positive(f32x4.pmin(f32x4.sub(b, r), f32x4.sub(b, g))), 96);
}

/** Reflectance of four colours in one band, from their parts. */
// @ts-ignore: decorator
@inline function reflectance(made: usize, band: i32): v128 {
  let sum = v128.load(made);
  for (let i = 0; i < 6; i++) {
    sum = f32x4.add(sum, f32x4.mul(v128.load(made + <usize>((i + 1) << 4)), number(i, band)));
  }
  const raised = f32x4.add(f32x4.splat(LOWEST), f32x4.mul(f32x4.splat(<f32>1 - LOWEST), sum));
  return f32x4.pmin(f32x4.splat(1), raised);
}

/** What four glazes and four grounds are made of; a thread's own. */
export const GLAZE_SCRATCH: i32 = 224;

/**
 * Four glazes (straight sRGB 0…1) over four grounds: r, g and b are left at `out`, 32 bytes
 * apart. A film that over white has exactly its own colour and over black `BODY` of it; over
 * anything else by Kubelka's equations (1948), R = R₁ + T²·R₂ / (1 − R₁·R₂) in each band.
 */
export function glaze4(
  cbr: v128, cbg: v128, cbb: v128, csr: v128, csg: v128, csb: v128, out: usize, scratch: usize,
): void {
  const film = scratch, ground = scratch + 112;
  parts(csr, csg, csb, film);
  parts(cbr, cbg, cbb, ground);
  const one = f32x4.splat(1);
  let r = f32x4.splat(0), g = f32x4.splat(0), b = f32x4.splat(0);
  for (let band = 0; band < BANDS; band++) {
    const white = f32x4.pmin(reflectance(film, band), f32x4.splat(WHITEST));
    const under = reflectance(ground, band);
    const own = f32x4.mul(white, f32x4.splat(BODY));
    const through = f32x4.mul(f32x4.sub(white, own), f32x4.sub(one, own));
    const back = f32x4.div(f32x4.mul(through, under), f32x4.sub(one, f32x4.mul(own, under)));
    const all = f32x4.add(own, back);
    r = f32x4.add(r, f32x4.mul(all, number(6, band)));
    g = f32x4.add(g, f32x4.mul(all, number(7, band)));
    b = f32x4.add(b, f32x4.mul(all, number(8, band)));
  }
  const low = f32x4.splat(LOWEST), span = f32x4.splat(<f32>1 / (<f32>1 - LOWEST));
  v128.store(out, curved(clamp01(f32x4.mul(f32x4.sub(r, low), span))));
  v128.store(out, curved(clamp01(f32x4.mul(f32x4.sub(g, low), span))), 32);
  v128.store(out, curved(clamp01(f32x4.mul(f32x4.sub(b, low), span))), 64);
}

/** Share of the light that each band holds, over how strong darks are beside white (1.1888). */
const TAKES = memory.data<f32>([
  0.029809 / 1.1888, 0.087808 / 1.1888, 0.08542 / 1.1888, 0.170317 / 1.1888, 0.176819 / 1.1888, 0.135551 / 1.1888,
  0.314275 / 1.1888,
]);

/** What a band's light counts for in what a paint takes up, four times. */
// @ts-ignore: decorator
@inline function takes(band: usize): v128 {
  return v128.load32_splat(TAKES + (band << 2));
}

/** Bytes of four paints: what they take up, band by band. */
export const PAINT_BYTES: i32 = 112;

/**
 * What four colours (straight sRGB 0…1) take up as paints, in seven bands, written to `out`; and what they
 * are made of to `scratch`, 112 bytes each. What a paint throws back follows from it: S + Σ wⱼKⱼ/k₀ = 1
 * (Kubelka and Munk 1931, two constants), so a mixture is a weighted mean.
 */
export function paint4(r: v128, g: v128, b: v128, out: usize, scratch: usize): void {
  const one = f32x4.splat(1);
  parts(clamp01(r), clamp01(g), clamp01(b), scratch);
  let taken = one;
  for (let band = 0; band < BANDS; band++) {
    const seen = reflectance(scratch, band);
    const lost = f32x4.sub(one, seen);
    const q = f32x4.div(f32x4.mul(lost, lost), f32x4.add(seen, seen));
    taken = f32x4.add(taken, f32x4.mul(q, takes(band)));
    v128.store(out + <usize>(band << 4), q);
  }
  const scatters = f32x4.div(one, taken);
  for (let at: usize = 0; at < <usize>PAINT_BYTES; at += 16) v128.store(out + at, f32x4.mul(v128.load(out + at), scatters));
}

/** The colours of four paints laid thick: r, g and b, straight sRGB 0…1, written over the first three bands. */
export function colour4(paint: usize): void {
  let scatters = f32x4.splat(1);
  for (let band = 0; band < BANDS; band++)
    scatters = f32x4.sub(scatters, f32x4.mul(v128.load(paint + <usize>(band << 4)), takes(band)));
  scatters = f32x4.pmax(scatters, f32x4.splat(<f32>0.000001));
  const twice = f32x4.add(scatters, scatters);
  let r = f32x4.splat(0), g = r, b = r;
  for (let band = 0; band < BANDS; band++) {
    const k = v128.load(paint + <usize>(band << 4));
    const root = f32x4.sqrt(f32x4.mul(k, f32x4.add(k, twice)));
    const seen = f32x4.div(scatters, f32x4.add(scatters, f32x4.add(k, root)));
    r = f32x4.add(r, f32x4.mul(seen, number(6, band)));
    g = f32x4.add(g, f32x4.mul(seen, number(7, band)));
    b = f32x4.add(b, f32x4.mul(seen, number(8, band)));
  }
  const low = f32x4.splat(LOWEST), span = f32x4.splat(<f32>1 / (<f32>1 - LOWEST));
  v128.store(paint, curved(clamp01(f32x4.mul(f32x4.sub(r, low), span))));
  v128.store(paint, curved(clamp01(f32x4.mul(f32x4.sub(g, low), span))), 16);
  v128.store(paint, curved(clamp01(f32x4.mul(f32x4.sub(b, low), span))), 32);
}
