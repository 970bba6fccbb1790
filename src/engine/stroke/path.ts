import { LEAST_STEP_MS, type Sample } from "./sample";
import { steady, type Steady } from "./steady";

/**
 * A place on the path; `s` is the length walked to it, `t` ms when the pen was there, `speed`
 * in px a second. Where the pen rested there are two, apart in time alone.
 */
export type PathPoint = {
  s: number;
  t: number;
  x: number;
  y: number;
  pressure: number;
  altitude: number;
  azimuth: number;
  twist: number;
  speed: number;
  /** A factor on the brush's width there; left out: 1. */
  wide?: number;
};

/** Samples closer than this are one place, px. */
const SAME_PLACE = 0.05;
/** Chords of the flattened curve, px. */
const CHORD = 1.5;
const MOST_CHORDS = 256;
/** Smoothing of the speed, ms. */
const SPEED_MEMORY = 40;

/** `until`: when the pen left, where it rested. */
type Knot = PathPoint & { until: number };

/**
 * The path of a stroke: centripetal Catmull-Rom through the steadied samples (Yuksel,
 * Schaefer & Keyser 2011), flattened to short chords. A piece between two samples is final
 * once the sample after it is known; until then it is given as the tail, which always ends
 * at the pen. The final points depend on the samples alone, not on when they were asked for.
 */
export class Path {
  readonly points: PathPoint[] = [];
  #steady: Steady;
  #knots: Knot[] = [];
  #raw: Sample | null = null;
  #held = true;

  constructor(amount: number, scale: number) {
    this.#steady = steady(amount, scale);
  }

  /** Length of the final part, px. */
  get length(): number {
    return this.points.at(-1)?.s ?? 0;
  }

  /** Where the tip is, steadied; null before it has come down. */
  get tip(): Readonly<PathPoint> | null {
    return this.#knots.at(-1) ?? null;
  }

  add(sample: Sample): void {
    this.#raw = sample;
    const steadied = this.#steady.take(sample);
    this.#held = steadied === null;
    if (steadied) this.#addKnot(steadied);
  }

  #addKnot(sample: Sample): void {
    const knot = this.#knotAt(sample);
    const last = this.#knots.at(-1);
    if (last && distance(last, knot) < SAME_PLACE) {
      // Pressing without moving: the place keeps the strongest press. It is not final yet.
      if (knot.pressure > last.pressure) last.pressure = knot.pressure;
      last.until = knot.t;
      return;
    }
    this.#knots.push(knot);
    const n = this.#knots.length;
    if (n === 2) pushKnot(this.#knots[0] as Knot, this.points);
    if (n >= 3) this.#flatten(this.#knots.slice(Math.max(0, n - 4)), this.points, n === 3);
    if (n > 4) this.#knots.shift();
  }

