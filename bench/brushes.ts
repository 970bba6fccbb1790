import { brushes, findBrush } from "../src/engine/media";
import { type Engine } from "../src/engine/engine";
import { type Brush, dryOf } from "../src/engine/stroke/brush";
import { addHelpers } from "../src/node/helpers";
import { headerSchema } from "../src/engine/picture/header";
import { Marks } from "../src/engine/stroke/marks";
import { STEPS_A_SECOND } from "../src/engine/time/time";
import { type Sample } from "../src/engine/stroke/sample";
import {
  COVERAGE_BYTES,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileRow,
  tilesIn,
} from "../src/engine/tiles/layout";
import { RunningWash, STEPS_OF_WATER } from "../src/engine/water/running-wash";
import { TAPE } from "../src/engine/tiles/tape";
import { dryRows } from "./dry";
import { inTurn, median, type Row } from "./measure";

/** A stroke of this length, px, drawn at this pace, px a second. */
const LENGTH = 2000;
const PACE = 1500;
const SHEET = { pampas: 1, width: 6000, height: 4500 };

/** A wave across the sheet, as the pen reports it: 200 samples a second. */
function wave(): Sample[] {
  const count = Math.round((LENGTH / PACE) * 200);
  return Array.from({ length: count + 1 }, (_, i) => {
    const u = i / count;
    const pressure = 0.3 + 0.6 * Math.sin(u * Math.PI);
    return [i * 5, 1500 + u * 1930, 2200 + 120 * Math.sin(u * 9), pressure, 1.1, u, 0];
  });
}

type Mode = "paint" | "lift" | "blend";

/** Ms that a whole stroke takes when it is drawn a frame at a time. */
export function strokeTime(
  engine: Engine,
  id: string,
  size: number,
  mode: Mode,
  runs: number,
): number {
  const work = engine.open(headerSchema.parse(SHEET));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  // There is something to lift and to blend: wet paint for what moves wet paint alone.
  const kind = findBrush(id)?.laying.kind;
  const isWet = kind === "bristles" || kind === "knife";
  if (mode !== "paint")
    work.apply({
      do: "stroke",
      layer: "a",
      brush: isWet ? "oil-house" : "round-soft",
      size: 1400,
      colour: "#446688",
      samples: [
        [0, 900, 2200, 1],
        [500, 4000, 2200, 1],
      ],
    });
  const samples = wave();
  const aFrame = 3;
  const draw = (): void => {
    work.beginStroke({
      do: "stroke",
      layer: "a",
      brush: id,
      size,
      mode,
      colour: "#303040",
      seed: 4,
    });
    for (let i = 0; i < samples.length; i += aFrame)
      work.extendStroke(samples.slice(i, i + aFrame));
    work.endStroke();
    work.undo();
  };
  const ms = median(draw, runs);
  work.release();
  return ms;
}

/** How much quicker than the hand the slowest of some brushes is, each at its own size. */
function realTime(engine: Engine, what: string, some: readonly Brush[], least: number): Row {
  const hand = (LENGTH / PACE) * 1000;
  const times = some
    .map(({ id, size }) => ({ id, ms: strokeTime(engine, id, size, "paint", 7) }))
    .sort((a, b) => b.ms - a.ms);
  const slowest = times[0]?.ms ?? 1;
  const named = times.slice(0, 3).map(({ id, ms }) => `${id} ${Math.round(ms)} ms`);
  return {
    what: `${what}, ${LENGTH} px of stroke`,
    reference: `the hand at ${PACE} px/s (${Math.round(hand)} ms)`,
    wanted: { least },
    ratio: hand / slowest,
    note: `slowest of ${times.length}: ${named.join(", ")}`,
  };
}

/** The same in every mode at a size that blocks in: on all threads, as at the table. */
function large(engine: Engine, size: number): Row[] {
  const hand = (LENGTH / PACE) * 1000;
  return (["paint", "lift", "blend"] as const).map((mode) => {
    const times = brushes
      .map(({ id }) => ({ id, ms: strokeTime(engine, id, size, mode, 1) }))
      .sort((a, b) => b.ms - a.ms);
    const named = times.slice(0, 3).map(({ id, ms }) => `${id} ${Math.round(ms)} ms`);
    return {
      what: `every brush at ${size} px, ${mode}, ${LENGTH} px of stroke`,
      reference: `the hand at ${PACE} px/s (${Math.round(hand)} ms)`,
      wanted: { least: 1 },
      ratio: hand / (times[0]?.ms ?? 1),
      note: `two threads; slowest of ${times.length}: ${named.join(", ")}`,
    };
  });
}

/** Oil against the hand: at its usual size on one thread, as a broad tuft on two. */
function oilRow(engine: Engine, size: number, pace: number, least: number, on: string): Row {
  const hand = (LENGTH / pace) * 1000;
  const ms = strokeTime(engine, "oil-round", size, "paint", 3);
  return {
    what: `Hog round, ${size} px, ${LENGTH} px of stroke, ${on}`,
    reference: `the hand at ${pace} px/s (${Math.round(hand)} ms)`,
    wanted: { least },
    ratio: hand / ms,
    note: `${Math.round(ms)} ms`,
  };
}

/** Large brushes, with a helper beside the engine's thread. */
export async function largeBrushRows(engine: Engine): Promise<Row[]> {
  const letGo = await addHelpers(engine, 2);
  try {
    const broad = oilRow(engine, 300, 1000, 1, "two threads");
    return [broad, ...large(engine, 400), ...large(engine, 1000)];
  } finally {
    await letGo();
  }
}

