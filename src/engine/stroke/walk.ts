import { type Brush, dryOf, type StrokeMode, type Train } from "./brush";
import { Chance } from "./chance";
import { DRAWS, type Evaluate, evaluator, firstReading, type Reading, readPen } from "./drives";
import { type Contact, type Touch, touchOf } from "../dry/material";
import {
  MOST_SHED,
  rub,
  type Rub,
  rubStep,
  shed,
  type Sheet,
  threadRub,
  wear,
} from "./laying/contact";
import { hairs, hairsMost } from "./laying/hairs";
import { spray, sprayMost } from "./laying/spray";
import {
  type Heading,
  type Before,
  type LinePoint,
  type Seen,
  type Setter,
  type Station,
} from "./laying/station";
import { turnsBetween, strands, strandsMemory, strandsMost } from "./laying/strands";
import { Spots, weave, weaveMost } from "./laying/weave";
import { type Grain, type Marks } from "./marks";
import { mixPoint, type PathPoint } from "./path";
import { Tints } from "./tint";
import { type TipInMemory } from "./tip-shelf";

/** Closest that two marks may stand, px: below it a stroke would only cost more. */
const LEAST_STEP = 0.35;
/**
 * Chords of a line: a share of its width, within these px. A wide line may step farther: its
 * pieces are round at their ends, so that its edge stays a curve where they meet.
 */
const LINE_STEP = { share: 0.15, least: 0.5, most: 4, wide: 0.04 };
/** Chords of strands, a share of the radius: their own width says little of how far they may step. */
const STRAND_STEP = { share: 0.2, least: 1.5, most: 5, wide: 0.1 };
/**
 * Marks that blend: px, and the pixels under a mark for each px between two of them; pictures and
 * grain take so many times as long as a plain disc.
 */
const BLEND_STEP = { least: 1, reach: 13_000, textured: 3 };
/** Marks of a dry tip that blends stand so many radii apart. */
const RUBBED_APART = 0.22;
const RIBBON_STEP = { share: 0.22, least: 2, most: 24, wide: 0.08 };
/** Tufts and clouds stand this share of the size apart at least. */
const LEAST_RADIUS = 0.15;
/** Size at which the taper lengths of a brush are meant. */
const TAPER_SIZE = 10;
/** Up to this size tapers grow with the brush, px; beyond it slowly, as a hand has only so much room. */
const TAPER_GROWS_TO = 100;

/** How many times longer than it is meant a taper is at a size. */
export const taperScale = (size: number): number =>
  (Math.min(size, TAPER_GROWS_TO) / TAPER_SIZE) *
  Math.sqrt(Math.sqrt(Math.max(1, size / TAPER_GROWS_TO)));
/** How far a dry tip rubs where it is only set down, in its radii. */
const DAB = 0.3;
/** Cosine of the turn from which on a line begins anew. */
const TURNS_BACK = 0.2;

/** Chances of different parameters are kept apart by these. */
const SALT = {
  diameter: 1,
  stretch: 2,
  flow: 3,
  press: 4,
  spacing: 5,
  angle: 6,
  along: 7,
  across: 8,
  /** As many as a dry tip has numbers that are driven. */
  touch: 9,
};
const PLAIN = { noise: 32, tip: 33, flipX: 34, flipY: 35 };
/** Counters that layings draw from lie beyond those of parameters: a thousand for each station. */
const OF_LAYINGS = 0x40000000;
const A_STATION = 1024;

/** Marks that pour at one place at most: by then even the faintest has covered all it will. */
const MOST_POURED = 2000;
/** Beyond the sheet nothing is laid that lies farther off than this many sizes: no mark reaches so far. */
const REACH = { sizes: 32, least: 64 };

/** Where a walk along the path stands. Plain data, so that a trial walk can start from a copy. */
export type WalkState = {
  /** Index of the next path point. */
  next: number;
  /** Length, or time for a brush that pours, at which the next mark stands. */
  at: number;
  mark: number;
  last: PathPoint | null;
  lastLine: LinePoint | null;
  /** Where the last station with a heading went. */
  heading: Heading;
  /** What a laying keeps from place to place. */
  kept: Float64Array;
  /** Spots of a weave so far. */
  spots: number;
  /** What strands that blend took up where they began. */
  roots: Seen[];
};

/** Called when the list of marks is full; must empty it. Without it the walk stops there. */
export type WhenFull = (() => void) | null;

