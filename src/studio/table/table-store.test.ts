import { brushes } from "../../engine/media";
import { amountsNow, kitOrder, positionOf, sizeAt, stages, useTable } from "./table-store";

const first = useTable.getState();
beforeEach(() => useTable.setState(first, true));

describe("sizes", () => {
  it("run from half a pixel to two thousand", () => {
    expect(sizeAt(0)).toBe(0.5);
    expect(sizeAt(1)).toBe(2000);
    expect(sizeAt(-3)).toBe(0.5);
    expect(sizeAt(9)).toBe(2000);
  });

  it.each([0.5, 1.2, 6, 40, 333, 2000])("%d px comes back from its place on the slider", (size) => {
    expect(sizeAt(positionOf(size))).toBe(size);
  });
});

describe("the brush in hand", () => {
  it("begins with its own size and strength, and keeps what it is given", () => {
    const { chooseBrush, setAmounts } = useTable.getState();
    const chalk = brushes.find(({ id }) => id === "chalk");
    chooseBrush("chalk");
    expect(amountsNow(useTable.getState())).toEqual({
      size: chalk?.size,
      strength: chalk?.strength,
      lays: "normal",
      thinner: 0,
      water: 1,
    });
    setAmounts({ size: 77 });
    chooseBrush("pen-fine");
    expect(amountsNow(useTable.getState()).size).toBe(4);
    chooseBrush("chalk");
    expect(amountsNow(useTable.getState())).toEqual({
      size: 77,
      strength: chalk?.strength,
      lays: "normal",
      thinner: 0,
      water: 1,
    });
  });

  it("gives the same amounts each time they are asked for", () => {
    useTable.getState().chooseBrush("rope");
    expect(amountsNow(useTable.getState())).toBe(amountsNow(useTable.getState()));
  });

  it("remembers the one before, once", () => {
    const { chooseBrush } = useTable.getState();
    chooseBrush("chalk");
    chooseBrush("rope");
    chooseBrush("rope");
    expect(useTable.getState().lastBrush).toBe("chalk");
    expect(useTable.getState().kit).toBe("Leaf and ribbon");
  });
});

describe("colours", () => {
  it("greys keep the hue of the Leaf", () => {
    const { chooseColour } = useTable.getState();
    chooseColour("#c0392b");
    const { hue } = useTable.getState();
    chooseColour("#808080");
    expect(useTable.getState().hue).toBe(hue);
  });

  it("that are painted with come first among the recent ones, each once", () => {
    const { chooseColour, useColour: paintWith } = useTable.getState();
    for (const hex of ["#111111", "#222222", "#111111"]) {
      chooseColour(hex);
      paintWith();
    }
    expect(useTable.getState().recent).toEqual(["#111111", "#222222"]);
  });
});

it.each(stages)("the stage %s lays out every kit that ships, each once", (stage) => {
  const kits = kitOrder(stage);
  expect(new Set(kits)).toEqual(new Set(brushes.map(({ kit }) => kit)));
  expect(new Set(kits).size).toBe(kits.length);
});
