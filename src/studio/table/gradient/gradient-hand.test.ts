import { paintSchema, type Stops } from "../../../engine/gradient/gradient";
import { gradientAlong, straightened } from "./gradient-hand";

const own: Stops = [
  { at: 0, colour: "#000000", alpha: 1 },
  { at: 0.3, colour: "#804020", alpha: 0.5 },
  { at: 1, colour: "#ffffff", alpha: 1 },
];
const hand = { colour: "#204060", second: "#f0e0c0" };

test("a way means a gradient between its ends, in the two colours or to nothing", () => {
  const paint = gradientAlong(
    [
      [10, 20],
      [40, 90],
      [110, 20],
    ],
    { shape: "linear", to: "second", own },
    hand,
  );
  expect(paint).toMatchObject({
    from: [10, 20],
    to: [110, 20],
    path: [],
    stops: [
      { at: 0, colour: "#204060", alpha: 1 },
      { at: 1, colour: "#f0e0c0", alpha: 1 },
    ],
  });
  const fading = gradientAlong(
    [
      [10, 20],
      [110, 20],
    ],
    { shape: "radial", to: "nothing", own },
    hand,
  );
  expect(fading?.stops[1]).toEqual({ at: 1, colour: "#204060", alpha: 0 });
});

test("along a line it keeps its ends and no more points than a gradient may have", () => {
  const way = Array.from({ length: 900 }, (_, i): [number, number] => [i, Math.sin(i / 50) * 40]);
  const paint = gradientAlong(way, { shape: "path", to: "second", own }, hand);
  expect(paint?.path[0]).toEqual(way[0]);
  expect(paint?.path.at(-1)).toEqual(way.at(-1));
  expect(() => paintSchema.parse(paint)).not.toThrow();
  // One that comes back to where it began is no shorter for it.
  const ring: [number, number][] = [
    [0, 0],
    [50, 0],
    [50, 50],
    [0, 0],
  ];
  expect(gradientAlong(ring, { shape: "path", to: "second", own }, hand)?.path).toEqual(ring);
});

test.each([
  [[]],
  [[[5, 5]]],
  [
    [
      [5, 5],
      [5.5, 5.5],
    ],
  ],
] as [number, number][][][])("a press without a drag means none: %j", (way) => {
  expect(gradientAlong(way, { shape: "linear", to: "second", own }, hand)).toBeNull();
});

test("held straight, it keeps its length and turns to the nearest step", () => {
  const [x, y] = straightened([100, 100], [200, 109]);
  expect(y).toBeCloseTo(100, 6);
  expect(x - 100).toBeCloseTo(Math.hypot(100, 9), 6);
  const [u, v] = straightened([0, 0], [70, 66]);
  expect(u).toBeCloseTo(v, 6);
});

test("with stops of its own the colours in hand have no part in it", () => {
  const way: [number, number][] = [
    [0, 0],
    [90, 0],
  ];
  expect(gradientAlong(way, { shape: "linear", to: "stops", own }, hand)?.stops).toEqual(own);
});
