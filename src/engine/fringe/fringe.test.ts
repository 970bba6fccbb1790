import { alphaAt, line, stroke, testWork } from "../engine.testing";
import { type Engine } from "../engine";
import { type Work } from "../command/work";
import { meansFor } from "../adjust/blur";
import { Compositor } from "../compose/compositor";
import { seen, worst } from "../compose/seen.testing";
import { type Fringe, scaledFringe, usualFringe } from "./fringe";

const KEY = 0x5eed;
const fringe: Fringe = { width: 9, strength: 0.8 };
const across = { size: 70, brush: "round-firm", colour: "#3050a0" } as const;

type Sheet = ReturnType<typeof testWork>;

/** A bar of paint over tile borders, and one that runs off the sheet at the right. */
function painted(): Sheet {
  const sheet = testWork({ width: 200, height: 160 });
  sheet.work.apply(stroke(line([40, 50], [150, 90], { pressure: () => 1 }), across));
  sheet.work.apply(stroke(line([160, 140], [230, 140], { pressure: () => 1 }), across));
  return sheet;
}

/** All paint without the ground. */
function paintSeen(engine: Engine, work: Work): Uint16Array {
  const compositor = new Compositor(work.picture, engine.store, engine.workforce, false);
  const out = seen(engine, work, compositor);
  compositor.free();
  return out;
}

function pcg(input: number): number {
  const state = (Math.imul(input, 747796405) + 2891336453) >>> 0;
  const word = Math.imul((state >>> ((state >>> 28) + 4)) ^ state, 277803737) >>> 0;
  return ((word >>> 22) ^ word) >>> 0;
}
const lot = (x: number, y: number, key: number): number =>
  (pcg((pcg((x ^ key) >>> 0) + y) >>> 0) >>> 8) / 8388608 - 1;

function uneven(x: number, y: number, per: number, key: number): number {
  const [u, v] = [(x * 0.8 - y * 0.6) * per, (x * 0.6 + y * 0.8) * per];
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const eased = (t: number): number => t * t * (3 - 2 * t);
  const [s, t] = [eased(u - i), eased(v - j)];
  const row = (n: number): number => lot(i, n, key) + (lot(i + 1, n, key) - lot(i, n, key)) * s;
  return row(j) + (row(j + 1) - row(j)) * t;
}

/** A field that is known at every fourth px, and lies evenly between. */
function placesBetween(x: number, y: number, of: (x: number, y: number) => number): number {
  const [u, v] = [Math.floor(x / 4) * 4, Math.floor(y / 4) * 4];
  const [s, t] = [(x - u) / 4, (y - v) / 4];
  const row = (at: number): number => of(u, at) + (of(u + 4, at) - of(u, at)) * s;
  return row(v) + (row(v + 4) - row(v)) * t;
}

/** One running mean after the other over the whole sheet; beyond its edges the line goes on. */
function softened(alpha: Float64Array, width: number, height: number, means: readonly number[]) {
  let now = alpha;
  for (const [step, length] of [
    [1, width],
    [width, height],
  ] as const)
    for (const r of means) {
      const next = new Float64Array(now.length);
      for (let at = 0; at < now.length; at++) {
        const place = step === 1 ? at % width : Math.floor(at / width);
        let sum = 0;
        for (let k = -r; k <= r; k++)
          sum += now[at + (Math.max(0, Math.min(length - 1, place + k)) - place) * step] as number;
        next[at] = sum / (2 * r + 1);
      }
      now = next;
    }
  return now;
}

/** The fringe of a whole sheet as the kernel's text has it, worked out without tiles, in doubles. */
function reference(before: Uint16Array, width: number, height: number): Float64Array {
  const at = (x: number, y: number): number => {
    const [u, v] = [Math.max(0, Math.min(width - 1, x)), Math.max(0, Math.min(height - 1, y))];
    return (before[(v * width + u) * 4 + 3] as number) / 32767;
  };
  // Beyond the sheet its edge goes on, as far as the widest fringe looks.
  const wide = width + 128;
  const around = Float64Array.from({ length: wide * (height + 128) }, (_, i) =>
    at((i % wide) - 64, Math.floor(i / wide) - 64),
  );
  const soft = softened(around, wide, height + 128, meansFor(fringe.width / 1.645));
  const out = new Float64Array(before.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const a = at(x, y);
      if (a === 0) continue;
      const solid = Math.max(a, at(x - 1, y), at(x + 1, y), at(x, y - 1), at(x, y + 1));
      const e = Math.max(
        0,
        Math.min(1, 2 - (2 * (soft[(y + 64) * wide + x + 64] as number)) / solid),
      );
      const per = 1 / (16 * fringe.width);
      const n = placesBetween(x, y, (u, v) => {
        return 0.45 * (uneven(u, v, per, KEY) * 0.65 + uneven(v, u, per * 3.1, KEY + 1) * 0.35);
      });
      const d = 1 + fringe.strength * (e * e * 1.25 * (1 + n) - (1 - e) * 0.62 * (1 + n * 0.8));
      const kept = Math.min(1, a * d);
      for (let c = 0; c < 3; c++) {
        const straight = Math.min(1, (before[i * 4 + c] as number) / 32767 / a);
        const dense = straight - (straight - straight ** 2) * Math.max(0, Math.min(1, d - 1));
        out[i * 4 + c] = dense * kept * 32767;
      }
      out[i * 4 + 3] = kept * 32767;
    }
  return out;
}

