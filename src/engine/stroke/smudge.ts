import { type Picture } from "../picture/picture";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Marks } from "./marks";
import { type Bench } from "../bench";

/** Room beside the tip, px, so that whole blocks of eight fit what it carries. */
const MARGIN = 10;
/** How much wider than its size a tip may get: through pressure, and lying on its side. */
const WIDEST = 1.2;
const WIDEST_LEANING = 5;
/** A tip carries powder over no more than this, px a side. */
const MOST_SIDE = 1024;
/** Bytes that say where a row is in use, and px of a block that is worked on at once. */
const SPAN_BYTES = 8;
const BLOCK = 8;
/** Rows that one thread spreads at a time; patches from this side on are worth waking the helpers for. */
const BAND = 64;
const SHARED_SIDE = 192;
/** Rows that an ellipse misses by less than this may still be touched in single precision. */
const A_HAIR = 1e-3;
type Four = [number, number, number, number];
/** Planes that are carried: see `kernels/smudge.ts`. */
const PLANES = 7;

/** A tile that is rubbed. What is taken along comes to lie on it, or else soils a tile of its own. */
export type Rubbed = { colour: Tile; powder: Tile; soil?: Tile };

type SmudgeStart = {
  size: number;
  /** Whether the tip may lie on its side. */
  leans: boolean;
  /** How much it takes and gives. */
  rate: number;
  /** How far wax gives way, 0…1. */
  melts: number;
  /** Whether there may be anything to take up on a tile: until there is, nothing is carried. */
  holds(key: number): boolean;
  /** The stroke's own copies of a tile's colour and powder, to be changed. */
  tile(key: number): Rubbed | null;
  picture: Picture;
};

/**
 * Rubbing powder about, with a stump, a fingertip or a dry tip in Blend: what is taken up is carried, and
 * laid down again. Marks depend on each other through what is carried, so they come one after the other; the
 * tiles of a mark, and the rows of what is carried, go to all threads.
 */
export class Smudge {
  readonly side: number;
  #carried: number;
  #spread: number;
  /** Where in each row anything may be carried: see `spreadCarried`. */
  #spans: number;
  #grown: number;
  /** Whether anything was ever there to be taken up. */
  #isLaden = false;

  constructor(
    readonly bench: Bench,
    readonly start: SmudgeStart,
  ) {
    const wanted = start.size * (start.leans ? WIDEST_LEANING : WIDEST) + 2 * MARGIN;
    this.side = Math.min(MOST_SIDE, Math.ceil(wanted / 8) * 8);
    const { heap } = bench.store;
    this.#carried = heap.allocate(this.#bytes);
    this.#spread = heap.allocate(this.#bytes);
    this.#spans = heap.allocate(this.side * SPAN_BYTES);
    this.#grown = heap.allocate(this.side * SPAN_BYTES);
    heap.u8.fill(0, this.#carried, this.#carried + this.#bytes);
    heap.u8.fill(0, this.#spread, this.#spread + this.#bytes);
    for (let row = 0; row < this.side; row++) {
      heap.i32[(this.#spans >> 2) + 2 * row] = this.side;
      heap.i32[(this.#spans >> 2) + 2 * row + 1] = 0;
    }
  }

  get #bytes(): number {
    return this.side * this.side * 4 * PLANES + 64;
  }

  free(): void {
    const { heap } = this.bench.store;
    heap.free(this.#carried, this.#bytes);
    heap.free(this.#spread, this.#bytes);
    heap.free(this.#spans, this.side * SPAN_BYTES);
    heap.free(this.#grown, this.side * SPAN_BYTES);
  }

  /** Lays a list of marks. Returns the keys of the tiles they touched. */
  lay(marks: Marks): number[] {
    const keys = new Set<number>();
    for (let i = 0; i < marks.count; i++) this.#mark(marks.at(i), keys);
    return [...keys];
  }

  #mark(mark: number, touched: Set<number>): void {
    const { store, workforce } = this.bench;
    const { side } = this;
    const paper = this.bench.paper(this.start.picture);
    const { width, height } = this.start.picture;
    const w = mark >> 2;
    const ox = Math.round(store.heap.f32[w + 5] as number) - (side >> 1);
    const oy = Math.round(store.heap.f32[w + 6] as number) - (side >> 1);
    const { i32 } = store.heap;
    const box = {
      left: Math.max(i32[w + 1] as number, ox + 8),
      top: Math.max(i32[w + 2] as number, oy),
      right: Math.min(i32[w + 3] as number, ox + side - 8),
      bottom: Math.min(i32[w + 4] as number, oy + side),
    };
    const keys = tilesIn(box, width, height);
    this.#isLaden ||= keys.some((key) => this.start.holds(key));
    if (!this.#isLaden) return;
    const rate = realWord(this.start.rate);
    const melts = realWord(this.start.melts);
    for (const key of keys) {
      const tile = this.start.tile(key);
      if (!tile) continue;
      workforce.beginJob();
      workforce.write(
        TAPE.smudge,
        store.address(tile.colour),
        store.address(tile.powder),
        tile.soil ? store.address(tile.soil) : 0,
        tileColumn(key) * TILE_SIDE,
        tileRow(key) * TILE_SIDE,
        mark,
        this.#carried,
        side,
        ox,
        oy,
        paper.address,
        paper.period,
        rate,
        melts,
        width,
        height,
      );
      workforce.endJob();
      touched.add(key);
    }
    workforce.run(side >= SHARED_SIDE);
    this.#widenSpans(w, ox, oy);
    this.#spreadAll();
  }

  #spreadAll(): void {
    const { workforce } = this.bench;
    const { side } = this;
    for (let y = 0; y < side; y += BAND) {
      workforce.beginJob();
      const end = Math.min(side, y + BAND);
      workforce.write(
        TAPE.spreadCarried,
        this.#carried,
        this.#spread,
        side,
        this.#spans,
        this.#grown,
        y,
        end,
      );
      workforce.endJob();
    }
    workforce.run(side >= SHARED_SIDE);
    [this.#carried, this.#spread] = [this.#spread, this.#carried];
    [this.#spans, this.#grown] = [this.#grown, this.#spans];
  }

  /** Takes in where a mark's ellipse touches each row, and a block beside it. */
  #widenSpans(w: number, ox: number, oy: number): void {
    const { f32, i32 } = this.bench.store.heap;
    const { side } = this;
    const [x, y] = [(f32[w + 5] as number) - ox, (f32[w + 6] as number) - oy];
    const [a, b, c, d] = [f32[w + 7], f32[w + 8], f32[w + 9], f32[w + 10]] as number[] as Four;
    // (a dx + b dy)² + (c dx + d dy)² ≤ 1, solved for dx.
    const square = a * a + c * c;
    const mixed = a * b + c * d;
    const rest = b * b + d * d;
    const spans = this.#spans >> 2;
    for (let row = 0; row < side; row++) {
      const dy = row + 0.5 - y;
      const root = mixed * mixed * dy * dy - square * (rest * dy * dy - 1);
      if (root < -square * A_HAIR) continue;
      const half = Math.sqrt(Math.max(0, root)) / square;
      const middle = x - (mixed * dy) / square;
      const at = spans + 2 * row;
      i32[at] = Math.max(0, Math.min(i32[at] as number, Math.floor(middle - half) - BLOCK));
      i32[at + 1] = Math.min(
        side,
        Math.max(i32[at + 1] as number, Math.ceil(middle + half) + BLOCK),
      );
    }
  }
}
