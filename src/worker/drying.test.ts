import { line, stroke, testWork } from "../engine/engine.testing";
import { DryingByItself } from "./drying";

const MINUTE = 60_000;

function wetLayers() {
  const { work } = testWork();
  work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  for (const layer of ["a", "b"])
    work.apply(stroke(line([20, 40], [200, 60]), { layer, brush: "oil-flat", size: 40 }));
  return work;
}

it("paint stays wet until it is told how long it takes", () => {
  const work = wetLayers();
  const drying = new DryingByItself(0);
  expect(drying.due(work.picture, 1000 * MINUTE)).toEqual([]);
  work.apply({ do: "layer.set", id: "a", dryAfter: 10 });
  expect(drying.due(work.picture, 9.9 * MINUTE)).toEqual([]);
  expect(drying.due(work.picture, 10 * MINUTE)).toEqual(["a"]);
});

it("who paints on it keeps it wet; the others dry meanwhile", () => {
  const work = wetLayers();
  const drying = new DryingByItself(0);
  for (const id of ["a", "b"]) work.apply({ do: "layer.set", id, dryAfter: 5 });
  drying.touched("b", 4 * MINUTE);
  expect(drying.due(work.picture, 6 * MINUTE)).toEqual(["a"]);
  expect(drying.due(work.picture, 9 * MINUTE)).toEqual(["a", "b"]);
});

it("what is dry, hidden or locked is left alone", () => {
  const work = wetLayers();
  const drying = new DryingByItself(0);
  for (const id of ["a", "b"]) work.apply({ do: "layer.set", id, dryAfter: 1 });
  work.apply({ do: "layer.set", id: "a", locked: true });
  work.apply({ do: "paint.dry", layers: ["b"] });
  expect(drying.due(work.picture, 60 * MINUTE)).toEqual([]);
});

it.each([0, -5, 0.5, 1e6, NaN])("refuses to dry after %s minutes", (dryAfter) => {
  const work = wetLayers();
  expect(() => work.apply({ do: "layer.set", id: "a", dryAfter })).toThrow(/dryAfter/);
});
