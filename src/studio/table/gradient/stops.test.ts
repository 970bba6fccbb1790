import { MOST_STOPS, type Stops, stopsSchema } from "../../../engine/gradient/gradient";
import { changedStop, movedStop, stripOf, turnedStops, withoutStop, withStop } from "./stops";

const stops: Stops = [
  { at: 0, colour: "#000000", alpha: 1 },
  { at: 0.4, colour: "#c08040", alpha: 0.5 },
  { at: 1, colour: "#ffffff", alpha: 0 },
];
const places = (of: Stops): number[] => of.map(({ at }) => at);

test("a stop moves between its neighbours and no farther", () => {
  expect(places(movedStop(stops, 1, 0.75))).toEqual([0, 0.75, 1]);
  expect(places(movedStop(stops, 1, 2))).toEqual([0, 1, 1]);
  expect(places(movedStop(stops, 0, 0.9))).toEqual([0.4, 0.4, 1]);
  expect(places(movedStop(stops, 2, -1))).toEqual([0, 0.4, 0.4]);
});

test.each([0, 0.2, 0.4, 0.7, 1])(
  "one stop more at %f keeps the order that a gradient needs",
  (at) => {
    const made = withStop(stops, at, "#123456");
    if (!made) throw new Error("no stop was made");
    expect(stopsSchema.safeParse(made.stops).success).toBe(true);
    expect(made.stops[made.index]).toMatchObject({ at, colour: "#123456" });
    expect(made.stops).toHaveLength(4);
  },
);

test("a new stop is as solid as the gradient is there", () => {
  expect(withStop(stops, 0.2, "#123456")?.stops[1]?.alpha).toBeCloseTo(0.75);
  expect(withStop(stops, 0.7, "#123456")?.stops[2]?.alpha).toBeCloseTo(0.25);
  expect(withStop(movedStop(stops, 0, 0.3), 0.1, "#123456")?.stops[0]?.alpha).toBe(1);
});

test("there are never more stops than a gradient may have, and never fewer than two", () => {
  const most = Array.from({ length: MOST_STOPS }, (_, i) => ({
    at: i / MOST_STOPS,
    colour: "#000000",
    alpha: 1,
  }));
  expect(withStop(most, 0.5, "#ffffff")).toBeNull();
  const two = withoutStop(stops, 1);
  expect(places(two)).toEqual([0, 1]);
  expect(withoutStop(two, 0)).toBe(two);
});

test("turned round twice it is as it was; a changed stop keeps its place", () => {
  expect(turnedStops(stops).map(({ colour }) => colour)).toEqual(["#ffffff", "#c08040", "#000000"]);
  expect(turnedStops(turnedStops(stops))).toEqual(stops);
  expect(changedStop(stops, 1, { alpha: 1 })[1]).toEqual({ at: 0.4, colour: "#c08040", alpha: 1 });
});

test("a strip is mixed as the engine mixes, with clear stops clear", () => {
  expect(stripOf(stops)).toBe(
    "linear-gradient(90deg in oklab, #000000ff 0%, #c0804080 40%, #ffffff00 100%)",
  );
});
