import { alphaAt, line, pixelAt, stroke } from "../../../engine/engine.testing";
import { SELECTION } from "../../../engine/picture/picture";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, openTable, stack, theTable, toldLast } from "../table.testing";
import { closePolygon, RegionHand } from "./region-hand";
import { type Point, useRegion } from "./region-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

const first = useRegion.getState();
let session: Session;
let hand: RegionHand;

beforeEach(async () => {
  session = await openTable();
  useRegion.setState(first, true);
  hand = new RegionHand(session);
});

/** The hand goes along a way and lifts. */
async function along(way: readonly Point[], straight = false): Promise<void> {
  const [start, ...rest] = way;
  if (!start || !hand.begin(start, 0)) return;
  for (const point of rest) hand.move(point, straight);
  await hand.end();
}

/** Does something whose end nobody waits for, and waits for what it leads to. */
function until(
  act: () => unknown,
  holds: (state: ReturnType<typeof useTable.getState>) => boolean,
): Promise<void> {
  return new Promise((resolve) => {
    const stop = useTable.subscribe((state) => {
      if (!holds(state)) return;
      stop();
      resolve();
    });
    act();
  });
}

const takes = (tool: "select" | "fill", settings: Partial<typeof first>): void => {
  useTable.setState({ tool });
  useRegion.setState(settings);
};
const selected = (x: number, y: number): number => {
  const { engine, work } = theTable();
  return alphaAt(engine, work, SELECTION, x, y);
};
const colourAt = (x: number, y: number, layer = "A"): number[] => {
  const { engine, work } = theTable();
  return pixelAt(engine, work, idOf(layer), x, y);
};
const undo = (): string | null => useTable.getState().picture?.undo ?? null;

/** Two closed boxes side by side on the layer “a”, the left one from 30 to 110, the right one to 190. */
function boxes(): void {
  const lines: [Point, Point][] = [
    [
      [30, 40],
      [190, 40],
    ],
    [
      [190, 40],
      [190, 150],
    ],
    [
      [190, 150],
      [30, 150],
    ],
    [
      [30, 150],
      [30, 40],
    ],
    [
      [110, 40],
      [110, 150],
    ],
  ];
  for (const [[x0, y0], [x1, y1]] of lines)
    theTable().work.apply(stroke(line([x0, y0], [x1, y1]), { size: 4, colour: "#101010" }));
}

describe("selecting", () => {
  test("a lasso takes what it goes around; too short a way selects nothing any more", async () => {
    takes("select", { selecting: "lasso" });
    await along([
      [20, 20],
      [120, 20],
      [120, 120],
      [20, 120],
    ]);
    expect([selected(60, 60), selected(150, 60)]).toEqual([1, 0]);
    await along([[5, 5]]);
    expect(useTable.getState().picture?.selection).toBe(false);
    // Nothing was there to be given up: nothing is told.
    expect(toldLast()).toBe("");
  });

  test("boxes keep to whole pixels, ellipses do not, and both add, take away and meet", async () => {
    takes("select", { selecting: "box" });
    await along([
      [100.4, 80.4],
      [20.2, 10.3],
    ]);
    expect([selected(20, 10), selected(99, 79), selected(100, 79)]).toEqual([1, 1, 0]);
    takes("select", { selecting: "ellipse", joining: "take away" });
    await along([
      [40, 20],
      [80, 70],
    ]);
    expect(selected(60, 45)).toBe(0);
    expect(selected(41, 21)).toBe(1);
    takes("select", { selecting: "box", joining: "intersect" });
    await along([
      [0, 0],
      [30, 200],
    ]);
    expect([selected(25, 40), selected(90, 40)]).toEqual([1, 0]);
  });

  test("a polygon is made press by press, closed by two quick ones, or given up", async () => {
    takes("select", { selecting: "polygon" });
    const press = (at: Point, ms: number): boolean => hand.begin(at, ms);
    const [a, b, c]: Point[] = [
      [20, 20],
      [140, 20],
      [20, 140],
    ] as Point[];
    press(a as Point, 1000);
    press(b as Point, 2000);
    expect(useRegion.getState().path).toHaveLength(2);
    await closePolygon(session, false);
    expect(useRegion.getState().path).toHaveLength(0);
    for (const [i, at] of [a, b, c].entries()) press(at as Point, 3000 + i * 1000);
    await closePolygon(session, true);
    expect([selected(40, 40), selected(120, 120)]).toEqual([1, 0]);
  });

  test("regions and colours are taken where they are pressed; the outline moves by whole pixels", async () => {
    boxes();
    takes("select", { selecting: "region", borders: "layer" });
    await until(
      () => hand.begin([60, 90], 0),
      ({ picture }) => picture?.selection === true,
    );
    expect([selected(60, 90), selected(150, 90)]).toEqual([1, 0]);
    takes("select", { selecting: "move" });
    await along([
      [0, 0],
      [80.4, -0.3],
    ]);
    expect([selected(60, 90), selected(150, 90)]).toEqual([0, 1]);
    expect(undo()).toBe("move the selection");
  });
});

