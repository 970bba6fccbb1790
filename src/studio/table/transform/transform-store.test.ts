import { alphaAt, fingerprint, line, stroke } from "../../../engine/engine.testing";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, openTable, theTable, toldLast } from "../table.testing";
import { type Placement } from "./placement";
import {
  beginTransform,
  drag,
  endTransform,
  keepWhenLeft,
  place,
  putDown,
  toggleTransform,
  useTransform,
} from "./transform-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const alpha = (x: number, y: number): number => {
  const { engine, work } = theTable();
  return alphaAt(engine, work, idOf("A"), x, y);
};
const print = (): string => fingerprint(theTable().engine, theTable().work);
const steps = (): number => theTable().work.place;

/** The piece in hand, so many px to the right of where it was taken up. */
function moved(by: number): Placement {
  const { placement } = useTransform.getState();
  if (placement.kind !== "free") throw new Error("it is not free");
  return { kind: "free", free: { ...placement.free, x: placement.free.x + by } };
}

beforeEach(async () => {
  session = await openTable();
  useTransform.setState({ piece: null, dragged: false, filter: "bicubic" });
  theTable().work.apply(stroke(line([40, 60], [90, 60]), { size: 20, brush: "pen-even" }));
});

test("dragged and put down, a piece lies there, and all of it is one step", async () => {
  const [before, at] = [print(), steps()];
  await toggleTransform(session);
  expect(useTable.getState().tool).toBe("transform");
  for (const by of [20, 60, 100]) {
    drag(session, moved(by === 20 ? 20 : 40));
    expect(useTransform.getState().dragged).toBe(true);
    await putDown(session);
    expect(useTransform.getState().dragged).toBe(false);
  }
  await toggleTransform(session);
  expect(useTable.getState().tool).toBe("brush");
  expect([alpha(60, 60), alpha(160, 60)]).toEqual([0, 1]);
  expect(steps()).toBe(at + 1);
  await session.undo();
  expect(print()).toBe(before);
});

test("put back where it was, or thrown away, nothing has been done", async () => {
  const [before, at] = [print(), steps()];
  await beginTransform(session, null);
  drag(session, moved(50));
  await putDown(session);
  drag(session, moved(-50));
  await putDown(session);
  await endTransform(session, true);
  expect([print(), steps()]).toEqual([before, at]);
  await beginTransform(session, null);
  await place(session, moved(70));
  expect(alpha(140, 60)).toBe(1);
  await endTransform(session, false);
  expect([print(), steps()]).toEqual([before, at]);
});

test("of a box only what lies in it is taken", async () => {
  await beginTransform(session, { left: 0, top: 0, right: 64, bottom: 192 });
  await place(session, moved(120));
  await endTransform(session, true);
  expect([alpha(50, 60), alpha(80, 60), alpha(170, 60), alpha(200, 60)]).toEqual([0, 1, 1, 0]);
});

test("another tool or another layer keeps it where it lies; the same layer chosen again does not", async () => {
  const stop = keepWhenLeft(session);
  await beginTransform(session, null);
  await place(session, moved(60));
  session.select([...useTable.getState().selected]);
  expect(useTransform.getState().piece).not.toBeNull();
  useTable.setState({ tool: "fill" });
  expect(useTransform.getState().piece).toBeNull();
  expect(alpha(120, 60)).toBe(1);
  stop();
});

test("anything else that is done keeps it first; undo puts it back", async () => {
  await beginTransform(session, null);
  await place(session, moved(60));
  await session.setLayers({ opacity: 0.5 });
  expect(useTransform.getState().piece).toBeNull();
  expect(alpha(120, 60)).toBe(1);
  await session.undo();
  await beginTransform(session, null);
  await place(session, moved(60));
  await session.undo();
  expect(useTransform.getState().piece).toBeNull();
  expect(alpha(120, 60)).toBe(1);
  expect(alpha(200, 60)).toBe(0);
});

test("nothing chosen and nothing painted are told, and the brush comes back to hand", async () => {
  await session.addLayer({ name: "Bare" });
  await beginTransform(session, null);
  expect(toldLast()).not.toBe("");
  expect(useTable.getState().tool).toBe("brush");
  session.select([]);
  await beginTransform(session, null);
  expect(toldLast()).toContain("Choose a layer");
});
