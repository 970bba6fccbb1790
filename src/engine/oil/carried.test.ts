import { hexToRgb } from "../colour/oklch";
import { line, stroke, testEngine, testHeader, testWork } from "../engine.testing";
import { findBrush } from "../media";
import { colourOf, paintOf } from "../pigment/pigment";
import { rgbToOklch } from "../colour/oklch";
import { type Bristles } from "./bristles";
import { plant } from "./bundle";
import { type Carried, carriedSchema, dipped, loadOf, rinsed, STRIPS, wiped } from "./carried";
import { carriedInTuft, carriedOnBlade, loadBlade, loadTuft } from "./loading";
import { paintAt, thickness, volume } from "./oil.testing";

const blue = paintOf(hexToRgb("#2a4fc0"));
const yellow = paintOf(hexToRgb("#f2d024"));
/** One side blue, the other yellow. */
const stripes: Carried = Array.from({ length: STRIPS }, (_, i) =>
  i < STRIPS / 2 ? [0.9, ...blue] : [0.4, ...yellow],
);
const board = { width: 640, height: 256, ppi: 200, paper: { kind: "board", scale: 1 } } as const;
const even = { pressure: () => 0.6, altitude: 1.57, steps: 60 };

/** A full load of a brush, px³. */
function fullLoad(brush: string, size: number): number {
  const laying = findBrush(brush)?.laying;
  if (laying?.kind === "bristles") return size * size * laying.run * 0.8;
  if (laying?.kind === "knife") return size * size * laying.run * 1.2;
  throw new Error(`${brush} is no brush for oil`);
}

/** A picture whose newest live stroke's brush is known. */
function sheet() {
  let left: Carried = [];
  const engine = testEngine();
  const work = engine.open(testHeader(board), {
    carried: (_, carried) => {
      left = carried;
    },
  });
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  /** Paints as a pen does. Returns what is left on the brush. */
  const paint = (changes: object): Carried => {
    work.beginStroke({
      ...{ do: "stroke", layer: "a", brush: "oil-round", size: 60, seed: 5 },
      ...changes,
    });
    work.extendStroke(line([60, 128], [360, 128], even));
    work.endStroke();
    return left;
  };
  return { engine, work, paint };
}

it.each(["oil-round", "oil-flat", "oil-fan", "oil-rigger", "oil-house"])(
  "%s takes up all that it is loaded with, strip by strip, and gives it back",
  (id) => {
    const style = findBrush(id)?.laying as Bristles;
    for (const width of [6, 40, 300]) {
      const bundle = plant(style, width, 0, blue, 9);
      loadTuft(bundle, style, width, stripes);
      const back = carriedInTuft(bundle, style, width);
      expect(loadOf(back) / loadOf(stripes)).toBeCloseTo(1, 4);
      const blueness = (carried: Carried): number =>
        carried.reduce((sum, [amount = 0, first = 0]) => sum + amount * first, 0);
      expect(blueness(back) / blueness(stripes)).toBeCloseTo(1, 4);
    }
  },
);

it("a blade takes up all that it is loaded with, and gives it back", () => {
  const cells = new Float32Array(50 * 32);
  loadBlade(cells, 30, stripes);
  carriedOnBlade(cells, 30).forEach((strip, i) =>
    strip.forEach((number, j) => expect(number).toBeCloseTo(stripes[i]?.[j] ?? 0, 4)),
  );
});

it.each(["oil-round", "oil-flat", "knife-flat"])(
  "what a stroke of %s lays is gone from it, and nothing else is",
  (brush) => {
    const wet = sheet();
    const rest = wet.paint({ brush, carried: stripes });
    const laid = volume(wet, 0, 0, 640, 256);
    const gone = (loadOf(stripes) - loadOf(rest)) * fullLoad(brush, 60);
    expect(laid).toBeGreaterThan(1500);
    expect(Math.abs(laid / gone - 1)).toBeLessThan(0.005);
  },
);

it("goes on from stroke to stroke until it is empty", () => {
  const wet = sheet();
  const loads = [loadOf(stripes)];
  let carried: Carried = stripes;
  for (let i = 0; i < 4; i++) {
    carried = wet.paint({ carried });
    wet.work.apply({ do: "paint.dry", layers: ["a"] });
    loads.push(loadOf(carried));
  }
  loads.slice(1).forEach((load, i) => expect(load).toBeLessThan((loads[i] ?? 0) * 0.97));
});

it("a flat paints its stripes beside each other", () => {
  const wet = testWork(board);
  const carried = stripes.map((one) => [...one]);
  wet.work.apply(
    stroke(line([60, 128], [200, 128], even), { brush: "oil-flat", size: 100, carried }),
  );
  const hues = [98, 158].map((y) => paintAt(wet, 150, y).h).sort((a, b) => a - b);
  expect(Math.abs((hues[0] ?? 0) - rgbToOklch(hexToRgb("#f2d024")).h)).toBeLessThan(8);
  expect(Math.abs((hues[1] ?? 0) - rgbToOklch(hexToRgb("#2a4fc0")).h)).toBeLessThan(8);
});

it("a clean brush goes through wet paint and comes away dirty", () => {
  const wet = sheet();
  wet.paint({ brush: "oil-house", size: 120, colour: "#f2d024" });
  const before = volume(wet, 0, 0, 640, 256);
  const dirt = wet.paint({ carried: rinsed() });
  const taken = before - volume(wet, 0, 0, 640, 256);
  expect(taken / (loadOf(dirt) * fullLoad("oil-round", 60))).toBeCloseTo(1, 1);
  const [, ...paint] = dirt[5] ?? [];
  const { h } = rgbToOklch(colourOf(paint));
  expect(Math.abs(h - rgbToOklch(hexToRgb("#f2d024")).h)).toBeLessThan(6);
});

it("dipping over what was there stains the load; a rag takes most of it; rinsing all", () => {
  const dirty = dipped(wiped(dipped(rinsed(), blue, 1)), yellow, 1);
  expect(loadOf(dirty)).toBeCloseTo(1, 4);
  const [, ...paint] = dirty[0] ?? [];
  const { h } = rgbToOklch(colourOf(paint));
  expect(h).toBeGreaterThan(110);
  expect(h).toBeLessThan(175);
  expect(loadOf(wiped(dirty))).toBeCloseTo(0.2, 4);
  expect(loadOf(rinsed())).toBe(0);
  // A brush that holds more already takes nothing up.
  expect(dipped(dirty, blue, 0.5)).toEqual(dirty);
});

it("a brush that was rinsed lays nothing on a dry sheet", () => {
  const wet = testWork(board);
  wet.work.apply(
    stroke(line([60, 128], [300, 128], even), {
      brush: "oil-round",
      size: 50,
      carried: [...rinsed().map((one) => [...one])],
    }),
  );
  expect(thickness(wet, 200, 128)).toBe(0);
});

it.each([
  ["too few strips", stripes.slice(1), /12 strips/],
  ["a load below nothing", [[-1, ...blue], ...stripes.slice(1)], /0/],
  ["a paint that is no number", [[1, NaN, 0, 0, 0, 0, 0, 0], ...stripes.slice(1)], /nan|number/i],
  ["a strip without a band", [[1, 0, 0], ...stripes.slice(1)], /./],
])("refuses %s", (_, carried, why) => {
  const parsed = carriedSchema.safeParse(carried);
  expect(parsed.success).toBe(false);
  expect(parsed.error?.message).toMatch(why);
  const { work } = testWork(board);
  const data = { ...stroke(line([60, 128], [300, 128])), brush: "oil-round", carried };
  expect(() => work.apply(data)).toThrow(/carried/);
});
