import { alphaAt, line, pixelAt, stroke } from "../../../engine/engine.testing";
import { powderOf } from "../../../engine/dry/dry.testing";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, openTable, stack, theTable, toldLast } from "../table.testing";
import { copySelected, cutSelected, floatSelected, hasClipping, pasteClipping } from "./clipboard";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const alpha = (layer: string, x: number, y: number): number => {
  const { engine, work } = theTable();
  return alphaAt(engine, work, idOf(layer), x, y);
};
const box = { left: 60, top: 60, right: 120, bottom: 130 };

beforeEach(async () => {
  session = await openTable();
});

/** A bar from 20 to 230 at the height 96, and a selection of a part of it. */
async function paintedAndSelected(): Promise<void> {
  theTable().work.apply(stroke(line([20, 96], [230, 96]), { size: 40, colour: "#306090" }));
  await session.selectShape({ kind: "box", box }, "replace");
}

test("nothing is pasted before anything was copied, and an empty layer has nothing to copy", async () => {
  expect(hasClipping()).toBe(false);
  await pasteClipping(session, false);
  expect(toldLast()).toContain("nothing copied yet");
  expect(await copySelected(session, false)).toBe(false);
  expect(toldLast()).toContain("Nothing was copied");
  expect(stack()).toEqual(["A"]);
});

test("what is selected is copied alone and pasted where it was, to the bit", async () => {
  await paintedAndSelected();
  expect(await copySelected(session, false)).toBe(true);
  // Here is no system's clipboard: that is said, and the copy is kept all the same.
  expect(toldLast()).toContain("system’s clipboard");
  await session.selectNone();
  await pasteClipping(session, false);
  expect(stack()).toEqual(["A", "Pasted"]);
  expect([alpha("Pasted", 90, 96), alpha("Pasted", 140, 96), alpha("Pasted", 50, 96)]).toEqual([
    1, 0, 0,
  ]);
  const { engine, work } = theTable();
  for (const [x, y] of [
    [60, 80],
    [119, 110],
    [90, 76],
  ] as const)
    expect(pixelAt(engine, work, idOf("Pasted"), x, y)).toEqual(
      pixelAt(engine, work, idOf("A"), x, y),
    );
});

test("pasted in the middle, it lies in the middle of the view", async () => {
  await paintedAndSelected();
  await copySelected(session, false);
  await session.selectNone();
  useTable.setState({ view: { ...useTable.getState().view, x: 200, y: 50 } });
  await pasteClipping(session, true);
  expect(alpha("Pasted", 200, 50)).toBe(1);
  expect(alpha("Pasted", 90, 96)).toBe(0);
});

test("cut, it is gone from where it was; the rest of the bar stays", async () => {
  await paintedAndSelected();
  await cutSelected(session);
  expect([alpha("A", 90, 96), alpha("A", 140, 96)]).toEqual([0, 1]);
  await session.undo();
  expect(alpha("A", 90, 96)).toBe(1);
});

test("floated, it lies on a layer of its own and nothing is selected any more, in one step", async () => {
  await paintedAndSelected();
  await floatSelected(session);
  expect(stack()).toEqual(["A", "Floating"]);
  expect([alpha("A", 90, 96), alpha("Floating", 90, 96)]).toEqual([0, 1]);
  expect(useTable.getState().picture?.selection).toBe(false);
  await session.undo();
  expect(stack()).toEqual(["A"]);
  expect(alpha("A", 90, 96)).toBe(1);
  expect(useTable.getState().picture?.selection).toBe(true);
});

test("floated graphite stays graphite: its powder goes with it, to the last grain", async () => {
  theTable().work.apply(stroke(line([20, 96], [230, 96]), { brush: "pencil-6b", size: 40 }));
  await session.selectShape(
    { kind: "box", box: { left: 60, top: 0, right: 120, bottom: 192 } },
    "replace",
  );
  const { engine, work } = theTable();
  const before = powderOf(engine, work, idOf("A"));
  await floatSelected(session);
  const [left, gone] = [idOf("A"), idOf("Floating")].map((id) => powderOf(engine, work, id));
  expect(gone?.mass).toBeGreaterThan(0.2 * before.mass);
  for (const part of ["mass", "loose"] as const)
    expect((left?.[part] ?? 0) + (gone?.[part] ?? 0)).toBeCloseTo(before[part], 2);
});

test("where a layer has no paint nothing is floated, and that is said", async () => {
  await paintedAndSelected();
  await session.selectShape(
    { kind: "box", box: { left: 0, top: 0, right: 20, bottom: 20 } },
    "replace",
  );
  await floatSelected(session);
  expect(stack()).toEqual(["A"]);
  expect(toldLast()).toBe("Nothing was floated: “A” has no paint here.");
  expect(useTable.getState().picture?.selection).toBe(true);
});

test("floated with everything selected, all of it goes", async () => {
  await paintedAndSelected();
  await session.selectShape({ kind: "all" }, "replace");
  await floatSelected(session);
  expect([alpha("A", 90, 96), alpha("Floating", 90, 96)]).toEqual([0, 1]);
  expect([alpha("A", 140, 96), alpha("Floating", 140, 96)]).toEqual([0, 1]);
});

test("merged, all that is seen is copied, whatever is chosen", async () => {
  await paintedAndSelected();
  await session.addLayer({ name: "Over" });
  theTable().work.apply(
    stroke(line([90, 20], [90, 180]), { layer: idOf("Over"), size: 20, colour: "#c02020" }),
  );
  session.select([idOf("A")]);
  await copySelected(session, true);
  await session.selectNone();
  await pasteClipping(session, false);
  const { engine, work } = theTable();
  expect(pixelAt(engine, work, idOf("Pasted"), 90, 96)).toEqual([0xc0, 0x20, 0x20, 255]);
  expect(pixelAt(engine, work, idOf("Pasted"), 70, 96)).toEqual([0x30, 0x60, 0x90, 255]);
});
