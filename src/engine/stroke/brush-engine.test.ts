import {
  alphas,
  fingerprint,
  line,
  pixel,
  sum,
  testEngine,
  testHeader,
  testWork,
} from "../engine.testing";
import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { brushes, findBrush } from "../media";
import { type Work } from "../command/work";
import { type Brush, type BrushInput, brushSchema } from "./brush";
import { Chance } from "./chance";
import { type Drive, evaluator, firstReading, type Reading } from "./drives";
import { madeTips } from "./made-tips";
import { type Sample } from "./sample";
import { type TipPicture } from "./tip";
import { type TipTones } from "./tip-tones";
import { tipFrom } from "./tip-from";

/** A hard round brush of full flow, changed. */
const plain = (changes: Partial<BrushInput> = {}): Brush =>
  brushSchema.parse({
    id: "test",
    name: "Test",
    kit: "Tests",
    size: 20,
    strength: 1,
    laying: { kind: "marks" },
    tip: { kind: "round", hardness: 1 },
    spacing: { base: 0.1 },
    diameter: { base: 1 },
    flow: { base: 1 },
    ...changes,
  });

type Stroke = { size?: number; colour?: string; second?: string; seed?: number } & Record<
  string,
  unknown
>;

function draw(work: Work, brush: Brush, samples: Sample[], more: Stroke = {}): void {
  work.apply({ do: "brush.bring", brush });
  work.apply({
    do: "stroke",
    layer: "a",
    brush: brush.id,
    size: brush.size,
    colour: "#000000",
    seed: 5,
    samples,
    ...more,
  });
}

const at = (x: number, y: number, pressure = 1): Sample[] => [[0, x, y, pressure, 1.5, 0, 0]];

/** A picture tip from a function of place. */
function tipOf(
  width: number,
  height: number,
  tones: TipTones,
  rgba: (x: number, y: number) => [number, number, number, number],
): TipPicture {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(rgba(x, y), (y * width + x) * 4);
  return { tones, png: toBase64(writePng({ width, height, data }, 72)) };
}

const pictures = (
  list: TipPicture[],
  more: Partial<Extract<BrushInput["tip"], { kind: "pictures" }>> = {},
): BrushInput["tip"] => ({ kind: "pictures", pictures: list, ...more });

const black = tipOf(64, 32, "coverage", () => [0, 0, 0, 255]);

describe("drivers", () => {
  const ramp: Drive["curve"] = [
    [0, 0],
    [1, 1],
  ];
  const read = (by: Drive["by"], reading: Partial<Reading>, over = 20): number =>
    evaluator(
      { base: 0, drives: [{ by, curve: ramp, how: "add", over }] },
      3,
    )({
      ...firstReading(new Chance(9)),
      ...reading,
    });

  it.each<[Drive["by"], Partial<Reading>, number]>([
    ["pressure", { pressure: 0.3 }, 0.3],
    ["tilt", { tilt: 0.4 }, 0.4],
    ["tilt direction", { tiltDirection: 0.25 }, 0.25],
    ["barrel turn", { barrelTurn: 0.6 }, 0.6],
    ["speed", { speed: 0.7 }, 0.7],
    ["stroke direction", { strokeDirection: 0.1 }, 0.1],
    ["distance", { sizes: 5 }, 0.25],
    ["distance", { sizes: 500 }, 1],
    ["taper", { taper: 0.8 }, 0.8],
  ])("%s reads %j as %d", (by, reading, expected) => {
    expect(read(by, reading)).toBeCloseTo(expected, 6);
  });

  it("chance of a mark is new for each mark, chance of a stroke is not", () => {
    const marks = Array.from({ length: 500 }, (_, mark) => read("chance of a mark", { mark }));
    expect(new Set(marks).size).toBeGreaterThan(490);
    expect(sum(marks) / 500).toBeCloseTo(0.5, 1);
    const strokes = Array.from({ length: 20 }, (_, mark) => read("chance of a stroke", { mark }));
    expect(new Set(strokes).size).toBe(1);
  });

  it("different parameters have chances of their own", () => {
    const drive: Drive = { by: "chance of a mark", curve: ramp, how: "add", over: 20 };
    const reading = firstReading(new Chance(1));
    const one = evaluator({ base: 0, drives: [drive] }, 1)(reading);
    const other = evaluator({ base: 0, drives: [drive] }, 2)(reading);
    expect(one).not.toBe(other);
  });
});

