import { hexToRgb } from "../colour/oklch";
import { type Layer, type Picture, POWDER, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { Inside } from "../select/inside";
import { poursAtRest } from "../stroke/brush";
import { Chance } from "../stroke/chance";
import { mixPoint, type PathPoint } from "../stroke/path";
import { PathStroke } from "../stroke/path-stroke";
import { type Bench } from "../bench";
import { type StrokeStart } from "../stroke/stroker";
import { NATURAL_PPI } from "../stroke/stroke";
import {
  type Box,
  emptyBox,
  growBox,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileRow,
  tilesIn,
} from "../tiles/layout";
import { JOIN, realWord, TAPE } from "../tiles/tape";
import { placesIn, slotWord, takesUp } from "./dissolving";
import { mixedPaint, nearestPair, washPaint } from "./paints";
import { MOST_PAINTS, USUAL_WASH, type Wash, type WashPaint } from "./wash-state";
import { type WashBrush } from "./wash";
import { isWashWet, REST, WATER } from "./wash-planes";
import { type From, WashTiles } from "./wash-tiles";

/** See `kernels/water/mark.ts`. */
const MARK_WORDS = 16;
const MOST_MARKS = 4096;
const WHAT = { lay: 0, thirst: 1 } as const;
const CELL_BYTES = 4096;
/** How far a stroke covers the cells of a tile, and what it found in them. */
const COVER_BYTES = 3 * CELL_BYTES;
/** From mark to mark, as a share of the tip's shorter radius, and in px at least. */
const SPACING = { round: 0.12, square: 0.3 };
const LEAST_SPACING = 1;
/** From place to place where drops fall, in widths. */
const DROPS_APART = 0.12;
/** Water that softens an edge, films. */
const SOFTENS = 0.35;
/** How strongly a thirsty brush rubs. */
const RUBS = 0.55;
/** What a whole pass of it takes of coats below the last. */
const LIFTS_UNDER = 0.22;
/** Paint shows so far beyond its mark, px. */
const SHOWS = 18;
/** While it rests a brush pours so many films a second onto so much of its width, and runs out as along so many widths. */
const POURS = { films: 1.4, wide: 0.8, widths: 5 };
/** Drops fall so often meanwhile, ms. */
const DROPS_EVERY = 50;
/** A mist is denser toward its middle: each drop falls from so much of the way out to all of it. */
const MIST_MIDDLE = 0.2;
/** Salt grows arms: how many, how far (px at 300 ppi), and how little is in them. */
const ARMS = { count: 6, steps: 3, apart: 2.6, share: 0.5 };

/** A stroke of water and paint: each place is covered once, as far as the tip covers it at most. */
export class WashStroke extends PathStroke {
  readonly tiles: WashTiles;
  readonly carried = null;
  #style: WashBrush;
  #wash: Wash;
  /** Which paint it lays; −1: clear water. */
  #slot: number;
  /** Which paints dry marks dissolve into, and the share of them that a pass takes up. */
  #dissolving: readonly WashPaint[];
  #slots: readonly number[];
  #takesUp: number;
  /** What of a tile's cells can dissolve; 0: nothing. */
  #soluble = new Map<number, number>();
  #inside: Inside;
  #marks: number;
  #count = 0;
  #box: Box = emptyBox();
  /** Tiles that the marks that wait reach, and those where they may be seen. */
  #touched = new Set<number>();
  #near = new Set<number>();
  #covered = new Map<number, number>();
  #masks = new Map<number, number>();
  #chance: Chance;
  #perPixel: number;
  #since = 0;
  #way = 0;
  #dropped = 0;
  #rested = 0;
  #dir = { x: 1, y: 0 };

  /** @throws Refusal where the layer may not be worked on */
  constructor(bench: Bench, picture: Picture, start: StrokeStart, style: WashBrush) {
    const layer = workableLayer(picture, start.layer, start.plane);
    if (layer.lockTransparency)
      throw new Refusal(`The transparency of “${layer.name}” is locked. Unlock it to lay a wash.`);
    super(bench, picture, start);
    this.#style = style;
    this.#inside = new Inside(bench, picture, start.layer, start.frame, start.card);
    this.#chance = new Chance(start.seed ^ 0x3c91);
    this.#perPixel = picture.mediaPpi / NATURAL_PPI;
    this.#marks = bench.store.heap.allocate(MOST_MARKS * MARK_WORDS * 4);
    const isWet = isWashWet(picture, start.layer);
    const lays = start.mode === "paint" && style.load > 0 && !style.drops?.salt;
    const from = fromFor(picture, layer, lays, isWet);
    const paints = from === null ? [] : (layer.wash ?? USUAL_WASH).paints;
    const known = { ...(layer.wash ?? USUAL_WASH), paints };
    const paint = lays ? washPaint(picture, start.colour) : null;
    const wets = start.mode !== "lift" && !style.drops?.salt;
    this.#dissolving = wets ? (layer.dissolves ?? []) : [];
    this.#takesUp = takesUp((start.mode === "blend" ? SOFTENS : style.water) * start.water);
    const at = paint ? paints.findIndex(({ colour }) => colour === paint.colour) : -1;
    if (paint && at < 0 && paints.length === MOST_PAINTS) {
      this.tiles = new WashTiles(bench, picture, start.layer, known, from);
      this.#wash = this.#joined(known, paint);
      this.#slot = MOST_PAINTS - 1;
      this.#slots = placesIn(this.#wash.paints, this.#dissolving).slots;
      return;
    }
    this.#slot = paint && at < 0 ? paints.length : at;
    const places = placesIn(paint && at < 0 ? [...paints, paint] : paints, this.#dissolving);
    this.#slots = places.slots;
    this.#wash = { ...known, paints: [...places.paints] };
    this.tiles = new WashTiles(bench, picture, start.layer, this.#wash, from);
  }

  /** What the layer's washes are after it. */
  get changes(): Partial<Layer> {
    return { wash: this.#wash };
  }

  /** Makes room for another paint: the two that are nearest each other are taken for one, as much of each as there is. */
  #joined(known: Wash, paint: WashPaint): Wash {
    this.tiles.wake([...this.picture.plane(this.start.layer, this.tiles.from ?? WATER).keys()]);
    const [into, gone] = nearestPair(known.paints);
    const amounts = this.tiles.amounts();
    const [a, b] = [known.paints[into] as WashPaint, known.paints[gone] as WashPaint];
    const [na, nb] = [amounts[into] as number, amounts[gone] as number];
    const share = na + nb > 0 ? nb / (na + nb) : 0;
    const joined = mixedPaint(a, b, share);
    const last = MOST_PAINTS - 1;
    this.tiles.joinPaints(into, gone, last);
    const paints = known.paints.with(into, joined);
    const wash = {
      ...known,
      paints: [...paints.with(gone, paints[last] as WashPaint).slice(0, last), paint],
    };
    this.tiles.setWash(wash);
    return wash;
  }

  protected finish(): ReturnType<WashTiles["finish"]> {
    return this.tiles.finish(false);
  }

  protected free(): void {
    const { heap } = this.bench.store;
    heap.free(this.#marks, MOST_MARKS * MARK_WORDS * 4);
    for (const address of this.#covered.values()) heap.free(address, COVER_BYTES);
    for (const address of this.#masks.values()) heap.free(address, TILE_BYTES);
    for (const address of this.#soluble.values())
      if (address) heap.free(address, CELL_BYTES * this.#slots.length);
    this.#inside.free();
  }

  protected setDown(point: PathPoint, dirX: number, dirY: number): void {
    this.#dir = { x: dirX, y: dirY };
    this.#leave(point);
  }

  protected goTo(point: PathPoint, way: number, dirX: number, dirY: number): void {
    if (way < 1e-6) return;
    const from = this.last as PathPoint;
    this.#dir = { x: dirX, y: dirY };
    const apart = this.#apart(point.pressure);
    let gone = 0;
    while (this.#since + (way - gone) >= apart) {
      gone += apart - this.#since;
      this.#since = 0;
      this.#way += apart;
      this.#leave(mixPoint(from, point, gone / way, point.s));
    }
    this.#since += way - gone;
  }

  /** A wet brush that is held still goes on pouring, and drops go on falling. */
  protected override rests(at: PathPoint, ms: number): void {
    const { drops, depth } = this.#style;
    if (!poursAtRest(this.start.brush, this.start.mode)) return;
    if (drops) {
      this.#rested += ms;
      for (; this.#rested >= DROPS_EVERY; this.#rested -= DROPS_EVERY) this.#drop(at);
      return;
    }
    const radius = Math.max(1, POURS.wide * this.#radius(at.pressure) * Math.sqrt(depth));
    const { water, load } = this.#brings();
    const by = (POURS.films * ms) / 1000;
    this.#put([at.x, at.y, radius, radius, 1, 0, radius, 0, water * by, load * by, 0, 0], true);
    this.#way += (POURS.widths * this.start.size * ms) / 1000;
  }

  protected goBeyond(_point: PathPoint, way: number): void {
    this.#way += way;
  }

  /** The tip leaves all that is due. */
  protected settle(): void {
    this.#flush();
  }

  protected liftUp(): void {
    if (this.last) this.#leave(this.last);
    this.#flush();
  }

  #apart(pressure: number): number {
    const { drops, depth, outline } = this.#style;
    if (drops) return Math.max(LEAST_SPACING, this.start.size * DROPS_APART);
    return Math.max(LEAST_SPACING, this.#radius(pressure) * depth * SPACING[outline]);
  }

  #radius(pressure: number): number {
    return (this.start.size / 2) * (1 - 0.65 * this.#style.narrows * (1 - pressure));
  }

  /** How much of a load is left after the way so far. */
  get #left(): number {
    const gone = this.#way / (this.#style.run * this.start.size);
    return 1 / (1 + gone * gone);
  }

  /** Water and paint that a mark brings. */
  #brings(): { water: number; load: number } {
    const { style, left } = { style: this.#style, left: this.#left };
    const { mode, strength, water } = this.start;
    if (mode === "blend") return { water: SOFTENS * water, load: 0 };
    return {
      water: style.water * water * (0.35 + 0.65 * left),
      load: style.load * strength * left,
    };
  }

  #leave(point: PathPoint): void {
    if (this.#style.drops && this.start.mode === "paint") return this.#drop(point);
    const { outline, depth, turns, soft, tooth } = this.#style;
    const long = Math.max(0.6, this.#radius(point.pressure));
    const short = Math.max(0.6, long * depth);
    const [cos, sin] = turns ? [-this.#dir.y, this.#dir.x] : [1, 0];
    const edge = Math.max(2, 2 * soft * short);
    const { water, load } = this.#brings();
    const rub = this.start.mode === "paint" ? tooth * (0.7 + 0.6 * point.pressure) : 0;
    this.#put([
      ...[point.x, point.y, long, short, cos, sin, edge, outline === "square" ? 1 : 0],
      ...[water, load, rub, 0],
    ]);
  }

  /** Drops that fall around the tip, most of them small. */
  #drop(point: PathPoint): void {
    const { drops } = this.#style;
    if (!drops) return;
    const far = this.#radius(point.pressure);
    // A mist from farther off is a veil: as much of it for its way, in more and paler drops.
    const spread = drops.gathers ? Math.max(1, this.start.size / this.start.brush.size) : 1;
    const brings = this.#brings();
    const [water, load] = [brings.water / spread, brings.load / spread];
    const chance = this.#chance;
    const due = drops.count * spread * spread;
    const whole = Math.floor(due);
    const first = this.#dropped;
    const count = whole + (chance.at(first) < due - whole ? 1 : 0);
    this.#dropped += 1;
    for (let i = 0; i < count; i++) {
      const at = this.#dropped;
      this.#dropped += 4 + ARMS.count * 2;
      const [u, v] = [chance.at(at) * 2 - 1, chance.at(at + 1) * 2 - 1];
      // Out of a square: those in its corners fall nowhere.
      if (u * u + v * v > 1) continue;
      const out = drops.gathers ? far * (MIST_MIDDLE + (1 - MIST_MIDDLE) * chance.at(at + 3)) : far;
      const large = chance.at(at + 2);
      const radius =
        (drops.least + (drops.most - drops.least) * large * large * large) * this.#perPixel;
      const [x, y] = [point.x + u * out, point.y + v * out];
      const salt = drops.salt * (0.3 + 0.7 * large);
      this.#put([x, y, radius, radius, 1, 0, 2, 0, water, load, 0, salt], drops.gathers);
      if (salt > 0) this.#arms(x, y, salt, at + 4);
    }
  }

  #arms(x: number, y: number, salt: number, at: number): void {
    for (let arm = 0; arm < ARMS.count; arm++) {
      const [u, v] = [this.#chance.at(at + arm * 2) - 0.5, this.#chance.at(at + arm * 2 + 1) - 0.5];
      const length = Math.sqrt(u * u + v * v);
      if (length < 0.05) continue;
      for (let step = 1; step <= ARMS.steps; step++) {
        const far = (step * ARMS.apart * this.#perPixel) / length;
        const share = (ARMS.share * (ARMS.steps + 1 - step)) / ARMS.steps;
        this.#put([x + u * far, y + v * far, 2, 2, 1, 0, 2, 0, 0, 0, 0, salt * share]);
      }
    }
  }

  /** `pours`: it adds to what the stroke has left there already. */
  #put(mark: readonly number[], pours = false): void {
    if (this.#count === MOST_MARKS) this.#flush();
    const { f32 } = this.bench.store.heap;
    const to = (this.#marks >> 2) + this.#count++ * MARK_WORDS;
    f32.set(mark, to);
    f32[to + 12] = pours ? 1 : 0;
    const [x = 0, y = 0, long = 0, short = 0, cos = 1, sin = 0] = mark;
    const wide = Math.abs(cos) * long + Math.abs(sin) * short + 2;
    const high = Math.abs(sin) * long + Math.abs(cos) * short + 2;
    const box = { left: x - wide, top: y - high, right: x + wide, bottom: y + high };
    growBox(this.#box, box);
    this.#reach(this.#touched, box, 0);
    this.#reach(this.#near, box, SHOWS);
  }

  /** Notes the tiles that a mark reaches: the same ones however marks come together. */
  #reach(keys: Set<number>, { left, top, right, bottom }: Box, by: number): void {
    const box = { left: left - by, top: top - by, right: right + by, bottom: bottom + by };
    const { width, height } = this.picture;
    for (const key of tilesIn(box, width, height)) keys.add(key);
  }

  /** Carries out the marks that wait. */
  #flush(): void {
    const count = this.#count;
    if (count === 0) return;
    const box = this.#box;
    this.#count = 0;
    this.#box = emptyBox();
    this.tiles.wake([...this.#near]);
    const keys = [...this.#touched].filter((key) => this.#inside.reaches(key));
    this.#near.clear();
    this.#touched.clear();
    const { workforce } = this.bench;
    const paper = this.bench.washPaper(this.picture);
    const what = this.start.mode === "lift" ? WHAT.thirst : WHAT.lay;
    const slot = this.start.mode === "paint" ? this.#slot : -1;
    const masks = new Map(keys.map((key) => [key, this.#mask(key)]));
    if (what === WHAT.lay) this.#lookForSoluble(keys);
    for (const key of keys) {
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      workforce.write(
        ...[TAPE.washMarks, this.tiles.at(key), this.#cover(key)],
        ...[tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE, this.#marks, count, what, slot],
        ...[realWord(RUBS * this.start.strength), masks.get(key) ?? 0, this.tiles.slots],
        ...[this.tiles.numbers, paper.address, paper.side, this.#soluble.get(key) ?? 0],
        ...[slotWord(this.#slots), realWord(this.#takesUp)],
      );
      if (this.#soluble.get(key)) this.#dissolveUnder(key);
      if (what === WHAT.thirst) this.#liftUnder(key);
      workforce.endJob();
    }
    workforce.run(keys.length > 3);
    this.tiles.stain(box);
  }

  /** Coats below the last one give too, though their paints are no longer told apart. */
  #liftUnder(key: number): void {
    const under = this.tiles.underOf(key);
    if (!under) return;
    const by = realWord(LIFTS_UNDER * this.start.strength);
    const { before, own } = under;
    this.bench.workforce.write(TAPE.liftUnder, own, before, this.#cover(key), by);
  }

  /** What of tiles' dry marks water can take up, where they are reached for the first time. */
  #lookForSoluble(keys: readonly number[]): void {
    const count = this.#slots.length;
    if (count === 0) return;
    const { workforce, store } = this.bench;
    const { heap } = store;
    const paints = heap.allocate(16 * count);
    this.#dissolving.forEach(({ colour }, i) =>
      heap.f32.set(hexToRgb(colour), (paints >> 2) + 4 * i),
    );
    for (const key of keys) {
      if (this.#soluble.has(key)) continue;
      // What is asked for here is made ready to be changed: nothing is where nothing dissolves.
      const isDusty = this.picture.plane(this.start.layer, POWDER).has(key);
      const under = isDusty ? this.tiles.underOf(key) : null;
      const powder = under && this.tiles.powderOf(key);
      const cells = powder ? heap.allocate(CELL_BYTES * count) : 0;
      this.#soluble.set(key, cells);
      if (!powder) continue;
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      workforce.write(TAPE.solubleOf, cells, powder.before, under.before, paints, count);
      workforce.endJob();
    }
    workforce.run(false);
    heap.free(paints, 16 * count);
  }

  #dissolveUnder(key: number): void {
    const [under, powder] = [this.tiles.underOf(key), this.tiles.powderOf(key)];
    if (!under || !powder) return;
    this.bench.workforce.write(
      ...[TAPE.dissolveUnder, under.own, under.before, powder.own, powder.before],
      ...[this.#cover(key), this.tiles.at(key), realWord(this.#takesUp)],
    );
  }

  /** How far the stroke has covered a tile's cells so far. */
  #cover(key: number): number {
    const known = this.#covered.get(key);
    if (known !== undefined) return known;
    const { heap } = this.bench.store;
    const made = heap.allocate(COVER_BYTES);
    heap.u8.fill(0, made, made + COVER_BYTES);
    this.#covered.set(key, made);
    return made;
  }

  /** All that holds the stroke back on a tile in one mask; 0: nothing does. */
  #mask(key: number): number {
    const [first, ...others] = this.#inside.masks(key);
    if (first === undefined) return 0;
    if (others.length === 0) return first;
    const known = this.#masks.get(key);
    if (known !== undefined) return known;
    const { store, workforce } = this.bench;
    const made = store.heap.allocate(TILE_BYTES);
    store.kernels.copyBytes(made, first, TILE_BYTES);
    workforce.beginJob();
    for (const other of others) workforce.write(TAPE.joinMasks, made, other, JOIN.and);
    workforce.endJob();
    workforce.run(false);
    this.#masks.set(key, made);
    return made;
  }
}

/** What a stroke works on: what is wet; what is at rest, where it brings no paint; else it begins another coat. */
function fromFor(picture: Picture, layer: Layer, lays: boolean, isWet: boolean): From {
  if (isWet) return WATER;
  const rests = (picture.planes.get(layer.id)?.get(REST)?.size ?? 0) > 0;
  return !lays && rests ? REST : null;
}
