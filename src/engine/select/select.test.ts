import {
  alphaAt,
  fingerprint,
  line,
  pixelAt,
  stroke,
  sum,
  testEngine,
  testHeader,
  writeStraight,
} from "../engine.testing";
import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { SELECTION } from "../picture/picture";

const engine = testEngine();
const width = 300;
const height = 200;

function sheet(): Work {
  const work = engine.open(testHeader({ width, height }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return work;
}

const box = (left: number, top: number, right: number, bottom: number) =>
  ({ kind: "box", box: { left, top, right, bottom } }) as const;

const selectBox = (
  work: Work,
  bounds: [number, number, number, number],
  how: Extract<CommandInput, { do: "select" }>["how"] = "replace",
) => work.apply({ do: "select", how, shape: box(...bounds) });

const selected = (work: Work, x: number, y: number): number =>
  alphaAt(engine, work, SELECTION, x, y);

/** Sum of what is selected, px. */
function area(work: Work): number {
  const all: number[] = [];
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) all.push(selected(work, x, y));
  return sum(all);
}

const all = (work: Work): number[] => {
  const seen: number[] = [];
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) seen.push(selected(work, x, y));
  return seen;
};

describe("shapes", () => {
  test("a box between pixels selects parts of them; its area is exact", () => {
    const work = sheet();
    selectBox(work, [10.25, 20.5, 110.75, 90]);
    expect(selected(work, 10, 50)).toBeCloseTo(0.75, 3);
    expect(selected(work, 50, 20)).toBeCloseTo(0.5, 3);
    expect(area(work)).toBeCloseTo(100.5 * 69.5, 0);
    work.release();
  });

  test("an ellipse has the area of one", () => {
    const work = sheet();
    const bounds = { left: 20, top: 30, right: 260, bottom: 170 };
    work.apply({ do: "select", shape: { kind: "ellipse", box: bounds } });
    expect(area(work) / (Math.PI * 120 * 70)).toBeCloseTo(1, 3);
    work.release();
  });

  test("a lasso that crosses itself selects all that it winds around", () => {
    const work = sheet();
    const points = [
      [20, 20],
      [120, 120],
      [120, 20],
      [20, 120],
    ] as [number, number][];
    work.apply({ do: "select", shape: { kind: "polygon", points } });
    expect(selected(work, 40, 70)).toBe(1);
    expect(selected(work, 70, 40)).toBe(0);
    expect(selected(work, 70, 100)).toBe(0);
    expect(selected(work, 110, 70)).toBe(1);
    work.release();
  });

  test("add, take away, intersect", () => {
    const work = sheet();
    selectBox(work, [0, 0, 100, 100]);
    selectBox(work, [80, 80, 180, 180], "add");
    expect(area(work)).toBeCloseTo(20000 - 400, 3);
    selectBox(work, [0, 0, 50, 200], "take away");
    expect(area(work)).toBeCloseTo(20000 - 400 - 5000, 3);
    selectBox(work, [40, 40, 140, 140], "intersect");
    expect(area(work)).toBeCloseTo(50 * 60 + 60 * 60 - 20 * 20, 3);
    expect(work.undo()).toBe("select");
    expect(area(work)).toBeCloseTo(20000 - 400 - 5000, 3);
    work.release();
  });

  test("what looks alike: a region, or the colour everywhere; what a layer holds, its dark", () => {
    const work = sheet();
    writeStraight(work, "a", (x, y) => {
      if (y > 20 && y < 60 && ((x > 20 && x < 60) || (x > 100 && x < 140)))
        return [200, 40, 40, 255];
      return y >= 150 ? [0, 0, 0, 128] : [0, 0, 0, 0];
    });
    const like = { layer: "a", at: [30, 30] as [number, number], borders: "layer" as const };
    work.apply({ do: "select", shape: { kind: "region", ...like } });
    expect(area(work)).toBe(39 * 39);
    work.apply({ do: "select", shape: { kind: "colour", ...like } });
    expect(area(work)).toBe(2 * 39 * 39);
    work.apply({ do: "select", shape: { kind: "layer", layer: "a" } });
    expect(area(work)).toBeCloseTo(2 * 39 * 39 + 300 * 50 * (128 / 255), 0);
    work.apply({ do: "select", shape: { kind: "layer", layer: "a", by: "dark" } });
    const red = 1 - (0.2126 * 200 + 0.7152 * 40 + 0.0722 * 40) / 255;
    expect(selected(work, 30, 30)).toBeCloseTo(red, 2);
    work.release();
  });
});

