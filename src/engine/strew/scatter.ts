import { cosine, sine } from "../scene/vector";
import { Chance } from "../stroke/chance";
import { type PathPoint } from "../stroke/path";
import { type Piece, settledPiece, type Taken } from "./piece";
import { type Strew } from "./strew";

const FULL = 2 * Math.PI;
/** Smallest that depth makes a piece, of its size. */
const LEAST_FAR = 0.04;
/** How much of its own colour a piece at the horizon loses. */
const AIR_AT_HORIZON = 0.85;
/** Numbers of chance for a piece. */
const DRAWS = 16;
const MOST_OF_A_STROKE = 8000;

/** What a stroke strews besides how: its size, px, and its colours. */
export type Strewing = {
  strew: Strew;
  size: number;
  strength: number;
  colour: string;
  second: string;
  seed: number;
  /** Height of the sheet, px. */
  height: number;
  /** Pictures of the set. */
  pictures: number;
};

type Station = { x: number; y: number; pressure: number; along: readonly [number, number] };

/** How near a place is: 1 at the sheet's edge … 0 at the horizon, on the ground as in the sky. */
export function nearness(y: number, horizon: number, height: number): number {
  const span = y >= horizon ? Math.max(1, height - horizon) : Math.max(1, horizon);
  return Math.min(1, Math.abs(y - horizon) / span);
}

/**
 * Strews pieces along a path: one by one as the path goes on, so that the n-th piece is the same however the path came.
 * All is + − × ÷ and square roots: the same pieces on every machine.
 */
export class Scatter {
  readonly pieces: Piece[] = [];
  #chance: Chance;
  #next = 0;
  #at = 0;
  #index = 0;

  constructor(
    readonly strewing: Strewing,
    /** Number and height of the first piece. */
    readonly first: { id: number; z: number },
    /** Whether a piece may lie there. */
    readonly mayLie: (x: number, y: number) => boolean,
  ) {
    this.#chance = new Chance(strewing.seed);
  }

  /** Strews as far as a path has come. @param isEnd whether it has come to its end */
  along(points: readonly PathPoint[], isEnd: boolean): void {
    const { turn } = this.strewing.strew;
    const total = points.at(-1)?.s ?? 0;
    // What lies along the stroke waits until there is a direction.
    if (points.length === 0 || (turn === "along" && total === 0 && !isEnd)) return;
    while (this.#at <= total && this.#index < MOST_OF_A_STROKE) {
      while (this.#next + 1 < points.length && (points[this.#next + 1] as PathPoint).s <= this.#at)
        this.#next++;
      const station = stationAt(points, this.#next, this.#at);
      const { size } = this.#strewAt(station);
      this.#at += Math.max(0.5, this.strewing.strew.gap * size);
    }
  }

  #draw(n: number): number {
    return this.#chance.at(this.#index * DRAWS + n);
  }

  #strewAt({ x, y, pressure, along }: Station): { size: number } {
    const { strew, strength, height, pictures } = this.strewing;
    const { depth } = strew;
    const nearAt = (v: number): number =>
      depth ? Math.max(LEAST_FAR, 1 - depth.amount * (1 - nearness(v, depth.horizon, height))) : 1;
    const base = this.strewing.size * (1 - strew.press + strew.press * Math.min(1, pressure * 1.6));
    // Evenly over a disc.
    const off = Math.sqrt(this.#draw(0)) * strew.spread * base * nearAt(y);
    const way = this.#draw(1) * FULL;
    const [px, py] = [x + off * cosine(way), y + off * sine(way)];
    const near = nearAt(py);
    const size = Math.max(1, base * near * (1 - strew.sizes * this.#draw(2) * 0.85));
    const picture =
      strew.only === null
        ? Math.min(pictures - 1, Math.floor(this.#draw(3) * pictures))
        : Math.min(pictures - 1, strew.only);
    if (this.mayLie(px, py))
      this.pieces.push(
        settledPiece({
          id: this.first.id + this.pieces.length,
          z: this.first.z,
          set: strew.set,
          picture,
          x: px,
          y: py,
          matrix: this.#matrix(size / 2, along),
          gain: this.#gain(),
          tint: this.#tint(),
          air: depth ? [depth.air, (1 - near) * AIR_AT_HORIZON] : ["#ffffff", 0],
          opacity: strength * (1 - strew.fades * this.#draw(9) * 0.9),
          blur: strew.blurs * this.#draw(10) * this.#draw(10),
        }),
      );
    this.#index++;
    // The next step is as long as a piece here is usually large: chance in size shifts no piece but its own.
    return { size: Math.max(1, base * nearAt(y)) };
  }

  /** How the picture lies: its height follows the stroke where it lies along it. */
  #matrix(half: number, [ax, ay]: readonly [number, number]): Piece["matrix"] {
    const { turn, turns, flips } = this.strewing.strew;
    const by = turn === "any" ? this.#draw(4) * FULL : (this.#draw(4) - 0.5) * turns * FULL;
    let [cos, sin] = [cosine(by), sine(by)];
    // Up in the picture (−v) leads where the pen goes: its x axis lies across.
    if (turn === "along") [cos, sin] = [-ay * cos - ax * sin, ax * cos - ay * sin];
    const mirror = flips && this.#draw(5) < 0.5 ? -1 : 1;
    return [half * cos * mirror, half * sin * mirror, -half * sin, half * cos];
  }

  #gain(): Piece["gain"] {
    const { strays } = this.strewing.strew;
    const light = 1 + (this.#draw(6) - 0.5) * 0.9 * strays;
    const warm = (this.#draw(7) - 0.5) * 0.5 * strays;
    return [light * (1 + warm), light, light * (1 - warm)];
  }

  #tint(): Taken {
    const { strew, colour, second } = this.strewing;
    return [mixed(colour, second, this.#draw(8)), strew.tint];
  }
}

/** A colour between two, `#rrggbb`. */
function mixed(a: string, b: string, share: number): string {
  const [from, to] = [parseInt(a.slice(1), 16), parseInt(b.slice(1), 16)];
  const part = (shift: number): number => {
    const [x, y] = [(from >> shift) & 255, (to >> shift) & 255];
    return Math.round(x + (y - x) * share) << shift;
  };
  return `#${(part(16) | part(8) | part(0)).toString(16).padStart(6, "0")}`;
}

/** The place at a length of the path, between its points. */
function stationAt(points: readonly PathPoint[], i: number, s: number): Station {
  const a = points[i] as PathPoint;
  const b = points[i + 1] ?? a;
  const [from, to] = b === a ? [points[i - 1] ?? a, a] : [a, b];
  const span = b.s - a.s;
  const t = span > 1e-9 ? Math.min(1, Math.max(0, (s - a.s) / span)) : 0;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = Math.sqrt(dx * dx + dy * dy);
  return {
    x: a.x + (b.x - a.x) * t,
    y: a.y + (b.y - a.y) * t,
    pressure: a.pressure + (b.pressure - a.pressure) * t,
    along: long > 1e-9 ? [dx / long, dy / long] : [0, -1],
  };
}
