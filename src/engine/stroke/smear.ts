import { type Picture } from "../picture/picture";
import { ONE, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Marks } from "./marks";
import { type Bench, type Below } from "../bench";

/** Room beside the tip, px, so that whole blocks of eight fit the patch. */
const MARGIN = 8;
/** How much wider than its size a tip may get: through pressure, and lying on its side. */
const WIDEST = 1.5;
const WIDEST_LEANING = 6;
/** How much of what it crosses a blending tip takes up at a mark. */
const PICK_UP = 0.35;
/** Beyond this the tip carries a patch of this side only, px. */
const MOST_SIDE = 2048;
/** Planes of f32 that are carried: seven bands of light, and how much paint. */
const PLANES = 8;

/** Bytes of a tile's paint: see `kernels/smear.ts`; and how many tiles are kept so between two marks. */
const PAINT_BYTES = 1024 * 144;
const MOST_PAINTS = 768;
/** Patches up to this side lie between pixels, px. */
const MOST_EXACT = 256;

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
  /** Masks that hold a tile back: addresses. */
  masks(key: number): number[];
  /** What the tip takes up besides the layer's own paint. */
  below: Below | null;
  picture: Picture;
};

/**
 * Blend: the tip drags a patch of what it has crossed, and colours are stirred as paint. Marks depend on
 * each other through the patch, so they are laid one after the other; the tiles of a large one go to all
 * threads.
 */
