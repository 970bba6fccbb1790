import { brushSchema } from "./brush";
import { Chance } from "./chance";
import { curveSchema, monotoneCubic } from "./curve";
import { fineFlow } from "./marks";
import { evaluator, firstReading } from "./drives";
import { brushes } from "../media";

describe("curves", () => {
  it("pass through their points and never overshoot", () => {
    const points: [number, number][] = [
      [0, 0.1],
      [0.3, 0.15],
      [0.35, 0.9],
      [1, 1],
    ];
    const at = monotoneCubic(points);
    for (const [x, y] of points) expect(at(x)).toBeCloseTo(y, 10);
    let last = -1;
    for (let x = 0; x <= 1; x += 0.001) {
      const y = at(x);
      expect(y).toBeGreaterThanOrEqual(last - 1e-12);
      last = y;
    }
    expect(at(2)).toBe(1);
  });

  it("through two points are straight", () => {
    expect(
      monotoneCubic([
        [0, 1],
        [1, 3],
      ])(0.25),
    ).toBeCloseTo(1.5, 10);
  });

  it.each([
    [[[0, 0]]],
    [
      [
        [0, 0],
        [0, 1],
      ],
    ],
    [
      [
        [0.5, 0],
        [0.2, 1],
      ],
    ],
    [
      [
        [0, Number.NaN],
        [1, 1],
      ],
    ],
    [
      [
        [0, 0],
        [2, 1],
      ],
    ],
  ])("%j is no curve", (points) => {
    expect(curveSchema.safeParse(points).success).toBe(false);
  });
});

describe("parameters", () => {
  const drives = { ...firstReading(new Chance(1)), pressure: 0.5, tilt: 0.2 };
  const straight: [number, number][] = [
    [0, 0],
    [1, 1],
  ];
  it("are multiplied, added, or the larger taken", () => {
    expect(
      evaluator({
        base: 2,
        drives: [{ by: "pressure", curve: straight, how: "multiply", over: 20 }],
      })(drives),
    ).toBeCloseTo(1);
    expect(
      evaluator({ base: 2, drives: [{ by: "pressure", curve: straight, how: "add", over: 20 }] })(
        drives,
      ),
    ).toBeCloseTo(2.5);
    expect(
      evaluator({ base: 0.1, drives: [{ by: "tilt", curve: straight, how: "larger", over: 20 }] })(
        drives,
      ),
    ).toBeCloseTo(0.2);
  });
});

it("flow is kept as fine as its size allows", () => {
  expect(fineFlow(0.01)).toEqual({ bits: 4, scaled: Math.round(0.01 * 32767 * 16) });
  expect(fineFlow(0.9).bits).toBe(0);
  expect(fineFlow(0.0001).bits).toBe(8);
});

describe("chance", () => {
  it("is even, and the same for the same seed and counter", () => {
    const chance = new Chance(42);
    const values = Array.from({ length: 4000 }, (_, i) => chance.at(i));
    expect(values.reduce((a, b) => a + b) / 4000).toBeCloseTo(0.5, 1);
    expect(new Set(values).size).toBeGreaterThan(3990);
    expect(new Chance(42).at(77)).toBe(values[77]);
    expect(new Chance(43).at(77)).not.toBe(values[77]);
  });
});

describe("brushes", () => {
  it("that ship are whole and have names of their own", () => {
    for (const brush of brushes) expect(() => brushSchema.parse(brush)).not.toThrow();
    expect(new Set(brushes.map(({ id }) => id)).size).toBe(brushes.length);
  });

  it.each([
    { spacing: { base: 0 } },
    { size: 1e6 },
    { tip: { kind: "round", hardness: -1 } },
    { laying: { kind: "glue" } },
    { flow: { base: Number.NaN } },
  ])("with %j are refused", (change) => {
    expect(brushSchema.safeParse({ ...brushes[0], ...change }).success).toBe(false);
  });
});
