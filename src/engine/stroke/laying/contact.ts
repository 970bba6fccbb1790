import { type Contact, type Touch } from "../../dry/material";
import { type Chance } from "../chance";
import { type Station } from "./station";

/** What a dry tip needs to know of the sheet. */
export type Sheet = {
  /** How deep the paper's tooth is, and how large: 1 at 300 ppi. */
  roughness: number;
  grain: number;
  /** Px of the sheet to one at 300 ppi. */
  perPixel: number;
};

/** A tip that goes straight from one place to another, as its mark says it: see `kernels/contact.ts`. */
export type Rub = {
  fromX: number;
  fromY: number;
  toX: number;
  toY: number;
  /** Radii of the tip along its angle (radians) and across it. */
  long: number;
  short: number;
  angle: number;
  pressure: number;
  /** What the tip's own unevenness leaves of the contact. */
  share: number;
  shade: number;
  flat: number;
  catches: number;
  skips: number;
  grain: number;
  face: number;
  /** How far its face lies on to its rim, and px of that rim. */
  edge: number;
  rim: number;
  /** Px across for a streak, and how far along its streaks the rub is. */
  streak: number;
  along: number;
  seed: number;
};

/** Lengths over which a hand and a tip waver, px at 300 ppi, and how far they do. */
const WAVERS = {
  press: { over: 26, by: 0.06, salt: 101 },
  tremor: { over: 7, by: 0.05, salt: 102 },
  width: { over: 18, by: 0.07, salt: 103 },
  chatter: { over: 9, salt: 104 },
};
/** A tip is no finer than this, px. */
const LEAST_RADIUS = 0.15;
/** A rub that is long beside the tip presses more evenly: bounds of how much more or less. */
const GAIN = { least: 0.6, most: 2 };
/** Counters of a waver: more than a stroke has wavers. */
const A_WAVER = 1 << 20;

/** Smooth chance −1…1 along a stroke. */
function waver(chance: Chance, at: number, salt: number): number {
  const low = Math.floor(at);
  const t = at - low;
  const first = chance.at(salt * A_WAVER + low) * 2 - 1;
  const next = chance.at(salt * A_WAVER + low + 1) * 2 - 1;
  return first + (next - first) * t * t * (3 - 2 * t);
}

/** How wide a lead is on a fresh edge, and how much wider where it is wholly worn, in its radii. */
const EDGE = { fresh: 0.9, worn: 0.45 };
/**
 * What rounds a tip is as wide for a broad one as for a narrow one, px at 300 ppi: broader than that, the
 * face lies on, to a rim that crumbles.
 */
const ROUNDED = 16;
const RIM = 6;
/** After so many px at 300 ppi a lead that wears at once is half worn; and what a turn of one radian takes back. */
const WORN_AFTER = 420;
const FRESHENS = 3;

/** How far the edge of a lead is worn, and how its barrel was turned: px drawn, radians. */
export type Edge = { drawn: number; turn: number };

/** A lead's edge after another piece of a stroke, pressed 0…1 over so many px at 300 ppi. */
export function wear({ drawn, turn }: Edge, length: number, pressure: number, twist: number): Edge {
  const by = Math.abs(twist - turn) % (2 * Math.PI);
  const turned = Math.min(by, 2 * Math.PI - by);
  return { drawn: drawn / (1 + FRESHENS * turned) + length * pressure, turn: twist };
}

/** Share 0…1 to which an edge is worn. */
const wornTo = ({ drawn }: Edge, wears: number): number =>
  (drawn * wears) / (drawn * wears + WORN_AFTER);

export type Rubbing = {
  contact: Contact;
  /** What the material is here. */
  touch: Touch;
  lifts: boolean;
  /** 0 upright … 1 lying */
  tilt: number;
  edge: Edge;
};

/** What of the material's own giving, or pulling off, is left here. */
function given({ contact, touch, lifts }: Rubbing): number {
  const name = lifts ? "pulls" : "gives";
  const { base } = contact[name];
  return base > 0 ? touch[name] / base : 0;
}

