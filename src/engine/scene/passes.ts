import { hexToQ15 } from "../colour/srgb";
import { TILE_SIDE, tileKey } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { lightTables } from "../transform/light";
import { binsOf, listIn } from "./bins";
import { type PassKind, type Scene } from "./scene";
import { type Stage, stageOf } from "./stage";

/** Samples a side of each pixel: its middle is one of them. */
const SAMPLES = 3;
/** Widest line, px, and what lies around a part of a tile for it. */
export const MOST_LINE = 24;
/** Lines are painted in parts of a tile, so that a wide one's surroundings have room too. */
const SMALL_PART = 32;
const SMALL_PAD = 2;
/** How far a round edge may lie off, px. */
const ERROR = 0.12;
/** What a flat tile holds: see `kernels/scene/shade.ts`. */
const FLAT = { depth: 0, id: 1, normal: 2, chosen: 3 } as const;

/** What can be painted of a scene: its pictures, or a mask of chosen solids. */
export type Painting = PassKind | "chosen";

export type PaintOptions = {
  width: number;
  height: number;
  passes: readonly Painting[];
  /** Ids of the solids of the mask. */
  chosen?: ReadonlySet<string>;
  /** Outlines, px; folds are narrower. */
  lineWidth: number;
  ink: string;
  /** Says how far the work has come; throws where it is to stop. */
  tell(share: number): void;
};

/**
 * Paints the pictures of a scene, a tile at a time on all threads. Tiles that show nothing are left out. Whoever calls
 * it takes over the tiles.
 */
export function paintScene(
  store: TileStore,
  workforce: Workforce,
  scene: Scene,
  options: PaintOptions,
): Map<Painting, Map<number, Tile>> {
  const { width, height } = options;
  const made = new Map(options.passes.map((pass) => [pass, new Map<number, Tile>()] as const));
  const pad = MOST_LINE;
  const view = { left: -pad, top: -pad, right: width + pad, bottom: height + pad };
  const shadows = options.passes.includes("colour") && scene.light.shadows;
  const { chosen } = options;
  const stage = stageOf(store.heap, scene, { error: ERROR, shadows, view, chosen });
  try {
    const lines = lineParts(options);
    const together = lines !== null && lines.side === TILE_SIDE;
    const apart = lines !== null && !together;
    const surfaces = options.passes.some((pass) => pass !== "line") || together;
    const share = surfaces && apart ? 0.6 : 1;
    if (surfaces)
      paintTiles(store, workforce, stage, made, together ? lines : null, {
        ...options,
        tell: (done) => options.tell(done * share),
      });
    if (apart) paintLines(store, workforce, stage, made, lines, options);
  } catch (error) {
    for (const tiles of made.values()) for (const tile of tiles.values()) store.release(tile);
    throw error;
  } finally {
    stage.release();
  }
  options.tell(1);
  for (const [, tiles] of made)
    for (const [key, tile] of tiles) {
      store.settle(tile);
      if (!store.isEmpty(tile)) continue;
      store.release(tile);
      tiles.delete(key);
    }
  return made;
}

type Made = Map<Painting, Map<number, Tile>>;

/** Calls for each row of tiles, running what was written after it. */
function byRows(
  workforce: Workforce,
  { width, height, tell }: PaintOptions,
  write: (column: number, row: number) => void,
): void {
  const [across, down] = [Math.ceil(width / TILE_SIDE), Math.ceil(height / TILE_SIDE)];
  for (let row = 0; row < down; row++) {
    tell(row / down);
    for (let column = 0; column < across; column++) write(column, row);
    workforce.run(true);
  }
}

/** How lines are painted: in parts of a tile, each with so many px around it. */
type LineParts = { side: number; pad: number; width: number; ink: readonly number[] };

function lineParts({ passes, lineWidth, ink }: PaintOptions): LineParts | null {
  if (!passes.includes("line")) return null;
  const width = Math.min(MOST_LINE, Math.max(0.5, lineWidth));
  const pad = Math.ceil(width / 2) + 1;
  const side = pad <= SMALL_PAD ? TILE_SIDE : SMALL_PART;
  return { side, pad, width: realWord(width), ink: hexToQ15(ink).slice(0, 3) };
}

