import { Compositor } from "../engine/compose/compositor";
import { fingerprint, line, stroke, testWork } from "../engine/engine.testing";
import { heldBox, liftedPicture } from "./lifted-picture";
import { Transforming } from "./transforming";

function drawn() {
  const { engine, work } = testWork({ width: 256, height: 192 });
  work.apply(stroke(line([60, 90], [120, 90]), { brush: "pen-even", size: 20 }));
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  const repainted: string[] = [];
  const held = new Transforming(
    engine,
    work,
    compositor,
    (layer) => repainted.push(layer),
    ["a"],
    null,
  );
  return { engine, work, compositor, held, repainted };
}

const move = (x: number) => ({ kind: "matrix" as const, matrix: [1, 0, x, 0, 1, 0, 0, 0, 1] });

it("every place a piece is put down is one step, and the last one counts", () => {
  const { engine, work, held } = drawn();
  const before = fingerprint(engine, work);
  const steps = work.place;
  held.takeUp();
  held.putDown(move(20), "bicubic");
  held.takeUp();
  held.putDown(move(50), "bicubic");
  held.end(true);
  expect(work.place).toBe(steps + 1);
  const after = fingerprint(engine, work);
  work.undo();
  expect(fingerprint(engine, work)).toBe(before);
  work.apply({ do: "transform", layers: ["a"], warp: move(50) });
  expect(fingerprint(engine, work)).toBe(after);
});

it("while it is held the table shows the layer without it, and the picture keeps it", () => {
  const { engine, work, compositor, held, repainted } = drawn();
  const seen = (): number => {
    let value = 0;
    compositor.pack([256 + 1], 0, (_key, address) => {
      value = engine.store.heap.u8[address + (26 * 64 + 20) * 4] as number;
    });
    return value;
  };
  const before = fingerprint(engine, work);
  expect(seen()).toBe(0);
  held.takeUp();
  compositor.forgetAll();
  expect(seen()).toBe(255);
  expect(fingerprint(engine, work)).toBe(before);
  held.end(false);
  compositor.forgetAll();
  expect(seen()).toBe(0);
  expect(repainted).toEqual(["a", "a"]);
});

it("thrown away, it lies as it lay; put down where it was, nothing was done", () => {
  const { engine, work, held } = drawn();
  const before = fingerprint(engine, work);
  const steps = work.place;
  held.takeUp();
  held.putDown(move(33), "lanczos");
  held.end(false);
  expect(fingerprint(engine, work)).toBe(before);
  held.putDown(null, "bicubic");
  expect(work.place).toBe(steps);
});

it("what is done in between is kept, and never undone with it", () => {
  const { work, held } = drawn();
  held.putDown(move(33), "bicubic");
  work.apply({ do: "layer.set", id: "a", opacity: 0.5 });
  const steps = work.place;
  held.end(false);
  expect(work.place).toBe(steps);
});

it("the small picture has the piece's box and its paint", () => {
  const { engine, work } = drawn();
  const box = heldBox(work.picture, engine.store, ["a"], null);
  // A thousandth of the ink lies in the rows beside it.
  expect(box).toMatchObject({ top: 79, bottom: 101 });
  const { from, width, height, data } = liftedPicture(work.picture, engine.store, ["a"], null);
  expect(from).toEqual(box);
  expect([width, height]).toEqual([from.right - from.left, 22]);
  expect([...data.subarray((10 * width + 30) * 4, (10 * width + 30) * 4 + 4)]).toEqual([
    0, 0, 0, 255,
  ]);
  const half = { left: 90, top: 0, right: 256, bottom: 192 };
  expect(liftedPicture(work.picture, engine.store, ["a"], half).from.left).toBe(90);
  const empty = { left: 200, top: 0, right: 256, bottom: 40 };
  expect(() => liftedPicture(work.picture, engine.store, ["a"], empty)).toThrow(
    /no paint in this box/,
  );
});