/** The rub from one place of a stroke to the next. */
export function rub(
  rubbing: Rubbing,
  { grain, perPixel, roughness }: Sheet,
  from: { x: number; y: number; s: number },
  station: Station,
): Rub {
  const { contact, touch, tilt } = rubbing;
  const { chance, point, heading } = station;
  const s = (from.s + point.s) / 2 / perPixel;
  const of = ({ over, salt }: { over: number; salt: number }): number =>
    waver(chance, s / over, salt);
  const width = 1 + WAVERS.width.by * of(WAVERS.width);
  const worn = touch.wears > 0 ? wornTo(rubbing.edge, touch.wears) : 0;
  const edge = touch.wears > 0 ? EDGE.fresh + EDGE.worn * worn : 1;
  const short = Math.max(LEAST_RADIUS, station.radius * width * edge);
  const long = short * station.stretch;
  const [cos, sin] = [Math.cos(station.angle), Math.sin(station.angle)];
  const off = touch.leans * tilt * long;
  const along = (heading.x * cos + heading.y * sin) / long;
  const across = (heading.y * cos - heading.x * sin) / short;
  const gain = 1 / (Math.sqrt(along * along + across * across) * Math.sqrt(long * short));
  const press =
    (1 + WAVERS.press.by * of(WAVERS.press) + WAVERS.tremor.by * of(WAVERS.tremor)) *
    Math.max(0, 1 + touch.chatter * of(WAVERS.chatter));
  return {
    fromX: from.x + off * cos,
    fromY: from.y + off * sin,
    toX: point.x + off * cos,
    toY: point.y + off * sin,
    long,
    short,
    angle: station.angle,
    pressure: station.flow,
    share: given(rubbing) * press * Math.min(GAIN.most, Math.max(GAIN.least, gain)),
    shade: touch.shoulder * tilt,
    flat: Math.min(1, touch.flat + (1 - touch.flat) * 0.6 * worn),
    catches: touch.catches * roughness * contact.tooth,
    skips: touch.skips,
    grain,
    face: touch.face,
    edge: Math.max(0, 1 - (ROUNDED * perPixel) / short),
    rim: RIM * perPixel,
    streak: contact.streakWidth * perPixel,
    along: s / contact.streakLength,
    seed: chance.bits(WAVERS.press.salt),
  };
}

/** Most grains of dust that fall at one place. */
export const MOST_SHED = 4;

/** Grains of dust: how large, px at 300 ppi, and how far beyond the tip's edge they fall, in its radii. */
const GRAIN = { least: 0.6, more: 0.6, beyond: 0.9, press: 0.4 };

/** Dust beside the rub that ends at a station: small rubs of their own. */
export function shed(sheds: number, { perPixel }: Sheet, of: Rub, station: Station): Rub[] {
  const { chance, draw } = station;
  const { long, short, pressure } = of;
  const wide = Math.sqrt(long * short) / perPixel;
  const expected = Math.min(MOST_SHED, sheds * pressure * (0.25 + 0.02 * wide));
  const grains: Rub[] = [];
  for (let i = 0; i < MOST_SHED; i++) {
    const at = draw + 40 + i * 6;
    if (chance.at(at) * MOST_SHED >= expected) continue;
    const turn = chance.at(at + 1) * 2 - 1;
    const away = 1 + GRAIN.beyond * chance.at(at + 2) * chance.at(at + 3);
    const side = chance.at(at + 4) < 0.5 ? -1 : 1;
    // Anywhere round the tip, by a half circle of tangents.
    const cos = ((1 - turn * turn) / (1 + turn * turn)) * side;
    const sin = (2 * turn) / (1 + turn * turn);
    const [u, v] = [cos * away * long, sin * away * short];
    const [c, s] = [Math.cos(of.angle), Math.sin(of.angle)];
    const x = of.toX + u * c - v * s;
    const y = of.toY + u * s + v * c;
    const radius = (GRAIN.least + GRAIN.more * chance.at(at + 5)) * perPixel;
    grains.push({
      ...of,
      fromX: x - radius / 2,
      fromY: y,
      toX: x + radius / 2,
      toY: y,
      long: radius,
      short: radius,
      angle: 0,
      pressure: GRAIN.press * pressure * chance.at(at + 3),
      share: 1,
      shade: 0,
      catches: 0,
      skips: 0,
      face: 0,
      edge: 0,
    });
  }
  return grains;
}

/** A thread of a weave, drawn with the same material. */
export const threadRub = (
  of: Rub,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  radius: number,
  pressure: number,
): Rub => ({
  ...of,
  fromX: x0,
  fromY: y0,
  toX: x1,
  toY: y1,
  long: radius,
  short: radius,
  angle: 0,
  pressure,
  share: 1,
  shade: 0,
  face: 0,
  edge: 0,
});

/** From rub to rub: a share of the tip's shorter radius, within these px, farther for wide tips. Each is exact along its way. */
const STEP = { share: 0.6, least: 0.5, most: 48, wide: 0.25 };

export const rubStep = (radius: number): number =>
  Math.min(Math.max(STEP.most, radius * STEP.wide), Math.max(STEP.least, radius * STEP.share));
