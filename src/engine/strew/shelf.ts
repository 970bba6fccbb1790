import { type Picture } from "../picture/picture";
import { type Heap } from "../tiles/heap";
import { ONE, pixelOffset, TILE_SIDE, tileKey } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { rendered } from "./pictures/art";
import { madePictures } from "./pictures/made";
import { ownSetOf } from "./sets";
import { setPlanes } from "./strew";

/** Looked up once: globals are slow to come by where tests run. */
const { ceil, floor, max, min, round, sqrt } = Math;

/** A picture of a set in shared memory, as `kernels/strew.ts` reads it: it spans −extent…extent both ways. */
export type PieceInMemory = { address: number; side: number; extent: number };

/** Texels a side that pictures are kept at. */
const LEAST_SIDE = 8;
const MOST_SIDE = 512;
/** How wide a picture out of focus is, its texels a side, and steps of being out of focus. */
const BLURRED = { extent: 1.75, side: 96, steps: 12, most: 0.3 };
const MOST_BYTES = 64 * 2 ** 20;

const bytesOf = (side: number): number => side * side * 8;

/** Where a picture's pixels come from, at any size: worked out there, or pixels of the sheet. */
type Source = { key: string; at(side: number): Uint16Array };

/** Keeps pictures of pieces in shared memory at the sizes they are drawn at; those not used for longest go first. */
export class PieceShelf {
  #kept = new Map<string, PieceInMemory>();
  #bytes = 0;
  /** Pictures that the sheet holds are known by their tiles. */
  #names = new WeakMap<Tile, number>();
  #named = 0;

  constructor(
    readonly store: TileStore,
    readonly heap: Heap = store.heap,
  ) {}

  /**
   * A picture as it is needed for pieces of a size.
   * @param across px that it spans on the sheet
   * @param blur how far it is out of focus, 0…1
   * @throws Refusal where there is no such set
   */
  get(sheet: Picture, set: number, picture: number, across: number, blur: number): PieceInMemory {
    const source = this.#source(sheet, set, picture);
    const step = round(blur * BLURRED.steps);
    const side = step > 0 ? BLURRED.side : sideFor(across);
    const key = `${source.key} ${side} ${step}`;
    const known = this.#kept.get(key);
    if (known) {
      this.#kept.delete(key);
      this.#kept.set(key, known);
      return known;
    }
    const inner = side - 2;
    const texels = step > 0 ? blurred(source, step / BLURRED.steps, inner) : source.at(inner);
    const spans = step > 0 ? BLURRED.extent : 1;
    const made = this.#write(texels, { side, extent: (spans * side) / inner });
    this.#kept.set(key, made);
    this.#bytes += bytesOf(side);
    return made;
  }

  /**
   * A picture as texels R G B A in Q15, premultiplied, `side` × `side`: as it is shown in a list.
   * @throws Refusal where there is no such set
   */
  texels(sheet: Picture, set: number, picture: number, side: number): Uint16Array {
    return this.#source(sheet, set, picture).at(side);
  }

  /** Lets go of what is beyond the shelf's room. Nothing that was given out may still be in use. */
  trim(): void {
    for (const [key, { address, side }] of this.#kept) {
      if (this.#bytes <= MOST_BYTES) return;
      this.heap.free(address, bytesOf(side));
      this.#bytes -= bytesOf(side);
      this.#kept.delete(key);
    }
  }

  /** Writes texels with a ring of nothing around them: the kernel holds places beyond the edge to that. */
  #write(texels: Uint16Array, { side, extent }: Omit<PieceInMemory, "address">): PieceInMemory {
    const address = this.heap.allocate(bytesOf(side));
    const { u16 } = this.heap;
    const from = address >>> 1;
    u16.fill(0, from, from + side * side * 4);
    const row = (side - 2) * 4;
    for (let y = 0; y < side - 2; y++)
      u16.set(texels.subarray(y * row, (y + 1) * row), from + ((y + 1) * side + 1) * 4);
    return { address, side, extent };
  }

