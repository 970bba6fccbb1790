import { blendNumber } from "../compose/blend-modes";
import { DRY_BYTES, writeLaying } from "../dry/laying";
import { type Bench, type Below, type PaperInMemory } from "../bench";
import {
  COLOUR,
  type Picture,
  type Plane,
  type PlaneName,
  POWDER,
  SELECTION,
  workableLayer,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { hexToQ15 } from "../colour/srgb";
import {
  type Box,
  CONTACT_BYTES,
  COVERAGE_BYTES,
  emptyBox,
  growBox,
  ONE,
  pixelOffset,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  tilesIn,
  WHOLE_TILE,
} from "../tiles/layout";
import { LAY, OVERTIP, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { dryOf, hasColours, leans, type Train } from "./brush";
import { type Seen } from "./laying/station";
import { Marks } from "./marks";
import { Path, type PathPoint } from "./path";
import { travels, withJoinedTips } from "./joined-tip";
import { type JoinedTip } from "./tip-shelf";
import { Inside } from "../select/inside";
import { type Sample } from "./sample";
import { Smear } from "./smear";
import { type Rubbed, Smudge } from "./smudge";
import { type Stroker, type StrokeStart, type StrokeTile } from "./stroker";
import { Walker, type WalkerStart, type WalkState } from "./walk";

/** Lengths of dry media are meant for it. */
export const NATURAL_PPI = 300;

const NOTHING_SEEN: Seen = [0, 0, 0, 0];

/** An overtip whose trial goes over more pixels than this is not tried. */
const MOST_TRIED = 4e6;

/** A dry tip that is wider is shown as far as it is settled, px. */
const WIDEST_TRIED = 240;

/** What a waxy tip drags goes in steps so many times as long as a rub's, and moves so much more in each. */
const DRAG_STEPS = 3;

/** Helpers are woken for batches of marks beyond this many tiles. */
const TOGETHER_FROM = 12;

/**
 * One train's marks on one tile: as they stand, and as they stood before the trial (0: as they
 * stand). Fresh: nothing is settled on it, so that it is cleared before anything is laid.
 */
type Laid = { plane: number; kept: number; fresh: boolean };

type Touched = {
  before: Tile | null;
  after: Tile;
  laid: Laid[];
  joined: number;
  /** The stroke's paint alone, where it is blended with what was before; else 0. */
  ink: number;
  /** What becomes of the powder there; null where there is none and none comes. */
  powder: { before: Tile | null; after: Tile } | null;
  /**
   * What a tip has rubbed, apart from what is seen: what a waxy tip has left of what it drew over, on which its own
   * contact is laid, and what soils it; or all that is rubbed, where only a part of it may show.
   */
  rubbed: Rubbed | null;
};

/** What marks are gathered in: how far they cover, paint with colours, or a dry tip's contact. */
type Gathers = "coverage" | "paint" | "contact";

const GATHERED = {
  coverage: { bytes: COVERAGE_BYTES, marks: TAPE.marks },
  paint: { bytes: TILE_BYTES, marks: TAPE.paintMarks },
  contact: { bytes: CONTACT_BYTES, marks: TAPE.contact },
} as const;

/** A brush's marks, or its overtip's, on their way into a plane of their own. */
class TrainOfMarks {
  readonly walker: Walker;
  readonly state: WalkState;
  readonly settled: Marks;
  readonly trial: Marks;
  trialKeys: number[] = [];
  trialBox: Box = emptyBox();

  constructor(
    readonly bench: Bench,
    start: StrokeStart & Pick<WalkerStart, "sheet" | "tooth">,
    train: Train,
    before: (x: number, y: number) => Seen,
    readonly gathers: Gathers,
    joined: readonly JoinedTip[] = [],
  ) {
    const { tip } = train;
    const painted = gathers === "paint";
    const own = tip.kind === "pictures" ? tip.pictures.map((p) => bench.tips.get(p)) : [];
    const tips = joined.length > 0 ? joined.map((one) => bench.tips.joined(one)) : own;
    this.walker = new Walker({ ...start, train, painted, tips, before });
    this.state = this.walker.fromStart();
    const quick = gathers === "coverage" && start.mode !== "blend";
    this.settled = new Marks(bench.store.heap, quick);
    // A trial is laid in one piece: a tip stretched over a long stroke is all of it.
    this.trial = new Marks(bench.store.heap, quick, true);
  }

  get bytes(): number {
    return GATHERED[this.gathers].bytes;
  }

  walkTrial(points: readonly PathPoint[], tail: readonly PathPoint[]): void {
    const { state, walker } = this;
    const from = Math.max(0, state.next - 1);
    const stretch = [...points.slice(from), ...tail];
    const total = stretch.at(-1)?.s ?? 0;
    const at = { ...walker.copyOf(state), next: state.next - from };
    walker.walk(at, stretch, total, total, this.trial, null);
    const end = stretch.at(-1);
    // A dry tip steps far: what is shown reaches to the pen all the same.
    if (walker.rubs && end && at.last && end.s - at.last.s > 1e-6) {
      at.at = end.s;
      at.next = stretch.length - 1;
      walker.walk(at, stretch, total, total, this.trial, null);
    }
    walker.takeBack(state);
  }

  free(): void {
    this.settled.free();
    this.trial.free();
  }
}

/** Whether a box reaches the tile whose top left pixel is (px, py). */
const reaches = ({ left, top, right, bottom }: Box, px: number, py: number): boolean =>
  left < px + TILE_SIDE && right > px && top < py + TILE_SIDE && bottom > py;

/**
 * One stroke in the making. Marks go into planes of the stroke's own (coverage, or paint
 * where marks have colours); the layer is laid anew from what it was before through them,
 * so a stroke never darkens where it crosses itself beyond its strength.
 *
 * The last stretch of the path is a trial: it is drawn to where the pen is, and taken back
 * (by putting back the plane under it) as soon as the pen has moved on.
 */
export class Stroke implements Stroker {
  readonly samples: Sample[] = [];
  readonly carried = null;
  #touched = new Map<number, Touched>();
  #path: Path;
  #trains: TrainOfMarks[];
  #changed = new Set<number>();
  #lay: number;
  #keepsAlpha: boolean;
  #colour: readonly number[];
  /** What blends: paint is dragged along, powder is rubbed about. */
  #smear: Smear | Smudge | null = null;
  /** What a waxy tip takes along of the wax that it draws over. */
  #drags: { smudge: Smudge; train: TrainOfMarks; keys: Set<number>; box: Box } | null = null;
  #below: Below | null = null;
  /** Where the stroke may go. */
  #inside: Inside;
  /** How a dry tip's contact is laid: its address, once the pen has come down; 0 before, and for others. */
  #dry = 0;
  #powder: Plane | null;
  /** Planes that are no longer wanted, once the tapes have run. */
  #spent: [address: number, bytes: number][] = [];

  /** @throws Refusal where the layer may not be worked on, or a tip cannot be read */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
    holds: "paint" | "lines" = "paint",
  ) {
    const { mode } = start;
    const dry = dryOf(start.brush);
    const isDry = dry !== null && mode !== "blend";
    const { brush, tips } =
      travels(start.brush) && mode !== "blend" && !isDry
        ? withJoinedTips(start.brush)
        : { brush: start.brush, tips: [] };
    const layer = workableLayer(picture, start.layer, start.plane, holds);
    this.#inside = new Inside(bench, picture, start.layer, start.frame, start.card);
    const hasPowder = start.plane === COLOUR && start.layer !== SELECTION;
    this.#powder = hasPowder ? picture.plane(start.layer, POWDER) : null;
    const keepsAlpha = layer.lockTransparency && start.plane === COLOUR;
    if (mode === "lift" && keepsAlpha)
      throw new Refusal(`The transparency of “${layer.name}” is locked. Unlock it to lift paint.`);
    this.#path = new Path(start.steady, start.scale);
    // Hair that blends is hair painted with what lay at its roots.
    const carries =
      mode === "blend" && (brush.laying.kind === "hairs" || brush.laying.kind === "strands");
    const painted = mode !== "lift" && (carries || (mode === "paint" && hasColours(start.brush)));
    const before = (x: number, y: number): Seen => this.#seenBefore(x, y);
    if (mode === "blend" && start.takes === "below")
      this.#below = bench.below(picture, start.layer);
    const { width, height } = picture;
    const tooth = {
      roughness: isDry ? bench.paper(picture).roughness : 1,
      grain: picture.structure.paper.scale,
      perPixel: picture.mediaPpi / NATURAL_PPI,
    };
    const begun = { ...start, brush, sheet: { width, height }, tooth };
    const gathers = isDry ? "contact" : painted ? "paint" : "coverage";
    this.#trains = [new TrainOfMarks(bench, begun, brush, before, gathers, tips)];
    if (brush.overtip && !isDry && (mode !== "blend" || carries))
      this.#trains.push(new TrainOfMarks(bench, begun, brush.overtip, before, "coverage"));
    this.#colour = hexToQ15(start.colour);
    this.#keepsAlpha = keepsAlpha;
    const isInked = start.lays !== "normal";
    if (start.lays === "behind" && keepsAlpha)
      throw new Refusal(
        `The transparency of “${layer.name}” is locked. Unlock it to paint behind what is there.`,
      );
    this.#lay = mode === "lift" ? LAY.lift : keepsAlpha && !isInked ? LAY.paintInside : LAY.paint;
    if (mode === "blend" && dry && this.#powder && !keepsAlpha && !this.#below)
      this.#smear = new Smudge(bench, {
        size: start.size,
        leans: leans(brush),
        rate: dry.rubs * start.strength,
        melts: dry.melts ?? 0,
        holds: (key) => this.picture.plane(start.layer, COLOUR).has(key),
        tile: (key) => this.#rub(key),
        picture,
      });
    else if (mode === "blend" && !carries)
      this.#smear = new Smear(bench, {
        size: start.size,
        strength: start.strength,
        keepAlpha: keepsAlpha,
        leans: leans(brush),
        tile: (key) => this.#touch(key)?.after ?? null,
        read: (key) => this.#read(key),
        masks: (key) => this.#inside.masks(key),
        below: this.#below,
        picture,
      });
    const { base, drives } = brush.spacing;
    const dragging = { ...brush, spacing: { base: base * DRAG_STEPS, drives } };
    if (mode === "paint" && dry?.drags && this.#powder && !keepsAlpha && !isInked)
      this.#drags = {
        smudge: new Smudge(bench, {
          size: start.size,
          leans: leans(brush),
          rate: DRAG_STEPS * dry.drags * start.strength,
          melts: 1,
          holds: (key) => this.#heldPowder(key),
          tile: (key) => this.#rubApart(key, true),
          picture,
        }),
        train: new TrainOfMarks(bench, { ...begun, mode: "blend" }, dragging, before, "coverage"),
        keys: new Set(),
        box: emptyBox(),
      };
  }

  /** The brush's own train; its overtip's, where it has one, comes second. */
  get #first(): TrainOfMarks {
    return this.#trains[0] as TrainOfMarks;
  }

  /** Takes samples and draws. Returns the keys of the tiles that changed. */
  extend(samples: readonly Sample[]): number[] {
    this.#changed.clear();
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    if (samples.length > 0) this.#draw(false);
    return [...this.#changed];
  }

  /** Settles the stroke's end. */
  end(): StrokeTile[] {
    this.#changed.clear();
    this.#draw(true);
    return this.#finish();
  }

  /** Puts everything back as it was. */
  abandon(): number[] {
    const plane = this.picture.plane(this.start.layer, this.start.plane);
    const keys = [...this.#touched.keys()];
    for (const [key, { before, after, powder }] of this.#touched) {
      if (before) plane.set(key, before);
      else plane.delete(key);
      this.bench.store.release(after);
      if (!powder) continue;
      if (powder.before) this.#powder?.set(key, powder.before);
      else this.#powder?.delete(key);
      this.bench.store.release(powder.after);
    }
    this.#freeMemory();
    return keys;
  }

  #draw(last: boolean): void {
    const path = this.#path;
    if (last) path.points.push(...path.tail());
    const tail = last ? [] : path.tail();
    this.#dragAlong(last);
    for (const train of this.#trains) {
      if (this.#smear) this.#drawSmear(train, last);
      else this.#drawTrain(train, tail, last);
    }
    if (!this.#smear) this.#commit(last);
  }

  /** How far along the path a train's marks are final; below 0 where none are. */
  #settledTo({ walker }: TrainOfMarks, last: boolean): number {
    const total = this.#path.length;
    if (last) return total;
    return total >= walker.settledFrom ? total - walker.unsettled : -1;
  }

  #drawSmear({ walker, state, settled }: TrainOfMarks, last: boolean): void {
    const { points, length } = this.#path;
    const until = this.#settledTo(this.#first, last);
    walker.walk(state, points, until, length, settled, () => this.#smearAll());
    this.#smearAll();
  }

  #drawTrain(train: TrainOfMarks, tail: readonly PathPoint[], last: boolean): void {
    const { walker, state, settled } = train;
    const { points, length } = this.#path;
    const until = this.#settledTo(train, last);
    // A dry tip that has not moved yet is a dab, unless it still does.
    const waits = walker.rubs && length === 0 && !last;
    if (until >= 0 && !waits)
      walker.walk(state, points, until, length, settled, () => this.#commit());
    if (last) return this.#endCap(train);
    // Where a dry tip this wide comes last lies under it anyway: it is not tried beforehand.
    if (walker.rubs && length > 0 && this.start.size > WIDEST_TRIED) return;
    train.walkTrial(points, tail);
    // A great overtip would hold the pen up: where it thins is seen once that is settled.
    if (train !== this.#first && train.trial.area > MOST_TRIED) train.trial.clear();
  }

  /** A line reaches exactly to the path's end, wherever its last chord fell. */
  #endCap({ walker, state, settled }: TrainOfMarks): void {
    const end = this.#path.points.at(-1);
    const { last } = state;
    if (!(walker.asLine || walker.rubs) || !end || !last || end.s - last.s < 1e-6) return;
    const at: WalkState = { ...state, at: end.s, next: this.#path.points.length - 1 };
    if (settled.lacksRoomFor(1)) this.#commit();
    walker.walk(at, this.#path.points, end.s, end.s, settled, () => this.#commit());
  }

  /** Takes along what a waxy tip draws over, as far as the path is settled. */
  #dragAlong(last: boolean): void {
    if (!this.#drags) return;
    const { smudge, train, keys, box } = this.#drags;
    const { walker, state, settled } = train;
    const all = (): void => {
      growBox(box, settled.bounds);
      for (const key of smudge.lay(settled)) keys.add(key);
      settled.clear();
    };
    const until = this.#settledTo(train, last);
    if (until >= 0) walker.walk(state, this.#path.points, until, this.#path.length, settled, all);
    all();
  }

  /** Whether powder or wax lay on a tile before the stroke. */
  #heldPowder(key: number): boolean {
    const { powder } = this.#touched.get(key) ?? {};
    return powder ? powder.before !== null : (this.#powder?.has(key) ?? false);
  }

  /** What is rubbed of a tile: what is seen itself, where all of it may change. */
  #rub(key: number): Rubbed | null {
    if (!this.#inside.isEverywhere) return this.#rubApart(key, false);
    const touched = this.#touch(key);
    return touched?.powder ? { colour: touched.after, powder: touched.powder.after } : null;
  }

  /** A tile that is rubbed apart from what is seen; null where there is nothing to be changed. */
  #rubApart(key: number, soils: boolean): Rubbed | null {
    const touched = this.#touch(key);
    if (!touched?.powder) return null;
    return (touched.rubbed ??= {
      colour: this.#copyOf(touched.before),
      powder: this.#copyOf(touched.powder.before),
      ...(soils ? { soil: this.#copyOf(null) } : {}),
    });
  }

  #copyOf(tile: Tile | null): Tile {
    const { store } = this.bench;
    const copy = store.create();
    const from = tile ? store.address(tile) : store.nothing;
    store.kernels.copyBytes(copy.address, from, TILE_BYTES);
    return copy;
  }

  #smearAll(): void {
    const { settled } = this.#first;
    const keys = this.#smear?.lay(settled) ?? [];
    this.#showRubbed(keys);
    for (const key of keys) this.#changed.add(key);
    settled.clear();
  }

  /** Shows what was rubbed apart, as far as the stroke may go. */
  #showRubbed(keys: readonly number[]): void {
    if (this.#inside.isEverywhere || this.#smear instanceof Smear) return;
    const { workforce } = this.bench;
    for (const key of keys) {
      const touched = this.#touched.get(key);
      if (!touched?.rubbed || !touched.powder) continue;
      if (workforce.isFull) workforce.run(false);
      workforce.beginJob();
      this.#showApart(key, touched.rubbed.colour, touched);
      this.#showApart(key, touched.rubbed.powder, touched.powder);
      workforce.endJob();
    }
    workforce.run(false);
  }

  #showApart(key: number, made: Tile, { before, after }: Pick<Touched, "before" | "after">): void {
    const { store, workforce } = this.bench;
    const to = store.address(after);
    workforce.write(TAPE.copy, to, store.address(made), TILE_BYTES);
    this.#inside.keep(key, to, before ? store.address(before) : store.nothing);
  }

  /** Runs one batch: takes back the last trial, sets what is settled, then the new trial. */
  #commit(last = false): void {
    const { store, workforce } = this.bench;
    const { width, height } = this.picture;
    const box = emptyBox();
    const keys = new Set<number>();
    const inTrial = this.#trains.map(({ trial }) => new Set(tilesIn(trial.bounds, width, height)));
    if (last || this.#first.settled.count > 0) this.#takeDragged(keys, box);
    this.#trains.forEach(({ trialBox, trialKeys, settled, trial }, i) => {
      for (const part of [trialBox, settled.bounds, trial.bounds]) growBox(box, part);
      for (const key of tilesIn(settled.bounds, width, height)) keys.add(key);
      for (const key of trialKeys) keys.add(key);
      for (const key of inTrial[i] as Set<number>) keys.add(key);
    });
    const paper = this.bench.paper(this.picture);
    const together = keys.size > TOGETHER_FROM;
    const reached: number[] = [];
    for (const key of keys) {
      const touched = this.#touch(key);
      if (!touched) continue;
      if (workforce.isFull) workforce.run(together);
      workforce.beginJob();
      this.#trains.forEach((train, i) =>
        this.#writeMarks(
          key,
          train,
          touched.laid[i] as Laid,
          (inTrial[i] as Set<number>).has(key),
          paper,
        ),
      );
      this.#writeLay(key, touched, box, paper);
      workforce.endJob();
      reached.push(key);
      this.#changed.add(key);
    }
    workforce.run(together);
    // Tapes read what they were told of until they have run.
    for (const [address, bytes] of this.#spent) store.heap.free(address, bytes);
    this.#spent = [];
    this.#trains.forEach((train, i) => {
      train.trialKeys = reached.filter((key) => inTrial[i]?.has(key));
      train.trialBox = { ...train.trial.bounds };
      train.settled.clear();
      train.trial.clear();
    });
    store.trim();
  }

  /** Where something was dragged along since it was asked last, the contact is laid anew: as new contact comes, or at the end. */
  #takeDragged(keys: Set<number>, box: Box): void {
    if (!this.#drags) return;
    growBox(box, this.#drags.box);
    for (const key of this.#drags.keys) keys.add(key);
    this.#drags.keys.clear();
    this.#drags.box = emptyBox();
  }

  #writeMarks(
    key: number,
    { settled, trial, gathers, bytes }: TrainOfMarks,
    laid: Laid,
    inTrial: boolean,
    paper: PaperInMemory,
  ): void {
    const { workforce, store, noise } = this.bench;
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const marks = (list: Marks): void => {
      const what = [GATHERED[gathers].marks, laid.plane, px, py, list.address, list.count];
      // A dry tip's marks have no noise of their own.
      if (gathers !== "contact") what.push(noise);
      workforce.write(...what, paper.address, paper.period);
    };
    if (laid.fresh) workforce.write(TAPE.clear, laid.plane, bytes);
    else if (laid.kept) workforce.write(TAPE.copy, laid.plane, laid.kept, bytes);
    const settles = settled.count > 0 && reaches(settled.bounds, px, py);
    if (settles) marks(settled);
    // Where nothing is settled yet the trial is taken back by clearing.
    if (laid.fresh && !settles && inTrial) return marks(trial);
    laid.fresh = false;
    if (!inTrial) {
      if (laid.kept) this.#spent.push([laid.kept, bytes]);
      laid.kept = 0;
      return;
    }
    // What was kept is still as it stands unless something was settled on it.
    if (!laid.kept || settles) {
      laid.kept ||= store.heap.allocate(bytes);
      workforce.write(TAPE.copy, laid.kept, laid.plane, bytes);
    }
    marks(trial);
  }

  /** What an overtip leaves of the first tip's marks: a plane of its own, 0 without one. */
  #writeJoined({ laid, joined }: Touched): number {
    const [first, over] = laid;
    const { overtip } = this.start.brush;
    if (!first || !over || !overtip) return 0;
    this.bench.workforce.write(
      TAPE.combine,
      joined,
      first.plane,
      over.plane,
      OVERTIP[overtip.mode],
      this.#first.gathers === "paint" ? 1 : 0,
    );
    return joined;
  }

  /** How the contact is laid: it is known once the pen has come down. */
  #laying(paper: PaperInMemory): number {
    if (this.#dry) return this.#dry;
    const { brush, mode, size, strength, seed } = this.start;
    const contact = dryOf(brush);
    const altitude = this.samples[0]?.[4] ?? Math.PI / 2;
    if (!contact) throw new RangeError("only a dry tip makes contact");
    const { heap } = this.bench.store;
    this.#dry = heap.allocate(DRY_BYTES);
    const perPixel = this.picture.mediaPpi / NATURAL_PPI;
    const tilt = Math.max(0, 1 - altitude / (Math.PI / 2));
    const [r = 0, g = 0, b = 0] = this.#colour;
    writeLaying(heap, this.#dry, {
      contact,
      how: mode === "lift" ? "lift" : this.#keepsAlpha ? "inside" : "lay",
      strength,
      colour: [r / ONE, g / ONE, b / ONE],
      radius: ((size / 2) * (1 + 2.5 * tilt)) / perPixel,
      roughness: paper.roughness,
      dissolves: brush.dissolves ?? 0,
      grit: this.bench.grit(contact.particle),
      place: seed,
    });
    return this.#dry;
  }

  /** What paint that covers powder, or lifts it, leaves of it. */
  #writePowder(key: number, touched: Touched, covers: number, reach: number[]): void {
    const { powder } = touched;
    if (!powder || this.start.lays !== "normal") return;
    const { workforce, store } = this.bench;
    const after = store.address(powder.after);
    const before = powder.before ? store.address(powder.before) : store.nothing;
    const strength = Math.round(this.start.strength * ONE);
    if (this.#first.gathers === "paint")
      workforce.write(TAPE.layPaint, after, before, covers, 0, LAY.lift, strength, ...reach);
    else workforce.write(TAPE.lay, after, before, covers, LAY.lift, 0, 0, 0, strength, ...reach);
    this.#inside.keep(key, after, before, reach);
  }

  #writeContact(
    key: number,
    touched: Touched,
    [onto, under, contact]: readonly [number, number, number],
    paper: PaperInMemory,
    reach: number[],
  ): void {
    const { workforce, store } = this.bench;
    const { powder, rubbed } = touched;
    const after = powder ? store.address(powder.after) : 0;
    const before = powder?.before ? store.address(powder.before) : store.nothing;
    workforce.write(
      TAPE.layContact,
      onto,
      rubbed ? store.address(rubbed.colour) : under,
      after,
      rubbed ? store.address(rubbed.powder) : before,
      contact,
      rubbed?.soil ? store.address(rubbed.soil) : 0,
      this.#laying(paper),
      paper.address,
      paper.period,
      tileColumn(key) * TILE_SIDE,
      tileRow(key) * TILE_SIDE,
      ...reach,
    );
    if (after) this.#inside.keep(key, after, before, reach);
  }

  #writeLay(key: number, touched: Touched, box: Box, paper: PaperInMemory): void {
    const { workforce, store } = this.bench;
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const clampSide = (v: number): number => Math.min(TILE_SIDE, Math.max(0, v));
    const joined = this.#writeJoined(touched);
    const plane = touched.laid[0]?.plane ?? 0;
    const { ink } = touched;
    const after = store.address(touched.after);
    const before = touched.before ? store.address(touched.before) : store.nothing;
    const [onto, under] = ink ? [ink, store.nothing] : [after, before];
    const strength = Math.round(this.start.strength * ONE);
    const reach = [
      clampSide(box.left - px) >> 3,
      clampSide(box.top - py),
      (clampSide(box.right - px) + 7) >> 3,
      clampSide(box.bottom - py),
    ];
    const [r = 0, g = 0, b = 0] = this.#colour;
    const { gathers } = this.#first;
    if (gathers === "contact") {
      this.#writeContact(key, touched, [onto, under, plane], paper, reach);
    } else if (gathers === "paint") {
      workforce.write(TAPE.layPaint, onto, under, plane, joined, this.#lay, strength, ...reach);
      this.#writePowder(key, touched, plane, reach);
    } else {
      const covers = joined || plane;
      workforce.write(TAPE.lay, onto, under, covers, this.#lay, r, g, b, strength, ...reach);
      this.#writePowder(key, touched, covers, reach);
    }
    if (ink) this.#blendInk(ink, after, before);
    // Blended, all of the tile is made anew.
    this.#inside.keep(key, after, before, ink ? WHOLE_TILE : reach);
  }

  /** Lays the stroke's paint on what was before in a mode of its own, or that on the paint. */
  #blendInk(ink: number, after: number, before: number): void {
    const { workforce } = this.bench;
    const { lays } = this.start;
    const [below, above] = lays === "behind" ? [ink, before] : [before, ink];
    const mode = blendNumber(lays === "behind" ? "normal" : lays);
    workforce.write(TAPE.copy, after, below, TILE_BYTES);
    workforce.write(TAPE.blend, after, above, mode, ONE, this.#keepsAlpha ? 1 : 0);
  }

  /** What lay at a place before the stroke, and under it where Blend takes from below. */
  #seenBefore(x: number, y: number): Seen {
    const { store } = this.bench;
    const { width, height } = this.picture;
    const px = Math.floor(x);
    const py = Math.floor(y);
    if (px < 0 || py < 0 || px >= width || py >= height) return NOTHING_SEEN;
    const key = tileKey(px >> 6, py >> 6);
    const touched = this.#touched.get(key);
    const tile = touched
      ? touched.before
      : (this.picture.plane(this.start.layer, this.start.plane).get(key) ?? null);
    if (!tile && !this.#below) return NOTHING_SEEN;
    const seen = [0, 0, 0, 0];
    const add = (address: number): void => {
      const rest = 1 - (seen[3] as number);
      for (let c = 0; c < 4; c++) {
        const v = store.heap.u16[(address + pixelOffset(px & 63, py & 63, c)) >> 1] as number;
        seen[c] = (seen[c] as number) + (v / ONE) * rest;
      }
    };
    if (tile) add(store.address(tile));
    const below = this.#below?.at(key);
    if (below) add(below);
    const alpha = seen[3] as number;
    if (alpha <= 0) return NOTHING_SEEN;
    const [r = 0, g = 0, b = 0] = seen;
    return [r / alpha, g / alpha, b / alpha, alpha];
  }

  /** Where a tile's pixels are as they stand. */
  #read(key: number): number {
    const { store } = this.bench;
    const tile = this.picture.plane(this.start.layer, this.start.plane).get(key);
    return tile ? store.address(tile) : store.nothing;
  }

  /** The stroke's own copy of a tile; null where the stroke cannot change anything there. */
  #touch(key: number): Touched | null {
    const known = this.#touched.get(key);
    if (known) return known;
    const { store } = this.bench;
    const plane = this.picture.plane(this.start.layer, this.start.plane);
    const before = plane.get(key) ?? null;
    if (!before && (this.#keepsAlpha || this.#lay === LAY.lift) && !this.#smear) return null;
    const { heap } = store;
    const after = store.create();
    const from = before ? store.address(before) : store.nothing;
    store.kernels.copyBytes(after.address, from, TILE_BYTES);
    const laid = this.#smear
      ? []
      : this.#trains.map(({ bytes }) => ({ plane: heap.allocate(bytes), kept: 0, fresh: true }));
    const joined = laid.length > 1 ? heap.allocate(COVERAGE_BYTES) : 0;
    const ink = this.start.lays === "normal" ? 0 : heap.allocate(TILE_BYTES);
    if (ink) store.kernels.copyBytes(ink, store.nothing, TILE_BYTES);
    const powder = this.#smear instanceof Smear ? null : this.#touchPowder(key);
    const touched: Touched = { before, after, laid, joined, ink, powder, rubbed: null };
    this.#touched.set(key, touched);
    plane.set(key, after);
    return touched;
  }

  /** The stroke's own copy of a tile's powder, where it has some or may get some. */
  #touchPowder(key: number): Touched["powder"] {
    const plane = this.#powder;
    const before = plane?.get(key) ?? null;
    const comes = this.#first.gathers === "contact" || this.#smear instanceof Smudge;
    if (!plane || (!before && !comes)) return null;
    const { store } = this.bench;
    const after = store.create();
    const from = before ? store.address(before) : store.nothing;
    store.kernels.copyBytes(after.address, from, TILE_BYTES);
    plane.set(key, after);
    return { before, after };
  }

  #finish(): StrokeTile[] {
    const { store } = this.bench;
    const plane = this.picture.plane(this.start.layer, this.start.plane);
    const tiles: StrokeTile[] = [];
    const settle = (name: PlaneName, of: Plane, key: number, before: Tile | null, after: Tile) => {
      store.settle(after);
      if (store.isEmpty(after) && !before) {
        of.delete(key);
        store.release(after);
      } else tiles.push({ plane: name, key, before, after });
    };
    for (const [key, { before, after, powder }] of this.#touched) {
      settle(this.start.plane, plane, key, before, after);
      if (powder && this.#powder) settle(POWDER, this.#powder, key, powder.before, powder.after);
    }
    this.#freeMemory();
    return tiles;
  }

  #freeMemory(): void {
    const { heap } = this.bench.store;
    for (const { laid, joined, ink, rubbed } of this.#touched.values()) {
      if (rubbed) for (const tile of Object.values(rubbed)) this.bench.store.release(tile);
      laid.forEach(({ plane, kept }, i) => {
        const { bytes } = this.#trains[i] as TrainOfMarks;
        heap.free(plane, bytes);
        if (kept) heap.free(kept, bytes);
      });
      if (joined) heap.free(joined, COVERAGE_BYTES);
      if (ink) heap.free(ink, TILE_BYTES);
    }
    this.#touched.clear();
    for (const train of this.#trains) train.free();
    if (this.#dry) heap.free(this.#dry, DRY_BYTES);
    this.#dry = 0;
    this.#inside.free();
    this.#smear?.free();
    this.#drags?.smudge.free();
    this.#drags?.train.free();
    this.#below?.free();
  }
}