/** One mark of a large picture tip into coverage, against a copy of the pixels under it. */
function largeTip(engine: Engine): Row {
  const { store, workforce, bench } = engine;
  const { kernels, heap } = store;
  const side = 1800;
  const bytes = side * side * 8;
  const from = heap.allocate(bytes);
  const to = heap.allocate(bytes);
  heap.u8.fill(1, from, from + bytes);
  heap.u8.fill(1, to, to + bytes);
  const box = { left: 100, top: 100, right: 100 + side, bottom: 100 + side };
  const keys = tilesIn(box, 16384, 16384);
  const coverage = new Map(keys.map((key) => [key, heap.allocate(COVERAGE_BYTES)]));
  const marks = new Marks(heap);
  const middle = 100 + side / 2;
  const tip = bench.tips.get({ made: "sponge" });
  marks.stamp(
    {
      x: middle,
      y: middle,
      radius: side / 2,
      stretch: 1,
      angle: 0.3,
      flow: 0.5,
      noise: 77,
      tip,
      flipX: false,
      flipY: false,
    },
    null,
  );
  const { ms, ratio } = inTurn(
    () => {
      for (const key of keys) {
        workforce.beginJob();
        workforce.write(
          TAPE.marks,
          coverage.get(key) as number,
          tileColumn(key) * TILE_SIDE,
          tileRow(key) * TILE_SIDE,
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
    () => kernels.copyBytes(to, from, bytes),
  );
  marks.free();
  for (const address of coverage.values()) heap.free(address, COVERAGE_BYTES);
  heap.free(from, bytes);
  heap.free(to, bytes);
  return {
    what: `a picture tip of ${side} px, one mark`,
    reference: "memcpy, RGBA bytes under it",
    wanted: { least: 0.4 },
    ratio,
    note: `${Math.round((side * side) / ms / 1000)} Mpx/s into coverage, turned`,
  };
}

/** A thinned wash that runs: how long a step of time takes beside how long it lasts. */
function thinnerRow(engine: Engine): Row {
  const work = engine.open(headerSchema.parse(SHEET));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  for (let y = 600; y <= 1000; y += 100)
    work.apply({
      do: "stroke",
      layer: "a",
      brush: "oil-house",
      size: 140,
      colour: "#446688",
      thinner: 0.6,
      samples: Array.from({ length: 60 }, (_, i) => [i * 10, 600 + i * 12, y, 0.7]),
    });
  const STEPS = 10;
  const ms = median(() => void work.advance(STEPS), 7) / STEPS;
  work.release();
  const lasts = 1000 / STEPS_A_SECOND;
  return {
    what: "thinned oil over 700 × 500 px runs, a step of time, one thread",
    reference: `the time that it lasts (${lasts.toFixed(0)} ms)`,
    wanted: { least: 1 },
    ratio: lasts / ms,
    note: `${ms.toFixed(1)} ms, shown every ${STEPS} steps`,
  };
}

/** A wash of 1500 × 1000 px: a step of its water, and what it looks like. */
function washRows(engine: Engine): Row[] {
  const work = engine.open(headerSchema.parse(SHEET));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  const samples = Array.from({ length: 6 * 30 }, (_, i) => {
    const [row, u] = [Math.floor(i / 30), (i % 30) / 29];
    return [i * 10, 400 + 1300 * (row % 2 ? 1 - u : u), 400 + row * 170, 1];
  });
  work.apply({
    do: "stroke",
    layer: "a",
    brush: "wash-mop",
    size: 240,
    colour: "#446688",
    samples,
  });
  const running = new RunningWash(engine.bench, work.picture, "a");
  const STEPS = 4;
  const ms = median(
    () => {
      for (let i = 0; i < STEPS; i++) running.step();
    },
    5,
    () => showAll(running),
  );
  const step = ms / STEPS / STEPS_OF_WATER;
  const { heap } = engine.store;
  const tiles = showAll(running);
  const [from, to] = [heap.allocate(tiles * TILE_BYTES), heap.allocate(tiles * TILE_BYTES)];
  const { ms: develops, ratio } = inTurn(
    () => void showAll(running),
    () => heap.u8.copyWithin(to, from, from + tiles * TILE_BYTES),
    7,
    () => running.step(),
  );
  heap.free(from, tiles * TILE_BYTES);
  heap.free(to, tiles * TILE_BYTES);
  for (const { after } of running.end()) engine.store.release(after);
  work.release();
  return [
    {
      what: "water over 1500 × 1000 px, a step, one thread",
      reference: "the time that it lasts (17 ms)",
      wanted: { least: 0.5 },
      ratio: 1000 / 60 / step,
      note: `${step.toFixed(1)} ms, ${tiles} tiles`,
    },
    {
      what: "a wash developed to colour, one thread",
      reference: "memcpy of its colour tiles",
      wanted: { least: 0.15 },
      ratio,
      note: `${((develops / tiles) * 1000).toFixed(0)} µs a tile`,
    },
  ];
}

/** Shows all that has changed. Returns how many tiles that were. */
function showAll(running: RunningWash): number {
  let count = 0;
  for (;;) {
    const { length } = running.show();
    if (length === 0) return count;
    count += length;
  }
}

export const brushRows = (engine: Engine): Row[] => [
  realTime(engine, "every brush", brushes, 1),
  realTime(engine, "every dry brush", brushes.filter(dryOf), 2),
  ...dryRows(engine),
  // A quarter of one core at most.
  oilRow(engine, 60, PACE, 4, "one thread"),
  thinnerRow(engine),
  ...washRows(engine),
  largeTip(engine),
];
