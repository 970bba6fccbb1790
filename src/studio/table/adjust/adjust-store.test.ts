import { line, pixelAt, stroke } from "../../../engine/engine.testing";
import { type Session } from "../session";
import { idOf, layerOf, openTable, stack, theTable } from "../table.testing";
import {
  beginAdjusting,
  endAdjusting,
  firstOthers,
  firstTones,
  setAdjustment,
  useAdjust,
} from "./adjust-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const colour = (): number[] => {
  const { engine, work } = theTable();
  return pixelAt(engine, work, idOf("A"), 120, 96);
};
const undo = (): string | null => theTable().work.history.undoLabel;
const inverted = { kind: "invert" as const };

beforeEach(async () => {
  session = await openTable();
  useAdjust.setState({ adjustment: null, layer: null, isNew: false, before: false });
  theTable().work.apply(
    stroke(line([20, 96], [230, 96]), { size: 40, colour: "#204060", brush: "pen-even" }),
  );
});

describe("on what the layers hold", () => {
  test("it is seen as another layer over them, done when it is kept, and nothing when it is not", async () => {
    beginAdjusting(session, "invert", null);
    const { shown } = theTable();
    expect(shown.layers?.some(({ tone }) => tone?.kind === "invert")).toBe(true);
    expect(colour()).toEqual([0x20, 0x40, 0x60, 255]);
    await endAdjusting(session, false);
    expect(shown.layers).toBeNull();
    expect(colour()).toEqual([0x20, 0x40, 0x60, 255]);
    beginAdjusting(session, "invert", null);
    await endAdjusting(session, true);
    expect(colour()).toEqual([0xdf, 0xbf, 0x9f, 255]);
    expect(useAdjust.getState().adjustment).toBeNull();
    await session.undo();
    expect(colour()).toEqual([0x20, 0x40, 0x60, 255]);
  });

  test("held, it shows what was before, and shows it again when let go", () => {
    beginAdjusting(session, "invert", null);
    useAdjust.setState({ before: true });
    setAdjustment(session, inverted);
    expect(theTable().shown.layers).toBeNull();
    useAdjust.setState({ before: false });
    setAdjustment(session, inverted);
    expect(theTable().shown.layers).not.toBeNull();
  });

  test("what looks at neighbours is tried out whole, the newest only, and leaves nothing behind", async () => {
    beginAdjusting(session, "blur", null);
    for (const radius of [10, 20, 30]) setAdjustment(session, { kind: "blur", radius });
    await Promise.resolve();
    await Promise.resolve();
    expect(theTable().tried).toMatchObject({ adjustment: { kind: "blur", radius: 30 } });
    expect(colour()).not.toEqual([0x20, 0x40, 0x60, 255]);
    await endAdjusting(session, false);
    expect(colour()).toEqual([0x20, 0x40, 0x60, 255]);
    expect(undo()).toBe("paint");
  });

  test.each(Object.keys({ ...firstTones, ...firstOthers }))(
    "%s begins with what can be kept",
    async (kind) => {
      beginAdjusting(session, kind as keyof typeof firstTones, null);
      await endAdjusting(session, true);
      expect(undo()).not.toBe("paint");
    },
  );
});

describe("as a layer", () => {
  const newLayer = async (): Promise<string> => {
    const id = await session.addLayer({ kind: "adjustment", name: "Invert", tone: inverted });
    if (!id) throw new Error("no layer was made");
    beginAdjusting(session, "invert", id, true);
    return id;
  };

  test("thrown away, a layer that was made for it goes too", async () => {
    await newLayer();
    await endAdjusting(session, false);
    expect(stack()).toEqual(["A"]);
  });

  test("kept, it holds what was set; thrown away later, it stays as it was kept", async () => {
    const id = await newLayer();
    setAdjustment(session, { kind: "posterize", steps: 3 });
    await endAdjusting(session, true);
    expect(layerOf("Invert").tone).toEqual({ kind: "posterize", steps: 3 });
    beginAdjusting(session, "posterize", id);
    expect(useAdjust.getState().adjustment).toEqual({ kind: "posterize", steps: 3 });
    setAdjustment(session, { kind: "posterize", steps: 9 });
    await endAdjusting(session, false);
    expect(layerOf("Invert").tone).toEqual({ kind: "posterize", steps: 3 });
    expect(stack()).toEqual(["A", "Invert"]);
    expect(colour()).toEqual([0x20, 0x40, 0x60, 255]);
  });
});
