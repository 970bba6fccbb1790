import { TILE_BYTES } from "./layout";
import { type Heap } from "./heap";
import { type Kernels } from "./kernels";
import { lz4, unlz4 } from "./squeeze";

/** Premultiplied Q15 colour. */
export type Q15Colour = readonly [r: number, g: number, b: number, a: number];

/**
 * 64 × 64 pixels, shared by counting: a layer, the history and a checkpoint may hold the
 * same tile; who wants to write takes a copy unless it is alone. It is in one of three
 * states: in memory, squeezed, or a single colour.
 */
export class Tile {
  holders = 1;
  address = 0;
  squeezed: Uint8Array | null = null;
  colour: Q15Colour | null = null;
  used = 0;
}

/** Tiles in memory beyond this many bytes are squeezed, longest unused first. */
const RESIDENT_LIMIT = 1536 * 2 ** 20;

/** Owns every tile's memory. */
export class TileStore {
  /** 32 KiB of zeros: an absent tile. Never written. */
  readonly nothing: number;
  residentLimit = RESIDENT_LIMIT;
  squeezedBytes = 0;
  #resident = new Set<Tile>();
  #clock = 0;
  #scratch: number;
  #bytes = new Uint8Array(TILE_BYTES);

  constructor(
    readonly heap: Heap,
    readonly kernels: Kernels,
  ) {
    this.nothing = heap.allocate(TILE_BYTES);
    this.#scratch = heap.allocate(TILE_BYTES);
    kernels.fillTile(this.nothing, 0, 0, 0, 0);
  }

  get residentBytes(): number {
    return this.#resident.size * TILE_BYTES;
  }

  /** A tile in memory, its pixels not yet set. */
  create(): Tile {
    const tile = new Tile();
    tile.address = this.heap.allocate(TILE_BYTES);
    this.#touch(tile);
    return tile;
  }

  /** A tile of one colour, which takes no memory. */
  plain(colour: Q15Colour): Tile {
    const tile = new Tile();
    tile.colour = colour;
    return tile;
  }

  /** Where the tile's pixels are; brings them into memory first. */
  address(tile: Tile): number {
    if (tile.address === 0) this.#bringIn(tile);
    this.#touch(tile);
    return tile.address;
  }

  retain(tile: Tile): Tile {
    tile.holders++;
    return tile;
  }

  release(tile: Tile): void {
    if (--tile.holders > 0) return;
    this.#dropMemory(tile);
    this.#dropSqueezed(tile);
  }

  /** A tile of the same pixels that only the caller holds. */
  copy(tile: Tile): Tile {
    if (tile.colour) return this.plain(tile.colour);
    const from = this.address(tile);
    const made = this.create();
    this.kernels.copyBytes(made.address, from, TILE_BYTES);
    return made;
  }

  /** One colour where all pixels agree (the memory is given back). */
  settle(tile: Tile): void {
    if (tile.address === 0 || this.kernels.isUniform(tile.address) === 0) return;
    const at = tile.address >> 1;
    const { u16 } = this.heap;
    tile.colour = [u16[at] ?? 0, u16[at + 8] ?? 0, u16[at + 16] ?? 0, u16[at + 24] ?? 0];
    this.#dropMemory(tile);
  }

  isEmpty(tile: Tile): boolean {
    return tile.colour !== null && tile.colour[3] === 0;
  }

  /** Squeezes a tile out of memory. It comes back when its address is asked for. */
  squeeze(tile: Tile): void {
    if (tile.address === 0) return;
    this.kernels.squeezeFilter(this.#scratch, tile.address);
    this.#bytes.set(this.heap.u8.subarray(this.#scratch, this.#scratch + TILE_BYTES));
    tile.squeezed = lz4(this.#bytes);
    this.squeezedBytes += tile.squeezed.length;
    this.#dropMemory(tile);
  }

  /** The tile's pixels filtered for a compressor (32 768 bytes of the caller's own). */
  filtered(tile: Tile): Uint8Array {
    const wasOut = tile.address === 0;
    const from = this.address(tile);
    this.kernels.squeezeFilter(this.#scratch, from);
    const bytes = this.heap.u8.slice(this.#scratch, this.#scratch + TILE_BYTES);
    if (wasOut) this.squeeze(tile);
    return bytes;
  }

  /**
   * A tile from filtered bytes.
   * @throws RangeError where there are not 32 768 of them
   */
  fromFiltered(bytes: Uint8Array): Tile {
    if (bytes.length !== TILE_BYTES)
      throw new RangeError(`a tile has ${TILE_BYTES} bytes, here are ${bytes.length}`);
    const tile = this.create();
    this.heap.u8.set(bytes, this.#scratch);
    this.kernels.unsqueezeFilter(tile.address, this.#scratch);
    return tile;
  }

  /** Squeezes the longest unused tiles until those in memory keep to the limit. */
  trim(): void {
    if (this.residentBytes <= this.residentLimit) return;
    const oldest = [...this.#resident].sort((a, b) => a.used - b.used);
    const excess = Math.ceil((this.residentBytes - this.residentLimit * 0.9) / TILE_BYTES);
    for (const tile of oldest.slice(0, excess)) this.squeeze(tile);
  }

  #touch(tile: Tile): void {
    tile.used = ++this.#clock;
    this.#resident.add(tile);
  }

  #bringIn(tile: Tile): void {
    tile.address = this.heap.allocate(TILE_BYTES);
    if (tile.colour) {
      this.kernels.fillTile(tile.address, ...tile.colour);
      tile.colour = null;
    } else if (tile.squeezed) {
      unlz4(tile.squeezed, this.#bytes);
      this.heap.u8.set(this.#bytes, this.#scratch);
      this.kernels.unsqueezeFilter(tile.address, this.#scratch);
      this.#dropSqueezed(tile);
    }
  }

  #dropMemory(tile: Tile): void {
    if (tile.address === 0) return;
    this.heap.free(tile.address, TILE_BYTES);
    tile.address = 0;
    this.#resident.delete(tile);
  }

  #dropSqueezed(tile: Tile): void {
    if (!tile.squeezed) return;
    this.squeezedBytes -= tile.squeezed.length;
    tile.squeezed = null;
  }
}