describe("a picture for a tip", () => {
  it.each([
    [20, 0],
    [20, 0.125],
    [37.5, 0.3],
    [90, 0.07],
    [150, 0.71],
  ])("%d px wide, turned by %d, covers its own area", (size, angle) => {
    const { engine, work } = testWork();
    const brush = plain({ size, tip: pictures([black]), angle: { base: angle } });
    draw(work, brush, at(128.3, 96.6));
    // The picture is twice as wide as high; its edge falls over a texel, half of it outside.
    const texel = size / 64;
    const expected = size * (size / 2);
    const area = sum(alphas(engine, work));
    expect(area).toBeGreaterThan(expected * 0.97);
    expect(area).toBeLessThan((size + texel) * (size / 2 + texel) * 1.03);
  });

  it("lies the same across tile borders as within a tile", () => {
    const ragged = plain({ size: 40, tip: pictures([{ made: "charcoal face" }]) });
    const a = testWork();
    const b = testWork();
    draw(a.work, ragged, at(32, 32));
    draw(b.work, ragged, at(64, 64));
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 60; x++) {
        const one = pixel(a.engine, a.work, "a", x, y)[3] as number;
        const other = pixel(b.engine, b.work, "a", x + 32, y + 32)[3] as number;
        expect(Math.abs(one - other)).toBeLessThan(8);
      }
  });

  const half = tipOf(40, 40, "coverage", (x) => [0, 0, 0, x < 20 ? 255 : 0]);

  it("is turned over where chance is 1", () => {
    const left = testWork();
    const right = testWork();
    draw(left.work, plain({ size: 60, tip: pictures([half]) }), at(100, 100));
    const flip = { across: 1, along: 0 };
    draw(right.work, plain({ size: 60, tip: pictures([half], { flip }) }), at(100, 100));
    expect(pixel(left.engine, left.work, "a", 85, 100)[3]).toBeGreaterThan(32760);
    expect(pixel(left.engine, left.work, "a", 115, 100)[3]).toBe(0);
    expect(pixel(right.engine, right.work, "a", 85, 100)[3]).toBe(0);
    expect(pixel(right.engine, right.work, "a", 115, 100)[3]).toBeGreaterThan(32760);
  });

  it("comes in turn where there are several", () => {
    const upper = tipOf(40, 40, "coverage", (_x, y) => [0, 0, 0, y < 20 ? 255 : 0]);
    const lower = tipOf(40, 40, "coverage", (_x, y) => [0, 0, 0, y >= 20 ? 255 : 0]);
    const { engine, work } = testWork();
    const brush = plain({ size: 20, spacing: { base: 1 }, tip: pictures([upper, lower]) });
    draw(work, brush, line([40, 90], [124, 90], { pressure: () => 1 }));
    const solid = (x: number, y: number): boolean =>
      (pixel(engine, work, "a", x, y)[3] as number) > 32000;
    expect([40, 60, 80, 100].map((x) => solid(x, 85))).toEqual([true, false, true, false]);
    expect([40, 60, 80, 100].map((x) => solid(x, 95))).toEqual([false, true, false, true]);
  });

  it("one a stroke stays the same within a stroke and differs between strokes", () => {
    const tones = [64, 160].map((alpha) => tipOf(20, 20, "coverage", () => [0, 0, 0, alpha]));
    const brush = plain({
      spacing: { base: 1.6 },
      tip: pictures(tones, { choice: "one a stroke" }),
    });
    const seen = new Set<number>();
    for (let seed = 0; seed < 8; seed++) {
      const { engine, work } = testWork();
      draw(work, brush, line([30, 90], [220, 90], { pressure: () => 1 }), { seed });
      const own = [30, 62, 94, 126].map((x) => pixel(engine, work, "a", x, 90)[3] as number);
      expect(new Set(own).size).toBe(1);
      seen.add(own[0] as number);
    }
    expect(seen.size).toBe(2);
  });

  it("in two tones gives the dark to the first colour, the light to the second, and mixes greys", () => {
    const bands = tipOf(60, 60, "two tones", (x) => {
      const grey = x < 20 ? 0 : x < 40 ? 128 : 255;
      return [grey, grey, grey, 255];
    });
    const { engine, work } = testWork();
    const colours = { colour: "#ff0000", second: "#0000ff" };
    draw(work, plain({ size: 120, tip: pictures([bands]) }), at(128, 96), colours);
    const near = (x: number, wanted: number[]): void => {
      const got = pixel(engine, work, "a", x, 96);
      wanted.forEach((v, c) => expect(Math.abs((got[c] as number) / 32767 - v)).toBeLessThan(0.01));
    };
    near(80, [1, 0, 0, 1]);
    near(128, [0.498, 0, 0.502, 1]);
    near(176, [0, 0, 1, 1]);
  });

  it("in colours keeps them, whatever colour is chosen", () => {
    const checks = tipOf(40, 40, "colours", (x, y) => [
      x < 20 ? 200 : 20,
      y < 20 ? 180 : 40,
      90,
      255,
    ]);
    const { engine, work } = testWork();
    draw(work, plain({ size: 80, tip: pictures([checks]) }), at(128, 96), { colour: "#00ff00" });
    const bytes = (x: number, y: number): number[] =>
      pixel(engine, work, "a", x, y).map((v) => Math.round((v * 255) / 32767));
    const expected: [number, number, number[]][] = [
      [108, 76, [200, 180, 90, 255]],
      [148, 76, [20, 180, 90, 255]],
      [148, 116, [20, 40, 90, 255]],
    ];
    for (const [x, y, wanted] of expected)
      bytes(x, y).forEach((v, c) => expect(Math.abs(v - (wanted[c] as number))).toBeLessThan(2));
  });

  it("too large is refused with its size", () => {
    const { work } = testWork();
    const huge = tipOf(1100, 4, "coverage", () => [0, 0, 0, 255]);
    expect(() =>
      work.apply({ do: "brush.bring", brush: plain({ tip: pictures([huge]) }) }),
    ).toThrow(/1024 px a side; this one is 1100 × 4/);
    expect(Object.keys(work.picture.structure.brushes)).toEqual([]);
  });

  it.each(Object.keys(madeTips) as (keyof typeof madeTips)[])("made by rule, %s paints", (made) => {
    const { engine, work } = testWork();
    draw(work, plain({ size: 100, tip: pictures([{ made }]) }), at(128, 96));
    const area = sum(alphas(engine, work));
    expect(area).toBeGreaterThan(60);
    expect(area).toBeLessThan(10_200);
  });
});

