import { line, pixelAt, stroke } from "../../../engine/engine.testing";
import { linesOf } from "../../../engine/lines/line-set";
import { type Line } from "../../../engine/lines/line";
import { shapeOf } from "../../../engine/lines/shape";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, onAScreen, openTable, theTable, toldLast } from "../table.testing";
import {
  chooseAll,
  chooseLike,
  chosenActions,
  middleOf,
  removeChosen,
  setChosen,
  turnedLines,
} from "./chosen";
import { LineHand } from "./line-hand";
import { chooseLines, type Point, useLines } from "./lines-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

const first = useLines.getState();
let session: Session;
let hand: LineHand;

onAScreen();

/** A table on which a level line, 1, is crossed by an upright one, 2; both of 8 px. */
beforeEach(async () => {
  session = await openTable();
  useLines.setState(first, true);
  hand = new LineHand(session);
  await session.addLayer({ kind: "lines", name: "Ink" });
  const layer = idOf("Ink");
  await session.apply(stroke(line([30, 90], [220, 90]), { layer, size: 8 }));
  await session.apply(stroke(line([180, 30], [180, 160]), { layer, size: 8, colour: "#203060" }));
  useTable.setState({ tool: "lines" });
});

afterEach(() => hand.stop());

const lines = (): readonly Line[] => {
  const { engine, work } = theTable();
  return linesOf(engine.store, work.picture, idOf("Ink")).lines;
};
const inked = (x: number, y: number): boolean => {
  const { engine, work } = theTable();
  return pixelAt(engine, work, idOf("Ink"), x, y)[3] === 255;
};
const undo = (): string | null => useTable.getState().picture?.undo ?? null;

/** The hand goes along a way and lifts. */
async function along(way: readonly Point[], shift = false): Promise<void> {
  const [start, ...rest] = way;
  const touch = (place: Point, i: number) => ({ place, pressure: 1, time: i * 8, shift });
  if (!start || !hand.begin(touch(start, 0))) return;
  rest.forEach((place, i) => hand.move(touch(place, i + 1)));
  await hand.end();
}

const way = (from: Point, to: Point, steps = 12): Point[] =>
  Array.from({ length: steps + 1 }, (_, i): Point => [
    from[0] + ((to[0] - from[0]) * i) / steps,
    from[1] + ((to[1] - from[1]) * i) / steps,
  ]);

test("a line is pulled as one step, and a hand that misses is told", async () => {
  useLines.setState({ act: "pull", reach: 60 });
  await along(way([100, 92], [100, 122]));
  expect(undo()).toBe("pull a line");
  expect(inked(100, 120)).toBe(true);
  expect(inked(100, 90)).toBe(false);
  await along(way([100, 20], [100, 40]));
  expect(toldLast()).toMatch("no line there");
  expect(theTable().work.isTrying).toBe(false);
});

test("what a gesture would do is shown before the pen lifts, and taken back where it is given up", async () => {
  useLines.setState({ act: "erase", erasing: "whole", radius: 12 });
  hand.begin({ place: [60, 70], pressure: 1, time: 0, shift: false });
  hand.move({ place: [60, 110], pressure: 1, time: 8, shift: false });
  await new Promise(process.nextTick);
  expect(theTable().tried).toMatchObject({ do: "line.erase", how: "whole" });
  hand.giveUp();
  expect(theTable().tried).toBeNull();
  expect(lines()).toHaveLength(2);
});

test("gestures that follow each other at once are all done, in their order", async () => {
  useLines.setState({ act: "erase", erasing: "touched", radius: 12 });
  await Promise.all([
    along(way([60, 70], [60, 110])),
    along(way([100, 70], [100, 110])),
    along(way([140, 70], [140, 110])),
  ]);
  expect(lines()).toHaveLength(5);
  expect([60, 100, 140].map((x) => inked(x, 90))).toEqual([false, false, false]);
});

test("an overshoot is cut by a tap; a stretch is redrawn; a line goes on; ends are joined", async () => {
  useLines.setState({ act: "cut" });
  await along([[205, 90]]);
  expect(inked(205, 90)).toBe(false);
  useLines.setState({ act: "redraw" });
  await along([...way([60, 90], [90, 60]), ...way([92, 60], [130, 90])]);
  expect(undo()).toBe("redraw a line");
  expect(inked(91, 63)).toBe(true);
  await along(way([34, 90], [12, 120]));
  expect(inked(16, 114)).toBe(true);
  await along(way([20, 20], [90, 25]));
  expect(toldLast()).toMatch("Begin or end on a line");
  await session.apply(stroke(line([180, 172], [180, 186]), { layer: idOf("Ink"), size: 8 }));
  useLines.setState({ act: "join" });
  await along(way([180, 156], [180, 176]));
  expect(undo()).toBe("join lines");
  expect(inked(180, 166)).toBe(true);
  await along([[180, 100]]);
  expect(toldLast()).toMatch("Drag from the end");
});

