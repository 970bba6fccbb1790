/** OKLab and OKLCH (Ottosson 2020; CSS Color 4). Components of sRGB are 0…1. */
export type Oklch = { l: number; c: number; h: number };
export type Rgb = [number, number, number];

const RADIANS = Math.PI / 180;

/** One component of sRGB, 0…1, in linear light (IEC 61966-2-1). */
export const srgbToLinear = (v: number): number =>
  v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
/** And back. */
export const linearToSrgb = (v: number): number =>
  v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;

/** Linear sRGB of OKLab L, a, b; components outside 0…1 are out of gamut. */
export function oklabToLinear([l, a, b]: readonly [number, number, number]): Rgb {
  const l3 = (l + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m3 = (l - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s3 = (l - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    4.0767416621 * l3 - 3.3077115913 * m3 + 0.2309699292 * s3,
    -1.2684380046 * l3 + 2.6097574011 * m3 - 0.3413193965 * s3,
    -0.0041960863 * l3 - 0.7034186147 * m3 + 1.707614701 * s3,
  ];
}

/** Linear sRGB of an OKLCH colour; components outside 0…1 are out of gamut. */
export function oklchToLinear({ l, c, h }: Oklch): Rgb {
  return oklabToLinear([l, c * Math.cos(h * RADIANS), c * Math.sin(h * RADIANS)]);
}

/** OKLab L, a, b of an sRGB colour. */
export const rgbToOklab = ([r, g, b]: Rgb): [number, number, number] =>
  linearToOklab([srgbToLinear(r), srgbToLinear(g), srgbToLinear(b)]);

/** OKLab L, a, b of linear sRGB. */
export function linearToOklab([lr, lg, lb]: Rgb): [number, number, number] {
  const l = Math.cbrt(0.4122214708 * lr + 0.5363325363 * lg + 0.0514459929 * lb);
  const m = Math.cbrt(0.2119034982 * lr + 0.6806995451 * lg + 0.1073969566 * lb);
  const s = Math.cbrt(0.0883024619 * lr + 0.2817188376 * lg + 0.6299787005 * lb);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

export function rgbToOklch(rgb: Rgb): Oklch {
  const [l, a, b] = rgbToOklab(rgb);
  const c = Math.hypot(a, b);
  const h = (Math.atan2(b, a) / RADIANS + 360) % 360;
  return { l, c, h: c < 1e-4 ? 0 : h };
}

const EDGE = 1e-4;
/** Whether linear values lie in sRGB, within `edge`. */
export const isInGamut = ([r, g, b]: Rgb, edge = EDGE): boolean =>
  Math.min(r, g, b) >= -edge && Math.max(r, g, b) <= 1 + edge;

/** sRGB of linear values, held within 0…1. */
export const linearToRgb = (linear: Rgb): Rgb =>
  linear.map((v) => linearToSrgb(Math.min(1, Math.max(0, v)))) as Rgb;

/** Greatest chroma that sRGB has at a lightness and hue. */
export function greatestChroma(l: number, h: number): number {
  let low = 0;
  let high = 0.4;
  for (let i = 0; i < 18; i++) {
    const middle = (low + high) / 2;
    if (isInGamut(oklchToLinear({ l, c: middle, h }))) low = middle;
    else high = middle;
  }
  return low;
}

/** The colour itself, or the same lightness and hue with as much chroma as sRGB has. */
export function oklchToHex(colour: Oklch): string {
  const l = Math.min(1, Math.max(0, colour.l));
  const asked = oklchToLinear({ ...colour, l });
  const linear = isInGamut(asked)
    ? asked
    : oklchToLinear({ l, c: Math.min(colour.c, greatestChroma(l, colour.h)), h: colour.h });
  return rgbToHex(linearToRgb(linear));
}

export const rgbToHex = (rgb: Rgb): string =>
  `#${rgb
    .map((v) =>
      Math.round(Math.min(1, Math.max(0, v)) * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;

export function hexToRgb(hex: string): Rgb {
  const value = parseInt(hex.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
}

export const hexToOklch = (hex: string): Oklch => rgbToOklch(hexToRgb(hex));

/** Hue 0…360, saturation and lightness 0…100 (CSS). */
export type Hsl = { h: number; s: number; l: number };

export function rgbToHsl([r, g, b]: Rgb): Hsl {
  const max = Math.max(r, g, b);
  const min = Math.min(r, g, b);
  const l = (max + min) / 2;
  const d = max - min;
  if (d === 0) return { h: 0, s: 0, l: l * 100 };
  const s = d / (1 - Math.abs(2 * l - 1));
  const sector = max === r ? ((g - b) / d + 6) % 6 : max === g ? (b - r) / d + 2 : (r - g) / d + 4;
  return { h: sector * 60, s: s * 100, l: l * 100 };
}

export function hslToRgb({ h, s, l }: Hsl): Rgb {
  const light = l / 100;
  const a = (s / 100) * Math.min(light, 1 - light);
  const f = (n: number): number => {
    const k = (n + h / 30) % 12;
    return light - a * Math.max(-1, Math.min(k - 3, 9 - k, 1));
  };
  return [f(0), f(8), f(4)];
}

/** Warm hues lie around orange, cool ones around the blue opposite. */
export const isWarm = (h: number): boolean => h < 110 || h >= 330;

/** `#rrggbb` from what a person types (`a4c`, `AA44CC`, `#aa44cc`); null where it is no colour. */
export function hexFromText(text: string): string | null {
  const plain = text.trim().replace(/^#/, "").toLowerCase();
  if (/^[0-9a-f]{6}$/.test(plain)) return `#${plain}`;
  if (/^[0-9a-f]{3}$/.test(plain)) return `#${[...plain].map((c) => c + c).join("")}`;
  return null;
}
