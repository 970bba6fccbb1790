import { USUAL_HALFTONE } from "../../../engine/halftone/halftone";
import { alphaAt } from "../../../engine/engine.testing";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, layerOf, openTable, stack, theTable } from "../table.testing";
import {
  addHalftone,
  closeHalftone,
  keepTried,
  openHalftone,
  removeHalftone,
  tryHalftone,
  useHalftone,
} from "./halftone-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const undo = (): string | null => useTable.getState().picture?.undo ?? null;

beforeEach(async () => {
  useHalftone.setState({ layer: null, tried: null });
  session = await openTable();
  // What the hand turns to is heard by the window.
  Object.assign(globalThis, { window: new EventTarget() });
});

test("a layer that has none is given one in the colour in hand, and it is open to be changed", async () => {
  useTable.setState({ colour: "#203050" });
  await openHalftone(session, layerOf("A"));
  expect(layerOf("A").halftone).toEqual({ ...USUAL_HALFTONE, ink: "#203050" });
  expect(useHalftone.getState().layer).toBe(idOf("A"));
  await removeHalftone(session);
  expect(layerOf("A").halftone).toBeNull();
  expect(useHalftone.getState().layer).toBeNull();
});

test("what is tried is not in the picture until it is kept, and then is one step", async () => {
  await openHalftone(session, layerOf("A"));
  for (const lpi of [50, 40, 30]) tryHalftone(session, { ...USUAL_HALFTONE, lpi });
  expect(layerOf("A").halftone?.lpi).toBe(60);
  await keepTried(session);
  expect(layerOf("A").halftone?.lpi).toBe(30);
  expect(useHalftone.getState().tried).toBeNull();
  await session.undo();
  expect(layerOf("A").halftone?.lpi).toBe(60);
});

test("closed, what was tried last is kept", async () => {
  await openHalftone(session, layerOf("A"));
  tryHalftone(session, { ...USUAL_HALFTONE, angle: 15 });
  await closeHalftone(session);
  expect(layerOf("A").halftone?.angle).toBe(15);
});

test("a new one takes what is selected in one act, and without a selection is empty", async () => {
  await addHalftone(session);
  expect(stack()).toEqual(["A", "Halftone"]);
  await session.undo();
  await session.apply({
    do: "select",
    shape: { kind: "box", box: { left: 20, top: 20, right: 90, bottom: 80 } },
  });
  await addHalftone(session);
  const { engine, work } = theTable();
  expect(alphaAt(engine, work, idOf("Halftone"), 50, 50)).toBe(1);
  expect(alphaAt(engine, work, idOf("Halftone"), 150, 50)).toBe(0);
  expect(undo()).toBe("add layer");
  await session.undo();
  expect(stack()).toEqual(["A"]);
});
