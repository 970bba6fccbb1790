import { alphaAt, pixelAt, testEngine, testHeader, writeStraight } from "../engine.testing";
import { type Work } from "./work";

const engine = testEngine();

function sheet(at: (x: number, y: number) => readonly number[]): Work {
  const work = engine.open(testHeader({ width: 200, height: 160 }));
  work.apply({ do: "layer.add", id: "a", name: "Shade", above: null });
  writeStraight(work, "a", at);
  return work;
}

const square = (x: number, y: number): readonly number[] =>
  x >= 40 && x < 140 && y >= 30 && y < 130 ? [90, 80, 140, 255] : [0, 0, 0, 0];

const band = { do: "edge.band" as const, layer: "a", id: "b", name: "Edge", colour: "#e0c0a0" };

test("an edge band runs evenly along the inside, in its colour, clipped to what is below", () => {
  const work = sheet(square);
  work.apply({ ...band, width: 8 });
  const { layers } = work.picture.structure;
  expect(layers.map(({ id, clip }) => [id, clip])).toEqual([
    ["a", false],
    ["b", true],
  ]);
  for (const [x, y] of [
    [40, 80],
    [47, 80],
    [139, 80],
    [90, 30],
    [90, 122],
  ] as const)
    expect(pixelAt(engine, work, "b", x, y)).toEqual([0xe0, 0xc0, 0xa0, 255]);
  for (const [x, y] of [
    [49, 80],
    [39, 80],
    [90, 80],
  ] as const)
    expect(alphaAt(engine, work, "b", x, y)).toBe(0);
  work.undo();
  expect(work.picture.structure.layers).toHaveLength(1);
  work.release();
});

test("softened, it fades inward and stays full at the very edge", () => {
  const work = sheet(square);
  work.apply({ ...band, width: 12, soft: 10 });
  const at = (x: number): number => alphaAt(engine, work, "b", x, 80);
  expect(at(40)).toBeGreaterThan(0.95);
  expect(at(52)).toBeGreaterThan(0.3);
  expect(at(52)).toBeLessThan(0.7);
  for (let x = 41; x < 90; x++) expect(at(x)).toBeLessThanOrEqual(at(x - 1) + 1e-4);
  expect(at(39)).toBe(0);
  work.release();
});

test("a soft shade in three steps has three strengths and keeps its colour", () => {
  const work = sheet((x) => [90, 80, 140, Math.min(255, Math.round((x / 200) * 255))]);
  work.apply({ do: "shade.steps", layer: "a", steps: 3 });
  const strengths = [60, 130, 195].map((x) => alphaAt(engine, work, "a", x, 80));
  [1 / 3, 2 / 3, 1].forEach((v, i) => expect(strengths[i]).toBeCloseTo(v, 2));
  expect(alphaAt(engine, work, "a", 20, 80)).toBe(0);
  pixelAt(engine, work, "a", 130, 80)
    .slice(0, 3)
    .forEach((v, c) => expect(Math.abs(v - ([90, 80, 140][c] as number))).toBeLessThanOrEqual(2));
  work.release();
});

test("an empty layer has neither, and it is said", () => {
  const work = sheet(() => [0, 0, 0, 0]);
  expect(() => work.apply({ ...band, width: 8 })).toThrow("nothing");
  expect(() => work.apply({ do: "shade.steps", layer: "a", steps: 3 })).toThrow("nothing");
  expect(work.picture.structure.layers).toHaveLength(1);
  work.release();
});
