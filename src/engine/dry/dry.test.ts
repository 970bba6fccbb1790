import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import {
  alphaAt,
  alphas,
  fingerprint,
  line,
  stroke,
  testEngine,
  testHeader,
} from "../engine.testing";
import { findBrush } from "../media";
import { type PaperKind } from "../paper/bands";
import { heightAt, paperMap } from "../paper/paper";
import { POWDER } from "../picture/picture";
import { type Brush } from "../stroke/brush";
import { type Rub, wear } from "../stroke/laying/contact";
import { Marks } from "../stroke/marks";
import { type Sample } from "../stroke/sample";
import { CONTACT_BYTES, pixelOffset, tileKey } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { PLAIN_RUB, powderOf } from "./dry.testing";
import { contactSchema } from "./material";
import { graphite } from "./materials";

const engine = testEngine();
const UPRIGHT = Math.PI / 2;
const WIDTH = 256;

function sheet(
  kind: PaperKind = "cold-pressed",
  changes: Parameters<typeof testHeader>[0] = {},
): Work {
  const work = engine.open(testHeader({ paper: { kind, scale: 1 }, ...changes }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return work;
}

type Hatching = {
  brush: string;
  size: number;
  pressure: number;
  seed?: number;
  mode?: "paint" | "lift" | "blend";
};

/** One pass of hatching over the sheet: upright, six tenths of the tip's width apart. */
function hatch(work: Work, { brush, size, pressure, seed = 1, mode = "paint" }: Hatching): void {
  for (let y = 20; y < 172; y += size * 0.6)
    work.apply(
      stroke(line([16, y], [240, y], { pressure: () => pressure, altitude: UPRIGHT }), {
        brush,
        size,
        seed: seed + Math.round(y),
        mode,
      }),
    );
}

/** What lies on the middle of a sheet, by the height of the paper there. */
function looked(work: Work, kind: PaperKind = "cold-pressed") {
  const map = paperMap({ kind, scale: 1 });
  const all = alphas(engine, work);
  const values: number[] = [];
  const peaks: number[] = [];
  const valleys: number[] = [];
  for (let y = 48; y < 144; y++)
    for (let x = 48; x < 208; x++) {
      const v = all[y * WIDTH + x] as number;
      const h = heightAt(map, x, y);
      values.push(v);
      if (h > 0.75) peaks.push(v);
      if (h < 0.25) valleys.push(v);
    }
  return { values, mean: mean(values), peaks: mean(peaks), valleys: mean(valleys) };
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, v) => sum + v, 0) / values.length;

/** Share of the pixels in the middle seven tenths of their own range: 0.71 where all greys are as common. */
function middleGreys(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const low = sorted[Math.floor(sorted.length * 0.01)] as number;
  const high = sorted[Math.floor(sorted.length * 0.99)] as number;
  const edge = 0.15 * (high - low);
  return values.filter((v) => v > low + edge && v < high - edge).length / values.length;
}

function hatched(hatching: Hatching, kind: PaperKind = "cold-pressed") {
  const work = sheet(kind);
  hatch(work, hatching);
  const seen = looked(work, kind);
  work.release();
  return seen;
}

const massOf = (work: Work): ReturnType<typeof powderOf> => powderOf(engine, work);

const graphites = [
  ["pencil-2h", 5],
  ["pencil-hb", 5],
  ["pencil-6b", 11],
] as const;
const dry = [
  ...graphites,
  ["charcoal-vine", 22],
  ["charcoal-stick", 24],
  ["chalk", 20],
  ["pastel-soft", 30],
  ["crayon-wax", 18],
] as const;

describe("darkness", () => {
  // Mean alpha of one hatched pass, measured on the method's own drawings; a fifth either way.
  it.each([
    ["pencil-2h", 5, [0.04, 0.1, 0.2, 0.33]],
    ["pencil-hb", 5, [0.09, 0.21, 0.38, 0.56]],
    ["pencil-6b", 11, [0.21, 0.44, 0.68, 0.85]],
    ["charcoal-vine", 22, [0.11, 0.25, 0.41, 0.57]],
    ["charcoal-stick", 24, [0.27, 0.54, 0.77, 0.92]],
    ["crayon-wax", 18, [0.14, 0.27, 0.4, 0.54]],
  ] as const)("%s grows with the press as its material does", (brush, size, wanted) => {
    [0.1, 0.25, 0.5, 0.9].forEach((pressure, i) => {
      const got = hatched({ brush, size, pressure }).mean;
      expect(Math.abs(got - (wanted[i] as number))).toBeLessThan(
        0.2 * (wanted[i] as number) + 0.02,
      );
    });
  });

  it("is the darker the softer the lead", () => {
    const means = [
      "pencil-6h",
      "pencil-2h",
      "pencil-hb",
      "pencil-2b",
      "pencil-4b",
      "pencil-9b",
    ].map((brush) => hatched({ brush, size: 8, pressure: 0.4 }).mean);
    means.slice(1).forEach((v, i) => expect(v).toBeGreaterThan((means[i] as number) * 1.05));
  });

  it("is the same whether passes are one stroke or several", () => {
    const places = [40, 80, 120, 160];
    const path = (y: number) => line([16, y], [240, y], { pressure: () => 0.4, altitude: UPRIGHT });
    const back = (y: number) => line([240, y], [16, y], { pressure: () => 0.4, altitude: UPRIGHT });
    const along = (work: Work): number => {
      const rows = alphas(engine, work);
      return mean(places.flatMap((y) => [...rows.subarray(y * WIDTH + 60, y * WIDTH + 200)]));
    };
    const several = sheet();
    const one = sheet();
    for (const y of places) {
      for (let pass = 0; pass < 4; pass++)
        several.apply(
          stroke(pass % 2 ? back(y) : path(y), { brush: "charcoal-vine", size: 22, seed: 9 }),
        );
      const passes = [path(y), back(y), path(y), back(y)].flat();
      const samples = passes.map(([, ...rest], i): Sample => [i * 8, ...rest]);
      one.apply(stroke(samples, { brush: "charcoal-vine", size: 22, seed: 9 }));
    }
    expect(along(one) / along(several)).toBeGreaterThan(0.97);
    expect(along(one) / along(several)).toBeLessThan(1.03);
    several.release();
    one.release();
  });
});

describe("the tooth", () => {
  it.each(dry)("%s takes the peaks first, and valleys as it is pressed", (brush, size) => {
    const light = hatched({ brush, size, pressure: 0.1 });
    const heavy = hatched({ brush, size, pressure: 0.9 });
    expect(light.peaks / light.valleys).toBeGreaterThan(2.3);
    expect(heavy.peaks / heavy.valleys).toBeLessThan(0.62 * (light.peaks / light.valleys));
  });

  it.each(dry)("%s is more even on smooth board", (brush, size) => {
    const rough = hatched({ brush, size, pressure: 0.3 });
    const smooth = hatched({ brush, size, pressure: 0.3 }, "board");
    expect(smooth.peaks / smooth.valleys).toBeLessThan(2);
    expect(smooth.peaks / smooth.valleys).toBeLessThan(0.7 * (rough.peaks / rough.valleys));
  });

  it.each([
    ["pencil-hb", 5, 0.6],
    ["pencil-6b", 11, 0.5],
    ["charcoal-vine", 22, 0.5],
    ["charcoal-stick", 24, 0.5],
    ["chalk", 20, 0.4],
  ] as const)("%s keeps its middle greys", (brush, size, least) => {
    for (const pressure of [0.25, 0.4])
      expect(middleGreys(hatched({ brush, size, pressure }).values)).toBeGreaterThan(least);
  });

  it("fills stroke by stroke: a second pass finds the valleys higher", () => {
    const work = sheet();
    hatch(work, { brush: "pencil-6b", size: 11, pressure: 0.5 });
    const first = looked(work);
    hatch(work, { brush: "pencil-6b", size: 11, pressure: 0.5, seed: 400 });
    const second = looked(work);
    expect(second.valleys / second.peaks).toBeGreaterThan(1.2 * (first.valleys / first.peaks));
    work.release();
  });

  it("looks alike at print size, whatever the resolution", () => {
    const at = (by: number): number => {
      const work = engine.open(
        testHeader({
          ppi: 300 * by,
          width: 256 * by,
          height: 128 * by,
          paper: { kind: "cold-pressed", scale: by },
        }),
      );
      work.apply({ do: "layer.add", id: "a", name: "A", above: null });
      const size = 22 * by;
      for (let y = 16 * by; y < 112 * by; y += size * 0.6) {
        const samples = line([10 * by, y], [246 * by, y], {
          pressure: () => 0.4,
          altitude: UPRIGHT,
        });
        work.apply(stroke(samples, { brush: "charcoal-vine", size, scale: by }));
      }
      let total = 0;
      for (let y = 40 * by; y < 88 * by; y++)
        for (let x = 60 * by; x < 196 * by; x++) total += alphaAt(engine, work, "a", x, y);
      work.release();
      return total / (48 * 136 * by * by);
    };
    const natural = at(1);
    expect(at(0.5) / natural).toBeGreaterThan(0.9);
    expect(at(0.5) / natural).toBeLessThan(1.1);
    expect(at(2) / natural).toBeGreaterThan(0.9);
    expect(at(2) / natural).toBeLessThan(1.1);
  });
});

describe("powder", () => {
  it("keeps its mass when it is smudged, and loses its grain", () => {
    const work = sheet();
    hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.5 });
    const before = massOf(work);
    const rough = looked(work);
    // One long scrubbing: a stump is wiped between strokes.
    const scrubbing = Array.from({ length: 16 }, (_, i) =>
      line([i % 2 ? 230 : 26, 30 + i * 9], [i % 2 ? 26 : 230, 34 + i * 9], {
        pressure: () => 0.7,
        altitude: UPRIGHT,
      }),
    ).flat();
    const samples = scrubbing.map(([, ...rest], i): Sample => [i * 8, ...rest]);
    work.apply(stroke(samples, { brush: "stump", size: 40 }));
    const after = massOf(work);
    const smooth = looked(work);
    expect(after.mass / before.mass).toBeGreaterThan(0.95);
    expect(after.mass / before.mass).toBeLessThan(1.001);
    const variation = ({ values, mean: m }: typeof rough): number =>
      Math.sqrt(mean(values.map((v) => (v - m) ** 2))) / m;
    expect(variation(smooth)).toBeLessThan(0.5 * variation(rough));
    work.release();
  });

  it("carries its colour along, and none that was not there", () => {
    const work = sheet();
    const lay = (x: number, colour: string): void => {
      for (let y = 60; y < 132; y += 14)
        work.apply(
          stroke(line([x, y], [x + 90, y], { altitude: UPRIGHT }), {
            brush: "pastel-soft",
            size: 30,
            colour,
          }),
        );
    };
    lay(30, "#c03020");
    lay(150, "#2040c0");
    work.apply(
      stroke(line([60, 96], [230, 96], { altitude: UPRIGHT }), { brush: "fingertip", size: 40 }),
    );
    const { store } = engine;
    const at = (x: number, y: number): number[] => {
      const tile = work.picture.plane("a").get(tileKey(x >> 6, y >> 6));
      if (!tile) return [0, 0, 0, 0];
      const address = store.address(tile);
      const [r = 0, g = 0, b = 0, a = 0] = [0, 1, 2, 3].map(
        (c) => store.heap.u16[(address + pixelOffset(x & 63, y & 63, c)) >> 1] as number,
      );
      return [r / a, g / a, b / a];
    };
    const [r = 0, , b = 0] = at(170, 96);
    // Between the two: redder than the blue, bluer than the red.
    expect(r).toBeGreaterThan(0.14);
    expect(b).toBeGreaterThan(0.2);
    expect(Math.max(r, b)).toBeLessThan(0.8);
    work.release();
  });

  it("is lifted from the peaks first by a kneaded eraser, the loose before the bound", () => {
    const work = sheet();
    hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.6 });
    const before = { ...looked(work), ...massOf(work) };
    hatch(work, { brush: "eraser-kneaded", size: 36, pressure: 0.35 });
    const after = { ...looked(work), ...massOf(work) };
    const peaks = 1 - after.peaks / before.peaks;
    const valleys = 1 - after.valleys / before.valleys;
    expect(peaks).toBeGreaterThan(0.25);
    expect(valleys).toBeLessThan(0.45 * peaks);
    expect(after.loose / before.loose).toBeLessThan(0.9 * (after.mass / before.mass) + 0.05);
    work.release();
  });

  it("goes wholly under a vinyl eraser that is pressed, and by Lift with a brush", () => {
    for (const brush of ["eraser-vinyl", "round-soft"]) {
      const work = sheet();
      hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.4 });
      const before = massOf(work).mass;
      for (let i = 0; i < 2; i++) hatch(work, { brush, size: 40, pressure: 0.9, mode: "lift" });
      expect(massOf(work).mass).toBeLessThan(0.2 * before);
      expect(looked(work).mean).toBeLessThan(0.1);
      work.release();
    }
  });

  it("is held off by wax that lies there", () => {
    const bare = hatched({ brush: "charcoal-vine", size: 22, pressure: 0.5 });
    const work = sheet();
    for (let i = 0; i < 3; i++)
      hatch(work, { brush: "crayon-wax", size: 18, pressure: 0.9, seed: i * 50 });
    const { mass } = massOf(work);
    hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.5 });
    const more = massOf(work).mass - mass;
    const alone = sheet();
    hatch(alone, { brush: "charcoal-vine", size: 22, pressure: 0.5 });
    expect(more / massOf(alone).mass).toBeLessThan(0.35);
    expect(bare.mean).toBeGreaterThan(0.3);
    work.release();
    alone.release();
  });
});

