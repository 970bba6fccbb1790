import { type Guide, guideSchema, type Place } from "../../../engine/guides/guide";
import { type GuideKind, handlesOf, linesOf, newGuide } from "./lines";

const kinds: GuideKind[] = [
  "one point",
  "two points",
  "three points",
  "straightedge",
  "parallel",
  "ellipse",
];

const off = (p: Place, [a, b]: readonly Place[]): number => {
  if (!a || !b) return Infinity;
  const d = Math.hypot(b.x - a.x, b.y - a.y);
  return Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / d;
};

describe.each(kinds)("a new guide, %s", (kind) => {
  const guide = newGuide(kind, 1600, 1000);

  it("is one that a command takes", () => {
    expect(guideSchema.safeParse(guide).success).toBe(true);
  });

  it("has its handles on the sheet, where they can be taken", () => {
    for (const { at } of handlesOf(guide, 60)) {
      expect(at.x).toBeGreaterThanOrEqual(0);
      expect(at.x).toBeLessThanOrEqual(1600);
      expect(at.y).toBeGreaterThanOrEqual(0);
      expect(at.y).toBeLessThanOrEqual(1000);
    }
  });

  it("goes where a handle is moved, and its lines with it", () => {
    handlesOf(guide, 60).forEach(({ at, move }, i) => {
      const to = { x: at.x + 37, y: at.y - 21 };
      const moved = move(to);
      expect(moved).not.toEqual(guide);
      expect(guideSchema.safeParse(moved).success).toBe(true);
      const there = handlesOf(moved, 60)[i]?.at as Place;
      // Handles of a direction stay at their distance; all others come to the pen.
      const isDirection = kind === "parallel" && i === 1;
      if (!isDirection && !(kind === "ellipse" && i === 2)) {
        expect(there.x).toBeCloseTo(to.x, 6);
        expect(there.y).toBeCloseTo(to.y, 6);
      }
      expect(linesOf(moved, 60).length).toBe(linesOf(guide, 60).length);
    });
  });
});

describe("lines", () => {
  it("of vanishing points all come from one of them, and the horizon goes through two", () => {
    const guide = newGuide("two points", 1600, 1000);
    const points = guide.kind === "vanishing points" ? guide.points : [];
    const lines = linesOf(guide, 60);
    for (const line of lines.filter(({ faint }) => faint))
      expect(points).toContainEqual(line.points[0]);
    const horizon = lines.filter(({ faint }) => !faint);
    expect(horizon).toHaveLength(1);
    for (const point of points) expect(off(point, horizon[0]?.points ?? [])).toBeLessThan(1e-6);
  });

  it("of parallels stand the spread apart and all go one way", () => {
    const guide: Guide = { kind: "parallel", angle: 0.6, at: { x: 300, y: 200 } };
    const lines = linesOf(guide, 50);
    for (let i = 1; i < lines.length; i++) {
      const before = lines[i - 1]?.points ?? [];
      for (const point of lines[i]?.points ?? []) expect(off(point, before)).toBeCloseTo(50, 4);
    }
  });

  it("of an ellipse lie on it", () => {
    const guide: Guide = {
      kind: "ellipse",
      at: { x: 10, y: 20 },
      across: 80,
      down: 30,
      angle: 0.3,
    };
    for (const { x, y } of linesOf(guide, 50)[0]?.points ?? []) {
      const u = ((x - 10) * Math.cos(0.3) + (y - 20) * Math.sin(0.3)) / 80;
      const v = ((y - 20) * Math.cos(0.3) - (x - 10) * Math.sin(0.3)) / 30;
      expect(u * u + v * v).toBeCloseTo(1, 9);
    }
  });
});
