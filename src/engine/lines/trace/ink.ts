import { type Picture, type Plane, SELECTION } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";
import { pixelOffset, TILE_SIDE, tileColumn, tileRow } from "../../tiles/layout";
import { type Tile, type TileStore } from "../../tiles/tile-store";
import { type Ink } from "./trace";

/** More px than this are not read at once. */
const MOST_PIXELS = 40e6;
/** Paint that covers nearly all of its tiles is a scan: then what is dark is ink, not what is covered. */
const SCANNED = 0.9;
/** The share of a scan that is taken for its blackest ink, and how far from paper to ink what is seen is paper still. */
const DARKEST = 0.002;
const PAPER = 0.12;
const ONE = 32767;

/** Reads straight from tiles: how a layer's pixels are covered and coloured. */
export class Paint {
  readonly isScan: boolean;

  constructor(
    readonly store: TileStore,
    readonly picture: Picture,
    readonly plane: Plane,
  ) {
    let sum = 0;
    let count = 0;
    for (const key of plane.keys())
      for (let i = 3; i < 64; i += 8)
        for (let j = 3; j < 64; j += 8) {
          const [x, y] = [tileColumn(key) * TILE_SIDE + i, tileRow(key) * TILE_SIDE + j];
          if (x >= picture.width || y >= picture.height) continue;
          sum += this.pixel(x, y)[3];
          count++;
        }
    this.isScan = count > 0 && sum / count > SCANNED;
  }

  /** Premultiplied red, green, blue and alpha, 0…1. */
  pixel(x: number, y: number): [number, number, number, number] {
    const tile = this.plane.get((y >> 6) * 256 + (x >> 6));
    if (!tile) return [0, 0, 0, 0];
    if (tile.colour) return tile.colour.map((v) => v / ONE) as [number, number, number, number];
    const { u16 } = this.store.heap;
    const at = (this.store.address(tile) + pixelOffset(x & 63, y & 63, 0)) >>> 1;
    const read = (c: number): number => (u16[at + c * 8] as number) / ONE;
    return [read(0), read(1), read(2), read(3)];
  }

  /** How far each pixel of a tile is ink, 0…1, row by row: what is covered; of a scan, what is dark. */
  inkOf(tile: Tile, out: Float32Array): void {
    const { u16 } = this.store.heap;
    const address = tile.colour ? 0 : this.store.address(tile);
    for (let y = 0, to = 0; y < TILE_SIDE; y++)
      for (let x = 0; x < TILE_SIDE; x++, to++) {
        const at = (address + pixelOffset(x, y, 0)) >>> 1;
        const a = tile.colour ? tile.colour[3] : (u16[at + 24] as number);
        out[to] = a / ONE;
        if (!this.isScan || a === 0) continue;
        const r = tile.colour ? tile.colour[0] : (u16[at] as number);
        const g = tile.colour ? tile.colour[1] : (u16[at + 8] as number);
        const b = tile.colour ? tile.colour[2] : (u16[at + 16] as number);
        out[to] = (a - (0.2126 * r + 0.7152 * g + 0.0722 * b)) / ONE;
      }
  }
}

/**
 * The ink of a layer of paint, of what is selected where something is.
 * @throws Refusal where there is none, or too much of it
 */
export function inkOf(store: TileStore, picture: Picture, paint: Paint): Ink {
  const keys = [...paint.plane.keys()];
  if (keys.length === 0)
    throw new Refusal("There is nothing on this layer that could become lines.");
  const columns = keys.map(tileColumn);
  const rows = keys.map(tileRow);
  // One px of nothing all around.
  const left = Math.min(...columns) * TILE_SIDE - 1;
  const top = Math.min(...rows) * TILE_SIDE - 1;
  const right = Math.min(picture.width, (Math.max(...columns) + 1) * TILE_SIDE) + 1;
  const bottom = Math.min(picture.height, (Math.max(...rows) + 1) * TILE_SIDE) + 1;
  const [width, height] = [right - left, bottom - top];
  if (width * height > MOST_PIXELS)
    throw new Refusal("This drawing is too large to be read at once. Select a part of it.");
  const selected = picture.structure.selection ? picture.plane(SELECTION) : null;
  const selection = new Paint(store, picture, selected ?? new Map());
  const cover = new Uint8Array(width * height);
  const [ink, chosen] = [new Float32Array(TILE_SIDE ** 2), new Float32Array(TILE_SIDE ** 2)];
  for (const [key, tile] of paint.plane) {
    const held = selected?.get(key);
    if (selected && !held) continue;
    paint.inkOf(tile, ink);
    if (held) selection.inkOf(held, chosen);
    const [x0, y0] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    const wide = Math.min(TILE_SIDE, picture.width - x0);
    for (let y = 0; y < Math.min(TILE_SIDE, picture.height - y0); y++) {
      const to = (y0 + y - top) * width + x0 - left;
      for (let x = 0; x < wide; x++) {
        const from = y * TILE_SIDE + x;
        const share = held ? (chosen[from] as number) : 1;
        cover[to + x] = (ink[from] as number) * share * 255 + 0.5;
      }
    }
  }
  if (paint.isScan) cleanse(cover);
  return { left, top, width, height, cover };
}

/** A scan's paper is none of its ink, and its blackest ink is wholly ink: levels between what it has most and its darkest. */
function cleanse(cover: Uint8Array): void {
  const counts = new Uint32Array(256);
  for (const level of cover) counts[level] = (counts[level] as number) + 1;
  // Beyond the sheet there is nothing, which is no paper.
  counts[0] = 0;
  const paper = counts.indexOf(Math.max(...counts));
  let darkest = 255;
  let left = cover.length * DARKEST;
  while (darkest > paper + 1 && left > 0) left -= counts[darkest--] as number;
  const low = paper + (darkest - paper) * PAPER;
  const table = Uint8Array.from({ length: 256 }, (_, level) =>
    Math.max(0, Math.min(255, ((level - low) / (darkest - low)) * 255)),
  );
  cover.forEach((level, i) => (cover[i] = table[level] as number));
}
