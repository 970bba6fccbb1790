import { toneTable } from "../../../engine/adjust/adjustment";
import { TABLE_STEPS } from "../../../engine/gradient/gradient";
import { type Levels, levelMarks, placeOfMark, withMark } from "./levels-marks";

const plain: Levels = { kind: "levels", black: 0, white: 1, middle: 1, lowest: 0, highest: 1 };
/** What the engine makes of a value. */
const becomes = (levels: Levels, v: number): number =>
  toneTable(levels).numbers[Math.round(v * TABLE_STEPS)] as number;

test.each([
  ["black", 0.2],
  ["white", 0.7],
  ["middle", 0.3],
  ["middle", 0.81],
] as const)("%s dragged to %f stands there", (mark, at) => {
  expect(placeOfMark(withMark(plain, mark, at), mark)).toBeCloseTo(at, 6);
});

test("what lies under a mark becomes what the mark says", () => {
  let levels = withMark(withMark(plain, "black", 0.25), "white", 0.75);
  levels = withMark(levels, "middle", 0.4);
  expect(becomes(levels, 0.25)).toBeCloseTo(0, 3);
  expect(becomes(levels, 0.4)).toBeCloseTo(0.5, 2);
  expect(becomes(levels, 0.75)).toBeCloseTo(1, 3);
});

test("marks never pass each other, and always make levels that can be kept", () => {
  for (const mark of levelMarks)
    for (const at of [-1, 0, 0.5, 1, 2]) {
      const { black, white, middle } = withMark({ ...plain, black: 0.3, white: 0.6 }, mark, at);
      expect(white - black).toBeGreaterThanOrEqual(0.0099);
      expect(middle).toBeGreaterThanOrEqual(0.1);
      expect(middle).toBeLessThanOrEqual(10);
      expect(Math.min(black, 1 - white)).toBeGreaterThanOrEqual(0);
    }
});
