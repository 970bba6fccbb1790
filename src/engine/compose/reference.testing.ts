import { type BlendMode } from "./blend-modes";

export type Rgb = [number, number, number];

const CORNERS = {
  c: [0.9755, 0.997821, 0.997852, 0.997765, 0.992654, 0.643506, 0.051686],
  m: [0.996925, 0.867879, 0.27574, 0.068983, 0.0062, 0.349846, 0.971685],
  y: [0.037574, 0.08917, 0.74975, 0.966787, 0.958228, 0.998011, 0.997983],
  r: [0.023698, 0.003982, 0.004012, 0.003997, 0.005075, 0.352952, 0.950671],
  g: [0.021603, 0.073543, 0.691841, 0.974305, 0.958051, 0.609132, 0.054099],
  b: [0.918451, 0.998001, 0.463934, 0.004201, 0.023632, 0.004007, 0.022629],
};
const TO_RGB = [
  [0.071514, -0.050112, -0.088854, -0.332114, 0.182779, 0.263507, 0.95328],
  [-0.081419, 0.025956, 0.081381, 0.540356, 0.390726, 0.072814, -0.029813],
  [0.799917, 0.238805, 0.061837, -0.019509, -0.051201, -0.01432, -0.015529],
];
const LOWEST = 0.0033169;

/** Seven reflectances of an sRGB colour: the amounts of white and the six corners that make it up. */
function spectrum(rgb: Rgb): number[] {
  const linear = rgb.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  const white = Math.min(...linear);
  const [r, g, b] = linear.map((v) => v - white) as Rgb;
  const shares = {
    c: Math.min(g, b),
    m: Math.min(r, b),
    y: Math.min(r, g),
    r: Math.max(0, Math.min(r - b, r - g)),
    g: Math.max(0, Math.min(g - b, g - r)),
    b: Math.max(0, Math.min(b - r, b - g)),
  };
  return Array.from({ length: 7 }, (_, band) => {
    let sum = white;
    for (const corner of ["c", "m", "y", "r", "g", "b"] as const)
      sum += shares[corner] * (CORNERS[corner][band] as number);
    return Math.min(1, LOWEST + (1 - LOWEST) * sum);
  });
}

/** A film over a ground by Kubelka's equations, from its K and S at thickness 1. */
function film(overWhite: number, body: number, ground: number): number {
  const rw = Math.min(overWhite, 0.9995);
  const rb = body * rw;
  const a = 0.5 * (rw + (rb - rw + 1) / rb);
  const b = Math.sqrt(a * a - 1);
  const s = Math.atanh((b * (1 - rw)) / (b * b - (a - rw) * (a - 1))) / b;
  const k = s * (a - 1);
  const big = Math.sqrt(k * (k + 2 * s));
  const e = Math.exp(-2 * big);
  const d = k + s + big - (k + s - big) * e;
  const reflected = (s * (1 - e)) / d;
  const passed = (2 * big * Math.sqrt(e)) / d;
  return reflected + (passed * passed * ground) / (1 - reflected * ground);
}

function glazed(cb: Rgb, cs: Rgb): Rgb {
  const own = spectrum(cs);
  const all = spectrum(cb).map((ground, i) => film(own[i] as number, 0.1, ground));
  return TO_RGB.map((row) => {
    const sum = row.reduce((total, v, i) => total + v * (all[i] as number), 0);
    const v = Math.min(1, Math.max(0, (sum - LOWEST) / (1 - LOWEST)));
    return v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
  }) as Rgb;
}