export class Smear {
  readonly side: number;
  #patch: number;
  #first = true;
  /** The paint of the tiles it went over, those that it came to last at the end. */
  #paints = new Map<number, number>();

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
    return this.side * this.side * 4 * PLANES + 64;
  }

  free(): void {
    const { heap } = this.bench.store;
    heap.free(this.#patch, this.#bytes);
    for (const paint of this.#paints.values()) heap.free(paint, PAINT_BYTES);
    this.#paints.clear();
  }

  /** Lays a list of marks. Returns the keys of the tiles they touched. */
  lay(marks: Marks): number[] {
    const keys = new Set<number>();
    for (let i = 0; i < marks.count; i++) {
      if (this.#first && !this.#isOnSheet(marks.at(i))) continue;
      if (this.#first) this.#mark(marks.at(i), true, keys);
      this.#first = false;
      this.#mark(marks.at(i), false, keys);
      this.#putAway();
    }
    for (const key of keys) this.#show(key);
    this.bench.workforce.run(true);
    return [...keys];
  }

  /** Writes to the tape what shows a tile's paint in it. */
  #show(key: number): void {
    const { store, workforce } = this.bench;
    const paint = this.#paints.get(key);
    const tile = this.start.tile(key);
    if (paint === undefined || !tile) return;
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.showPaint, store.address(tile), paint);
    workforce.endJob();
  }

  /** Gives back paint that has not been gone over for long. */
  #putAway(): void {
    if (this.#paints.size <= MOST_PAINTS) return;
    const { store, workforce } = this.bench;
    const tooMany = [...this.#paints.keys()].slice(0, this.#paints.size - MOST_PAINTS);
    for (const key of tooMany) this.#show(key);
    workforce.run(true);
    for (const key of tooMany) {
      store.heap.free(this.#paints.get(key) as number, PAINT_BYTES);
      this.#paints.delete(key);
    }
  }

  /** The paint of a tile; where there is none yet, what makes it is written to the tape. */
  #paintOf(key: number, tile: Tile): number {
    const { store, workforce } = this.bench;
    const known = this.#paints.get(key);
    this.#paints.delete(key);
    const paint = known ?? store.heap.allocate(PAINT_BYTES);
    this.#paints.set(key, paint);
    if (known !== undefined) return paint;
    workforce.write(TAPE.encodePaint, paint, store.address(tile));
    for (const mask of this.start.masks(key)) workforce.write(TAPE.closePaint, paint, mask);
    return paint;
  }

  /** Whether a mark's middle is so near that the patch reaches the sheet. */
  #isOnSheet(mark: number): boolean {
    const { f32 } = this.bench.store.heap;
    const { width, height } = this.start.picture;
    const reach = (this.side >> 1) - 2 * MARGIN;
    const x = f32[(mark >> 2) + 5] as number;
    const y = f32[(mark >> 2) + 6] as number;
    return x > -reach && y > -reach && x < width + reach && y < height + reach;
  }

  /** Beyond the sheet there is nothing to take up: there the colour of its edge goes on. */
  #goOnBeyond(ox: number, oy: number): void {
    const { width, height } = this.start.picture;
    const { side } = this;
    const left = Math.max(0, -ox);
    const top = Math.max(0, -oy);
    const right = Math.min(side, width - ox);
    const bottom = Math.min(side, height - oy);
    if (left === 0 && top === 0 && right === side && bottom === side) return;
    const { f32 } = this.bench.store.heap;
    const plane = side * side;
    for (let c = 0; c < PLANES; c++) {
      const at = (this.#patch >> 2) + c * plane;
      for (let y = top; y < bottom; y++) {
        const row = at + y * side;
        f32.fill(f32[row + left] as number, row, row + left);
        f32.fill(f32[row + right - 1] as number, row + right, row + side);
      }
      for (let y = 0; y < top; y++)
        f32.copyWithin(at + y * side, at + top * side, at + (top + 1) * side);
      for (let y = bottom; y < side; y++)
        f32.copyWithin(at + y * side, at + (bottom - 1) * side, at + bottom * side);
    }
  }

  #mark(mark: number, fill: boolean, keys: Set<number>): void {
    const { store, workforce } = this.bench;
    const { i32, f32 } = store.heap;
    const paper = this.bench.paper(this.start.picture);
    const w = mark >> 2;
    const [x, y] = [f32[w + 5] as number, f32[w + 6] as number];
    const [nearX, nearY] = [Math.round(x), Math.round(y)];
    const ox = nearX - (this.side >> 1);
    const oy = nearY - (this.side >> 1);
    // A large patch is soft enough to lie on whole pixels.
    const isExact = this.side <= MOST_EXACT;
    const shareOf = (part: number): number => (isExact ? Math.round(Math.abs(part) * ONE) : 0);
    const toward = (part: number): number => (part > 0 ? -1 : 1);
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
    const share = f32[w + 22] as number;
    const part = (rate: number): number => Math.round((1 - (1 - rate) ** share) * ONE);
    const strength = part(Math.min(1, this.start.strength * (f32[w + 13] as number) ** 0.5));
    const pick = part(PICK_UP);
    for (const key of tilesIn(fill ? whole : own, width, height)) {
      const tile = fill ? null : this.start.tile(key);
      if (!fill && !tile) continue;
      workforce.beginJob();
      const paint = tile ? this.#paintOf(key, tile) : this.start.read(key);
      workforce.write(
        TAPE.smear,
        paint,
        tileColumn(key) * TILE_SIDE,
        tileRow(key) * TILE_SIDE,
        mark,
        this.#patch,
        this.side,
        ox,
        oy,
        strength,
        pick,
        fill ? 1 : 0,
        this.start.keepAlpha ? 1 : 0,
        this.start.below?.at(key) ?? 0,
        paper.address,
        paper.period,
        width,
        height,
        toward(x - nearX),
        shareOf(x - nearX),
        toward(y - nearY),
        shareOf(y - nearY),
      );
      workforce.endJob();
      if (!fill) keys.add(key);
    }
    // Between pixels a tile reads of the patch what its neighbours change: those go in order.
    workforce.run(!isExact || fill);
    if (fill) this.#goOnBeyond(ox, oy);
    if (fill) store.heap.i32.set([own.left, own.top, own.right, own.bottom], w + 1);
  }
}
