import { line, stroke, testEngine, testHeader, testWork } from "../engine/engine.testing";
import { snapshotLevel, snapshotOf } from "./snapshot";

const across = (y: number, colour: string): object =>
  stroke(line([10, y], [246, y]), { size: 20, colour });

it("shows the picture as it was so many steps ago, and leaves it as it is", () => {
  const { engine, work } = testWork();
  work.apply(across(40, "#ff0000"));
  work.apply(across(90, "#00ff00"));
  work.apply({ do: "layer.set", id: "a", visible: false });
  const seen = (steps: number): number[][] =>
    work.lookBack(steps, () => {
      const { width, data } = snapshotOf(engine, work.picture);
      return [40, 90].map((y) => [
        ...data.subarray((y * width + 128) * 4, (y * width + 128) * 4 + 4),
      ]);
    });
  const [red, green, white] = [
    [255, 0, 0, 255],
    [0, 255, 0, 255],
    [255, 255, 255, 255],
  ];
  expect(seen(0)).toEqual([white, white]);
  expect(seen(1)).toEqual([red, green]);
  expect(seen(2)).toEqual([red, white]);
  expect(seen(3)).toEqual([white, white]);
  expect(work.history.steps).toHaveLength(4);
  expect(seen(1)).toEqual([red, green]);
  expect(work.undo()).toBe(work.history.redoLabel);
  expect(() => work.lookBack(9, () => null)).toThrow("reaches 3 steps back, not 9");
});

it("puts the picture back when looking at it fails", () => {
  const { work } = testWork();
  work.apply(across(40, "#ff0000"));
  const before = work.picture.plane("a").size;
  expect(() =>
    work.lookBack(1, () => {
      throw new Error("no light");
    }),
  ).toThrow("no light");
  expect(work.picture.plane("a").size).toBe(before);
  expect(work.history.redoLabel).toBeNull();
});

it("is at most 2048 px long, whatever the sheet", () => {
  expect(snapshotLevel({ width: 2048, height: 100 })).toBe(0);
  expect(snapshotLevel({ width: 100, height: 2049 })).toBe(1);
  const engine = testEngine();
  const work = engine.open(testHeader({ width: 4100, height: 70, ground: "#336699" }));
  const { width, height, data } = snapshotOf(engine, work.picture);
  expect([width, height]).toEqual([1025, 17]);
  expect([...data.subarray(-4)]).toEqual([0x33, 0x66, 0x99, 255]);
});