describe("fixative", () => {
  const charcoal = (work: Work): void =>
    hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.5 });

  it("binds what lies loose, coat by coat, and changes nothing that is seen", () => {
    const work = sheet();
    charcoal(work);
    const [before, seen] = [massOf(work), looked(work).mean];
    work.apply({ do: "powder.fix", layers: ["a"], share: 0.7 });
    const once = massOf(work);
    expect(once.loose / before.loose).toBeCloseTo(0.3, 2);
    expect(once.mass).toBeCloseTo(before.mass, 5);
    expect(looked(work).mean).toBe(seen);
    work.apply({ do: "powder.fix", layers: ["a"] });
    expect(massOf(work).loose / before.loose).toBeCloseTo(0.09, 2);
    work.undo();
    expect(massOf(work).loose).toBeCloseTo(once.loose, 5);
    work.release();
  });

  it("holds powder under an eraser and under a finger", () => {
    const left = (brush: string, fixed: boolean): { mass: number; valleys: number } => {
      const work = sheet();
      charcoal(work);
      if (fixed) work.apply({ do: "powder.fix", layers: ["a"], share: 1 });
      const { mass } = massOf(work);
      hatch(work, { brush, size: 36, pressure: 0.5 });
      const after = { mass: massOf(work).mass / mass, valleys: looked(work).valleys };
      work.release();
      return after;
    };
    const [loose, bound] = [left("eraser-kneaded", false), left("eraser-kneaded", true)];
    expect(1 - bound.mass).toBeLessThan(0.6 * (1 - loose.mass));
    // A finger fills the valleys with what it takes up.
    expect(left("fingertip", true).valleys).toBeLessThan(left("fingertip", false).valleys - 0.03);
  });

  it("stays inside what is selected, and is refused where no powder lies", () => {
    const work = sheet();
    expect(() => work.apply({ do: "powder.fix", layers: ["a"] })).toThrow("No powder lies there");
    charcoal(work);
    const { loose } = massOf(work);
    const box = { left: 0, top: 0, right: 128, bottom: 192 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply({ do: "powder.fix", layers: ["a"], share: 1 });
    expect(massOf(work).loose / loose).toBeGreaterThan(0.4);
    expect(massOf(work).loose / loose).toBeLessThan(0.6);
    work.release();
  });
});

