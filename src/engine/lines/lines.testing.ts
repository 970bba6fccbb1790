import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { testWork } from "../engine.testing";
import { type Header } from "../picture/header";
import { type Sample } from "../stroke/sample";
import { lengthsOf, placeAt, type Point, pointOn } from "./curve";
import { type Line } from "./line";
import { linesOf } from "./line-set";

/** A picture with a line layer, “l”, above a layer of paint, “a”. */
export function lineWork(changes: Partial<Header> = {}): { engine: Engine; work: Work } {
  const made = testWork({ width: 640, height: 480, ...changes });
  made.work.apply({ do: "layer.add", id: "l", name: "Lines", above: "a", kind: "lines" });
  return made;
}

/** Samples along a way, as many as a hand of 1200 px a second gives at 120 Hz. */
export function along(
  way: (u: number) => Point,
  length: number,
  pressure: (u: number) => number = () => 0.7,
): Sample[] {
  const count = Math.max(2, Math.round(length / 10));
  return Array.from({ length: count + 1 }, (_, i) => {
    const u = i / count;
    const [x, y] = way(u);
    return [(i * 1000) / 120, x, y, pressure(u), 1.2, 0.4, 0];
  });
}

export const straightWay =
  (from: Point, to: Point) =>
  (u: number): Point => [from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * u];

/** A wave from x0 to x1. */
export const wave =
  (x0: number, x1: number, y: number, amplitude = 30, turns = 9) =>
  (u: number): Point => [x0 + (x1 - x0) * u, y + amplitude * Math.sin(u * turns)];

/** Draws a line on layer “l”; answers its number. */
export function draw(
  engine: Engine,
  work: Work,
  samples: Sample[],
  changes: Partial<Extract<CommandInput, { do: "stroke" }>> = {},
): number {
  work.apply({
    do: "stroke",
    layer: "l",
    brush: "pen-sprung",
    size: 10,
    colour: "#101018",
    seed: 7,
    samples,
    ...changes,
  });
  return Math.max(...linesOf(engine.store, work.picture, "l").byId.keys());
}

export const theLine = (engine: Engine, work: Work, id: number): Line => {
  const line = linesOf(engine.store, work.picture, "l").byId.get(id);
  if (!line) throw new Error(`there is no line ${id}`);
  return line;
};

/** Places along a line, so many px apart. */
export function placesOf(line: Line, apart = 1): Point[] {
  const lengths = lengthsOf(line.curve);
  const total = lengths.at(-1) ?? 0;
  const count = Math.max(1, Math.ceil(total / apart));
  return Array.from({ length: count + 1 }, (_, i) =>
    pointOn(line.curve, placeAt(line.curve, lengths, (total * i) / count)),
  );
}
