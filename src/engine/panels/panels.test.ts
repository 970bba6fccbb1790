import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { alphaAt, fingerprint, line, stroke, testWork } from "../engine.testing";
import { linesOf } from "../lines/line-set";
import { MASK } from "../picture/picture";
import { pixelOffset, tileKey } from "../tiles/layout";
import { areaOf, overlapOf, type Shape } from "./shape";
import { boxOfPanel } from "./panels";

const style = { width: 4, colour: "#101014" };
const box = { left: 20, top: 16, right: 236, bottom: 176 };

/** A page cut into an upper tier of two panels and a lower one. */
function page(): { engine: Engine; work: Work } {
  const made = testWork();
  made.work.apply({ do: "panels.lay", id: "p", box, style });
  made.work.apply({ do: "panels.cut", id: "q", from: [0, 96], to: [256, 96], gutter: 12 });
  made.work.apply({ do: "panels.cut", id: "r", from: [128, 0], to: [128, 88], gutter: 8 });
  return made;
}

const panelsOf = (work: Work) => work.picture.structure.panels?.panels ?? [];
const namesOf = (work: Work): Record<string, string> =>
  Object.fromEntries(work.picture.structure.layers.map(({ id, name }) => [id, name]));

/** How much of a pixel a group's mask holds back, 0…1. */
function heldAt(
  { engine, work }: { engine: Engine; work: Work },
  group: string,
  x: number,
  y: number,
) {
  const tile = work.picture.plane(group, MASK).get(tileKey(x >> 6, y >> 6));
  if (!tile) return 0;
  if (tile.colour) return (tile.colour[3] as number) / 32767;
  const at = engine.store.address(tile) + pixelOffset(x & 63, y & 63, 3);
  return (engine.store.heap.u16[at >> 1] as number) / 32767;
}