describe("a tip from pixels", () => {
  const spot = {
    width: 50,
    height: 30,
    data: Uint8Array.from({ length: 50 * 30 * 4 }, (_, i) => {
      const p = i >> 2;
      const inside =
        p % 50 >= 10 && p % 50 < 30 && Math.floor(p / 50) >= 5 && Math.floor(p / 50) < 15;
      return inside ? [180, 40, 40, 255][i & 3]! : 0;
    }),
  };

  it("is trimmed to its paint, whatever the paint's colour", () => {
    const { engine, work } = testWork();
    draw(work, plain({ size: 40, tip: pictures([tipFrom(spot, "coverage")]) }), at(100, 100));
    expect(sum(alphas(engine, work)) / (40 * 20)).toBeCloseTo(1, 1);
  });

  it("in two tones is the shape dark and, a little up and to the left, light", () => {
    const { engine, work } = testWork();
    const brush = plain({ size: 88, tip: pictures([tipFrom(spot, "two tones")]) });
    draw(work, brush, at(128, 96), { colour: "#ff0000", second: "#0000ff" });
    expect(pixel(engine, work, "a", 100, 86)[2]).toBeGreaterThan(32000);
    expect(pixel(engine, work, "a", 165, 116)[0]).toBeGreaterThan(32000);
  });

  it("in two tones takes the paint's own darks and lights where it has them", () => {
    const { engine, work } = testWork();
    const halves = {
      width: 40,
      height: 40,
      data: Uint8Array.from({ length: 6400 }, (_, i) => {
        const isLight = (i >> 2) % 40 >= 20;
        return i % 4 === 3 ? 255 : isLight ? 230 : 30;
      }),
    };
    halves.data[3] = 0;
    const brush = plain({ size: 80, tip: pictures([tipFrom(halves, "two tones")]) });
    draw(work, brush, at(128, 96), { colour: "#ff0000", second: "#0000ff" });
    const [left, right] = [pixel(engine, work, "a", 105, 100), pixel(engine, work, "a", 150, 100)];
    expect([left[0], left[2]].map((v) => Math.round((v ?? 0) / 32767))).toEqual([1, 0]);
    expect([right[0], right[2]].map((v) => Math.round((v ?? 0) / 32767))).toEqual([0, 1]);
  });

  it("without paint is refused", () => {
    const empty = { width: 4, height: 4, data: new Uint8Array(64) };
    expect(() => tipFrom(empty, "coverage")).toThrow(/no paint/);
  });
});

