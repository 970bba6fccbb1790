import { hexToRgb } from "../colour/oklch";
import { paintOf } from "../pigment/pigment";
import { type Picture } from "../picture/picture";
import { Chance } from "../stroke/chance";
import { mixPoint, type PathPoint } from "../stroke/path";
import { type Bench } from "../bench";
import { type StrokeStart } from "../stroke/stroker";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { SLAB } from "../slab/slab";
import { type Bristles } from "./bristles";
import { type Bristle, type Bundle, plant } from "./bundle";
import { type Carried } from "./carried";
import { carriedInTuft, loadTuft } from "./loading";
import { type Hand, Motion } from "./motion";
import { FULL, type Handling, SUM_WORDS, SWEEP_WORDS, Sweeps } from "./sweep";
import { WetStroke } from "./wet-stroke";

/** Steps of the tuft: so many radii of a bristle apart, or as soon as the pressure has changed by so much. */
const STEP = 0.5;
const PRESS_STEP = 0.06;
/** Bristles so broad, px, are swept together every so many steps: a tile is then fetched once for several of them. */
const TOGETHER = { from: 6, every: 3 };
/** Longest way between two looks at the path, px: steps of wide tufts are longer. */
const LEAST_STEP = 0.5;
/** Sums of so many sweeps, one for each tile that a sweep reaches. */
const MOST_SUMS = 48_000;
/** Threads are woken for a step whose sweeps go over so many px. */
const TOGETHER_FROM = 30_000;
/** How full the tuft is on the whole is looked at again after so many steps. */
const FULL_EVERY = 8;

const HANDLINGS = { paint: "paint", blend: "blend", lift: "wipe" } as const;

/**
 * A stroke of oil: a tuft of bristles swept over wet paint, step by step. A step works out the sweeps of all
 * bristles that are due, carries them out tile by tile, and books what they moved; tiles are apart from each
 * other in a step, so they go to all threads, and sums are booked in the order of tiles.
 */
export class OilStroke extends WetStroke {
  #style: Bristles;
  #bundle: Bundle;
  #motion: Motion;
  #sweeps: Sweeps;
  #pressed = 0;
  #steps = 0;
  /** Way since the last step, px. */
  #since = 0;
  /** Steps since the last sweeps, and after how many bristles are swept. */
  #waited = 0;
  readonly #every: number;
  /** For each sum of a step, which of the sweeps it is of. */
  #booked = new Int32Array(MOST_SUMS);
  #memory: { sweeps: number; lists: number; sums: number };

  /** @throws Refusal where the layer may not be worked on */
  constructor(bench: Bench, picture: Picture, start: StrokeStart, style: Bristles) {
    super(bench, picture, start);
    const { size, seed, carried } = start;
    const handling: Handling = HANDLINGS[start.mode];
    const amount = handling === "paint" && !carried ? start.strength : 0;
    this.#style = style;
    this.#bundle = plant(style, size, amount, paintOf(hexToRgb(start.colour)), seed);
    if (carried) loadTuft(this.#bundle, style, size, carried);
    this.#motion = new Motion(style, this.#bundle, size, new Chance(seed ^ 0x51ed));
    // On the slab a brush that keeps its paint is loaded, as much as it lays.
    const soaks = carried !== null && start.layer === SLAB;
    const chance = new Chance(seed ^ 0x2b7e);
    const thinner = handling === "paint" ? start.thinner : 0;
    this.#sweeps = new Sweeps(style, this.#bundle, size, handling, chance, soaks, thinner);
    this.#every = this.#bundle.radius < TOGETHER.from ? 1 : TOGETHER.every;
    const { heap } = bench.store;
    const count = this.#bundle.bristles.length;
    this.#memory = {
      sweeps: heap.allocate(count * SWEEP_WORDS * 4),
      lists: heap.allocate(MOST_SUMS * 4),
      sums: heap.allocate(MOST_SUMS * SUM_WORDS * 4),
    };
  }

