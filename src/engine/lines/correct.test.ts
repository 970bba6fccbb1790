import { fingerprint, pixelAt } from "../engine.testing";
import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { Refusal } from "../picture/refusal";
import { crossings, cutsOf } from "./crossings";
import { directionAt, lengthsOf, nearestOn, piecesOf, placeAt, type Point, pointOn } from "./curve";
import { lineAt, linesIn, linesLike, linesNear } from "./find";
import { type Line } from "./line";
import { linesOf } from "./line-set";
import { along, draw, lineWork, placesOf, straightWay, theLine, wave } from "./lines.testing";
import { reader } from "./profile";
import { shapeOf } from "./shape";

const even = { brush: "pen-even", size: 8 } as const;

const apply = (work: Work, command: object): void =>
  void work.apply({ layer: "l", ...command } as CommandInput);

/** The sum of how much a line turns, squared, over its length: what a spring of its shape would hold. */
function bendOf(line: Line): number {
  const places = placesOf(line, 4);
  let sum = 0;
  for (let i = 1; i + 1 < places.length; i++) {
    const [a, b, c] = places.slice(i - 1, i + 2) as [Point, Point, Point];
    const turn = Math.atan2(
      (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]),
      (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]),
    );
    sum += turn * turn;
  }
  return sum;
}

/** The sharpest turn between two pieces that meet at a knot that is no corner, radians. */
function sharpest({ curve }: Line): number {
  let most = 0;
  for (let k = 1; k < piecesOf(curve); k++) {
    if (curve.corners[k]) continue;
    const [ax, ay] = directionAt(curve, { piece: k - 1, t: 1 });
    const [bx, by] = directionAt(curve, { piece: k, t: 0 });
    most = Math.max(most, Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by)));
  }
  return most;
}

const lines = (engine: Engine, work: Work): readonly Line[] =>
  linesOf(engine.store, work.picture, "l").lines;

describe("pulling", () => {
  const pulled = (ends: "held" | "free", at: Point, to: Point, reach = 90) => {
    const { engine, work } = lineWork();
    const id = draw(engine, work, along(wave(60, 580, 240), 620), even);
    const before = theLine(engine, work, id);
    apply(work, { do: "line.pull", line: id, at, to, reach, ends });
    return { engine, work, before, after: theLine(engine, work, id) };
  };

  it("takes the place that is held to where the hand goes", () => {
    const at = wave(60, 580, 240)(0.5);
    const { after } = pulled("held", at, [at[0] + 10, at[1] + 45]);
    expect(nearestOn(after.curve, at[0] + 10, at[1] + 45)?.distance).toBeLessThan(0.5);
    expect(sharpest(after)).toBeLessThan(0.03);
  });

  it("leaves what lies beyond its reach as it was, to the bit", () => {
    const at = wave(60, 580, 240)(0.5);
    const { before, after } = pulled("held", at, [at[0], at[1] + 30]);
    const n = 8;
    expect(after.curve.points.slice(0, n)).toEqual(before.curve.points.slice(0, n));
    expect(after.curve.points.slice(-n)).toEqual(before.curve.points.slice(-n));
    expect(after.curve.material[0]).toBe(before.curve.material[0]);
    expect(after.curve.material.at(-1)).toBe(before.curve.material.at(-1));
    expect(after.width).toEqual(before.width);
  });

  it("holds the ends, or lets them go along", () => {
    const at = wave(60, 580, 240)(0.96);
    const end = wave(60, 580, 240)(1);
    const held = pulled("held", at, [at[0], at[1] - 40]);
    expect(held.after.curve.points.slice(-2)).toEqual(held.before.curve.points.slice(-2));
    const free = pulled("free", at, [at[0], at[1] - 40]);
    expect(free.after.curve.points.at(-1)).toBeLessThan(end[1] - 25);
  });

  it("that has hold of an end takes it along, held or free", () => {
    for (const ends of ["held", "free"] as const) {
      const { engine, work } = lineWork();
      const id = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
      apply(work, { do: "line.pull", line: id, at: [20, 200], to: [40, 260], reach: 90, ends });
      const [x, y] = theLine(engine, work, id).curve.points;
      expect(x).toBeCloseTo(80, 1);
      expect(y).toBeCloseTo(260, 1);
    }
  });

  it("of a great pull never folds: the reach grows with it", () => {
    const at = wave(60, 580, 240)(0.5);
    const { after } = pulled("held", at, [at[0], at[1] - 160], 20);
    expect(crossings(after, after)).toHaveLength(0);
    expect(sharpest(after)).toBeLessThan(0.05);
  });

  it("of a closed line keeps it closed and smooth, its seam too", () => {
    const { engine, work } = lineWork();
    const round = (u: number): Point => [
      320 + 130 * Math.cos(u * 6.28),
      240 + 90 * Math.sin(u * 6.28),
    ];
    const id = draw(engine, work, along(round, 700), even);
    apply(work, {
      do: "line.pull",
      line: id,
      at: [450, 240],
      to: [520, 250],
      reach: 120,
      ends: "held",
    });
    const line = theLine(engine, work, id);
    expect(line.closed).toBe(true);
    expect(line.curve.points.slice(0, 2)).toEqual(line.curve.points.slice(-2));
    expect(nearestOn(line.curve, 520, 250)?.distance).toBeLessThan(1);
    expect(sharpest(line)).toBeLessThan(0.06);
  });
});

