import { alphaAt, line, pixelAt, stroke } from "../../engine/engine.testing";
import { MASK } from "../../engine/picture/picture";
import { type Session } from "./session";
import { useTable } from "./table-store";
import { beginTransform, endTransform } from "./transform/transform-store";
import { idOf, layerOf, openTable, stack, theTable, toldLast } from "./table.testing";

jest.mock("../engine-link", () => jest.requireActual<object>("./table.testing"));

let session: Session;
const chosen = (): string[] => useTable.getState().selected;
const choose = (...names: string[]): void => session.select(names.map(idOf));
const add = async (...names: string[]): Promise<void> => {
  for (const name of names) await session.addLayer({ name });
};
const undo = (): string | null => useTable.getState().picture?.undo ?? null;
const paint = (layer: string, y = 96, size = 20): void => {
  theTable().work.apply(stroke(line([30, y], [220, y]), { layer: idOf(layer), size }));
};

beforeEach(async () => {
  session = await openTable();
});

describe("new layers", () => {
  test("lie above the working one, in its group, and are chosen", async () => {
    await add("B", "C");
    expect(stack()).toEqual(["A", "B", "C"]);
    choose("A");
    await add("D");
    expect(stack()).toEqual(["A", "D", "B", "C"]);
    expect(chosen()).toEqual([idOf("D")]);
    choose("D", "B");
    await session.groupLayers();
    choose("D");
    await add("E");
    expect(stack()).toEqual(["A", "Group/D", "Group/E", "Group/B", "Group", "C"]);
  });

  test("with a group chosen, on top of what it holds", async () => {
    await add("B");
    await session.groupLayers();
    await add("C");
    expect(stack()).toEqual(["A", "Group/B", "Group/C", "Group"]);
  });

  test("between a base and what is clipped to it they join the run, in one step", async () => {
    await add("Shade");
    await session.setLayers({ clip: true });
    choose("A");
    await add("Light");
    expect(layerOf("Light").clip).toBe(true);
    expect(undo()).toBe("add layer");
    await session.undo();
    expect(stack()).toEqual(["A", "Shade"]);
  });

  test("have names that are not taken yet", async () => {
    await session.addLayer();
    await session.addLayer();
    expect(stack()).toEqual(["A", "Layer 2", "Layer 3"]);
    choose("Layer 2");
    await session.removeLayers();
    await session.addLayer();
    expect(new Set(stack()).size).toBe(3);
  });
});

