import { type Art, between, clouded, eased, held, offStretch, over, rays, rgb } from "./art";

/** Looked up once: globals are slow to come by where tests run. */
const { PI, abs, max, sqrt } = Math;

const TURN = 2 * PI;
const [SNOW, SNOW_SHADE] = [rgb("#ffffff"), rgb("#c9d8e8")];

const far = (x: number, y: number): number => sqrt(x * x + y * y);

const SIX = rays(6, TURN / 6, TURN / 12);

/** A place folded into the first of six sectors: along its arm, and off it. */
function folded(x: number, y: number): [along: number, off: number] {
  let best = -2;
  let off = 0;
  for (const [c, s] of SIX) {
    const along = x * c + y * s;
    if (along <= best) continue;
    best = along;
    off = abs(y * c - x * s);
  }
  return [best, off];
}

/** A crystal: arms with side arms at some lengths. */
function crystalArt(
  branches: readonly (readonly [at: number, long: number])[],
  heart: number,
): Art {
  return (x, y, onto) => {
    const [along, off] = folded(x, y);
    let cover = off < 0.045 - 0.015 * along && along < 0.93 ? 1 : 0;
    for (const [at, long] of branches) {
      const [from] = offStretch(along, off, [at, 0], [at + long * 0.5, long * 0.866]);
      if (from < 0.03) cover = 1;
    }
    if (along < heart) cover = max(cover, off < 0.03 || along > heart - 0.05 ? 1 : 0.45);
    over(onto, along < 0.5 ? SNOW : between(SNOW, SNOW_SHADE, (along - 0.5) * 0.8), cover);
  };
}

/** A soft flake near the eye. */
function softFlake(seed: number, hard: number): Art {
  const noise = clouded(seed);
  return (x, y, onto) => {
    const r = far(x, y * 1.06) + (noise(x, y, 3) - 0.5) * 0.2;
    over(onto, between(SNOW, SNOW_SHADE, held(0.5 + y * 0.5) * 0.6), eased(0.84, hard, r) * 0.95);
  };
}

export const flakePictures: Art[] = [
  softFlake(4, 0.42),
  crystalArt(
    [
      [0.42, 0.3],
      [0.64, 0.2],
    ],
    0.2,
  ),
  softFlake(11, 0.2),
  crystalArt(
    [
      [0.3, 0.2],
      [0.52, 0.34],
      [0.74, 0.16],
    ],
    0,
  ),
  softFlake(17, 0.62),
  crystalArt([[0.66, 0.22]], 0.34),
];

/** Smoke: rolling, lit from above. */
function puffArt(seed: number): Art {
  const noise = clouded(seed);
  const [dark, light] = [rgb("#6a6765"), rgb("#e9e4dc")];
  return (x, y, onto) => {
    const roll = noise(x, y, 4.5);
    const r = far(x, y) * 1.02 + (0.5 - roll) * 0.9;
    const cover = eased(0.86, 0.2, r) * 0.9 * eased(0.97, 0.7, far(x, y));
    const slope = noise(x - 0.09, y - 0.12, 4.5) - noise(x + 0.09, y + 0.12, 4.5);
    over(onto, between(dark, light, held(0.5 - slope * 1.5 - y * 0.28)), cover);
  };
}
export const puffPictures: Art[] = [5, 19, 31, 47].map(puffArt);

/** Steam: a veil that leans and thins upward. */
function steamArt(seed: number, lean: number): Art {
  const noise = clouded(seed);
  const white = rgb("#f6f6f2");
  return (x, y, onto) => {
    const up = held((0.93 - y) / 1.86);
    const middle = lean * up + (noise(0.2, y, 5) - 0.5) * 0.7 * up;
    const half = 0.1 + 0.34 * up;
    const off = abs(x - middle) / half;
    const veil = eased(1, 0.1, off) * eased(0, 0.12, up) * eased(1, 0.45, up);
    over(onto, white, veil * (0.25 + 0.75 * noise(x * 1.6 - middle, y * 0.7, 7)) * 0.75);
  };
}
export const steamPictures: Art[] = [
  steamArt(6, 0.2),
  steamArt(15, -0.28),
  steamArt(28, 0.05),
  steamArt(44, -0.12),
];

/** A drop's way through the picture, bright at its end. */
const streak =
  (half: number, strong: number): Art =>
  (x, y, onto) => {
    const t = held((y + 0.95) / 1.9);
    if (y < -0.95 || y > 0.95) return;
    const width = half * (0.3 + 0.7 * t);
    over(onto, rgb("#dfe8ee"), eased(width, width * 0.35, abs(x)) * t * t * strong);
  };
export const rainPictures: Art[] = [streak(0.05, 0.8), streak(0.035, 0.55), streak(0.07, 0.95)];

/** A spark: a hot streak that cools, or a point with its glow. */
function sparkArt(lean: number, long: number): Art {
  const [hot, warm, ember] = [rgb("#fffbe0"), rgb("#ffb43c"), rgb("#d8461c")];
  return (x, y, onto) => {
    const [off, t] = offStretch(x, y, [lean, -0.06 - long * 0.86], [0, 0.06 + long * 0.8]);
    const glow = 0.16 + 0.1 * t;
    const heat = held(1 - off / glow);
    over(onto, between(ember, warm, heat), heat * heat * (0.25 + 0.75 * t) * 0.9);
    const core = 0.012 + 0.045 * t * t;
    over(onto, between(warm, hot, t), eased(core, core * 0.5, off) * (0.2 + 0.8 * t));
  };
}
export const sparkPictures: Art[] = [
  sparkArt(0.2, 1),
  sparkArt(-0.25, 0.8),
  sparkArt(0, 0.05),
  sparkArt(0.4, 0.6),
  sparkArt(-0.05, 0.3),
];

/** A star: a point, its glow, and rays. */
function starArt(count: number, long: number, colour: string): Art {
  const ways = rays(count, PI / max(1, count));
  const [white, own] = [rgb("#ffffff"), rgb(colour)];
  return (x, y, onto) => {
    const r = far(x, y);
    const glow = held(1 - r / 0.8);
    over(onto, own, glow * glow * glow * 0.55);
    for (let i = 0; i < count; i++) {
      const [c, s] = ways[i] as readonly [number, number];
      const along = abs(x * c + y * s);
      const off = abs(y * c - x * s);
      const reach = i % 2 === 0 ? long : long * 0.62;
      const thin = 0.035 * (1 - along / reach);
      if (along < reach) over(onto, between(own, white, 0.6), eased(thin, 0, off) * 0.95);
    }
    over(onto, white, eased(0.17, 0.08, r));
  };
}
export const starPictures: Art[] = [
  starArt(2, 0.94, "#fff1c4"),
  starArt(0, 0, "#dfeaff"),
  starArt(4, 0.92, "#cfe0ff"),
  starArt(2, 0.7, "#ffd9a8"),
  starArt(0, 0, "#fff6df"),
];