describe("weight", () => {
  it("thickens by a quarter where it is pressed whole, and thins back", () => {
    const { engine, work } = lineWork();
    const id = draw(engine, work, along(straightWay([60, 200], [580, 200]), 520), even);
    const before = theLine(engine, work, id);
    const over = [[320, 200, 1]];
    apply(work, { do: "line.weigh", over, radius: 60, how: "thicken" });
    const after = theLine(engine, work, id);
    const m = 260;
    const radius = (line: Line, at: number): number => reader(line.width)(at);
    expect(radius(after, m) / radius(before, m)).toBeCloseTo(1.25, 1);
    expect(radius(after, m - 90)).toBeCloseTo(radius(before, m - 90), 1);
    apply(work, { do: "line.weigh", over, radius: 60, how: "thin" });
    for (const at of [100, m, 400])
      expect(radius(theLine(engine, work, id), at) / radius(before, at)).toBeCloseTo(1, 1);
  });

  it("evens a swelling line out, and only the lines that are meant", () => {
    const { engine, work } = lineWork();
    const swelling = along(
      straightWay([60, 200], [580, 200]),
      520,
      (u) => 0.3 + 0.6 * Math.abs(Math.sin(u * 9)),
    );
    const [a, b] = [draw(engine, work, swelling), draw(engine, work, swelling)];
    const spread = (line: Line): number => {
      const inner = line.width.filter((_, i) => i % 2 === 1);
      return Math.max(...inner) / Math.min(...inner);
    };
    const over = [
      [40, 200, 1],
      [600, 200, 1],
    ];
    apply(work, { do: "line.weigh", over, radius: 40, how: "even", lines: [a] });
    expect(spread(theLine(engine, work, a))).toBeLessThan(1.15);
    expect(spread(theLine(engine, work, b))).toBeGreaterThan(1.8);
  });

  it("in shadow is thicker: on the side away from the light", () => {
    const { engine, work } = lineWork();
    const round = (u: number): Point => [
      320 + 120 * Math.cos(u * 6.28),
      240 + 120 * Math.sin(u * 6.28),
    ];
    const id = draw(engine, work, along(round, 750), even);
    // From the upper left.
    apply(work, { do: "line.shade", lines: [id], light: (-3 * Math.PI) / 4, times: 2.5 });
    const { ends } = shapeOf(theLine(engine, work, id));
    const radiusNear = (x: number, y: number): number => {
      let [least, r] = [Infinity, 0];
      for (let i = 0; i < ends.length; i += 4) {
        const d = Math.hypot((ends[i] as number) - x, (ends[i + 1] as number) - y);
        if (d < least) [least, r] = [d, ends[i + 2] as number];
      }
      return r;
    };
    const lit = radiusNear(320 - 85, 240 - 85);
    expect(radiusNear(320 + 85, 240 + 85) / lit).toBeCloseTo(2.5, 0);
    expect(lit).toBeCloseTo(4, 0);
  });
});

