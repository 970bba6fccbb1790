import { line, stroke } from "../../../engine/engine.testing";
import { type Hand } from "../hand";
import { useRegion } from "../region/region-store";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { idOf, layerOf, openTable, stack, theTable } from "../table.testing";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

/** As much of a page as keys need: a window that hears them, and things that may have the focus. */
class Thing extends EventTarget {
  isContentEditable = false;
  tagName: string;
  type = "";
  constructor(tagName = "DIV") {
    super();
    this.tagName = tagName;
  }
  closest(): Thing | null {
    return this.tagName === "BUTTON" ? this : null;
  }
}
class Field extends Thing {
  constructor(type: string) {
    super("INPUT");
    this.type = type;
  }
}
type Globals = Record<"window" | "document" | "HTMLElement" | "HTMLInputElement", unknown>;
const globals = globalThis as unknown as Globals;
const page = new EventTarget();
const body = new Thing("BODY");
Object.assign(globals, {
  window: page,
  document: { body, documentElement: { dataset: {} } },
  HTMLElement: Thing,
  HTMLInputElement: Field,
});

type Press = { ctrlKey?: boolean; shiftKey?: boolean; repeat?: boolean; on?: Thing };

/** A key's event. Answers whether the browser would do with it what it does otherwise. */
function send(type: "keydown" | "keyup", code: string, press: Press = {}): boolean {
  const { on = body, ...more } = press;
  const key = code.replace(/^Key/, "").toLowerCase();
  const names: Record<string, string> = { Tab: "Tab", Escape: "Escape", Delete: "Delete" };
  const event = new Event(type, { cancelable: true });
  const plain = { ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, repeat: false };
  for (const [name, value] of Object.entries({
    ...plain,
    ...more,
    code,
    key: names[code] ?? key,
    target: on,
    timeStamp: now,
  }))
    Object.defineProperty(event, name, { value });
  return page.dispatchEvent(event);
}

let now = 0;
let session: Session;
let stop: () => void;
const hand = {
  held: null,
  shift: false,
  usedWhileHeld: false,
  isDrawing: false,
  hasFocus: true,
} as {
  -readonly [K in keyof Hand]?: Hand[K];
} & { held: Hand["held"]; usedWhileHeld: boolean };

const down = (code: string, press?: Press): boolean => send("keydown", code, press);
const up = (code: string): boolean => send("keyup", code);
const tap = (code: string): void => {
  down(code);
  now += 60;
  up(code);
};
/** Holds a key while something is done. */
const holding = (code: string, meanwhile: () => void): void => {
  down(code);
  now += 600;
  meanwhile();
  up(code);
};
const inHand = () => {
  const { mode, tool } = useTable.getState();
  return [mode, tool];
};
/** Lets promises that were begun come to their ends. */
const done = async (): Promise<void> => {
  for (let i = 0; i < 12; i++) await Promise.resolve();
};

beforeEach(async () => {
  session = await openTable();
  Object.assign(hand, { held: null, usedWhileHeld: false, isDrawing: false, hasFocus: true });
  Object.assign(hand, { element: new Thing(), whereabouts: () => null });
  const { listenToKeys } = await import("./listen");
  stop = listenToKeys(session, hand as unknown as Hand);
});
afterEach(() => stop());