describe("colours that stray", () => {
  it("leave the coverage as it would be without", () => {
    const soft: Partial<BrushInput> = {
      tip: { kind: "round", hardness: 0.2 },
      flow: { base: 0.08 },
      size: 30,
    };
    const a = testWork();
    const b = testWork();
    const path = line([40, 60], [210, 120], { pressure: () => 0.7 });
    draw(a.work, plain(soft), path);
    const colour = { hue: { base: 0 } };
    draw(b.work, plain({ ...soft, colour }), path);
    const one = alphas(a.engine, a.work);
    const other = alphas(b.engine, b.work);
    const apart = one.map((v, i) => Math.abs(v - (other[i] as number)));
    expect(Math.max(...apart)).toBeLessThan(1.5 / 255);
  });

  it("go wholly to the second colour where they are told to", () => {
    const { engine, work } = testWork();
    const brush = plain({ colour: { second: { base: 1 } } });
    draw(work, brush, at(100, 100), { colour: "#ff0000", second: "#20a060" });
    const bytes = pixel(engine, work, "a", 100, 100).map((v) => Math.round((v * 255) / 32767));
    [0x20, 0xa0, 0x60, 255].forEach((v, c) =>
      expect(Math.abs((bytes[c] as number) - v)).toBeLessThan(3),
    );
  });

  it("never make more colour than there is paint", () => {
    const { engine, work } = testWork();
    const value: BrushInput["diameter"] = {
      base: 0,
      drives: [
        {
          by: "chance of a mark",
          how: "add",
          curve: [
            [0, -0.5],
            [1, 0.5],
          ],
        },
      ],
    };
    const brush = plain({
      flow: { base: 0.05 },
      tip: { kind: "round", hardness: 0 },
      colour: { value },
    });
    draw(work, brush, line([40, 60], [210, 120]), { colour: "#f0e0d0" });
    for (let y = 50; y < 130; y += 3)
      for (let x = 30; x < 220; x += 3) {
        const [r = 0, g = 0, b = 0, a = 0] = pixel(engine, work, "a", x, y);
        expect(Math.max(r, g, b)).toBeLessThanOrEqual(a);
      }
  });
});

describe("an overtip", () => {
  const grey = (alpha: number): TipPicture => tipOf(40, 40, "coverage", () => [0, 0, 0, alpha]);
  const over = (mode: "multiply" | "dodge" | "subtract" | "darken"): BrushInput["overtip"] => ({
    mode,
    tip: pictures([grey(102)]),
    spacing: { base: 1 },
    diameter: { base: 1.5 },
    flow: { base: 1 },
  });
  it.each([
    ["multiply", 0.6 * 0.4],
    ["dodge", 1],
    ["subtract", 0.2],
    ["darken", 0.4],
  ] as const)("%s: 0.6 under 0.4 leaves %d", (mode, expected) => {
    const { engine, work } = testWork();
    draw(work, plain({ size: 60, tip: pictures([grey(153)]), overtip: over(mode) }), at(128, 96));
    expect((pixel(engine, work, "a", 128, 96)[3] as number) / 32767).toBeCloseTo(expected, 2);
  });

  it.each([
    ["multiply", 0.6 * 0.4],
    ["subtract", 0.2],
    ["darken", 0.4],
  ] as const)("%s does the same to marks with colours", (mode, expected) => {
    const { engine, work } = testWork();
    const brush = plain({
      size: 60,
      tip: pictures([grey(153)]),
      overtip: over(mode),
      colour: { hue: { base: 0 } },
    });
    draw(work, brush, at(128, 96), { colour: "#ffffff" });
    const [r = 0, , , a = 0] = pixel(engine, work, "a", 128, 96);
    expect(a / 32767).toBeCloseTo(expected, 2);
    expect(Math.abs(r - a)).toBeLessThan(40);
  });
});