describe("smoothing and simplifying", () => {
  const shaky = () => {
    const { engine, work } = lineWork();
    const way = (u: number): Point => {
      const [x, y] = wave(60, 580, 240)(u);
      return [x, y + 2.2 * Math.sin(u * 131) + 1.1 * Math.sin(u * 320)];
    };
    const id = draw(engine, work, along(way, 1800), even);
    return { engine, work, id, before: theLine(engine, work, id) };
  };

  it("takes a tremor out, more the stronger; the ends stay", () => {
    const { engine, work, id, before } = shaky();
    let last = bendOf(before);
    for (const strength of [2, 3]) {
      apply(work, { do: "line.smooth", lines: [id], strength });
      const line = theLine(engine, work, id);
      expect(bendOf(line)).toBeLessThan(0.45 * last);
      last = bendOf(line);
      for (const i of [0, 1]) {
        expect(line.curve.points[i]).toBeCloseTo(before.curve.points[i] as number, 3);
        expect(line.curve.points.at(-1 - i)).toBeCloseTo(
          before.curve.points.at(-1 - i) as number,
          3,
        );
      }
      expect(piecesOf(line.curve)).toBeLessThan(piecesOf(before.curve));
    }
    // The swing itself is still there.
    const line = theLine(engine, work, id);
    for (const u of [0.2, 0.5, 0.8]) {
      const [x, y] = wave(60, 580, 240)(u);
      expect(nearestOn(line.curve, x, y)?.distance).toBeLessThan(4);
    }
  });

  it("a corner that belongs to the shape stays one", () => {
    const { engine, work } = lineWork();
    const bent = (u: number): Point =>
      u < 0.5 ? [60 + 400 * u, 100 + 400 * u] : [260 + 400 * (u - 0.5), 300 - 400 * (u - 0.5)];
    const id = draw(engine, work, along(bent, 570), { ...even, steady: 0 });
    apply(work, { do: "line.smooth", lines: [id], strength: 3 });
    expect(nearestOn(theLine(engine, work, id).curve, 260, 300)?.distance).toBeLessThan(3);
  });

  it("simplified it has fewer pieces and lies no farther off than it may", () => {
    const { engine, work, id, before } = shaky();
    apply(work, { do: "line.simplify", lines: [id], error: 1.5 });
    const after = theLine(engine, work, id);
    expect(piecesOf(after.curve)).toBeLessThan(0.7 * piecesOf(before.curve));
    for (const [x, y] of placesOf(before, 3))
      expect(nearestOn(after.curve, x, y)?.distance).toBeLessThan(1.7);
  });
});

describe("redrawing", () => {
  it("replaces the stretch between where a stroke begins and ends, without a kink", () => {
    const { engine, work } = lineWork();
    const way = wave(60, 580, 240);
    const id = draw(engine, work, along(way, 620), even);
    const before = theLine(engine, work, id);
    const [a, b] = [way(0.3), way(0.62)];
    const detour = (u: number): Point => [
      a[0] + (b[0] - a[0]) * u,
      a[1] + (b[1] - a[1]) * u - 60 * Math.sin(Math.PI * u),
    ];
    work.apply({ do: "line.redraw", layer: "l", samples: along(detour, 240) });
    const after = theLine(engine, work, id);
    expect(lines(engine, work)).toHaveLength(1);
    const [mx, my] = detour(0.5);
    expect(nearestOn(after.curve, mx, my)?.distance).toBeLessThan(1);
    expect(sharpest(after)).toBeLessThan(0.08);
    expect(after.curve.points.slice(0, 8)).toEqual(before.curve.points.slice(0, 8));
    expect(after.curve.points.slice(-8)).toEqual(before.curve.points.slice(-8));
    expect(
      after.curve.material.every((m, i) => i === 0 || m >= (after.curve.material[i - 1] as number)),
    ).toBe(true);
  });

  it("drawn against its direction the stroke replaces the same stretch", () => {
    const { engine, work } = lineWork();
    const id = draw(engine, work, along(straightWay([60, 240], [580, 240]), 520), even);
    const back = (u: number): Point => [400 - 200 * u, 240 - 50 * Math.sin(Math.PI * u)];
    work.apply({ do: "line.redraw", layer: "l", line: id, samples: along(back, 230) });
    const line = theLine(engine, work, id);
    expect(nearestOn(line.curve, 300, 190)?.distance).toBeLessThan(1.5);
    expect(line.curve.points[0]).toBeCloseTo(60, 3);
    expect(line.curve.points.at(-2)).toBeCloseTo(580, 3);
  });

  it("goes on from an end, from either", () => {
    const { engine, work } = lineWork();
    const id = draw(engine, work, along(straightWay([200, 240], [400, 240]), 200), even);
    work.apply({
      do: "line.redraw",
      layer: "l",
      samples: along(straightWay([396, 240], [560, 300]), 170),
    });
    expect(nearestOn(theLine(engine, work, id).curve, 556, 298)?.distance).toBeLessThan(4);
    work.apply({
      do: "line.redraw",
      layer: "l",
      samples: along(straightWay([204, 240], [60, 180]), 160),
    });
    const line = theLine(engine, work, id);
    expect(nearestOn(line.curve, 64, 182)?.distance).toBeLessThan(4);
    // What was drawn before its start has a material below it.
    expect(line.curve.material[0]).toBeLessThan(-50);
    expect(sharpest(line)).toBeLessThan(0.08);
  });
});

