import { type Bench } from "../bench";
import { TILE_SIDE } from "../tiles/layout";
import { tableAddress } from "../tiles/tables";
import { JOIN, TAPE } from "../tiles/tape";

/** Address of a bit picture of the whole sheet. */
export type Bits = number;

/** Tiles side by side in a row of tiles, `to` not among them. */
export type Run = { row: number; from: number; to: number };

/** The tiles that work is kept to, row by row; all of them where none are given. */
export type Patch = readonly Run[];

/** What a flood has reached: tiles (row · words + column) and how many of its pixels. */
export type Flooded = { tiles: Int32Array; area: number };

/** Farthest growth in one go, px: what may be asked for, and a pixel for soft edges. */
const MOST_GROWTH = 129;

/** Half-widths of a disc by rows from its middle, as the kernels read them: whole numbers in the bits of f32. */
export function discTable(radius: number): Float32Array {
  const half = Int32Array.from({ length: Math.floor(radius) + 1 }, (_, dy) =>
    Math.floor(Math.sqrt(radius * radius - dy * dy)),
  );
  return new Float32Array(half.buffer);
}

/**
 * Bit pictures of one sheet and what can be done with them: one bit a pixel, rows of
 * `words` 64-bit words, so a tile is a column of 64 words (`kernels/region.ts`). All that
 * was made is given back by `free`.
 */
export class Regions {
  /** 64-bit words a row: tiles across. */
  readonly words: number;
  readonly tileRows: number;
  /** Words of one bit picture. */
  readonly count: number;
  #made: [address: number, bytes: number][] = [];
  #queue: number;
  #touched: number;
  #flags: number;

  constructor(
    readonly bench: Bench,
    readonly width: number,
    readonly height: number,
  ) {
    this.words = Math.ceil(width / TILE_SIDE);
    this.tileRows = Math.ceil(height / TILE_SIDE);
    this.count = this.words * this.tileRows * TILE_SIDE;
    const tiles = this.words * this.tileRows;
    this.#queue = this.#take(tiles * 4);
    this.#touched = this.#take(tiles * 4);
    this.#flags = this.#take(tiles);
  }

