import { COLOUR, type Picture, type PlaneName, POWDER, isFluid } from "../picture/picture";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import {
  type Box,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  tilesAround,
  tilesIn,
} from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { DRIP_WORDS, Drips, MOST_DRIPS } from "./drips";
import { workFilm } from "./film-at-work";
import { NUMBERS_BYTES, stepsUntilDry, writeNumbers } from "./paints";
import { FLAT, type Wash } from "./wash-state";
import { PAINTS, REST, WASHED, WATER } from "./wash-planes";

/**
 * Words of a state's last plane: 1 says that a tile belongs to the wash; how many steps were taken; how many drips
 * are kept here, and they themselves.
 */
const MARKER = (7 * 4096) / 4;
const TICK = MARKER + 1;
const DRIPS = MARKER + 2;
/** Paint shows so far beyond its cell, px. */
const REACH = 18;
/** Words that a step says of a tile: see `kernels/water/step.ts`. */
const STATS_BYTES = 32;
/** Threads are woken for more tiles than this. */
const TOGETHER_FROM = 3;
/** Steps of water a second. */
const STEPS_A_SECOND = 60;

type Worked = {
  key: number;
  /** What is dry below, and what a stroke makes of that. */
  under: Tile | null;
  lifted: Tile | null;
  /** What a stroke's water makes of the powder of dry marks; null where it leaves it. */
  powder: { before: Tile; after: Tile } | null;
  colourBefore: Tile | null;
  colour: Tile;
  /** Its state, and where the next step of it is written (0: nowhere yet). */
  now: number;
  next: number;
  /** What the last step said of it; 0 before the first. */
  stats: number;
  /** Whether anything in it is to be kept anew. */
  isChanged: boolean;
  /** Rows that have changed since they were shown. */
  stale: [top: number, bottom: number] | null;
};

/** Where the state of a layer's washes comes from: what is wet, what is at rest, or nothing. */
export type From = typeof WATER | typeof REST | null;

/**
 * The tiles of a layer's washes while a stroke or time works them. Each is unpacked when it is first reached and
 * shown in the layer's colour as it changes.
 */