describe("an overtip that travels", () => {
  const left = tipOf(64, 64, "coverage", (x) => [0, 0, 0, x < 32 ? 204 : 0]);
  const over = (travels: boolean): BrushInput["overtip"] => ({
    mode: "subtract",
    travels,
    tip: pictures([left]),
    spacing: { base: 4 },
    diameter: { base: 1 },
    flow: { base: 1 },
  });
  const solid = tipOf(64, 64, "coverage", () => [0, 0, 0, 255]);
  const brush = (travels: boolean, tip: BrushInput["tip"] = pictures([solid])): Brush =>
    plain({ size: 40, tip, spacing: { base: 1.5 }, overtip: over(travels) });
  const alphaAt = ({ engine, work }: ReturnType<typeof testWork>, x: number, y: number): number =>
    (pixel(engine, work, "a", x, y)[3] as number) / 32767;

  it("leaves the same of each mark, wherever it lies", () => {
    const table = testWork();
    draw(table.work, brush(true), line([40, 96], [220, 96], { pressure: () => 1 }));
    for (const x of [40, 100, 160]) {
      expect(alphaAt(table, x - 10, 96)).toBeCloseTo(0.2, 1);
      expect(alphaAt(table, x + 10, 96)).toBeCloseTo(1, 1);
    }
  });

  it("leaves alone what it does not reach: one that stays cuts marks by place", () => {
    const table = testWork();
    draw(table.work, brush(false), line([40, 96], [220, 96], { pressure: () => 1 }));
    expect(alphaAt(table, 30, 96)).toBeCloseTo(0.2, 1);
    expect(alphaAt(table, 90, 96)).toBeCloseTo(1, 1);
  });

  it("keeps the shape of a round tip, and the colours of one in colours", () => {
    const round = testWork();
    const tip: BrushInput["tip"] = { kind: "round", hardness: 0.9 };
    draw(round.work, brush(true, tip), at(128, 96));
    expect(alphaAt(round, 128 + 10, 96)).toBeCloseTo(1, 1);
    expect(alphaAt(round, 128 - 10, 96)).toBeCloseTo(0.2, 1);
    expect(alphaAt(round, 128 + 17, 96 + 17)).toBe(0);
    const red = tipOf(64, 64, "colours", () => [200, 20, 30, 255]);
    const table = testWork();
    draw(table.work, brush(true, pictures([red])), at(128, 96));
    const [r = 0, g = 0, , a = 0] = pixel(table.engine, table.work, "a", 118, 96);
    expect(a / 32767).toBeCloseTo(0.2, 1);
    expect([r / a, g / a].map((v) => Math.round(v * 255))).toEqual([200, 20]);
  });
});

describe("a brush that pours", () => {
  const airbrush = plain({
    laying: { kind: "marks", every: 10 },
    tip: { kind: "round", hardness: 0 },
    flow: { base: 0.02 },
    size: 200,
  });
  it("goes on while the hand rests, to the closed form", () => {
    const { engine, work } = testWork();
    const rest: Sample[] = Array.from({ length: 101 }, (_, i) => [i * 10, 128, 96, 1, 1.5, 0, 0]);
    draw(work, airbrush, rest);
    const got = (pixel(engine, work, "a", 128, 96)[3] as number) / 32767;
    expect(got).toBeGreaterThan(1 - 0.98 ** 98);
    expect(got).toBeLessThan(1 - 0.98 ** 104);
  });

  it("leaves more where the hand is slow", () => {
    const at = (ms: number): number => {
      const { engine, work } = testWork();
      draw(work, airbrush, line([20, 96], [236, 96], { pressure: () => 1, ms }));
      return pixel(engine, work, "a", 128, 96)[3] as number;
    };
    expect(at(30)).toBeGreaterThan(at(6) * 1.8);
  });
});

