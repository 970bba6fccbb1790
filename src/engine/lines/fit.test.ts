import { type Curve, directionAt, lengthsOf, nearestOn, piecesOf, type Point } from "./curve";
import { finenessAt, fit } from "./fit";

/** Points along a way, 1.5 px apart, as a stroke's path has them. */
function dense(way: (u: number) => Point): Point[] {
  const points: Point[] = [way(0)];
  const fine = 40_000;
  for (let i = 1; i <= fine; i++) {
    const [x, y] = way(i / fine);
    const [px, py] = points.at(-1) as Point;
    if (Math.hypot(x - px, y - py) >= 1.5 || i === fine) points.push([x, y]);
  }
  return points;
}

const farthest = (curve: Curve, points: readonly Point[]): number =>
  Math.max(...points.map(([x, y]) => nearestOn(curve, x, y)?.distance ?? Infinity));

const ways: Record<string, (u: number) => Point> = {
  swing: (u) => [u * 900, 200 + 120 * Math.sin(u * 6)],
  coil: (u) => [200 + u * 400 + 80 * Math.cos(u * 30), 300 + 80 * Math.sin(u * 30)],
  spiral: (u) => [300 + 200 * u * Math.cos(u * 25), 300 + 200 * u * Math.sin(u * 25)],
  "small letters": (u) => [u * 300, 100 + 14 * Math.sin(u * 60) + 6 * Math.sin(u * 140)],
};

describe("fitting", () => {
  it.each(Object.entries(ways))("%s: never farther off than a quarter of a px", (_name, way) => {
    const points = dense(way);
    const curve = fit(points, finenessAt(1));
    expect(farthest(curve, points)).toBeLessThanOrEqual(0.3);
  });

  it("takes few pieces: a swing needs under two in 100 px, a coil under three", () => {
    for (const [name, most] of [
      ["swing", 2],
      ["coil", 3],
    ] as const) {
      const curve = fit(dense(ways[name] as (u: number) => Point), finenessAt(1));
      expect((piecesOf(curve) / (lengthsOf(curve).at(-1) as number)) * 100).toBeLessThan(most);
    }
  });

  it("goes on in the same direction at every knot that is no corner", () => {
    const curve = fit(dense(ways.coil as (u: number) => Point), finenessAt(1));
    for (let k = 1; k < piecesOf(curve); k++) {
      if (curve.corners[k]) continue;
      const [ax, ay] = directionAt(curve, { piece: k - 1, t: 1 });
      const [bx, by] = directionAt(curve, { piece: k, t: 0 });
      expect(ax * bx + ay * by).toBeGreaterThan(0.9999);
    }
  });

  it("finds the corners of a zigzag, and none in an ellipse", () => {
    const zigzag = dense((u) => {
      const leg = Math.min(5, Math.floor(u * 6));
      const t = u * 6 - leg;
      return [60 * (leg + t), 200 + (leg % 2 ? 1 - t : t) * 120];
    });
    const inner = fit(zigzag, finenessAt(1)).corners.slice(1, -1).filter(Boolean);
    expect(inner).toHaveLength(5);
    const ellipse = dense((u) => [300 + 120 * Math.cos(6.2 * u), 300 + 60 * Math.sin(6.2 * u)]);
    expect(fit(ellipse, finenessAt(1)).corners.slice(1, -1).filter(Boolean)).toHaveLength(0);
  });

  it("measures material by the way that was drawn", () => {
    const points = dense(ways.swing as (u: number) => Point);
    const drawn = points.slice(1).reduce((sum, [x, y], i) => {
      const [px, py] = points[i] as Point;
      return sum + Math.hypot(x - px, y - py);
    }, 0);
    const { material } = fit(points, finenessAt(1));
    expect(material.at(-1)).toBeCloseTo(drawn, 6);
    expect(material.every((m, i) => i === 0 || m > (material[i - 1] as number))).toBe(true);
  });

  it("a place alone is a dot, two are a straight piece", () => {
    expect(fit([[4, 5]], finenessAt(1)).points.slice(0, 2)).toEqual([4, 5]);
    const two = fit(
      [
        [0, 0],
        [30, 0],
      ],
      finenessAt(1),
    );
    expect(piecesOf(two)).toBe(1);
    expect(lengthsOf(two).at(-1)).toBeCloseTo(30, 6);
    expect(() => fit([], finenessAt(1))).toThrow("at least one point");
  });
});