export class WashTiles {
  #worked = new Map<number, Worked>();
  /** Tiles that have changed since they were shown, the longest waiting first. */
  #stale = new Set<number>();
  #numbers: number;
  #lots: number;
  #tick = 0;
  #drips: Drips | null = null;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly layer: string,
    public wash: Wash,
    readonly from: From,
    readonly pace?: number,
  ) {
    const { heap } = bench.store;
    this.#numbers = heap.allocate(NUMBERS_BYTES);
    this.#writeNumbers();
    this.#lots = 1 + Math.max(1, Math.ceil(wash.paints.length / 4));
    workFilm(picture, layer, (key) => this.at(key));
  }

  #writeNumbers(): void {
    const tilt = this.picture.structure.tilt ?? FLAT;
    writeNumbers(this.bench.store.heap, this.#numbers, this.wash, tilt, this.pace);
  }

  /** Takes other paints for those in it, as many. */
  setWash(wash: Wash): void {
    this.wash = wash;
    this.#writeNumbers();
  }

  get slots(): number {
    return this.wash.paints.length;
  }

  get numbers(): number {
    return this.#numbers;
  }

  get keys(): number[] {
    return [...this.#worked.keys()];
  }

  get #stateBytes(): number {
    return this.#lots * TILE_BYTES;
  }

  #plane(name: PlaneName): Map<number, Tile> {
    return this.picture.plane(this.layer, name);
  }

  #address(tile: Tile | null | undefined): number {
    const { store } = this.bench;
    return tile ? store.address(tile) : store.nothing;
  }

  /** Planes that a state comes from and goes to. */
  #planesFor(water: PlaneName): PlaneName[] {
    return [water, ...PAINTS.slice(0, this.#lots - 1)];
  }

  /** Makes tiles ready, and those around them that belong to the wash. */
  wake(keys: readonly number[]): void {
    for (const key of keys) if (!this.#worked.has(key)) this.#begin(key);
    if (!this.from) return;
    const known = this.#plane(this.from);
    for (const key of keys)
      for (const near of tilesAround(key))
        if (near >= 0 && known.has(near) && !this.#worked.has(near)) this.#begin(near);
  }

  #begin(key: number): void {
    const { store } = this.bench;
    const { heap, kernels } = store;
    const belongs = this.from !== null && this.#plane(this.from).has(key);
    const colourBefore = this.#plane(COLOUR).get(key) ?? null;
    const colour = store.create();
    kernels.copyBytes(colour.address, this.#address(colourBefore), TILE_BYTES);
    const now = heap.allocate(this.#stateBytes);
    this.#planesFor(this.from ?? WATER).forEach((name, i) => {
      const tile = belongs ? this.#plane(name).get(key) : null;
      kernels.copyBytes(now + i * TILE_BYTES, this.#address(tile), TILE_BYTES);
    });
    heap.f32[(now >> 2) + MARKER] = 1;
    if (!belongs) this.#holdOff(key, now);
    const under = belongs ? (this.#plane(WASHED).get(key) ?? null) : colourBefore;
    this.#worked.set(key, {
      lifted: null,
      powder: null,
      isChanged: false,
      key,
      under,
      colourBefore,
      colour,
      now,
      next: 0,
      stats: 0,
      stale: null,
    });
    this.#plane(COLOUR).set(key, colour);
  }

  /** Wax and masking fluid hold water off, on whatever layer they lie. */
  #holdOff(key: number, now: number): void {
    const { workforce, store } = this.bench;
    for (const layer of this.picture.structure.layers) {
      if (!layer.visible) continue;
      const planes = this.picture.planes.get(layer.id);
      const powder = planes?.get(POWDER)?.get(key);
      const film = isFluid(layer) ? planes?.get(COLOUR)?.get(key) : undefined;
      if (!powder && !film) continue;
      workforce.beginJob();
      if (powder) workforce.write(TAPE.waxResists, now, store.address(powder));
      if (film) workforce.write(TAPE.fluidResists, now, store.address(film));
      workforce.endJob();
    }
    if (!workforce.isEmpty) workforce.run(false);
  }

  /** Where a tile's state is; 0 where it is not worked. */
  at(key: number): number {
    return this.#worked.get(key)?.now ?? 0;
  }

  /** What is dry below a tile, as it was, and where it can be changed; null where there is nothing. */
  underOf(key: number): { before: number; own: number } | null {
    const worked = this.#worked.get(key);
    if (!worked?.under) return null;
    const { store } = this.bench;
    worked.lifted ??= store.create();
    return { before: store.address(worked.under), own: store.address(worked.lifted) };
  }

  /** The powder of a tile's dry marks, as it was, and where it can be changed; null where there is none. */
  powderOf(key: number): { before: number; own: number } | null {
    const worked = this.#worked.get(key);
    const before = this.#plane(POWDER).get(key);
    if (!worked || !before) return null;
    const { store } = this.bench;
    worked.powder ??= { before, after: store.create() };
    return { before: store.address(before), own: store.address(worked.powder.after) };
  }

  /** Notes that what lies in a box of picture px has changed. */
  stain({ left, top, right, bottom }: Box): void {
    const reached = {
      left: left - REACH,
      top: top - REACH,
      right: right + REACH,
      bottom: bottom + REACH,
    };
    for (const key of tilesIn(reached, this.picture.width, this.picture.height)) {
      const worked = this.#worked.get(key);
      if (!worked) continue;
      const py = tileRow(key) * TILE_SIDE;
      const first = Math.max(0, Math.floor(reached.top - py) & ~1);
      const last = Math.min(TILE_SIDE, (Math.ceil(reached.bottom - py) + 1) & ~1);
      if (last <= first) continue;
      worked.isChanged = true;
      this.#stale.add(key);
      const stale = (worked.stale ??= [first, last]);
      stale[0] = Math.min(stale[0], first);
      stale[1] = Math.max(stale[1], last);
    }
  }

  /** Shows what has changed, `most` tiles of it, the longest waiting first. Returns their keys. */
  show(most = Infinity): number[] {
    const { workforce } = this.bench;
    const shown: number[] = [];
    for (const key of this.#stale) {
      if (shown.length >= most) break;
      this.#stale.delete(key);
      const worked = this.#worked.get(key);
      if (!worked?.stale) continue;
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      this.#writeShow(worked, worked.stale);
      workforce.endJob();
      worked.stale = null;
      shown.push(key);
    }
    workforce.run(shown.length > TOGETHER_FROM);
    return shown;
  }

  #writeShow(
    { key, colour, under, lifted }: Worked,
    [top, bottom]: readonly [number, number],
  ): void {
    const { store, workforce } = this.bench;
    const paper = this.bench.washPaper(this.picture);
    workforce.write(
      ...[
        TAPE.developWash,
        store.address(colour),
        this.#address(lifted ?? under),
        ...this.#hood(key),
        this.slots,
      ],
      ...[tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE, paper.address, paper.side],
      ...[this.#numbers, top, bottom],
    );
  }

  #hood(key: number): number[] {
    return tilesAround(key).map((near) => this.at(near));
  }

  /**
   * Lets 1/60 s pass for tiles that water is in, and those it may reach. What it says of a tile counts for the next
   * step, so that it is the same however often the work is put down in between.
   * @returns whether any water is left
   */
  step(): boolean {
    const { heap } = this.bench.store;
    for (const worked of this.#worked.values()) if (!worked.stats) this.#look(worked);
    const active = new Set<number>();
    for (const { key, stats } of this.#worked.values()) {
      const at = stats >> 2;
      if ((heap.f32[at] as number) <= 0 && (heap.f32[at + 1] as number) <= 0) continue;
      active.add(key);
      for (const near of this.#reachedFrom(key, at)) active.add(near);
    }
    if (active.size === 0) return false;
    const keys = [...active].sort((a, b) => a - b);
    for (const key of keys) if (!this.#worked.has(key)) this.#begin(key);
    this.#runStep(keys);
    return true;
  }

  /** Tiles that what covers the sides of a tile may come to. */
  #reachedFrom(key: number, at: number): number[] {
    const { f32 } = this.bench.store.heap;
    const [left = 0, right = 0, above = 0, below = 0] = f32.subarray(at + 2, at + 6);
    const [column, row] = [tileColumn(key), tileRow(key)];
    const reached: number[] = [];
    for (const [v, vertical] of [
      [-1, above],
      [0, 1],
      [1, below],
    ] as const)
      for (const [u, across] of [
        [-1, left],
        [0, 1],
        [1, right],
      ] as const) {
        if (vertical <= 0 || across <= 0 || (u === 0 && v === 0)) continue;
        const [x, y] = [(column + u) * TILE_SIDE, (row + v) * TILE_SIDE];
        if (x < 0 || y < 0 || x >= this.picture.width || y >= this.picture.height) continue;
        reached.push(tileKey(column + u, row + v));
      }
    return reached;
  }

  /** What a tile holds, before its first step. */
  #look(worked: Worked): void {
    const { heap } = this.bench.store;
    worked.stats = heap.allocate(STATS_BYTES);
    const { workforce } = this.bench;
    workforce.beginJob();
    workforce.write(TAPE.lookAtWash, worked.now, worked.stats);
    workforce.endJob();
    workforce.run(false);
  }

  #runStep(keys: readonly number[]): void {
    const { workforce, store } = this.bench;
    const { heap } = store;
    const paper = this.bench.washPaper(this.picture);
    const { width, height } = this.picture;
    const stepped = keys.map((key) => this.#worked.get(key) as Worked);
    for (const worked of stepped) {
      worked.next ||= this.#newState();
      worked.stats ||= heap.allocate(STATS_BYTES);
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      workforce.write(
        ...[TAPE.washStep, worked.now, worked.next, ...this.#hood(worked.key), this.slots],
        ...[tileColumn(worked.key) * TILE_SIDE, tileRow(worked.key) * TILE_SIDE, width, height],
        ...[paper.address, paper.side, this.#numbers, worked.stats],
      );
      workforce.endJob();
    }
    workforce.run(stepped.length > TOGETHER_FROM);
    this.#tick++;
    for (const worked of stepped) {
      [worked.now, worked.next] = [worked.next, worked.now];
      heap.f32[(worked.now >> 2) + MARKER] = 1;
      heap.f32[(worked.now >> 2) + TICK] = this.#tick;
      this.stain(tileBox(worked.key));
    }
    this.#drips?.step((key) => this.at(key), keys, this.#tick);
  }

  #newState(): number {
    const { heap } = this.bench.store;
    const made = heap.allocate(this.#stateBytes);
    // Places of paints that are not there stay as they are.
    heap.u8.fill(0, made, made + this.#stateBytes);
    return made;
  }

  /** Time goes on where it stood: takes over the drips that were under way. All tiles are awake. */
  takeUp(): void {
    const { f32 } = this.bench.store.heap;
    this.#drips = new Drips(this.bench, this.picture, this.picture.structure.tilt ?? FLAT);
    for (const { now } of this.#worked.values()) {
      const first = now >> 2;
      this.#tick = Math.max(this.#tick, f32[first + TICK] as number);
      const count = f32[first + DRIPS] as number;
      for (let i = 0; i < count; i++) {
        const at = first + DRIPS + 1 + i * DRIP_WORDS;
        const [x = 0, y = 0, idle = 0] = f32.subarray(at, at + DRIP_WORDS);
        this.#drips.list.push({ x, y, idle });
      }
    }
    this.#drips.list.sort((a, b) => a.y - b.y || a.x - b.x);
  }

  /** Puts the drips down in the first tile. */
  #putDown(): void {
    const { f32 } = this.bench.store.heap;
    if (!this.#drips) return;
    const list = this.#drips.list.toSorted((a, b) => a.y - b.y || a.x - b.x);
    const all = [...this.#worked.values()].sort((a, b) => a.key - b.key);
    all.forEach((worked, i) => {
      const at = (worked.now >> 2) + DRIPS;
      const kept = i === 0 ? list : [];
      if (kept.length === 0 && (f32[at] as number) === 0) return;
      worked.isChanged = true;
      f32.fill(0, at, at + 1 + MOST_DRIPS * DRIP_WORDS);
      f32[at] = kept.length;
      kept.forEach(({ x, y, idle }, n) => f32.set([x, y, idle], at + 1 + n * DRIP_WORDS));
    });
  }

  /** Seconds until all is dry, about: the water goes first, then what the paper holds. */
  get secondsLeft(): number {
    const { f32 } = this.bench.store.heap;
    let most = 0;
    for (const { stats } of this.#worked.values()) {
      if (!stats) continue;
      const [water = 0, moist = 0] = f32.subarray(stats >> 2, (stats >> 2) + 2);
      most = Math.max(most, stepsUntilDry(water, moist, this.pace ?? this.wash.pace));
    }
    return most / STEPS_A_SECOND;
  }

  /** Two paints become one: the second's amounts are added to the first's, and the last paint takes its place. */
  joinPaints(into: number, gone: number, last: number): void {
    const { f32 } = this.bench.store.heap;
    for (const worked of this.#worked.values()) worked.isChanged = true;
    for (const { now } of this.#worked.values())
      for (const settled of [0, 4096]) {
        const [a, b, c] = [into, gone, last].map((slot) => (now + hangs(slot)) / 4 + settled) as [
          number,
          number,
          number,
        ];
        for (let i = 0; i < 1024; i++) {
          f32[a + i] = (f32[a + i] as number) + (f32[b + i] as number);
          f32[b + i] = f32[c + i] as number;
          f32[c + i] = 0;
        }
      }
  }

  /** How much of each paint there is. */
  amounts(): number[] {
    const { f32 } = this.bench.store.heap;
    return this.wash.paints.map((_, slot) => {
      let sum = 0;
      for (const { now } of this.#worked.values()) {
        const at = (now + hangs(slot)) / 4;
        for (let i = 0; i < 1024; i++)
          sum += (f32[at + i] as number) + (f32[at + 4096 + i] as number);
      }
      return sum;
    });
  }

  /**
   * Shows and packs everything.
   * @param isAtRest its water has gone: it is at rest
   * @returns what has changed; the planes still hold the tiles of before but for colour
   */
  finish(isAtRest: boolean): StrokeTile[] {
    const { store } = this.bench;
    this.show();
    this.#putDown();
    const changed: StrokeTile[] = [];
    for (const [key, worked] of this.#worked) {
      if (worked.isChanged) changed.push(...this.#settled(worked, isAtRest));
      else {
        this.#putBack(worked);
        this.#unpack(worked);
        this.#worked.delete(key);
      }
    }
    changed.push(...this.#left(isAtRest));
    this.#free();
    for (const { after } of changed) store.settle(after);
    return changed;
  }

  #settled(worked: Worked, isAtRest: boolean): StrokeTile[] {
    const { key, under, lifted, powder, colour, colourBefore, now } = worked;
    const { store } = this.bench;
    const changed: StrokeTile[] = [{ plane: COLOUR, key, before: colourBefore, after: colour }];
    const to = isAtRest ? REST : WATER;
    this.#planesFor(to).forEach((plane, i) => {
      const after = store.create();
      store.kernels.copyBytes(after.address, now + i * TILE_BYTES, TILE_BYTES);
      changed.push({ plane, key, before: this.#plane(plane).get(key) ?? null, after });
    });
    if (powder) changed.push({ plane: POWDER, key, ...powder });
    const belonged = this.from !== null && this.#plane(this.from).has(key);
    if (!belonged || lifted) {
      const before = this.#plane(WASHED).get(key) ?? null;
      changed.push({
        plane: WASHED,
        key,
        before,
        after: lifted ?? (under ? store.retain(under) : empty(store)),
      });
    }
    return changed;
  }

  /** What becomes of tiles that were not worked: they change from wet to at rest with the others, or are forgotten. */
  #left(isAtRest: boolean): StrokeTile[] {
    const { store } = this.bench;
    const to = isAtRest ? REST : WATER;
    const changed: StrokeTile[] = [];
    for (const plane of [WATER, REST] as const) {
      if (plane === to) continue;
      for (const [key, before] of this.#plane(plane)) {
        changed.push({ plane, key, before, after: empty(store) });
        const moves = this.from === plane && !this.#worked.has(key);
        if (moves) changed.push({ plane: to, key, before: null, after: store.retain(before) });
      }
    }
    if (this.from) return changed;
    for (const plane of [...PAINTS, WASHED])
      for (const [key, before] of this.#plane(plane))
        if (!this.#worked.has(key)) changed.push({ plane, key, before, after: empty(store) });
    for (const plane of PAINTS.slice(this.#lots - 1))
      for (const [key, before] of this.#plane(plane))
        if (this.#worked.has(key)) changed.push({ plane, key, before, after: empty(store) });
    return changed;
  }

  /** Puts everything back as it was. Returns the keys of the tiles that had changed. */
  abandon(): number[] {
    const { keys } = this;
    for (const worked of this.#worked.values()) this.#putBack(worked);
    this.#free();
    return keys;
  }

  /** What is seen of a tile is as it was. */
  #putBack({ key, lifted, powder, colour, colourBefore }: Worked): void {
    if (colourBefore) this.#plane(COLOUR).set(key, colourBefore);
    else this.#plane(COLOUR).delete(key);
    this.bench.store.release(colour);
    if (lifted) this.bench.store.release(lifted);
    if (powder) this.bench.store.release(powder.after);
  }

  /** Gives back the memory of a tile's states. */
  #unpack({ now, next, stats }: Worked): void {
    const { heap } = this.bench.store;
    heap.free(now, this.#stateBytes);
    if (next) heap.free(next, this.#stateBytes);
    if (stats) heap.free(stats, STATS_BYTES);
  }

  #free(): void {
    const { heap } = this.bench.store;
    for (const worked of this.#worked.values()) this.#unpack(worked);
    this.#worked.clear();
    workFilm(this.picture, this.layer, null);
    heap.free(this.#numbers, NUMBERS_BYTES);
  }
}

/** Where what hangs of a paint is in a state, bytes: see `kernels/water/film.ts`. */
const hangs = (slot: number): number => TILE_BYTES * (1 + (slot >> 2)) + 4096 * (slot & 3);

const empty = (store: Bench["store"]): Tile => store.plain([0, 0, 0, 0]);

function tileBox(key: number): Box {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  return { left, top, right: left + TILE_SIDE, bottom: top + TILE_SIDE };
}