describe("crossings", () => {
  it("of straight lines lie where two lines cross", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 100], [560, 300]), 540), even);
    const b = draw(engine, work, along(straightWay([100, 400], [500, 60]), 525), even);
    const [crossing] = crossings(theLine(engine, work, a), theLine(engine, work, b));
    // y = 100 + 0.4 (x − 60) and y = 400 − 0.85 (x − 100)
    const x = (400 + 85 - 100 + 24) / 1.25;
    expect(crossing?.x).toBeCloseTo(x, 1);
    expect(crossing?.y).toBeCloseTo(100 + 0.4 * (x - 60), 1);
    expect(crossing?.s).toBeCloseTo(Math.hypot(x - 60, 0.4 * (x - 60)), 0);
  });

  it("of a loop with itself are found once each way", () => {
    const { engine, work } = lineWork();
    // A curve that crosses itself once: x = t³ − 3t, y = t² at t = ±√3.
    const loop = (u: number): Point => {
      const t = -2 + 4 * u;
      return [320 + 60 * (t * t * t - 3 * t), 100 + 60 * t * t];
    };
    const line = theLine(engine, work, draw(engine, work, along(loop, 1200), even));
    const found = crossings(line, line);
    expect(found).toHaveLength(2);
    for (const { x, y } of found) {
      expect(x).toBeCloseTo(320, 0);
      expect(y).toBeCloseTo(100 + 60 * 3, 0);
    }
  });

  it("an end that lies on another line counts", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    draw(engine, work, along(straightWay([300, 60], [300, 201]), 140), even);
    draw(engine, work, along(straightWay([400, 60], [400, 180]), 120), even);
    const cuts = cutsOf(theLine(engine, work, a), lines(engine, work));
    expect(cuts).toHaveLength(1);
    expect(cuts[0]).toBeCloseTo(240, 0);
  });
});

