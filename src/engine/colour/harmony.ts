import { greatestChroma, hexToOklch, isWarm, oklchToHex } from "./oklch";

/** How hues stand to each other, in degrees from the one in hand. */
export const harmonies = {
  complement: [0, 180],
  split: [0, 150, 210],
  near: [-30, 0, 30],
  triad: [0, 120, 240],
} as const;

export type Harmony = keyof typeof harmonies;
export type Tone = { hex: string; warm: boolean };

/** Lightness of the steps beside a harmony's own. */
const STEPS = [-0.18, 0, 0.18];

/**
 * The colours of a harmony, hue by hue, each darker, as it is, and lighter: the same chroma
 * in OKLCH, as far as sRGB has it (CSS Color 4).
 */
export function harmonyOf(hex: string, harmony: Harmony): Tone[][] {
  const { l, c, h } = hexToOklch(hex);
  return harmonies[harmony].map((turn) => {
    const hue = (h + turn + 360) % 360;
    return STEPS.map((step) => {
      const light = Math.min(0.97, Math.max(0.06, l + step));
      const chroma = Math.min(c, greatestChroma(light, hue));
      return { hex: oklchToHex({ l: light, c: chroma, h: hue }), warm: isWarm(hue) };
    });
  });
}

/** Light of a warmth −1 (cold) … 1 (warm): hues of its lights, and of its shades opposite. */
const WARM_LIGHT = 75;
const COLD_LIGHT = 250;
/** How far shade and light lie from their base. */
const SHADE = { lightness: 0.72, chroma: 0.88, turn: 0.3 };
const LIGHT = { lightness: 0.36, chroma: 0.92, turn: 0.28 };

/** A hue turned a share of the shorter way toward another. */
function toward(from: number, to: number, share: number): number {
  const way = ((to - from + 540) % 360) - 180;
  return (from + way * share + 360) % 360;
}

/**
 * Shade and light proposed for a base colour: warm light leaves cool shades and the other way
 * round, as painters do it; the hue goes toward the light's, or away from it.
 * @param warmth of the light, −1 cold … 1 warm
 */
export function shadeAndLight(hex: string, warmth: number): { shade: string; light: string } {
  const { l, c, h } = hexToOklch(hex);
  const lit = warmth >= 0 ? WARM_LIGHT : COLD_LIGHT;
  const shaded = warmth >= 0 ? COLD_LIGHT : WARM_LIGHT;
  const strength = Math.abs(warmth);
  const made = (light: number, chroma: number, hue: number): string =>
    oklchToHex({ l: light, c: Math.min(chroma, greatestChroma(light, hue)), h: hue });
  // A grey has no hue to turn: it takes a little of the light's own.
  const own = c < 0.01;
  const tinge = 0.02 * strength;
  return {
    shade: made(
      l * SHADE.lightness,
      Math.max(c * SHADE.chroma, tinge),
      own ? shaded : toward(h, shaded, SHADE.turn * strength),
    ),
    light: made(
      l + (1 - l) * LIGHT.lightness,
      Math.max(c * LIGHT.chroma, tinge),
      own ? lit : toward(h, lit, LIGHT.turn * strength),
    ),
  };
}
