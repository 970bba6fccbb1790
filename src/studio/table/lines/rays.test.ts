import { line, stroke } from "../../../engine/engine.testing";
import { type Sample } from "../../../engine/stroke/sample";
import { type Line } from "../../../engine/lines/line";
import { linesOf } from "../../../engine/lines/line-set";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, onAScreen, openTable, theTable, toldLast } from "../table.testing";
import { chosenActions, cornersAlong } from "./chosen";
import { LineHand } from "./line-hand";
import { chooseLines, type Point, useLines } from "./lines-store";
import { rayBrush, raysOf, vanishingPointOf } from "./rays";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

const first = useLines.getState();
let session: Session;
let hand: LineHand;

onAScreen();

beforeEach(async () => {
  session = await openTable();
  useLines.setState({ ...first, act: "speed", rays: { ...first.rays, gap: 5, across: 6 } }, true);
  hand = new LineHand(session);
  await session.addLayer({ kind: "lines", name: "Ink" });
  useTable.setState({ tool: "lines", brush: "pen-even" });
});

afterEach(() => hand.stop());

const lines = (): readonly Line[] => {
  const { engine, work } = theTable();
  return linesOf(engine.store, work.picture, idOf("Ink")).lines;
};
const state = () => useTable.getState().picture;

async function drag(from: Point, to: Point): Promise<void> {
  hand.begin({ place: from, pressure: 1, time: 0, shift: false });
  hand.move({ place: to, pressure: 1, time: 8, shift: false });
  await hand.end();
}

/** The amounts are changed, and what follows of it is done. */
async function change(rays: Partial<(typeof first)["rays"]>): Promise<void> {
  const place = state()?.place;
  useLines.setState(({ rays: before }) => ({ rays: { ...before, ...rays } }));
  for (let i = 0; i < 200 && place === state()?.place; i++) await new Promise(setImmediate);
  for (let i = 0; i < 50; i++) await new Promise(setImmediate);
}

test("speed lines are laid along a drag, as one step; a tap is told what to do", async () => {
  await drag([30, 90], [200, 95]);
  expect(state()?.undo).toBe("speed lines");
  expect(lines()).toHaveLength(12);
  await drag([30, 90], [31, 90]);
  expect(toldLast()).toMatch("Drag the way");
  useLines.setState({ act: "focus" });
  await drag([30, 90], [31, 90]);
  expect(toldLast()).toMatch("Press where");
});

test("amounts that are changed right after change what was laid, and it stays one step", async () => {
  await drag([30, 90], [200, 95]);
  const { undo, place } = state() ?? {};
  await change({ gap: 10 });
  expect(lines()).toHaveLength(6);
  expect(state()).toMatchObject({ undo, place });
  await session.undo();
  expect(lines()).toHaveLength(0);
});

test("once something else was done, they stay as they are", async () => {
  await drag([30, 90], [200, 95]);
  await session.apply(stroke(line([30, 20], [90, 20]), { layer: idOf("Ink") }));
  await change({ gap: 10 });
  expect(lines()).toHaveLength(13);
  expect(state()?.undo).not.toBe("speed lines");
});

test("focus lines keep clear what the drag says, and stay in the panel of their layer", async () => {
  const box = { left: 40, top: 30, right: 220, bottom: 160 };
  await session.apply({ do: "panels.lay", id: "p", box, style: { width: 2, colour: "#101014" } });
  const command = raysOf("focus", "p.drawing", [120, 90], [150, 90], 7);
  expect(command).toMatchObject({ do: "line.focus", clear: [30, 30], within: box });
  useLines.setState(({ rays }) => ({ rays: { ...rays, height: 50 } }));
  expect(raysOf("focus", "p.drawing", [120, 90], [150, 90], 7)).toMatchObject({ clear: [30, 15] });
  expect(raysOf("focus", idOf("Ink"), [120, 90], [150, 90], 7)).toMatchObject({ within: null });
});

test("they run to the vanishing point that the drag means, where guides are followed", async () => {
  const guides = [{ kind: "vanishing points", points: [{ x: 600, y: 90 }] }] as const;
  expect(
    vanishingPointOf([{ ...guides[0], points: [{ x: 600, y: 90 }] }], [30, 90], [90, 100]),
  ).toEqual([600, 90]);
  expect(
    vanishingPointOf([{ ...guides[0], points: [{ x: 600, y: 90 }] }], [30, 90], [40, 190]),
  ).toBeNull();
  await session.setGuides([
    { kind: "vanishing points", points: [{ x: 600, y: 90 }] },
    { kind: "parallel", angle: Math.PI / 2, at: { x: 9, y: 9 } },
  ]);
  useTable.setState({ follow: true });
  const speed = (to: Point) => raysOf("speed", idOf("Ink"), [30, 90], to, 7);
  expect(speed([90, 100])).toMatchObject({ toward: [600, 90], to: [90, 100] });
  // Upright it follows the parallels, and goes exactly their way.
  expect(speed([36, 180])).toMatchObject({ toward: null, from: [30, 90] });
  const upright = speed([36, 180]);
  expect(upright?.do === "line.speed" && upright.to[0]).toBeCloseTo(30, 9);
  useTable.setState({ follow: false });
  expect(speed([90, 100])).toMatchObject({ toward: null });
});

test("a brush that draws no lines is not taken for them", () => {
  expect(rayBrush()).toBe("pen-even");
  useTable.setState({ brush: "pencil-2b" });
  expect(rayBrush()).toBe("pencil-2b");
  useTable.setState({ brush: "oil-flat" });
  expect(rayBrush()).toBe("pen-even");
});

test("what chosen lines enclose is selected, by the curve itself", async () => {
  const layer = idOf("Ink");
  const samples = Array.from({ length: 65 }, (_, i): Sample => {
    const a = (i / 64) * 2 * Math.PI;
    return [i * 8, 120 + 60 * Math.cos(a), 96 + 60 * Math.sin(a), 0.8, 1.3, 0.5, 0];
  });
  await session.apply(stroke(samples, { layer, size: 4 }));
  await chooseLines(session, [1]);
  const [look] = useLines.getState().looks;
  const corners = cornersAlong(look ?? { points: [] });
  for (const [x, y] of corners) expect(Math.abs(Math.hypot(x - 120, y - 96) - 60)).toBeLessThan(1);
  await chosenActions(session)
    .find(({ name }) => name === "Select what they enclose")
    ?.act();
  expect(state()?.selection).toBe(true);
  expect(state()?.undo).toBe("select");
  useLines.setState({ looks: [] });
  await chosenActions(session)
    .find(({ name }) => name === "Select what they enclose")
    ?.act();
  expect(toldLast()).toMatch("encloses nothing");
});
