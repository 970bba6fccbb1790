import { fingerprint } from "../engine.testing";
import { linesOf } from "./line-set";
import { lineWork } from "./lines.testing";
import { focusRays, inBox, type Ray, type Speed, speedRays } from "./rays";

const within = { left: 0, top: 0, right: 600, bottom: 400 };
const none = { width: 0, length: 0, gap: 0 };
const some = { width: 0.6, length: 0.7, gap: 0.8 };

const lengthOf = ({ from, to }: Ray): number => Math.hypot(to[0] - from[0], to[1] - from[1]);
const directionOf = ({ from, to }: Ray): number => Math.atan2(to[1] - from[1], to[0] - from[0]);

const speed: Omit<Speed, "chance"> = {
  from: [50, 200],
  to: [550, 200],
  across: 200,
  gap: 10,
  toward: null,
  seed: 3,
  within,
};

describe("speed lines", () => {
  it("lie as far apart as is said, all one way and of one length, where chance has no say", () => {
    const rays = speedRays({ ...speed, chance: none });
    expect(rays).toHaveLength(20);
    rays.forEach((ray, i) => {
      expect(ray.from[0]).toBeCloseTo(50, 9);
      expect(ray.from[1]).toBeCloseTo(105 + 10 * i, 9);
      expect(lengthOf(ray)).toBeCloseTo(500, 9);
      expect(ray.width).toBe(1);
    });
  });

  it("differ in width, length and gap as far as chance may, and are the same again", () => {
    const rays = speedRays({ ...speed, gap: 2, chance: some });
    expect(rays).toEqual(speedRays({ ...speed, gap: 2, chance: some }));
    const lengths = rays.map(lengthOf);
    expect(Math.min(...lengths)).toBeGreaterThan(500 * (1 - 0.7 * 0.7) - 1e-6);
    expect(Math.min(...lengths)).toBeLessThan(300);
    expect(Math.max(...lengths)).toBeGreaterThan(480);
    const gaps = rays.slice(1).map((ray, i) => ray.from[1] - (rays[i] as Ray).from[1]);
    expect(Math.min(...gaps)).toBeGreaterThan(0);
    expect(Math.max(...gaps) / Math.min(...gaps)).toBeGreaterThan(3);
    expect(Math.min(...rays.map(({ width }) => width))).toBeGreaterThan(1 - 0.6 * 0.85 - 1e-9);
    for (const ray of rays) expect(directionOf(ray)).toBeCloseTo(0, 9);
  });

  it("all run to a vanishing point, or away from it where the hand goes so", () => {
    for (const to of [
      [550, 200],
      [-450, 200],
    ] as const) {
      const rays = speedRays({ ...speed, to, toward: [900, 150], chance: none, from: [300, 200] });
      expect(rays.length).toBeGreaterThan(10);
      for (const { from, to: end } of rays) {
        const off = (end[0] - from[0]) * (150 - from[1]) - (end[1] - from[1]) * (900 - from[0]);
        expect(Math.abs(off)).toBeLessThan(1e-6);
        expect(Math.sign(end[0] - from[0])).toBe(Math.sign(to[0] - 300));
      }
    }
  });

  it("end at the edge of where they may lie", () => {
    const tight = { left: 100, top: 150, right: 300, bottom: 250 };
    const rays = speedRays({ ...speed, chance: none, within: tight });
    expect(rays).toHaveLength(10);
    for (const { from, to } of rays) expect([from[0], to[0]]).toEqual([100, 300]);
  });

  it("need a way", () => {
    expect(() => speedRays({ ...speed, to: [50, 200], chance: none })).toThrow(/length/);
  });
});

describe("focus lines", () => {
  const focus = { at: [250, 180], clear: [80, 50], gap: 6, seed: 9, within } as const;

  it("begin at the edge, point at the middle and leave what is clear alone", () => {
    const rays = focusRays({ ...focus, chance: some });
    expect(rays.length).toBeGreaterThan(50);
    for (const { from, to } of rays) {
      const edge = Math.min(from[0], 600 - from[0], from[1], 400 - from[1]);
      expect(Math.abs(edge)).toBeLessThan(1e-6);
      const [x, y] = [to[0] - 250, to[1] - 180];
      expect((x / 80) ** 2 + (y / 50) ** 2).toBeGreaterThan(1 - 1e-6);
      const off = x * (from[1] - to[1]) - y * (from[0] - to[0]);
      expect(Math.abs(off)).toBeLessThan(1e-6 * Math.hypot(x, y) * 600);
      // Outside in.
      expect(Math.hypot(from[0] - 250, from[1] - 180)).toBeGreaterThan(Math.hypot(x, y));
    }
  });

  it("all meet where nothing is clear", () => {
    const rays = focusRays({ ...focus, clear: [0, 0], chance: none });
    expect(rays.length).toBe(25);
    for (const { to } of rays) expect(to).toEqual([250, 180]);
  });
});

describe("a way in a box", () => {
  it("is cut to the box, also where it runs along an axis or misses it", () => {
    expect(inBox([-100, 50], [300, 50], within)).toEqual({ from: 0.25, to: 1 });
    expect(inBox([50, -100], [50, 900], within)).toEqual({ from: 0.1, to: 0.5 });
    expect(inBox([-50, -1], [700, -1], within)).toBeNull();
    expect(inBox([700, 10], [900, 20], within)).toBeNull();
  });
});

describe("rays on a line layer", () => {
  const style = {
    ...{ brush: "pen-even", size: 6, strength: 1, colour: "#101018", second: "#ffffff", seed: 4 },
  };
  const command = { layer: "l", style, chance: some, gap: 12 };

  it("are lines like any other: over what is there, drawn out to a point, undone at once", () => {
    const { engine, work } = lineWork();
    const was = fingerprint(engine, work);
    work.apply({ do: "line.focus", ...command, at: [300, 200], clear: [60, 60] });
    const { lines } = linesOf(engine.store, work.picture, "l");
    expect(lines.length).toBeGreaterThan(20);
    for (const { taper, width, closed } of lines) {
      expect(closed).toBe(false);
      expect(taper.in).toBe(0);
      expect(taper.out).toBeGreaterThan(10);
      expect(width[1]).toBeLessThanOrEqual(3);
    }
    work.undo();
    expect(fingerprint(engine, work)).toBe(was);
  });

  it.each([
    [{ do: "line.speed", ...command, from: [9, 9], to: [9, 9], across: 50 }, /Drag the way/],
    [{ do: "line.speed", ...command, from: [-900, 9], to: [-800, 9], across: 50 }, /No line/],
    [
      { do: "line.focus", ...command, layer: "a", at: [9, 9], clear: [5, 5] },
      /holds paint, not lines|not lines/,
    ],
    [
      {
        ...{ do: "line.focus", ...command, at: [9, 9], clear: [5, 5] },
        style: { ...style, brush: "oil-flat" },
      },
      /cannot draw lines/,
    ],
  ])("%# is refused", (one, why) => {
    const { engine, work } = lineWork();
    const was = fingerprint(engine, work);
    expect(() => work.apply(one as never)).toThrow(why);
    expect(fingerprint(engine, work)).toBe(was);
  });
});