describe("several chosen layers", () => {
  beforeEach(() => add("B", "C", "D"));

  test("are set, hidden and shown together, in one step", async () => {
    choose("A", "C");
    await session.setLayers({ opacity: 0.5, blend: "multiply" });
    expect([layerOf("A"), layerOf("C")].map(({ opacity }) => opacity)).toEqual([0.5, 0.5]);
    expect(layerOf("B").opacity).toBe(1);
    await session.setVisible(idOf("C"), false);
    expect([layerOf("A").visible, layerOf("C").visible]).toEqual([false, false]);
    await session.setVisible(idOf("B"), false);
    expect(layerOf("B").visible).toBe(false);
    await session.undo();
    await session.undo();
    expect([layerOf("A").visible, layerOf("C").visible]).toEqual([true, true]);
  });

  test("go up and down past one other, keeping their order", async () => {
    choose("A", "B");
    await session.nudgeLayers(1);
    expect(stack()).toEqual(["C", "A", "B", "D"]);
    await session.nudgeLayers(1);
    await session.nudgeLayers(1);
    expect(stack()).toEqual(["C", "D", "A", "B"]);
    await session.nudgeLayers(-1);
    expect(stack()).toEqual(["C", "A", "B", "D"]);
  });

  test("are removed together, and what lies below them is chosen then", async () => {
    choose("C", "D");
    await session.removeLayers();
    expect(stack()).toEqual(["A", "B"]);
    expect(chosen()).toEqual([idOf("B")]);
    expect(undo()).toBe("remove layers");
  });

  test("with a group and a layer in it, what lies in it is taken once", async () => {
    choose("B", "C");
    await session.groupLayers();
    choose("Group", "C");
    await session.duplicateLayers();
    expect(stack().filter((name) => name.endsWith("copy"))).toEqual(["Group copy"]);
    expect(stack()).toHaveLength(8);
    await session.undo();
    choose("Group", "C");
    await session.moveLayers(chosen(), { group: null, under: null });
    expect(stack().filter((name) => !name.includes("/"))).toEqual(["A", "D", "Group"]);
    expect(stack().filter((name) => name.includes("/"))).toEqual(["Group/B", "Group/C"]);
    choose("Group", "C");
    await session.removeLayers();
    expect(stack()).toEqual(["A", "D"]);
  });

  test("take masks, turn them round and give them up together", async () => {
    choose("A", "C");
    await session.addMask();
    expect(useTable.getState().paintOn).toBe("mask");
    expect(layerOf("B").mask).toBeNull();
    choose("A", "B", "C");
    await session.invertMask();
    const { work } = theTable();
    expect(["A", "B", "C"].map((name) => work.picture.plane(idOf(name), MASK).size > 0)).toEqual([
      true,
      false,
      true,
    ]);
    await session.setMask({ on: false });
    expect(layerOf("A").mask).toEqual({ on: false, linked: true });
    expect(layerOf("B").mask).toBeNull();
    await session.removeMask(false);
    expect(layerOf("C").mask).toBeNull();
    expect(useTable.getState().paintOn).toBe("colour");
  });

  test("a mask is given only to those that have none", async () => {
    choose("A");
    await session.addMask({ kind: "all" });
    choose("A", "B");
    await session.addMask();
    expect(layerOf("B").mask).not.toBeNull();
    expect(toldLast()).toBe("");
  });

  test("shading helps are laid on all of them that hold paint", async () => {
    paint("A");
    paint("B", 60);
    choose("A", "B");
    await session.edgeBand(4, 0);
    expect(stack().filter((name) => name === "Edge band")).toHaveLength(2);
    expect(chosen()).toHaveLength(2);
    await session.undo();
    choose("A");
    await session.texture("laid");
    expect(layerOf("Texture").clip).toBe(true);
    choose("A", "B");
    await session.shadeSteps(1);
    expect(undo()).toBe("shade in steps");
    expect(chosen()).toHaveLength(2);
  });
});

describe("merging", () => {
  test("down takes the one below in the same group, and says where there is none", async () => {
    await add("B");
    paint("B");
    await session.mergeDown();
    expect(stack()).toEqual(["A"]);
    const { engine, work } = theTable();
    expect(alphaAt(engine, work, idOf("A"), 120, 96)).toBe(1);
    choose("A");
    await session.mergeDown();
    expect(toldLast()).toMatch(/no layer under/);
    await session.undo();
    expect(stack()).toEqual(["A", "B"]);
  });

  test("the chosen, all of them, or a copy of what is seen", async () => {
    await add("B", "C");
    choose("A", "C");
    await session.mergeSelected();
    expect(stack().toSorted()).toEqual(["A", "B"]);
    await session.copyMerged();
    expect(stack()).toContain("Merged copy");
    await session.flattenPicture();
    expect(stack()).toEqual(["Flattened"]);
    expect(chosen()).toEqual([idOf("Flattened")]);
  });

  test("a group is taken apart, and its layers are chosen", async () => {
    await add("B");
    choose("A", "B");
    await session.groupLayers();
    await session.ungroupLayers();
    expect(stack()).toEqual(["A", "B"]);
    expect(chosen()).toHaveLength(2);
  });
});

describe("steps by key", () => {
  test("follow each other however quickly they come", async () => {
    await Promise.all([1, 2, 3, 4].map(() => session.changeOpacity(-1)));
    expect(layerOf("A").opacity).toBeCloseTo(0.8, 6);
    await Promise.all([session.changeBlend(1), session.changeBlend(1), session.changeBlend(-1)]);
    expect(layerOf("A").blend).toBe("multiply");
  });
});

