import sharp from "sharp";
import { Compositor } from "../src/engine/compose/compositor";
import { blendModes } from "../src/engine/compose/blend-modes";
import { type Engine } from "../src/engine/engine";
import { headerSchema } from "../src/engine/picture/header";
import { Marks } from "../src/engine/stroke/marks";
import { type Sample } from "../src/engine/stroke/sample";
import {
  COVERAGE_BYTES,
  TILE_BYTES,
  tileColumn,
  tileRow,
  tilesIn,
} from "../src/engine/tiles/layout";
import { TAPE } from "../src/engine/tiles/tape";
import { type Work } from "../src/engine/command/work";
import { addHelpers } from "../src/node/helpers";
import { loadEngine } from "../src/node/load-engine";
import { brushRows, largeBrushRows } from "./brushes";
import { lineRows } from "./lines";
import { printRows } from "./print";
import { sceneRows } from "./scene";
import { strewRow } from "./strew";
import { fileRows } from "./files";
import { regionRows } from "./regions";
import { transformRow } from "./transform";
import { inTurn, median, type Row } from "./measure";

const TILE_PIXELS = 4096;
const WORKER_ROUNDS = 63;

/** Soft marks of a diameter into the coverage tiles that they touch. */
function softMarks(
  engine: Engine,
  diameter: number,
  count: number,
  cold: boolean,
  reference: (pixels: number) => void,
): { ms: number; ratio: number; pixels: number } {
  const { store, workforce, bench } = engine;
  const centre = cold ? 2048 : diameter / 2 + 64;
  const reach = diameter / 2 + 1;
  const keys = tilesIn(
    { left: centre - reach, top: centre - reach, right: centre + reach, bottom: centre + reach },
    16384,
    16384,
  );
  const coverage = new Map(keys.map((key) => [key, store.heap.allocate(COVERAGE_BYTES)]));
  const marks = new Marks(store.heap);
  for (let i = 0; i < count; i++)
    marks.disc(
      {
        x: centre,
        y: centre,
        radius: diameter / 2,
        stretch: 1,
        angle: 0,
        hardness: 0,
        flow: 0.02,
        noise: i * 977,
      },
      null,
    );
  const pixels = Math.PI * (diameter / 2) ** 2;
  const { ms, ratio } = inTurn(
    () => {
      for (const key of keys) {
        workforce.beginJob();
        workforce.write(
          TAPE.marks,
          coverage.get(key) as number,
          tileColumn(key) * 64,
          tileRow(key) * 64,
          marks.address,
          marks.count,
          bench.noise,
          0,
          64,
        );
        workforce.endJob();
      }
      workforce.run(false);
    },
    () => reference(pixels),
    15,
    () => {
      for (const address of coverage.values())
        store.heap.u8.fill(0, address, address + COVERAGE_BYTES);
      if (cold) flushCaches();
    },
  );
  marks.free();
  for (const address of coverage.values()) store.heap.free(address, COVERAGE_BYTES);
  return { ms: ms / count, ratio, pixels };
}

const junk = new Uint8Array(96 * 2 ** 20);
function flushCaches(): void {
  for (let i = 0; i < junk.length; i += 64) junk[i] = (junk[i] as number) + 1;
}

function markRows(engine: Engine): Row[] {
  const { kernels, heap } = engine.store;
  const rows: Row[] = [];
  const area = heap.allocate(64 * 2 ** 20);
  const target = heap.allocate(64 * 2 ** 20);
  heap.u8.fill(1, area, area + 64 * 2 ** 20);
  heap.u8.fill(1, target, target + 64 * 2 ** 20);
  const bytesOf = (pixels: number): number =>
    Math.min(64 * 2 ** 20, Math.ceil((pixels * 8) / 64) * 64);
  const times = 64;
  for (const diameter of [100, 200, 500]) {
    const { ms, ratio, pixels } = softMarks(engine, diameter, times, false, (count) => {
      for (let i = 0; i < times; i++) kernels.readModifyWrite(area, bytesOf(count));
    });
    rows.push({
      what: `soft mark ${diameter} px, in cache`,
      reference: "read-modify-write, RGBA bytes",
      wanted: { least: 0.5 },
      ratio,
      note: `${Math.round(pixels / ms / 1000)} Mpx/s into a coverage plane`,
    });
  }
  for (const diameter of [800, 1800]) {
    const { ms, ratio, pixels } = softMarks(engine, diameter, 1, true, (count) =>
      kernels.copyBytes(target, area, bytesOf(count)),
    );
    rows.push({
      what: `soft mark ${diameter} px, cold`,
      reference: "memcpy, RGBA bytes",
      wanted: { least: 1.2 },
      ratio,
      note: `${Math.round(pixels / ms / 1000)} Mpx/s into coverage; laying it on the layer comes once a frame`,
    });
  }
  return rows;
}