  #source(sheet: Picture, set: number, picture: number): Source {
    const made = madePictures[set];
    const art = made?.[min(picture, made.length - 1)];
    if (art) return { key: `made ${set} ${picture}`, at: (side) => rendered(art, side) };
    const size = ownSetOf(sheet, set).pictures[picture] ?? [1, 1];
    const plane = sheet.plane(setPlanes(set), String(picture));
    return {
      key: `own ${[...plane.entries()].map(([at, tile]) => `${at}:${this.#nameOf(tile)}`).join(" ")}`,
      at: (side) => fitted(this.store, plane, size, side),
    };
  }

  #nameOf(tile: Tile): number {
    const known = this.#names.get(tile);
    if (known !== undefined) return known;
    this.#names.set(tile, ++this.#named);
    return this.#named;
  }
}

/** Texels a side for a picture that spans so many px: as many, or up to twice as many. */
function sideFor(across: number): number {
  let side = LEAST_SIDE;
  while (side < across && side < MOST_SIDE) side *= 2;
  return side;
}

/** Pixels of the sheet as a square of texels, the picture's longer side across it: means over areas. */
function fitted(
  store: TileStore,
  plane: ReadonlyMap<number, Tile>,
  [width, height]: readonly [number, number],
  side: number,
): Uint16Array {
  const out = new Uint16Array(side * side * 4);
  const addresses = new Map([...plane].map(([key, tile]) => [key, store.address(tile)]));
  const { u16 } = store.heap;
  const span = max(width, height) / side;
  const [ox, oy] = [(side - width / span) / 2, (side - height / span) / 2];
  const looks = max(1, min(8, ceil(span)));
  const sum = [0, 0, 0, 0];
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      sum.fill(0);
      for (let j = 0; j < looks; j++)
        for (let i = 0; i < looks; i++) {
          const x = floor((column + (i + 0.5) / looks - ox) * span);
          const y = floor((row + (j + 0.5) / looks - oy) * span);
          if (x < 0 || y < 0 || x >= width || y >= height) continue;
          const tile = addresses.get(tileKey(x >> 6, y >> 6));
          if (tile === undefined) continue;
          for (let c = 0; c < 4; c++)
            (sum[c] as number) += u16[
              (tile + pixelOffset(x % TILE_SIDE, y % TILE_SIDE, c)) >>> 1
            ] as number;
        }
      for (let c = 0; c < 4; c++)
        out[(row * side + column) * 4 + c] = round((sum[c] as number) / (looks * looks));
    }
  return out;
}

/** A picture out of focus: three box means each way, which is as good as a bell. */
function blurred(source: Source, blur: number, side: number): Uint16Array {
  const { extent, most } = BLURRED;
  const inner = round(side / extent);
  const small = source.at(inner);
  const from = floor((side - inner) / 2);
  let field = new Float32Array(side * side * 4);
  for (let row = 0; row < inner; row++)
    field.set(
      small.subarray(row * inner * 4, (row + 1) * inner * 4),
      ((row + from) * side + from) * 4,
    );
  // Three boxes of 2r + 1 spread as a bell of σ = √(r (r + 1)).
  const sigma = (blur * most * inner) / 2;
  const radius = max(1, round(sqrt(sigma * sigma + 0.25) - 0.5));
  for (let i = 0; i < 3; i++) {
    field = boxed(field, side, radius, 4, side * 4);
    field = boxed(field, side, radius, side * 4, 4);
  }
  return Uint16Array.from(field, (value) => min(ONE, round(value)));
}

/** Means over 2r + 1 texels one way; beyond the edge there is nothing. */
function boxed(
  field: Float32Array<ArrayBuffer>,
  side: number,
  radius: number,
  step: number,
  next: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(field.length);
  const per = 1 / (2 * radius + 1);
  for (let line = 0; line < side; line++)
    for (let c = 0; c < 4; c++) {
      const at = line * next + c;
      let sum = 0;
      for (let i = 0; i < radius; i++) sum += field[at + i * step] as number;
      for (let i = 0; i < side; i++) {
        const [into, outOf] = [i + radius, i - radius - 1];
        if (into < side) sum += field[at + into * step] as number;
        if (outOf >= 0) sum -= field[at + outOf * step] as number;
        out[at + i * step] = max(0, sum * per);
      }
    }
  return out;
}