test("a region goes on under its lines to their middle: what is painted in it leaves no pale rim", () => {
  const work = sheet();
  work.apply({ do: "layer.add", id: "ink", name: "Ink", above: "a" });
  // A box of soft lines, 5 px wide and half a pixel on either side, their middle 50 px from (150, 100).
  writeStraight(work, "ink", (x, y) => {
    const off = Math.max(Math.abs(x + 0.5 - 150), Math.abs(y + 0.5 - 100)) - 50;
    const cover = Math.min(1, Math.max(0, 3 - Math.abs(off)));
    return [10, 10, 10, Math.round(cover * 255)];
  });
  const shape = { kind: "region", layer: "ink", at: [150, 100] as [number, number] } as const;
  const pale = (): number => {
    let worst = 0;
    for (let x = 101; x < 150; x++)
      worst = Math.max(
        worst,
        (1 - alphaAt(engine, work, "a", x, 100)) * (1 - alphaAt(engine, work, "ink", x, 100)),
      );
    return worst;
  };
  for (const [under, rim] of [
    [0, true],
    [6, false],
  ] as const) {
    work.apply({ do: "select", shape: { ...shape, borders: "layer", under } });
    expect(selected(work, 150, 100)).toBe(1);
    work.apply(stroke(line([60, 100], [240, 100]), { size: 60, colour: "#d0a040" }));
    expect(pale() > 0.05).toBe(rim);
    expect(alphaAt(engine, work, "a", 90, 100)).toBe(0);
    work.undo();
  }
  work.release();
});

