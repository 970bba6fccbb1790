import { pixelAt, sum, testEngine, testHeader, writeStraight } from "../engine.testing";
import { type Work } from "../command/work";
import { hexToOklch, rgbToHex } from "../colour/oklch";
import { type Adjustment } from "./adjustment";
import { meansFor } from "./blur";

const engine = testEngine();
const width = 200;
const height = 140;

function sheet(at: (x: number, y: number) => readonly number[]): Work {
  const work = engine.open(testHeader({ width, height }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  writeStraight(work, "a", at);
  return work;
}

const adjusted = (rgba: number[], adjustment: Adjustment): number[] => {
  const work = sheet(() => rgba);
  work.apply({ do: "adjust", layers: ["a"], adjustment });
  const out = pixelAt(engine, work, "a", 50, 50);
  work.release();
  return out;
};

const straight: [number, number][] = [
  [0, 0],
  [1, 1],
];

describe("tones against their formulas", () => {
  const grey = [64, 128, 200, 255];

  test.each<[string, Adjustment, (v: number) => number]>([
    ["invert", { kind: "invert" }, (v) => 1 - v],
    [
      "levels",
      { kind: "levels", black: 0.1, white: 0.9, middle: 2, lowest: 0.05, highest: 0.95 },
      (v) => 0.05 + 0.9 * Math.sqrt(Math.min(1, Math.max(0, (v - 0.1) / 0.8))),
    ],
    ["posterize", { kind: "posterize", steps: 4 }, (v) => Math.min(3, Math.floor(v * 4)) / 3],
    [
      "brightness",
      { kind: "brightness", brightness: 0.2, contrast: 0 },
      (v) => Math.min(1, v + 0.1),
    ],
    [
      "curves",
      {
        kind: "curves",
        all: [
          [0, 1],
          [1, 0],
        ],
        red: straight,
        green: straight,
        blue: straight,
      },
      (v) => 1 - v,
    ],
  ])("%s", (_name, adjustment, formula) => {
    const out = adjusted(grey, adjustment);
    grey.slice(0, 3).forEach((v, c) => {
      const wanted = formula(v / 255) * 255;
      expect(Math.abs((out[c] as number) - wanted)).toBeLessThan(1.01);
    });
    expect(out[3]).toBe(255);
  });

  test("what changes nothing changes nothing, half-transparent colour too", () => {
    const half = [90, 160, 30, 128];
    const still: Adjustment[] = [
      { kind: "levels", black: 0, white: 1, middle: 1, lowest: 0, highest: 1 },
      { kind: "hue", hue: 0, saturation: 0, lightness: 0 },
      { kind: "balance", darks: [0, 0, 0], middles: [0, 0, 0], lights: [0, 0, 0] },
    ];
    for (const adjustment of still)
      adjusted(half, adjustment).forEach((v, c) =>
        expect(Math.abs(v - (half[c] as number))).toBeLessThanOrEqual(2),
      );
  });

  test("a hue turned by 90° is that hue, at the lightness it had", () => {
    const before = hexToOklch("#b06040");
    const [r = 0, g = 0, b = 0] = adjusted([0xb0, 0x60, 0x40, 255], {
      kind: "hue",
      hue: 90,
      saturation: -0.4,
      lightness: 0,
    });
    const after = hexToOklch(rgbToHex([r / 255, g / 255, b / 255]));
    expect(after.h).toBeCloseTo(before.h + 90, -0.7);
    expect(after.l).toBeCloseTo(before.l, 1.5);
    expect(after.c / before.c).toBeCloseTo(0.6, 1);
  });

  test("colour by value gives every lightness its own colour", () => {
    const stops = [
      { at: 0, colour: "#200040", alpha: 1 },
      { at: 1, colour: "#ffe0a0", alpha: 1 },
    ];
    expect(adjusted([0, 0, 0, 255], { kind: "by value", stops })).toEqual([0x20, 0, 0x40, 255]);
    const white = adjusted([255, 255, 255, 255], { kind: "by value", stops });
    expect(white.map((v, i) => Math.abs(v - [0xff, 0xe0, 0xa0, 255][i]!) <= 1)).not.toContain(
      false,
    );
  });
});

describe("blur", () => {
  test.each([2, 3.5, 8, 16])("means for σ = %d have its variance", (sigma) => {
    const variance = sum(meansFor(sigma).map((r) => ((2 * r + 1) ** 2 - 1) / 12));
    expect(Math.sqrt(variance) / sigma).toBeCloseTo(1, 0.7);
  });

  test("a spot keeps its weight and spreads as a Gaussian, across tiles", () => {
    const radius = 12;
    const work = sheet((x, y) => (x === 63 && y === 64 ? [0, 0, 0, 255] : [0, 0, 0, 0]));
    work.apply({ do: "adjust", layers: ["a"], adjustment: { kind: "blur", radius } });
    const at = (x: number, y: number): number => {
      const tile = work.picture.plane("a").get(((y >> 6) << 8) + (x >> 6));
      if (!tile) return 0;
      const place = (y & 63) * 256 + ((x & 63) >> 3) * 32 + 24 + (x & 7);
      return (engine.store.heap.u16[(engine.store.address(tile) >> 1) + place] as number) / 32767;
    };
    let total = 0;
    let spread = 0;
    for (let y = 30; y < 100; y++)
      for (let x = 30; x < 100; x++) {
        total += at(x, y);
        spread += at(x, y) * (x - 63) ** 2;
      }
    // A single pixel is all that sixteen bits can hold of so wide a spread: each falls a little short.
    expect(total).toBeGreaterThan(0.85);
    expect(total).toBeLessThan(1.1);
    expect(Math.sqrt(spread / total) / (radius / 2)).toBeCloseTo(1, 0.7);
    expect(Math.abs(at(60, 64) - at(66, 64))).toBeLessThan(2e-4);
    expect(Math.abs(at(63, 61) - at(63, 67))).toBeLessThan(2e-4);
    work.release();
  });

  test("the sheet's edge does not darken, and an even colour stays exactly so", () => {
    const work = sheet(() => [180, 90, 45, 255]);
    work.apply({ do: "adjust", layers: ["a"], adjustment: { kind: "blur", radius: 20 } });
    for (const [x, y] of [
      [0, 0],
      [199, 139],
      [64, 63],
    ] as const)
      expect(pixelAt(engine, work, "a", x, y)).toEqual([180, 90, 45, 255]);
    work.release();
  });

  test("sharpening steepens an edge and leaves what is even; noise keeps the mean", () => {
    const work = sheet((x) => (x < 100 ? [80, 80, 80, 255] : [160, 160, 160, 255]));
    const sharpen = { kind: "sharpen" as const, radius: 4, amount: 1 };
    work.apply({ do: "adjust", layers: ["a"], adjustment: sharpen });
    expect(pixelAt(engine, work, "a", 99, 70)[0]).toBeLessThan(70);
    expect(pixelAt(engine, work, "a", 100, 70)[0]).toBeGreaterThan(170);
    expect(pixelAt(engine, work, "a", 20, 70)).toEqual([80, 80, 80, 255]);
    const noise = { kind: "noise" as const, amount: 0.2, grey: true, seed: 5 };
    work.apply({ do: "adjust", layers: ["a"], adjustment: noise });
    const values: number[] = [];
    for (let y = 0; y < 140; y++)
      for (let x = 0; x < 80; x++) values.push(pixelAt(engine, work, "a", x, y)[0] as number);
    expect(sum(values) / values.length).toBeCloseTo(80, -0.3);
    expect(new Set(values).size).toBeGreaterThan(20);
    work.release();
  });
});

test("an adjustment stays inside the selection, and undo is exact", () => {
  const work = sheet((x, y) => [x, y, 100, 255]);
  const box = { left: 20, top: 20, right: 60, bottom: 60 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  work.apply({ do: "adjust", layers: ["a"], adjustment: { kind: "invert" } });
  expect(pixelAt(engine, work, "a", 30, 30)).toEqual([225, 225, 155, 255]);
  expect(pixelAt(engine, work, "a", 70, 30)).toEqual([70, 30, 100, 255]);
  work.undo();
  expect(pixelAt(engine, work, "a", 30, 30)).toEqual([30, 30, 100, 255]);
  work.release();
});

test("one colour is replaced by another, others stay", () => {
  const work = sheet((x) => (x < 100 ? [200, 40, 40, 255] : [40, 40, 200, 128]));
  const replace = { do: "colour.replace" as const, layer: "a", from: "#c82828", to: "#30a050" };
  work.apply(replace);
  expect(pixelAt(engine, work, "a", 50, 50)).toEqual([0x30, 0xa0, 0x50, 255]);
  expect(pixelAt(engine, work, "a", 150, 50)).toEqual([40, 40, 200, 128]);
  expect(() => work.apply(replace)).toThrow("#c82828");
  work.release();
});

test("a gradient on a layer lies in the selection alone", () => {
  const work = sheet(() => [0, 0, 0, 0]);
  const box = { left: 0, top: 0, right: 200, bottom: 70 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  work.apply({
    do: "gradient",
    layer: "a",
    paint: {
      kind: "gradient",
      shape: "linear",
      from: [0, 0],
      to: [200, 0],
      stops: [
        { at: 0, colour: "#ff0000" },
        { at: 1, colour: "#ff0000", alpha: 0 },
      ],
    },
  });
  expect(pixelAt(engine, work, "a", 100, 30)[3]).toBeCloseTo(127, -0.7);
  expect(pixelAt(engine, work, "a", 100, 30).slice(0, 3)).toEqual([255, 0, 0]);
  expect(pixelAt(engine, work, "a", 100, 100)[3]).toBe(0);
  work.release();
});