describe("filling", () => {
  beforeEach(() => boxes());

  test("a tap fills its region, a way across several fills each, in one step", async () => {
    useTable.setState({ colour: "#c04020" });
    takes("fill", { what: "tap", borders: "layer", bridge: 0 });
    await along([[60, 90]]);
    expect(colourAt(60, 90)).toEqual([0xc0, 0x40, 0x20, 255]);
    expect(colourAt(150, 90)[3]).toBe(0);
    expect(useTable.getState().recent[0]).toBe("#c04020");
    await session.undo();
    await along([
      [60, 90],
      [100, 90],
      [150, 90],
    ]);
    expect([colourAt(60, 90)[0], colourAt(150, 90)[0]]).toEqual([0xc0, 0xc0]);
    expect(undo()).toBe("fill");
    await session.undo();
    expect(colourAt(60, 90)[3] ?? 1).toBe(0);
  });

  test("a flat's colour is carried over to those that are dragged across", async () => {
    takes("fill", { what: "tap", borders: "layer", bridge: 0, joins: true });
    await along([
      [60, 90],
      [150, 90],
    ]);
    expect(toldLast()).toContain("Begin on a flat");
    useTable.setState({ colour: "#2060a0" });
    useRegion.setState({ joins: false });
    await along([[60, 90]]);
    useTable.setState({ colour: "#ffffff" });
    useRegion.setState({ joins: true });
    await along([
      [60, 90],
      [150, 90],
    ]);
    expect(colourAt(150, 90)).toEqual([0x20, 0x60, 0xa0, 255]);
  });

  test("a loop fills what it holds, or the regions that lie wholly in it", async () => {
    useTable.setState({ colour: "#308040" });
    takes("fill", { what: "regions", borders: "layer", bridge: 0 });
    const loop: Point[] = [
      [20, 30],
      [125, 30],
      [125, 160],
      [20, 160],
    ];
    await along(loop);
    expect([colourAt(60, 90)[3], colourAt(150, 90)[3]]).toEqual([255, 0]);
    await session.undo();
    useRegion.setState({ what: "loop" });
    await along(loop);
    expect(colourAt(120, 90)[3]).toBe(255);
    await along([[5, 5]]);
    expect(toldLast()).toContain("Draw a loop");
  });

  test("a gradient is shown while it is drawn and laid when the pen lifts; straight with Shift", async () => {
    takes("fill", { what: "gradient", gradientShape: "linear", gradientTo: "second" });
    expect(hand.begin([20, 90], 0)).toBe(true);
    hand.move([200, 96], true);
    const { layers } = theTable().shown;
    expect(layers?.some(({ paint }) => paint?.kind === "gradient")).toBe(true);
    expect(stack()).toEqual(["A"]);
    await hand.end();
    expect(theTable().shown.layers).toBeNull();
    expect(undo()).toBe("gradient");
    // Held straight it is the same all along a column.
    expect(colourAt(100, 20)).toEqual(colourAt(100, 180));
    expect(colourAt(20, 20)).not.toEqual(colourAt(200, 20));
  });

  test("everywhere: all of a colour on the layer, and a word where it is bare", async () => {
    useTable.setState({ colour: "#30a0a0" });
    takes("fill", { what: "everywhere" });
    await until(
      () => hand.begin([110, 90], 0),
      ({ picture }) => picture?.undo === "replace a colour",
    );
    expect(colourAt(30, 90)).toEqual([0x30, 0xa0, 0xa0, 255]);
    expect(colourAt(189, 100).slice(0, 3)).toEqual([0x30, 0xa0, 0xa0]);
  });

  test("without a layer, on a hidden or a locked one, a word says what to do", async () => {
    takes("fill", { what: "tap", borders: "layer" });
    await session.setLayers({ visible: false });
    await along([[60, 90]]);
    expect(toldLast()).toContain("hidden");
    await session.setLayers({ visible: true, locked: true });
    await along([[60, 90]]);
    expect(toldLast()).toContain("locked");
    session.select([]);
    await along([[60, 90]]);
    expect(toldLast()).toContain("no layer to fill");
  });
});

describe("looking before", () => {
  test("what a tap would fill is shown where the pointer is, and no more when it leaves", async () => {
    boxes();
    takes("fill", { what: "tap", borders: "layer", bridge: 0 });
    const looked = new Promise<void>((resolve) => {
      const stop = useRegion.subscribe(({ look }) => {
        if (!look) return;
        stop();
        resolve();
      });
    });
    hand.hover([60, 90]);
    await looked;
    const { look } = useRegion.getState();
    if (!look) throw new Error("nothing is shown");
    const { box, data, width, height } = look;
    const inside = (x: number, y: number): number =>
      data[
        Math.floor(((y - box.top) / (box.bottom - box.top)) * height) * width +
          Math.floor(((x - box.left) / (box.right - box.left)) * width)
      ] as number;
    expect([inside(60, 90), inside(150, 90)]).toEqual([255, 0]);
    hand.hover(null);
    expect(useRegion.getState().look).toBeNull();
  });
});
