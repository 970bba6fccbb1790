import { Chance } from "../stroke/chance";
import { type Bristles } from "./bristles";

// Looked up once: some surroundings are slow to find a global.
const { abs, max, min, sqrt } = Math;

/** Bands of light that a paint is known in: see `engine/pigment`. */
export const BANDS = 7;
export const KNOTS = 8;
/** Candidates for each place of a bristle: the one farthest from the others is taken (Mitchell 1991). */
const TRIES = 10;
const BRISTLES_A_CLUMP = 7;
/** How many bristles a tuft has: so many, more with its width in px, within these. */
const COUNT = { base: 60, per: 1.35, least: 30, most: 300, finest: 0.81 };

/**
 * The radii of a tuft's bristles, added up, are no more px than this, or than so many of its widths: a place
 * that a broad tuft goes over would have more than six bristles go over it, and look no other. From `broad` px
 * to `broadest` it comes down to five.
 */
const WIDEST = { px: 1200, widths: 2.6, fewest: 1.9, broad: 460, broadest: 1000 };

/** An amount of paint, px³, and what it takes up in each band, times that. */
export type Blob = { volume: number; bands: Float64Array };

/** One bristle: how it is made, where its tip is, and what is on it. */
export type Bristle = {
  /** Where it stands in the tuft, px from the middle: across and along. */
  across: number;
  along: number;
  radius: number;
  area: number;
  clumpAcross: number;
  clumpAlong: number;
  stiffness: number;
  trails: number;
  splay: number;
  takes: number;
  ploughs: number;
  /** The pressure from which it touches. */
  from: number;
  /** Share of its longest way between two sweeps. */
  pace: number;
  /** How uneven its hair is: eight knots across its bead. */
  hair: Float64Array;
  x: number;
  y: number;
  /** Where its last sweep ended, and how hard it was pressed there. */
  sweptX: number;
  sweptY: number;
  sweptPress: number;
  press: number;
  way: number;
  sweeps: number;
  /** The height that it runs on; NaN before it has come down. */
  level: number;
  /** What its newest sweep ran over: heights weighed by nearness, and their weight. */
  seenHeight: number;
  seenWeight: number;
  /** How full it was lately. */
  full: number;
  tip: Blob;
  store: Blob;
  bead: Blob;
};

export type Bundle = {
  bristles: readonly Bristle[];
  /** Mean radius of a bristle, px. */
  radius: number;
  /** What one bristle holds when it is full, px³. */
  nominal: number;
  /** Share of its bristles that a very wide tuft has; the others would only lie over them. */
  share: number;
};

/** The root of 1/8 th powers: x^(n/8). */
const eighths = (x: number, n: number): number => {
  let power = 1;
  for (let i = 0; i < n; i++) power *= x;
  return sqrt(sqrt(sqrt(power)));
};
export const power0375 = (x: number): number => eighths(x, 3);
export const power0625 = (x: number): number => eighths(x, 5);

/** Area of the tuft, px². */
function areaOf({ outline, depth }: Bristles, width: number): number {
  const box = width * width * depth;
  return outline === "square" ? box : (box * Math.PI) / 4;
}

type Place = { across: number; along: number };

/** Places inside the tuft, far from each other. */
function places(chance: Chance, count: number, style: Bristles, width: number): Place[] {
  const found: Place[] = [];
  let draw = 0;
  const candidate = (): Place => {
    for (;;) {
      const u = chance.at(draw++) * 2 - 1;
      const v = chance.at(draw++) * 2 - 1;
      if (style.outline === "round" && u * u + v * v > 1) continue;
      return { across: (u * width) / 2, along: (v * width * style.depth) / 2 };
    }
  };
  while (found.length < count) {
    let best = candidate();
    let farthest = -1;
    for (let i = 0; i < TRIES; i++) {
      const one = candidate();
      const near = nearest(found, one);
      if (near <= farthest) continue;
      farthest = near;
      best = one;
    }
    found.push(best);
  }
  return found;
}

/** Square of the distance to the nearest of some places. */
function nearest(found: readonly Place[], { across, along }: Place): number {
  let least = Infinity;
  for (const one of found) {
    const u = one.across - across;
    const v = one.along - along;
    least = min(least, u * u + v * v);
  }
  return least;
}

/** Knots of a bristle's hair, 1 on the whole. */
function hairOf(chance: Chance, first: number, uneven: number): Float64Array {
  const knots = Float64Array.from({ length: KNOTS }, (_, i) => {
    const u = chance.at(first + i);
    return 0.15 + 2.3 * u * u;
  });
  const mean = knots.reduce((sum, k) => sum + k, 0) / KNOTS;
  for (let i = 0; i < KNOTS; i++)
    knots[i] = max(0, 1 + (((knots[i] as number) - mean) * uneven) / 0.8);
  let sum = 0;
  let whole = 0;
  const STEPS = 28;
  for (let i = 0; i <= STEPS; i++) {
    const n = (2 * i) / STEPS - 1;
    const rest = 1 - n * n;
    const weight = rest * sqrt(rest);
    const at = ((n + 1) * (KNOTS - 1)) / 2;
    const low = min(KNOTS - 2, Math.floor(at));
    const t = at - low;
    sum += weight * ((knots[low] as number) * (1 - t) + (knots[low + 1] as number) * t);
    whole += weight;
  }
  for (let i = 0; i < KNOTS; i++) knots[i] = (knots[i] as number) / max(0.05, sum / whole);
  return knots;
}