  protected free(): void {
    const { heap } = this.bench.store;
    heap.free(this.#memory.sweeps, this.#bundle.bristles.length * SWEEP_WORDS * 4);
    heap.free(this.#memory.lists, MOST_SUMS * 4);
    heap.free(this.#memory.sums, MOST_SUMS * SUM_WORDS * 4);
  }

  protected stock(): Carried {
    return carriedInTuft(this.#bundle, this.#style, this.start.size);
  }

  protected setDown(point: PathPoint, dirX: number, dirY: number): void {
    this.#motion.begin(point, dirX, dirY);
    this.#step(point, 0, dirX, dirY, false);
  }

  protected goTo(point: PathPoint, way: number, dirX: number, dirY: number): void {
    const from = this.last as PathPoint;
    const apart = Math.max(LEAST_STEP, STEP * this.#bundle.radius);
    let gone = 0;
    while (this.#since + (way - gone) >= apart) {
      gone += apart - this.#since;
      this.#since = 0;
      this.#step(mixPoint(from, point, gone / way, point.s), apart, dirX, dirY, false);
    }
    this.#since += way - gone;
    if (Math.abs(point.pressure - this.#pressed) >= PRESS_STEP) {
      this.#step(point, this.#since, dirX, dirY, false);
      this.#since = 0;
    }
  }

  protected goBeyond(point: PathPoint, way: number, dirX: number, dirY: number): void {
    this.#motion.follow(point, way, dirX, dirY);
    for (const b of this.#bundle.bristles) {
      b.sweptX = b.x;
      b.sweptY = b.y;
      b.way = 0;
    }
  }

  /** All that is left is swept. */
  protected liftUp(): void {
    const end = this.last;
    if (end) this.#step(end, 0, this.#motion.dirX, this.#motion.dirY, true);
  }

  /** One step of the tuft; at the end all that is left is swept. */
  #step(hand: Hand, way: number, dirX: number, dirY: number, isEnd: boolean): void {
    const { bristles } = this.#bundle;
    if (way > 0) this.#motion.follow(hand, way, dirX, dirY);
    const presses = Math.abs(hand.pressure - this.#pressed) >= PRESS_STEP;
    if (presses) this.#pressed = hand.pressure;
    const due = bristles.filter((b, i) => this.#isDue(b, i, presses, isEnd));
    if (++this.#waited < this.#every && !presses && !isEnd) return;
    this.#waited = 0;
    if (due.length > 0) this.#sweep(due, hand.pressure);
  }

  #isDue(b: Bristle, index: number, presses: boolean, isEnd: boolean): boolean {
    if (b.press <= 0 && b.sweptPress <= 0) {
      // In the air: where it comes down is where its track begins.
      b.sweptX = b.x;
      b.sweptY = b.y;
      b.way = 0;
      b.level = NaN;
      return false;
    }
    if (presses && b.press > b.sweptPress) return true;
    return isEnd ? b.way > 0.05 : b.way >= this.#sweeps.pace(b, index);
  }

  /** Sweeps bristles from where they were swept to last, and books what that moved. */
  #sweep(due: readonly Bristle[], pressure: number): void {
    const { store, workforce } = this.bench;
    const { heap } = store;
    const byTile = this.#reached(due);
    this.tiles.wake([...byTile.keys()]);
    this.#touchDown(due);
    due.forEach((b, i) => {
      const at = (this.#memory.sweeps >> 2) + i * SWEEP_WORDS;
      this.#sweeps.write(heap.f32, heap.i32, at, b, this.#motion, pressure);
    });
    let listed = 0;
    for (const [key, indices] of byTile) {
      const wet = this.tiles.at(key);
      if (!wet || listed + indices.length > MOST_SUMS) continue;
      const list = this.#memory.lists + listed * 4;
      const sums = this.#memory.sums + listed * SUM_WORDS * 4;
      heap.i32.set(indices, list >> 2);
      const [px, py] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
      workforce.beginJob();
      workforce.write(TAPE.sweep, wet, px, py, this.#memory.sweeps, list, indices.length, sums);
      workforce.endJob();
      this.#stain(key, indices, heap.i32);
      for (const index of indices) this.#booked[listed++] = index;
    }
    workforce.run(byTile.size > 1 && this.#areaOf(due.length, heap.i32) >= TOGETHER_FROM);
    this.#book(due, listed, heap.f32);
  }

  /** Px of the boxes of the sweeps. */
  #areaOf(count: number, i32: Int32Array): number {
    let area = 0;
    for (let i = 0; i < count; i++) {
      const at = (this.#memory.sweeps >> 2) + i * SWEEP_WORDS + 46;
      const wide = (i32[at + 2] as number) - (i32[at] as number);
      area += wide * ((i32[at + 3] as number) - (i32[at + 1] as number));
    }
    return area;
  }

  /** Notes where sweeps change a tile. */
  #stain(key: number, indices: readonly number[], i32: Int32Array): void {
    let left = Infinity;
    let top = Infinity;
    let right = -Infinity;
    let bottom = -Infinity;
    for (const index of indices) {
      const at = (this.#memory.sweeps >> 2) + index * SWEEP_WORDS + 46;
      left = Math.min(left, i32[at] as number);
      top = Math.min(top, i32[at + 1] as number);
      right = Math.max(right, i32[at + 2] as number);
      bottom = Math.max(bottom, i32[at + 3] as number);
    }
    this.tiles.stain(key, { left, top, right, bottom }, "marked");
  }

  /** Books the sums of a step, in the order of tiles. */
  #book(due: readonly Bristle[], count: number, f32: Float32Array): void {
    const first = this.#memory.sums >> 2;
    for (let i = 0; i < count; i++)
      this.#sweeps.book(f32, first + i * SUM_WORDS, due[this.#booked[i] as number] as Bristle);
    for (const b of due) this.#sweeps.settle(b);
    if (this.#steps++ % FULL_EVERY !== 0) return;
    let full = 0;
    for (const b of this.#bundle.bristles) full += Math.min(1, b.tip.volume / b.area / FULL);
    this.#motion.full = full / this.#bundle.bristles.length;
  }

  /** Which sweeps reach which tile, tiles in order. */
  #reached(due: readonly Bristle[]): Map<number, number[]> {
    const { width, height } = this.picture;
    const byTile = new Map<number, number[]>();
    due.forEach((b, i) => {
      const far = 4 * b.radius + 2;
      const box = {
        left: Math.min(b.x, b.sweptX) - far,
        top: Math.min(b.y, b.sweptY) - far,
        right: Math.max(b.x, b.sweptX) + far,
        bottom: Math.max(b.y, b.sweptY) + far,
      };
      for (const key of tilesIn(box, width, height)) {
        const known = byTile.get(key);
        if (known) known.push(i);
        else byTile.set(key, [i]);
      }
    });
    return new Map([...byTile].sort(([a], [b]) => a - b));
  }

  /** Bristles that have just come down run on what lies there. */
  #touchDown(due: readonly Bristle[]): void {
    for (const b of due) {
      if (Number.isNaN(b.level))
        b.level = this.tiles.heightAround(b.sweptX, b.sweptY, 1.5 * b.radius);
    }
  }
}