test("weight falls on the chosen lines alone, and smoothing on what was touched", async () => {
  await chooseLines(session, [1]);
  useLines.setState({ act: "weight", weighing: "thicken", radius: 40 });
  const widest = (id: number): number =>
    Math.max(...(lines().find((one) => one.id === id)?.width ?? []).filter((_, i) => i % 2));
  await along(way([150, 90], [200, 90]));
  expect(widest(1)).toBeCloseTo(5, 1);
  expect(widest(2)).toBeCloseTo(4, 1);
  await chooseLines(session, []);
  useLines.setState({ act: "smooth" });
  await along(way([150, 90], [200, 90]));
  expect(undo()).toBe("smooth lines");
  expect(useLines.getState().touched).toEqual([]);
});

test("lines are chosen by a tap, more with Shift, by a loop, by likeness, and all at once; then moved", async () => {
  useLines.setState({ act: "choose" });
  const chosen = (): readonly number[] => useLines.getState().chosen;
  await along([[60, 92]]);
  expect(chosen()).toEqual([1]);
  await along([[180, 40]], true);
  expect(chosen()).toEqual([1, 2]);
  await along([[180, 40]], true);
  expect(chosen()).toEqual([1]);
  await along([[10, 10]]);
  expect(chosen()).toEqual([]);
  await along([...way([160, 20], [200, 20]), ...way([200, 170], [160, 170])]);
  expect(chosen()).toEqual([2]);
  await chooseLike(session, "brush");
  expect(chosen()).toEqual([1, 2]);
  await chooseLike(session, "colour");
  expect(chosen()).toEqual([1, 2]);
  await chooseAll(session);
  await along(way([60, 90], [60, 110]));
  expect(undo()).toBe("move lines");
  expect(inked(60, 110)).toBe(true);
  expect(inked(60, 90)).toBe(false);
});

test("what is chosen takes colour and width, is mirrored, closed, duplicated and removed", async () => {
  await chooseLines(session, [1]);
  useTable.setState({ colour: "#aa3020" });
  await setChosen(session, { colour: "#aa3020", times: 2 });
  expect(lines()[0]).toMatchObject({ colour: "#aa3020" });
  const act = async (name: string): Promise<void> => {
    const found = chosenActions(session).find((one) => one.name === name);
    if (!found) throw new Error(`there is no ${name}`);
    await found.act();
  };
  const start = (): number => lines().find(({ id }) => id === 1)?.curve.points[0] ?? NaN;
  await chooseLines(session, [1]);
  await act("Mirror across");
  expect(start()).toBeCloseTo(220, 3);
  await act("Turn round");
  expect(start()).toBeCloseTo(30, 3);
  await act("Ends drawn out");
  expect(lines().find(({ id }) => id === 1)?.taper.out).toBeGreaterThan(0);
  await act("To the front");
  expect(lines().at(-1)?.id).toBe(1);
  await act("Duplicate");
  expect(lines()).toHaveLength(3);
  await act("Thicker in shadow");
  expect(toldLast()).toMatch("No sun pin is set");
  await act("Close");
  const closed = lines().find(({ id }) => id === 1) as Line;
  expect(closed.closed).toBe(true);
  expect(shapeOf(closed).total).toBeGreaterThan(100);
  await act("Remove");
  expect(lines().map(({ id }) => id)).toEqual([2, 3]);
  await chooseLines(session, [1]);
  expect(removeChosen(session)).toBe(false);
});

test("on a layer of paint nothing is corrected, and it is said where lines are", async () => {
  session.select([idOf("A")]);
  useLines.setState({ act: "pull" });
  await along(way([60, 90], [60, 110]));
  expect(toldLast()).toMatch("line layer");
  expect(lines()).toHaveLength(2);
});

test("chosen lines are repeated along a drag; without any it is told", async () => {
  useLines.setState({ act: "repeat", repeating: { gap: 40, turns: false } });
  await along(way([180, 100], [60, 100]));
  expect(toldLast()).toMatch("Choose lines first");
  expect(lines()).toHaveLength(2);
  await chooseLines(session, [2]);
  await along(way([180, 100], [60, 100]));
  expect(undo()).toBe("repeat lines along a way");
  // 4 mm on this sheet, from the line's own place to the left.
  const gap = lines().map((line) => (shapeOf(line).box.left + shapeOf(line).box.right) / 2);
  const [own, next] = [gap[1] as number, gap[2] as number];
  const ppi = theTable().work.picture.ppi;
  expect(own - next).toBeCloseTo((4 / 25.4) * ppi, 1);
  expect(lines().length).toBe(2 + Math.floor(120 / ((4 / 25.4) * ppi)));
});

test("the chosen lines' middle is that of all they reach, and a turn is about it", async () => {
  await chooseLines(session, [1, 2]);
  const { at, reach } = middleOf(useLines.getState().looks);
  expect(at[0]).toBeCloseTo(125, 0);
  expect(at[1]).toBeCloseTo(95, 0);
  expect(reach).toBeCloseTo(Math.hypot(190, 130) / 2, 0);
  const command = turnedLines(at, { angle: Math.PI, times: 1 });
  if (command) await session.apply(command);
  expect(inked(70, 140)).toBe(true);
  expect(inked(180, 40)).toBe(false);
});
