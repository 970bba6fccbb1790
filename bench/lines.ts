import { type Engine } from "../src/engine/engine";
import { type CommandInput } from "../src/engine/command/commands";
import { type Work } from "../src/engine/command/work";
import { fit, finenessAt } from "../src/engine/lines/fit";
import { nearestOn } from "../src/engine/lines/curve";
import { lineAt } from "../src/engine/lines/find";
import { type LineSet, linesOf } from "../src/engine/lines/line-set";
import { Path } from "../src/engine/stroke/path";
import { brushOf } from "../src/engine/media";
import { headerSchema } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { inTurn, median, type Row } from "./measure";

const SHEET = { pampas: 1, width: 6000, height: 4500 };
/** A move of one line is one frame of a preview; so many are made. */
const MOVES = 40;

/** Numbers by chance, the same in every run. */
function chances(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
}

/** A page of lines as an inker draws them: most short, some across a figure. */
function page(count: number): CommandInput[] {
  const chance = chances(count);
  return Array.from({ length: count }, (_, i): CommandInput => {
    const length = i % 9 === 0 ? 900 : 120 + 260 * chance();
    const [x, y, turn] = [300 + 5200 * chance(), 300 + 3900 * chance(), 6.28 * chance()];
    const bend = 0.002 * (chance() - 0.5);
    const n = Math.round(length / 12);
    const samples: Sample[] = [];
    let [px, py, angle] = [x, y, turn];
    for (let k = 0; k <= n; k++) {
      samples.push([k * 8, px, py, 0.3 + 0.5 * Math.sin((k / n) * 3.1), 1.2, 0.4, 0]);
      angle += bend * 12;
      px += 12 * Math.cos(angle);
      py += 12 * Math.sin(angle);
    }
    return { do: "stroke", layer: "l", brush: "pen-sprung", size: 7, seed: i, samples };
  });
}

function pageOf(engine: Engine, count: number): { work: Work; set: LineSet } {
  const work = engine.open(headerSchema.parse(SHEET));
  work.history.limit = 0;
  work.apply({ do: "layer.add", id: "l", name: "Lines", above: null, kind: "lines" });
  for (const command of page(count)) work.apply(command);
  return { work, set: linesOf(engine.store, work.picture, "l") };
}

/** One of 3000 lines pulled, as its preview does it, beside all of them drawn once. */
function movedRow(engine: Engine): Row {
  const { work, set } = pageOf(engine, 3000);
  // Every line anew: a brush that is brought again is drawn with again.
  const whole = median(() => redrawAll(work), 3);
  const chance = chances(5);
  const times: number[] = [];
  for (let i = 0; i < MOVES; i++) {
    const line = set.lines[Math.floor(chance() * set.lines.length)];
    if (!line) continue;
    const middle = 6 * (line.curve.material.length >> 1);
    const at: [number, number] = [
      line.curve.points[middle] ?? 0,
      line.curve.points[middle + 1] ?? 0,
    ];
    const start = performance.now();
    work.tryOut({
      do: "line.pull",
      layer: "l",
      line: line.id,
      at,
      to: [at[0] + 14, at[1] - 9],
      reach: 90,
      ends: "held",
    });
    times.push(performance.now() - start);
    work.stopTrying();
  }
  times.sort((a, b) => a - b);
  const ms = times[times.length >> 1] ?? 0;
  const late = times[Math.floor(times.length * 0.95)] ?? 0;
  work.release();
  return {
    what: `one of 3000 lines pulled, 6000 × 4500 px`,
    reference: `drawing all of them (${Math.round(whole)} ms)`,
    wanted: { most: 0.02 },
    ratio: ms / whole,
    note: `${ms.toFixed(1)} ms, 95 % under ${late.toFixed(1)} ms`,
  };
}

function redrawAll(work: Work): void {
  const own = work.picture.structure.brushes["pen-sprung"];
  work.apply({ do: "brush.bring", brush: own ?? sprung(work) });
}

function sprung(work: Work): NonNullable<Work["picture"]["structure"]["brushes"][string]> {
  const found = brushOf(work.picture, "pen-sprung");
  if (!found) throw new Error("the sprung nib is gone");
  return found;
}

/** Picking among 10 000 lines, beside a look at every one of them. */
function pickRow(engine: Engine): Row {
  const { work, set } = pageOf(engine, 10_000);
  const chance = chances(9);
  const places = Array.from({ length: 200 }, () => [6000 * chance(), 4500 * chance()] as const);
  lineAt(set, 10, 10, 12);
  let found = 0;
  const pick = (): void => {
    for (const [x, y] of places) if (lineAt(set, x, y, 12)) found++;
  };
  const scan = (): void => {
    for (const [x, y] of places.slice(0, 4))
      for (const line of set.lines) if (nearestOn(line.curve, x, y, 12)) found++;
  };
  const { ms, ratio } = inTurn(pick, scan, 5);
  work.release();
  return {
    what: "picking among 10 000 lines",
    reference: "looking at each of them",
    wanted: { least: 50 },
    ratio: ratio * (places.length / 4),
    note: `${((ms / places.length) * 1000).toFixed(0)} µs a place; ${found > 0 ? "some were met" : "none was met"}`,
  };
}

/** Fitting a stroke of 2000 samples, beside the hand that drew it at 120 Hz. */
function fitRow(): Row {
  const path = new Path(0.15, 1);
  for (let i = 0; i < 2000; i++) {
    const u = i / 2000;
    path.add([(i * 1000) / 120, 300 + u * 5000, 2000 + 700 * Math.sin(u * 40), 0.6, 1.2, 0.4, 0]);
  }
  const points = [...path.points, ...path.tail()].map(({ x, y }) => [x, y] as const);
  const hand = (2000 * 1000) / 120;
  const ms = median(() => void fit(points, finenessAt(1)), 5);
  return {
    what: `fitting a line of 2000 samples, ${Math.round(path.length)} px`,
    reference: `the hand at 120 Hz (${Math.round(hand)} ms)`,
    wanted: { most: 0.05 },
    ratio: ms / hand,
    note: `${ms.toFixed(0)} ms`,
  };
}

export const lineRows = (engine: Engine): Row[] => [fitRow(), movedRow(engine), pickRow(engine)];
