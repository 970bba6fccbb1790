import { type Picture, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { hexToQ15 } from "../colour/srgb";
import {
  type Box,
  COVERAGE_BYTES,
  emptyBox,
  growBox,
  ONE,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileRow,
  tilesIn,
} from "../tiles/layout";
import { LAY, TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { type Brush } from "./brush";
import { Marks } from "./marks";
import { Path } from "./path";
import { type Sample } from "./sample";
import { Smear } from "./smear";
import { Walker, walkFromStart, type WalkState } from "./walk";

export type StrokeMode = "paint" | "lift" | "blend";

/** What a stroke is before the pen moves. */
export type StrokeStart = {
  layer: string;
  brush: Brush;
  mode: StrokeMode;
  size: number;
  /** 0…1: the ceiling of the whole stroke. */
  strength: number;
  colour: string;
  seed: number;
  steady: number;
  scale: number;
};

/** The paper's grain in shared memory. */
export type GrainInMemory = { address: number; period: number };

/** What strokes need of the engine. */
export type Bench = {
  store: TileStore;
  workforce: Workforce;
  /** Blue noise as the kernels read it. */
  noise: number;
  grain(picture: Picture): GrainInMemory;
};

/** Helpers are woken for batches of marks beyond this many tiles. */
const TOGETHER_FROM = 12;

type Touched = { before: Tile | null; after: Tile; coverage: number; fresh: boolean; kept: number };

/** Pixels of one tile that a stroke has changed. */
export type StrokeTile = { key: number; before: Tile | null; after: Tile };

/**
 * One stroke in the making. Marks go into a coverage plane of the stroke's own; the layer
 * is laid anew from what it was before through that coverage, so a stroke never darkens
 * where it crosses itself beyond its strength.
 *
 * The last stretch of the path is a trial: it is drawn to where the pen is, and taken back
 * (by putting back the coverage under it) as soon as the pen has moved on.
 */
export class Stroke {
  readonly samples: Sample[] = [];
  #touched = new Map<number, Touched>();
  #path: Path;
  #walker: Walker;
  #state: WalkState = walkFromStart();
  #settled: Marks;
  #trial: Marks;
  #trialBox: Box = emptyBox();
  #trialKeys: number[] = [];
  #changed = new Set<number>();
  #lay: number;
  #colour: readonly number[];
  #smear: Smear | null = null;

  /** @throws Refusal where the layer may not be worked on */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
  ) {
    const layer = workableLayer(picture, start.layer);
    if (start.mode === "lift" && layer.lockTransparency)
      throw new Refusal(`The transparency of “${layer.name}” is locked. Unlock it to lift paint.`);
    this.#path = new Path(start.steady, start.scale);
    this.#walker = new Walker(start);
    const { heap } = bench.store;
    this.#settled = new Marks(heap, start.mode !== "blend");
    this.#trial = new Marks(heap);
    this.#colour = hexToQ15(start.colour);
    this.#lay =
      start.mode === "lift" ? LAY.lift : layer.lockTransparency ? LAY.paintInside : LAY.paint;
    if (start.mode === "blend")
      this.#smear = new Smear(bench, {
        size: start.size,
        strength: start.strength,
        keepAlpha: layer.lockTransparency,
        leans: start.brush.medium === "pencil",
        tile: (key) => this.#touch(key)?.after ?? null,
        read: (key) => this.#read(key),
        picture,
      });
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
    const plane = this.picture.plane(this.start.layer);
    const keys = [...this.#touched.keys()];
    for (const [key, { before, after }] of this.#touched) {
      if (before) plane.set(key, before);
      else plane.delete(key);
      this.bench.store.release(after);
    }
    this.#freeMemory();
    return keys;
  }

  #draw(last: boolean): void {
    const walker = this.#walker;
    const path = this.#path;
    if (last) path.points.push(...path.tail());
    const total = path.length;
    const settledTo = last ? total : total >= walker.settledFrom ? total - walker.unsettled : -1;
    if (this.#smear) {
      walker.walk(this.#state, path.points, settledTo, total, this.#settled, () =>
        this.#smearAll(),
      );
      this.#smearAll();
      return;
    }
    if (settledTo >= 0)
      walker.walk(this.#state, path.points, settledTo, total, this.#settled, () => this.#commit());
    if (last) this.#endCap();
    else this.#walkTrial();
    this.#commit();
  }

  /** An ink line reaches exactly to the path's end, wherever its last chord fell. */
  #endCap(): void {
    const end = this.#path.points.at(-1);
    const { last } = this.#state;
    if (!this.#walker.asLine || !end || !last || end.s - last.s < 1e-6) return;
    const at: WalkState = { ...this.#state, s: end.s, next: this.#path.points.length - 1 };
    if (this.#settled.isFull) this.#commit();
    this.#walker.walk(at, this.#path.points, end.s, end.s, this.#settled, () => this.#commit());
  }

  #walkTrial(): void {
    const tail = this.#path.tail();
    const { points } = this.#path;
    const from = Math.max(0, this.#state.next - 1);
    const stretch = [...points.slice(from), ...tail];
    const total = stretch.at(-1)?.s ?? 0;
    const state: WalkState = { ...this.#state, next: this.#state.next - from };
    // A trial too long for one batch shows its beginning; it lasts only until the pen moves on.
    this.#walker.walk(state, stretch, total, total, this.#trial, null);
  }

  #smearAll(): void {
    const keys = this.#smear?.lay(this.#settled) ?? [];
    for (const key of keys) this.#changed.add(key);
    this.#settled.clear();
  }

  /** Runs one batch: takes back the last trial, sets what is settled, then the new trial. */
  #commit(): void {
    const { store, workforce } = this.bench;
    const settled = this.#settled;
    const trial = this.#trial;
    const box = emptyBox();
    growBox(box, this.#trialBox);
    growBox(box, settled.bounds);
    growBox(box, trial.bounds);
    const trialKeys = new Set(tilesIn(trial.bounds, this.picture.width, this.picture.height));
    const keys = new Set(tilesIn(settled.bounds, this.picture.width, this.picture.height));
    for (const key of this.#trialKeys) keys.add(key);
    for (const key of trialKeys) keys.add(key);
    const grain = this.bench.grain(this.picture);
    const together = keys.size > TOGETHER_FROM;
    const nextTrial: number[] = [];
    for (const key of keys) {
      const touched = this.#touch(key);
      if (!touched) continue;
      if (workforce.isFull) workforce.run(together);
      workforce.beginJob();
      this.#writeCoverage(key, touched, trialKeys.has(key), grain);
      this.#writeLay(key, touched, box);
      workforce.endJob();
      if (trialKeys.has(key)) nextTrial.push(key);
      this.#changed.add(key);
    }
    workforce.run(together);
    this.#trialKeys = nextTrial;
    this.#trialBox = { ...trial.bounds };
    settled.clear();
    trial.clear();
    store.trim();
  }

  #writeCoverage(key: number, touched: Touched, inTrial: boolean, grain: GrainInMemory): void {
    const { workforce, store, noise } = this.bench;
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const marks = (list: Marks): void =>
      workforce.write(
        TAPE.marks,
        touched.coverage,
        px,
        py,
        list.address,
        list.count,
        noise,
        grain.address,
        grain.period,
      );
    if (touched.fresh) workforce.write(TAPE.clear, touched.coverage);
    else if (touched.kept)
      workforce.write(TAPE.copy, touched.coverage, touched.kept, COVERAGE_BYTES);
    touched.fresh = false;
    if (this.#settled.count > 0) marks(this.#settled);
    if (!inTrial) {
      if (touched.kept) store.freeCoverage(touched.kept);
      touched.kept = 0;
      return;
    }
    touched.kept ||= store.createCoverage();
    workforce.write(TAPE.copy, touched.kept, touched.coverage, COVERAGE_BYTES);
    marks(this.#trial);
  }

  #writeLay(key: number, { before, after, coverage }: Touched, box: Box): void {
    const { workforce, store } = this.bench;
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const clampSide = (v: number): number => Math.min(TILE_SIDE, Math.max(0, v));
    const [r = 0, g = 0, b = 0] = this.#colour;
    workforce.write(
      TAPE.lay,
      store.address(after),
      before ? store.address(before) : store.nothing,
      coverage,
      this.#lay,
      r,
      g,
      b,
      Math.round(this.start.strength * ONE),
      clampSide(box.left - px) >> 3,
      clampSide(box.top - py),
      (clampSide(box.right - px) + 7) >> 3,
      clampSide(box.bottom - py),
    );
  }

  /** Where a tile's pixels are as they stand. */
  #read(key: number): number {
    const { store } = this.bench;
    const tile = this.picture.plane(this.start.layer).get(key);
    return tile ? store.address(tile) : store.nothing;
  }

  /** The stroke's own copy of a tile; null where the stroke cannot change anything there. */
  #touch(key: number): Touched | null {
    const known = this.#touched.get(key);
    if (known) return known;
    const { store } = this.bench;
    const plane = this.picture.plane(this.start.layer);
    const before = plane.get(key) ?? null;
    if (!before && this.#lay !== LAY.paint && !this.#smear) return null;
    const after = store.create();
    const from = before ? store.address(before) : store.nothing;
    store.kernels.copyBytes(after.address, from, TILE_BYTES);
    const coverage = this.#smear ? 0 : store.createCoverage();
    const touched: Touched = { before, after, coverage, fresh: true, kept: 0 };
    this.#touched.set(key, touched);
    plane.set(key, after);
    return touched;
  }

  #finish(): StrokeTile[] {
    const { store } = this.bench;
    const plane = this.picture.plane(this.start.layer);
    const tiles: StrokeTile[] = [];
    for (const [key, { before, after }] of this.#touched) {
      store.settle(after);
      if (store.isEmpty(after) && !before) {
        plane.delete(key);
        store.release(after);
        continue;
      }
      tiles.push({ key, before, after });
    }
    this.#freeMemory();
    return tiles;
  }

  #freeMemory(): void {
    for (const { coverage, kept } of this.#touched.values()) {
      if (coverage) this.bench.store.freeCoverage(coverage);
      if (kept) this.bench.store.freeCoverage(kept);
    }
    this.#touched.clear();
    this.#settled.free();
    this.#trial.free();
    this.#smear?.free();
  }
}
