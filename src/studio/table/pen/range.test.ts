import { curveSchema, monotoneCubic } from "../../../engine/stroke/curve";
import { curveFor, rangeOf } from "./range";

const evenly = (from: number, to: number, count = 201): number[] =>
  Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));

test("a hand's range leaves out the lightest and the heaviest twentieth", () => {
  const range = rangeOf(evenly(0.2, 0.8));
  expect(range?.light).toBeCloseTo(0.23, 10);
  expect(range?.heavy).toBeCloseTo(0.77, 10);
});

test.each([
  ["few presses", evenly(0, 1, 39)],
  ["a mouse, which always presses alike", evenly(0.5, 0.5)],
  ["nothing", []],
])("%s give no range", (_name, pressures) => {
  expect(rangeOf(pressures)).toBeNull();
});

test.each([
  [0.2, 0.7],
  [0, 0.6],
  [0.3, 1],
  [0, 1],
])("a hand that presses from %p to %p has the whole of a brush", (light, heavy) => {
  const curve = curveFor({ light, heavy });
  expect(curveSchema.safeParse(curve).success).toBe(true);
  const at = monotoneCubic(curve);
  expect([at(0), at(light), at(heavy), at(1)]).toEqual([0, 0, 1, 1]);
  const felt = evenly(0, 1).map(at);
  expect(felt.every((v, i) => i === 0 || v >= (felt[i - 1] ?? 0) - 1e-12)).toBe(true);
});