describe("changing what is selected", () => {
  const corner = (work: Work, r: number): number => selected(work, 100 - r, 100 - r);

  test.each([5, 20])("grown by %d px: straight sides move as far, corners are round", (r) => {
    const work = sheet();
    selectBox(work, [100, 100, 150, 150]);
    work.apply({ do: "select.change", change: { kind: "grow", by: r } });
    const round = 50 * 50 + 4 * 50 * r + Math.PI * r * r;
    expect(area(work) / round).toBeCloseTo(1, 1.7);
    expect(corner(work, r)).toBe(0);
    expect(selected(work, 125, 100 - r)).toBe(1);
    expect(selected(work, 125, 100 - r - 1)).toBe(0);
    work.apply({ do: "select.change", change: { kind: "shrink", by: r } });
    expect(area(work) / 2500).toBeCloseTo(1, 1.5);
    work.release();
  });

  /** Where a selection's upper edge lies in each column, px, from what of it is selected. */
  const upperEdge = (work: Work, from: number, to: number): number[] =>
    Array.from({ length: to - from }, (_, i) => {
      let held = 0;
      for (let y = 0; y < 150; y++) held += selected(work, from + i, y);
      return 150 - held;
    });

  test.each([
    ["grow", 6, -1],
    ["shrink", 9, 1],
    ["grow", 40, -1],
  ] as const)("%s by %d px: a slanting edge moves sideways and stays straight", (kind, by, way) => {
    const work = sheet();
    const slope = 0.13;
    const points: [number, number][] = [
      [0, 80],
      [300, 80 + 300 * slope],
      [300, 200],
      [0, 200],
    ];
    work.apply({ do: "select", shape: { kind: "polygon", points } });
    work.apply({ do: "select.change", change: { kind, by } });
    const moved = way * by * Math.hypot(1, slope);
    const off = upperEdge(work, 60, 240).map((edge, i) => edge - (80 + (60.5 + i) * slope + moved));
    expect(Math.max(...off.map(Math.abs))).toBeLessThan(0.25);
    expect(Math.abs(sum(off) / off.length)).toBeLessThan(0.1);
    work.release();
  });

  test("a circle grown and shrunk again is the circle, and its edge no harder", () => {
    const work = sheet();
    const bounds = { left: 100.3, top: 50.7, right: 180.3, bottom: 130.7 };
    work.apply({ do: "select", shape: { kind: "ellipse", box: bounds } });
    const before = all(work);
    work.apply({ do: "select.change", change: { kind: "grow", by: 12 } });
    expect(Math.abs(area(work) / (Math.PI * 52 ** 2) - 1)).toBeLessThan(0.01);
    work.apply({ do: "select.change", change: { kind: "shrink", by: 12 } });
    const off = all(work).map((v, i) => Math.abs(v - (before[i] as number)));
    expect(Math.max(...off)).toBeLessThan(0.6);
    const rim = before.filter((v) => v > 0 && v < 1).length;
    expect(sum(off) / rim).toBeLessThan(0.2);
    work.release();
  });

  test("inverted twice is as it was; kept and called back is the same", () => {
    const work = sheet();
    selectBox(work, [10.5, 10, 120, 90]);
    const before = all(work);
    work.apply({ do: "select.keep", id: "k", name: "Window" });
    work.apply({ do: "select.change", change: { kind: "invert" } });
    expect(area(work)).toBeCloseTo(width * height - sum(before), 0);
    work.apply({ do: "select.change", change: { kind: "invert" } });
    expect(all(work).every((v, i) => Math.abs(v - (before[i] as number)) < 1e-4)).toBe(true);
    work.apply({ do: "select.none" });
    work.apply({ do: "select", shape: { kind: "kept", id: "k" } });
    expect(all(work).join()).toBe(before.join());
    work.apply({ do: "select.forget", id: "k" });
    expect(() => work.apply({ do: "select", shape: { kind: "kept", id: "k" } })).toThrow("kept");
    work.release();
  });

  test("feathered keeps its area and falls over its radius; moved goes by whole pixels", () => {
    const work = sheet();
    selectBox(work, [100, 60, 200, 140]);
    work.apply({ do: "select.change", change: { kind: "feather", by: 16 } });
    expect(area(work) / 8000).toBeCloseTo(1, 2);
    expect(selected(work, 100, 100)).toBeCloseTo(0.52, 1);
    expect(selected(work, 80, 100)).toBeLessThan(0.02);
    expect(selected(work, 120, 100)).toBeGreaterThan(0.98);
    const before = selected(work, 110, 100);
    work.apply({ do: "select.change", change: { kind: "move", x: -7, y: 13 } });
    expect(selected(work, 103, 113)).toBe(before);
    work.release();
  });

  test("a smoothed selection loses a spike and keeps its sides; a border lies on the edge", () => {
    const work = sheet();
    selectBox(work, [100, 60, 200, 140]);
    selectBox(work, [150, 30, 152, 60], "add");
    work.apply({ do: "select.change", change: { kind: "smooth", by: 8 } });
    expect(selected(work, 151, 45)).toBe(0);
    expect(selected(work, 102, 100)).toBe(1);
    expect(selected(work, 97, 100)).toBe(0);
    work.apply({ do: "select.change", change: { kind: "border", by: 8 } });
    expect(selected(work, 101, 100)).toBe(1);
    expect(selected(work, 98, 100)).toBe(1);
    expect(selected(work, 110, 100)).toBe(0);
    work.release();
  });
});