describe("an edge that wears", () => {
  const LONG = 900;

  /** Mean width of a line in thirds of its length, px of alpha down each column. */
  function widths(samples: Sample[], changes: Partial<Brush> = {}): number[] {
    const work = engine.open(testHeader({ width: LONG, height: 96 }));
    work.apply({ do: "layer.add", id: "a", name: "A", above: null });
    const first = findBrush("pencil-6b");
    if (!first) throw new Error("there is no such brush");
    const own = { ...first, ...changes, id: "own" };
    work.apply({ do: "brush.bring", brush: own });
    work.apply(stroke(samples, { brush: "own", size: 14, seed: 5 }));
    const all = alphas(engine, work);
    work.release();
    return [0, 1, 2].map((third) => {
      let total = 0;
      for (let x = 30 + third * 280; x < 30 + (third + 1) * 280; x++)
        for (let y = 0; y < 96; y++) total += (all[y * LONG + x] as number) > 0.02 ? 1 : 0;
      return total / 280;
    });
  }
  const ruled = (twist: (u: number) => number): Sample[] =>
    line([20, 48], [LONG - 20, 48], {
      pressure: () => 0.6,
      altitude: UPRIGHT,
      steps: 90,
    }).map((sample, i): Sample => [...(sample.slice(0, 6) as number[]), twist(i / 90)] as Sample);

  it("draws broader the farther it goes, until the barrel is turned", () => {
    const [first = 0, , last = 0] = widths(ruled(() => 0));
    expect(last).toBeGreaterThan(1.12 * first);
    const turned = widths(ruled((u) => (u < 0.62 ? 0 : 2)));
    expect(turned[2]).toBeLessThan(0.93 * last);
    expect(turned[0]).toBeCloseTo(first, 5);
  });

  it("wears as the distance and the pressure say, and freshens as it is turned", () => {
    const once = wear({ drawn: 100, turn: 0 }, 40, 0.5, 0);
    expect(once).toEqual({ drawn: 120, turn: 0 });
    expect(wear(once, 0, 1, 1).drawn).toBeCloseTo(30, 9);
    // The shorter way round.
    expect(wear({ drawn: 80, turn: 0.1 }, 0, 1, 2 * Math.PI - 0.1).drawn).toBeCloseTo(50, 6);
  });
});

