import { type Sample } from "../stroke/sample";
import { type Guide, horizonOf, type Place } from "./guide";

/** How far the pen goes before it is clear which guide it means, screen px. */
export const DECIDES_AFTER = 7;
/** A straightedge or ellipse takes strokes that begin this near to it, screen px. */
const NEAR = 26;
/** A stroke that leaves every guide by more than this goes its own way, radians. */
const WIDEST = 0.5;
/** Steps in which the nearest place of an ellipse is looked for, then refined. */
const ELLIPSE_STEPS = 96;
const REFINEMENTS = 5;

/** Where a stroke may go: a place becomes the nearest one on the guide. */
export type Track = (at: Place) => Place;

type Candidate = { track: Track; direction: number };

const lineThrough =
  (from: Place, direction: number): Track =>
  ({ x, y }) => {
    const cos = Math.cos(direction);
    const sin = Math.sin(direction);
    const along = (x - from.x) * cos + (y - from.y) * sin;
    return { x: from.x + along * cos, y: from.y + along * sin };
  };

/** Difference of two undirected lines, 0…π/2. */
function apart(a: number, b: number): number {
  const d = Math.abs(a - b) % Math.PI;
  return Math.min(d, Math.PI - d);
}

type Ellipse = Extract<Guide, { kind: "ellipse" }>;

const onEllipse = ({ at, across, down, angle }: Ellipse, t: number): Place => {
  const x = Math.cos(t) * across;
  const y = Math.sin(t) * down;
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  return { x: at.x + x * cos - y * sin, y: at.y + x * sin + y * cos };
};

/** Where on an ellipse (as its parameter) the nearest place to a point lies. */
export function nearestOnEllipse(ellipse: Ellipse, p: Place): number {
  const far = (t: number): number => {
    const q = onEllipse(ellipse, t);
    return (q.x - p.x) ** 2 + (q.y - p.y) ** 2;
  };
  let best = 0;
  for (let i = 1; i < ELLIPSE_STEPS; i++) {
    const t = (i / ELLIPSE_STEPS) * 2 * Math.PI;
    if (far(t) < far(best)) best = t;
  }
  let step = Math.PI / ELLIPSE_STEPS;
  for (let i = 0; i < REFINEMENTS * 6; i++) {
    if (far(best + step) < far(best)) best += step;
    else if (far(best - step) < far(best)) best -= step;
    else step /= 2;
  }
  return best;
}

function candidatesOf(guide: Guide, from: Place, reach: number): Candidate[] {
  switch (guide.kind) {
    case "vanishing points": {
      const lines = guide.points.map((point) => Math.atan2(point.y - from.y, point.x - from.x));
      // What does not run to a vanishing point stands upright on the horizon, or lies along it.
      const horizon = horizonOf(guide.points);
      if (guide.points.length < 3) lines.push(horizon + Math.PI / 2);
      if (guide.points.length === 1) lines.push(horizon);
      return lines.map((direction) => ({ direction, track: lineThrough(from, direction) }));
    }
    case "parallel":
      return [{ direction: guide.angle, track: lineThrough(from, guide.angle) }];
    case "straightedge": {
      const direction = Math.atan2(guide.to.y - guide.from.y, guide.to.x - guide.from.x);
      const track = lineThrough(guide.from, direction);
      const on = track(from);
      return Math.hypot(on.x - from.x, on.y - from.y) <= reach ? [{ direction, track }] : [];
    }
    case "ellipse": {
      const t = nearestOnEllipse(guide, from);
      const on = onEllipse(guide, t);
      if (Math.hypot(on.x - from.x, on.y - from.y) > reach) return [];
      const next = onEllipse(guide, t + 1e-4);
      const direction = Math.atan2(next.y - on.y, next.x - on.x);
      return [{ direction, track: (p) => onEllipse(guide, nearestOnEllipse(guide, p)) }];
    }
  }
}

/**
 * The guide that a stroke from one place toward another means: the one whose direction
 * there is nearest. Null where it means none.
 * @param scale picture px a screen px
 */
export function trackOf(
  guides: readonly Guide[],
  from: Place,
  toward: Place,
  scale: number,
): Track | null {
  const direction = Math.atan2(toward.y - from.y, toward.x - from.x);
  let best: Candidate | null = null;
  let least = WIDEST;
  for (const guide of guides)
    for (const candidate of candidatesOf(guide, from, NEAR * scale)) {
      const off = apart(direction, candidate.direction);
      if (off >= least) continue;
      least = off;
      best = candidate;
    }
  return best?.track ?? null;
}

/** Makes the samples of one stroke follow the guide that it means. */
export class Follower {
  #taken: Sample[] = [];
  #track: Track | null = null;
  #decided = false;

  constructor(
    readonly guides: readonly Guide[],
    readonly scale: number,
  ) {}

  /**
   * Takes a sample. `again`: what was given before is to be drawn anew, from the first of
   * these samples on (it has become clear where the stroke goes).
   */
  take(sample: Sample): { samples: Sample[]; again: boolean } {
    if (this.#decided) return { samples: [this.#on(sample)], again: false };
    this.#taken.push(sample);
    const [first] = this.#taken;
    if (!first) return { samples: [sample], again: false };
    const from = { x: first[1], y: first[2] };
    const to = { x: sample[1], y: sample[2] };
    if (Math.hypot(to.x - from.x, to.y - from.y) < DECIDES_AFTER * this.scale)
      return { samples: [sample], again: false };
    this.#decided = true;
    this.#track = trackOf(this.guides, from, to, this.scale);
    if (!this.#track) return { samples: [sample], again: false };
    return { samples: this.#taken.map((one) => this.#on(one)), again: true };
  }

  #on(sample: Sample): Sample {
    if (!this.#track) return sample;
    const [t, x, y, ...rest] = sample;
    const on = this.#track({ x, y });
    return [t, on.x, on.y, ...rest];
  }
}
