import { alphaAt, line, pixelAt, stroke, testWork } from "../engine.testing";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { POWDER } from "../picture/picture";
import { pixelOffset, tileKey } from "../tiles/layout";

type Sheet = { engine: Engine; work: Work };

const PAPER = { kind: "board", scale: 1 } as const;

/** Two layers, “a” and over it “b”. */
function two(): Sheet {
  const s = testWork({ width: 192, height: 128, ppi: 300, paper: PAPER });
  s.work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  return s;
}

const band = (s: Sheet, layer: string, brush: string, y = 64): void =>
  void s.work.apply(
    stroke(line([20, y], [170, y]), { layer, brush, size: 30, colour: "#303038", seed: 4 }),
  );

const merge = (s: Sheet): void =>
  void s.work.apply({ do: "layer.merge", layers: ["a", "b"], id: "m", name: "Both" });

/** A channel of a layer's powder, summed along a row; A: the mass. */
function row(s: Sheet, layer: string, channel = 3, y = 64): number {
  const { store } = s.engine;
  let sum = 0;
  for (let x = 40; x < 150; x++) {
    const tile = s.work.picture.planes
      .get(layer)
      ?.get(POWDER)
      ?.get(tileKey(x >> 6, y >> 6));
    if (!tile) continue;
    const at = store.address(tile) + pixelOffset(x & 63, y & 63, channel);
    sum += (store.heap.u16[at >> 1] as number) / 32767;
  }
  return sum;
}

it("adds mass to mass, as much of each as is seen", () => {
  const s = two();
  band(s, "a", "pencil-6b");
  band(s, "b", "charcoal-stick");
  s.work.apply({ do: "layer.set", id: "b", opacity: 0.5 });
  const [below, above, soluble] = [row(s, "a"), row(s, "b"), row(s, "b", 2)];
  expect(below).toBeGreaterThan(5);
  expect(above).toBeGreaterThan(5);
  merge(s);
  expect(row(s, "m")).toBeCloseTo(below + above / 2, 1);
  expect(row(s, "m", 2)).toBeCloseTo(soluble / 2, 1);
  expect(s.work.picture.layer("m").dissolves?.map(({ colour }) => colour)).toEqual(["#303038"]);
  s.work.undo();
  expect(row(s, "b")).toBeCloseTo(above, 6);
});

it("is hidden by paint that lies over it, and by a mask", () => {
  const s = two();
  band(s, "a", "charcoal-stick");
  band(s, "b", "pen-even");
  merge(s);
  expect(row(s, "m")).toBeLessThan(0.1);
  const masked = two();
  band(masked, "a", "charcoal-stick");
  masked.work.apply({ do: "mask.add", id: "a", from: { kind: "all" } });
  merge(masked);
  expect(row(masked, "m")).toBe(0);
});

it("is still graphite: rubber lifts from the merged layer what it lifts from one", () => {
  const rub = (s: Sheet, layer: string): number => {
    const before = alphaAt(s.engine, s.work, layer, 100, 64);
    s.work.apply(
      stroke(line([60, 64], [140, 64]), { layer, brush: "eraser-kneaded", size: 30, seed: 1 }),
    );
    return alphaAt(s.engine, s.work, layer, 100, 64) / before;
  };
  const [one, merged] = [two(), two()];
  for (const s of [one, merged]) band(s, "a", "pencil-6b");
  merge(merged);
  expect(pixelAt(merged.engine, merged.work, "m", 100, 64)).toEqual(
    pixelAt(one.engine, one.work, "a", 100, 64),
  );
  expect(rub(merged, "m")).toBeCloseTo(rub(one, "a"), 4);
});
