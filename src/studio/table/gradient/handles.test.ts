import { type GradientPaint } from "../../../engine/gradient/gradient";
import { type Wells, withMoved } from "../../../engine/colour/wells";
import { allWells } from "../colour/wells-store";
import { handlesOf, withHandle, withoutPoint, withPoint, withShape } from "./handles";

const paint: GradientPaint = {
  kind: "gradient",
  shape: "linear",
  from: [0, 0],
  to: [100, 0],
  path: [],
  stops: [
    { at: 0, colour: "#000000", alpha: 1 },
    { at: 1, colour: "#ffffff", alpha: 1 },
  ],
};

test("a gradient along a path begins between its ends, and each of its points can be dragged", () => {
  const bent = withShape(paint, "path");
  expect(handlesOf(bent).map(({ at }) => at)).toEqual([
    [0, 0],
    [50, -20],
    [100, 0],
  ]);
  expect(withHandle(bent, 1, [7, 9]).path[1]).toEqual([7, 9]);
  expect(withShape(bent, "linear").path).toHaveLength(3);
  expect(withShape(paint, "spiral")).toBe(paint);
});

test("the ends of a straight one are its handles", () => {
  expect(withHandle(paint, 0, [5, 5])).toMatchObject({ from: [5, 5], to: [100, 0] });
  expect(withHandle(paint, 1, [5, 5])).toMatchObject({ from: [0, 0], to: [5, 5] });
});

test("a path takes points in between and gives them up again, two always stay", () => {
  const bent = withShape(paint, "path");
  const more = withPoint(bent, 0);
  expect(more.path[1]).toEqual([25, -10]);
  expect(more.path).toHaveLength(4);
  expect(withoutPoint(more, 1)).toEqual(bent);
  const two = withoutPoint(withoutPoint(more, 1), 1);
  expect(two.path).toHaveLength(2);
  expect(withoutPoint(two, 0)).toBe(two);
  expect(withPoint(bent, 2)).toBe(bent);
  expect(withPoint(paint, 0)).toBe(paint);
});

test("wells keep their colours when one is moved, and the picture's come first", () => {
  const wells: Wells = {
    id: "w",
    name: "Night",
    colours: ["#111111", "#222222", "#333333"].map((hex) => ({ hex, name: "" })),
  };
  const order = (moved: Wells): string[] => moved.colours.map(({ hex }) => hex);
  expect(order(withMoved(wells, 0, 2))).toEqual(["#222222", "#333333", "#111111"]);
  expect(order(withMoved(wells, 9, 0))).toEqual(order(wells));
  expect(allWells([wells], [{ ...wells, id: "s" }]).map(({ place }) => place)).toEqual([
    "picture",
    "shared",
  ]);
});