describe("cutting and erasing", () => {
  it("an overshoot that is tapped goes, up to the crossing", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    draw(engine, work, along(straightWay([500, 60], [500, 340]), 280), even);
    apply(work, { do: "line.cut", line: a, at: [540, 203], how: "to crossings" });
    expect(theLine(engine, work, a).curve.points.at(-2)).toBeCloseTo(500, 1);
    expect(pixelAt(engine, work, "l", 540, 200)[3]).toBe(0);
    expect(theLine(engine, work, a).taper.out).toBe(0);
  });

  it("a stretch between two crossings leaves two lines", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    for (const x of [200, 400])
      draw(engine, work, along(straightWay([x, 60], [x, 340]), 280), even);
    apply(work, { do: "line.cut", line: a, at: [300, 200], how: "to crossings" });
    expect(lines(engine, work)).toHaveLength(4);
    expect(pixelAt(engine, work, "l", 300, 200)[3]).toBe(0);
    expect(pixelAt(engine, work, "l", 100, 200)[3]).toBe(255);
    expect(pixelAt(engine, work, "l", 500, 200)[3]).toBe(255);
  });

  it("erases what is touched, as wide as it was touched, and what is left of it shorter than 2 px", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    apply(work, {
      do: "line.erase",
      over: [
        [300, 100, 1],
        [300, 300, 1],
      ],
      radius: 20,
      how: "touched",
    });
    const [left, right] = lines(engine, work);
    expect(lengthsOf((left as Line).curve).at(-1)).toBeCloseTo(220, 0);
    expect(lengthsOf((right as Line).curve).at(-1)).toBeCloseTo(240, 0);
    expect((left as Line).id).toBe(a);
    // Its material is still where it was.
    expect((right as Line).curve.material[0]).toBeCloseTo(260, 0);
    apply(work, {
      do: "line.erase",
      over: [
        [81, 200, 1],
        [300, 200, 1],
      ],
      radius: 20,
      how: "touched",
    });
    expect(lines(engine, work)).toHaveLength(1);
  });

  it("a closed line that is cut once is one open line", () => {
    const { engine, work } = lineWork();
    const round = (u: number): Point => [
      320 + 120 * Math.cos(u * 6.28),
      240 + 120 * Math.sin(u * 6.28),
    ];
    draw(engine, work, along(round, 750), even);
    apply(work, { do: "line.erase", over: [[200, 240, 1]], radius: 15, how: "touched" });
    expect(lines(engine, work)).toHaveLength(1);
    const [line] = lines(engine, work) as [Line];
    expect(line.closed).toBe(false);
    expect(lengthsOf(line.curve).at(-1)).toBeCloseTo(2 * Math.PI * 120 - 30, -1);
  });

  it("whole lines, or to crossings", () => {
    const { engine, work } = lineWork();
    draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    for (const x of [200, 400])
      draw(engine, work, along(straightWay([x, 60], [x, 340]), 280), even);
    apply(work, {
      do: "line.erase",
      over: [
        [300, 190, 1],
        [300, 210, 1],
      ],
      radius: 6,
      how: "to crossings",
    });
    expect(lines(engine, work)).toHaveLength(4);
    apply(work, {
      do: "line.erase",
      over: [
        [190, 100, 1],
        [410, 100, 1],
      ],
      radius: 6,
      how: "whole",
    });
    expect(lines(engine, work)).toHaveLength(2);
  });

  it("parts a line where nothing goes", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), even);
    apply(work, { do: "line.cut", line: a, at: [300, 200], how: "part" });
    expect(lines(engine, work)).toHaveLength(2);
    expect(pixelAt(engine, work, "l", 300, 200)[3]).toBe(255);
  });
});

describe("joining", () => {
  it("bridges a gap ahead smoothly, with the mean of both widths there", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [300, 220]), 240), {
      ...even,
      size: 6,
    });
    const b = draw(engine, work, along(straightWay([316, 222], [560, 200]), 245), {
      ...even,
      size: 12,
      seed: 2,
    });
    apply(work, { do: "line.join", lines: [a, b], within: 30 });
    expect(lines(engine, work)).toHaveLength(1);
    const line = theLine(engine, work, a);
    expect(sharpest(line)).toBeLessThan(0.03);
    expect(line.curve.points[0]).toBeCloseTo(60, 2);
    expect(line.curve.points.at(-2)).toBeCloseTo(560, 2);
    const { total } = shapeOf(line);
    const middle = placeAt(line.curve, lengthsOf(line.curve), total / 2);
    expect(pointOn(line.curve, middle)[0]).toBeGreaterThan(290);
    expect(pixelAt(engine, work, "l", 308, 221)[3]).toBe(255);
  });

  it.each([
    ["the start of the second", [316, 222], [560, 200]],
    ["the end of the second", [560, 200], [316, 222]],
  ] as const)("finds which ends face each other: %s", (_name, from, to) => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [300, 220]), 240), even);
    const b = draw(engine, work, along(straightWay(from, to), 245), { ...even, seed: 2 });
    apply(work, { do: "line.join", lines: [a, b], within: 30 });
    const places = placesOf(theLine(engine, work, a), 5);
    const xs = [places[0] as Point, places.at(-1) as Point]
      .map(([x]) => Math.round(x))
      .sort((p, q) => p - q);
    expect(xs).toEqual([60, 560]);
  });

  it("meets in a corner where the lines turn", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [296, 200]), 240), even);
    const b = draw(engine, work, along(straightWay([305, 212], [305, 420]), 210), {
      ...even,
      seed: 2,
    });
    apply(work, { do: "line.join", lines: [a, b], within: 30 });
    const line = theLine(engine, work, a);
    expect(line.curve.corners.slice(1, -1).some(Boolean)).toBe(true);
    expect(nearestOn(line.curve, 305, 200)?.distance).toBeLessThan(3);
  });

  it("closes a wide gap by a bridge, and leaves the shape as it was drawn", () => {
    const { engine, work } = lineWork();
    const most = (u: number): Point => [
      320 + 120 * Math.cos(u * 4.2),
      240 + 120 * Math.sin(u * 4.2),
    ];
    const id = draw(engine, work, along(most, 500), even);
    const before = placesOf(theLine(engine, work, id), 20);
    apply(work, { do: "line.join", lines: [id], within: 1000 });
    const line = theLine(engine, work, id);
    expect(line.closed).toBe(true);
    for (const [x, y] of before.slice(1, -1))
      expect(nearestOn(line.curve, x, y)?.distance).toBeLessThan(0.5);
    expect(sharpest(line)).toBeLessThan(0.05);
  });

  it("refuses a gap that is too wide, and what is closed", () => {
    const { engine, work } = lineWork();
    const a = draw(engine, work, along(straightWay([60, 200], [200, 200]), 140), even);
    const b = draw(engine, work, along(straightWay([300, 200], [500, 200]), 200), even);
    expect(() => apply(work, { do: "line.join", lines: [a, b], within: 30 })).toThrow(
      "100 px apart",
    );
    apply(work, { do: "line.join", lines: [a], within: 500 });
    expect(theLine(engine, work, a).closed).toBe(true);
    expect(() => apply(work, { do: "line.join", lines: [a, b], within: 500 })).toThrow(
      "no end to join",
    );
  });
});

