import sharp from "sharp";
import { Compositor } from "../src/engine/compose/compositor";
import { type Engine } from "../src/engine/engine";
import { renderingOf, writePicturePng } from "../src/engine/file/render";
import { writeTones } from "../src/engine/file/print/tones";
import { USUAL_HALFTONE } from "../src/engine/halftone/halftone";
import { headerSchema } from "../src/engine/picture/header";
import { TILE_BYTES, tileColumn, tileKey, tileRow, tilesIn } from "../src/engine/tiles/layout";
import { TAPE } from "../src/engine/tiles/tape";
import { type Work } from "../src/engine/command/work";
import { inTurn, inTurnAsync, type Row } from "./measure";

const COLD = 3000;
/** A page of 170 × 260 mm at 600 ppi. */
const PAGE = { width: 4016, height: 6142 };

function open(engine: Engine, width: number, height: number, ppi: number): Work {
  const work = engine.open(headerSchema.parse({ pampas: 1, width, height, ppi }));
  work.history.limit = 0;
  return work;
}

/** Fills a layer with a ramp: no tile is one colour. */
function ramp(engine: Engine, work: Work, layer: string): void {
  const { store } = engine;
  const { width, height } = work.picture;
  tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height).forEach((key, n) => {
    const tile = store.create();
    const at = store.address(tile) >> 1;
    const { u16 } = store.heap;
    for (let i = 0; i < 16384; i++)
      u16[at + i] = (i & 24) === 24 ? 32767 : ((i >> 5) * 40 + n * 7) & 32767;
    work.picture.plane(layer).set(key, tile);
  });
}

/** Copies as many bytes as the tiles have, on all threads. */
function copies(engine: Engine, tiles: number): () => void {
  const { workforce, store } = engine;
  const { heap } = store;
  // More than any cache holds.
  const buffers = Array.from({ length: COLD }, () => [
    heap.allocate(TILE_BYTES),
    heap.allocate(TILE_BYTES),
  ]);
  return () => {
    for (let i = 0; i < tiles; i++) {
      const [to = 0, from = 0] = buffers[i % COLD] ?? [];
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      workforce.write(TAPE.copy, to, from, TILE_BYTES);
      workforce.endJob();
    }
    workforce.run(true);
  };
}

/** A whole page in halftone as one bit a pixel. */
function pageRow(engine: Engine): Row {
  const { width, height } = PAGE;
  const work = open(engine, width, height, 600);
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  ramp(engine, work, "a");
  work.apply({ do: "layer.set", id: "a", halftone: USUAL_HALFTONE });
  const bits = renderingOf({ depth: 8, ground: true, tones: "black-and-white" });
  const tiles = Math.ceil(width / 64) * Math.ceil(height / 64);
  const { ms, ratio } = inTurn(
    () => writeTones(engine, work.picture, bits, () => undefined),
    copies(engine, tiles),
    3,
  );
  work.release();
  return {
    what: "halftone of a page at 600 ppi to one bit",
    reference: "memcpy of its bytes",
    wanted: { least: 0.1 },
    ratio,
    note: `${Math.round(ms)} ms, ${(width * height) / 1e6} million px`,
  };
}

/** The tiles that a mark reaches composited and packed for the screen, with a halftone and without. */
function markRow(engine: Engine): Row {
  const work = open(engine, 2048, 2048, 600);
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  ramp(engine, work, "a");
  const keys = [tileKey(10, 10), tileKey(11, 10), tileKey(10, 11), tileKey(11, 11)];
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  compositor.setWorking("a");
  let seed = 0;
  const mark = (): void => {
    const x = 700 + (seed++ % 40);
    work.apply({
      do: "stroke",
      layer: "a",
      brush: "round-soft",
      size: 60,
      seed,
      samples: [
        [0, x, 700, 0.6, 1.3, 0, 0],
        [8, x + 20, 712, 0.6, 1.3, 0, 0],
      ],
    });
    compositor.forget("a", keys);
    compositor.pack(keys, 0, () => undefined);
  };
  const set = (on: boolean): void => {
    work.apply({ do: "layer.set", id: "a", halftone: { ...USUAL_HALFTONE, on } });
    compositor.pack(keys, 0, () => undefined);
  };
  const many = (on: boolean) => (): void => {
    set(on);
    for (let i = 0; i < 40; i++) mark();
  };
  const { ms, ratio } = inTurn(many(true), many(false), 9);
  compositor.free();
  work.release();
  return {
    what: "a mark on a layer in halftone, till it is seen",
    reference: "the mark without",
    wanted: { most: 1.5 },
    ratio: 1 / ratio,
    note: `${(ms / 40).toFixed(2)} ms each`,
  };
}

/** Twenty layers of 6000 × 4500 cropped by odd px. */
function cropRow(engine: Engine): Row {
  const [width, height, layers] = [6000, 4500, 20];
  const work = open(engine, width, height, 300);
  let tiles = 0;
  // Each layer paints a figure's part of the sheet, so that the tiles lie unpacked, before and after.
  for (let i = 0; i < layers; i++) {
    const id = `l${i}`;
    work.apply({ do: "layer.add", id, name: id, above: null });
    const { store } = engine;
    const plane = work.picture.plane(id);
    for (const key of tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height)) {
      const [column, row] = [tileColumn(key) - 4 * i, tileRow(key) - 3 * (i % 18)];
      if (column < 0 || row < 0 || column >= 15 || row >= 15) continue;
      const tile = store.create();
      const at = store.address(tile) >> 1;
      const { u16 } = store.heap;
      for (let k = 0; k < 16384; k++) u16[at + k] = (k & 24) === 24 ? 32767 : (k * 37) & 32767;
      plane.set(key, tile);
      tiles++;
    }
  }
  work.history.limit = 2 ** 32;
  const { ms, ratio } = inTurn(
    () => {
      work.apply({ do: "sheet.crop", left: 131, top: 77, width: 5600, height: 4300 });
    },
    copies(engine, tiles),
    3,
    () => void work.undo(),
  );
  work.release();
  return {
    what: "crop of 6000 × 4500, 20 layers, by odd px",
    reference: "memcpy of the painted tiles",
    wanted: { least: 0.3 },
    ratio,
    note: `${Math.round(ms)} ms, ${tiles} tiles`,
  };
}

/** A PNG of 6000 × 4500 with what it takes to composite it. */
async function pngRow(engine: Engine): Promise<Row> {
  const work = open(engine, 6000, 4500, 300);
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  ramp(engine, work, "a");
  const png = writePicturePng(engine, work, { depth: 8, ground: true });
  const raw = { width: 6000, height: 4500, channels: 3 as const };
  const data = await sharp(png).removeAlpha().raw().toBuffer();
  sharp.concurrency(1);
  const { ms, ratio } = await inTurnAsync(
    () => {
      writePicturePng(engine, work, { depth: 8, ground: true });
      return Promise.resolve();
    },
    async () => {
      await sharp(data, { raw }).png({ compressionLevel: 4, adaptiveFiltering: true }).toBuffer();
    },
    2,
  );
  work.release();
  return {
    what: "PNG out, 6000 × 4500",
    reference: "sharp, level 4, filter by row: its time",
    wanted: { most: 1.5 },
    ratio: 1 / ratio,
    note: `${Math.round(ms)} ms with compositing`,
  };
}

/** Halftones, the sheet and files for print. */
export async function printRows(engine: Engine): Promise<Row[]> {
  return [pageRow(engine), markRow(engine), cropRow(engine), await pngRow(engine)];
}