/** An independent reading of W3C Compositing and Blending Level 1, §§ 9–10, in plain numbers. */
export const blended: Record<BlendMode, (cb: Rgb, cs: Rgb) => Rgb> = (() => {
  const each =
    (f: (b: number, s: number) => number) =>
    (cb: Rgb, cs: Rgb): Rgb => [f(cb[0], cs[0]), f(cb[1], cs[1]), f(cb[2], cs[2])];
  const multiply = (b: number, s: number): number => b * s;
  const screen = (b: number, s: number): number => b + s - b * s;
  const hardLight = (b: number, s: number): number =>
    s <= 0.5 ? multiply(b, 2 * s) : screen(b, 2 * s - 1);
  const lum = (c: Rgb): number => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
  const clipColor = (c: Rgb): Rgb => {
    const l = lum(c);
    const n = Math.min(...c);
    const x = Math.max(...c);
    let out = c;
    if (n < 0) out = out.map((v) => l + ((v - l) * l) / (l - n)) as Rgb;
    if (x > 1) out = out.map((v) => l + ((v - l) * (1 - l)) / (x - l)) as Rgb;
    return out;
  };
  const setLum = (c: Rgb, l: number): Rgb => clipColor(c.map((v) => v + l - lum(c)) as Rgb);
  const sat = (c: Rgb): number => Math.max(...c) - Math.min(...c);
  const setSat = (c: Rgb, s: number): Rgb => {
    const order = [0, 1, 2].sort((i, j) => (c[i] as number) - (c[j] as number)) as [
      number,
      number,
      number,
    ];
    const out: Rgb = [0, 0, 0];
    const [min, mid, max] = order.map((i) => c[i] as number) as Rgb;
    if (max > min) {
      out[order[1]] = ((mid - min) * s) / (max - min);
      out[order[2]] = s;
    }
    return out;
  };
  return {
    normal: (_cb, cs) => cs,
    multiply: each(multiply),
    screen: each(screen),
    overlay: each((b, s) => hardLight(s, b)),
    darken: each(Math.min),
    lighten: each(Math.max),
    "color-dodge": each((b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s)))),
    "color-burn": each((b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s))),
    "hard-light": each(hardLight),
    "soft-light": each((b, s) => {
      if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
      const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
      return b + (2 * s - 1) * (d - b);
    }),
    difference: each((b, s) => Math.abs(b - s)),
    exclusion: each((b, s) => b + s - 2 * b * s),
    hue: (cb, cs) => setLum(setSat(cs, sat(cb)), lum(cb)),
    saturation: (cb, cs) => setLum(setSat(cb, sat(cs)), lum(cb)),
    color: (cb, cs) => setLum(cs, lum(cb)),
    luminosity: (cb, cs) => setLum(cb, lum(cs)),
    add: each((b, s) => Math.min(1, b + s)),
    glaze: glazed,
  };
})();

/** Premultiplied r g b and alpha. */
export type Pixel = [number, number, number, number];

/** What a layer is to the reference: paint, or layers in a group. `held`: the share its mask holds back. */
export type Sheet = {
  blend: BlendMode;
  opacity: number;
  clip: boolean;
  held: number;
  paint: Pixel | Sheet[];
  through?: boolean;
};

const straight = (p: Pixel): Rgb =>
  p[3] === 0 ? [0, 0, 0] : [p[0] / p[3], p[1] / p[3], p[2] / p[3]];
const scaled = (p: Pixel, by: number): Pixel => p.map((v) => v * by) as Pixel;

/** Source-over with a blend mode (W3C § 9.1.3–9.1.4). */
function over(cb: Pixel, cs: Pixel, mode: BlendMode): Pixel {
  const [ab, as] = [cb[3], cs[3]];
  if (mode === "add") return cb.map((v, c) => Math.min(1, v + (cs[c] as number))) as Pixel;
  const mixed = blended[mode](straight(cb), straight(cs));
  const colour = mixed.map(
    (b, c) => (1 - ab) * (cs[c] as number) + (1 - as) * (cb[c] as number) + as * ab * b,
  );
  return [...colour, as + ab * (1 - as)] as Pixel;
}

/** Inside a shape: its alpha stays, its coverage is no backdrop. */
function inside(cb: Pixel, cs: Pixel, mode: BlendMode): Pixel {
  const ab = cb[3];
  if (ab === 0) return cb;
  const opaque: Pixel = [...straight(cb), 1];
  return scaled(mode === "add" ? addOn(opaque, cs) : over(opaque, cs, mode), ab);
}

const addOn = (cb: Pixel, cs: Pixel): Pixel =>
  [0, 1, 2, 3].map((c) => Math.min(1, (cb[c] as number) + (cs[c] as number))) as Pixel;

/** Stacks sheets on a backdrop, the lowest first: groups, clips, masks, opacities. */
export function stacked(sheets: readonly Sheet[], backdrop: Pixel): Pixel {
  let seen = backdrop;
  for (let i = 0; i < sheets.length;) {
    const base = sheets[i] as Sheet;
    let end = i + 1;
    while (end < sheets.length && sheets[end]?.clip) end++;
    const clips = sheets.slice(i + 1, end);
    if (base.through && Array.isArray(base.paint) && clips.length === 0) {
      const after = stacked(base.paint as Sheet[], seen);
      const share = base.opacity * (1 - base.held);
      const before = seen;
      seen = before.map((v, c) => v + ((after[c] as number) - v) * share) as Pixel;
    } else {
      let shape = own(base);
      for (const clip of clips) shape = inside(shape, scaled(own(clip), clip.opacity), clip.blend);
      seen = over(seen, scaled(shape, base.opacity), base.blend);
    }
    i = end;
  }
  return seen;
}

const isPixel = (paint: Pixel | Sheet[]): paint is Pixel => typeof paint[0] === "number";

/** A sheet's own pixels through its mask. */
function own({ paint, held }: Sheet): Pixel {
  return scaled(isPixel(paint) ? paint : stacked(paint, [0, 0, 0, 0]), 1 - held);
}