function layerRows(engine: Engine): Row[] {
  const { store, workforce } = engine;
  const { heap, kernels } = store;
  const tiles = 160;
  const layers = 10;
  const make = (): number => {
    const address = heap.allocate(TILE_BYTES);
    for (let i = 0; i < TILE_BYTES / 2; i++) heap.u16[(address >> 1) + i] = (i * 37) & 8191;
    return address;
  };
  const sources = Array.from({ length: tiles }, () => Array.from({ length: layers }, make));
  const out = Array.from({ length: tiles }, make);
  const flat = heap.allocate(TILE_BYTES * tiles * layers);
  const copyTo = heap.allocate(TILE_BYTES * tiles * layers);
  heap.u8.fill(1, flat, flat + TILE_BYTES * tiles * layers);
  heap.u8.fill(1, copyTo, copyTo + TILE_BYTES * tiles * layers);
  const copy = (): void => kernels.copyBytes(copyTo, flat, TILE_BYTES * tiles * layers);
  const stack = (mode: (layer: number) => number): { ms: number; ratio: number } =>
    inTurn(() => {
      sources.forEach((stackOf, i) => {
        workforce.beginJob();
        stackOf.forEach((source, layer) =>
          workforce.write(TAPE.blend, out[i] as number, source, mode(layer), 32767, 0),
        );
        workforce.endJob();
      });
      workforce.run(false);
    }, copy);
  const normal = stack(() => 0);
  const mixed = stack((layer) => [0, 1, 2, 3, 0, 5, 8, 0, 10, 1][layer] as number);
  const everyMode = stack((layer) => (layer * 2 + 1) % 16);
  const mpx = (ms: number): string =>
    `${Math.round((tiles * layers * TILE_PIXELS) / ms / 1000)} Mpx/s`;
  const pixels = new Uint8ClampedArray(TILE_PIXELS * 4);
  const plainJs = median(() => {
    for (let t = 0; t < tiles; t++) {
      const at = (out[t] as number) >> 1;
      const { u16 } = heap;
      for (let p = 0; p < TILE_PIXELS; p++) {
        const block = at + (p >> 3) * 32 + (p & 7);
        for (let c = 0; c < 4; c++)
          pixels[p * 4 + c] = ((u16[block + c * 8] as number) * 255 + 16384) >> 15;
      }
    }
  }, 7);
  const packed = heap.allocate(TILE_BYTES);
  const pack = median(() => {
    for (let t = 0; t < tiles; t++) {
      workforce.beginJob();
      workforce.write(TAPE.pack, packed, 256, out[t] as number, 0);
      workforce.endJob();
    }
    workforce.run(false);
  }, 7);
  return [
    {
      what: "10 normal layers",
      reference: "memcpy of the layer bytes",
      wanted: { least: 1.2 },
      ratio: normal.ratio,
      note: mpx(normal.ms),
    },
    {
      what: "10 layers, modes mixed",
      reference: "the same",
      wanted: { least: 0.7 },
      ratio: mixed.ratio,
      note: `${mpx(mixed.ms)}; half of all sixteen modes, with divisions: ${everyMode.ratio.toFixed(2)} ×`,
    },
    {
      what: "pack to RGBA8",
      reference: "plain JS",
      wanted: { least: 12 },
      ratio: plainJs / pack,
      note: `${Math.round((tiles * TILE_PIXELS) / pack / 1000)} Mpx/s`,
    },
  ];
}

