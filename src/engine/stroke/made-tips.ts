import { Chance } from "./chance";
import { type TipTones } from "./tip-tones";

/**
 * Tips that the program makes: pictures drawn by rule, the same everywhere. `shade` says for
 * a place (x, y from −1 to 1) how much paint there is and how light it is.
 */
type Noise = (x: number, y: number) => number;
type Shade = (x: number, y: number) => { cover: number; tone?: number };
type Recipe = { width: number; height: number; tones: TipTones; shade: () => Shade };

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
/** 0 below `from`, 1 above `to`, smooth between. */
const step = (from: number, to: number, v: number): number => {
  const t = clamp((v - from) / (to - from));
  return t * t * (3 - 2 * t);
};

/** Hills repeat after so many units: more than any tip is wide. */
const LATTICE = 64;

/** Smooth noise 0…1 over the plane, one hill a unit. */
function hills(seed: number): Noise {
  const chance = new Chance(seed);
  const heights = Float64Array.from({ length: LATTICE * LATTICE }, (_, i) => chance.at(i));
  const at = (i: number, j: number): number =>
    heights[(i & (LATTICE - 1)) * LATTICE + (j & (LATTICE - 1))] as number;
  return (x, y) => {
    const i = Math.floor(x);
    const j = Math.floor(y);
    const fx = x - i;
    const fy = y - j;
    const u = fx * fx * (3 - 2 * fx);
    const v = fy * fy * (3 - 2 * fy);
    const top = at(i, j) + (at(i + 1, j) - at(i, j)) * u;
    const bottom = at(i, j + 1) + (at(i + 1, j + 1) - at(i, j + 1)) * u;
    return top + (bottom - top) * v;
  };
}

/** Noise of several sizes, 0…1 with its mean at ½. */
function rough(seed: number, octaves = 4): Noise {
  const layers = Array.from({ length: octaves }, (_, i) => hills(seed + i * 101));
  const plain = layers.map((_, i) => 2 ** (-0.8 * i));
  const total = plain.reduce((sum, weight) => sum + weight);
  const weights = plain.map((weight) => weight / total);
  return (x, y) => {
    let sum = 0;
    for (let i = 0; i < octaves; i++) {
      const scale = 1 << i;
      sum += (layers[i] as Noise)(x * scale, y * scale) * (weights[i] as number);
    }
    return sum;
  };
}

/** A lump of something broken: a disc with a ragged edge and a pitted face. */
const lump = (seed: number, ragged: number, pits: number, grains: number): Recipe => ({
  width: 128,
  height: 128,
  tones: "coverage",
  shade: () => {
    const edge = rough(seed);
    const face = rough(seed + 7);
    return (x, y) => {
      const r = Math.hypot(x, y) + (edge(x * 2.6, y * 2.6) - 0.5) * ragged;
      const solid = step(0.94, 0.74, r);
      return { cover: solid * (1 - pits * step(0.46, 0.62, face(x * grains, y * grains))) };
    };
  },
});

/** The square end of a stick, worn at its corners, striped by its travel. */
const stick = (seed: number, aspect: number, pits: number): Recipe => ({
  width: 128,
  height: Math.round(128 * aspect),
  tones: "coverage",
  shade: () => {
    const edge = rough(seed);
    const face = rough(seed + 3);
    return (x, y) => {
      const wobble = (edge(x * 3, y * 3) - 0.5) * 0.22;
      const box = Math.max(Math.abs(x), Math.abs(y)) + wobble;
      const solid = step(0.97, 0.8, box) * step(1.5, 1.2, Math.abs(x) + Math.abs(y));
      return { cover: solid * (1 - pits * step(0.48, 0.66, face(x * 9, y * 9 * aspect))) };
    };
  },
});

/** Ends of bristles seen from below. */
const bristles = (seed: number, count: number, thick: number): Recipe => ({
  width: 160,
  height: 64,
  tones: "coverage",
  shade: () => {
    const chance = new Chance(seed);
    const ends = Array.from({ length: count }, (_, i) => ({
      x: chance.at(i * 5) * 1.86 - 0.93,
      y: (chance.at(i * 5 + 1) + chance.at(i * 5 + 2) - 1) * 0.86,
      r: thick * (0.55 + 0.9 * chance.at(i * 5 + 3)),
      load: 0.45 + 0.55 * chance.at(i * 5 + 4),
    }));
    return (x, y) => {
      let cover = 0;
      for (const end of ends) {
        const d = Math.hypot(x - end.x, (y - end.y) * 0.4);
        cover = Math.max(cover, end.load * step(end.r, end.r * 0.35, d));
      }
      return { cover };
    };
  },
});