describe("finding lines", () => {
  const { engine, work } = lineWork();
  const a = draw(engine, work, along(straightWay([60, 100], [560, 100]), 500), {
    ...even,
    size: 6,
  });
  const b = draw(engine, work, along(straightWay([60, 200], [560, 200]), 500), {
    ...even,
    size: 20,
    colour: "#802020",
  });
  const c = draw(engine, work, along(straightWay([300, 40], [300, 400]), 360), {
    brush: "pen-sprung",
    size: 6,
  });
  const set = linesOf(engine.store, work.picture, "l");

  it("by a place: the nearest ink, above all what lies on top", () => {
    expect(lineAt(set, 100, 104, 10)?.line.id).toBe(a);
    expect(lineAt(set, 100, 188, 10)?.line.id).toBe(b);
    expect(lineAt(set, 300, 200, 10)?.line.id).toBe(c);
    expect(lineAt(set, 100, 150, 10)).toBeNull();
  });

  it("by a loop, by a box, by what they are like", () => {
    const loop: Point[] = [
      [40, 60],
      [600, 60],
      [600, 240],
      [40, 240],
    ];
    expect(linesIn(set, loop).map(({ id }) => id)).toEqual([a, b]);
    expect(
      linesNear(set, { left: 90, top: 190, right: 110, bottom: 192 }).map(({ id }) => id),
    ).toEqual([b]);
    const [first] = set.lines as [Line];
    expect(linesLike(set, [first], "brush").map(({ id }) => id)).toEqual([a, b]);
    expect(linesLike(set, [first], "colour").map(({ id }) => id)).toEqual([a, c]);
    expect(linesLike(set, [first], "width").map(({ id }) => id)).toEqual([a]);
  });

  it("among many: as a look at every one of them says", () => {
    const { engine: other, work: many } = lineWork();
    let state = 7;
    const chance = (): number => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
    for (let i = 0; i < 60; i++) {
      const from: Point = [600 * chance(), 440 * chance()];
      draw(other, many, along(straightWay(from, [from[0] + 60, from[1] + 60 * chance()]), 60), {
        ...even,
        size: 2 + 6 * chance(),
      });
    }
    const all = linesOf(other.store, many.picture, "l");
    for (let i = 0; i < 200; i++) {
      const [x, y] = [640 * chance(), 480 * chance()];
      const found = lineAt(all, x, y, 12);
      let least = Infinity;
      for (const line of all.lines)
        least = Math.min(
          least,
          (nearestOn(line.curve, x, y)?.distance ?? Infinity) - (line.width[1] as number),
        );
      if (least > 12) expect(found).toBeNull();
      else expect(found?.off).toBeCloseTo(Math.max(least, found?.off ?? 0), 0);
    }
  });
});