describe("a material that is driven", () => {
  it("may be written as a number, which is its base", () => {
    const { gives, face } = contactSchema.parse(graphite(0.5));
    expect(gives.drives).toEqual([]);
    expect(contactSchema.parse({ ...graphite(0.5), gives, face })).toEqual(
      contactSchema.parse(graphite(0.5)),
    );
    expect(() => contactSchema.parse({ ...graphite(0.5), gives: 9 })).toThrow();
  });

  it.each([
    ["gives", "paint"],
    ["pulls", "lift"],
  ] as const)("%s fades where its driver fades", (name, mode) => {
    const work = sheet();
    if (mode === "lift") hatch(work, { brush: "charcoal-vine", size: 22, pressure: 0.6 });
    const first = findBrush("pencil-6b");
    if (first?.laying.kind !== "contact") throw new Error("there is no such brush");
    const drives = [
      {
        by: "distance",
        curve: [
          [0, 1],
          [1, 0],
        ],
        over: 6,
        how: "multiply",
      },
    ];
    const laying = { ...first.laying, wears: 0, [name]: { base: 2, drives } };
    work.apply({
      do: "brush.bring",
      brush: { ...first, id: "own", laying },
    } as CommandInput);
    const before = alphas(engine, work);
    const samples = line([20, 96], [236, 96], { pressure: () => 0.8, altitude: UPRIGHT });
    work.apply(stroke(samples, { brush: "own", size: 30, mode }));
    const after = alphas(engine, work);
    const changed = (from: number, to: number): number => {
      let total = 0;
      for (let y = 84; y < 108; y++)
        for (let x = from; x < to; x++)
          total += Math.abs((after[y * WIDTH + x] as number) - (before[y * WIDTH + x] as number));
      return total / (to - from) / 24;
    };
    expect(changed(30, 70)).toBeGreaterThan(0.15);
    // What is least of it is still a little.
    expect(changed(212, 232)).toBeLessThan(0.25 * changed(30, 70));
    work.release();
  });
});

