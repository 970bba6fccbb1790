import { type Picture } from "../picture/picture";
import { ONE, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { type Marks } from "./marks";
import { type Bench, type Below } from "./stroke";

/** Room beside the tip, px, so that whole blocks of eight fit the patch. */
const MARGIN = 8;
/** How much wider than its size a tip may get: through pressure, and lying on its side. */
const WIDEST = 1.5;
const WIDEST_LEANING = 6;
/** Beyond this the tip carries a patch of this side only. */
const MOST_SIDE = 4096;

type SmearStart = {
  size: number;
  strength: number;
  keepAlpha: boolean;
  /** Whether the tip may lie on its side. */
  leans: boolean;
  /** The stroke's own copy of a tile, to be changed. */
  tile(key: number): Tile | null;
  /** Where a tile's pixels are, to be read only. */
  read(key: number): number;
  /** What the tip takes up besides the layer's own paint. */
  below: Below | null;
  picture: Picture;
};

/**
 * Blend: the tip drags a patch of what it has crossed. Marks depend on each other through
 * the patch, so they are laid one after the other on this thread.
 */
export class Smear {
  readonly side: number;
  #patch: number;
  #first = true;

  constructor(
    readonly bench: Bench,
    readonly start: SmearStart,
  ) {
    const widest = start.leans ? WIDEST_LEANING : WIDEST;
    const wanted = Math.ceil(start.size * widest) + 2 * MARGIN + 2;
    this.side = Math.min(MOST_SIDE, Math.ceil(wanted / 8) * 8);
    const { heap } = bench.store;
    this.#patch = heap.allocate(this.#bytes);
    heap.u8.fill(0, this.#patch, this.#patch + this.#bytes);
  }

  get #bytes(): number {
    return this.side * this.side * 8 + 64;
  }

  free(): void {
    this.bench.store.heap.free(this.#patch, this.#bytes);
  }

  /** Lays a list of marks. Returns the keys of the tiles they touched. */
  lay(marks: Marks): number[] {
    const keys = new Set<number>();
    for (let i = 0; i < marks.count; i++) {
      if (this.#first) this.#mark(marks.at(i), true, keys);
      this.#first = false;
      this.#mark(marks.at(i), false, keys);
    }
    return [...keys];
  }

  #mark(mark: number, fill: boolean, keys: Set<number>): void {
    const { store, noise, workforce } = this.bench;
    const { i32, f32 } = store.heap;
    const grain = this.bench.grain(this.start.picture);
    const w = mark >> 2;
    const ox = Math.round(f32[w + 5] as number) - (this.side >> 1);
    const oy = Math.round(f32[w + 6] as number) - (this.side >> 1);
    const whole = {
      left: ox + MARGIN,
      top: oy,
      right: ox + this.side - MARGIN,
      bottom: oy + this.side,
    };
    const own = {
      left: i32[w + 1] as number,
      top: i32[w + 2] as number,
      right: i32[w + 3] as number,
      bottom: i32[w + 4] as number,
    };
    // The first touch takes up the whole patch, so that a tip that grows finds paint there.
    if (fill) i32.set([whole.left, whole.top, whole.right, whole.bottom], w + 1);
    const { width, height } = this.start.picture;
    const strength = Math.round(this.start.strength * (f32[w + 13] as number) ** 0.5 * ONE);
    for (const key of tilesIn(fill ? whole : own, width, height)) {
      const tile = fill ? null : this.start.tile(key);
      if (!fill && !tile) continue;
      store.kernels.smearMark(
        tile ? store.address(tile) : this.start.read(key),
        tileColumn(key) * TILE_SIDE,
        tileRow(key) * TILE_SIDE,
        mark,
        noise,
        this.#patch,
        this.side,
        ox,
        oy,
        strength,
        fill ? 1 : 0,
        this.start.keepAlpha ? 1 : 0,
        this.start.below?.at(key) ?? 0,
        grain.address,
        grain.period,
        workforce.scratch,
      );
      if (!fill) keys.add(key);
    }
    if (fill) store.heap.i32.set([own.left, own.top, own.right, own.bottom], w + 1);
  }
}
