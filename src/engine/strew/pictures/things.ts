import { cosine, sine } from "../../scene/vector";
import {
  type Art,
  between,
  clouded,
  eased,
  held,
  lit,
  offStretch,
  over,
  rays,
  rgb,
  type Rgb,
  swells,
} from "./art";

/** Looked up once: globals are slow to come by where tests run. */
const { PI, abs, floor, sqrt } = Math;

const TURN = 2 * PI;
const far = (x: number, y: number): number => sqrt(x * x + y * y);

type Blossom = {
  petals: number;
  broad: number;
  notch: number;
  near: string;
  edge: string;
  heart: string;
};

/** A blossom seen from the front: petals round a heart. */
function blossomArt({ petals, broad, notch, near, edge, heart }: Blossom): Art {
  const [inner, outer, middle] = [rgb(near), rgb(edge), rgb(heart)];
  const [ways, threads] = [rays(petals, TURN / petals), rays(9, 0.7)];
  return (x, y, onto) => {
    // Every second petal lies below its neighbours.
    for (let layer = 0; layer < 2; layer++)
      for (let i = layer; i < petals; i += 2) {
        const [c, s] = ways[i] as readonly [number, number];
        const [along, off] = [x * s - y * c, x * c + y * s];
        if (along < 0 || along > 0.95) continue;
        const t = along / 0.93;
        const half = broad * sqrt(held(t * 1.6)) * sqrt(held((1 - t) * 3.4));
        const end = 0.93 - notch * held(1 - abs(off) / 0.09);
        if (abs(off) > half || along > end) continue;
        const fold = 1 - 0.16 * eased(half * 0.9, half * 0.2, abs(off - half * 0.3));
        const shade = lit(between(inner, outer, eased(0.1, 0.75, t)), off > 0 ? 1 : fold);
        const rim = abs(off) > half - 0.02 ? 0.9 : 1;
        over(onto, lit(shade, rim), 1);
        if (abs(off) < 0.008 && t < 0.7) over(onto, inner, 0.5);
      }
    const r = far(x, y);
    if (r > 0.4) return;
    over(onto, middle, eased(0.17, 0.13, r));
    for (let i = 0; i < 9; i++) {
      const [c, s] = threads[i] as readonly [number, number];
      const reach = 0.24 + (i % 3) * 0.05;
      const [off] = offStretch(x, y, [0, 0], [c * reach, s * reach]);
      over(onto, lit(middle, 1.1), off < 0.011 ? 0.9 : 0);
      over(onto, rgb("#c9892c"), far(x - c * reach, y - s * reach) < 0.03 ? 1 : 0);
    }
  };
}

/** One petal that has fallen. */
function petalArt(near: string, edge: string, bend: number): Art {
  const [inner, outer] = [rgb(near), rgb(edge)];
  const noise = swells(9);
  return (x, y, onto) => {
    const t = (0.9 - y) / 1.8;
    if (t <= 0 || t >= 1) return;
    const off = x - bend * sine(t * 3.1);
    const half = 0.62 * sqrt(held(t * 1.4)) * sqrt(held((1 - t) * 3)) * (0.6 + 0.4 * t);
    if (abs(off) > half) return;
    const lift = 0.88 + 0.2 * eased(-half, half, off) - 0.1 * (noise(x, y, 6) - 0.5);
    over(onto, lit(between(inner, outer, eased(0, 0.7, t)), lift), 1);
  };
}

export const blossomPictures: Art[] = [
  blossomArt({
    petals: 5,
    broad: 0.42,
    notch: 0.12,
    near: "#d97f93",
    edge: "#fbe3e6",
    heart: "#c8566f",
  }),
  petalArt("#e39aa9", "#fbe6e8", 0.16),
  blossomArt({
    petals: 5,
    broad: 0.36,
    notch: 0,
    near: "#e9d9a8",
    edge: "#fffdf2",
    heart: "#e0b23a",
  }),
  petalArt("#eddfb5", "#fffaf0", -0.2),
  blossomArt({
    petals: 8,
    broad: 0.24,
    notch: 0.04,
    near: "#8a78bd",
    edge: "#c9bde6",
    heart: "#e6c24a",
  }),
];

