import { type Compositor } from "../engine/compose/compositor";
import { writePng } from "../engine/file/png";
import { type Picture } from "../engine/picture/picture";
import { type Heap } from "../engine/tiles/heap";
import {
  pixelOffset,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  tilesIn,
} from "../engine/tiles/layout";
import { type TileStore } from "../engine/tiles/tile-store";

/** Longest side of the Portfolio's picture of a picture, px. */
const LONGEST = 640;
const SLICE = 64;

/** A small copy of the whole picture, of which only changed tiles are made anew. */
export class PictureThumbnail {
  readonly level: number;
  readonly width: number;
  readonly height: number;
  #data: Uint8Array;
  #stale = new Set<number>();

  constructor(
    readonly picture: Picture,
    readonly heap: Heap,
  ) {
    const longest = Math.max(picture.width, picture.height);
    this.level = Math.min(6, Math.max(0, Math.ceil(Math.log2(longest / LONGEST))));
    this.width = Math.max(1, picture.width >> this.level);
    this.height = Math.max(1, picture.height >> this.level);
    this.#data = new Uint8Array(this.width * this.height * 4);
    this.staleAll();
  }

  stale(keys: readonly number[]): void {
    for (const key of keys) this.#stale.add(key);
  }

  staleAll(): void {
    const { width, height } = this.picture;
    this.stale(tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height));
  }

  /** Brings it up to date, giving way between slices, and gives it as PNG; null where nothing changed. */
  async refresh(compositor: Compositor): Promise<Uint8Array | null> {
    if (this.#stale.size === 0) return null;
    while (this.#stale.size > 0) {
      const keys = [...this.#stale].slice(0, SLICE);
      for (const key of keys) this.#stale.delete(key);
      compositor.pack(keys, this.level, (key, address) => this.#put(key, address));
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
    return writePng({ width: this.width, height: this.height, data: this.#data }, 72);
  }

  #put(key: number, address: number): void {
    const side = TILE_SIDE >> this.level;
    const left = tileColumn(key) * side;
    const top = tileRow(key) * side;
    const width = Math.min(side, this.width - left);
    if (width <= 0) return;
    for (let y = 0; y < Math.min(side, this.height - top); y++) {
      const from = address + y * side * 4;
      this.#data.set(
        this.heap.u8.subarray(from, from + width * 4),
        ((top + y) * this.width + left) * 4,
      );
    }
  }
}

/** Straight RGBA of a layer alone, small, for the list of layers. */
export function layerThumbnail(
  picture: Picture,
  store: TileStore,
  id: string,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(width * height * 4);
  const plane = picture.plane(id);
  const step = Math.max(picture.width / width, picture.height / height);
  const offsetX = (picture.width - width * step) / 2;
  const offsetY = (picture.height - height * step) / 2;
  // Points two pixels apart (at most 16 × 16 of them) stand for a square, so thin lines show.
  const points = Math.min(16, Math.max(1, Math.ceil(step / 2)));
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to += 4) {
      const sums = [0, 0, 0, 0];
      for (let j = 0; j < points; j++)
        for (let i = 0; i < points; i++) {
          const px = Math.floor(offsetX + (x + (i + 0.5) / points) * step);
          const py = Math.floor(offsetY + (y + (j + 0.5) / points) * step);
          if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) continue;
          const tile = plane.get(tileKey(px >> 6, py >> 6));
          if (!tile) continue;
          addPixel(sums, store, tile.colour ?? null, () => store.address(tile), px & 63, py & 63);
        }
      const alpha = sums[3] as number;
      if (alpha === 0) continue;
      for (let c = 0; c < 3; c++) out[to + c] = ((sums[c] as number) * 255) / alpha;
      out[to + 3] = (alpha * 255) / (32767 * points * points);
    }
  return out;
}

function addPixel(
  sums: number[],
  store: TileStore,
  plain: readonly number[] | null,
  address: () => number,
  x: number,
  y: number,
): void {
  if (plain) {
    for (let c = 0; c < 4; c++) sums[c] = (sums[c] as number) + (plain[c] as number);
    return;
  }
  const at = (address() + pixelOffset(x, y, 0)) >> 1;
  const { u16 } = store.heap;
  for (let c = 0; c < 4; c++) sums[c] = (sums[c] as number) + (u16[at + c * 8] as number);
}
