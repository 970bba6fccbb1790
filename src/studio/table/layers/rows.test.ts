import { newLayer } from "../../../engine/picture/picture";
import { landing, placeUnder, rowsOf } from "./rows";

const layer = (id: string, group: string | null = null, more: object = {}) => ({
  ...newLayer(id, `Layer ${id}`),
  group,
  ...more,
});
const layers = [
  layer("floor"),
  layer("coat", "g"),
  layer("shade", "g", { clip: true }),
  layer("g", null, { kind: "group", name: "Conductor" }),
  layer("lines"),
];
const ids = (folded: Record<string, boolean> = {}, looked = ""): string[] =>
  rowsOf(layers, folded, looked).map(({ layer: { id }, depth }) => `${" ".repeat(depth)}${id}`);

test("the list shows groups above what lies in them, topmost first", () => {
  expect(ids()).toEqual(["lines", "g", " shade", " coat", "floor"]);
  expect(ids({ g: true })).toEqual(["lines", "g", "floor"]);
  expect(rowsOf(layers, {}, "").filter(({ hangs }) => hangs)[0]?.layer.id).toBe("shade");
});

test("looked for by name, what lies in folded groups is found too", () => {
  expect(ids({ g: true }, "COAT")).toEqual([" coat"]);
  expect(ids({}, "nothing like it")).toEqual([]);
});

test("a line lands in the group of the line above it, or on top of an open group's", () => {
  const rows = rowsOf(layers, {}, "");
  expect(landing(rows, "lines", "g", false)).toEqual({ group: "g", under: "g" });
  expect(landing(rows, "lines", "shade", false)).toEqual({ group: "g", under: "shade" });
  expect(landing(rows, "floor", "lines", false)).toEqual({ group: null, under: null });
  expect(landing(rows, "floor", "floor", false)).toBeNull();
});

test("drawn to the left, it lands outside of the group, right under it", () => {
  const rows = rowsOf(layers, {}, "");
  expect(landing(rows, "coat", "coat", true)).toEqual({ group: null, under: "g" });
});

test("right under a line is above the next lower layer of the whole order", () => {
  const order = layers.map(({ id }) => id);
  expect(placeUnder(order, "g")).toBe("shade");
  expect(placeUnder(order, "floor")).toBeNull();
  expect(placeUnder(order, null)).toBe("lines");
});
