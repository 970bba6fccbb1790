import { readWorkLog } from "../../src/engine/command/work-log";
import { pixel, testWork } from "../../src/engine/engine.testing";
import { nightStop } from "../night-stop";
import { studiesForTheCover } from "../studies-for-the-cover";
import { ticketOffice } from "../ticket-office/ticket-office";
import { theConductor } from "../the-conductor/the-conductor";
import { along, arc, box, distance, parallels, type Point, smooth } from "./shape";
import { flick, Sheet, shifted, swell } from "./sheet";

const pencil = { brush: "pencil-2b", size: 6, colour: "#202020" };
const sheet = (seed = 1): Sheet => {
  const made = new Sheet({ width: 400, height: 300 }, seed);
  made.layer("a", "A");
  return made;
};
type Stroke = { do: string; samples: number[][] };
const strokesOf = (made: Sheet): Stroke[] =>
  made.commands.filter(({ do: what }) => what === "stroke") as unknown as Stroke[];

describe("shapes", () => {
  it("are cut into parallels that lie inside them, a gap apart", () => {
    const lines = parallels(box(100, 50, 80, 60), 0, 10);
    expect(lines).toHaveLength(6);
    for (const [[x0, y0], [x1, y1]] of lines) {
      expect([x0, x1]).toEqual([100, 180]);
      expect(y0).toBe(y1);
    }
  });

  it("turned, too", () => {
    for (const [a, b] of parallels(arc([0, 0], 50, 50), 0.7, 6)) {
      expect(Math.atan2(b[1] - a[1], b[0] - a[0])).toBeCloseTo(0.7, 6);
      expect(Math.hypot(...a)).toBeLessThan(51);
    }
  });

  it("with a hollow give two stretches a line", () => {
    const hollow: Point[] = [
      [0, 0],
      [90, 0],
      [90, 60],
      [60, 60],
      [60, 20],
      [30, 20],
      [30, 60],
      [0, 60],
    ];
    const low = parallels(hollow, 0, 10).filter(([[, y]]) => y > 20);
    expect(low.length % 2).toBe(0);
    for (const [[x0], [x1]] of low) expect(x1 - x0).toBeCloseTo(30, 6);
  });

  it("are walked in even steps and smoothed without leaving their ends", () => {
    const points = along(
      [
        [0, 0],
        [90, 0],
      ],
      9,
    );
    expect(points).toHaveLength(11);
    const curve = smooth([
      [0, 0],
      [50, 80],
      [100, 0],
      [150, 80],
    ]);
    expect([curve[0], curve.at(-1)]).toEqual([
      [0, 0],
      [150, 80],
    ]);
    expect(curve.some((p) => distance(p, [50, 80]) < 1e-9)).toBe(true);
  });
});

describe("the draughtsman", () => {
  it("hatches inside the shape, not quite to its edge and not quite alike", () => {
    const made = sheet();
    made.hatch(box(100, 100, 120, 90), pencil, {
      angle: 0.5,
      gap: 9,
      press: flick(0.6),
      wobble: 0.3,
    });
    const strokes = strokesOf(made);
    expect(strokes.length).toBeGreaterThan(10);
    for (const { samples } of strokes)
      for (const [, x, y] of samples as [number, number, number][]) {
        expect(x > 90 && x < 230).toBe(true);
        expect(y > 90 && y < 200).toBe(true);
      }
    expect(new Set(strokes.map(({ samples }) => samples[3]?.[3])).size).toBeGreaterThan(3);
  });

  it("presses as told along a line", () => {
    const made = sheet();
    made.draw(
      [
        [10, 10],
        [200, 10],
      ],
      pencil,
      { press: swell(0.1, 0.9), wobble: 0 },
    );
    const pressures = strokesOf(made)[0]?.samples.map((sample) => sample[3] as number) ?? [];
    expect(pressures[0]).toBeCloseTo(0.1, 1);
    expect(Math.max(...pressures)).toBeCloseTo(0.9, 1);
    expect(pressures.at(-1)).toBeCloseTo(0.1, 1);
  });

  it("draws the same for the same seed and differently for another", () => {
    const drawn = (seed: number): string => {
      const made = sheet(seed);
      made.search(arc([100, 100], 40, 30), pencil);
      return made.log;
    };
    expect(drawn(3)).toBe(drawn(3));
    expect(drawn(3)).not.toBe(drawn(4));
  });

  it("fills in a loop, taps between lines, and takes away only what a shape holds", () => {
    const made = sheet();
    made.lasso("#ff0000", box(20, 20, 100, 60));
    made.clear(box(60, 20, 30, 60));
    made.layer("b", "B");
    made.lasso("#0000ff", box(200, 20, 100, 10), box(200, 90, 100, 10));
    made.lasso("#0000ff", box(200, 20, 10, 80), box(290, 20, 10, 80));
    made.commands.push({ do: "layer.set", id: "b", lines: true });
    made.on("a");
    made.tap("#00ff00", [250, 60]);
    const { engine, work } = testWork({ width: 400, height: 300 });
    work.apply({ do: "layer.remove", id: "a" });
    for (const command of made.commands) work.apply(command);
    expect(pixel(engine, work, "a", 40, 40)).toEqual([32767, 0, 0, 32767]);
    expect(pixel(engine, work, "a", 70, 40)).toEqual([0, 0, 0, 0]);
    expect(pixel(engine, work, "a", 250, 60)).toEqual([0, 32767, 0, 32767]);
    expect(pixel(engine, work, "a", 350, 60)).toEqual([0, 0, 0, 0]);
    expect(work.picture.structure.selection).toBe(false);
  });

  it("shifts colours within what colours can be", () => {
    expect(shifted("#808080", 0.1, 0)).toBe("#9a9a9a");
    expect(shifted("#ffffff", 0.5, 0.5)).toBe("#ffffff");
    expect(shifted("#000000", -1, 0)).toBe("#000000");
  });
});

it.each([
  ["Night stop", nightStop],
  ["Studies for the cover", studiesForTheCover],
  ["The conductor", theConductor],
  ["Ticket office", ticketOffice],
])("“%s” is a whole log, the same every time, with many pressures", (title, draw) => {
  const text = draw();
  expect(draw()).toBe(text);
  const { header, commands } = readWorkLog(text);
  expect(header.title).toBe(title);
  const strokes = commands.filter((command) => command.do === "stroke");
  expect(strokes.length).toBeGreaterThan(500);
  expect(new Set(strokes.map(({ brush }) => brush)).size).toBeGreaterThanOrEqual(3);
});
