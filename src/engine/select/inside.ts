import { isFluid, type Picture, type Plane, SELECTION, STENCILS } from "../picture/picture";
import { type Bench } from "../bench";
import { beyondCard, type Card } from "./card";
import {
  type Box,
  ONE,
  pixelOffset,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  WHOLE_TILE,
} from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";

/** Whether a tile of a mask is open all over. */
export const isWhole = (tile: Tile): boolean => tile.colour?.[3] === ONE;

/** Looked up once: globals are slow to come by in a loop over pixels. */
const { max, min } = Math;

type Share = "all" | "part" | "none";

/** Whether a film covers a tile wholly. */
const isShut = (tile: Tile | undefined): boolean => tile !== undefined && isWhole(tile);

/** Whether a mask lets at least half through at a place of the sheet. */
export function isSelected(store: TileStore, mask: Plane, x: number, y: number): boolean {
  const [px, py] = [Math.floor(x), Math.floor(y)];
  const tile = px < 0 || py < 0 ? undefined : mask.get(tileKey(px >> 6, py >> 6));
  if (!tile) return false;
  if (tile.colour) return 2 * tile.colour[3] >= ONE;
  const at = store.address(tile) + pixelOffset(px & 63, py & 63, 3);
  return 2 * (store.heap.u16[at >> 1] as number) >= ONE;
}

/**
 * Where a change may go: inside what is selected, and through what the stencils on the sheet
 * leave open, and beside masking fluid. An absent tile of the first two is shut, one of fluid is open.
 */
export class Inside {
  #planes: Plane[] = [];
  /** Films of masking fluid. */
  #films: Plane[] = [];
  /** What films leave open of a tile, by tile. */
  #beside = new Map<number, number>();
  /** Masks of the tiles that the edge of a frame or of a card goes through. */
  #edges = new Map<number, number>();

  constructor(
    readonly bench: Bench,
    picture: Picture,
    /** What is to be changed: the selection itself is kept inside nothing. */
    layer: string,
    /** A frame that it may not leave, whole px; null: the sheet. */
    readonly frame: Box | null = null,
    /** A card that holds it back, its direction of length 1. */
    readonly card: Card | null = null,
  ) {
    if (layer === SELECTION) return;
    const { selection, stencils, layers } = picture.structure;
    for (const film of layers)
      if (isFluid(film) && film.visible && film.id !== layer)
        this.#films.push(picture.plane(film.id));
    if (selection) this.#planes.push(picture.plane(SELECTION));
    if (stencils.some(({ on }) => on)) this.#planes.push(picture.plane(STENCILS));
  }

  get isEverywhere(): boolean {
    return this.#planes.length === 0 && this.#films.length === 0 && !this.frame && !this.card;
  }

  /** Whether anything of a tile may change. */
  reaches(key: number): boolean {
    return (
      this.#planes.every((plane) => plane.has(key)) &&
      this.#share(key) !== "none" &&
      !this.#films.some((film) => isShut(film.get(key)))
    );
  }

  /** How much of a tile lies in the frame, and is not under the card. */
  #share(key: number): Share {
    const [framed, open] = [this.#framed(key), this.#openBeside(key)];
    if (framed === "none" || open === "none") return "none";
    return framed === "all" && open === "all" ? "all" : "part";
  }

  /** How much of a tile a card leaves open. */
  #openBeside(key: number): Share {
    const { card } = this;
    if (!card) return "all";
    const [x, y] = [tileColumn(key) * TILE_SIDE + 0.5, tileRow(key) * TILE_SIDE + 0.5];
    const [far, low] = [x + TILE_SIDE - 1, y + TILE_SIDE - 1];
    const least = beyondCard(card, card.nx > 0 ? x : far, card.ny > 0 ? y : low);
    const most = beyondCard(card, card.nx > 0 ? far : x, card.ny > 0 ? low : y);
    if (most <= -0.5) return "none";
    return least >= 0.5 ? "all" : "part";
  }

  /** How much of a tile lies in the frame. */
  #framed(key: number): Share {
    const { frame } = this;
    if (!frame) return "all";
    const [x, y] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    const [far, low] = [x + TILE_SIDE, y + TILE_SIDE];
    if (x >= frame.right || far <= frame.left || y >= frame.bottom || low <= frame.top)
      return "none";
    const isWithin = x >= frame.left && far <= frame.right && y >= frame.top && low <= frame.bottom;
    return isWithin ? "all" : "part";
  }

  /** A tile that is open inside the frame alone, and where no card holds back. */
  #edge(key: number): number {
    const known = this.#edges.get(key);
    if (known !== undefined) return known;
    const { heap } = this.bench.store;
    const [px, py] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    const whole = { left: px, top: py, right: px + TILE_SIDE, bottom: py + TILE_SIDE };
    const { left, top, right, bottom } = this.frame ?? whole;
    const address = heap.allocate(TILE_BYTES);
    heap.u8.fill(0, address, address + TILE_BYTES);
    const { card } = this;
    for (let y = Math.max(0, top - py); y < Math.min(TILE_SIDE, bottom - py); y++)
      for (let x = Math.max(0, left - px); x < Math.min(TILE_SIDE, right - px); x++)
        heap.u16[(address + pixelOffset(x, y, 3)) >>> 1] = card
          ? ONE * min(1, max(0, beyondCard(card, px + x + 0.5, py + y + 0.5) + 0.5))
          : ONE;
    this.#edges.set(key, address);
    return address;
  }

  /** What films of masking fluid leave open of a tile; 0: all of it. */
  #besideFilms(key: number): number {
    const known = this.#beside.get(key);
    if (known !== undefined) return known;
    const { store } = this.bench;
    const { heap } = store;
    let made = 0;
    for (const film of this.#films) {
      const tile = film.get(key);
      if (!tile) continue;
      const from = store.address(tile) >>> 1;
      if (made === 0) {
        made = heap.allocate(TILE_BYTES);
        this.#beside.set(key, made);
        store.kernels.fillTile(made, 0, 0, 0, ONE);
      }
      const to = made >>> 1;
      const { u16 } = heap;
      // Rows of 8 blocks; alpha is the last quarter of a block of 8 pixels.
      for (let block = 24; block < TILE_BYTES / 2; block += 32)
        for (let i = block; i < block + 8; i++)
          u16[to + i] = min(u16[to + i] as number, ONE - (u16[from + i] as number));
    }
    return made;
  }

  /** Gives back what a frame's edge took. */
  free(): void {
    for (const made of [this.#edges, this.#beside]) {
      for (const address of made.values()) this.bench.store.heap.free(address, TILE_BYTES);
      made.clear();
    }
  }

  /** Addresses of the masks that hold a tile back, those that leave all of it open left out. */
  masks(key: number): number[] {
    const { store } = this.bench;
    const share = this.#share(key);
    const found = this.#planes.flatMap((plane) => {
      const open = plane.get(key);
      if (open && isWhole(open)) return [];
      return [open ? store.address(open) : store.nothing];
    });
    const beside = this.#besideFilms(key);
    if (beside > 0) found.push(beside);
    if (share === "all") return found;
    return [share === "part" ? this.#edge(key) : store.nothing, ...found];
  }

  /**
   * Writes to the tape what puts back, in the tile at `after`, all that may not change. What is kept twice is held
   * back twice where a mask is soft.
   * @param reach what of the tile has been made anew since it was kept: see `WHOLE_TILE`
   */
  keep(key: number, after: number, before: number, reach: readonly number[] = WHOLE_TILE): void {
    for (const mask of this.masks(key))
      this.bench.workforce.write(TAPE.keepInside, after, before, mask, ...reach);
  }
}
