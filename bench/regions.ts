import type FloodFillKind from "q-floodfill";
import sharp from "sharp";
import { Compositor } from "../src/engine/compose/compositor";
import { type Engine } from "../src/engine/engine";
import { blurPlane } from "../src/engine/adjust/blur";
import { type Work } from "../src/engine/command/work";
import { headerSchema } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { TILE_BYTES, tilesIn } from "../src/engine/tiles/layout";
import { inTurn, inTurnAsync, type Row } from "./measure";

const WIDTH = 6000;
const HEIGHT = 4500;
const WHOLE = { left: 0, top: 0, right: WIDTH, bottom: HEIGHT };
/** Rooms across and down the page of lines: 400 regions. */
const ROOMS = 20;

function sheet(engine: Engine, ...ids: string[]): Work {
  const work = engine.open(headerSchema.parse({ pampas: 1, width: WIDTH, height: HEIGHT }));
  for (const id of ids)
    work.apply({
      do: "layer.add",
      id,
      name: id,
      above: work.picture.structure.layers.at(-1)?.id ?? null,
    });
  return work;
}

/** A figure of one loop in the middle of the sheet: around it lies a region nearly as large. */
function loopPage(engine: Engine): Work {
  const work = sheet(engine, "flat", "ink");
  work.apply({ do: "layer.set", id: "ink", lines: true });
  const samples = Array.from({ length: 400 }, (_, i): Sample => {
    const turn = (i / 396) * 2 * Math.PI;
    const r = 900 + 120 * Math.sin(turn * 7);
    return [i * 8, 3000 + r * Math.cos(turn), 2250 + r * Math.sin(turn), 0.7, 1.2, 0, 0];
  });
  const stroke = { do: "stroke" as const, layer: "ink", brush: "pen-even", size: 9, seed: 5 };
  work.apply({ ...stroke, colour: "#202028", samples });
  return work;
}

/** A page of wavering lines that close 400 rooms in. */
function linePage(engine: Engine): Work {
  const work = sheet(engine, "flat", "ink");
  work.apply({ do: "layer.set", id: "ink", lines: true });
  const draw = (x0: number, y0: number, x1: number, y1: number): void => {
    const samples = Array.from({ length: 90 }, (_, i): Sample => {
      const u = i / 89;
      const waver = 10 * Math.sin(i * 0.7 + x0 + y0);
      return [i * 8, x0 + (x1 - x0) * u + waver, y0 + (y1 - y0) * u + waver, 0.7, 1.2, 0, 0];
    });
    const stroke = { do: "stroke" as const, layer: "ink", brush: "pen-even", size: 9, seed: 5 };
    work.apply({ ...stroke, colour: "#202028", samples });
  };
  const [across, down] = [5600 / ROOMS, 4200 / ROOMS];
  for (let i = 0; i <= ROOMS; i++) {
    draw(180, 150 + i * down, 5820, 150 + i * down);
    draw(200 + i * across, 130, 200 + i * across, 4370);
  }
  return work;
}

/** The same lines as plain RGBA bytes, for the fill that is compared with. */
function asBytes(engine: Engine, work: Work): Uint8ClampedArray<ArrayBuffer> {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  const { store } = engine;
  for (const [key, tile] of work.picture.plane("ink")) {
    const at = store.address(tile) >> 1;
    const { u16 } = store.heap;
    const [left, top] = [(key & 255) * 64, (key >> 8) * 64];
    for (let y = 0; y < 64 && top + y < HEIGHT; y++)
      for (let x = 0; x < 64 && left + x < WIDTH; x++) {
        const a = u16[at + y * 256 + (x >> 3) * 32 + 24 + (x & 7)] as number;
        const v = 255 - (a >> 7);
        data.fill(v, ((top + y) * WIDTH + left + x) * 4, ((top + y) * WIDTH + left + x) * 4 + 3);
      }
  }
  return data;
}

/** The package looks for a window when it is read. */
async function floodFill(): Promise<typeof FloodFillKind> {
  (globalThis as { window?: unknown }).window ??= globalThis;
  const read = (await import("q-floodfill")) as unknown as {
    default: typeof FloodFillKind | { default: typeof FloodFillKind };
  };
  return "default" in read.default ? read.default.default : read.default;
}

