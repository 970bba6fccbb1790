import { type Engine } from "../../engine";
import { type Work } from "../../command/work";
import { testWork } from "../../engine.testing";
import { seen } from "../../compose/seen.testing";
import { type Sample } from "../../stroke/sample";
import { lengthsOf, nearestOn, type Point } from "../curve";
import { type Line } from "../line";
import { along, placesOf, straightWay, wave } from "../lines.testing";
import { linesOf } from "../line-set";
import { reader } from "../profile";
import { distancesInside } from "./distance";
import { thin } from "./skeleton";

type Sheet = { engine: Engine; work: Work };
type Pen = { brush?: string; size?: number; colour?: string; layer?: string };

const sheet = (): Sheet => testWork({ width: 640, height: 480 });

function ink({ work }: Sheet, samples: Sample[], pen: Pen = {}): void {
  const style = { brush: "pen-even", size: 8, colour: "#101018", layer: "a", seed: 7, ...pen };
  work.apply({ do: "stroke", ...style, samples });
}

function traced(s: Sheet): readonly Line[] {
  s.work.apply({ do: "line.trace", layer: "a", id: "t", name: "Lines" });
  return linesOf(s.engine.store, s.work.picture, "t").lines;
}

/** How far a line's places are off a way, px: the middle one of them, and the farthest. */
function off(line: Line, way: (u: number) => Point): { usual: number; most: number } {
  const places = Array.from({ length: 401 }, (_, i) => way(i / 400));
  const far = placesOf(line, 3).map(([x, y]) => {
    let least = Infinity;
    for (let i = 1; i < places.length; i++) {
      const [[ax, ay], [bx, by]] = [places[i - 1] as Point, places[i] as Point];
      const [dx, dy] = [bx - ax, by - ay];
      const share = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy);
      const t = Math.max(0, Math.min(1, share));
      least = Math.min(least, Math.hypot(ax + dx * t - x, ay + dy * t - y));
    }
    return least;
  });
  const sorted = far.toSorted((a, b) => a - b);
  return { usual: sorted[sorted.length >> 1] as number, most: sorted.at(-1) as number };
}

const lengthOf = ({ curve }: Line): number => lengthsOf(curve).at(-1) as number;

/** Share of inked pixels that differ by a quarter and more between what was drawn and what was read. */
function differing(s: Sheet): number {
  const before = seen(s.engine, s.work);
  traced(s);
  s.work.apply({ do: "layer.set", id: "a", visible: false });
  const after = seen(s.engine, s.work);
  let [inked, wrong] = [0, 0];
  for (let i = 0; i < before.length; i += 4) {
    const [a, b] = [before[i] as number, after[i] as number];
    if (a < 32000 || b < 32000) inked++;
    if (Math.abs(a - b) > 8192) wrong++;
  }
  return wrong / inked;
}

describe("distances inside of what is set", () => {
  it("are exact", () => {
    const [width, height] = [41, 33];
    const mask = new Uint8Array(width * height);
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++)
        mask[y * width + x] = (x * 7 + y * 13 + ((x * y) % 11)) % 17 < 15 ? 1 : 0;
    const found = distancesInside(mask, width, height);
    let wrong = 0;
    for (let at = 0; at < mask.length; at++) {
      let least = mask[at] ? Infinity : 0;
      for (let other = 0; other < mask.length && mask[at]; other++)
        if (!mask[other])
          least = Math.min(
            least,
            ((at % width) - (other % width)) ** 2 +
              (Math.floor(at / width) - Math.floor(other / width)) ** 2,
          );
      if (found[at] !== least) wrong++;
    }
    expect(wrong).toBe(0);
  });
});