/** The pressure from which a bristle touches: the outer ones later. */
function touchesFrom({ soft, outline }: Bristles, away: number, u: number): number {
  const outer = outline === "round" ? 0.4 * away * sqrt(away) : 0.1 * away * away;
  return (outer + 0.05 * u) * (1 - 0.85 * soft);
}

const blobOf = (volume: number, paint: ArrayLike<number>): Blob => ({
  volume,
  bands: Float64Array.from({ length: BANDS }, (_, band) => volume * (paint[band] as number)),
});

/** What of a tuft is the same in every stroke. */
type Tuft = {
  radius: number;
  share: number;
  places: readonly Place[];
  clumps: readonly (Place & { load: number })[];
  /** For each bristle: its clump, and its hair. */
  clumpOf: Int32Array;
  hair: readonly Float64Array[];
};

/** Tufts that were in hand lately. */
const tufts = new Map<string, Tuft>();
const MOST_TUFTS = 24;
const TUFT_SEED = 0x2f6b;

/** The tuft of a brush, made once: it is the same brush in every stroke. */
function tuftOf(style: Bristles, width: number): Tuft {
  const name = `${JSON.stringify(style)} ${width}`;
  const known = tufts.get(name) ?? makeTuft(style, width);
  tufts.delete(name);
  tufts.set(name, known);
  const [oldest] = tufts.keys();
  if (tufts.size > MOST_TUFTS && oldest !== undefined) tufts.delete(oldest);
  return known;
}

/** How many of a tuft's widths the radii of its bristles make, at most. */
function widthsOver(width: number): number {
  const { widths, fewest, broad, broadest } = WIDEST;
  const t = max(0, min(1, (width - broad) / (broadest - broad)));
  return widths + (fewest - widths) * t;
}

function makeTuft(style: Bristles, width: number): Tuft {
  const area = areaOf(style, width);
  const wanted = min(COUNT.most, max(COUNT.least, COUNT.base + COUNT.per * width));
  const close = max(1, Math.floor(min(wanted, (style.cover * area) / (Math.PI * COUNT.finest))));
  const whole = sqrt((style.cover * area) / (Math.PI * close));
  const share = min(1, max(WIDEST.px, widthsOver(width) * width) / (close * whole));
  // Fewer bristles, and finer ones.
  const count = max(1, Math.floor(close * sqrt(share)));
  const radius = whole * sqrt(share);
  const chance = new Chance(TUFT_SEED);
  const where = places(new Chance(TUFT_SEED ^ 1), count, style, width);
  const clumps = Array.from({ length: Math.floor(count / BRISTLES_A_CLUMP) + 2 }, (_, i) => ({
    ...(where[Math.floor(chance.at(i) * count)] as Place),
    load: chance.at(10_000 + i),
  }));
  const clumpOf = Int32Array.from(where, (place) => {
    const away = clumps.map((clump) => nearest([clump], place));
    return away.indexOf(min(...away));
  });
  const hair = where.map((_, i) => hairOf(chance, 20_000 + i * 8, style.hair));
  return { radius, share, places: where, clumps, clumpOf, hair };
}

/**
 * A tuft of bristles loaded with one paint.
 * @param width px
 * @param amount 0 clean … 1 full
 * @param paint what the paint takes up of light in seven bands
 * @param seed how it was loaded this time, and which way round it is held
 */
export function plant(
  style: Bristles,
  width: number,
  amount: number,
  paint: ArrayLike<number>,
  seed: number,
): Bundle {
  const tuft = tuftOf(style, width);
  const { radius, share, clumps } = tuft;
  const count = tuft.places.length;
  const nominal = (width * width * style.run * 0.8) / count;
  const chance = new Chance(seed ^ 0x5f3a);
  const turned = (n: number): number => (chance.at(n) < 0.5 ? -1 : 1);
  const [sideways, lengthways] = [turned(1), turned(2)];
  const bristles = tuft.places.map((place, i): Bristle => {
    const first = 100 + i * 16;
    const clump = clumps[tuft.clumpOf[i] as number] as Tuft["clumps"][number];
    const r = radius * (0.75 + 0.5 * chance.at(first));
    // Its tip holds what those hold whose work it does.
    const a = (Math.PI * r * r) / share;
    const u = (2 * place.across) / width;
    const v = (2 * place.along) / (width * style.depth);
    const away = style.outline === "round" ? min(1, sqrt(u * u + v * v)) : abs(u);
    const full = nominal * amount * (0.3 + clump.load + 0.4 * chance.at(first + 1));
    const plough = chance.at(first + 6);
    return {
      across: place.across * sideways,
      along: place.along * lengthways,
      radius: r,
      area: a,
      clumpAcross: clump.across * sideways,
      clumpAlong: clump.along * lengthways,
      stiffness: 0.6 + 0.8 * chance.at(first + 2),
      trails: 0.5 + chance.at(first + 3),
      splay: style.splay * chance.at(first + 4),
      takes: 0.4 + 1.2 * chance.at(first + 5),
      ploughs: 0.15 + 2.2 * plough * plough,
      from: touchesFrom(style, away, chance.at(first + 7)),
      pace: 0.75 + 0.5 * chance.at(first + 8),
      hair: tuft.hair[i] as Float64Array,
      ...{ x: 0, y: 0, sweptX: 0, sweptY: 0, sweptPress: 0, press: 0, way: 0, sweeps: 0 },
      ...{ level: NaN, seenHeight: 0, seenWeight: 0, full: 0 },
      tip: blobOf(a * style.film * sqrt(min(1, full / nominal)), paint),
      store: blobOf(full, paint),
      bead: blobOf(0, paint),
    };
  });
  for (const b of bristles) b.full = b.tip.volume / b.area;
  return { bristles, radius, nominal, share };
}
