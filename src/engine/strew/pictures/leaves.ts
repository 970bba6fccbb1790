import { cosine, sine } from "../../scene/vector";
import {
  type Art,
  between,
  eased,
  held,
  lit,
  offStretch,
  over,
  rgb,
  type Rgb,
  swells,
} from "./art";

/** Looked up once: globals are slow to come by where tests run. */
const { abs, floor, max, round, sign, sqrt } = Math;

/** How a leaf's blade is cut: half its width along its length (0 at the stalk … 1 at the tip). */
type Blade = (along: number, side: number) => number;

/** t to the power of ¾, by roots alone. */
const tapered = (t: number): number => sqrt(t * sqrt(t));

const oval: Blade = (t) => 0.5 * sqrt(held(t * (1 - t) * 4)) * (1.12 - 0.3 * t);
const spear: Blade = (t) => 0.7 * sqrt(t) * tapered(1 - t);
const heart: Blade = (t) => 0.98 * sqrt(t) * tapered(1 - t);
/** Lobes as an oak's, not quite opposite each other. */
const lobed: Blade = (t, side) =>
  (0.18 + 0.32 * sqrt(held(t * (1 - t) * 4)) * (0.5 + 0.65 * t)) *
  (0.8 + 0.2 * cosine(t * 24 + (side > 0 ? 0.9 : 0))) *
  sqrt(held((1 - t) * 6)) *
  sqrt(held(t * 4));
/** Teeth as a birch's. */
const toothed: Blade = (t) => {
  const teeth = t * 13;
  return 0.95 * sqrt(t) * tapered(1 - t) * (1 - 0.1 * (teeth - floor(teeth)));
};

type Leaf = { blade: Blade; near: string; far: string; vein: string; bend: number; seed: number };

const leaves: Leaf[] = [
  { blade: oval, near: "#b4582a", far: "#d9952f", vein: "#f0c878", bend: 0.1, seed: 3 },
  { blade: lobed, near: "#8a4a22", far: "#bb7431", vein: "#e0b071", bend: -0.08, seed: 8 },
  { blade: toothed, near: "#d5a02c", far: "#e8c750", vein: "#fff0b0", bend: 0.06, seed: 21 },
  { blade: spear, near: "#6d7b34", far: "#94a24a", vein: "#ccd58c", bend: -0.1, seed: 34 },
  { blade: heart, near: "#9a3524", far: "#c8603a", vein: "#efa981", bend: 0.05, seed: 55 },
  { blade: oval, near: "#4f6b36", far: "#7d9347", vein: "#bccb86", bend: -0.12, seed: 70 },
];

function leafArt({ blade, near, far, vein, bend, seed }: Leaf): Art {
  const noise = swells(seed);
  const [low, high, line] = [rgb(near), rgb(far), rgb(vein)];
  const stalk = between(low, rgb("#3a2616"), 0.5);
  return (x, y, onto) => {
    const t = (0.62 - y) / 1.56;
    const middle = bend * sine(t * 3) * (1 - t * 0.3);
    const off = x - middle;
    if (t < 0.02) {
      const [from, along] = offStretch(x, y, [middle * 0.2 - bend * 0.8, 0.95], [0.01, 0.56]);
      over(onto, stalk, from < 0.03 - 0.012 * along ? 1 : 0);
    }
    if (t <= 0 || t >= 1) return;
    const half = blade(t, sign(off));
    const edge = abs(off) / max(half, 1e-4);
    if (edge > 1) return;
    // One half turns to the light.
    let colour: Rgb = between(
      low,
      high,
      held(0.35 + 0.5 * noise(x, y, 5) + (off > 0 ? 0.24 : -0.12)),
    );
    colour = lit(colour, off > 0 ? 1.06 : 0.9);
    colour = between(colour, lit(low, 0.55), eased(0.72, 1, edge) * 0.55);
    const blotch = noise(y + 0.3, x, 13);
    if (blotch > 0.74) colour = lit(colour, 0.8);
    over(onto, colour, 1);
    // Side veins run up and outward.
    const run = (t - edge * half * 0.62) * 8.5;
    const near8 = abs(run - round(run));
    const thin = 0.075 * (1 - edge);
    if (edge < 0.92 && t > 0.06 && near8 < thin) over(onto, line, 0.55);
    if (abs(off) < 0.022 * (1 - t) + 0.006) over(onto, line, 0.85);
  };
}

export const leafPictures: Art[] = leaves.map(leafArt);

type Needle = readonly [
  from: readonly [number, number],
  to: readonly [number, number],
  bow: number,
];

/** Pine needles: pairs, a tuft, single ones lying about. */
function needleArt(needles: readonly Needle[], colour: string, tip: string): Art {
  const [low, high] = [rgb(colour), rgb(tip)];
  return (x, y, onto) => {
    for (const [from, to, bow] of needles) {
      const dx = to[0] - from[0];
      const dy = to[1] - from[1];
      const long = sqrt(dx * dx + dy * dy);
      const along = held(((x - from[0]) * dx + (y - from[1]) * dy) / (long * long));
      const lift = bow * 4 * along * (1 - along);
      const ox = x - from[0] - dx * along + (dy / long) * lift;
      const oy = y - from[1] - dy * along - (dx / long) * lift;
      const off = sqrt(ox * ox + oy * oy);
      const half = 0.034 * (1 - 0.75 * along * along * along);
      if (off < half) over(onto, lit(between(low, high, along), off < half * 0.4 ? 1.2 : 0.95), 1);
    }
    const [ox, oy] = [x - (needles[0]?.[0][0] ?? 0), y - (needles[0]?.[0][1] ?? 0)];
    if (ox * ox + oy * oy < 0.0042) over(onto, rgb("#6e4526"), 1);
  };
}

export const needlePictures: Art[] = [
  needleArt(
    [
      [[0, 0.85], [-0.32, -0.9], 0.1],
      [[0, 0.85], [0.28, -0.88], -0.12],
    ],
    "#3f5a33",
    "#86985a",
  ),
  needleArt(
    [
      [[0.05, 0.9], [0.5, -0.72], -0.1],
      [[0.05, 0.9], [-0.42, -0.82], 0.16],
      [[0.05, 0.9], [0.06, -0.94], 0.04],
    ],
    "#5b6a31",
    "#a4a75c",
  ),
  needleArt([[[-0.1, 0.9], [0.14, -0.92], 0.14]], "#8a5a2b", "#c08a49"),
  needleArt(
    Array.from({ length: 9 }, (_, i): Needle => {
      const a = (i - 4) * 0.27;
      return [[0, 0.8], [sine(a) * 1.35 * 0.7, 0.8 - cosine(a) * 1.62], (i - 4) * 0.02];
    }),
    "#35512f",
    "#7c9152",
  ),
];