describe("thinning", () => {
  /** Parts that hang together, by eight neighbours for what is set and by four for the rest. */
  function parts(mask: Uint8Array, width: number, value: number): number {
    const all = [1, -1, width, -width, 1 + width, 1 - width, width - 1, -1 - width];
    const steps = value ? all : all.slice(0, 4);
    const seenAt = new Uint8Array(mask.length);
    let count = 0;
    for (let first = 0; first < mask.length; first++) {
      if (mask[first] !== value || seenAt[first]) continue;
      count++;
      const waiting = [first];
      seenAt[first] = 1;
      for (let at = waiting.pop(); at !== undefined; at = waiting.pop())
        for (const step of steps) {
          const next = at + step;
          if (mask[next] !== value || seenAt[next]) continue;
          seenAt[next] = 1;
          waiting.push(next);
        }
    }
    return count;
  }

  it("keeps parts and holes as they are, one px wide", () => {
    const width = 120;
    const mask = new Uint8Array(width * 120);
    const disc = (cx: number, cy: number, r: number, value: number): void => {
      for (let y = 1; y < 119; y++)
        for (let x = 1; x < 119; x++)
          if ((x - cx) ** 2 + (y - cy) ** 2 <= r * r) mask[y * width + x] = value;
    };
    disc(30, 30, 22, 1);
    disc(30, 30, 12, 0);
    disc(80, 40, 20, 1);
    disc(75, 38, 5, 0);
    disc(88, 46, 4, 0);
    disc(60, 95, 9, 1);
    for (let x = 50; x < 62; x++) mask[36 * width + x] = 1;
    const before = [1, 0].map((value) => parts(mask, width, value));
    const area = mask.reduce((sum, v) => sum + v, 0);
    thin(mask, distancesInside(mask, width, 120), width);
    expect([1, 0].map((value) => parts(mask, width, value))).toEqual(before);
    expect(mask.reduce((sum, v) => sum + v, 0)).toBeLessThan(area / 8);
    let blocks = 0;
    for (let at = 0; at < mask.length - width - 1; at++)
      if (mask[at] && mask[at + 1] && mask[at + width] && mask[at + width + 1]) blocks++;
    expect(blocks).toBe(0);
  });
});