/** A tile that is clear, in its place among those that are made. */
function clearTile(store: TileStore, tiles: Map<number, Tile>, key: number): Tile {
  const tile = store.create();
  store.kernels.fillTile(tile.address, 0, 0, 0, 0);
  tiles.set(key, tile);
  return tile;
}

/** Paints all that is painted tile by tile; `lines`: narrow ones, that go along. */
function paintTiles(
  store: TileStore,
  workforce: Workforce,
  stage: Stage,
  made: Made,
  lines: LineParts | null,
  options: PaintOptions,
): void {
  const pad = lines?.pad ?? 1;
  const bins = binsOf(stage.boxes, TILE_SIDE, pad, options.width, options.height);
  const { address, bytes } = listIn(store.heap, bins.list);
  const { toSrgb } = lightTables(store.heap);
  try {
    byRows(workforce, options, (column, row) => {
      const square = row * bins.across + column;
      const count = bins.starts[square + 1]! - bins.starts[square]!;
      if (count === 0 && !stage.hasGround) return;
      const [px, py] = [column * TILE_SIDE, row * TILE_SIDE];
      const list = address + bins.starts[square]! * 4;
      const side = TILE_SIDE + 2 * pad;
      workforce.beginJob();
      workforce.write(
        ...[TAPE.rasterScene, stage.address, list, count],
        ...[px - pad, py - pad, side, SAMPLES],
      );
      for (const [pass, tiles] of made) {
        if (pass === "line" && !lines) continue;
        const { address: to } = clearTile(store, tiles, tileKey(column, row));
        if (pass === "colour") {
          workforce.write(TAPE.colourScene, to, stage.address, px, py, pad, SAMPLES);
          workforce.write(TAPE.light, to, to, toSrgb);
        } else if (pass !== "line")
          workforce.write(TAPE.flatScene, to, stage.address, px, py, pad, SAMPLES, FLAT[pass]);
        else if (lines)
          workforce.write(
            ...[TAPE.lineScene, to, stage.address, px, py, 0, 0, TILE_SIDE, pad, SAMPLES],
            ...[lines.width, ...lines.ink],
          );
      }
      workforce.endJob();
    });
  } finally {
    store.heap.free(address, bytes);
  }
}

/** Paints lines that are too wide to go along with the rest. */
function paintLines(
  store: TileStore,
  workforce: Workforce,
  stage: Stage,
  made: Made,
  { side, pad, width, ink }: LineParts,
  options: PaintOptions,
): void {
  const bins = binsOf(stage.boxes, side, pad, options.width, options.height);
  const { address, bytes } = listIn(store.heap, bins.list);
  const tiles = made.get("line") as Map<number, Tile>;
  const parts = TILE_SIDE / side;
  const across = side + 2 * pad;
  try {
    byRows(workforce, options, (column, row) => {
      const tile = clearTile(store, tiles, tileKey(column, row));
      const [px, py] = [column * TILE_SIDE, row * TILE_SIDE];
      workforce.beginJob();
      for (let part = 0; part < parts * parts; part++) {
        const [left, top] = [(part % parts) * side, Math.floor(part / parts) * side];
        if (px + left >= options.width || py + top >= options.height) continue;
        const square = (row * parts + top / side) * bins.across + column * parts + left / side;
        const count = bins.starts[square + 1]! - bins.starts[square]!;
        if (count === 0 && !stage.hasGround) continue;
        const [x, y] = [px + left - pad, py + top - pad];
        const list = address + bins.starts[square]! * 4;
        workforce.write(TAPE.rasterScene, stage.address, list, count, x, y, across, SAMPLES);
        workforce.write(
          ...[TAPE.lineScene, tile.address, stage.address, px, py, left, top],
          ...[side, pad, SAMPLES, width, ...ink],
        );
      }
      workforce.endJob();
    });
  } finally {
    store.heap.free(address, bytes);
  }
}
