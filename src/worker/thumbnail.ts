import { hexToBytes } from "../engine/colour/srgb";
import { type Compositor } from "../engine/compose/compositor";
import { writePng } from "../engine/file/png";
import { type Picture } from "../engine/picture/picture";
import { type Heap } from "../engine/tiles/heap";
import { ONE, pixelOffset, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type TileStore } from "../engine/tiles/tile-store";
import { SHOWN_AT } from "./view";

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
      compositor.pack(
        keys,
        this.level,
        (key, address) => this.#put(key, address),
        SHOWN_AT / 2 ** this.level,
      );
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

/** Places along one side of a thumbnail that stand for it, by the tile that they lie in: the thumbnail's px, and the place in the tile. */
type Places = Map<number, { at: number; inTile: number }[]>;

function placesAlong(side: number, points: number, step: number, length: number): Places {
  const offset = (length - side * step) / 2;
  const places: Places = new Map();
  for (let at = 0; at < side; at++)
    for (let i = 0; i < points; i++) {
      const px = Math.floor(offset + (at + (i + 0.5) / points) * step);
      if (px < 0 || px >= length) continue;
      const known = places.get(px >> 6);
      const place = { at, inTile: px & 63 };
      if (known) known.push(place);
      else places.set(px >> 6, [place]);
    }
  return places;
}

/** Takes a straight pixel into a tint: dark becomes it, white stays white, as the kernel's `tintTile` has it. */
function tintPixel(data: Uint8ClampedArray, at: number, tint: readonly number[]): void {
  const [r, g, b] = [data[at], data[at + 1], data[at + 2]] as [number, number, number];
  const light = (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
  for (let c = 0; c < 3; c++) {
    const dark = tint[c] as number;
    data[at + c] = dark + (255 - dark) * light;
  }
}

/** Straight RGBA of a layer alone, in its tint where it has one, small, for the list of layers. Costs what it holds. */
export function layerThumbnail(
  picture: Picture,
  store: TileStore,
  id: string,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const step = Math.max(picture.width / width, picture.height / height);
  // Points two pixels apart (at most 16 × 16 of them) stand for a square, so thin lines show.
  const points = Math.min(16, Math.max(1, Math.ceil(step / 2)));
  const columns = placesAlong(width, points, step, picture.width);
  const rows = placesAlong(height, points, step, picture.height);
  const sums = new Float64Array(width * height * 4);
  for (const [key, tile] of picture.plane(id)) {
    const address = tile.colour ? 0 : store.address(tile);
    const { u16 } = store.heap;
    for (const { at: y, inTile: ty } of rows.get(tileRow(key)) ?? [])
      for (const { at: x, inTile: tx } of columns.get(tileColumn(key)) ?? []) {
        const to = (y * width + x) * 4;
        for (let c = 0; c < 4; c++) {
          const v = tile.colour?.[c] ?? (u16[(address + pixelOffset(tx, ty, c)) >> 1] as number);
          sums[to + c] = (sums[to + c] as number) + v;
        }
      }
  }
  const out = new Uint8ClampedArray(width * height * 4);
  const { tint } = picture.layer(id);
  const dark = tint ? hexToBytes(tint) : null;
  for (let to = 0; to < sums.length; to += 4) {
    const alpha = sums[to + 3] as number;
    if (alpha === 0) continue;
    for (let c = 0; c < 3; c++) out[to + c] = ((sums[to + c] as number) * 255) / alpha;
    if (dark) tintPixel(out, to, dark);
    out[to + 3] = (alpha * 255) / (ONE * points * points);
  }
  return out;
}
