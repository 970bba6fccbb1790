import { Chance } from "../stroke/chance";
import { cosine, sine } from "../scene/vector";
import { type Box } from "../tiles/layout";
import { type Point } from "./curve";

/** One straight line of a bundle: it begins broad and is drawn out to a point. */
export type Ray = { from: Point; to: Point; /** Share of the full width. */ width: number };

/** How much chance has a say, 0 none to 1. */
export type RayChance = { width: number; length: number; gap: number };

/** Most lines that are laid at once. */
export const MOST_RAYS = 4000;
/** A ray shorter than this is left out, px. */
const SHORTEST = 2;
const TURN = 2 * Math.PI;

/** Which of a ray's chances a number is. */
const WIDTH = 0;
const LENGTH = 1;
const GAP = 2;
const KINDS = 4;

/** Even gaps that chance widens and narrows: each 1 on the whole, from 0.1 to 1.9 where it has its full say. */
function places(count: number, chance: Chance, say: number): number[] {
  const steps: number[] = [];
  let sum = 0;
  for (let i = 0; i < count; i++) {
    const step = 1 + say * 0.9 * (2 * chance.at(i * KINDS + GAP) - 1);
    steps.push(sum + step / 2);
    sum += step;
  }
  return steps.map((at) => at / sum);
}

const widthOf = (chance: Chance, i: number, say: number): number => {
  const u = chance.at(i * KINDS + WIDTH);
  // Many thin ones to a few broad ones.
  return 1 - say * 0.85 * (1 - u * u);
};

/** Where a way from one place to another lies in a box, as shares of it; null where it does not. */
export function inBox(
  [ax, ay]: Point,
  [bx, by]: Point,
  { left, top, right, bottom }: Box,
): { from: number; to: number } | null {
  let [from, to] = [0, 1];
  const hold = (a: number, d: number, least: number, most: number): void => {
    if (d === 0) {
      if (a < least || a > most) to = -1;
      return;
    }
    const [t0, t1] = [(least - a) / d, (most - a) / d];
    from = Math.max(from, Math.min(t0, t1));
    to = Math.min(to, Math.max(t0, t1));
  };
  hold(ax, bx - ax, left, right);
  hold(ay, by - ay, top, bottom);
  return to > from ? { from, to } : null;
}

const between = ([ax, ay]: Point, [bx, by]: Point, t: number): Point => [
  ax + (bx - ax) * t,
  ay + (by - ay) * t,
];

/** What of a ray lies in a box; it stays as broad as it is. */
function cutTo(ray: Ray, box: Box): Ray[] {
  const part = inBox(ray.from, ray.to, box);
  if (!part) return [];
  const cut = {
    ...ray,
    from: between(ray.from, ray.to, part.from),
    to: between(ray.from, ray.to, part.to),
  };
  const [dx, dy] = [cut.to[0] - cut.from[0], cut.to[1] - cut.from[1]];
  return dx * dx + dy * dy < SHORTEST * SHORTEST ? [] : [cut];
}

export type Speed = {
  /** The middle of the bundle: where its lines begin, and where they end. */
  from: Point;
  to: Point;
  /** How broad the bundle is, and how far its lines lie apart, px. */
  across: number;
  gap: number;
  /** What they all run to, a vanishing point; null: they are parallel. */
  toward: Point | null;
  chance: RayChance;
  seed: number;
  within: Box;
};

/**
 * Speed lines: beside each other, all one way, or all to one point.
 * @throws RangeError where the bundle has no length
 */
export function speedRays(speed: Speed): Ray[] {
  const { from, to, across, gap, toward, chance: say, seed, within } = speed;
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.sqrt(dx * dx + dy * dy);
  if (!(length > 0)) throw new RangeError("speed lines need a length");
  const [nx, ny] = [-dy / length, dx / length];
  const count = Math.min(MOST_RAYS, Math.max(1, Math.round(across / gap)));
  const chance = new Chance(seed);
  return places(count, chance, say.gap).flatMap((at, i) => {
    const side = (at - 0.5) * across;
    const begins: Point = [from[0] + nx * side, from[1] + ny * side];
    const short = say.length * 0.7 * chance.at(i * KINDS + LENGTH);
    let [ux, uy] = [dx, dy];
    if (toward) {
      [ux, uy] = [toward[0] - begins[0], toward[1] - begins[1]];
      const far = Math.sqrt(ux * ux + uy * uy);
      if (far <= SHORTEST) return [];
      // As long as the drawn way, and never beyond the point itself; away from it where the way goes so.
      const away = ux * dx + uy * dy < 0 ? -1 : 1;
      const reach = away > 0 ? Math.min(length, far) : length;
      [ux, uy] = [(away * ux * reach) / far, (away * uy * reach) / far];
    }
    const ends: Point = [begins[0] + ux * (1 - short), begins[1] + uy * (1 - short)];
    return cutTo({ from: begins, to: ends, width: widthOf(chance, i, say.width) }, within);
  });
}

export type Focus = {
  /** What the lines point at, and the half-widths of what they leave clear there, px. */
  at: Point;
  clear: Point;
  /** How far apart they lie along the rim of what is clear, px. */
  gap: number;
  chance: RayChance;
  seed: number;
  within: Box;
};

/** A rim of this radius at least is what gaps are counted on, so that a point does not draw all lines onto one. */
const LEAST_RIM = 24;

/** Focus lines: from the edge of a box inward, each to the rim of what stays clear, or a little before it. */
export function focusRays({ at, clear, gap, chance: say, seed, within }: Focus): Ray[] {
  const chance = new Chance(seed);
  const rim = Math.max(LEAST_RIM, (clear[0] + clear[1]) / 2);
  const count = Math.min(MOST_RAYS, Math.max(3, Math.round((TURN * rim) / gap)));
  const out = farthest(at, within);
  return places(count, chance, say.gap).flatMap((place, i) => {
    const angle = place * TURN;
    const [cx, cy] = [cosine(angle), sine(angle)];
    // All point at the middle, also where what is clear is longer than it is high.
    const [rx, ry] = [cx * clear[0], cy * clear[1]];
    const far = Math.sqrt(rx * rx + ry * ry);
    const [ux, uy] = far > 0 ? [rx / far, ry / far] : [cx, cy];
    const near = far * (1 + say.length * 0.6 * chance.at(i * KINDS + LENGTH));
    const ray: Ray = {
      from: [at[0] + ux * out, at[1] + uy * out],
      to: [at[0] + ux * near, at[1] + uy * near],
      width: widthOf(chance, i, say.width),
    };
    return near < out ? cutTo(ray, within) : [];
  });
}

/** How far the farthest corner of a box is from a place, px. */
function farthest([x, y]: Point, { left, top, right, bottom }: Box): number {
  const dx = Math.max(Math.abs(x - left), Math.abs(x - right));
  const dy = Math.max(Math.abs(y - top), Math.abs(y - bottom));
  return Math.sqrt(dx * dx + dy * dy) + 1;
}