  #knotAt([t, x, y, pressure, altitude, azimuth, twist]: Sample): Knot {
    const last = this.#knots.at(-1);
    const knot: Knot = { t, until: t, s: 0, x, y, pressure, altitude, azimuth, twist, speed: 0 };
    if (!last) return knot;
    const dt = Math.max(LEAST_STEP_MS, t - last.until);
    const now = (distance(last, knot) / dt) * 1000;
    knot.speed = last.speed + (now - last.speed) * (dt / (dt + SPEED_MEMORY));
    return knot;
  }

  /** Flattens the piece before the newest knot (its neighbours in `knots`) onto `points`. */
  #flatten(knots: Knot[], points: PathPoint[], first: boolean): void {
    const [p0, p1, p2, p3] = (first ? [undefined, ...knots] : knots) as [
      Knot | undefined,
      Knot,
      Knot,
      Knot | undefined,
    ];
    flattenPiece(p0 ?? mirrored(p2, p1), p1, p2, p3 ?? mirrored(p1, p2), points);
  }

  /**
   * What follows the final points if the stroke ended here: the newest piece and, where
   * steadying holds the tip back, the way to the pen.
   */
  tail(): PathPoint[] {
    const newest = this.#knots.at(-1);
    if (!newest) return [];
    const end = this.#end(newest);
    const knots = end ? [...this.#knots, end] : this.#knots;
    const n = knots.length;
    const points: PathPoint[] = this.points.length > 0 ? [this.points.at(-1) as PathPoint] : [];
    if (points.length === 0) pushKnot(knots[0] as Knot, points);
    if (n === 1) return points;
    if (end && n >= 3) {
      const p1 = knots[n - 3] as Knot;
      const p2 = knots[n - 2] as Knot;
      flattenPiece(knots[n - 4] ?? mirrored(p2, p1), p1, p2, end, points);
    }
    const p1 = knots[n - 2] as Knot;
    const p2 = knots[n - 1] as Knot;
    flattenPiece(knots[n - 3] ?? mirrored(p2, p1), p1, p2, mirrored(p1, p2), points);
    return this.points.length > 0 ? points.slice(1) : points;
  }

  /** The pen itself, where the steadied tip is elsewhere. */
  #end(newest: Knot): Knot | null {
    if (!this.#raw) return null;
    const end = this.#knotAt(this.#raw);
    if (distance(newest, end) < Math.max(SAME_PLACE, this.#held ? 0 : 0.5)) return null;
    return end;
  }
}

function distance(a: { x: number; y: number }, b: { x: number; y: number }): number {
  const dx = a.x - b.x;
  const dy = a.y - b.y;
  return Math.sqrt(dx * dx + dy * dy);
}

/** `a` thrown to the other side of `b`. */
const mirrored = (a: Knot, b: Knot): Knot => ({ ...b, x: 2 * b.x - a.x, y: 2 * b.y - a.y });

/** Interpolates angles the short way round. */
export function mixAngle(a: number, b: number, t: number): number {
  let d = (b - a) % (2 * Math.PI);
  if (d > Math.PI) d -= 2 * Math.PI;
  if (d < -Math.PI) d += 2 * Math.PI;
  return a + d * t;
}

export function mixPoint(a: PathPoint, b: PathPoint, t: number, s: number): PathPoint {
  const mix = (from: number, to: number): number => from + (to - from) * t;
  return {
    s,
    t: mix(a.t, b.t),
    x: mix(a.x, b.x),
    y: mix(a.y, b.y),
    pressure: mix(a.pressure, b.pressure),
    altitude: mix(a.altitude, b.altitude),
    azimuth: mixAngle(a.azimuth, b.azimuth, t),
    twist: mixAngle(a.twist, b.twist, t),
    speed: mix(a.speed, b.speed),
    ...(a.wide !== undefined && { wide: mix(a.wide, b.wide ?? a.wide) }),
  };
}

/** Barry & Goldman's pyramid for one piece p1 → p2, knots spaced by √distance. */
function flattenPiece(p0: Knot, p1: Knot, p2: Knot, p3: Knot, points: PathPoint[]): void {
  const step = (a: Knot, b: Knot): number => Math.sqrt(Math.max(1e-4, distance(a, b)));
  const t1 = step(p0, p1);
  const t2 = t1 + step(p1, p2);
  const t3 = t2 + step(p2, p3);
  const count = Math.min(MOST_CHORDS, Math.max(1, Math.ceil(distance(p1, p2) / CHORD)));
  const at = (a: number, b: number, from: number, to: number, t: number): number =>
    a + ((b - a) * (t - from)) / (to - from);
  const axis = (k: "x" | "y", t: number): number => {
    const a1 = at(p0[k], p1[k], 0, t1, t);
    const a2 = at(p1[k], p2[k], t1, t2, t);
    const a3 = at(p2[k], p3[k], t2, t3, t);
    return at(at(a1, a2, 0, t2, t), at(a2, a3, t1, t3, t), t1, t2, t);
  };
  for (let i = 1; i <= count; i++) {
    const share = i / count;
    const t = t1 + (t2 - t1) * share;
    const last = points.at(-1) as PathPoint;
    const point = mixPoint(p1, p2, share, 0);
    point.t = p1.until + (p2.t - p1.until) * share;
    if (i < count) {
      point.x = axis("x", t);
      point.y = axis("y", t);
    }
    point.s = last.s + distance(last, point);
    points.push(point);
  }
  rest(p2, points);
}

/** Where the pen rested, a second point says how long. */
function rest({ t, until }: Knot, points: PathPoint[]): void {
  const last = points.at(-1);
  if (last && until > t) points.push({ ...last, t: until });
}

function pushKnot(knot: Knot, points: PathPoint[]): void {
  points.push({ ...knot, s: 0 });
  rest(knot, points);
}