async function workerRow(): Promise<Row> {
  const engine = await loadEngine();
  const { store, workforce } = engine;
  const { heap } = store;
  const tiles = 512;
  const make = (): number => {
    const address = heap.allocate(TILE_BYTES);
    heap.u8.fill(3, address, address + TILE_BYTES);
    return address;
  };
  const sources = Array.from({ length: tiles }, make);
  const targets = Array.from({ length: tiles }, make);
  const run = (instruction: (i: number) => number[], together: boolean): void => {
    for (let i = 0; i < tiles; i++) {
      workforce.beginJob();
      for (let k = 0; k < 4; k++) workforce.write(...instruction(i));
      workforce.endJob();
    }
    workforce.run(together);
  };
  const blend = (i: number): number[] => [
    TAPE.blend,
    targets[i] as number,
    sources[i] as number,
    1,
    30000,
    0,
  ];
  const copy = (i: number): number[] => [
    TAPE.copy,
    targets[i] as number,
    sources[i] as number,
    TILE_BYTES,
  ];
  const release = await addHelpers(engine, 2);
  const time = (instruction: (i: number) => number[], together: boolean): number => {
    const start = performance.now();
    run(instruction, together);
    return performance.now() - start;
  };
  // All four beside each other, many times: a core that is lent to others for a moment counts once.
  const rounds = Array.from({ length: WORKER_ROUNDS }, () => {
    const layers = time(blend, false) / time(blend, true);
    const copies = time(copy, false) / time(copy, true);
    return { layers, copies, ratio: layers / copies };
  }).slice(3);
  await release();
  const middle = (values: number[]): number =>
    values.sort((x, y) => x - y)[values.length >> 1] as number;
  const layers = middle(rounds.map((round) => round.layers));
  const copies = middle(rounds.map((round) => round.copies));
  return {
    what: "2 workers, layers",
    reference: "memcpy's own scaling",
    wanted: { least: 0.85 },
    ratio: middle(rounds.map(({ ratio }) => ratio)),
    note: `layers ${layers.toFixed(2)} ×, memcpy ${copies.toFixed(2)} ×`,
  };
}

const across = (y: number, from: number, to: number): Sample[] =>
  Array.from({ length: 40 }, (_, i) => [
    i * 8,
    from + ((to - from) * i) / 39,
    y + Math.sin(i / 5) * 30,
    0.8,
    1.4,
    0,
    0,
  ]);

function paintedPicture(engine: Engine, layers: number, width: number, height: number): Work {
  const work = engine.open(headerSchema.parse({ pampas: 1, width, height }));
  work.history.limit = 0;
  for (let i = 0; i < layers; i++) {
    work.apply({ do: "layer.add", id: `l${i}`, name: `l${i}`, above: i ? `l${i - 1}` : null });
    work.apply({
      do: "stroke",
      layer: `l${i}`,
      brush: "round-soft",
      size: 400,
      colour: "#7a4a38",
      samples: across(500, 100, 1900),
    });
  }
  return work;
}

/** A 200-px stroke in the middle of a stack, drawn and composited as the table does it. */
async function stackedStroke(layers: number, withModes: boolean): Promise<number> {
  const engine = await loadEngine();
  const work = paintedPicture(engine, layers, 2048, 1024);
  const id = `l${layers >> 1}`;
  for (let i = 0; i < layers; i++)
    if (withModes && i % 7 === 3)
      work.apply({
        do: "layer.set",
        id: `l${i}`,
        blend: blendModes[1 + (i % 3)] as "multiply",
        opacity: 0.8,
      });
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  compositor.setWorking(id);
  compositor.pack(
    tilesIn({ left: 0, top: 0, right: 2048, bottom: 1024 }, 2048, 1024),
    0,
    () => undefined,
  );
  const samples = across(500, 300, 1500);
  return median(() => {
    work.beginStroke({
      do: "stroke",
      layer: id,
      brush: "round-soft",
      size: 200,
      colour: "#223388",
      seed: 1,
    });
    for (const sample of samples) {
      const keys = new Set<number>();
      work.events.damaged = ({ keys: changed }) => changed.forEach((key) => keys.add(key));
      work.extendStroke([sample]);
      compositor.pack([...keys], 0, () => undefined);
    }
    work.endStroke();
  }, 5);
}

async function strokeRows(): Promise<Row[]> {
  const one = await stackedStroke(1, false);
  const forty = await stackedStroke(40, false);
  const mixed = await stackedStroke(40, true);
  const engine = await loadEngine();
  const work = paintedPicture(engine, 1, 2048, 1024);
  work.history.limit = 2 ** 30;
  let drawn = 0;
  let undone = 0;
  for (let i = 0; i < 8; i++) {
    const start = performance.now();
    work.apply({
      do: "stroke",
      layer: "l0",
      brush: "round-soft",
      size: 200,
      colour: "#223388",
      samples: across(500, 300, 1500),
    });
    const middle = performance.now();
    work.undo();
    drawn += middle - start;
    undone += performance.now() - middle;
  }
  return [
    {
      what: "200-px stroke under 40 layers",
      reference: "under 1 layer",
      wanted: { most: 1.3 },
      ratio: forty / one,
      note: `${one.toFixed(0)} and ${forty.toFixed(0)} ms for 1200 px, drawn and composited`,
    },
    {
      what: "the same, 6 of the 40 with modes",
      reference: "under 1 layer",
      wanted: null,
      ratio: mixed / one,
      note: "layers with modes of their own above the working one cannot be merged beforehand",
    },
    {
      what: "undo of one stroke",
      reference: "the stroke",
      wanted: { most: 0.2 },
      ratio: undone / drawn,
      note: `${(drawn / 8).toFixed(1)} and ${(undone / 8).toFixed(2)} ms`,
    },
  ];
}

