import { alphas, line, pixel, stroke, sum, testWork } from "../engine.testing";
import { fingerprint } from "../engine.testing";
import { linearToSrgb } from "../colour/oklch";
import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { ONE } from "../tiles/layout";
import { contentBox } from "./bounds";
import { weightsOf } from "./filters";
import {
  inverse,
  type Matrix,
  onMesh,
  perspectiveTo,
  restingMesh,
  through,
  times,
  type Warp,
} from "./warp";

const matrix = (...m: number[]): Warp => ({ kind: "matrix", matrix: m });
const move = (x: number, y: number): Warp => matrix(1, 0, x, 0, 1, y, 0, 0, 1);
const turn = (degrees: number, x: number, y: number, scale = 1): Warp => {
  const c = Math.cos((degrees * Math.PI) / 180) * scale;
  const s = Math.sin((degrees * Math.PI) / 180) * scale;
  return matrix(c, -s, x - c * x + s * y, s, c, y - s * x - c * y, 0, 0, 1);
};
const transform = (warp: Warp, more: object = {}): object => ({
  do: "transform",
  layers: ["a"],
  warp,
  ...more,
});

/** A layer with a soft, coloured smudge in the middle. */
function smudged(): ReturnType<typeof testWork> {
  const made = testWork({ width: 256, height: 192 });
  made.work.apply(
    stroke(line([90, 90], [150, 105]), { brush: "round-soft", size: 50, colour: "#b04020" }),
  );
  return made;
}

describe("filters", () => {
  it.each(["bicubic", "lanczos"] as const)("%s: weights sum to one at every phase", (filter) => {
    const table = weightsOf(filter);
    for (let phase = 0; phase < 256; phase++)
      expect(sum(table.subarray(phase * 8, phase * 8 + 8))).toBe(16384);
  });

  it("leave a pixel as it is where nothing moves between pixels", () => {
    expect([...weightsOf("bicubic").subarray(0, 4)]).toEqual([0, 16384, 0, 0]);
    expect([...weightsOf("lanczos").subarray(0, 6)]).toEqual([0, 0, 16384, 0, 0, 0]);
  });
});

describe("matrices", () => {
  it("carry a box's corners to four points, and back", () => {
    const box = { left: 10, top: 20, right: 110, bottom: 80 };
    const corners = [
      [0, 0],
      [130, 12],
      [120, 90],
      [5, 70],
    ] as const;
    const there = perspectiveTo(box, corners);
    const from = [
      [10, 20],
      [110, 20],
      [110, 80],
      [10, 80],
    ];
    from.forEach(([x, y], i) => {
      const at = through(there, x as number, y as number) as [number, number];
      expect(at[0]).toBeCloseTo(corners[i]?.[0] as number, 9);
      expect(at[1]).toBeCloseTo(corners[i]?.[1] as number, 9);
    });
    const round = times(there, inverse(there));
    const unit = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    unit.forEach((v, i) => expect((round[i] as number) / round[8]).toBeCloseTo(v, 9));
  });

  it("that fold everything onto a line are refused", () => {
    expect(() => inverse([1, 0, 0, 2, 0, 0, 0, 0, 1] as Matrix)).toThrow(/onto a line/);
  });
});