function fillRow(
  FloodFill: typeof FloodFillKind,
  place: string,
  work: Work,
  bytes: Uint8ClampedArray,
  bridge: number,
): Row {
  const image = { data: bytes, width: WIDTH, height: HEIGHT } as ImageData;
  const { ms, ratio } = inTurn(
    () => {
      const lay = {
        do: "fill" as const,
        layer: "flat",
        borders: "lines" as const,
        colour: "#c08030",
      };
      work.apply({ ...lay, at: [[20, 20]], bridge });
      work.undo();
    },
    () => {
      // A colour that is quite another each time, else there is nothing to do.
      const isDark = (bytes[(20 * WIDTH + 20) * 4] as number) < 128;
      new FloodFill(image).fill(isDark ? "rgb(240, 230, 90)" : "rgb(20, 90, 200)", 20, 20, 60);
    },
    3,
  );
  return {
    what: `fill of ${place}, 6000 × 4500, bridge ${bridge}`,
    reference: "scanline fill of the same region in JS (q-floodfill)",
    wanted: { least: bridge === 0 ? 2 : 0.5 },
    ratio,
    note: `${Math.round(ms)} ms, undone again each time`,
  };
}

const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } };

async function flatsRow(work: Work): Promise<Row> {
  const pixels = Buffer.alloc(WIDTH * HEIGHT * 4, 120);
  const { ms, ratio } = await inTurnAsync(
    () => {
      const reading = { borders: "lines" as const, bridge: 14 };
      work.apply({ do: "flats", id: "flats", name: "Flats", above: null, ...reading });
      work.undo();
      return Promise.resolve();
    },
    async () => {
      await sharp(pixels, raw).blur(4).raw().toBuffer();
    },
    3,
  );
  return {
    what: "lay flats, 6000 × 4500, 400 regions",
    reference: "sharp (peer), Gaussian of radius 8 (σ 4), one thread",
    wanted: { least: 1 / 8 },
    ratio,
    note: `${Math.round(ms)} ms`,
  };
}

async function blurRow(engine: Engine): Promise<Row> {
  const { store } = engine;
  const plane = new Map(
    tilesIn(WHOLE, WIDTH, HEIGHT).map((key, n) => {
      const tile = store.create();
      const at = tile.address >> 1;
      for (let i = 0; i < 16384; i++) store.heap.u16[at + i] = ((i + n) * 37) & 32767;
      return [key, tile] as const;
    }),
  );
  const pixels = Buffer.alloc(WIDTH * HEIGHT * 4);
  for (let i = 0; i < pixels.length; i++) pixels[i] = (i * 37) & 255;
  const { ms, ratio } = await inTurnAsync(
    () => {
      const sheetSize = { width: WIDTH, height: HEIGHT };
      for (const tile of blurPlane(engine.bench, sheetSize, plane, 32).values())
        store.release(tile);
      return Promise.resolve();
    },
    async () => {
      await sharp(pixels, raw).blur(16).raw().toBuffer();
    },
    3,
  );
  for (const tile of plane.values()) store.release(tile);
  return {
    what: "blur of radius 32 (σ 16), full layer of 6000 × 4500",
    reference: "sharp (peer), σ 16, one thread",
    wanted: { least: 0.8 },
    ratio,
    note: `${Math.round(ms)} ms at 15 bits`,
  };
}

const LAYERS = 100;
const SEEN = { left: 640, top: 640, right: 640 + 1216, bottom: 640 + 768 };

function toggleRow(engine: Engine): Row {
  const { store } = engine;
  const ids = Array.from({ length: LAYERS }, (_, i) => `l${i}`);
  const work = sheet(engine, ...ids);
  const keys = tilesIn(SEEN, WIDTH, HEIGHT);
  const bytes = keys.length * TILE_BYTES;
  for (const id of ids)
    for (const key of keys) {
      const tile = store.create();
      store.kernels.fillTile(tile.address, 9000, 4000, 2000, 12000);
      work.picture.plane(id).set(key, tile);
    }
  const compositor = new Compositor(work.picture, store, engine.workforce);
  compositor.setWorking("l50");
  const to = store.heap.allocate(bytes);
  let visible = true;
  const { ms, ratio } = inTurn(
    () => {
      visible = !visible;
      work.apply({ do: "layer.set", id: "l30", visible });
      compositor.pack(keys, 0, () => undefined);
    },
    () => {
      for (const id of ids) {
        let at = to;
        for (const tile of work.picture.plane(id).values()) {
          store.kernels.copyBytes(at, tile.address, TILE_BYTES);
          at += TILE_BYTES;
        }
      }
    },
    5,
  );
  compositor.free();
  store.heap.free(to, bytes);
  work.release();
  return {
    what: `one of ${LAYERS} layers hidden or shown: the visible part anew`,
    reference: "memcpy of the visible bytes of all layers",
    wanted: { least: 1 / 4 },
    ratio,
    note: `${Math.round(ms)} ms for 1216 × 768 px`,
  };
}

