import { newLayer } from "../../../engine/picture/picture";
import { sharing } from "./sharing";

const layers = ["a", "b", "c"].map((id) => newLayer(id, id));
const copied = () => structuredClone(layers);

test("layers that have not changed stay the same objects, and so does a list of them", () => {
  expect(sharing(layers, copied())).toBe(layers);
  const now = copied().map((layer) => (layer.id === "b" ? { ...layer, opacity: 0.5 } : layer));
  const shared = sharing(layers, now);
  expect(shared.map((layer, i) => layer === layers[i])).toEqual([true, false, true]);
  expect(shared).toEqual(now);
});

test("order, and what came or went, are as they are now", () => {
  const turned = copied().reverse();
  expect(sharing(layers, turned)).toEqual(turned);
  expect(sharing(layers, turned)[0]).toBe(layers[2]);
  expect(sharing(layers, copied().slice(1))).toHaveLength(2);
  expect(sharing([], copied())).toEqual(layers);
});
