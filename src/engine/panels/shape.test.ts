import {
  alongGutter,
  areaOf,
  around,
  bledShape,
  cutShape,
  holds,
  nearestSide,
  overlapOf,
  readingOrder,
  type Shape,
  shapeOfBox,
  withSideMoved,
} from "./shape";

const page = shapeOfBox({ left: 0, top: 0, right: 400, bottom: 600 });

function halves(shape: Shape, y: number, gutter = 20): [Shape, Shape] {
  const parts = cutShape(shape, [-10, y], [1000, y], gutter);
  if (!parts) throw new Error("it was not cut");
  return parts;
}

describe("a page that is cut", () => {
  it("loses the gutter and nothing else, level, upright or slanted", () => {
    for (const [from, to, gutterArea] of [
      [[-10, 300], [410, 300], 400 * 20],
      [[200, -10], [200, 610], 600 * 20],
      // A cut of slope 1/2 is √5/2 × as long as it is broad.
      [[-100, 200], [500, 500], 400 * 20 * Math.sqrt(1.25)],
    ] as const) {
      const parts = cutShape(page, from, to, 20);
      expect(parts).not.toBeNull();
      const [first, second] = parts as [Shape, Shape];
      expect(areaOf(first) + areaOf(second)).toBeCloseTo(400 * 600 - gutterArea, 6);
      expect(overlapOf(first, second)).toBe(0);
    }
  });

  it("falls into what is above and below, or left and right, whichever way the hand went", () => {
    for (const [from, to] of [
      [
        [-10, 300],
        [410, 310],
      ],
      [
        [410, 310],
        [-10, 300],
      ],
    ] as const) {
      const [first, second] = cutShape(page, from, to, 20) as [Shape, Shape];
      expect(holds(first, [200, 100])).toBe(true);
      expect(holds(second, [200, 500])).toBe(true);
    }
    const [left, right] = cutShape(page, [200, 610], [195, -10], 20) as [Shape, Shape];
    expect(holds(left, [50, 300])).toBe(true);
    expect(holds(right, [350, 300])).toBe(true);
  });

  it("is not cut by a way that goes through less than half of it, or beside it, or by a corner", () => {
    expect(cutShape(page, [0, 300], [150, 300], 20)).toBeNull();
    expect(cutShape(page, [0, 300], [250, 300], 20)).not.toBeNull();
    expect(cutShape(page, [0, 700], [400, 700], 20)).toBeNull();
    expect(cutShape(page, [-1, 4], [4, -1], 2)).toBeNull();
    expect(cutShape(page, [5, 5], [5, 5], 2)).toBeNull();
    // Along an edge nothing is parted off.
    expect(cutShape(page, [0, 0], [400, 0], 20)).toBeNull();
  });
});

describe("sides of panels", () => {
  it("bleed to the sheet's edge and beyond it, along the sides beside them", () => {
    const sheet = { left: -50, top: -60, right: 450, bottom: 660 };
    const side = nearestSide(page, [200, 2]);
    const bled = bledShape(page, side, sheet, 8) as Shape;
    expect(areaOf(bled)).toBeCloseTo(400 * (600 + 60 + 8), 6);
    expect(holds(bled, [200, -67])).toBe(true);
    expect(holds(bled, [-1, 300])).toBe(false);
  });

  it("lie along one gutter with all that it parts", () => {
    const [upper, lower] = halves(page, 300);
    const [a, b] = cutShape(upper, [200, -10], [200, 310], 20) as [Shape, Shape];
    const shapes = [a, b, lower];
    const under = nearestSide(a, [100, 291]);
    const along = alongGutter(shapes, { of: 0, side: under }, 40);
    expect(along.map(({ of }) => of).sort()).toEqual([0, 1, 2]);
    // The upright gutter ends at the level one.
    const right = nearestSide(a, [191, 100]);
    expect(
      alongGutter(shapes, { of: 0, side: right }, 40)
        .map(({ of }) => of)
        .sort(),
    ).toEqual([0, 1]);
    // Where gutters are so narrow, none is found across it.
    expect(alongGutter(shapes, { of: 0, side: right }, 10)).toHaveLength(1);
  });

  it("move by themselves; a panel that has no room left is none", () => {
    const right = nearestSide(page, [399, 300]);
    expect(areaOf(withSideMoved(page, right, [-100, 35]) as Shape)).toBeCloseTo(300 * 600, 6);
    expect(withSideMoved(page, right, [-400, 0])).toBeNull();
  });
});

describe("panels together", () => {
  it("make the shape around them", () => {
    const [upper, lower] = halves(page, 250);
    expect(areaOf(around(upper, lower))).toBeCloseTo(400 * 600, 6);
    expect(around(lower, upper)).toHaveLength(4);
  });

  it("are read tier by tier from the left", () => {
    const [upper, lower] = halves(page, 300);
    const [a, b] = cutShape(upper, [220, -10], [180, 310], 20) as [Shape, Shape];
    const [c, d] = cutShape(lower, [200, 280], [200, 610], 20) as [Shape, Shape];
    expect(readingOrder([d, b, c, a])).toEqual([3, 1, 2, 0]);
    expect(readingOrder([])).toEqual([]);
  });
});