describe("what cannot be done", () => {
  test("is told in words, and what was kept stays said", async () => {
    useTable.setState({ kept: { state: "kept", at: 5 } as never });
    await session.setLayers({ locked: true });
    useTable.setState({ kept: { state: "kept", at: 5 } as never });
    expect(await session.apply({ do: "layer.clear", id: idOf("A") })).toBe(false);
    expect(toldLast()).toContain("locked");
    expect(useTable.getState().kept).toEqual({ state: "kept", at: 5 });
  });

  test("nothing is done where nothing is chosen", async () => {
    session.select([]);
    await session.groupLayers();
    await session.mergeSelected();
    await session.edgeBand(4, 2);
    expect(stack()).toEqual(["A"]);
    expect(undo()).toBe("add layer");
  });
});

describe("what is wet", () => {
  const wash = (): Promise<boolean> =>
    session.apply(
      stroke(line([40, 60], [200, 60]), { layer: idOf("A"), brush: "wash-round", size: 40 }),
    );

  test("is said to dry where something else is done with it, and is wet again when that is undone", async () => {
    await wash();
    await add("B");
    session.select([idOf("A"), idOf("B")]);
    await session.mergeSelected();
    expect(toldLast()).toContain("“A” dried for it");
    await session.undo();
    expect(useTable.getState().picture?.wet).toEqual([idOf("A")]);
    choose("A");
    await beginTransform(session, null);
    expect(toldLast()).toContain("“A” is wet and dries as it is moved");
    await endTransform(session, false);
  });

  test("is not spoken of where it is dried or cleared by the hand", async () => {
    await wash();
    choose("A");
    const before = toldLast();
    await session.dryPaint();
    expect(useTable.getState().picture?.wet).toEqual([]);
    await wash();
    await session.apply({ do: "layer.clear", id: idOf("A") });
    expect(toldLast()).toBe(before);
  });
});

describe("haze and flats", () => {
  test("haze lies over all in the colour in hand, masked by the depth picture, which is hidden", async () => {
    paint("A", 96, 120);
    await add("B");
    choose("A");
    useTable.setState({ colour: "#a0c0ff" });
    await session.haze("dark");
    expect(stack()).toEqual(["A", "B", "Haze"]);
    expect(layerOf("Haze").mask).not.toBeNull();
    expect(layerOf("Haze").paint).toEqual({ kind: "colour", colour: "#a0c0ff" });
    expect(layerOf("A").visible).toBe(false);
    await session.undo();
    expect(stack()).toEqual(["A", "B"]);
    expect(layerOf("A").visible).toBe(true);
  });

  test("a depth picture that holds nothing is told of, and nothing is left behind", async () => {
    await session.haze("light");
    expect(toldLast()).toContain("holds no paint");
    expect(stack()).toEqual(["A"]);
    expect(layerOf("A").visible).toBe(true);
  });

  test("flats come under the lines, and the next taps recolour them", async () => {
    for (const [from, to] of [
      [
        [40, 40],
        [200, 40],
      ],
      [
        [200, 40],
        [200, 150],
      ],
      [
        [200, 150],
        [40, 150],
      ],
      [
        [40, 150],
        [40, 40],
      ],
    ] as [number, number][][])
      theTable().work.apply(
        stroke(line(from as [number, number], to as [number, number]), { size: 5 }),
      );
    await session.setLayers({ lines: true });
    await session.layFlats();
    expect(stack()).toEqual(["Flats", "A"]);
    expect(chosen()).toEqual([idOf("Flats")]);
    expect(useTable.getState().tool).toBe("fill");
    const { engine, work } = theTable();
    expect(pixelAt(engine, work, idOf("Flats"), 120, 90)[3]).toBe(255);
    expect(pixelAt(engine, work, idOf("Flats"), 8, 8)[3]).toBe(0);
  });
});
