import { fingerprint, line, stroke, testEngine, testHeader } from "../engine.testing";
import { type Command } from "../command/commands";
import { isWet } from "./drying";
import { bandsAt, stored, thickness, volume, type Wet } from "./oil.testing";
import { THINNER } from "./wet-planes";

const board = { width: 384, height: 384, ppi: 200, paper: { kind: "board", scale: 1 } } as const;
const even = { pressure: () => 0.6, altitude: 1.57, steps: 60 };

/** A picture whose log is known. */
function sheet(): Wet & { log: Command[] } {
  const log: Command[] = [];
  const engine = testEngine();
  const work = engine.open(testHeader(board), {
    logged: (command, place) => {
      log.length = place;
      log.push(command);
    },
    stepped: (place) => {
      log.length = place;
    },
  });
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return { engine, work, log };
}

const band = (thinner: number) =>
  stroke(line([80, 120], [300, 120], even), {
    brush: "oil-flat",
    size: 70,
    colour: "#2a4fc0",
    seed: 5,
    thinner,
  });

/** How far down paint lies on the whole, px. */
function depth(wet: Wet): number {
  let sum = 0;
  let whole = 0;
  for (let y = 0; y < 384; y += 2)
    for (let x = 80; x < 300; x += 3) {
      const h = thickness(wet, x, y);
      sum += h * y;
      whole += h;
    }
  return sum / whole;
}

it("thinned paint lies thinner, and runs down the sheet until its thinner is gone", () => {
  const wet = sheet();
  wet.work.apply(band(0.7));
  const laid = volume(wet, 0, 0, 384, 384);
  const before = depth(wet);
  let steps = 0;
  while (wet.work.advance(10)) steps += 10;
  expect(steps).toBeGreaterThan(100);
  expect(steps).toBeLessThan(3000);
  expect(depth(wet)).toBeGreaterThan(before + 4);
  expect(volume(wet, 0, 0, 384, 384) / laid).toBeCloseTo(1, 2);
  expect(wet.work.picture.plane("a", THINNER).size).toBe(0);
  expect(isWet(wet.work.picture, "a")).toBe(true);
  expect(wet.work.advance(10)).toBe(false);
  const stiff = sheet();
  stiff.work.apply(band(0));
  expect(volume(stiff, 0, 0, 384, 384)).toBeGreaterThan(1.5 * laid);
});

it("paint without thinner stays where it is, whatever time passes", () => {
  const wet = sheet();
  wet.work.apply(band(0));
  const before = fingerprint(wet.engine, wet.work);
  expect(wet.work.advance(100)).toBe(false);
  wet.work.apply({ do: "time", steps: 100 });
  expect(fingerprint(wet.engine, wet.work)).toBe(before);
});

it("runs with all that it is made of, and none of it is lost", () => {
  const wet = sheet();
  wet.work.apply(band(0.6));
  wet.work.apply({ ...band(0.6), colour: "#f2d024", brush: "oil-round", seed: 9 } as never);
  const sums = (): number[] => {
    const sum = new Array<number>(7).fill(0);
    for (let y = 0; y < 384; y++)
      for (let x = 0; x < 384; x++)
        bandsAt(wet, x, y).forEach((k, i) => (sum[i] = (sum[i] ?? 0) + k));
    return sum;
  };
  const before = sums();
  wet.work.apply({ do: "time", steps: 120 });
  sums().forEach((sum, i) => expect(sum / (before[i] ?? 0)).toBeCloseTo(1, 2));
});

it("so many steps give the same, at once or one by one, live or from the log", () => {
  const live = sheet();
  live.work.apply(band(0.7));
  for (let i = 0; i < 45; i++) live.work.advance(1);
  live.work.noteTime();
  // What is noted so far is what a reload finds.
  const noted = [...live.log];
  for (let i = 0; i < 3; i++) live.work.advance(5);
  live.work.apply(band(0));
  const again = (log: readonly Command[]): string => {
    const other = sheet();
    for (const command of log.slice(1)) other.work.apply(command);
    return fingerprint(other.engine, other.work);
  };
  expect(noted.at(-1)).toEqual({ do: "time", steps: 45 });
  expect(live.log.map((command) => command.do)).toEqual(["layer.add", "stroke", "time", "stroke"]);
  expect(live.log[2]).toEqual({ do: "time", steps: 60 });
  expect(again(live.log)).toBe(fingerprint(live.engine, live.work));
  const short = sheet();
  short.work.apply(band(0.7));
  short.work.advance(45);
  short.work.endTime();
  expect(again(noted)).toBe(fingerprint(short.engine, short.work));
});

it("is taken back with the stroke that it followed, and done again with it", () => {
  const { engine, work } = sheet();
  const bare = fingerprint(engine, work);
  work.apply(band(0.7));
  work.advance(60);
  work.endTime();
  const run = fingerprint(engine, work);
  expect(work.history.steps).toEqual(["add layer", "paint"]);
  expect(work.undo()).toBe("paint");
  expect(fingerprint(engine, work)).toBe(bare);
  expect(work.redo()).toBe("paint");
  expect(fingerprint(engine, work)).toBe(run);
  // What was undone or done again is left as it is until something new is done.
  expect(work.advance(10)).toBe(false);
  expect(work.lookBack(1, () => fingerprint(engine, work))).toBe(bare);
});

it("no time passes under the pen, nor while something is tried", () => {
  const { work } = sheet();
  work.apply(band(0.7));
  work.beginStroke({ do: "stroke", layer: "a", brush: "oil-round", size: 40 });
  work.extendStroke(line([80, 200], [120, 200]));
  expect(work.advance(5)).toBe(false);
  work.endStroke();
  work.tryOut({ do: "layer.set", id: "a", opacity: 0.5 });
  expect(work.advance(5)).toBe(false);
});

it("stays inside the sheet and off what is not selected", () => {
  const wet = sheet();
  wet.work.apply(
    stroke(line([40, 360], [340, 360], even), { brush: "oil-flat", size: 60, thinner: 0.8 }),
  );
  wet.work.apply({
    do: "select",
    shape: { kind: "box", box: { left: 0, top: 0, right: 200, bottom: 384 } },
  });
  const beside = Array.from({ length: 300 }, (_, i) =>
    thickness(wet, 210 + (i % 30) * 4, 320 + 6 * Math.floor(i / 30)),
  );
  wet.work.apply({ do: "time", steps: 90 });
  const after = Array.from({ length: 300 }, (_, i) =>
    thickness(wet, 210 + (i % 30) * 4, 320 + 6 * Math.floor(i / 30)),
  );
  expect(after).toEqual(beside);
  expect(stored(wet, THINNER, 120, 370, 0)).toBeGreaterThan(0);
});

it("dries at once when it is told to, thinner and all", () => {
  const { work } = sheet();
  work.apply(band(0.7));
  work.advance(20);
  work.apply({ do: "paint.dry", layers: ["a"] });
  expect(work.picture.plane("a", THINNER).size).toBe(0);
  expect(work.advance(5)).toBe(false);
});
