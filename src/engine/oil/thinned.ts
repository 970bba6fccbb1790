import { type Picture } from "../picture/picture";
import { SLAB, slabOf } from "../slab/slab";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import { type Running } from "../time/running";
import {
  type Box,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  tilesAround,
  tilesIn,
} from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { WetTiles } from "./wet-tiles";
import { THINNER } from "./wet-planes";

/** How hard thinned paint is drawn down a sheet that stands on its easel. The slab lies flat. */
const EASEL = 0.35;
/** Bytes of a tile's field, and words where its two maxima are: see `kernels/oil/thinner.ts`. */
const FIELD_BYTES = 4 * TILE_SIDE * TILE_SIDE * 4 + 16;
const MOST_EASE = TILE_SIDE * TILE_SIDE * 4;
const MOST_THINNER = MOST_EASE + 1;
/** Most tiles that run at once: others wait until these have come to rest. */
const MOST_TILES = 900;

/** Right, then down; of each the even pairs, then the odd ones. */
const PHASES = [
  [0, 0],
  [0, 1],
  [1, 0],
  [1, 1],
] as const;

/** Thinned paint of one layer, or of the slab, running. */
export class Thinned implements Running {
  readonly #tiles: WetTiles;
  #surface: Picture;
  #gravity: number;
  #fields = new Map<number, number>();
  /** Tiles with thinner in them. */
  #thinned: number[];
  isAtRest = false;
  /** It runs until the last of it stands still. */
  readonly secondsLeft = null;

  constructor(
    readonly bench: Bench,
    picture: Picture,
    readonly layer: string,
  ) {
    const isOnSlab = layer === SLAB;
    this.#surface = isOnSlab ? slabOf(picture) : picture;
    this.#gravity = isOnSlab ? 0 : EASEL;
    this.#tiles = new WetTiles(bench, this.#surface, layer, { frame: null, card: null }, true);
    this.#thinned = [...picture.plane(layer, THINNER).keys()].sort((a, b) => a - b);
  }

  /** One step. */
  step(): void {
    const waiting = this.#thinned.slice(MOST_TILES);
    const keys = this.#reached(this.#thinned.slice(0, MOST_TILES));
    this.#tiles.wake(keys);
    const awake = keys.filter((key) => this.#tiles.at(key) !== 0);
    this.#run(awake, (key) => [TAPE.thinField, this.#tiles.at(key), this.#field(key)]);
    const { f32 } = this.bench.store.heap;
    const most = (key: number, word: number): number =>
      f32[((this.#fields.get(key) ?? 0) >> 2) + word] as number;
    const moving = new Set(awake.filter((key) => most(key, MOST_EASE) > 0));
    if (moving.size === 0) {
      this.#thinned = waiting;
      this.isAtRest = waiting.length === 0;
      return;
    }
    const thinned = awake.filter((key) => most(key, MOST_THINNER) > 0);
    this.#thinned = [...new Set([...thinned, ...waiting])];
    const running = awake.filter((key) => tilesAround(key).some((near) => moving.has(near)));
    const isRunning = new Set(running);
    this.#run(running, (key) => [
      TAPE.thinAround,
      ...tilesAround(key).map((near) => (isRunning.has(near) ? this.#field(near) : 0)),
      tileColumn(key) * TILE_SIDE,
      tileRow(key) * TILE_SIDE,
    ]);
    for (const [direction, odd] of PHASES) {
      this.#run(running, (key) => {
        const next = direction ? key + tileKey(0, 1) : key + tileKey(1, 0);
        const other = isRunning.has(next) ? this.#tiles.at(next) : 0;
        const fields = [this.#field(key), other ? this.#field(next) : 0];
        return [
          ...[TAPE.thinRun, this.#tiles.at(key), other, ...fields, direction, odd],
          realWord(this.#gravity),
        ];
      });
    }
    for (const key of running) {
      const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
      this.#tiles.stain(key, { left, top, right: left + TILE_SIDE, bottom: top + TILE_SIDE });
    }
  }

  /** Tiles with thinner, and those around them. */
  #reached(thinned: readonly number[]): number[] {
    const { width, height } = this.#surface;
    const found = new Set<number>();
    for (const key of thinned)
      for (const near of tilesIn(withNeighbours(key), width, height)) found.add(near);
    return [...found].sort((a, b) => a - b);
  }

  #field(key: number): number {
    const known = this.#fields.get(key);
    if (known !== undefined) return known;
    const { heap } = this.bench.store;
    const field = heap.allocate(FIELD_BYTES);
    heap.u8.fill(0, field, field + FIELD_BYTES);
    this.#fields.set(key, field);
    return field;
  }

  /** Does one thing to each of these tiles, on all threads. */
  #run(keys: readonly number[], of: (key: number) => readonly number[]): void {
    const { workforce } = this.bench;
    for (const key of keys) {
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      const [instruction = 0, ...operands] = of(key);
      workforce.write(instruction, ...operands);
      workforce.endJob();
    }
    workforce.run(keys.length > 3);
  }

  #free(): void {
    for (const field of this.#fields.values()) this.bench.store.heap.free(field, FIELD_BYTES);
    this.#fields.clear();
  }

  show(): number[] {
    return this.#tiles.show();
  }

  end(): StrokeTile[] {
    this.#free();
    // Too little is left to move anything: it is let go.
    return this.#tiles.finish(this.isAtRest);
  }
}

/** The box of a tile and its neighbours, px. */
function withNeighbours(key: number): Box {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  return {
    left: left - TILE_SIDE,
    top: top - TILE_SIDE,
    right: left + 2 * TILE_SIDE,
    bottom: top + 2 * TILE_SIDE,
  };
}

/** Whether thinner is left in a layer, or in what lies on the slab. */
export const isThinned = (picture: Picture, layer: string): boolean =>
  (picture.planes.get(layer)?.get(THINNER)?.size ?? 0) > 0;
