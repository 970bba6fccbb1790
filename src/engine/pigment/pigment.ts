import { hexToRgb, linearToRgb, rgbToHex, type Rgb, srgbToLinear } from "../colour/oklch";

// Looked up once: some surroundings are slow to find a global.
const { max, min, sqrt } = Math;

/**
 * Paint by two constants (Kubelka and Munk 1931) on seven bands of light: how much of each a paint takes
 * up, and how much it throws back. A colour becomes the reflectances of a smooth spectrum that returns
 * exactly to it, put together of the six corners of the sRGB cube and white (after Smits 1999).
 *
 * Band edges, nm: 380 · 465 · 485 · 501.7 · 545 · 579.5 · 595 · 755, seen by the CIE 1931 2° observer in
 * daylight D65.
 */
const BANDS = 7;
/** No paint is blacker than this. */
const LOWEST = 0.0033169;
/** How strong darks are beside white. */
const STRENGTH = 1.1888;
/** Share of the light that each band holds. */
const WEIGHTS = [0.029809, 0.087808, 0.08542, 0.170317, 0.176819, 0.135551, 0.314275];
/** Reflectances to linear sRGB. */
const TO_LINEAR = [
  [0.071514, -0.050112, -0.088854, -0.332114, 0.182779, 0.263507, 0.95328],
  [-0.081419, 0.025956, 0.081381, 0.540356, 0.390726, 0.072814, -0.029813],
  [0.799917, 0.238805, 0.061837, -0.019509, -0.051201, -0.01432, -0.015529],
] as const;
const CORNERS = {
  cyan: [0.9755, 0.997821, 0.997852, 0.997765, 0.992654, 0.643506, 0.051686],
  magenta: [0.996925, 0.867879, 0.27574, 0.068983, 0.0062, 0.349846, 0.971685],
  yellow: [0.037574, 0.08917, 0.74975, 0.966787, 0.958228, 0.998011, 0.997983],
  red: [0.023698, 0.003982, 0.004012, 0.003997, 0.005075, 0.352952, 0.950671],
  green: [0.021603, 0.073543, 0.691841, 0.974305, 0.958051, 0.609132, 0.054099],
  blue: [0.918451, 0.998001, 0.463934, 0.004201, 0.023632, 0.004007, 0.022629],
} as const;
type Corner = keyof typeof CORNERS;

/**
 * A paint: what it takes up in each band. What it throws back, S, follows from that, because for every
 * paint S + Σ wⱼKⱼ / k₀ = 1; a mixture of such paints keeps that law, so mixing is a weighted mean.
 */
export type Paint = readonly number[];

/** How much of each corner is in a linear colour, white taken off. */
function cornersIn([r, g, b]: Rgb): Record<Corner, number> {
  return {
    cyan: Math.min(g, b),
    magenta: Math.min(r, b),
    yellow: Math.min(r, g),
    red: Math.max(0, Math.min(r - b, r - g)),
    green: Math.max(0, Math.min(g - r, g - b)),
    blue: Math.max(0, Math.min(b - r, b - g)),
  };
}

/** Reflectances of a linear colour 0…1 by band. */
function reflectances(linear: Rgb): number[] {
  const white = Math.min(...linear);
  const inIt = cornersIn([linear[0] - white, linear[1] - white, linear[2] - white]);
  return Array.from({ length: BANDS }, (_, j) => {
    let light = white;
    for (const corner of Object.keys(CORNERS) as Corner[])
      light += inIt[corner] * (CORNERS[corner][j] as number);
    return Math.min(1, LOWEST + (1 - LOWEST) * light);
  });
}

/** The paint of a colour: `rgb` 0…1 sRGB. */
export function paintOf(rgb: Rgb): Paint {
  const linear = rgb.map(srgbToLinear) as Rgb;
  const quotients = reflectances(linear).map((r) => ((1 - r) * (1 - r)) / (2 * r));
  const taken = quotients.reduce((sum, q, j) => sum + (q * (WEIGHTS[j] as number)) / STRENGTH, 0);
  const scatters = 1 / (1 + taken);
  return quotients.map((q) => q * scatters);
}

/** Linear sRGB 0…1 of a paint laid so thick that nothing shines through, written into `into`. */
export function linearOf(paint: ArrayLike<number>, into: Rgb): Rgb {
  let scatters = 1;
  for (let j = 0; j < BANDS; j++)
    scatters -= ((paint[j] as number) * (WEIGHTS[j] as number)) / STRENGTH;
  into.fill(0);
  for (let j = 0; j < BANDS; j++) {
    const k = paint[j] as number;
    // The usual form, solved so that darks do not cancel.
    const seen = scatters / (scatters + k + sqrt(k * (k + 2 * scatters)));
    for (let c = 0; c < 3; c++)
      into[c] = (into[c] as number) + (TO_LINEAR[c]?.[j] as number) * seen;
  }
  for (let c = 0; c < 3; c++)
    into[c] = min(1, max(0, ((into[c] as number) - LOWEST) / (1 - LOWEST)));
  return into;
}

/** The colour of a paint laid thick: sRGB 0…1. */
export const colourOf = (paint: Paint): Rgb => linearToRgb(linearOf(paint, [0, 0, 0]));

/**
 * Paints stirred together, in parts by volume.
 * @throws RangeError where there is no part above 0
 */
export function mixed(parts: readonly (readonly [share: number, paint: Paint])[]): Paint {
  const whole = parts.reduce((sum, [share]) => sum + share, 0);
  if (!(whole > 0)) throw new RangeError(`a mixture has parts above 0, not ${whole} in all`);
  return Array.from({ length: BANDS }, (_, j) =>
    parts.reduce((sum, [share, paint]) => sum + (share / whole) * (paint[j] as number), 0),
  );
}

/** The share 0…1 of the second paint at a place of a string of mixtures, so that it looks even. */
export function evenShare(at: number): number {
  const [first, second] = [(1 - at) ** 1.5, at ** 1.5];
  return second / (first + second);
}

/** Two colours stirred as paint: at 0 the first, at 1 the second, evenly to the eye in between. */
export function stirred(from: string, to: string, at: number): string {
  const share = evenShare(at);
  return rgbToHex(
    colourOf(
      mixed([
        [1 - share, paintOf(hexToRgb(from))],
        [share, paintOf(hexToRgb(to))],
      ]),
    ),
  );
}

/** A string of mixtures from one colour to another, both among them. @param count 2 or more */
export function stringOf(from: string, to: string, count: number): string[] {
  return Array.from({ length: count }, (_, i) => stirred(from, to, i / (count - 1)));
}
