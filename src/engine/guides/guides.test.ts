import { type Sample } from "../stroke/sample";
import { testWork } from "../engine.testing";
import { Follower, nearestOnEllipse, trackOf } from "./follow";
import { type Guide, type Place } from "./guide";

const two: Guide = {
  kind: "vanishing points",
  points: [
    { x: -400, y: 200 },
    { x: 1600, y: 260 },
  ],
};

/** A hand that means a line and wavers around it. */
function freehand(from: Place, to: Place): Sample[] {
  return Array.from({ length: 60 }, (_, i) => {
    const u = i / 59;
    const off = 6 * Math.sin(i * 1.7) * Math.min(1, u * 6);
    const d = Math.hypot(to.x - from.x, to.y - from.y);
    const nx = -(to.y - from.y) / d;
    const ny = (to.x - from.x) / d;
    return [
      i * 8,
      from.x + (to.x - from.x) * u + nx * off,
      from.y + (to.y - from.y) * u + ny * off,
      0.5,
      1.4,
      0,
      0,
    ];
  });
}

function followed(guides: Guide[], samples: Sample[]): Sample[] {
  const follower = new Follower(guides, 1);
  let out: Sample[] = [];
  for (const sample of samples) {
    const { samples: given, again } = follower.take(sample);
    out = again ? given : [...out, ...given];
  }
  return out;
}

/** Distance of a place from the line through two others. */
function off(p: Place, a: Place, b: Place): number {
  const d = Math.hypot(b.x - a.x, b.y - a.y);
  return Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / d;
}

describe("vanishing points", () => {
  const points = two.kind === "vanishing points" ? two.points : [];
  const [left, right] = points as [Place, Place];
  const corner = { x: 600, y: 500 };
  const toward = (p: Place, length: number): Place => {
    const d = Math.hypot(p.x - corner.x, p.y - corner.y);
    return {
      x: corner.x + ((p.x - corner.x) / d) * length,
      y: corner.y + ((p.y - corner.y) / d) * length,
    };
  };

  it.each([
    ["left", left],
    ["right", right],
  ])("a stroke toward the %s one lies on its true line", (_name, point) => {
    const drawn = followed([two], freehand(corner, toward(point, 260)));
    expect(drawn.length).toBe(60);
    for (const [, x, y] of drawn) expect(off({ x, y }, corner, point)).toBeLessThan(0.5);
  });

  it("a stroke that stands up is square to the horizon", () => {
    const drawn = followed([two], freehand(corner, { x: 604, y: 320 }));
    const [, x0, y0] = drawn[0] as Sample;
    const [, x1, y1] = drawn.at(-1) as Sample;
    const horizon = Math.atan2(60, 2000);
    const square = (x1 - x0) * Math.cos(horizon) + (y1 - y0) * Math.sin(horizon);
    expect(Math.abs(square)).toBeLessThan(1e-6);
    expect(Math.abs(y1 - y0)).toBeGreaterThan(150);
  });

  it("a stroke that means no guide goes its own way", () => {
    const samples = freehand(corner, { x: 760, y: 800 });
    const parallel: Guide = { kind: "parallel", angle: 0, at: { x: 0, y: 0 } };
    expect(followed([parallel], samples)).toEqual(samples);
  });
});

describe("other guides", () => {
  it("a straightedge takes strokes that begin near it, and no others", () => {
    const edge: Guide = { kind: "straightedge", from: { x: 0, y: 100 }, to: { x: 500, y: 150 } };
    const near = trackOf([edge], { x: 100, y: 120 }, { x: 140, y: 122 }, 1);
    const on = near?.({ x: 300, y: 170 }) ?? { x: 0, y: 0 };
    expect(off(on, { x: 0, y: 100 }, { x: 500, y: 150 })).toBeLessThan(1e-9);
    expect(trackOf([edge], { x: 100, y: 300 }, { x: 140, y: 304 }, 1)).toBeNull();
  });

  it("an ellipse is followed all the way round", () => {
    const ellipse: Guide = {
      kind: "ellipse",
      at: { x: 300, y: 200 },
      across: 160,
      down: 60,
      angle: 0.4,
    };
    const samples: Sample[] = Array.from({ length: 120 }, (_, i) => {
      const t = (i / 119) * 6.2;
      const wobble = 1 + 0.05 * Math.sin(i / 9);
      const x = Math.cos(t) * 160 * wobble;
      const y = Math.sin(t) * 60 * wobble;
      return [
        i * 8,
        300 + x * Math.cos(0.4) - y * Math.sin(0.4),
        200 + x * Math.sin(0.4) + y * Math.cos(0.4),
        0.5,
        1.4,
        0,
        0,
      ];
    });
    const drawn = followed([ellipse], samples);
    for (const [, x, y] of drawn) {
      const dx = x - 300;
      const dy = y - 200;
      const u = (dx * Math.cos(0.4) + dy * Math.sin(0.4)) / 160;
      const v = (dy * Math.cos(0.4) - dx * Math.sin(0.4)) / 60;
      expect(u * u + v * v).toBeCloseTo(1, 6);
    }
    const t = nearestOnEllipse(ellipse, {
      x: 300 + 400 * Math.cos(0.4),
      y: 200 + 400 * Math.sin(0.4),
    });
    expect(Math.cos(t)).toBeCloseTo(1, 6);
  });
});

describe("a picture's guides", () => {
  it("are set and taken back as one step, and bad ones are refused", () => {
    const { work } = testWork();
    work.apply({ do: "guides.set", guides: [two] });
    expect(work.picture.structure.guides).toEqual([two]);
    expect(work.undo()).toBe("guides");
    expect(work.picture.structure.guides).toEqual([]);
    expect(() =>
      work.apply({ do: "guides.set", guides: [{ kind: "vanishing points", points: [] }] }),
    ).toThrow(/guides/);
    expect(() => work.apply({ do: "guides.set", guides: Array(13).fill(two) })).toThrow(/guides/);
  });
});
