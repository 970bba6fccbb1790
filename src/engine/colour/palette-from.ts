import { linearToRgb, oklabToLinear, type Rgb, rgbToHex, rgbToOklab, rgbToOklch } from "./oklch";

type Lab = readonly [number, number, number];

/** Colours nearer than this look the same (ΔE in OKLab). */
const NOTICEABLE = 0.02;
const ROUNDS = 24;
/** Hues are put in sectors of this many degrees, greys before them. */
const SECTOR = 45;
const GREY = 0.03;

const distance = (p: Lab, q: Lab): number => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);

/**
 * `count` colours that stand for a picture's: k-means in OKLab (Lloyd 1982), begun with
 * what is nearest to their mean and then always what lies farthest from those chosen, so the same picture gives
 * the same palette. Colours that look alike are one. Ordered by hue, by lightness within.
 * @param pixels sRGB 0…1
 */
export function paletteFrom(pixels: readonly Rgb[], count: number): string[] {
  const points = pixels.map((rgb): Lab => rgbToOklab(rgb));
  const first = points[0];
  if (!first) return [];
  const all =
    mean(
      points,
      points.map(() => 0),
      0,
    ) ?? first;
  const middles = [points.reduce((best, p) => (distance(p, all) < distance(best, all) ? p : best))];
  const nearest = points.map((p) => distance(p, middles[0] as Lab));
  while (middles.length < count) {
    let farthest = 0;
    nearest.forEach((d, i) => {
      if (d > (nearest[farthest] as number)) farthest = i;
    });
    if ((nearest[farthest] as number) < NOTICEABLE) break;
    const next = points[farthest] as Lab;
    middles.push(next);
    points.forEach((p, i) => {
      nearest[i] = Math.min(nearest[i] as number, distance(p, next));
    });
  }
  return ordered(apart(settled(points, middles)));
}

function settled(points: readonly Lab[], begun: readonly Lab[]): Lab[] {
  let middles = [...begun];
  for (let round = 0; round < ROUNDS; round++) {
    const owner = points.map((p) => {
      let best = 0;
      middles.forEach((m, i) => {
        if (distance(p, m) < distance(p, middles[best] as Lab)) best = i;
      });
      return best;
    });
    const next = middles.map((old, i) => mean(points, owner, i) ?? old);
    const moved = Math.max(...next.map((m, i) => distance(m, middles[i] as Lab)));
    middles = next;
    if (moved < 1e-4) break;
  }
  return middles;
}

function mean(points: readonly Lab[], owner: readonly number[], of: number): Lab | null {
  const sum = [0, 0, 0, 0];
  points.forEach((p, i) => {
    if (owner[i] !== of) return;
    for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (p[c] as number);
    sum[3] = (sum[3] as number) + 1;
  });
  const [l = 0, a = 0, b = 0, n = 0] = sum;
  return n > 0 ? [l / n, a / n, b / n] : null;
}

const apart = (middles: readonly Lab[]): Lab[] =>
  middles.filter((m, i) => !middles.slice(0, i).some((other) => distance(m, other) < NOTICEABLE));

function ordered(middles: readonly Lab[]): string[] {
  const sector = (rgb: Rgb): number => {
    const { c, h } = rgbToOklch(rgb);
    return c < GREY ? -1 : Math.floor(h / SECTOR);
  };
  return middles
    .map((lab) => ({ l: lab[0], rgb: linearToRgb(oklabToLinear([...lab])) }))
    .map(({ l, rgb }) => ({ l, hex: rgbToHex(rgb), sector: sector(rgb) }))
    .sort((p, q) => p.sector - q.sector || p.l - q.l)
    .map(({ hex }) => hex);
}