describe("tap to switch, hold to borrow", () => {
  test("a tap takes a mode, holding borrows it and gives it back", () => {
    tap("KeyD");
    expect(inHand()).toEqual(["lift", "brush"]);
    tap("KeyA");
    expect(inHand()).toEqual(["paint", "brush"]);
    holding("KeyF", () => expect(inHand()).toEqual(["blend", "brush"]));
    expect(inHand()).toEqual(["paint", "brush"]);
  });

  test("a key that borrows nothing acts as it goes down, however long it stays there", async () => {
    down("KeyW");
    await done();
    expect(inHand()).toEqual(["paint", "select"]);
    now += 900;
    up("KeyW");
    await done();
    expect(inHand()).toEqual(["paint", "select"]);
  });

  test("a key that was used while it was down was borrowed, however short", () => {
    down("KeyD");
    hand.usedWhileHeld = true;
    up("KeyD");
    expect(inHand()).toEqual(["paint", "brush"]);
  });

  test("borrowed from another tool, that tool comes back", () => {
    useTable.setState({ tool: "fill" });
    holding("KeyD", () => expect(inHand()).toEqual(["lift", "brush"]));
    expect(inHand()).toEqual(["paint", "fill"]);
  });

  test("with shapes that select, holding D takes away; tapped it is Lift", async () => {
    tap("KeyW");
    await done();
    expect(inHand()).toEqual(["paint", "select"]);
    useRegion.setState({ selecting: "lasso", joining: "add" });
    holding("KeyD", () => {
      expect(useRegion.getState().joining).toBe("take away");
      expect(inHand()).toEqual(["paint", "select"]);
    });
    expect(useRegion.getState().joining).toBe("add");
    tap("KeyD");
    expect(inHand()).toEqual(["lift", "brush"]);
    expect(useRegion.getState().joining).toBe("add");
  });

  test("values are looked at while V is held, and stay after a tap", () => {
    holding("KeyV", () => expect(useTable.getState().values).not.toBeNull());
    expect(useTable.getState().values).toBeNull();
    tap("KeyV");
    expect(useTable.getState().values).not.toBeNull();
  });

  test("some keys lend the pointer another use; the window left, all is given back", () => {
    down("KeyS");
    expect(hand.held).toBe("amounts");
    up("KeyS");
    expect(hand.held).toBeNull();
    down("Space");
    expect(hand.held).toBe("pan");
    down("KeyF");
    page.dispatchEvent(new Event("blur"));
    expect(hand.held).toBeNull();
    expect(inHand()).toEqual(["paint", "brush"]);
  });

  test("colours change places, the last brush comes back", () => {
    const { colour, second, brush, lastBrush } = useTable.getState();
    tap("KeyX");
    expect(useTable.getState()).toMatchObject({ colour: second, second: colour });
    tap("KeyQ");
    expect(useTable.getState()).toMatchObject({ brush: lastBrush, lastBrush: brush });
  });
});

describe("with Control", () => {
  test("what the whole desktop knows is undone and done again, and the page keeps it", async () => {
    await session.addLayer({ name: "B" });
    expect(down("KeyZ", { ctrlKey: true })).toBe(false);
    await done();
    expect(stack()).toEqual(["A"]);
    down("KeyZ", { ctrlKey: true, shiftKey: true });
    await done();
    expect(stack()).toEqual(["A", "B"]);
    down("ArrowDown", { ctrlKey: true });
  });

  test("all is selected; keys that mean nothing here are the browser's", async () => {
    down("KeyA", { ctrlKey: true });
    await done();
    expect(useTable.getState().picture?.selection).toBe(true);
    expect(inHand()).toEqual(["paint", "brush"]);
    expect(down("KeyL", { ctrlKey: true })).toBe(true);
    // Nothing was copied here: what comes from elsewhere comes with the browser's own event.
    expect(down("KeyV", { ctrlKey: true })).toBe(true);
  });
});

describe("keys keep out of the way", () => {
  test("of who types, of a dialog, and of a hand that draws", () => {
    down("KeyD", { on: new Field("text") });
    down("KeyD", { on: new Thing("TEXTAREA") });
    useTable.setState({ dialog: "export" });
    down("KeyD");
    useTable.setState({ dialog: null });
    hand.isDrawing = true;
    down("KeyD");
    hand.isDrawing = false;
    expect(inHand()).toEqual(["paint", "brush"]);
    // A slider is no field to type in.
    down("KeyD", { on: new Field("range") });
    expect(inHand()).toEqual(["lift", "brush"]);
  });

  test("Space presses a button that has the focus, and moves the sheet elsewhere", () => {
    expect(down("Space", { on: new Thing("BUTTON") })).toBe(true);
    expect(hand.held).toBeNull();
    expect(down("Space")).toBe(false);
    expect(hand.held).toBe("pan");
    up("Space");
  });

  test("held down, only keys that go on do so", async () => {
    for (let i = 0; i < 4; i++) down("KeyX", { repeat: i > 0 });
    up("KeyX");
    expect(useTable.getState().colour).toBe("#f4efe6");
    for (let i = 0; i < 3; i++) down("Comma", { repeat: i > 0 });
    up("Comma");
    for (let i = 0; i < 8; i++) await done();
    expect(layerOf("A").opacity).toBeCloseTo(0.85, 6);
  });

  test("Tab bares the table for a hand on the picture and goes on for one that goes by keys", () => {
    expect(down("Tab")).toBe(false);
    expect(useTable.getState().bare).toBe(true);
    down("Escape");
    expect(useTable.getState().bare).toBe(false);
    hand.hasFocus = false;
    expect(down("Tab")).toBe(true);
    expect(useTable.getState().bare).toBe(false);
  });

  test("Delete clears the chosen layers, but not from within a list", async () => {
    theTable().work.apply(stroke(line([20, 96], [200, 96])));
    const tiles = (): number => theTable().work.picture.plane(idOf("A")).size;
    down("Delete", { on: new Thing("LI") });
    await done();
    expect(tiles()).toBeGreaterThan(0);
    down("Delete");
    await done();
    expect(tiles()).toBe(0);
  });
});
