import { line, stroke, testEngine, testHeader, writeStraight } from "../engine.testing";
import { type Work } from "../command/work";
import { Compositor } from "./compositor";
import { seen, worst } from "./seen.testing";

const engine = testEngine();
const [WIDTH, HEIGHT] = [120, 80];
/** Merging layers first rounds once more at each: Q15, a sixteenth of a step of 8 bits. */
const ROUNDED = 8;
const ids = ["floor", "a", "b", "c", "d", "e", "f", "roof"];

/**
 * Eight painted layers: b and c in an isolated group within one that d lies in, too; e and f in
 * a group that is let through; masks, modes, clips and a blur among them.
 */
function stack(): Work {
  const work = engine.open(testHeader({ width: WIDTH, height: HEIGHT, ground: "#d0c0a0" }));
  ids.forEach((id, i) => {
    work.apply({ do: "layer.add", id, name: id, above: ids[i - 1] ?? null });
    const colour = [40 + i * 25, 200 - i * 20, (i * 67) % 255];
    writeStraight(work, id, (x, y) => [
      ...colour,
      ((x >> 4) + (y >> 3) + i) % 3 === 0 ? 0 : 90 + i * 15,
    ]);
  });
  work.apply({ do: "layer.group", id: "inner", name: "Inner", layers: ["b", "c"] });
  work.apply({ do: "layer.group", id: "outer", name: "Outer", layers: ["inner", "d"] });
  work.apply({ do: "layer.group", id: "open", name: "Open", layers: ["e", "f"] });
  work.apply({ do: "layer.set", id: "open", through: true });
  work.apply({ do: "layer.set", id: "inner", blend: "multiply", opacity: 0.8 });
  work.apply({ do: "layer.set", id: "c", blend: "overlay" });
  work.apply({ do: "layer.set", id: "e", blend: "hue" });
  work.apply({ do: "layer.set", id: "d", clip: true });
  work.apply({ do: "mask.add", id: "outer", from: { kind: "layer", layer: "a", by: "light" } });
  work.apply({
    do: "layer.add",
    id: "blur",
    name: "Blur",
    above: "b",
    group: "inner",
    kind: "adjustment",
    tone: { kind: "blur", radius: 10 },
  });
  return work;
}

describe.each([...ids, "inner", "outer", "open", "blur"])("with “%s” worked on", (working) => {
  test("all is seen as if nothing were kept, before and after paint, moves and other properties", () => {
    const work = stack();
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    compositor.setWorking(working);
    work.events.damaged = ({ layer, keys }) =>
      compositor.forget(layer, compositor.reach(layer, keys));
    const agree = (): void =>
      expect(worst(seen(engine, work, compositor), seen(engine, work))).toBeLessThanOrEqual(
        ROUNDED,
      );
    agree();
    for (const layer of ["b", "d", "f", "floor"]) {
      work.apply(stroke(line([20, 20], [110, 70]), { layer, size: 14, colour: "#ff2080" }));
      agree();
    }
    work.apply({ do: "layer.set", id: "c", opacity: 0.4 });
    agree();
    work.apply({ do: "layer.set", id: "open", through: false });
    agree();
    work.apply({ do: "layer.set", id: "inner", contour: { width: 3, colour: "#102030" } });
    agree();
    work.apply({ do: "layer.move", id: "b", above: "e", group: "open" });
    agree();
    work.apply({ do: "layer.ungroup", id: "outer" });
    agree();
    compositor.free();
    work.release();
  });
});
