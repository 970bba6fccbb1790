import { hexToRgb } from "../colour/oklch";
import { paintOf } from "../pigment/pigment";
import { type Picture } from "../picture/picture";
import { Chance } from "../stroke/chance";
import { type PathPoint } from "../stroke/path";
import { type Bench } from "../bench";
import { type StrokeStart } from "../stroke/stroker";
import { type Box, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { BANDS } from "./bundle";
import { type Carried } from "./carried";
import { carriedOnBlade, loadBlade } from "./loading";
import { type Knife } from "./knife";
import { grows } from "./motion";
import { WetStroke } from "./wet-stroke";

/** Words of a step, and of a cell of the edge: four slots of seven bands and an amount (`kernels/oil/knife.ts`). */
const STEP_WORDS = 24;
const SLOT_WORDS = 8;
const CELL_WORDS = 32;
/** Longest step, px. */
const STEP = 1.5;
/** The blade turns with the travel over this share of its width. */
const TURN_OVER = 0.3;
/** Steps are carried out in batches: a batch is one tape, because the edge goes through all tiles in order. */
const BATCH = 48;
/** How far beyond its edge a step reaches, px, and a tile from its middle. */
const BESIDE = 6;
const TILE_REACH = TILE_SIDE * 0.75;
/** Px of paint for each px of way that a load is reckoned with. */
const SPREADS = 1.2;

/** A stroke of the knife: clean in Blend, scraped off and wiped in Lift. */
export class KnifeStroke extends WetStroke {
  #style: Knife;
  #cells: number;
  #steps: number;
  #count: number;
  #queued = 0;
  #dirX = 1;
  #dirY = 0;
  /** The edge as it was at the last step. */
  #edge = { x: 0, y: 0, dirX: 1, dirY: 0 };
  #pressure = 0;
  #way = 0;

  /** @throws Refusal where the layer may not be worked on */
  constructor(bench: Bench, picture: Picture, start: StrokeStart, style: Knife) {
    super(bench, picture, start);
    this.#style = style;
    this.#count = Math.max(2, Math.ceil(start.size));
    const { heap } = bench.store;
    this.#cells = heap.allocate(this.#count * CELL_WORDS * 4);
    this.#steps = heap.allocate(BATCH * STEP_WORDS * 4);
    if (start.carried) loadBlade(this.#edgeCells(), this.#full, start.carried);
    else this.#load(start.mode === "paint" ? start.strength : 0);
  }

  /** What a cell of the edge holds when it is full, px³. */
  get #full(): number {
    return this.start.size * this.#style.run * SPREADS;
  }

  #edgeCells(): Float32Array {
    const first = this.#cells >> 2;
    return this.bench.store.heap.f32.subarray(first, first + this.#count * CELL_WORDS);
  }

  protected stock(): Carried {
    return carriedOnBlade(this.#edgeCells(), this.#full);
  }

  /** Loads the edge unevenly, as a knife takes paint up from a heap. */
  #load(amount: number): void {
    const { f32 } = this.bench.store.heap;
    const { colour, seed } = this.start;
    const paint = paintOf(hexToRgb(colour));
    const chance = new Chance(seed ^ 0x6a1f);
    const full = (this.#full * amount) / 4;
    for (let i = 0; i < this.#count * 4; i++) {
      const at = (this.#cells >> 2) + i * SLOT_WORDS;
      const volume = full * (0.6 + 0.8 * chance.at(i >> 5));
      for (let band = 0; band < BANDS; band++) f32[at + band] = volume * (paint[band] as number);
      f32[at + BANDS] = volume;
    }
  }

  protected free(): void {
    const { heap } = this.bench.store;
    heap.free(this.#cells, this.#count * CELL_WORDS * 4);
    heap.free(this.#steps, BATCH * STEP_WORDS * 4);
  }

  protected setDown(point: PathPoint, dirX: number, dirY: number): void {
    [this.#dirX, this.#dirY] = [dirX, dirY];
    this.#edge = { x: point.x, y: point.y, dirX, dirY };
    this.#pressure = point.pressure;
  }

  protected goTo(point: PathPoint, way: number, dirX: number, dirY: number): void {
    if (way < 1e-6) return;
    const from = this.last as PathPoint;
    const steps = Math.ceil(way / STEP);
    for (let i = 1; i <= steps; i++) {
      const t = i / steps;
      this.#turn(way / steps, dirX, dirY);
      this.#pressure = from.pressure + (point.pressure - from.pressure) * t;
      this.#queue(from.x + (point.x - from.x) * t, from.y + (point.y - from.y) * t, way / steps);
    }
    this.#carryOut();
  }

  protected goBeyond(point: PathPoint, way: number, dirX: number, dirY: number): void {
    this.#turn(way, dirX, dirY);
    this.#edge = { x: point.x, y: point.y, dirX: this.#dirX, dirY: this.#dirY };
  }

  protected liftUp(): void {
    this.#carryOut();
  }

  #turn(way: number, dirX: number, dirY: number): void {
    const share = grows(way / (TURN_OVER * this.start.size));
    const x = this.#dirX + (dirX - this.#dirX) * share;
    const y = this.#dirY + (dirY - this.#dirY) * share;
    const size = Math.sqrt(x * x + y * y);
    [this.#dirX, this.#dirY] = size > 0.05 ? [x / size, y / size] : [dirX, dirY];
  }

  /** Notes a step of the edge to a place. */
  #queue(x: number, y: number, way: number): void {
    if (this.#queued === BATCH) this.#carryOut();
    const { f32, i32 } = this.bench.store.heap;
    const at = (this.#steps >> 2) + this.#queued++ * STEP_WORDS;
    const { mode, size, seed } = this.start;
    const { marbles, leaves } = this.#style;
    const before = this.#edge;
    this.#way += way;
    const now = { x, y, dirX: this.#dirX, dirY: this.#dirY };
    const scrapes = mode === "lift";
    f32.set([before.x, before.y, before.dirX, before.dirY, x, y, now.dirX, now.dirY], at);
    f32.set([size / 2, this.#pressure, marbles, way, this.#way], at + 8);
    f32[at + 13] = scrapes ? 0 : leaves;
    f32[at + 14] = scrapes ? 0 : 1;
    i32[at + 15] = seed | 0;
    // The edge lies across its travel.
    const half = size / 2;
    const wide = half * Math.max(Math.abs(before.dirY), Math.abs(now.dirY)) + BESIDE;
    const high = half * Math.max(Math.abs(before.dirX), Math.abs(now.dirX)) + BESIDE;
    i32[at + 16] = Math.floor(Math.min(x, before.x) - wide);
    i32[at + 17] = Math.floor(Math.min(y, before.y) - high);
    i32[at + 18] = Math.ceil(Math.max(x, before.x) + wide);
    i32[at + 19] = Math.ceil(Math.max(y, before.y) + high);
    this.#edge = now;
  }

  #carryOut(): void {
    if (this.#queued === 0) return;
    const { workforce } = this.bench;
    const boxes = Array.from({ length: this.#queued }, (_, i) => this.#tilesOf(i));
    this.tiles.wake([...new Set(boxes.flatMap(({ keys }) => keys))]);
    workforce.beginJob();
    boxes.forEach(({ keys, box }, i) => {
      const step = this.#steps + i * STEP_WORDS * 4;
      for (const key of keys) this.#write(key, step, box);
      const { f32 } = this.bench.store.heap;
      const [px, way] = [f32[(step >> 2) + 11] as number, f32[(step >> 2) + 12] as number];
      const numbers = [px, this.#style.marbles, way].map(realWord);
      workforce.write(TAPE.knifeCreep, this.#cells, this.#count, ...numbers, this.start.seed | 0);
    });
    workforce.endJob();
    workforce.run(false);
    this.#queued = 0;
  }

  #tilesOf(step: number) {
    const { i32, f32 } = this.bench.store.heap;
    const at = (this.#steps >> 2) + step * STEP_WORDS;
    const [left = 0, top = 0, right = 0, bottom = 0] = i32.subarray(at + 16, at + 20);
    const { width, height } = this.picture;
    const box = { left, top, right, bottom };
    const [x0 = 0, y0 = 0, u0 = 0, v0 = 0, x1 = 0, y1 = 0, u1 = 0, v1 = 0] = f32.subarray(
      at,
      at + 8,
    );
    const lies = (key: number): boolean => {
      const x = (tileColumn(key) + 0.5) * TILE_SIDE;
      const y = (tileRow(key) + 0.5) * TILE_SIDE;
      const before = (x - x0) * u0 + (y - y0) * v0;
      const now = (x - x1) * u1 + (y - y1) * v1;
      return before > -TILE_REACH && now < TILE_REACH;
    };
    return { box, keys: tilesIn(box, width, height).filter(lies) };
  }

  #write(key: number, step: number, box: Box): void {
    const wet = this.tiles.at(key);
    if (!wet) return;
    const [px, py] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    this.bench.workforce.write(TAPE.knife, wet, px, py, step, this.#cells, this.#count);
    this.tiles.stain(key, box);
  }
}
