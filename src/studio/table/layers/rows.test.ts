import { newLayer } from "../../../engine/picture/picture";
import { landing, partAt, placeUnder, rowsOf, topsOf } from "./rows";

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

describe("where dragged lines land", () => {
  const rows = rowsOf(layers, {}, "");
  const land = (
    moving: string | string[],
    over: string,
    part: "above" | "into" | "below",
    outward = 0,
    among = rows,
  ) => {
    const mark = landing(among, [moving].flat(), over, part, outward);
    return mark && { group: mark.group, under: mark.under, depth: mark.depth };
  };

  test("in the group of the lines that they come between, or on top of what an open one holds", () => {
    expect(land("lines", "g", "into")).toEqual({ group: "g", under: "g", depth: 1 });
    expect(land("lines", "g", "below")).toEqual({ group: "g", under: "g", depth: 1 });
    expect(land("lines", "shade", "above")).toEqual({ group: "g", under: "g", depth: 1 });
    expect(land("lines", "shade", "below")).toEqual({ group: "g", under: "shade", depth: 1 });
    expect(land("floor", "lines", "above")).toEqual({ group: null, under: null, depth: 0 });
    expect(land("floor", "lines", "below")).toEqual({ group: null, under: "lines", depth: 0 });
  });

  test("under the last line of a group they lie in it, or drawn to the left outside of it", () => {
    expect(land("lines", "coat", "below")).toEqual({ group: "g", under: "coat", depth: 1 });
    expect(land("lines", "coat", "below", 1)).toEqual({ group: null, under: "g", depth: 0 });
    expect(land("lines", "coat", "below", 7)).toEqual({ group: null, under: "g", depth: 0 });
    // In the middle of a group there is no way out.
    expect(land("lines", "shade", "below", 1)).toEqual({ group: "g", under: "shade", depth: 1 });
    // Drawn to the left where it is, a line leaves its group.
    expect(land("coat", "coat", "above", 1)).toEqual({ group: null, under: "g", depth: 0 });
  });

  test("beside a folded group, or in its middle into it", () => {
    const folded = rowsOf(layers, { g: true }, "");
    expect(land("lines", "g", "into", 0, folded)).toEqual({ group: "g", under: "g", depth: 1 });
    expect(land("lines", "g", "below", 0, folded)).toEqual({ group: null, under: "g", depth: 0 });
    const [, group] = folded;
    if (!group) throw new Error("the group is not listed");
    expect([0.1, 0.5, 0.9].map((share) => partAt(group, share))).toEqual([
      "above",
      "into",
      "below",
    ]);
    expect([0.1, 0.5, 0.9].map((share) => partAt({ ...group, isOpen: true }, share))).toEqual([
      "above",
      "into",
      "into",
    ]);
    const [line] = folded;
    if (!line) throw new Error("the line is not listed");
    expect([0.1, 0.6].map((share) => partAt(line, share))).toEqual(["above", "below"]);
  });

  test("nowhere where nothing would change, and no group in itself", () => {
    expect(land("shade", "shade", "below")).toBeNull();
    expect(land("shade", "coat", "above")).toBeNull();
    expect(land("lines", "g", "above")).toBeNull();
    expect(land("g", "coat", "below")).toBeNull();
    expect(land("g", "shade", "above")).toBeNull();
    expect(land("lines", "nowhere", "above")).toBeNull();
  });

  test("several go together, their own lines left out of the counting", () => {
    expect(land(["coat", "shade"], "lines", "above")).toEqual({
      group: null,
      under: null,
      depth: 0,
    });
    expect(land(["lines", "coat"], "floor", "above")).toEqual({
      group: "g",
      under: "shade",
      depth: 1,
    });
    expect(land(["lines", "coat"], "floor", "above", 1)).toEqual({
      group: null,
      under: "g",
      depth: 0,
    });
  });
});

test("what lies in a chosen group goes with it and is not taken twice", () => {
  expect(topsOf(layers, ["coat", "g", "floor"]).map(({ id }) => id)).toEqual(["floor", "g"]);
  expect(topsOf(layers, ["shade", "coat"]).map(({ id }) => id)).toEqual(["coat", "shade"]);
});

test("right under a line is above the next lower layer of the whole order", () => {
  const order = layers.map(({ id }) => id);
  expect(placeUnder(order, "g")).toBe("shade");
  expect(placeUnder(order, "floor")).toBeNull();
  expect(placeUnder(order, null)).toBe("lines");
});