export type WalkerStart = {
  brush: Brush;
  /** The brush itself, or its overtip. */
  train: Train;
  size: number;
  scale: number;
  seed: number;
  mode: StrokeMode;
  colour: string;
  second: string;
  /** Whether marks have colours of their own. */
  painted: boolean;
  tips: readonly TipInMemory[];
  before: Before;
  sheet: { width: number; height: number };
  /** What lies under a dry tip. */
  tooth: Sheet;
};

/** Sets a brush's marks along a path. */
export class Walker {
  readonly taperIn: number;
  readonly taperOut: number;
  /** Lines are drawn as pieces; blending drags discs, whatever the laying. */
  readonly asLine: boolean;
  /** Whether marks stand apart in time rather than in length. */
  readonly pours: number | null;
  #asked: Record<Exclude<keyof typeof SALT, "touch">, Evaluate>;
  #reading: Reading;
  #chance: Chance;
  #tints: Tints;
  #spots: Spots;
  #tip = 0;
  /** The material of a dry tip; null for others, and where it blends. */
  #dry: Contact | null;
  /** What it is at a place. */
  #touch: ((reading: Reading) => Touch) | null;
  /** The newest rub of a dry tip. */
  #rubbed: Rub | null = null;

  constructor(readonly start: WalkerStart) {
    const { brush, train, size, seed, mode } = start;
    const { laying } = brush;
    const isOver = train !== brush;
    this.#dry = isOver || mode === "blend" ? null : dryOf(brush);
    this.#touch = this.#dry && touchOf(this.#dry, SALT.touch);
    this.asLine =
      !isOver && mode !== "blend" && (laying.kind === "line" || laying.kind === "ribbon");
    // Blending that stands still changes nothing more, so its marks stand apart in length.
    this.pours =
      !isOver && mode !== "blend" && (laying.kind === "marks" || laying.kind === "spray")
        ? laying.every
        : null;
    this.#chance = new Chance(isOver ? seed ^ 0x5bd1e995 : seed);
    this.#asked = {
      diameter: evaluator(train.diameter, SALT.diameter),
      stretch: evaluator(train.stretch, SALT.stretch),
      flow: evaluator(train.flow, SALT.flow),
      press: train.grain ? evaluator(train.grain.press, SALT.press) : () => 1,
      spacing: evaluator(train.spacing, SALT.spacing),
      angle: evaluator(train.angle, SALT.angle),
      along: evaluator(train.scatter.along, SALT.along),
      across: evaluator(train.scatter.across, SALT.across),
    };
    const perSize = taperScale(size);
    this.taperIn = brush.taper.in * perSize;
    this.taperOut = brush.taper.out * perSize;
    this.#reading = firstReading(this.#chance);
    this.#tints = new Tints(start.colour, start.second, brush);
    this.#spots = new Spots(laying.kind === "weave" ? laying.reach * size : 1);
  }

  get #laying() {
    return this.start.brush.laying;
  }

  /** Whether it is a dry tip, which is rubbed from place to place. */
  get rubs(): boolean {
    return this.#dry !== null;
  }

  /** What lays the marks of this train: an overtip is always a train of marks. */
  get #kind(): Exclude<Brush["laying"]["kind"], "bristles" | "knife" | "wash"> {
    const { brush, train, mode } = this.start;
    if (train !== brush) return "marks";
    const { kind } = brush.laying;
    const staysItself = kind === "spray" || kind === "hairs" || kind === "strands";
    // On a mask there is no wet paint: bristles and knives leave the marks of their tip.
    const isPlain =
      kind === "bristles" ||
      kind === "knife" ||
      kind === "wash" ||
      (mode === "blend" && !staysItself);
    return isPlain ? "marks" : kind;
  }

  /** Where the brush keeps what it needs from place to place. */
  fromStart(): WalkState {
    const laying = this.#laying;
    return {
      next: 0,
      at: 0,
      mark: 0,
      last: null,
      lastLine: null,
      heading: { x: 0, y: 0 },
      // Of a dry tip: how far its edge is worn, and how its barrel was turned.
      kept: new Float64Array(laying.kind === "strands" ? strandsMemory(laying) : this.#dry ? 2 : 0),
      spots: 0,
      roots: [],
    };
  }

  /** A copy from which a trial may go on. */
  copyOf(state: WalkState): WalkState {
    return { ...state, kept: state.kept.slice(), roots: [...state.roots] };
  }

  /** Takes back what a trial left behind. */
  takeBack({ spots }: WalkState): void {
    this.#spots.keep(spots);
  }

  /** Most marks that one place can take. */
  get #most(): number {
    const laying = this.#laying;
    if (this.#kind === "spray" && laying.kind === "spray") return sprayMost(laying);
    if (this.#kind === "hairs" && laying.kind === "hairs") return hairsMost(laying);
    if (this.#kind === "strands" && laying.kind === "strands") return strandsMost(laying);
    if (this.#kind === "weave" && laying.kind === "weave") return weaveMost(laying) + MOST_SHED;
    if (this.#kind === "contact") return 1 + MOST_SHED;
    return 1;
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
    const key = this.pours === null ? "s" : "t";
    const most = this.#most;
    while (state.next < points.length) {
      const point = points[state.next] as PathPoint;
      const from = state.next > 0 ? (points[state.next - 1] as PathPoint) : point;
      if (point.s > until && key === "t") return;
      if (key === "s" && state.at > until) return;
      if (state.at > point[key]) {
        state.next++;
        continue;
      }
      if (this.#passOver(state, point, key)) continue;
      const span = point[key] - from[key];
      const share = span > 0 ? Math.max(0, (state.at - from[key]) / span) : 1;
      const here =
        span > 0 ? mixPoint(from, point, share, from.s + (point.s - from.s) * share) : { ...point };
      if (marks.lacksRoomFor(most)) {
        if (!whenFull) return;
        whenFull();
      }
      const step = this.#set(state, here, total, marks);
      if (!(step > 0)) throw new RangeError("a brush must move on between marks");
      state.at += step;
    }
  }

  /**
   * Whether what comes next cannot be seen and was passed over: a piece of the path so far off the
   * sheet that no mark reaches it, or time beyond which pouring changes nothing.
   */
  #passOver(state: WalkState, point: PathPoint, key: "s" | "t"): boolean {
    if (key === "t" && this.pours !== null) {
      const least = point.t - MOST_POURED * this.pours;
      if (state.at >= least) return false;
      state.at = least;
      return true;
    }
    const { size, sheet } = this.start;
    const reach = Math.max(REACH.least, size * REACH.sizes);
    const dx = Math.max(-point.x, point.x - sheet.width, 0) - reach;
    const dy = Math.max(-point.y, point.y - sheet.height, 0) - reach;
    const off = Math.max(dx, dy);
    // Both ends of the piece must lie off the sheet, so it must be short beside how far off it is.
    const before = state.next > 0 ? point.s - state.at : 0;
    if (off <= before) return false;
    state.at = point.s + 1e-9;
    state.last = null;
    state.lastLine = null;
    state.kept.fill(0);
    return true;
  }

  /** Sets the marks of one place; returns the step to the next, px or ms. */
  #set(state: WalkState, here: PathPoint, total: number, marks: Marks): number {
    const { start } = this;
    const reading = this.#reading;
    const heading = headingOf(state.last, here);
    readPen(here, start.scale, heading, reading);
    reading.sizes = here.s / start.size;
    reading.mark = state.mark;
    const taper = this.#taper(here.s, total);
    reading.taper = taper;
    const narrowed = start.brush.taper.narrows ? taper : 1;
    const radius = Math.max(
      LEAST_RADIUS * narrowed,
      (start.size / 2) * this.#asked.diameter(reading) * narrowed * (here.wide ?? 1),
    );
    const station: Station = {
      point: here,
      x: here.x,
      y: here.y,
      heading,
      radius,
      full: narrowed > 0.01 ? radius / narrowed : start.size / 2,
      stretch: Math.max(1, this.#asked.stretch(reading)),
      angle: this.#asked.angle(reading) * 2 * Math.PI,
      flow: Math.min(1, Math.max(0, this.#asked.flow(reading))),
      speed: reading.speed,
      chance: this.#chance,
      draw: OF_LAYINGS + state.mark * A_STATION,
    };
    if (start.painted) marks.tint = this.#tints.at(reading);
    const step = this.#lay(state, station, total, marks);
    state.mark++;
    state.last = here;
    return this.pours ?? step;
  }

  #lay(state: WalkState, station: Station, total: number, marks: Marks): number {
    const laying = this.#laying;
    const { radius } = station;
    const apart = Math.max(
      LEAST_STEP,
      radius * 2 * Math.max(0.01, this.#asked.spacing(this.#reading)),
    );
    const step = this.#blendStep(apart, station);
    marks.share = step / apart;
    switch (this.#kind) {
      case "line":
        this.#line(state, station, marks, null);
        return stepOf(LINE_STEP, radius * 2);
      case "ribbon":
        this.#ribbon(state, station, total, marks);
        return stepOf(RIBBON_STEP, radius * 2);
      case "spray":
        if (laying.kind === "spray") spray(laying, station, this.#setter(station, marks));
        return apart;
      case "hairs":
        this.#thrown(station);
        if (laying.kind === "hairs")
          hairs(laying, station, this.#setter(station, marks), this.#rootColours());
        return apart;
      case "strands":
        this.#strands(state, station, marks);
        return stepOf(STRAND_STEP, radius);
      case "weave":
        if (this.#dry) this.#rub(state, station, total, marks);
        else this.#line(state, station, marks, null);
        if (laying.kind === "weave") {
          weave(laying, station, this.#spots, this.start.before, this.#setter(station, marks));
          state.spots = this.#spots.count;
        }
        return Math.max(1, apart);
      case "contact":
        this.#rub(state, station, total, marks);
        return rubStep(radius);
      case "marks":
        this.#mark(station, marks);
        return step;
    }
  }

  #rub({ last, kept }: WalkState, station: Station, total: number, marks: Marks): void {
    const { point, radius, flow } = station;
    // A tip that only comes down rubs a little all the same.
    const dab = { x: point.x - DAB * radius, y: point.y, s: point.s };
    const from = last ?? (total === 0 ? dab : null);
    const contact = this.#dry;
    const touch = this.#touch?.(this.#reading);
    if (!last) kept[1] = point.twist;
    if (!from || !contact || !touch) return;
    const { tooth, mode } = this.start;
    const [drawn = 0, turn = 0] = kept;
    const edge = wear({ drawn, turn }, (point.s - from.s) / tooth.perPixel, flow, point.twist);
    kept[0] = edge.drawn;
    kept[1] = edge.turn;
    const heading = last ? station.heading : { x: 1, y: 0 };
    const rubbing = { contact, touch, lifts: mode === "lift", tilt: this.#reading.tilt, edge };
    const own = rub(rubbing, tooth, from, { ...station, heading });
    this.#rubbed = own;
    marks.rub(own);
    if (touch.sheds > 0)
      for (const grain of shed(touch.sheds, tooth, own, station)) marks.rub(grain);
  }

  /**
   * How far marks that blend stand apart: so near that none of them is seen, as long as that costs
   * no more than the hand can wait for.
   */
  #blendStep(apart: number, { radius, stretch }: Station): number {
    const { mode, train } = this.start;
    if (mode !== "blend" || this.#laying.kind === "contact") return apart;
    // Powder is rubbed about by a tip that carries it, so marks may stand farther apart.
    if (dryOf(this.start.brush))
      return Math.min(apart, Math.max(LEAST_STEP, RUBBED_APART * radius));
    const isPlain = train.tip.kind === "round" && !train.grain;
    const cost = 4 * radius * radius * stretch * (isPlain ? 1 : BLEND_STEP.textured);
    return Math.min(apart, Math.max(BLEND_STEP.least, cost / BLEND_STEP.reach));
  }

  #rootColours(): Before | null {
    return this.start.mode === "blend" ? this.start.before : null;
  }

  #strands(state: WalkState, station: Station, marks: Marks): void {
    const laying = this.#laying;
    if (laying.kind !== "strands") return;
    const { before, mode } = this.start;
    // A strand that blends carries what lay where it began.
    const roots = (i: number, x: number, y: number): Seen => (state.roots[i] ??= before(x, y));
    const { pressure, sizes } = this.#reading;
    const setter = this.#setter(station, marks);
    const run = (at: Station, turning: 1 | -1 | 0): void =>
      strands(
        laying,
        at,
        pressure,
        sizes,
        state.kept,
        setter,
        turning,
        mode === "blend" ? roots : null,
      );
    const { heading } = station;
    const turn = state.last && turnsBetween(state.heading, heading);
    if (turn && state.last) {
      const { x, y } = state.last;
      for (const own of turn.headings) run({ ...station, x, y, heading: own }, turn.side);
    }
    run(station, 0);
    if (heading.x !== 0 || heading.y !== 0) state.heading = heading;
  }

  /** How layings set marks: with this station's flow, as the stroke's plane wants them. */
  #setter(station: Station, marks: Marks): Setter {
    const { painted } = this.start;
    const { flow, chance } = station;
    const grain = this.#grain(station.heading);
    const own = marks.tint;
    const shade = (draw: number): void => {
      if (!painted || !this.start.brush.colour) return;
      marks.tint = this.#tints.at({ ...this.#reading, mark: draw });
    };
    const again = { ...this.#reading };
    return {
      speck: (x, y, radius, draw) => {
        shade(draw);
        this.#tipAt(
          { ...station, x, y, radius: Math.max(0.2, radius), stretch: 1 },
          draw,
          marks,
          grain,
        );
      },
      piece: (from, to, share) => {
        if (painted) marks.chord(from, to, flow * share, chance.bits(station.draw), null);
        else
          marks.segment({
            x0: from.x,
            y0: from.y,
            r0: from.r,
            x1: to.x,
            y1: to.y,
            r1: to.r,
            flow: flow * share,
          });
      },
      thread: (x0, y0, x1, y1, r, share) => {
        if (this.#dry) {
          // Before the first rub nothing says yet how the tip meets the paper.
          const rubbed = this.#rubbed;
          if (rubbed) marks.rub(threadRub(rubbed, x0, y0, x1, y1, r, flow * share));
          return;
        }
        marks.segment(
          { x0, y0, r0: r, x1, y1, r1: r, flow: flow * share },
          chance.bits(station.draw + 3),
        );
      },
      shade,
      shadeAgain: (draw) => {
        if (!painted || !this.start.brush.colour) return;
        again.mark = draw;
        marks.tint = this.#tints.again(again);
      },
      dip: (colour) => {
        marks.tint = colour ? Tints.of(colour) : own;
      },
    };
  }

  #line(
    state: WalkState,
    { x, y, radius, flow, heading, draw }: Station,
    marks: Marks,
    stretch: Parameters<Marks["chord"]>[4],
  ): void {
    const here: LinePoint = { x, y, r: radius, tx: heading.x, ty: heading.y };
    const from = state.lastLine ?? here;
    state.lastLine = here;
    if (!this.start.painted && !stretch) {
      marks.cone({ x0: from.x, y0: from.y, r0: from.r, x1: x, y1: y, r1: radius, flow });
      return;
    }
    if (from === here) return;
    // The first piece knows where the line goes only now. Where the line turns back it begins
    // anew, square; a short piece that swings round there would stand out as a spike.
    const begins = from.tx * here.tx + from.ty * here.ty <= TURNS_BACK;
    const isFirst = from.tx === 0 && from.ty === 0;
    if (begins && !isFirst && lengthOf(from, here) < radius) {
      state.lastLine = { ...here, tx: 0, ty: 0 };
      return;
    }
    const start = begins ? { ...from, tx: here.tx, ty: here.ty } : from;
    marks.chord(start, here, flow, this.#chance.bits(draw), stretch);
  }

  /** One long tip over the whole stroke. */
  #ribbon(state: WalkState, station: Station, total: number, marks: Marks): void {
    const laying = this.#laying;
    const tip = this.start.tips[0];
    if (laying.kind !== "ribbon") return;
    if (!tip || total <= 0) return this.#line(state, station, marks, null);
    const share = (s: number): number => {
      const u = Math.min(1, s / total);
      return laying.from === "root" ? u : 1 - u;
    };
    const from = share(state.last?.s ?? 0);
    this.#line(state, station, marks, { tip, from, to: share(station.point.s) });
  }

  /** Throws a station from the path. */
  #thrown(station: Station): void {
    const along = this.#asked.along(this.#reading) * station.radius * 2;
    const across = this.#asked.across(this.#reading) * station.radius * 2;
    const { heading } = station;
    station.x += heading.x * along - heading.y * across;
    station.y += heading.y * along + heading.x * across;
  }

  #mark(station: Station, marks: Marks): void {
    this.#thrown(station);
    this.#tipAt(station, this.#reading.mark * DRAWS, marks, this.#grain(station.heading));
  }

  /** Sets the tip once. `draw` is a counter for what is left to chance about it. */
  #tipAt(station: Station, draw: number, marks: Marks, grain: Grain | null): void {
    const { tip } = this.start.train;
    const { x, y, radius, stretch, angle, flow } = station;
    if (flow <= 0) return;
    const noise = this.#chance.bits(draw + PLAIN.noise);
    if (tip.kind === "round") {
      const hardness = hardnessAt(tip.hardness, radius);
      marks.disc({ x, y, radius, stretch, angle, hardness, flow, noise }, grain);
      return;
    }
    marks.stamp(
      {
        x,
        y,
        radius,
        stretch,
        angle,
        flow,
        noise,
        tip: this.#chooseTip(draw),
        flipX: this.#chance.at(draw + PLAIN.flipX) < tip.flip.across,
        flipY: this.#chance.at(draw + PLAIN.flipY) < tip.flip.along,
      },
      grain,
    );
  }

  #chooseTip(draw: number): TipInMemory {
    const { tips, train } = this.start;
    const choice = train.tip.kind === "pictures" ? train.tip.choice : "in turn";
    const n = tips.length;
    if (choice === "in turn") this.#tip = this.#reading.mark % n;
    else if (choice === "by chance") this.#tip = Math.floor(this.#chance.at(draw + PLAIN.tip) * n);
    else this.#tip = Math.floor(this.#chance.at(0xfffe0000) * n);
    return tips[this.#tip] as TipInMemory;
  }

  #grain(heading: { x: number; y: number }): Grain | null {
    const { grain } = this.start.train;
    if (!grain) return null;
    const press = Math.min(1, Math.max(0, this.#asked.press(this.#reading)));
    return {
      threshold: grain.depth * (1 - press),
      softness: grain.softness,
      slope: grain.slope,
      aheadX: Math.round(heading.x),
      aheadY: Math.round(heading.y),
    };
  }

  /** Share of the full width at length s: thin at both ends, over less where the stroke is short. */
  #taper(s: number, total: number): number {
    const both = this.taperIn + this.taperOut;
    if (both === 0 || total === 0) return 1;
    const shrink = Math.min(1, total / both);
    return Math.min(ease(s, this.taperIn * shrink), ease(total - s, this.taperOut * shrink));
  }

  /** Whether nothing is settled before the stroke ends: each part depends on its whole length. */
  get #isWhole(): boolean {
    return this.#kind === "ribbon";
  }

  /** Length of the stroke's end that is not settled while it goes on: the taper may still move. */
  get unsettled(): number {
    return this.#tapers ? this.taperOut : 0;
  }

  /** Whether anything about its marks depends on how near the ends of the stroke are. */
  get #tapers(): boolean {
    const { brush, train } = this.start;
    const { diameter, stretch, flow, spacing, angle, scatter, grain } = train;
    const driven = [diameter, stretch, flow, spacing, angle, scatter.along, scatter.across];
    if (grain) driven.push(grain.press);
    if (brush.colour) driven.push(...Object.values(brush.colour));
    const byTaper = driven.some(({ drives }) => drives.some(({ by }) => by === "taper"));
    return brush.taper.narrows || byTaper;
  }

  /** Shorter strokes than this are not settled at all: their taper may still stretch. */
  get settledFrom(): number {
    if (this.#isWhole) return Infinity;
    return this.#tapers ? this.taperIn + this.taperOut : 0;
  }
}

/** A firm tip's rim is no wider than so many px, however large the tip; a soft one's grows with it. */
const FIRM_FROM = 0.6;
const FIRM_RIM = 16;

const hardnessAt = (hardness: number, radius: number): number =>
  hardness < FIRM_FROM ? hardness : Math.max(hardness, 1 - FIRM_RIM / radius);

/** A share of the width within two bounds, the upper of which grows with wide lines. */
const stepOf = ({ share, least, most, wide }: typeof LINE_STEP, width: number): number =>
  Math.min(Math.max(most, width * wide), Math.max(least, width * share));

function lengthOf(from: LinePoint, to: LinePoint): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  return Math.sqrt(dx * dx + dy * dy);
}

function headingOf(from: PathPoint | null, to: PathPoint): { x: number; y: number } {
  if (!from) return { x: 0, y: 0 };
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const d = Math.sqrt(dx * dx + dy * dy);
  return d > 0 ? { x: dx / d, y: dy / d } : { x: 0, y: 0 };
}

const ease = (s: number, length: number): number => {
  if (length <= 0 || s >= length) return 1;
  const t = Math.max(0, s / length);
  return t * (2 - t);
};
