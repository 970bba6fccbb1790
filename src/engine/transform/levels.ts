import { type Plane } from "../picture/picture";
import { TILE_BYTES, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Light } from "./light";
import { type Workforce } from "../tiles/workforce";

/** A plane and its halves, made when they are first asked for: what shrinks is taken from those. */
export class Levels {
  /** Addresses of tiles by key, from half size on. */
  #halves: Map<number, number>[] = [];

  constructor(
    readonly plane: Plane,
    readonly store: TileStore,
    readonly workforce: Workforce,
    /** Where given, halves are means of linear light; full size is as it is stored. */
    readonly light: Light | null = null,
  ) {}

  /** Where a tile of a level (0: full size) lies; 0 where there is none. */
  at(level: number, key: number): number {
    if (level > 0) return this.#half(level).get(key) ?? 0;
    const tile = this.plane.get(key);
    return tile ? this.store.address(tile) : 0;
  }

  free(): void {
    for (const half of this.#halves)
      for (const address of half.values()) this.store.heap.free(address, TILE_BYTES);
    this.#halves = [];
  }

  #half(level: number): Map<number, number> {
    const known = this.#halves[level - 1];
    if (known) return known;
    const finer = level === 1 ? [...this.plane.keys()] : [...this.#half(level - 1).keys()];
    const made = new Map<number, number>();
    const parents = new Map<number, number[]>();
    for (const key of finer) {
      const parent = tileKey(tileColumn(key) >> 1, tileRow(key) >> 1);
      parents.set(parent, [...(parents.get(parent) ?? []), key]);
    }
    for (const [parent, keys] of parents) {
      const address = this.store.heap.allocate(TILE_BYTES);
      made.set(parent, address);
      if (this.workforce.isFull) this.workforce.run(true);
      this.workforce.beginJob();
      this.workforce.write(TAPE.clear, address, TILE_BYTES);
      for (const key of keys) {
        const quarter = [tileColumn(key) & 1, tileRow(key) & 1];
        const finer = this.at(level - 1, key);
        if (this.light && level === 1)
          this.workforce.write(TAPE.halveLight, address, finer, ...quarter, this.light.toLinear);
        else this.workforce.write(TAPE.halve, address, finer, ...quarter);
      }
      this.workforce.endJob();
    }
    this.workforce.run(true);
    this.#halves[level - 1] = made;
    return made;
  }
}