describe("many edits by chance", () => {
  it("undone, all is as it was to the byte; the log gives the same bytes", () => {
    const { engine, work } = lineWork({ width: 384, height: 320 });
    let state = 11;
    const chance = (): number => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
    const place = (): Point => [384 * chance(), 320 * chance()];
    const commands: CommandInput[] = [
      { do: "layer.add", id: "a", name: "A", above: null },
      { do: "layer.add", id: "l", name: "Lines", above: "a", kind: "lines" },
    ];
    const stroke = (): CommandInput => {
      const [a, b, c] = [place(), place(), place()];
      const way = (u: number): Point => [
        a[0] * (1 - u) ** 2 + 2 * u * (1 - u) * b[0] + u * u * c[0],
        a[1] * (1 - u) ** 2 + 2 * u * (1 - u) * b[1] + u * u * c[1],
      ];
      return {
        do: "stroke",
        layer: "l",
        brush: "pen-sprung",
        size: 2 + 8 * chance(),
        seed: 1,
        samples: along(way, 200 + 200 * chance()),
      };
    };
    const was = fingerprint(engine, work);
    let done = 0;
    const go = (command: CommandInput): void => {
      try {
        work.apply(command);
        commands.push(command);
        done++;
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
      }
    };
    for (let i = 0; i < 10; i++) go(stroke());
    for (let i = 0; i < 260; i++) {
      const all = lines(engine, work);
      const one = all[Math.floor(chance() * all.length)];
      if (!one || all.length < 4) {
        go(stroke());
        continue;
      }
      const on = placesOf(one, 9);
      const at = on[Math.floor(chance() * on.length)] as Point;
      const [x, y] = place();
      const near: Point = [at[0] + 40 * (chance() - 0.5), at[1] + 40 * (chance() - 0.5)];
      const line = one.id;
      const over: [number, number, number][] = [
        [at[0], at[1], 1],
        [near[0], near[1], chance()],
      ];
      const other = all[Math.floor(chance() * all.length)] as Line;
      const choice: CommandInput[] = [
        {
          do: "line.pull",
          layer: "l",
          line,
          at: [...at],
          to: [...near],
          reach: 10 + 120 * chance(),
          ends: chance() < 0.5 ? "held" : "free",
        },
        {
          do: "line.weigh",
          layer: "l",
          over,
          radius: 10 + 40 * chance(),
          how: (["thicken", "thin", "even"] as const)[Math.floor(3 * chance())] as "thin",
        },
        {
          do: "line.smooth",
          layer: "l",
          lines: [line],
          strength: (1 + Math.floor(3 * chance())) as 1,
        },
        { do: "line.simplify", layer: "l", lines: [line], error: 0.2 + chance() },
        { do: "line.redraw", layer: "l", samples: along(straightWay(at, [x, y]), 120) },
        {
          do: "line.join",
          layer: "l",
          lines: line === other.id ? [line] : [line, other.id],
          within: 400 * chance(),
        },
        {
          do: "line.cut",
          layer: "l",
          line,
          at: [...at],
          how: chance() < 0.5 ? "part" : "to crossings",
        },
        {
          do: "line.erase",
          layer: "l",
          over,
          radius: 2 + 8 * chance(),
          how: chance() < 0.7 ? "touched" : "to crossings",
        },
        { do: "line.turn-round", layer: "l", lines: [line] },
        { do: "line.order", layer: "l", lines: [line], to: chance() < 0.5 ? "front" : "back" },
        {
          do: "line.move",
          layer: "l",
          lines: [line],
          warp: { kind: "matrix", matrix: [1, 0.1, 3, -0.1, 1, 5, 0, 0, 1] },
        },
        { do: "line.shade", layer: "l", lines: [line], light: 6 * chance(), times: 1 + chance() },
        stroke(),
      ];
      go(choice[Math.floor(chance() * choice.length)] as CommandInput);
    }
    expect(done).toBeGreaterThan(180);
    const is = fingerprint(engine, work);
    const again = engine.open(work.picture.header);
    for (const command of commands) again.apply(command);
    expect(fingerprint(engine, again)).toBe(is);
    while (
      work.picture.structure.layers.length > 1 &&
      lines(engine, work).length + work.history.depth > 0
    ) {
      if (work.history.steps.length <= 2) break;
      work.undo();
    }
    expect(fingerprint(engine, work)).toBe(was);
  });
});