describe("a fringe", () => {
  it("is what the density of its recipe gives, over tile borders and at the sheet's edges", () => {
    const { engine, work } = painted();
    const before = paintSeen(engine, work);
    work.apply({ do: "layer.set", id: "a", fringe });
    const { width, height } = work.picture;
    expect(worst(paintSeen(engine, work), reference(before, width, height))).toBeLessThan(40);
  });

  it("darkens the rim and pales the middle; no rim lies along the sheet's edge", () => {
    const { engine, work } = painted();
    const green = (data: Uint16Array, x: number, y: number): number[] =>
      [1, 3].map((c) => data[(y * 200 + x) * 4 + c] as number);
    const before = paintSeen(engine, work);
    work.apply({ do: "layer.set", id: "a", fringe });
    const after = paintSeen(engine, work);
    const [middle, edge] = [after, before].map((data) => green(data, 95, 70)) as [
      number[],
      number[],
    ];
    expect(middle[1]).toBeLessThan((edge[1] as number) * 0.75);
    // The last px of the bar that leaves the sheet is as pale as its middle.
    expect(
      Math.abs((green(after, 199, 140)[1] as number) - (green(after, 185, 140)[1] as number)),
    ).toBeLessThan(2500);
    let [dark, inside] = [0, 0];
    for (let x = 60; x < 130; x++) {
      let first = 20;
      while ((before[(first * 200 + x) * 4 + 3] as number) < 32767) first++;
      dark += green(after, x, first)[0] as number;
      inside += green(before, x, first)[0] as number;
    }
    expect(dark).toBeLessThan(inside * 0.8);
  });

  it("is shown anew in the tiles beside a stroke, too", () => {
    const { engine, work } = testWork({ width: 200, height: 160 });
    work.apply({ do: "layer.set", id: "a", fringe });
    const compositor = new Compositor(work.picture, engine.store, engine.workforce, false);
    seen(engine, work, compositor);
    work.apply(stroke(line([20, 40], [55, 40]), { ...across, size: 20 }));
    const keys = [...work.picture.plane("a").keys()];
    compositor.forget("a", compositor.reach("a", keys));
    seen(engine, work, compositor);
    work.apply(stroke(line([70, 40], [120, 40]), { ...across, size: 20 }));
    compositor.forget("a", compositor.reach("a", [1, 2]));
    expect(worst(seen(engine, work, compositor), paintSeen(engine, work))).toBe(0);
    compositor.free();
  });

  it("lets the paper show in its middle inside of an outline, too", () => {
    const { engine, work } = painted();
    work.apply({ do: "layer.set", id: "a", fringe });
    const bare = paintSeen(engine, work);
    work.apply({ do: "layer.set", id: "a", contour: { width: 5, colour: "#d03020" } });
    const outlined = paintSeen(engine, work);
    const at = (data: Uint16Array, x: number, y: number): number[] => [
      ...data.subarray((y * 200 + x) * 4, (y * 200 + x) * 4 + 4),
    ];
    expect(at(outlined, 95, 70)).toEqual(at(bare, 95, 70));
    let reds = 0;
    for (let y = 20; y < 70; y++) if ((at(outlined, 95, y)[0] ?? 0) > 20_000) reds++;
    expect(reds).toBeGreaterThan(3);
  });

  it("is part of the paint once dried, and can be taken back", () => {
    const { engine, work } = painted();
    const plain = paintSeen(engine, work);
    work.apply({ do: "layer.set", id: "a", fringe });
    const wet = paintSeen(engine, work);
    work.apply({ do: "paint.dry", layers: ["a"] });
    expect(work.picture.layer("a").fringe).toBeNull();
    expect(worst(paintSeen(engine, work), wet)).toBe(0);
    expect(() => work.apply({ do: "paint.dry", layers: ["a"] })).toThrow("No paint is wet there.");
    work.undo();
    work.undo();
    expect(worst(paintSeen(engine, work), plain)).toBe(0);
  });

  it("leaves the layer's own pixels as they are until then", () => {
    const { engine, work } = painted();
    const own = alphaAt(engine, work, "a", 95, 70);
    work.apply({ do: "layer.set", id: "a", fringe });
    expect(alphaAt(engine, work, "a", 95, 70)).toBe(own);
  });

  it("needs paint that can gather", () => {
    const { work } = painted();
    const fill = { kind: "colour", colour: "#808080" } as const;
    work.apply({ do: "layer.add", id: "f", name: "Sky", above: "a", kind: "fill", paint: fill });
    expect(() => work.apply({ do: "layer.set", id: "f", fringe })).toThrow(/“Sky” holds no paint/);
    for (const wrong of [
      { width: 0, strength: 1 },
      { width: 31, strength: 1 },
      { width: 4, strength: 2 },
    ])
      expect(() => work.apply({ do: "layer.set", id: "a", fringe: wrong })).toThrow();
  });

  it("grows with its sheet, and begins half a mm wide", () => {
    expect(scaledFringe(fringe, 2)).toEqual({ width: 18, strength: 0.8 });
    expect(scaledFringe(fringe, 100).width).toBe(30);
    expect([150, 300, 600, 2400].map((ppi) => usualFringe(ppi).width)).toEqual([3, 6, 12, 30]);
  });
});