describe("a line in colours", () => {
  it("covers what a plain line covers", () => {
    const path: Sample[] = Array.from({ length: 60 }, (_, i) => [
      i * 8,
      60 + i * 2,
      96 + 40 * Math.sin(i / 8),
      0.5,
      1.4,
      0,
      0,
    ]);
    const inLine = { laying: { kind: "line" } as const, size: 9 };
    const a = testWork();
    const b = testWork();
    draw(a.work, plain(inLine), path);
    draw(b.work, plain({ ...inLine, colour: { hue: { base: 0 } } }), path);
    expect(sum(alphas(b.engine, b.work)) / sum(alphas(a.engine, a.work))).toBeCloseTo(0.97, 1);
  });
});

describe("a tip stretched along the stroke", () => {
  const fade = tipOf(200, 20, "coverage", (x) => [0, 0, 0, Math.round((x / 199) * 255)]);
  it.each(["root", "end"] as const)("lies from the %s to the other end", (from) => {
    const { engine, work } = testWork();
    const brush = plain({ laying: { kind: "ribbon", from }, tip: pictures([fade]), size: 30 });
    draw(work, brush, line([28, 96], [228, 96], { steps: 40, pressure: () => 1 }));
    const alpha = (x: number): number => (pixel(engine, work, "a", x, 96)[3] as number) / 32767;
    for (const x of [58, 108, 158, 208]) {
      const u = (x + 0.5 - 28) / 200;
      expect(Math.abs(alpha(x) - (from === "root" ? u : 1 - u))).toBeLessThan(0.025);
    }
  });

  it("is seen to the pen while it is drawn, however long it has become", () => {
    const solid = tipOf(100, 20, "coverage", () => [0, 0, 0, 255]);
    const { engine, work } = testWork();
    const brush = plain({
      laying: { kind: "ribbon", from: "root" },
      tip: pictures([solid]),
      size: 3,
    });
    work.apply({ do: "brush.bring", brush });
    work.beginStroke({
      do: "stroke",
      layer: "a",
      brush: brush.id,
      size: 3,
      colour: "#000000",
      seed: 1,
    });
    // Rows from left to right and back, 5 px apart: some 7000 px of stroke.
    const samples = Array.from({ length: 34 * 20 }, (_, n): Sample => {
      const row = Math.floor(n / 20);
      const u = row % 2 === 0 ? (n % 20) / 19 : 1 - (n % 20) / 19;
      return [n * 8, 20 + 210 * u, 12 + row * 5, 1, 1.4, 0, 0];
    });
    work.extendStroke(samples.slice(0, 400));
    work.extendStroke(samples.slice(400));
    const middle = pixel(engine, work, "a", 125, 12 + 33 * 5)[3] as number;
    expect(middle).toBeGreaterThan(20000);
    work.abandonStroke();
    expect(pixel(engine, work, "a", 125, 12 + 33 * 5)[3]).toBe(0);
  });

  it("has no seams where its pieces meet", () => {
    const solid = tipOf(100, 20, "coverage", () => [0, 0, 0, 255]);
    const { engine, work } = testWork();
    const brush = plain({
      laying: { kind: "ribbon", from: "root" },
      tip: pictures([solid]),
      size: 30,
    });
    const curve: Sample[] = Array.from({ length: 60 }, (_, i) => [
      i * 8,
      40 + i * 3,
      96 + 40 * Math.sin(i / 9),
      0.5,
      1.4,
      0,
      0,
    ]);
    draw(work, brush, curve);
    for (let i = 4; i < 55; i++) {
      const [, x, y] = curve[i] as Sample;
      expect(pixel(engine, work, "a", Math.floor(x), Math.floor(y))[3]).toBeGreaterThan(32500);
    }
  });
});

/** Middle of a layer's paint. */
function centre(values: Float64Array, width: number): { x: number; y: number } {
  let x = 0;
  let y = 0;
  values.forEach((v, i) => {
    x += v * (i % width);
    y += v * Math.floor(i / width);
  });
  const total = sum(values);
  return { x: x / total, y: y / total };
}

