import {
  cutOut,
  type Curve,
  directionAt,
  lengthsOf,
  nearestOn,
  placeAt,
  pointOn,
  reversed,
  split,
  straight,
} from "./curve";

/** A quarter of a circle of radius 100 about the origin, as nearly as one cubic gives it. */
const K = 0.5522847498;
const quarter: Curve = {
  points: [100, 0, 100, 100 * K, 100 * K, 100, 0, 100],
  material: [0, 157.08],
  corners: [true, true],
};

describe("a curve of cubics", () => {
  it("has the length of a quarter circle", () => {
    expect(lengthsOf(quarter).at(-1)).toBeCloseTo((Math.PI / 2) * 100, 1);
  });

  it("finds places by length", () => {
    const lengths = lengthsOf(quarter);
    for (const share of [0, 0.13, 0.5, 0.9, 1]) {
      const [x, y] = pointOn(
        quarter,
        placeAt(quarter, lengths, share * (lengths.at(-1) as number)),
      );
      const angle = (share * Math.PI) / 2;
      expect(x).toBeCloseTo(100 * Math.cos(angle), 0);
      expect(y).toBeCloseTo(100 * Math.sin(angle), 0);
    }
  });

  it("keeps its shape and its material's share where it is split", () => {
    const whole = {
      points: [...quarter.points],
      material: [...quarter.material],
      corners: [...quarter.corners],
    };
    split(whole, { piece: 0, t: 0.3 });
    expect(whole.material).toHaveLength(3);
    for (let i = 0; i <= 10; i++) {
      const place = { piece: 0, t: i / 10 };
      const [x, y] = pointOn(whole, place);
      const [ex, ey] = pointOn(quarter, { piece: 0, t: (i / 10) * 0.3 });
      expect(x).toBeCloseTo(ex, 9);
      expect(y).toBeCloseTo(ey, 9);
    }
    const lengths = lengthsOf(whole);
    const share = (lengths[1] as number) / (lengths[2] as number);
    expect((whole.material[1] as number) / 157.08).toBeCloseTo(share, 6);
  });

  it("cuts a part out that lies on it", () => {
    const part = cutOut(quarter, 20, 90);
    expect(lengthsOf(part).at(-1)).toBeCloseTo(70, 2);
    for (let t = 0; t <= 1; t += 0.1) {
      const [x, y] = pointOn(part, { piece: 0, t });
      expect(nearestOn(quarter, x, y)?.distance).toBeLessThan(1e-6);
    }
  });

  it("finds the nearest place of a circle by its radius", () => {
    for (const [x, y] of [
      [30, 40],
      [140, 90],
      [70, 71],
    ] as const) {
      const near = nearestOn(quarter, x, y);
      expect(near?.distance).toBeCloseTo(Math.abs(Math.hypot(x, y) - 100), 1);
    }
    expect(nearestOn(quarter, 500, 500, 50)).toBeNull();
  });

  it("turns round", () => {
    const back = reversed(quarter);
    expect(pointOn(back, { piece: 0, t: 0.25 })).toEqual(pointOn(quarter, { piece: 0, t: 0.75 }));
    const [dx, dy] = directionAt(back, { piece: 0, t: 0 });
    expect([dx, dy]).toEqual([1, expect.closeTo(0, 6)]);
    expect(back.material).toEqual([0, 157.08]);
  });

  it("stands still without a fault", () => {
    const dot = straight([5, 5], [5, 5], [0, 0.001]);
    expect(directionAt(dot, { piece: 0, t: 0.5 })).toEqual([1, 0]);
    expect(placeAt(dot, lengthsOf(dot), 3)).toEqual({ piece: 0, t: 1 });
  });
});