/** A leaf with its vein: dark along one side, light along the other. */
const leaf = (seed: number, wide: number, lobes: number): Recipe => ({
  width: 160,
  height: 96,
  tones: "two tones",
  shade: () => {
    const wobble = rough(seed);
    return (x, y) => {
      const t = clamp((x + 0.96) / 1.9);
      const body = Math.sin(Math.PI * t ** 0.82) ** 0.85 * wide;
      const teeth = 1 + (lobes > 0 ? 0.13 * Math.abs(Math.sin(t * Math.PI * lobes)) : 0);
      const bow = 0.1 * Math.sin(t * Math.PI);
      const side = (y + bow) / Math.max(0.02, body * teeth);
      const stalk = x < -0.7 ? step(0.055, 0.03, Math.abs(y + bow)) : 0;
      const cover = Math.max(stalk, t > 0.1 && t < 1 ? step(1.04, 0.92, Math.abs(side)) : 0);
      const vein = step(0.09, 0.03, Math.abs(side)) * step(0.02, 0.2, t) * step(1, 0.75, t);
      const ribs = step(0.75, 0.95, Math.sin((t * 9 - Math.abs(side) * 2.2) * Math.PI)) * 0.25;
      const lit = 0.34 + 0.42 * step(-0.7, 0.8, side) + (wobble(x * 3, y * 5) - 0.5) * 0.25;
      return { cover, tone: clamp(lit - ribs + vein * 0.5) };
    };
  },
});

/** Small leaves along a twig. */
const sprig: Recipe = {
  width: 192,
  height: 160,
  tones: "two tones",
  shade: () => {
    const chance = new Chance(77);
    const leaves = Array.from({ length: 9 }, (_, i) => {
      const side = i % 2 === 0 ? 1 : -1;
      const t = i / 9;
      return {
        x: -0.8 + t * 1.5,
        y: side * 0.06 + 0.16 * Math.sin(t * 2.4),
        turn: side * (0.95 - 0.45 * t) + (chance.at(i) - 0.5) * 0.4,
        length: 0.52 * (1 - 0.35 * t),
        light: 0.25 + 0.55 * chance.at(i + 40) + (side > 0 ? -0.1 : 0.15),
      };
    });
    return (x, y) => {
      const stem = Math.abs(y - 0.16 * Math.sin(((x + 0.8) / 1.5) * 2.4));
      let cover = x > -0.95 && x < 0.72 ? step(0.035, 0.018, stem) : 0;
      let tone = 0.2;
      for (const l of leaves) {
        const dx = x - l.x;
        const dy = y - l.y;
        const u = (dx * Math.cos(l.turn) + dy * Math.sin(l.turn)) / l.length;
        const v = (dy * Math.cos(l.turn) - dx * Math.sin(l.turn)) / l.length;
        if (u < 0 || u > 1) continue;
        const side = v / Math.max(0.03, Math.sin(Math.PI * u ** 0.8) * 0.3);
        const own = step(1.05, 0.9, Math.abs(side));
        if (own <= 0.02) continue;
        cover = Math.max(cover, own);
        tone = clamp(l.light + side * 0.16 + step(0.12, 0.04, Math.abs(side)) * 0.3);
      }
      return { cover, tone };
    };
  },
};

/** Along a stroke: light on one side, shade on the other, drawn out to a point at the end. */
const ribbon: Recipe = {
  width: 512,
  height: 64,
  tones: "two tones",
  shade: () => {
    const fibre = rough(301);
    return (x, y) => {
      const t = (x + 1) / 2;
      const half = Math.min(1, t * 9) ** 0.6 * Math.min(1, (1 - t) * 5) ** 0.75 * 0.94;
      const side = y / Math.max(0.01, half);
      const cover = step(1.06, 0.94, Math.abs(side));
      const gloss = step(0.34, 0.06, Math.abs(side + 0.32)) * 0.4;
      const folds = (fibre(x * 3, y * 7) - 0.5) * 0.35;
      return { cover, tone: clamp(0.42 - side * 0.42 + gloss + folds) };
    };
  },
};

/** Two strands laid around each other, over and over. */
const rope: Recipe = {
  width: 1024,
  height: 64,
  tones: "two tones",
  shade: () => (x, y) => {
    const turns = ((x + 1) / 2) * 26;
    const lay = turns - y * 0.42;
    const strand = (lay % 1) - 0.5;
    const edge = 0.84 + 0.1 * Math.cos((turns % 1) * 2 * Math.PI + (y > 0 ? Math.PI : 0));
    const cover = step(edge + 0.05, edge - 0.05, Math.abs(y));
    const round = Math.cos(strand * Math.PI) ** 0.7;
    const fibres = 0.08 * Math.sin((lay * 6 + y * 3) * Math.PI);
    return { cover, tone: clamp(0.12 + 0.75 * round * (1 - 0.5 * Math.abs(y + 0.25)) + fibres) };
  },
};