/** A pebble: an uneven round, lit from above, with a vein or freckles. */
function pebbleArt(seed: number, colour: string, wide: number, vein: boolean): Art {
  const noise = clouded(seed);
  const own = rgb(colour);
  return (x, y, onto) => {
    const [u, v] = [x / wide, (y / 0.94) * (1.35 - 0.35 * wide)];
    const r = far(u, v) + (noise(x * 0.5, y * 0.5, 5) - 0.5) * 0.22;
    if (r > 0.9) return;
    const high = sqrt(held(1 - (r * r) / 0.8464));
    const light = held(0.3 + 0.62 * high - 0.36 * v - 0.2 * u);
    let colourHere: Rgb = between(lit(own, 0.5), lit(own, 1.28), light);
    if (noise(y, x, 26) > 0.62) colourHere = lit(colourHere, 0.84);
    if (vein && abs(u * 0.6 + v - (noise(x, y, 4) - 0.4)) < 0.05)
      colourHere = between(colourHere, rgb("#f1ece0"), 0.7);
    over(onto, colourHere, 1);
    over(onto, rgb("#ffffff"), eased(0.2, 0, far(u + 0.3, v + 0.42)) * 0.35);
  };
}
export const pebblePictures: Art[] = [
  pebbleArt(3, "#8d8a84", 0.94, false),
  pebbleArt(12, "#a08b72", 0.9, true),
  pebbleArt(23, "#6f767b", 0.8, false),
  pebbleArt(37, "#b7aa96", 0.95, false),
  pebbleArt(41, "#7c6a5c", 0.72, true),
];

/** A bird far off: two wings as arcs that thin to their tips, and its body. */
function birdArt(rise: number, droop: number, tilt: number): Art {
  const ink = rgb("#2b2e35");
  return (x, y, onto) => {
    const side = x + y * tilt * 0.3;
    const t = abs(side) / 0.94;
    if (t < 1) {
      const slant = side > 0 ? 1 + tilt : 1 - tilt;
      const wing = -rise * slant * sine(held(t * 1.25) * 1.9) + droop * t * t * slant;
      const thick = 0.085 * sqrt((1 - t) * sqrt(1 - t)) * (0.55 + held(t * 5)) * 0.8;
      const off = y - wing;
      if (off > -thick * 0.45 && off < thick) over(onto, ink, 1);
    }
    const [body, along] = offStretch(x, y, [-0.03, -0.04], [0.06 + tilt * 0.1, 0.24]);
    if (body < 0.075 * (1 - along * 0.72)) over(onto, ink, 1);
  };
}
export const birdPictures: Art[] = [
  birdArt(0.34, 0.3, 0),
  birdArt(0.5, 0.28, 0.18),
  birdArt(0.16, 0.1, -0.12),
  birdArt(-0.06, 0.34, 0.1),
  birdArt(0.58, 0.02, -0.2),
];

type Ticket = { paper: string; print: string; band: boolean; bow: number; torn: boolean };

/** A ticket of the Line: printed, punched, a little bent. */
function ticketArt({ paper, print, band, bow, torn }: Ticket): Art {
  const [sheet, ink] = [rgb(paper), rgb(print)];
  const noise = clouded(13);
  return (x, y, onto) => {
    const v = y - bow * (x * x - 0.4);
    const [half, high] = [0.92, 0.48];
    const perforated = half + 0.02 * cosine(v * 62);
    const left = torn ? -half + 0.14 * noise(0.3, v, 22) : -half;
    if (abs(v) > high || x > perforated - 0.02 || x < left) return;
    if (far(x - 0.6, v + 0.22) < 0.085) return;
    let colour = lit(sheet, 0.95 + 0.12 * bow * x * 4 + 0.06 * (noise(x, v, 9) - 0.5));
    const inFrame = abs(v) < high - 0.07 && abs(x) < half - 0.08;
    const onFrame = inFrame && (abs(v) > high - 0.095 || abs(x) > half - 0.105);
    if (onFrame) colour = between(colour, ink, 0.8);
    if (band && v > 0.13 && v < 0.28 && inFrame) colour = between(colour, ink, 0.85);
    const row = floor((v + 0.3) / 0.1);
    if (inFrame && x < 0.36 && x > -0.72 && v > -0.3 && v < 0.1 && row % 2 === 0) {
      const word = noise(x * 3, row, 9);
      if (word > 0.42) colour = between(colour, ink, 0.75);
    }
    over(onto, colour, 1);
  };
}
export const ticketPictures: Art[] = [
  ticketArt({ paper: "#e9dcb9", print: "#7a3326", band: true, bow: 0.1, torn: false }),
  ticketArt({ paper: "#c9dcd2", print: "#25554e", band: false, bow: -0.14, torn: true }),
  ticketArt({ paper: "#ecc9b2", print: "#3c3f63", band: true, bow: 0.04, torn: true }),
  ticketArt({ paper: "#efe7d6", print: "#8a6a1f", band: false, bow: -0.06, torn: false }),
];