  #take(bytes: number): number {
    const { heap, kernels } = this.bench.store;
    const address = heap.allocate(bytes);
    kernels.fillBytes(address, 0, bytes);
    this.#made.push([address, bytes]);
    return address;
  }

  free(): void {
    for (const [address, bytes] of this.#made) this.bench.store.heap.free(address, bytes);
    this.#made = [];
  }

  /** A new bit picture, empty. */
  make(): Bits {
    return this.#take(this.count * 8);
  }

  /** Gives one bit picture back before the others. */
  release(bits: Bits): void {
    const at = this.#made.findIndex(([address]) => address === bits);
    if (at < 0) return;
    const [[address, bytes]] = this.#made.splice(at, 1) as [[number, number]];
    this.bench.store.heap.free(address, bytes);
  }

  /** Memory beside the bit pictures, cleared; freed with them. */
  room(bytes: number): number {
    return this.#take(bytes);
  }

  /** Stretches of words in a bit picture: those of a patch, or all at once. Bytes from its beginning. */
  #eachStretch(patch: Patch | undefined, act: (at: number, words: number) => void): void {
    if (!patch) return act(0, this.count);
    for (const { row, from, to } of patch)
      for (let y = row * TILE_SIDE; y < (row + 1) * TILE_SIDE; y++)
        act((y * this.words + from) * 8, to - from);
  }

  copy(to: Bits, from: Bits, patch?: Patch): void {
    const { kernels } = this.bench.store;
    this.#eachStretch(patch, (at, words) => kernels.copyBytes(to + at, from + at, words * 8));
  }

  clear(bits: Bits): void {
    this.bench.store.kernels.fillBytes(bits, 0, this.count * 8);
  }

  join(into: Bits, how: keyof typeof JOIN, other: Bits, patch?: Patch): void {
    const { kernels } = this.bench.store;
    const join = JOIN[how];
    this.#eachStretch(patch, (at, words) => kernels.joinBits(into + at, other + at, words, join));
  }

  area(bits: Bits): number {
    return this.bench.store.kernels.countBits(bits, this.count);
  }

  /** Address of the first word of a tile's column. */
  at(bits: Bits, column: number, row: number): number {
    return bits + (row * TILE_SIDE * this.words + column) * 8;
  }

  get stride(): number {
    return this.words * 8;
  }

  #place(bits: Bits, x: number, y: number): { index: number; bit: number } {
    const byte = bits + y * this.stride + (x >> 5) * 4;
    return { index: byte >> 2, bit: 1 << (x & 31) };
  }

  isInside(x: number, y: number): boolean {
    return x >= 0 && y >= 0 && x < this.width && y < this.height;
  }

  has(bits: Bits, x: number, y: number): boolean {
    if (!this.isInside(x, y)) return false;
    const { index, bit } = this.#place(bits, x, y);
    return ((this.bench.store.heap.i32[index] as number) & bit) !== 0;
  }

  set(bits: Bits, x: number, y: number): void {
    const { index, bit } = this.#place(bits, x, y);
    const { i32 } = this.bench.store.heap;
    i32[index] = (i32[index] as number) | bit;
  }

  /** All of a tile's bits on or off. */
  fillTile(bits: Bits, column: number, row: number, on: boolean): void {
    const { i32 } = this.bench.store.heap;
    let at = this.at(bits, column, row) >> 2;
    for (let y = 0; y < TILE_SIDE; y++, at += this.words * 2) i32[at] = i32[at + 1] = on ? -1 : 0;
  }

  /** Takes away what lies beside the sheet: the ends of the last words and rows. */
  trim(bits: Bits): void {
    const { i32, u8 } = this.bench.store.heap;
    u8.fill(0, bits + this.height * this.stride, bits + this.count * 8);
    const over = this.words * TILE_SIDE - this.width;
    if (over === 0) return;
    const kept = TILE_SIDE - over;
    const low = kept >= 32 ? -1 : (1 << kept) - 1;
    const high = kept <= 32 ? 0 : (1 << (kept - 32)) - 1;
    for (let y = 0; y < this.height; y++) {
      const at = ((bits + y * this.stride) >> 2) + (this.words - 1) * 2;
      i32[at] = (i32[at] as number) & low;
      i32[at + 1] = (i32[at + 1] as number) & high;
    }
  }

  /** The other pixels of the sheet. */
  not(into: Bits, of: Bits, patch?: Patch): void {
    const { kernels } = this.bench.store;
    this.#eachStretch(patch, (at, words) => {
      kernels.fillBytes(into + at, 255, words * 8);
      kernels.joinBits(into + at, of + at, words, JOIN.andNot);
    });
    this.trim(into);
  }

  /** One job for each run of tiles. */
  #inRuns(patch: Patch, write: (y0: number, y1: number, run: Run) => void): void {
    const { workforce } = this.bench;
    for (const run of patch) {
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      write(run.row * TILE_SIDE, (run.row + 1) * TILE_SIDE, run);
      workforce.endJob();
    }
    workforce.run(true);
  }

  get #everywhere(): Patch {
    return Array.from({ length: this.tileRows }, (_, row) => ({ row, from: 0, to: this.words }));
  }

  /**
   * Grown by a disc of a radius in px (≤ 129), exactly: all within that distance of a set pixel.
   * @param onto whether what is set in `into` stays
   */
  grow(into: Bits, from: Bits, radius: number, onto = false): void {
    const held = Math.min(MOST_GROWTH, radius);
    const { heap } = this.bench.store;
    const disc = tableAddress(heap, `disc ${held}`, () => discTable(held));
    const r = Math.floor(held);
    const rows = this.tileRows * TILE_SIDE;
    const { workforce } = this.bench;
    const keeps = onto ? 1 : 0;
    this.#inRuns(this.#everywhere, (y0, y1) =>
      workforce.write(TAPE.growBits, into, from, this.words, rows, y0, y1, r, disc, keeps),
    );
    this.trim(into);
  }

  /** One step of growth within bounds but not into `without` (0: nothing), four ways or eight. */
  spread(
    into: Bits,
    from: Bits,
    within: Bits,
    without: Bits,
    eight: boolean,
    patch: Patch = this.#everywhere,
  ): void {
    const rows = this.tileRows * TILE_SIDE;
    this.#inRuns(patch, (y0, y1, run) =>
      this.bench.workforce.write(
        TAPE.spreadBits,
        into,
        from,
        within,
        without,
        this.words,
        rows,
        y0,
        y1,
        run.from,
        run.to,
        eight ? 1 : 0,
      ),
    );
  }

  /**
   * `steps` steps of growth within bounds, four ways and eight in turn, which together are
   * nearly round. Leaves the result in `bits`; `other` is overwritten.
   */
  spreadBy(bits: Bits, other: Bits, within: Bits, steps: number, patch?: Patch): void {
    this.copy(other, bits);
    let [now, next] = [bits, other];
    for (let i = 0; i < steps; i++) {
      this.spread(next, now, within, 0, i % 2 === 1, patch);
      [now, next] = [next, now];
    }
    if (now !== bits) this.copy(bits, now);
  }

  /**
   * Floods `open` four ways from the bits set in `fill` that lie in the given tiles (all
   * tiles where none are given).
   */
  flood(open: Bits, fill: Bits, from?: readonly number[]): Flooded {
    const { heap, kernels } = this.bench.store;
    const queue = this.#queue >> 2;
    const tiles = this.words * this.tileRows;
    const waiting = from?.length ?? tiles;
    for (let i = 0; i < waiting; i++) heap.i32[queue + i] = from ? (from[i] as number) : i;
    const found = kernels.floodBits(
      open,
      fill,
      this.words,
      this.tileRows,
      this.#queue,
      waiting,
      this.#touched,
      this.#flags,
    );
    const area = kernels.regionArea(fill, this.words, this.#touched, found);
    const touched = heap.i32.slice(this.#touched >> 2, (this.#touched >> 2) + found);
    return { tiles: touched, area };
  }

  /** How many pixels are set in some tiles. */
  areaIn(bits: Bits, tiles: Int32Array): number {
    const { heap, kernels } = this.bench.store;
    heap.i32.set(tiles, this.#touched >> 2);
    return kernels.regionArea(bits, this.words, this.#touched, tiles.length);
  }

  /** The tiles beside one that what is set in it touches: where a flood may go on. */
  besides(bits: Bits, tile: number): number[] {
    const { words, tileRows } = this;
    const { i32 } = this.bench.store.heap;
    const [column, row] = [tile % words, Math.floor(tile / words)];
    const first = this.at(bits, column, row) >> 2;
    const last = first + (TILE_SIDE - 1) * words * 2;
    let left = 0;
    let right = 0;
    for (let at = first; at <= last; at += words * 2) {
      left |= i32[at] as number;
      right |= i32[at + 1] as number;
    }
    const any = (at: number): boolean => ((i32[at] as number) | (i32[at + 1] as number)) !== 0;
    const found: number[] = [];
    if (row > 0 && any(first)) found.push(tile - words);
    if (row + 1 < tileRows && any(last)) found.push(tile + words);
    if (column > 0 && (left & 1) !== 0) found.push(tile - 1);
    if (column + 1 < words && right < 0) found.push(tile + 1);
    return found;
  }

  /** The flooded region that was found last is taken out of `left` and numbered (0: not). */
  takeRegion(fill: Bits, left: Bits, labels: number, { tiles }: Flooded, label: number): void {
    const { kernels } = this.bench.store;
    kernels.takeRegion(fill, left, labels, this.words, this.#touched, tiles.length, label);
  }

  /** The tile that a pixel lies in. */
  tileOf(x: number, y: number): number {
    return (y >> 6) * this.words + (x >> 6);
  }

  /** The tiles among these in which anything is set, and those around them. */
  patchOf(bits: Bits, tiles: Int32Array): Patch {
    const { words, tileRows } = this;
    const { i32 } = this.bench.store.heap;
    const near = new Uint8Array(words * tileRows);
    for (const tile of tiles) {
      const [column, row] = [tile % words, Math.floor(tile / words)];
      if (!this.#holds(i32, bits, column, row)) continue;
      for (let y = Math.max(0, row - 1); y < Math.min(tileRows, row + 2); y++)
        near.fill(1, y * words + Math.max(0, column - 1), y * words + Math.min(words, column + 2));
    }
    return this.#runs((column, row) => near[row * words + column] === 1);
  }

  /** The tiles of a patch in which anything is set. */
  patchWith(patch: Patch, bits: Bits): Patch {
    const { i32 } = this.bench.store.heap;
    const held = new Set<number>();
    for (const { row, from, to } of patch)
      for (let column = from; column < to; column++)
        if (this.#holds(i32, bits, column, row)) held.add(row * this.words + column);
    return this.#runs((column, row) => held.has(row * this.words + column));
  }

  #runs(has: (column: number, row: number) => boolean): Patch {
    const runs: Run[] = [];
    for (let row = 0; row < this.tileRows; row++)
      for (let from = 0; from < this.words; from++) {
        if (!has(from, row)) continue;
        let to = from;
        while (to < this.words && has(to, row)) to++;
        runs.push({ row, from, to });
        from = to;
      }
    return runs;
  }

  #holds(i32: Int32Array, bits: Bits, column: number, row: number): boolean {
    let at = this.at(bits, column, row) >> 2;
    for (let y = 0; y < TILE_SIDE; y++, at += this.words * 2)
      if (i32[at] !== 0 || i32[at + 1] !== 0) return true;
    return false;
  }
}