describe("as with paint", () => {
  const wave = (y: number): CommandInput =>
    stroke(line([20, y], [236, y + 20], { pressure: (u) => 0.2 + 0.7 * u }), {
      brush: "charcoal-stick",
      size: 26,
    });

  it("undo and redo bring powder back with colour", () => {
    const work = sheet();
    work.apply(wave(40));
    const first = fingerprint(engine, work);
    work.apply(wave(60));
    const second = fingerprint(engine, work);
    work.undo();
    expect(fingerprint(engine, work)).toBe(first);
    work.redo();
    expect(fingerprint(engine, work)).toBe(second);
    work.release();
  });

  it.each(["charcoal-stick", "pencil-2b", "weaver", "stump", "eraser-kneaded", "pastel-oil"])(
    "a stroke of %s that is drawn sample by sample is the one that is replayed",
    (brush) => {
      const samples = line([20, 120], [230, 60], { pressure: (u) => 0.2 + 0.7 * u, steps: 40 });
      const begin = {
        do: "stroke" as const,
        layer: "a",
        brush,
        size: 24,
        colour: "#000000",
        seed: 3,
      };
      const replayed = sheet();
      replayed.apply(wave(60));
      replayed.apply({ ...begin, samples });
      const drawn = sheet();
      drawn.apply(wave(60));
      drawn.beginStroke(begin);
      for (const sample of samples) drawn.extendStroke([sample]);
      drawn.endStroke();
      expect(fingerprint(engine, drawn)).toBe(fingerprint(engine, replayed));
      drawn.release();
      replayed.release();
    },
  );

  it("a weaver ties itself to paint that lies where it begins", () => {
    const work = sheet();
    work.apply(stroke(line([10, 30], [240, 160]), { brush: "round-soft", size: 90 }));
    const { mass } = massOf(work);
    work.apply(stroke(line([24, 60], [230, 130]), { brush: "weaver", size: 36 }));
    expect(massOf(work).mass).toBeGreaterThan(mass + 5);
    work.release();
  });

  it("a stroke that is given up leaves no powder", () => {
    const work = sheet();
    work.apply(wave(60));
    const before = fingerprint(engine, work);
    work.beginStroke({ do: "stroke", layer: "a", brush: "pastel-soft", size: 30 });
    work.extendStroke(line([20, 60], [200, 90]));
    work.abandonStroke();
    expect(fingerprint(engine, work)).toBe(before);
    work.release();
  });

  it("stays inside what is selected, its powder too", () => {
    const work = sheet();
    const box = { left: 64, top: 0, right: 128, bottom: 192 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply(wave(60));
    expect([...work.picture.plane("a", POWDER).keys()].every((key) => key % 256 === 1)).toBe(true);
    expect(massOf(work).mass).toBeGreaterThan(10);
    work.release();
  });

  it("keeps to what is painted where transparency is locked", () => {
    const work = sheet();
    work.apply(
      stroke(line([60, 96], [120, 96]), { brush: "pen-even", size: 40, colour: "#ffffff" }),
    );
    work.apply({ do: "layer.set", id: "a", lockTransparency: true });
    const before = alphas(engine, work);
    work.apply(
      stroke(line([20, 96], [236, 96]), { brush: "charcoal-stick", size: 26, colour: "#000000" }),
    );
    const after = alphas(engine, work);
    expect(after.every((v, i) => Math.abs(v - (before[i] as number)) < 1e-4)).toBe(true);
    work.release();
  });

  it("a tap leaves a dab", () => {
    const work = sheet();
    work.apply(stroke([[0, 100, 90, 0.7, UPRIGHT, 0, 0]], { brush: "charcoal-stick", size: 26 }));
    expect(massOf(work).mass).toBeGreaterThan(2);
    work.release();
  });
});

describe("a rub", () => {
  const { store, workforce } = engine;
  const paper = engine.bench.paper(sheet("board").picture);

  /** W1 over one tile, in radii, of rubs from place to place. */
  function contact(
    places: readonly (readonly [number, number])[],
    tip: Partial<Rub> = {},
  ): Float64Array {
    const marks = new Marks(store.heap, false, true);
    places.slice(1).forEach(([toX, toY], i) => {
      const [fromX, fromY] = places[i] as [number, number];
      marks.rub({ ...PLAIN_RUB, ...tip, fromX, fromY, toX, toY });
    });
    const plane = store.heap.allocate(CONTACT_BYTES);
    store.heap.u8.fill(0, plane, plane + CONTACT_BYTES);
    workforce.beginJob();
    workforce.write(
      TAPE.contact,
      plane,
      0,
      0,
      marks.address,
      marks.count,
      paper.address,
      paper.period,
    );
    workforce.endJob();
    workforce.run(false);
    const out = Float64Array.from({ length: 4096 }, (_, i) => {
      const [x, y] = [i & 63, i >> 6];
      return (
        (store.heap.u16[(plane + y * 256 + (x >> 3) * 32 + (x & 7) * 2) >> 1] as number) / 1024
      );
    });
    store.heap.free(plane, CONTACT_BYTES);
    marks.free();
    return out;
  }

  it("leaves what the tip's pressure comes to along the way: 4/3 p √(1 − d²)³ at the distance d", () => {
    const w = contact([
      [-20, 30.5],
      [90, 30.5],
    ]);
    for (const off of [0, 3, 6]) {
      const q = 1 - (off / 9) ** 2;
      expect(w[(30 + off) * 64 + 32]).toBeCloseTo((4 / 3) * 0.5 * q * Math.sqrt(q), 2);
    }
  });

  it("lies on to its rim where the tip is broad: even across, gone within the rim's px", () => {
    const rim = 3;
    const w = contact(
      [
        [-60, 30.5],
        [130, 30.5],
      ],
      { long: 26, short: 26, edge: 1, rim },
    );
    const at = (off: number) => w[(30 + off) * 64 + 32] as number;
    // Of (1 − n²)^1.5 all is taken back, but for what the rim adds to q: two rims of a radius.
    const own = (off: number) => {
      const q = 1 - (off / 26) ** 2;
      return (4 / 3) * 0.5 * (q / (q + (2 * rim) / 26)) ** 1.5;
    };
    for (const off of [0, 8, 14, 20, 24]) expect(at(off)).toBeCloseTo(own(off), 1);
    expect(at(14) / at(0)).toBeGreaterThan(0.85);
    expect(at(26)).toBeLessThan(0.1 * at(0));
  });

  it.each([
    [[-20, 30.5] as const, [90, 30.5] as const],
    [[-10, 4] as const, [75, 62] as const],
  ])("shows no mark of its steps", (from, to) => {
    const steps = (count: number) =>
      Array.from({ length: count + 1 }, (_, i): [number, number] => [
        from[0] + ((to[0] - from[0]) * i) / count,
        from[1] + ((to[1] - from[1]) * i) / count,
      ]);
    const whole = contact(steps(1), { long: 14, angle: 0.6 });
    for (const count of [7, 31]) {
      const pieces = contact(steps(count), { long: 14, angle: 0.6 });
      // Each piece is rounded by itself, to 1/2048 of a radius.
      whole.forEach((v, i) =>
        expect(Math.abs((pieces[i] as number) - v)).toBeLessThan(0.002 + 0.004 * v),
      );
    }
  });
});
