import { type Grain, type Marks } from "./marks";
import { type Brush } from "./brush";
import { Chance } from "./chance";
import { type Drives, type Evaluated, evaluateBrush, readPen } from "./parameters";
import { mixPoint, type PathPoint } from "./path";

/** Closest that two marks may stand, px: below it a stroke would only cost more. */
const LEAST_STEP = 0.35;
/** Chords of an ink line: a share of its width, within these px. */
const INK_STEP = { share: 0.15, least: 0.5, most: 4 };
const LEAST_RADIUS = 0.15;
/** Sizes at which the taper lengths of a brush are meant. */
const TAPER_SIZE = 10;
/** Numbers drawn for each mark. */
const DRAWS = 4;

/** Where a walk along the path stands. Plain data, so that a trial walk can start from a copy. */
export type WalkState = {
  /** Index of the next path point. */
  next: number;
  /** Length at which the next mark stands. */
  s: number;
  mark: number;
  last: PathPoint | null;
  lastRadius: number;
};

export const walkFromStart = (): WalkState => ({
  next: 0,
  s: 0,
  mark: 0,
  last: null,
  lastRadius: 0,
});

/** Called when the list of marks is full; must empty it. Without it the walk stops there. */
export type WhenFull = (() => void) | null;

export type WalkerStart = {
  brush: Brush;
  size: number;
  scale: number;
  seed: number;
  mode: "paint" | "lift" | "blend";
};

/** Sets a brush's marks along a path. */
export class Walker {
  readonly taperIn: number;
  readonly taperOut: number;
  #asked: Evaluated;
  #drives: Drives;
  #chance: Chance;

  readonly brush: Brush;
  readonly size: number;
  readonly scale: number;
  /** Ink lines are drawn as segments; blending drags discs, whatever the medium. */
  readonly asLine: boolean;

  constructor({ brush, size, scale, seed, mode }: WalkerStart) {
    this.brush = brush;
    this.size = size;
    this.scale = scale;
    this.asLine = brush.medium === "ink" && mode !== "blend";
    this.#asked = evaluateBrush(brush);
    this.#chance = new Chance(seed);
    const perSize = size / TAPER_SIZE;
    this.taperIn = brush.taper.in * perSize;
    this.taperOut = brush.taper.out * perSize;
    this.#drives = {
      pressure: 0,
      tilt: 0,
      speed: 0,
      "chance of a mark": 0,
      "chance of a stroke": this.#chance.at(0xffffffff),
    };
  }

  /**
   * Walks `points` up to length `until` and adds marks.
   * @param total length of the whole stroke as far as it is known, for the taper
   */
  walk(
    state: WalkState,
    points: readonly PathPoint[],
    until: number,
    total: number,
    marks: Marks,
    whenFull: WhenFull,
  ): void {
    while (state.next < points.length) {
      const point = points[state.next] as PathPoint;
      const from = state.next > 0 ? (points[state.next - 1] as PathPoint) : point;
      if (state.s > until) return;
      if (state.s > point.s) {
        state.next++;
        continue;
      }
      const span = point.s - from.s;
      const here =
        span > 0
          ? mixPoint(from, point, (state.s - from.s) / span, state.s)
          : { ...point, s: state.s };
      if (marks.isFull) {
        if (!whenFull) return;
        whenFull();
      }
      state.s += this.#set(state, here, total, marks);
      if (state.s <= here.s) throw new RangeError("a brush must move on between marks");
    }
  }

  /** Sets one mark; returns the step to the next. */
  #set(state: WalkState, here: PathPoint, total: number, marks: Marks): number {
    const drives = this.#drives;
    readPen(here, this.scale, drives);
    const draw = state.mark * DRAWS;
    drives["chance of a mark"] = this.#chance.at(draw);
    const taper = this.#taper(here.s, total);
    const radius = Math.max(
      LEAST_RADIUS * taper,
      (this.size / 2) * this.#asked.diameter(drives) * taper,
    );
    const step = this.asLine
      ? this.#ink(state, here, radius, marks)
      : this.#disc(state, here, radius, draw, marks);
    state.mark++;
    state.last = here;
    state.lastRadius = radius;
    return step;
  }

  #ink(state: WalkState, here: PathPoint, radius: number, marks: Marks): number {
    const from = state.last ?? here;
    const r0 = state.last ? state.lastRadius : radius;
    marks.segment({
      x0: from.x,
      y0: from.y,
      r0,
      x1: here.x,
      y1: here.y,
      r1: radius,
      flow: this.#asked.flow(this.#drives),
    });
    return Math.min(INK_STEP.most, Math.max(INK_STEP.least, radius * 2 * INK_STEP.share));
  }

  #disc(state: WalkState, here: PathPoint, radius: number, draw: number, marks: Marks): number {
    const drives = this.#drives;
    const stretch = Math.max(1, this.#asked.stretch(drives));
    const heading = this.#heading(state.last, here);
    const across = (this.#chance.at(draw + 1) - 0.5) * 2 * this.brush.jitter * radius * 2;
    marks.disc(
      {
        x: here.x - heading.y * across,
        y: here.y + heading.x * across,
        radius,
        stretch,
        angle: stretch > 1 ? here.azimuth : 0,
        hardness: this.brush.hardness,
        flow: Math.min(1, Math.max(0, this.#asked.flow(drives))),
        noise: this.#chance.bits(draw + 2),
      },
      this.#grain(heading),
    );
    return Math.max(LEAST_STEP, radius * 2 * this.brush.spacing);
  }

  #grain(heading: { x: number; y: number }): Grain | null {
    const { grain } = this.brush;
    if (!grain) return null;
    const press = Math.min(1, Math.max(0, this.#asked.press(this.#drives)));
    return {
      threshold: grain.depth * (1 - press),
      softness: grain.softness,
      slope: grain.slope,
      aheadX: Math.round(heading.x),
      aheadY: Math.round(heading.y),
    };
  }

  #heading(from: PathPoint | null, to: PathPoint): { x: number; y: number } {
    if (!from) return { x: 0, y: 0 };
    const dx = to.x - from.x;
    const dy = to.y - from.y;
    const d = Math.sqrt(dx * dx + dy * dy);
    return d > 0 ? { x: dx / d, y: dy / d } : { x: 0, y: 0 };
  }

  /** Share of the full width at length s: thin at both ends, over less where the stroke is short. */
  #taper(s: number, total: number): number {
    const both = this.taperIn + this.taperOut;
    if (both === 0 || total === 0) return 1;
    const shrink = Math.min(1, total / both);
    return Math.min(ease(s, this.taperIn * shrink), ease(total - s, this.taperOut * shrink));
  }

  /** Length of the stroke's end that is not settled while it goes on: the taper may still move. */
  get unsettled(): number {
    return this.taperOut;
  }

  /** From this length on the taper at the start no longer changes. */
  get settledFrom(): number {
    return this.taperIn + this.taperOut;
  }
}

const ease = (s: number, length: number): number => {
  if (length <= 0 || s >= length) return 1;
  const t = Math.max(0, s / length);
  return t * (2 - t);
};
