import { alphaAt, line, stroke } from "../../../engine/engine.testing";
import { areaOf, type Shape } from "../../../engine/panels/shape";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { onAScreen, openTable, theTable, toldLast } from "../table.testing";
import { evenWay, PanelHand, sideNear } from "./panel-hand";
import { layPage, liveArea, openPanels, panelsOn, usePanels } from "./panels-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

const first = usePanels.getState();
let session: Session;
let hand: PanelHand;

onAScreen();

/** A table on which a page of one panel was laid; the sheet is 256 × 192 px at 300 ppi. */
beforeEach(async () => {
  session = await openTable();
  usePanels.setState({ ...first, margin: 1, frame: 2, tiers: 10, beside: 6 }, true);
  hand = new PanelHand(session);
  await openPanels(session);
  await layPage(session);
});

type Point = readonly [number, number];
const touch = (place: Point, shift = false) => ({ place, pressure: 1, time: 0, shift });

/** The hand goes from one place to another and lifts. */
async function drag(from: Point, to: Point, shift = false): Promise<void> {
  hand.begin(touch(from, shift));
  hand.move(touch(to, shift));
  await hand.end();
}
const tap = (place: Point): Promise<void> => {
  hand.begin(touch(place));
  return hand.end();
};

const shapes = (): Shape[] =>
  panelsOn(useTable.getState().picture).map(({ corners }): Shape => corners);
const undo = (): string | null => useTable.getState().picture?.undo ?? null;
const working = (): string | undefined => useTable.getState().selected[0];
const groups = (): string[] => panelsOn(useTable.getState().picture).map(({ group }) => group);

test("a page is laid within its margin, and worked on at once", () => {
  expect(shapes()).toEqual([
    [
      [12, 12],
      [244, 12],
      [244, 180],
      [12, 180],
    ],
  ]);
  expect(working()).toBe(`${groups()[0]}.drawing`);
  // However broad the margin, something is left of a small sheet.
  expect(liveArea({ width: 256, height: 192 }, 60)).toEqual({
    left: 77,
    top: 77,
    right: 179,
    bottom: 115,
  });
});

test("a cut is seen before it is done, runs level where it is even, and as drawn with Shift", async () => {
  hand.begin(touch([4, 90]));
  hand.move(touch([250, 102]));
  expect(usePanels.getState().tried.map((shape) => areaOf(shape))).toHaveLength(2);
  await hand.end();
  expect(usePanels.getState().tried).toEqual([]);
  expect(undo()).toBe("cut a panel");
  const gutter = (10 / 10) * (300 / 25.4);
  expect(shapes()[0]?.[2]?.[1]).toBeCloseTo(96 - gutter / 2, 9);
  expect(shapes()[1]?.[0]?.[1]).toBeCloseTo(96 + gutter / 2, 9);
  await drag([130, 8], [110, 92], true);
  expect(shapes()).toHaveLength(3);
  const [left] = shapes() as [Shape];
  expect(left.find(([x, y]) => x > 100 && y === 12)?.[0]).not.toBe(
    left.find(([x, y]) => x > 100 && y > 12)?.[0],
  );
});

test("a tap takes up the panel's drawing, and paint stays in its frame", async () => {
  await drag([4, 96], [250, 96]);
  const [upper, lower] = groups();
  await tap([60, 150]);
  expect(working()).toBe(`${lower}.drawing`);
  await tap([60, 50]);
  expect(working()).toBe(`${upper}.drawing`);
  await session.apply(stroke(line([60, 30], [60, 170]), { layer: `${upper}.drawing`, size: 8 }));
  const { engine, work } = theTable();
  expect(alphaAt(engine, work, `${upper}.drawing`, 60, 150)).toBe(1);
  expect(alphaAt(engine, work, `${lower}.drawing`, 60, 150)).toBe(0);
  // A tap beside all panels changes nothing.
  await tap([3, 3]);
  expect(working()).toBe(`${upper}.drawing`);
});

test("a gutter is pushed, a side bleeds, two panels are joined", async () => {
  await drag([4, 96], [250, 96]);
  const before = shapes().map(areaOf);
  usePanels.setState({ act: "push" });
  hand.hover([60, 92]);
  expect(usePanels.getState().near?.of).toBe(0);
  await drag([60, 92], [90, 72]);
  expect(undo()).toBe("push a gutter");
  expect(areaOf(shapes()[0] as Shape)).toBeCloseTo((before[0] as number) - 20 * 232, 6);
  expect(areaOf(shapes()[1] as Shape)).toBeCloseTo((before[1] as number) + 20 * 232, 6);
  await drag([120, 40], [120, 60]);
  expect(toldLast()).toMatch("Take hold of a panel's side");

  usePanels.setState({ act: "bleed" });
  await tap([60, 20]);
  expect(undo()).toBe("let a panel bleed");
  expect(Math.min(...(shapes()[0] ?? []).map(([, y]) => y))).toBeLessThan(0);

  usePanels.setState({ act: "join" });
  await drag([60, 50], [70, 55]);
  expect(toldLast()).toMatch("one panel into the one beside it");
  hand.begin(touch([60, 40]));
  hand.move(touch([60, 150]));
  expect(usePanels.getState().tried).toHaveLength(1);
  await hand.end();
  expect(undo()).toBe("join panels");
  expect(shapes()).toHaveLength(1);
});

test("given up, a cut is not done; without a page the hand is told what to do", async () => {
  hand.begin(touch([4, 90]));
  hand.move(touch([250, 90]));
  hand.giveUp();
  await hand.end();
  expect(shapes()).toHaveLength(1);
  expect(usePanels.getState().tried).toEqual([]);
  await session.undo();
  expect(hand.begin(touch([9, 9]))).toBe(false);
  expect(toldLast()).toMatch("no panels yet");
});

test("a way is made level or upright; a side is near only within its stretch", () => {
  expect(evenWay([0, 10], [100, 20])).toEqual([
    [0, 15],
    [100, 15],
  ]);
  expect(evenWay([10, 0], [14, 90])).toEqual([
    [12, 0],
    [12, 90],
  ]);
  const square: Shape = [
    [0, 0],
    [50, 0],
    [50, 50],
    [0, 50],
  ];
  expect(sideNear([square], [25, 4], 9)).toEqual({ of: 0, side: 0 });
  expect(sideNear([square], [70, 0], 9)).toBeNull();
});
