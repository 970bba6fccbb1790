import { COLOUR, type Picture, type Plane, type PlaneName } from "../picture/picture";
import { type Box, pixelOffset, TILE_SIDE, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { Compositor } from "./compositor";

/** Called now and then in long work; throws to stop it. */
export type Progress = (share: number) => void;

/** Where rows of pixels go: samples as a PNG has them. */
export type Rows = { depth: 8 | 16; alpha: boolean; row(samples: Uint8Array): void };

/** Q15 to 8 bits exactly as the screen shows it. */
export const toByte = (v: number): number => (v * 255 + 16384) >> 15;

/** Straight value 0…`top` of a premultiplied one. */
const straight = (v: number, a: number, top: number): number =>
  a === 0 ? 0 : Math.min(top, Math.round((v * top) / a));

/** Hands over tiles of a row, one after the other: each is packed before the next one comes. */
type TileSource = (keys: number[], take: (key: number, address: number) => void) => void;

/** Rows of the sheet from a source of tiles (Q15, premultiplied). */
export function writeBands(
  picture: Picture,
  store: TileStore,
  source: TileSource,
  rows: Rows,
  progress: Progress,
): void {
  const { width, height } = picture;
  const sample = (rows.alpha ? 4 : 3) * (rows.depth / 8);
  const stride = width * sample;
  const { heap, kernels } = store;
  const bytes = stride * TILE_SIDE;
  const band = heap.allocate(bytes);
  const across = Math.ceil(width / TILE_SIDE);
  try {
    for (let top = 0; top < height; top += TILE_SIDE) {
      progress(top / height);
      const lines = Math.min(TILE_SIDE, height - top);
      const keys = Array.from({ length: across }, (_, column) => tileKey(column, top / TILE_SIDE));
      let column = 0;
      source(keys, (_key, address) => {
        const left = column++ * TILE_SIDE;
        const count = Math.min(TILE_SIDE, width - left);
        const to = band + left * sample;
        kernels.packStraight(to, stride, address, count, lines, +(rows.depth === 16), +rows.alpha);
      });
      for (let y = 0; y < lines; y++)
        rows.row(heap.u8.slice(band + y * stride, band + (y + 1) * stride));
    }
  } finally {
    heap.free(band, bytes);
  }
  progress(1);
}

/** The whole picture, as seen, row by row. Without the ground it keeps its transparency. */
export function flatten(
  picture: Picture,
  store: TileStore,
  workforce: Workforce,
  ground: boolean,
  rows: Rows,
  progress: Progress = () => undefined,
  /** Px of a screen for one of the picture: below 1, halftones that are finer than it go out as greys. */
  scale = 1,
): void {
  const compositor = new Compositor(picture, store, workforce, ground);
  compositor.setScale(scale);
  try {
    writeBands(
      picture,
      store,
      (keys, take) => {
        compositor.compose(keys, take);
        compositor.forgetAll();
      },
      rows,
      progress,
    );
  } finally {
    compositor.free();
  }
}

/**
 * The whole picture in black and white, row by row: eight pixels a byte, the first in the highest bit, 1 is white.
 * @param scale as of `flatten`
 */
export function flattenBits(
  picture: Picture,
  store: TileStore,
  workforce: Workforce,
  row: (bits: Uint8Array) => void,
  progress: Progress = () => undefined,
  scale = 1,
): void {
  const { width, height } = picture;
  const across = Math.ceil(width / TILE_SIDE);
  const stride = across * (TILE_SIDE / 8);
  const { heap } = store;
  const bytes = stride * TILE_SIDE;
  const band = heap.allocate(bytes);
  const compositor = new Compositor(picture, store, workforce);
  compositor.setScale(scale);
  try {
    for (let top = 0; top < height; top += TILE_SIDE) {
      progress(top / height);
      const keys = Array.from({ length: across }, (_, column) => tileKey(column, top / TILE_SIDE));
      compositor.through(keys, (key, address) =>
        workforce.write(TAPE.packBits, band + tileColumn(key) * (TILE_SIDE / 8), stride, address),
      );
      compositor.forgetAll();
      for (let y = 0; y < Math.min(TILE_SIDE, height - top); y++) {
        const from = band + y * stride;
        row(heap.u8.slice(from, from + Math.ceil(width / 8)));
      }
    }
  } finally {
    compositor.free();
    heap.free(band, bytes);
  }
  progress(1);
}

/** One layer's own pixels, row by row. */
export function layerRows(
  picture: Picture,
  store: TileStore,
  id: string,
  rows: Rows,
  progress: Progress = () => undefined,
  name: PlaneName = COLOUR,
): void {
  const plane = picture.plane(id, name);
  const address = (tile: Tile | undefined): number => (tile ? store.address(tile) : store.nothing);
  writeBands(
    picture,
    store,
    (keys, take) => {
      for (const key of keys) take(key, address(plane.get(key)));
      store.trim();
    },
    rows,
    progress,
  );
}

/** What a plane holds in a box (whole pixels): straight RGBA, 8 bits a channel. */
export function flattenBox(
  store: TileStore,
  plane: Plane,
  { left, top, right, bottom }: Box,
): { width: number; height: number; data: Uint8Array } {
  const width = right - left;
  const height = bottom - top;
  const data = new Uint8Array(width * height * 4);
  for (const [key, tile] of plane) {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const from = store.address(tile);
    // The heap may have grown when the tile was unpacked.
    const { u16 } = store.heap;
    for (let y = Math.max(top, py); y < Math.min(bottom, py + TILE_SIDE); y++)
      for (let x = Math.max(left, px); x < Math.min(right, px + TILE_SIDE); x++) {
        const at = (from + pixelOffset(x & 63, y & 63, 0)) >> 1;
        const a = u16[at + 24] as number;
        if (a === 0) continue;
        const to = ((y - top) * width + (x - left)) * 4;
        for (let c = 0; c < 3; c++) data[to + c] = straight(u16[at + c * 8] as number, a, 255);
        data[to + 3] = toByte(a);
      }
  }
  return { width, height, data };
}