async function memoryRow(): Promise<Row> {
  const engine = await loadEngine();
  const work = engine.open(headerSchema.parse({ pampas: 1, width: 6000, height: 4500 }));
  for (let i = 0; i < 20; i++) {
    work.apply({ do: "layer.add", id: `l${i}`, name: `l${i}`, above: i ? `l${i - 1}` : null });
    for (let k = 0; k < 3; k++)
      work.apply({
        do: "stroke",
        layer: `l${i}`,
        brush: "pencil-6b",
        size: 60,
        colour: "#223388",
        seed: i * 3 + k,
        samples: across(400 + k * 1300 + i * 40, 200, 5800),
      });
  }
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  compositor.setWorking("l10");
  compositor.pack(
    tilesIn({ left: 0, top: 0, right: 1280, bottom: 800 }, 6000, 4500),
    0,
    () => undefined,
  );
  while (work.history.tidy(1000));
  let painted = 0;
  for (const planes of work.picture.planes.values())
    for (const plane of planes.values())
      for (const tile of plane.values()) if (!tile.colour) painted += TILE_BYTES;
  const used = engine.memory.buffer.byteLength + engine.store.squeezedBytes;
  return {
    what: "memory, 6000 × 4500, 20 layers",
    reference: "bytes of its painted tiles",
    wanted: { most: 1.5 },
    ratio: used / painted,
    note: `${Math.round(painted / 2 ** 20)} MiB painted; all of the engine's memory counted, history and caches of a 1280 × 800 view too`,
  };
}

/** For comparison only: the same ten layers by a general raster library, 8 bits, interleaved. */
async function peerRow(): Promise<Row> {
  const side = 1024;
  const layer = (i: number): Buffer =>
    Buffer.from(Uint8Array.from({ length: side * side * 4 }, (_, k) => (k * (i + 3)) & 127));
  const raw = { width: side, height: side, channels: 4 as const };
  sharp.concurrency(1);
  const [base, ...others] = Array.from({ length: 10 }, (_, i) => layer(i));
  const run = (): Promise<unknown> =>
    sharp(base, { raw })
      .composite(others.map((input) => ({ input, raw })))
      .raw()
      .toBuffer();
  await run();
  const start = performance.now();
  for (let i = 0; i < 3; i++) await run();
  const peer = (performance.now() - start) / 3;
  const engine = await loadEngine();
  const { heap } = engine.store;
  const tiles = (side / 64) ** 2;
  const sources = Array.from({ length: tiles * 10 }, () => {
    const address = heap.allocate(TILE_BYTES);
    heap.u8.fill(9, address, address + TILE_BYTES);
    return address;
  });
  const ours = median(() => {
    for (let t = 0; t < tiles; t++) {
      engine.workforce.beginJob();
      for (let l = 1; l < 10; l++)
        engine.workforce.write(
          TAPE.blend,
          sources[t * 10] as number,
          sources[t * 10 + l] as number,
          0,
          32767,
          0,
        );
      engine.workforce.endJob();
    }
    engine.workforce.run(false);
  }, 5);
  return {
    what: "10 layers of 1024 × 1024",
    reference: "sharp (peer), one thread",
    wanted: null,
    ratio: peer / ours,
    note: `sharp ${peer.toFixed(0)} ms at 8 bits, ours ${ours.toFixed(1)} ms at 15`,
  };
}

export async function engineRows(): Promise<Row[]> {
  const engine = await loadEngine();
  return [
    ...markRows(engine),
    ...layerRows(engine),
    await workerRow(),
    ...(await strokeRows()),
    ...brushRows(engine),
    ...lineRows(engine),
    ...(await printRows(engine)),
    ...(await sceneRows(await loadEngine())),
    strewRow(await loadEngine()),
    ...(await largeBrushRows(await loadEngine())),
    ...(await fileRows(await loadEngine())),
    await transformRow(await loadEngine()),
    ...(await regionRows(await loadEngine())),
    await memoryRow(),
    await peerRow(),
  ];
}