describe("hair", () => {
  const fur = findBrush("fur-short") as Brush;
  it("lies as the pen leans", () => {
    const lean = (azimuth: number) => {
      const { engine, work } = testWork();
      draw(work, fur, line([90, 96], [166, 96], { azimuth, altitude: 0.6 }));
      return centre(alphas(engine, work), 256);
    };
    // Hairs point away from where the pen's end leans to.
    expect(lean(Math.PI / 2).y).toBeLessThan(92);
    expect(lean(-Math.PI / 2).y).toBeGreaterThan(100);
    expect(lean(Math.PI).x - lean(0).x).toBeGreaterThan(8);
  });

  it("in Blend carries the colour of its roots to its ends, and nothing where nothing was", () => {
    const { engine, work } = testWork();
    const block = plain({ size: 60 });
    draw(work, block, line([40, 150], [220, 150], { pressure: () => 1 }), { colour: "#00ff00" });
    const before = pixel(engine, work, "a", 128, 112);
    expect(before).toEqual([0, 0, 0, 0]);
    const upward = line([60, 126], [200, 126], {
      azimuth: Math.PI / 2,
      altitude: 0.5,
      pressure: () => 1,
    });
    draw(work, findBrush("fur-blender") as Brush, upward, { mode: "blend", colour: "#ff00ff" });
    let grown = 0;
    for (let x = 70; x < 190; x++) {
      const [r = 0, g = 0, b = 0, a = 0] = pixel(engine, work, "a", x, 112);
      if (a < 3000) continue;
      grown++;
      expect(g / a).toBeGreaterThan(0.9);
      expect((r + b) / a).toBeLessThan(0.1);
    }
    expect(grown).toBeGreaterThan(10);
  });

  it("in strands opens with speed", () => {
    const spread = (ms: number): number => {
      const { engine, work } = testWork();
      draw(work, findBrush("hair-loose") as Brush, line([10, 96], [246, 96], { steps: 40, ms }));
      const mask = alphas(engine, work);
      const rows = Array.from({ length: 192 }, (_, y) =>
        Math.max(...mask.subarray(y * 256 + 110, y * 256 + 150)),
      );
      return rows.filter((v) => v > 0.1).length;
    };
    expect(spread(3)).toBeGreaterThan(spread(40) * 1.3);
  });
});

it("a strand is of one tone around a bend: its pieces leave no gap and no doubled lap", () => {
  const { engine, work } = testWork();
  const brush = plain({
    laying: {
      kind: "strands",
      strands: 1,
      width: 1,
      opens: 0,
      wave: 0,
      waves: 0,
      clump: 0,
      breaks: 0,
    },
    size: 40,
    flow: { base: 0.5 },
    colour: { hue: { base: 0 } },
  });
  const ring: Sample[] = Array.from({ length: 46 }, (_, i) => [
    i * 8,
    128 + 60 * Math.cos(i / 8),
    96 + 60 * Math.sin(i / 8),
    1,
    1.5,
    0,
    0,
  ]);
  draw(work, brush, ring);
  const mask = alphas(engine, work);
  // Away from its ends and edges the band is of one tone: gaps and doubled laps would show.
  let least = 1;
  let most = 0;
  let looked = 0;
  for (let y = 0; y < 192; y++)
    for (let x = 0; x < 256; x++) {
      const turn = Math.atan2(y - 96, x - 128);
      const off = Math.hypot(x - 128, y - 96) - 60;
      if (turn < 0.5 || turn > 3 || Math.abs(off) > 7) continue;
      const own = mask[y * 256 + x] as number;
      least = Math.min(least, own);
      most = Math.max(most, own);
      looked++;
    }
  expect(looked).toBeGreaterThan(2000);
  expect(least).toBeGreaterThan(0.1);
  expect(most - least).toBeLessThan(0.02);
});

describe("the Weaver", () => {
  const weaver = findBrush("weaver") as Brush;
  /** Paint between the new line (y 100) and where an old one may lie (y 70). */
  const between = (near: boolean): number => {
    const { engine, work } = testWork();
    const old = near ? 70 : 186;
    draw(work, plain({ size: 4 }), line([30, old], [226, old], { pressure: () => 1 }));
    draw(work, weaver, line([30, 100], [226, 100], { steps: 40 }));
    const mask = alphas(engine, work);
    return sum(mask.subarray(76 * 256, 94 * 256));
  };
  it("ties itself to marks that were there before, if they are near", () => {
    expect(between(true)).toBeGreaterThan(15);
    expect(between(false)).toBeLessThan(1);
  });
});