describe("ink read as lines", () => {
  it("finds a line's middle, width, length and colour", () => {
    const s = sheet();
    const way = wave(60, 580, 200);
    ink(s, along(way, 600), { size: 8, colour: "#a02020" });
    const [line, ...more] = traced(s);
    expect(more).toEqual([]);
    const found = line as Line;
    expect(off(found, way).usual).toBeLessThan(0.2);
    expect(off(found, way).most).toBeLessThan(1.3);
    const read = reader(found.width);
    const total = found.curve.material.at(-1) as number;
    for (const share of [0.1, 0.3, 0.5, 0.7, 0.9])
      expect(Math.abs(2 * read(total * share) - 8)).toBeLessThan(0.25);
    let length = 0;
    for (let i = 1; i <= 4000; i++) {
      const [a, b] = [way((i - 1) / 4000), way(i / 4000)];
      length += Math.hypot(b[0] - a[0], b[1] - a[1]);
    }
    expect(Math.abs(lengthOf(found) - length)).toBeLessThan(3);
    expect(found.colour).toBe("#a02020");
    expect(found.closed).toBe(false);
  });

  it("follows a swell, and goes out to the points of its ends", () => {
    const s = sheet();
    const pressure = (u: number): number => 0.1 + 0.9 * Math.sin(u * Math.PI);
    ink(s, along(straightWay([60, 100], [580, 300]), 560, pressure), {
      brush: "pen-brush",
      size: 20,
    });
    expect(differing(s)).toBeLessThan(0.02);
  });

  it("takes crossing lines for whole ones, at a slant too", () => {
    const s = sheet();
    const ways = [
      straightWay([60, 60], [580, 420]),
      straightWay([60, 420], [580, 60]),
      straightWay([60, 300], [580, 400]),
      straightWay([420, 30], [430, 450]),
    ];
    for (const way of ways) ink(s, along(way, 500), { size: 7 });
    const lines = traced(s);
    expect(lines).toHaveLength(4);
    for (const way of ways) {
      const [x, y] = way(0.1);
      const own = lines.filter(({ curve }) => nearestOn(curve, x, y, 2));
      expect(own).toHaveLength(1);
      expect(off(own[0] as Line, way).most).toBeLessThan(1);
    }
  });

  it("reads cross-hatching stroke by stroke", () => {
    const s = sheet();
    const fine = { brush: "pen-fine", size: 3 };
    for (let i = 0; i < 14; i++)
      ink(s, along(straightWay([200 + i * 12, 120], [220 + i * 12, 220]), 120), fine);
    for (let i = 0; i < 8; i++)
      ink(s, along(straightWay([200, 125 + i * 12], [380, 140 + i * 12]), 180), fine);
    expect(traced(s)).toHaveLength(22);
  });

  it("ends a line at another one that it meets, and closes what is round", () => {
    const s = sheet();
    const way = straightWay([320, 300], [220, 430]);
    ink(s, along(straightWay([100, 300], [560, 300]), 460), { size: 24 });
    ink(s, along(way, 160), { size: 8 });
    ink(
      s,
      along((u) => [320 + 90 * Math.cos(u * 6.3), 130 + 90 * Math.sin(u * 6.3)], 600),
      { size: 6 },
    );
    const lines = traced(s);
    expect(lines).toHaveLength(3);
    const ring = lines.find(({ closed }) => closed) as Line;
    expect(Math.abs(lengthOf(ring) - 2 * Math.PI * 90)).toBeLessThan(3);
    const stem = lines.find(({ size }) => size > 7 && size < 10) as Line;
    expect(off(stem, way).most).toBeLessThan(1.5);
    expect(Math.abs(lengthOf(stem) - Math.hypot(100, 130))).toBeLessThan(8);
  });

  it("looks as the ink did, and is gone with its step", () => {
    const s = sheet();
    const pressure = (u: number): number => 0.25 + 0.7 * Math.sin(u * 3);
    ink(s, along(wave(40, 600, 90), 640, pressure), { brush: "pen-brush", size: 18 });
    ink(s, along(wave(40, 600, 110, 60, 14), 800), { size: 4 });
    ink(s, along(straightWay([60, 250], [500, 420]), 480, pressure), {
      brush: "pen-sprung",
      size: 14,
    });
    expect(differing(s)).toBeLessThan(0.03);
    s.work.undo();
    s.work.undo();
    expect(s.work.picture.structure.layers.map(({ id }) => id)).toEqual(["a"]);
  });

  it("reads a scribble without end as one line", () => {
    const { engine, work } = testWork({ width: 3000, height: 2200 });
    const s: Sheet = { engine, work };
    // To and fro in 50 rows of 2900 px, each below the other.
    const samples = Array.from({ length: 50 * 30 }, (_, i): Sample => {
      const [row, u] = [Math.floor(i / 30), (i % 30) / 29];
      const x = 40 + 2900 * (row % 2 === 0 ? u : 1 - u);
      return [i * 8, x, 30 + row * 42, 0.7, 1.2, 0, 0];
    });
    ink(s, samples, { size: 8 });
    const lines = traced(s);
    expect(lines).toHaveLength(1);
    expect(lengthOf(lines[0] as Line)).toBeGreaterThan(130_000);
  });

  it("takes the darks of a scan for ink", () => {
    const s = sheet();
    s.work.apply({ do: "fill", layer: "a", at: [[5, 5]], colour: "#f4efe6" });
    ink(s, along(straightWay([100, 100], [500, 300]), 450), { size: 6, colour: "#202020" });
    const lines = traced(s);
    expect(lines).toHaveLength(1);
    expect(off(lines[0] as Line, straightWay([100, 100], [500, 300])).most).toBeLessThan(1.3);
  });

  it("reads what is selected alone", () => {
    const s = sheet();
    for (const y of [100, 300]) ink(s, along(straightWay([100, y], [500, y]), 400));
    const box = { left: 0, top: 0, right: 640, bottom: 200 };
    s.work.apply({ do: "select", shape: { kind: "box", box } });
    const lines = traced(s);
    expect(lines).toHaveLength(1);
    expect(lines[0]?.curve.points[1]).toBeCloseTo(100, 0);
  });

  it("says why nothing can be read", () => {
    const s = sheet();
    expect(() => traced(s)).toThrow(/nothing on this layer/);
    s.work.apply({ do: "layer.add", id: "g", name: "Ink", above: "a", kind: "group" });
    const trace = { do: "line.trace", id: "t", name: "Lines" } as const;
    expect(() => s.work.apply({ ...trace, layer: "g" })).toThrow(/“Ink” holds no paint/);
    ink(s, [[0, 50, 50, 0.5, 1.2, 0, 0]], { size: 0.5 });
    expect(() => traced(s)).toThrow(/could be read as a line/);
  });
});