/** A picture of so many painted layers, in isolated groups of thirty, seen with its middle one in hand. */
function deepStack(engine: Engine, count: number): { again: () => void; free: () => void } {
  const { store } = engine;
  const ids = Array.from({ length: count }, (_, i) => `l${i}`);
  const work = sheet(engine, ...ids);
  const keys = tilesIn({ ...SEEN, right: SEEN.left + 512, bottom: SEEN.top + 512 }, WIDTH, HEIGHT);
  for (const id of ids)
    for (const key of keys) {
      const tile = store.create();
      store.kernels.fillTile(tile.address, 900, 400, 200, 1200);
      work.picture.plane(id).set(key, tile);
    }
  for (let i = 0; i < count; i += 30)
    work.apply({
      do: "layer.group",
      id: `g${i}`,
      name: `Group ${i}`,
      layers: ids.slice(i, i + 30),
    });
  const compositor = new Compositor(work.picture, store, engine.workforce);
  const working = ids[count >> 1] as string;
  compositor.setWorking(working);
  return {
    again: () => {
      compositor.forget(working, keys);
      compositor.pack(keys, 0, () => undefined);
    },
    free: () => {
      compositor.free();
      work.release();
    },
  };
}

function deepRow(engine: Engine): Row {
  const many = deepStack(engine, 300);
  const few = deepStack(engine, 3);
  const { ms, ratio } = inTurn(many.again, few.again, 15);
  many.free();
  few.free();
  return {
    what: "a mark seen on one of 300 layers, thirty to a group",
    reference: "the same on one of 3 layers",
    wanted: { least: 1 / 2 },
    ratio,
    note: `${Math.round(ms * 10) / 10} ms for 512 × 512 px`,
  };
}

/** Exact squared distances to the nearest set pixel (Felzenszwalb & Huttenlocher 2012), in plain JS. */
function distances(set: Uint8Array): Float32Array {
  const far = 1e12;
  const out = Float32Array.from(set, (v) => (v ? 0 : far));
  const longest = Math.max(WIDTH, HEIGHT);
  const f = new Float64Array(longest);
  const v = new Int32Array(longest);
  const z = new Float64Array(longest + 1);
  const line = (first: number, step: number, n: number): void => {
    for (let i = 0; i < n; i++) f[i] = out[first + i * step] as number;
    let k = 0;
    v[0] = 0;
    z[0] = -far;
    z[1] = far;
    for (let q = 1; q < n; q++) {
      let s = 0;
      for (;;) {
        const p = v[k] as number;
        s = ((f[q] as number) + q * q - ((f[p] as number) + p * p)) / (2 * q - 2 * p);
        if (s > (z[k] as number)) break;
        k--;
      }
      k++;
      v[k] = q;
      z[k] = s;
      z[k + 1] = far;
    }
    k = 0;
    for (let q = 0; q < n; q++) {
      while ((z[k + 1] as number) < q) k++;
      const p = v[k] as number;
      out[first + q * step] = (q - p) * (q - p) + (f[p] as number);
    }
  };
  for (let x = 0; x < WIDTH; x++) line(x, WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++) line(y * WIDTH, 1, WIDTH);
  return out;
}

function growRow(engine: Engine): Row {
  const work = sheet(engine, "a");
  const box = { left: 300, top: 300, right: 5700, bottom: 4200 };
  work.apply({ do: "select", shape: { kind: "ellipse", box } });
  const set = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      if (((x - 3000) / 2700) ** 2 + ((y - 2250) / 1950) ** 2 < 1) set[y * WIDTH + x] = 1;
  const { ms, ratio } = inTurn(
    () => {
      work.apply({ do: "select.change", change: { kind: "grow", by: 20 } });
      work.undo();
    },
    () => void distances(set),
    2,
  );
  work.release();
  return {
    what: "selection of 6000 × 4500 grown by 20 px",
    reference: "exact distance transform in plain JS",
    wanted: { least: 4 },
    ratio,
    note: `${Math.round(ms)} ms, undone again each time`,
  };
}

/** Fills, flats, blur, toggling and growing at full size. */
export async function regionRows(engine: Engine): Promise<Row[]> {
  sharp.concurrency(1);
  const work = linePage(engine);
  const FloodFill = await floodFill();
  const margins = asBytes(engine, work);
  const around = loopPage(engine);
  const sheetAround = asBytes(engine, around);
  const rows = [
    fillRow(FloodFill, "all around a figure", around, sheetAround, 0),
    fillRow(FloodFill, "all around a figure", around, sheetAround, 16),
    fillRow(FloodFill, "an eighth of a full page", work, margins, 0),
    fillRow(FloodFill, "an eighth of a full page", work, margins, 16),
  ];
  around.release();
  rows.push(await flatsRow(work));
  work.release();
  rows.push(await blurRow(engine), toggleRow(engine), deepRow(engine), growRow(engine));
  return rows;
}