describe("Blend that takes from below", () => {
  const ground = (work: Work): void => {
    draw(work, plain({ size: 120 }), line([10, 96], [246, 96], { pressure: () => 1 }), {
      colour: "#0000ff",
    });
    work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  };
  const blend = (takes: "layer" | "below") => {
    const made = testWork();
    ground(made.work);
    const below = fingerprint(made.engine, made.work)
      .split("\n")
      .filter((row) => row.startsWith("a "));
    made.work.apply({
      do: "stroke",
      layer: "b",
      brush: "round-firm",
      mode: "blend",
      size: 30,
      takes,
      samples: line([128, 60], [128, 20], { pressure: () => 1 }),
    });
    return { ...made, below };
  };

  it("leaves its result on the working layer, and the layer below as it was", () => {
    const { engine, work, below } = blend("below");
    const [r = 0, , b = 0, a = 0] = pixel(engine, work, "b", 128, 32);
    expect(a).toBeGreaterThan(8000);
    expect(b / a).toBeGreaterThan(0.95);
    expect(r / a).toBeLessThan(0.05);
    expect(
      fingerprint(engine, work)
        .split("\n")
        .filter((row) => row.startsWith("a ")),
    ).toEqual(below);
  });

  it("from an empty layer alone takes nothing", () => {
    const { engine, work } = blend("layer");
    expect(pixel(engine, work, "b", 128, 32)).toEqual([0, 0, 0, 0]);
  });
});

describe("brushes of a picture", () => {
  it("are brought without a step of their own: undo and redo take them along", () => {
    const { engine, work } = testWork();
    const empty = fingerprint(engine, work);
    draw(work, plain(), at(100, 100));
    const drawn = fingerprint(engine, work);
    expect(work.history.undoLabel).toBe("paint");
    expect(work.undo()).toBe("paint");
    expect(fingerprint(engine, work)).toBe(empty);
    expect(work.picture.structure.brushes).toEqual({});
    expect(work.history.undoLabel).toBe(
      "layer.add".replace(".", " ").split(" ").reverse().join(" "),
    );
    expect(work.redo()).toBe("paint");
    expect(fingerprint(engine, work)).toBe(drawn);
    expect(Object.keys(work.picture.structure.brushes)).toEqual(["test"]);
    expect(work.place).toBe(3);
  });

  it("that are unknown are refused by name", () => {
    const { work } = testWork();
    const command = { do: "stroke", layer: "a", brush: "nobody", size: 4, samples: at(5, 5) };
    expect(() => work.apply(command)).toThrow(/no brush "nobody"/);
  });
});

describe("every brush that ships", () => {
  const engine = testEngine();
  const path: Sample[] = Array.from({ length: 24 }, (_, i) => [
    i * 9,
    40 + i * 6.6,
    96 + 34 * Math.sin(i / 6),
    0.15 + 0.8 * Math.sin((i / 23) * Math.PI),
    0.5 + i / 40,
    i / 12,
    0,
  ]);
  it.each(brushes.map(({ id }) => id))("%s: pixels do not depend on how samples came", (id) => {
    for (const mode of ["paint", "blend"] as const) {
      const prints = [1, 100].map((batch) => {
        const work = engine.open(testHeader());
        work.apply({ do: "layer.add", id: "a", name: "A", above: null });
        work.apply({
          do: "stroke",
          layer: "a",
          brush: "round-firm",
          size: 60,
          colour: "#3060c0",
          samples: line([20, 90], [240, 110], { pressure: () => 1 }),
        });
        const size = Math.min(40, findBrush(id)?.size ?? 10);
        work.beginStroke({
          do: "stroke",
          layer: "a",
          brush: id,
          mode,
          size,
          colour: "#a04020",
          seed: 11,
        });
        for (let i = 0; i < path.length; i += batch) work.extendStroke(path.slice(i, i + batch));
        work.endStroke();
        const print = fingerprint(engine, work);
        work.release();
        return print;
      });
      expect([mode, prints[1]]).toEqual([mode, prints[0]]);
    }
  });
});
