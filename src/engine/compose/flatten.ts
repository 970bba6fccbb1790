import { type Picture, type Plane } from "../picture/picture";
import {
  type Box,
  ONE,
  pixelOffset,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
} from "../tiles/layout";
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

/** Writes one row of a tile into a row of samples. */
function writeTileRow(
  u16: Uint16Array,
  tile: number,
  y: number,
  count: number,
  out: Uint8Array,
  at: number,
  rows: Rows,
): void {
  let to = at;
  for (let x = 0; x < count; x++) {
    const p = (tile + pixelOffset(x, y, 0)) >> 1;
    const a = u16[p + 24] as number;
    for (let c = 0; c < 3; c++) {
      const v = u16[p + c * 8] as number;
      if (rows.depth === 8) out[to++] = a === ONE ? toByte(v) : straight(v, a, 255);
      else {
        const wide = straight(v, a, 65535);
        out[to++] = wide >> 8;
        out[to++] = wide & 255;
      }
    }
    if (!rows.alpha) continue;
    if (rows.depth === 8) out[to++] = toByte(a);
    else {
      const wide = Math.round((a * 65535) / ONE);
      out[to++] = wide >> 8;
      out[to++] = wide & 255;
    }
  }
}

type TileSource = (keys: number[], take: (key: number, address: number) => void) => void;

function writeBands(
  picture: Picture,
  store: TileStore,
  source: TileSource,
  rows: Rows,
  progress: Progress,
): void {
  const { width, height } = picture;
  const sample = (rows.alpha ? 4 : 3) * (rows.depth / 8);
  const stride = width * sample;
  const band = new Uint8Array(stride * TILE_SIDE);
  const across = Math.ceil(width / TILE_SIDE);
  for (let top = 0; top < height; top += TILE_SIDE) {
    progress(top / height);
    const lines = Math.min(TILE_SIDE, height - top);
    const keys = Array.from({ length: across }, (_, column) => tileKey(column, top / TILE_SIDE));
    let column = 0;
    source(keys, (_key, address) => {
      const left = column++ * TILE_SIDE;
      const { u16 } = store.heap;
      const count = Math.min(TILE_SIDE, width - left);
      for (let y = 0; y < lines; y++)
        writeTileRow(u16, address, y, count, band, y * stride + left * sample, rows);
    });
    for (let y = 0; y < lines; y++) rows.row(band.subarray(y * stride, (y + 1) * stride));
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
): void {
  const compositor = new Compositor(picture, store, workforce, ground);
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

/** One layer's own pixels, row by row. */
export function layerRows(
  picture: Picture,
  store: TileStore,
  id: string,
  rows: Rows,
  progress: Progress = () => undefined,
): void {
  const plane = picture.plane(id);
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
  const { u16 } = store.heap;
  for (const [key, tile] of plane) {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const from = store.address(tile);
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
