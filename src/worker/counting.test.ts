import { line, stroke, testEngine, testHeader, writeStraight } from "../engine/engine.testing";
import { Compositor } from "../engine/compose/compositor";
import { rgbToHex } from "../engine/colour/oklch";
import { TILE_BYTES } from "../engine/tiles/layout";
import { type Work } from "../engine/command/work";
import { stencilPicture } from "./stencil-picture";
import { eyePull } from "./crit";
import { coloursOfPixels, histogramOf, sampledColours } from "./counting";

const engine = testEngine();

/** A sheet whose left half is red and whose right half is blue, on one layer. */
function halves(): { work: Work; compositor: Compositor } {
  const work = engine.open(testHeader({ ground: "#ffffff" }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  writeStraight(work, "a", (x) => (x < 128 ? [200, 40, 30, 255] : [30, 60, 200, 255]));
  return { work, compositor: new Compositor(work.picture, engine.store, engine.workforce) };
}
const total = (counts: readonly number[]): number => counts.reduce((sum, n) => sum + n, 0);

test("every pixel is counted once, warm and cool apart", () => {
  const { work, compositor } = halves();
  const counted = histogramOf(engine, work.picture, compositor, null);
  expect(counted.count).toBe(256 * 192);
  expect([counted.warm, counted.cool, counted.grey]).toEqual([128 * 192, 128 * 192, 0]);
  for (const channel of [counted.red, counted.green, counted.blue, counted.light])
    expect(total(channel)).toBe(256 * 192);
  // 200 of 255 lies in the fifty-first of 64 steps.
  expect(counted.red[50]).toBe(128 * 192);
  compositor.free();
  work.release();
});

test("of a layer only what it holds, by how solid it is; of a selection only what is in it", () => {
  const { work, compositor } = halves();
  work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  writeStraight(work, "b", (x, y) => (y < 96 ? [90, 90, 90, 51] : [0, 0, 0, 0]));
  const layer = histogramOf(engine, work.picture, compositor, "b");
  expect(layer.count).toBeCloseTo(256 * 96 * 0.2, 0);
  expect(layer.grey).toBeCloseTo(layer.count, 3);
  const box = { left: 100, top: 100, right: 140, bottom: 150 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  const inside = histogramOf(engine, work.picture, compositor, "a");
  expect([inside.warm, inside.cool]).toEqual([28 * 50, 12 * 50]);
  expect(() => histogramOf(engine, work.picture, compositor, "nowhere")).toThrow("no layer");
  compositor.free();
  work.release();
});

test("colours are looked at all over the sheet, or where something is selected", () => {
  const { work, compositor } = halves();
  const met = new Map<string, number>();
  const painted = new Compositor(work.picture, engine.store, engine.workforce, false);
  const colours = sampledColours(engine, work.picture, painted);
  for (const rgb of colours) met.set(rgbToHex(rgb), (met.get(rgbToHex(rgb)) ?? 0) + 1);
  expect([...met.keys()].toSorted()).toEqual(["#1e3cc8", "#c8281e"]);
  expect(Math.abs((met.get("#1e3cc8") ?? 0) / colours.length - 0.5)).toBeLessThan(0.02);
  compositor.free();
  work.release();
});

test("colours are read right while memory grows", () => {
  // An engine of its own has little memory: what a large sheet needs makes it grow.
  const small = testEngine();
  const work = small.open(testHeader({ width: 3000, height: 2000, ground: "#ffffff" }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply({ do: "fill", layer: "a", at: [[9, 9]], colour: "#204060" });
  work.apply(stroke(line([0, 96], [3000, 1900]), { brush: "round-soft", size: 300 }));
  const painted = new Compositor(work.picture, small.store, small.workforce, false);
  // All but the last tile that fits into memory as it is: the next but one makes it grow.
  const { heap } = small.store;
  const untilItGrows = (): number => {
    const { bytes } = heap;
    let taken = 0;
    while (heap.bytes === bytes) {
      heap.allocate(TILE_BYTES);
      taken++;
    }
    return taken;
  };
  untilItGrows();
  for (let left = untilItGrows() - 1; left > 0; left--) heap.allocate(TILE_BYTES);
  const before = heap.bytes;
  const colours = sampledColours(small, work.picture, painted);
  const counted = histogramOf(small, work.picture, painted, null);
  const { pull } = eyePull(small, work.picture, painted);
  expect(heap.bytes).toBeGreaterThan(before);
  expect(colours.flat().every((v) => v >= 0 && v <= 1)).toBe(true);
  expect(counted.count).toBeGreaterThan(0);
  expect(total(counted.light)).toBeCloseTo(counted.count, 0);
  expect(pull.every((v) => Number.isFinite(v))).toBe(true);
  painted.free();
  work.release();
});

test("bare paper and what is clear are no colours of a picture", () => {
  const work = engine.open(testHeader({ ground: "#f0e8d8" }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  const painted = new Compositor(work.picture, engine.store, engine.workforce, false);
  expect(sampledColours(engine, work.picture, painted)).toEqual([]);
  work.apply(stroke(line([0, 96], [256, 96]), { size: 64, colour: "#204060" }));
  painted.forgetAll();
  const hexes = new Set(sampledColours(engine, work.picture, painted).map(rgbToHex));
  expect(hexes.has("#204060")).toBe(true);
  expect(hexes.has("#f0e8d8")).toBe(false);
  const data = new Uint8Array([255, 0, 0, 255, 0, 255, 0, 0]);
  const own = coloursOfPixels({ width: 2, height: 1, data });
  expect(new Set(own.map(rgbToHex))).toEqual(new Set(["#ff0000"]));
  painted.free();
  work.release();
});

test("a stencil's small picture is its shape", () => {
  const { work, compositor } = halves();
  work.apply({ do: "layer.add", id: "s", name: "S", above: "a" });
  work.apply(stroke(line([60, 90], [180, 90]), { layer: "s", size: 30 }));
  const from = { kind: "layer", layer: "s", by: "shape" } as const;
  work.apply({ do: "stencil.add", id: "card", name: "Card", from });
  const [stencil] = work.picture.structure.stencils;
  if (!stencil) throw new Error("no stencil was cut");
  const { width, height, alpha } = stencilPicture(work.picture, engine.store, stencil);
  const { left, top } = stencil.from;
  const at = (x: number, y: number): number => alpha[(y - top) * width + (x - left)] as number;
  expect([width, height]).toEqual([
    stencil.from.right - stencil.from.left,
    stencil.from.bottom - stencil.from.top,
  ]);
  expect(at(120, 90)).toBe(255);
  expect(at(left, top)).toBe(0);
  compositor.free();
  work.release();
});
