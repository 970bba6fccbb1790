import { Compositor } from "../engine/compose/compositor";
import { line, stroke, testWork } from "../engine/engine.testing";
import { newLayer } from "../engine/picture/picture";
import { pixelOffset } from "../engine/tiles/layout";
import { histogramOf, sampledColours } from "./counting";
import { Overlaid } from "./overlaid";

function table() {
  const { engine, work } = testWork();
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  compositor.setWorking("a");
  const seen = (x: number, y: number): number[] => {
    let out: number[] = [];
    compositor.compose([((y >> 6) << 8) + (x >> 6)], (_key, address) => {
      out = [0, 1, 2].map((c) =>
        Math.round(
          ((engine.store.heap.u16[(address + pixelOffset(x & 63, y & 63, c)) >> 1] as number) *
            255) /
            32767,
        ),
      );
    });
    return out;
  };
  return { engine, work, compositor, seen };
}

test("a mask is seen as a veil, or alone, and then no longer; the picture stays as it is", () => {
  const { engine, work, compositor, seen } = table();
  work.apply({ do: "mask.add", id: "a", from: { kind: "nothing" } });
  work.apply(stroke(line([0, 30], [60, 30]), { on: "mask", size: 30 }));
  const veil = new Overlaid(engine, work, compositor, { mask: "a", alone: false });
  const [r = 0, g = 0] = seen(30, 30);
  expect(r).toBeGreaterThan(g + 30);
  expect(seen(30, 60)).toEqual([255, 255, 255]);
  veil.end();
  expect(seen(30, 30)).toEqual([255, 255, 255]);
  const alone = new Overlaid(engine, work, compositor, { mask: "a", alone: true });
  expect([seen(30, 30), seen(30, 60)]).toEqual([
    [0, 0, 0],
    [255, 255, 255],
  ]);
  alone.end();
  expect(work.history.undoLabel).toBe("paint");
  work.release();
});

test("an adjustment that is tried is seen in the selection only, and leaves nothing behind", () => {
  const { engine, work, compositor, seen } = table();
  const box = { left: 0, top: 0, right: 32, bottom: 192 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  const layers = [
    ...work.picture.structure.layers,
    {
      ...newLayer("(adjusting)", "Adjusting"),
      kind: "adjustment" as const,
      tone: { kind: "invert" as const },
      mask: { on: true, linked: true },
    },
  ];
  const tried = new Overlaid(engine, work, compositor, { layers, limited: "(adjusting)" });
  expect([seen(10, 30), seen(50, 30)]).toEqual([
    [0, 0, 0],
    [255, 255, 255],
  ]);
  tried.end();
  expect(seen(10, 30)).toEqual([255, 255, 255]);
  work.release();
});

test("counting looks at a layer, at all that is seen, or at what is selected", () => {
  const { engine, work, compositor } = table();
  work.apply(stroke(line([0, 96], [256, 96]), { size: 64, colour: "#000000" }));
  const own = histogramOf(engine, work.picture, compositor, "a");
  const all = histogramOf(engine, work.picture, compositor, null);
  expect(own.light[63]).toBe(0);
  expect(all.count / (256 * 192)).toBeCloseTo(1, 3);
  expect((all.light[63] as number) / all.count).toBeCloseTo(2 / 3, 1);
  const box = { left: 0, top: 0, right: 256, bottom: 60 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  const bare = histogramOf(engine, work.picture, compositor, null);
  expect(bare.light[63]).toBeCloseTo(bare.count, 0);
  expect(sampledColours(engine, work.picture, compositor).every(([r]) => r > 0.99)).toBe(true);
  work.release();
});