describe("changes stay inside", () => {
  const outside = (work: Work): number => {
    let n = 0;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if ((x < 80 || x >= 160) && alphaAt(engine, work, "a", x, y) > 0) n++;
    return n;
  };

  test.each(["pen-even", "chalk", "hair-straight", "fur-short"])("a stroke of %s", (brush) => {
    const work = sheet();
    selectBox(work, [80, 0, 160, 200]);
    work.apply(stroke(line([10, 100], [290, 100]), { brush, size: 40 }));
    expect(outside(work)).toBe(0);
    expect(alphaAt(engine, work, "a", 120, 100)).toBeGreaterThan(0);
    work.release();
  });

  test("blending, lifting, filling and clearing leave what is outside to the bit", () => {
    const work = sheet();
    writeStraight(work, "a", (x, y) => [x % 256, y, (x * y) % 256, 255]);
    const before = [...Array(height).keys()].map((y) => pixelAt(engine, work, "a", 40, y).join());
    selectBox(work, [80, 0, 160, 200]);
    work.apply(
      stroke(line([10, 100], [290, 100]), { brush: "round-soft", size: 60, mode: "blend" }),
    );
    work.apply(stroke(line([10, 60], [290, 60]), { size: 30, mode: "lift" }));
    work.apply({ do: "fill", layer: "a", at: [[120, 150]], tolerance: 1, colour: "#123456" });
    work.apply({ do: "layer.clear", id: "a" });
    expect(alphaAt(engine, work, "a", 120, 150)).toBe(0);
    expect([...Array(height).keys()].map((y) => pixelAt(engine, work, "a", 40, y).join())).toEqual(
      before,
    );
    work.release();
  });

  test("what is selected is moved with its selection, and the rest stays", () => {
    const work = sheet();
    writeStraight(work, "a", (x, y) => [x % 256, y, 90, 255]);
    selectBox(work, [20, 20, 60, 60]);
    const matrix = [1, 0, 100, 0, 1, 50, 0, 0, 1];
    work.apply({ do: "transform", layers: ["a"], warp: { kind: "matrix", matrix } });
    expect(alphaAt(engine, work, "a", 30, 30)).toBe(0);
    expect(pixelAt(engine, work, "a", 140, 90)).toEqual([40, 40, 90, 255]);
    expect(pixelAt(engine, work, "a", 119, 90)).toEqual([119, 90, 90, 255]);
    expect(selected(work, 140, 90)).toBe(1);
    expect(selected(work, 30, 30)).toBe(0);
    work.release();
  });

  test("a brush paints the selection itself", () => {
    const work = sheet();
    work.apply(stroke(line([50, 100], [250, 100]), { layer: SELECTION, size: 30 }));
    expect(work.picture.structure.selection).toBe(true);
    expect(selected(work, 150, 100)).toBe(1);
    work.apply(stroke(line([150, 60], [150, 140]), { layer: SELECTION, size: 20, mode: "lift" }));
    expect(selected(work, 150, 100)).toBe(0);
    work.apply(stroke(line([10, 100], [290, 100]), { size: 8 }));
    expect(alphaAt(engine, work, "a", 150, 100)).toBe(0);
    expect(alphaAt(engine, work, "a", 100, 100)).toBe(1);
    work.release();
  });
});

test.each<[string, CommandInput, string]>([
  ["nothing selected", { do: "select.none" }, "nothing is selected"],
  ["an empty lasso", { do: "select", shape: box(-90, -90, -10, -10) }, "nothing was selected"],
  ["what is gone", { do: "select.forget", id: "k" }, "kept"],
  [
    "taking from nothing",
    { do: "select", how: "take away", shape: box(0, 0, 9, 9) },
    "nothing is selected",
  ],
])("%s is refused with a word and changes nothing", (_name, command, word) => {
  const work = sheet();
  const before = fingerprint(engine, work);
  expect(() => work.apply(command)).toThrow(word);
  expect(fingerprint(engine, work)).toBe(before);
  expect(work.picture.structure.selection).toBe(false);
  work.release();
});
