import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { Engine } from "../src/engine/engine";
import { oils } from "../src/engine/media/oils";
import { newHeader } from "../src/engine/picture/header";
import { Chance } from "../src/engine/stroke/chance";
import { type Sample } from "../src/engine/stroke/sample";
import { TILE_BYTES } from "../src/engine/tiles/layout";

/**
 * An hour of oil without a hand: 2 000 strokes of all oil brushes and knives, in all modes, over 4000 × 3000 px,
 * one thread. Prints how long batches of the pen's samples and the ends of strokes take, and what memory goes to,
 * every 200 strokes. `npm run campaign:oil -- --strokes 500` for a shorter one.
 */
const WIDTH = 4000;
const HEIGHT = 3000;
/** Samples that come in one message: 8 ms of a pen at 240 Hz is two; a busy page hands on more. */
const BATCH = 4;
const EVERY = 200;
const MIB = 2 ** 20;

const { values } = parseArgs({ options: { strokes: { type: "string", default: "2000" } } });
const strokes = Number(values.strokes);

const engine = new Engine(
  new WebAssembly.Module(readFileSync(new URL("../kernels/build/kernels.wasm", import.meta.url))),
);
const work = engine.open(
  newHeader({ width: WIDTH, height: HEIGHT, ppi: 200, paper: { kind: "canvas", scale: 1 } }),
);
work.apply({ do: "layer.add", id: "ground", name: "Ground", above: null });
work.apply({ do: "layer.add", id: "forms", name: "Forms", above: "ground" });

const chance = new Chance(0x0117);
let draws = 0;
const draw = (): number => chance.at(draws++);
const pick = <T>(list: readonly T[]): T => list[Math.floor(draw() * list.length)] as T;

/** A stroke as a hand makes them: a bow of some length, pressed and let go. */
function bow(): Sample[] {
  const [x, y] = [draw() * WIDTH, draw() * HEIGHT];
  const angle = draw() * 2 * Math.PI;
  const long = 80 + 700 * draw() ** 2;
  const bend = (draw() - 0.5) * 0.6;
  const firm = 0.3 + 0.6 * draw();
  const count = Math.max(8, Math.round(long / 4));
  return Array.from({ length: count }, (_, i) => {
    const u = i / (count - 1);
    const turn = angle + bend * u;
    return [
      i * 4,
      x + Math.cos(turn) * long * u,
      y + Math.sin(turn) * long * u,
      firm * Math.sin(Math.PI * Math.min(1, 0.1 + 0.9 * u)),
      1.2,
      0.4,
      0,
    ];
  });
}

const batches: number[] = [];
const ends: number[] = [];
let samples = 0;

function paint(seed: number): void {
  const brush = pick(oils);
  const mode = pick(["paint", "paint", "paint", "blend", "lift"] as const);
  const colour = `#${Math.floor(draw() * 0xffffff)
    .toString(16)
    .padStart(6, "0")}`;
  const size = Math.round(brush.size * (0.5 + 2 * draw()));
  work.beginStroke({
    do: "stroke",
    layer: draw() < 0.4 ? "ground" : "forms",
    ...{ brush: brush.id, mode, size, colour, seed },
    ...(draw() < 0.05 ? { thinner: 0.5 } : {}),
  });
  const path = bow();
  for (let i = 0; i < path.length; i += BATCH) {
    const before = performance.now();
    work.extendStroke(path.slice(i, i + BATCH));
    batches.push(performance.now() - before);
  }
  samples += path.length;
  const before = performance.now();
  work.endStroke();
  ends.push(performance.now() - before);
  while (work.advance(10));
}

const at = (sorted: readonly number[], share: number): string =>
  (sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0).toFixed(1);
const told = (list: readonly number[]): string => {
  const sorted = [...list].sort((a, b) => a - b);
  return `${at(sorted, 0.5)} / ${at(sorted, 0.95)} / ${at(sorted, 0.99)} / ${at(sorted, 1)}`;
};

function painted(): number {
  let bytes = 0;
  for (const planes of work.picture.planes.values())
    for (const plane of planes.values())
      for (const tile of plane.values()) if (tile.address) bytes += TILE_BYTES;
  return bytes;
}

console.log(
  "strokes | batch of 4 samples, ms: 50 / 95 / 99 % / most | end of stroke, ms | MiB: painted, history, in all",
);
const began = performance.now();
for (let i = 1; i <= strokes; i++) {
  paint(i);
  while (work.history.tidy(24));
  if (i % EVERY !== 0) continue;
  const mib = [painted(), work.history.bytes, engine.store.heap.bytes].map((b) =>
    Math.round(b / MIB),
  );
  console.log(`${i} | ${told(batches)} | ${told(ends)} | ${mib.join(", ")}`);
  batches.length = 0;
  ends.length = 0;
}
const hand = (samples * 4) / 1000;
console.log(
  `${((performance.now() - began) / 1000).toFixed(0)} s for ${hand.toFixed(0)} s of the hand`,
);
