import { alphaAt, line, stroke } from "../../../engine/engine.testing";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, openTable, theTable, toldLast } from "../table.testing";
import {
  change,
  cutFromLayer,
  cutFromSelection,
  invert,
  layAll,
  letGoWhenLeft,
  putDown,
  takeInHand,
  throwAway,
  useStencils,
} from "./stencil-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const stencils = () => theTable().work.picture.structure.stencils;
const alpha = (x: number): number => {
  const { engine, work } = theTable();
  return alphaAt(engine, work, idOf("A"), x, 96);
};
const paint = (): void => {
  theTable().work.apply(stroke(line([10, 96], [245, 96]), { size: 30 }));
};
const cut = async (): Promise<string> => {
  const box = { left: 100, top: 50, right: 160, bottom: 150 };
  await session.selectShape({ kind: "box", box }, "replace");
  await cutFromSelection(session);
  return stencils().at(-1)?.id ?? "";
};

beforeEach(async () => {
  session = await openTable();
  useStencils.setState({ inHand: null, dragged: null, veiled: true });
});

test("cut from the selection it stands in its place; painted over, it holds back until it is turned round", async () => {
  await cut();
  expect(useTable.getState().picture?.selection).toBe(false);
  expect(stencils().map(({ name, way, on }) => [name, way, on])).toEqual([
    ["Stencil 1", "holds", true],
  ]);
  paint();
  expect([alpha(50), alpha(130), alpha(200)]).toEqual([1, 0, 1]);
  await session.undo();
  const [stencil] = stencils();
  if (stencil) await invert(session, stencil);
  paint();
  expect([alpha(50), alpha(130), alpha(200)]).toEqual([0, 1, 0]);
});

test("names go on counting, past those that are taken", async () => {
  await cut();
  await cut();
  await change(session, [stencils()[0]?.id ?? ""], { name: "Stencil 3" });
  await throwAway(session, stencils()[1]?.id ?? "");
  await cut();
  await cut();
  expect(new Set(stencils().map(({ name }) => name)).size).toBe(3);
});

test("all are put by and laid again in one step each; what is in hand is let go", async () => {
  const id = await cut();
  await cut();
  takeInHand(id);
  await layAll(session, false);
  expect(stencils().map(({ on }) => on)).toEqual([false, false]);
  expect(useStencils.getState().inHand).toBeNull();
  paint();
  expect(alpha(130)).toBe(1);
  await session.undo();
  await session.undo();
  expect(stencils().map(({ on }) => on)).toEqual([true, true]);
  // Where all lie already, nothing is done.
  const before = theTable().work.place;
  await layAll(session, true);
  expect(theTable().work.place).toBe(before);
});

test("dragged, it lies where it was put down", async () => {
  const id = await cut();
  takeInHand(id);
  const { place } = stencils()[0] ?? {};
  if (!place) throw new Error("it has no place");
  await putDown(session);
  expect(stencils()[0]?.place).toEqual(place);
  useStencils.setState({ dragged: { ...place, x: place.x - 80 } });
  await putDown(session);
  expect(useStencils.getState().dragged).toBeNull();
  paint();
  expect([alpha(50), alpha(130)]).toEqual([0, 1]);
});

test("another tool lets it go, and so does throwing it away", async () => {
  const id = await cut();
  const stop = letGoWhenLeft();
  takeInHand(id);
  useTable.setState({ tool: "fill" });
  expect(useStencils.getState().inHand).toBeNull();
  takeInHand(id);
  expect(useTable.getState().tool).toBe("brush");
  await throwAway(session, id);
  expect(useStencils.getState().inHand).toBeNull();
  expect(stencils()).toEqual([]);
  stop();
});

test("an empty layer makes no stencil, and without a layer a word says so", async () => {
  await cutFromLayer(session, "shape");
  expect(stencils()).toEqual([]);
  expect(toldLast()).not.toBe("");
  session.select([]);
  await cutFromLayer(session, "dark");
  expect(toldLast()).toContain("Choose a layer");
});