describe("a page of panels", () => {
  it("has a group with a mask and a layer to draw on for each, and a frame on a line layer", () => {
    const { engine, work } = page();
    expect(panelsOf(work).map(({ group }) => group)).toEqual(["p", "r", "q"]);
    expect(namesOf(work)).toMatchObject({ p: "Panel 1", r: "Panel 2", q: "Panel 3" });
    for (const { group } of panelsOf(work)) {
      expect(work.picture.layer(group).kind).toBe("group");
      expect(work.picture.layer(`${group}.drawing`).group).toBe(group);
    }
    const frames = linesOf(engine.store, work.picture, "p.frames").lines;
    expect(frames).toHaveLength(3);
    expect(frames.every(({ closed, brush }) => closed && brush === "pen-even")).toBe(true);
  });

  it("shows of each panel what lies in its shape, to the gutter's very edge", () => {
    const both = page();
    // The level gutter is 90 to 102, the upright one 124 to 132.
    for (const [group, x, y, held] of [
      ["p", 60, 50, 0],
      ["p", 123, 50, 0],
      ["p", 124, 50, 1],
      ["p", 60, 90, 1],
      ["r", 131, 50, 1],
      ["r", 132, 50, 0],
      ["q", 60, 101, 1],
      ["q", 60, 102, 0],
      ["q", 250, 120, 1],
    ] as const)
      expect([group, x, y, heldAt(both, group, x, y)]).toEqual([group, x, y, held]);
  });

  it("draws its frames on the edges", () => {
    const { engine, work } = page();
    expect(alphaAt(engine, work, "p.frames", 60, 89)).toBe(1);
    expect(alphaAt(engine, work, "p.frames", 60, 91)).toBe(1);
    expect(alphaAt(engine, work, "p.frames", 60, 94)).toBe(0);
    expect(alphaAt(engine, work, "p.frames", 60, 50)).toBe(0);
  });

  it("keeps what was drawn before the cut, and its undo", () => {
    const { engine, work } = testWork();
    work.apply({ do: "panels.lay", id: "p", box, style });
    work.apply(stroke(line([30, 40], [220, 40]), { layer: "p.drawing" }));
    const was = fingerprint(engine, work);
    work.apply({ do: "panels.cut", id: "q", from: [128, 0], to: [128, 190], gutter: 10 });
    expect(alphaAt(engine, work, "p.drawing", 200, 40)).toBe(1);
    expect(heldAt({ engine, work }, "p", 200, 40)).toBe(1);
    work.undo();
    expect(fingerprint(engine, work)).toBe(was);
  });

  it("pushes a gutter with all panels beside it", () => {
    const { work } = page();
    const before = panelsOf(work).map(({ corners }) => areaOf(corners));
    work.apply({ do: "panels.push", group: "p", side: 2, by: [3, 20] });
    const after = panelsOf(work).map(({ corners }) => areaOf(corners));
    expect(after[0]).toBeCloseTo((before[0] as number) + 20 * 104, 3);
    expect(after[1]).toBeCloseTo((before[1] as number) + 20 * 104, 3);
    expect(after[2]).toBeCloseTo((before[2] as number) - 20 * 216, 3);
    expect(() => work.apply({ do: "panels.push", group: "p", side: 2, by: [0, 200] })).toThrow(
      /no room/,
    );
  });

  it("lets a side bleed, but not through another panel", () => {
    const { work } = page();
    work.apply({ do: "panels.bleed", group: "p", side: 0 });
    const [first] = panelsOf(work);
    expect(Math.min(...(first?.corners ?? []).map(([, y]) => y))).toBe(-10);
    expect(() => work.apply({ do: "panels.bleed", group: "p", side: 2 })).toThrow(/Another panel/);
    expect(() => work.apply({ do: "panels.bleed", group: "p", side: 9 })).toThrow(/no side 9/);
  });

  it("joins two that make one shape; what was drawn in both is in one", () => {
    const { engine, work } = page();
    work.apply(stroke(line([150, 40], [220, 40]), { layer: "r.drawing" }));
    expect(() => work.apply({ do: "panels.join", groups: ["p", "q"] })).toThrow(/lies between/);
    work.apply({ do: "panels.join", groups: ["p", "r"] });
    expect(panelsOf(work).map(({ group }) => group)).toEqual(["p", "q"]);
    expect(work.picture.layer("r.drawing").group).toBe("p");
    expect(alphaAt(engine, work, "r.drawing", 180, 40)).toBe(1);
    expect(heldAt({ engine, work }, "p", 180, 40)).toBe(0);
    expect(linesOf(engine.store, work.picture, "p.frames").lines).toHaveLength(2);
  });

  it("goes on where a group was removed, its frames were cleared or are paint by now", () => {
    const { engine, work } = page();
    work.apply({ do: "layer.remove", id: "q" });
    work.apply({ do: "layer.clear", id: "p.frames" });
    work.apply({ do: "panels.push", group: "p", side: 1, by: [10, 0] });
    expect(panelsOf(work).map(({ group }) => group)).toEqual(["p", "r"]);
    expect(linesOf(engine.store, work.picture, "p.frames").lines).toHaveLength(2);
    work.apply({ do: "line.to-paint", layer: "p.frames" });
    work.apply({ do: "panels.push", group: "p", side: 1, by: [-10, 0] });
    const [a, b] = panelsOf(work).map(({ corners }): Shape => corners) as [Shape, Shape];
    expect(overlapOf(a, b)).toBe(0);
  });

  it("moves with the sheet", () => {
    const { work } = page();
    work.apply({ do: "sheet.crop", left: -30, top: -20, width: 286, height: 212 });
    expect(panelsOf(work)[0]?.corners[0]).toEqual([50, 36]);
  });

  it("knows the panel that a layer lies in", () => {
    const { work } = page();
    const { structure } = work.picture;
    expect(boxOfPanel(structure, "q.drawing")).toEqual({ ...box, top: 102 });
    expect(boxOfPanel(structure, "a")).toBeNull();
  });

  it.each([
    [{ do: "panels.lay", id: "x", box, style }, /panels already/],
    [{ do: "panels.cut", id: "x", from: [0, 4], to: [200, 4], gutter: 8 }, /one side of a panel/],
    [{ do: "panels.cut", id: "q", from: [60, 0], to: [60, 90], gutter: 8 }, /already a layer/],
    [{ do: "panels.join", groups: ["p", "p"] }, /two panels/],
    [{ do: "panels.push", group: "a", side: 0, by: [0, 9] }, /no panel/],
    [{ do: "panels.cut", id: "x", from: [60, 0], to: [60, 90], gutter: -1 }, /gutter/],
  ] as const)("%# is refused, and nothing has changed", (command, why) => {
    const { engine, work } = page();
    const was = fingerprint(engine, work);
    expect(() => work.apply(command as never)).toThrow(why);
    expect(fingerprint(engine, work)).toBe(was);
  });

  it("leaves a locked panel alone", () => {
    const { work } = page();
    work.apply({ do: "layer.set", id: "q", locked: true });
    expect(() =>
      work.apply({ do: "panels.cut", id: "x", from: [128, 95], to: [128, 190], gutter: 8 }),
    ).toThrow(/locked/);
  });

  it("waits for its frames to be unlocked, so that they never lie beside their panels", () => {
    const { engine, work } = page();
    work.apply({ do: "layer.set", id: "p.frames", locked: true });
    const was = fingerprint(engine, work);
    const push = { do: "panels.push", group: "p", side: 2, by: [0, 9] } as const;
    expect(() => work.apply({ ...push, by: [0, 9] })).toThrow(/“Frames” is locked/);
    expect(fingerprint(engine, work)).toBe(was);
    work.apply({ do: "layer.set", id: "p.frames", locked: false });
    work.apply({ ...push, by: [0, 9] });
    expect(work.picture.structure.panels?.panels[0]?.corners[2]?.[1]).toBeCloseTo(99, 9);
  });

  it("is first to be laid", () => {
    const { work } = testWork();
    expect(() =>
      work.apply({ do: "panels.cut", id: "x", from: [0, 9], to: [99, 9], gutter: 8 }),
    ).toThrow(/no panels yet/);
  });
});
