import { Chance } from "../../engine/stroke/chance";
import { evaluator, firstReading, type Parameter } from "../../engine/stroke/drives";
import { newDrive, scatterOf, scattered } from "./scatter";

/** What a parameter gives over many marks at one pressure. */
function spread(value: Parameter, pressure: number): { least: number; most: number } {
  const at = evaluator(value, 3);
  const reading = { ...firstReading(new Chance(5)), pressure };
  const all = Array.from({ length: 400 }, (_, mark) => at({ ...reading, mark }));
  return { least: Math.min(...all), most: Math.max(...all) };
}

describe("an amount of scatter", () => {
  it("throws marks to both sides at once, by no more than it says", () => {
    const { least, most } = spread(scattered(0.8, []), 1);
    expect(least).toBeGreaterThanOrEqual(-0.8);
    expect(least).toBeLessThan(-0.7);
    expect(most).toBeLessThanOrEqual(0.8);
    expect(most).toBeGreaterThan(0.7);
  });

  it("is driven by what comes after it", () => {
    const value = scattered(0.8, [newDrive(scattered(0.8, []), 1)]);
    expect(Math.abs(spread(value, 0).most)).toBe(0);
    expect(spread(value, 0.5).most).toBeLessThanOrEqual(0.4);
    expect(scatterOf(value)).toEqual({ amount: 0.8, rest: [value.drives[1]] });
  });

  it("of nothing is a parameter that rests", () => {
    expect(scattered(0, [])).toEqual({ base: 0, drives: [] });
    expect(scatterOf({ base: 0, drives: [] })).toEqual({ amount: 0, rest: [] });
  });

  it.each<[string, Parameter]>([
    ["a base of its own", { base: 0.5, drives: [] }],
    ["another driver first", { base: 0, drives: [newDrive({ base: 0, drives: [] }, 1)] }],
  ])("is not what a parameter with %s is", (_name, value) => {
    expect(scatterOf(value)).toBeNull();
  });
});

describe("a new driver", () => {
  it.each<[string, Parameter]>([
    ["nothing", { base: 0, drives: [] }],
    ["something", { base: 0.6, drives: [] }],
  ])("changes a parameter of %s at once", (_name, value) => {
    const driven = { ...value, drives: [newDrive(value, 0.5)] };
    expect(spread(driven, 0.9).most).not.toBeCloseTo(spread(driven, 0.1).most, 2);
  });

  it("is not the one that is there already", () => {
    const one = newDrive({ base: 1, drives: [] }, 1);
    expect(newDrive({ base: 1, drives: [one] }, 1).by).not.toBe(one.by);
  });
});