/** A loaded brush that runs dry: full at the root, streaks at the end. */
const drySweep: Recipe = {
  width: 768,
  height: 128,
  tones: "coverage",
  shade: () => {
    const streak = rough(411, 3);
    const speckle = rough(423);
    return (x, y) => {
      const t = (x + 1) / 2;
      const hair = streak(4.3 + t * 1.3, y * 11);
      const fine = speckle(t * 46, y * 26);
      const dry = 0.12 + 0.62 * t ** 1.35 + 0.2 * Math.abs(y) ** 3;
      const cover = step(dry - 0.1, dry + 0.06, 0.62 * hair + 0.38 * fine + 0.14 * (1 - t));
      const root = step(0, 0.035 + 0.04 * streak(9, y * 5), t);
      const tail = step(1, 0.9 - 0.2 * hair, t);
      return { cover: cover * root * tail * step(1, 0.9, Math.abs(y)) };
    };
  },
};

/** A tuft of grass blades from one root. */
const blades: Recipe = {
  width: 160,
  height: 160,
  tones: "two tones",
  shade: () => {
    const chance = new Chance(511);
    const all = Array.from({ length: 11 }, (_, i) => ({
      foot: (chance.at(i * 4) - 0.5) * 0.5,
      lean: (chance.at(i * 4 + 1) - 0.5) * 1.5,
      tall: 0.9 + 0.95 * chance.at(i * 4 + 2),
      light: 0.15 + 0.75 * chance.at(i * 4 + 3),
    }));
    return (x, y) => {
      let cover = 0;
      let tone = 0.3;
      for (const { foot, lean, tall, light } of all) {
        const t = (0.95 - 0.3 * Math.abs(foot) - y) / tall;
        if (t < 0 || t > 1) continue;
        const middle = foot + lean * t * t * 0.8;
        const own = step(
          1.1,
          0.8,
          Math.abs(x - middle) / (0.058 * (1 - t) ** 0.7 * Math.min(1, 0.3 + t * 4) + 0.004),
        );
        if (own <= cover * 0.4) continue;
        cover = Math.max(cover, own);
        tone = clamp(light + (x - middle) * 3 + t * 0.15);
      }
      return { cover, tone };
    };
  },
};

/** A flake: few straight sides, one face lit. */
const flake: Recipe = {
  width: 96,
  height: 96,
  tones: "two tones",
  shade: () => (x, y) => {
    const sides = [0.2, 1.1, 2.3, 3.3, 4.4, 5.5].map((a, i) => ({ a, d: 0.62 + 0.09 * (i % 3) }));
    const out = Math.max(...sides.map(({ a, d }) => x * Math.cos(a) + y * Math.sin(a) - d));
    return { cover: step(0.04, -0.04, out), tone: x * 0.5 - y * 0.8 > 0.05 ? 0.8 : 0.28 };
  },
};

/** A sponge's face: holes of many sizes. */
const sponge: Recipe = {
  width: 192,
  height: 192,
  tones: "coverage",
  shade: () => {
    const holes = rough(611, 5);
    const edge = rough(617);
    return (x, y) => {
      const r = Math.hypot(x, y) + (edge(x * 2, y * 2) - 0.5) * 0.7;
      return { cover: step(0.86, 0.66, r) * step(0.5, 0.6, holes(x * 6, y * 6)) };
    };
  },
};

/** Tips by name. */
export const madeTips = {
  "chalk face": lump(11, 0.34, 0.75, 7),
  "charcoal face": lump(23, 0.5, 0.55, 5),
  "vine face": lump(37, 0.62, 0.9, 10),
  "crayon face": lump(41, 0.22, 0.6, 12),
  "chalk stick": stick(53, 0.42, 0.6),
  "charcoal stick": stick(59, 0.3, 0.45),
  bristles: bristles(67, 70, 0.075),
  "thin bristles": bristles(71, 42, 0.05),
  leaf: leaf(83, 0.78, 0),
  "lobed leaf": leaf(89, 0.86, 7),
  "narrow leaf": leaf(97, 0.36, 0),
  sprig,
  blades,
  flake,
  sponge,
  ribbon,
  rope,
  "dry sweep": drySweep,
} as const satisfies Record<string, Recipe>;

export type MadeTip = keyof typeof madeTips;

/** A made tip's pixels: straight RGBA, 8 bits a channel. */
export type MadePicture = { width: number; height: number; tones: TipTones; data: Uint8Array };

const made = new Map<MadeTip, MadePicture>();

export function madeTip(name: MadeTip): MadePicture {
  const known = made.get(name);
  if (known) return known;
  const { width, height, tones, shade }: Recipe = madeTips[name];
  const at = shade();
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const { cover, tone = 0 } = at(((x + 0.5) / width) * 2 - 1, ((y + 0.5) / height) * 2 - 1);
      const grey = Math.round(clamp(tone) * 255);
      data.set([grey, grey, grey, Math.round(clamp(cover) * 255)], (y * width + x) * 4);
    }
  const picture = { width, height, tones, data };
  made.set(name, picture);
  return picture;
}
