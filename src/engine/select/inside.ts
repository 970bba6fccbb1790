import { type Picture, type Plane, SELECTION, STENCILS } from "../picture/picture";
import { type Bench } from "../stroke/stroke";
import { ONE } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";

/** Whether a tile of a mask is open all over. */
export const isWhole = (tile: Tile): boolean => tile.colour?.[3] === ONE;

/**
 * Where a change may go: inside what is selected, and through what the stencils on the sheet
 * leave open. An absent tile of either is shut.
 */
export class Inside {
  #planes: Plane[] = [];

  constructor(
    readonly bench: Bench,
    picture: Picture,
    /** What is to be changed: the selection itself is kept inside nothing. */
    layer: string,
  ) {
    if (layer === SELECTION) return;
    const { selection, stencils } = picture.structure;
    if (selection) this.#planes.push(picture.plane(SELECTION));
    if (stencils.some(({ on }) => on)) this.#planes.push(picture.plane(STENCILS));
  }

  get isEverywhere(): boolean {
    return this.#planes.length === 0;
  }

  /** Whether anything of a tile may change. */
  reaches(key: number): boolean {
    return this.#planes.every((plane) => plane.has(key));
  }

  /** Writes to the tape what puts back, in the tile at `after`, all that may not change. */
  keep(key: number, after: number, before: number): void {
    const { store, workforce } = this.bench;
    for (const plane of this.#planes) {
      const open = plane.get(key);
      if (open && isWhole(open)) continue;
      const mask = open ? store.address(open) : store.nothing;
      workforce.write(TAPE.keepInside, after, before, mask);
    }
  }
}