describe("transform", () => {
  it("by whole pixels changes no pixel, only where it is", () => {
    const { engine, work } = smudged();
    const before = [90, 96, 120, 150].map((x) => pixel(engine, work, "a", x, 98));
    work.apply(transform(move(37, -41)));
    expect([90, 96, 120, 150].map((x) => pixel(engine, work, "a", x + 37, 57))).toEqual(before);
    expect(pixel(engine, work, "a", 75, 98)).toEqual([0, 0, 0, 0]);
  });

  it("and back by whole pixels is as it was, to the last bit", () => {
    const { engine, work } = smudged();
    const before = fingerprint(engine, work);
    work.apply(transform(move(30, 20)));
    expect(fingerprint(engine, work)).not.toBe(before);
    work.apply(transform(move(-30, -20)));
    expect(fingerprint(engine, work)).toBe(before);
  });

  it("flips and quarter turns are exact, and four of them nothing", () => {
    const { engine, work } = smudged();
    const before = fingerprint(engine, work);
    const quarter = matrix(0, -1, 224, 1, 0, -32, 0, 0, 1);
    for (let i = 0; i < 4; i++) work.apply(transform(quarter));
    expect(fingerprint(engine, work)).toBe(before);
    const flip = matrix(-1, 0, 240, 0, 1, 0, 0, 0, 1);
    work.apply(transform(flip));
    expect(pixel(engine, work, "a", 239 - 95, 95)[3]).toBeGreaterThan(0);
    work.apply(transform(flip));
    expect(fingerprint(engine, work)).toBe(before);
  });

  it("keeps the amount of paint when it turns, and gives 1.21 times as much at 1.1 times the size", () => {
    const { engine, work } = smudged();
    const before = sum(alphas(engine, work));
    work.apply(transform(turn(33, 120, 97)));
    expect(sum(alphas(engine, work)) / before).toBeCloseTo(1, 2);
    work.apply(transform(turn(-12, 120, 97, 1.1)));
    expect(sum(alphas(engine, work)) / before).toBeCloseTo(1.21, 2);
  });

  it("in linear light halves stripes of black and white to the grey that the eye sees from afar", () => {
    const data = Uint8Array.from({ length: 128 * 64 * 4 }, (_, i) =>
      (i & 3) === 3 ? 255 : ((i >> 2) & 1) * 255,
    );
    const png = toBase64(writePng({ width: 128, height: 64, data }));
    const grey = (filter: string, scale: number): number => {
      const { engine, work } = testWork({ width: 128, height: 64 });
      work.apply({ do: "place", layer: "a", x: 0, y: 0, png });
      work.apply(transform(matrix(scale, 0, 0, 0, scale, 0, 0, 0, 1), { filter }));
      return (pixel(engine, work, "a", 20, 12)[1] as number) / ONE;
    };
    // sRGB of half the light of white: 1.055 · 0.5^(1/2.4) − 0.055.
    for (const scale of [0.5, 0.4]) {
      expect(grey("lanczos", scale)).toBeCloseTo(0.7354, 2);
      expect(grey("bicubic", scale)).toBeCloseTo(0.5, 2);
    }
  });

  it("in linear light leaves colours as they are, thin or thick", () => {
    const { engine, work } = testWork({ width: 256, height: 192 });
    const soft = { brush: "round-soft", size: 160, colour: "#2f6b54" };
    work.apply(stroke(line([40, 96], [216, 96]), soft));
    const before = [60, 90, 128].map((x) => pixel(engine, work, "a", x, 40 + x / 3));
    work.apply(transform(matrix(1, 0, 0, 0, 1, 0, 0, 0, 1), { filter: "lanczos" }));
    const after = [60, 90, 128].map((x) => pixel(engine, work, "a", x, 40 + x / 3));
    before.forEach((own, i) =>
      own.forEach((v, c) => expect(Math.abs(v - (after[i]?.[c] as number))).toBeLessThanOrEqual(8)),
    );
  });

  it.each([
    ["bicubic", (v: number) => v],
    ["lanczos", linearToSrgb],
  ] as const)(
    "%s keeps a slope of light a slope, to 1/255, when it is turned",
    (filter, stored) => {
      // An independent reference: a linear ramp resampled by any good filter is the ramp itself.
      const { engine, work } = testWork({ width: 320, height: 320 });
      const { store } = engine;
      const ramp = (x: number, y: number): number => 0.2 + 0.0012 * x + 0.0009 * y;
      for (let ty = 0; ty < 5; ty++)
        for (let tx = 0; tx < 5; tx++) {
          const tile = store.create();
          const at = store.address(tile) >> 1;
          for (let y = 0; y < 64; y++)
            for (let x = 0; x < 64; x++) {
              const v = Math.round(stored(ramp(tx * 64 + x + 0.5, ty * 64 + y + 0.5)) * ONE);
              const to = at + y * 256 + (x >> 3) * 32 + (x & 7);
              for (let c = 0; c < 4; c++) store.heap.u16[to + c * 8] = c === 3 ? ONE : v;
            }
          work.picture.plane("a").set(ty * 256 + tx, tile);
        }
      const warp = turn(7, 160, 160, 1.1);
      const back = inverse(
        warp.kind === "matrix" ? (warp.matrix as unknown as Matrix) : ([] as never),
      );
      work.apply(transform(warp, { filter }));
      let worst = 0;
      for (let y = 40; y < 280; y += 3)
        for (let x = 40; x < 280; x += 7) {
          const [u, v] = through(back, x + 0.5, y + 0.5) as [number, number];
          const got = (pixel(engine, work, "a", x, y)[0] as number) / ONE;
          worst = Math.max(worst, Math.abs(got - stored(ramp(u, v))));
        }
      expect(worst).toBeLessThan(1 / 255 / 4);
    },
  );

  it("to a fifth of the size takes the mean and not every fifth pixel", () => {
    const { engine, work } = testWork({ width: 640, height: 128 });
    for (let x = 20; x < 640; x += 4)
      work.apply(stroke(line([x, 0], [x, 128], { steps: 2 }), { brush: "pen-even", size: 2 }));
    work.apply(transform(matrix(0.2, 0, 0, 0, 0.2, 0, 0, 0, 1)));
    const coverage = Array.from(
      { length: 60 },
      (_, i) => (pixel(engine, work, "a", 20 + i, 12)[3] as number) / ONE,
    );
    expect(Math.min(...coverage)).toBeGreaterThan(0.35);
    expect(Math.max(...coverage)).toBeLessThan(0.65);
  });

  it("moves only what lies in a box, over what is there", () => {
    const { engine, work } = smudged();
    const there = pixel(engine, work, "a", 80, 90);
    const moved = pixel(engine, work, "a", 130, 100);
    work.apply(transform(move(0, 60), { box: { left: 110, top: 40, right: 256, bottom: 192 } }));
    expect(pixel(engine, work, "a", 80, 90)).toEqual(there);
    expect(pixel(engine, work, "a", 130, 160)).toEqual(moved);
    expect(pixel(engine, work, "a", 130, 80)).toEqual([0, 0, 0, 0]);
  });

  it("a mesh at rest changes nothing that can be seen; one pulled moves its corner there", () => {
    const { engine, work } = smudged();
    const before = alphas(engine, work);
    const from = contentBox(engine.store, work.picture.plane("a"));
    if (!from) throw new Error("nothing was painted");
    const mesh = { kind: "mesh" as const, from, columns: 3, rows: 2 };
    work.apply(transform({ ...mesh, points: restingMesh(from, 3, 2) }));
    const after = alphas(engine, work);
    let worst = 0;
    for (let i = 0; i < before.length; i++)
      worst = Math.max(worst, Math.abs((before[i] as number) - (after[i] as number)));
    expect(worst).toBeLessThan(1 / 255);
    const points = restingMesh(from, 3, 2).map(([x, y]): [number, number] => [x, y + 20]);
    work.apply(transform({ ...mesh, points }));
    expect(pixel(engine, work, "a", 120, 118)[3]).toBeCloseTo(
      (before[98 * 256 + 120] as number) * ONE,
      -2,
    );
  });

  it("a mesh goes through its points", () => {
    const from = { left: 0, top: 0, right: 90, bottom: 60 };
    const points = restingMesh(from, 3, 2);
    points[5] = [40, 44];
    const mesh = { kind: "mesh" as const, from, columns: 3, rows: 2, points };
    expect(onMesh(mesh, 1, 1)).toEqual([40, 44]);
    expect(onMesh(mesh, 3, 2)).toEqual([90, 60]);
  });

  it("is the same in one undo, and again after redo", () => {
    const { engine, work } = smudged();
    const before = fingerprint(engine, work);
    work.apply(transform(turn(21, 100, 90)));
    const after = fingerprint(engine, work);
    expect(work.undo()).toBe("transform");
    expect(fingerprint(engine, work)).toBe(before);
    work.redo();
    expect(fingerprint(engine, work)).toBe(after);
  });

  it.each([
    [{ do: "transform", layers: ["a"], warp: matrix(1, 0, 0, 2, 0, 0, 0, 0, 1) }, /onto a line/],
    [{ do: "transform", layers: ["a"], warp: matrix(1, 0, 0, 0, 1, 0, -0.01, 0, 1) }, /inside out/],
    [{ do: "transform", layers: ["x"], warp: move(1, 1) }, /no layer "x"/],
    [{ do: "transform", layers: ["a"], warp: matrix(1, 0, NaN, 0, 1, 0, 0, 0, 1) }, /warp.matrix/],
    [
      {
        do: "transform",
        layers: ["a"],
        warp: {
          kind: "mesh",
          from: { left: 0, top: 0, right: 9, bottom: 9 },
          columns: 2,
          rows: 2,
          points: [[0, 0]],
        },
      },
      /points/,
    ],
  ])("%# is refused and nothing is changed", (command, why) => {
    const { engine, work } = smudged();
    const before = fingerprint(engine, work);
    expect(() => work.apply(command)).toThrow(why);
    expect(fingerprint(engine, work)).toBe(before);
  });

  it("refuses a layer that is locked, or whose transparency is", () => {
    const { work } = smudged();
    work.apply({ do: "layer.set", id: "a", lockTransparency: true });
    expect(() => work.apply(transform(move(4, 4)))).toThrow(/transparency/);
    work.apply({ do: "layer.set", id: "a", lockTransparency: false, locked: true });
    expect(() => work.apply(transform(move(4, 4)))).toThrow(/locked/);
  });
});
