import { type Session } from "../session";
import { type Hand, type Held } from "../hand";
import { swapColours } from "../actions";
import { removeChosen } from "../lines/chosen";
import { nudgePieces, nudgesPieces, removePieces } from "../strew/chosen-pieces";
import { chooseNoPieces } from "../strew/strew-store";
import { chooseNoLines, toggleLines } from "../lines/lines-store";
import { type KeyAction } from "./key-map";
import { type TableState, useTable } from "../table-store";
import { type Joining } from "../../../engine/command/select";
import { selectsShapes, toggleTool, useRegion } from "../region/region-store";
import { cutSelected, pasteClipping, copySelected, hasClipping } from "../region/clipboard";
import { closePolygon } from "../region/region-hand";
import { letGo, useStencils } from "../stencils/stencil-store";
import { endTransform, toggleTransform } from "../transform/transform-store";

/** Tap to switch, hold to borrow: what a key does when it goes down, and at a borrower's end. */
type Key = {
  /** Done when the key goes down. */
  down?: () => void;
  /** Done when it comes up, however long it was down. */
  up?: () => void;
  /** Done when it comes up after a tap. */
  tap?: () => void;
  /** Done when it comes up after having been held. */
  back?: () => void;
  /** Done again and again while the key is down. */
  repeats?: true;
  /** What the pointer does meanwhile. */
  held?: Held;
};

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ["TEXTAREA", "SELECT"].includes(target.tagName) ||
    (target instanceof HTMLInputElement && target.type !== "range"));

const inDialog = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest(".modal, .dropdown-menu, .popover") !== null;

/** Listens to the keyboard for the table. Returns a function that stops it. */
export function listenToKeys(session: Session, hand: Hand): () => void {
  const listeners = new AbortController();
  const { signal } = listeners;
  let down: { code: string; key: Key; at: number } | null = null;
  let shelfTimer: ReturnType<typeof setTimeout> | undefined;
  let before: Pick<TableState, "mode" | "tool"> = { mode: "paint", tool: "brush" };

  const state = (): TableState => useTable.getState();
  const borrowMode = (mode: TableState["mode"]): Key => ({
    down: () => {
      before = { mode: state().mode, tool: state().tool };
      state().set({ mode, tool: "brush" });
    },
    back: () => state().set(before),
  });
  const lift = borrowMode("lift");
  let joining: Joining | null = null;
  /** What is selected is lifted off while the key is held: shapes are taken away. */
  const liftOrTakeAway: Key = {
    down: () => {
      joining = selectsShapes() ? useRegion.getState().joining : null;
      if (joining) useRegion.getState().set({ joining: "take away" });
      else lift.down?.();
    },
    tap: () => {
      if (!joining) return;
      useRegion.getState().set({ joining });
      lift.down?.();
    },
    back: () => {
      if (joining) useRegion.getState().set({ joining });
      else lift.back?.();
    },
  };
  const keys: Record<KeyAction, Key> = {
    paint: { down: () => state().set({ mode: "paint", tool: "brush" }) },
    lift: liftOrTakeAway,
    blend: borrowMode("blend"),
    amounts: { held: "amounts" },
    lastBrush: {
      down: () => {
        shelfTimer = setTimeout(() => state().set({ shelf: hand.whereabouts() }), state().pen.hold);
      },
      tap: () => state().chooseBrush(state().lastBrush),
      up: () => {
        clearTimeout(shelfTimer);
        state().set({ shelf: null });
      },
    },
    select: { down: () => void toggleTool(session, "select") },
    fill: { down: () => void toggleTool(session, "fill") },
    lines: { down: () => void toggleLines(session) },
    pick: { held: "pick" },
    swap: { down: swapColours },
    mirror: { down: () => session.mirror(), back: () => session.mirror() },
    guides: { down: () => session.toggleFollow(), back: () => session.toggleFollow() },
    values: { down: () => session.toggleValues(), back: () => session.toggleValues() },
    squint: { down: () => session.squint(), back: () => session.squint() },
    transform: { down: () => void toggleTransform(session) },
    paler: { down: () => void session.changeOpacity(-1), repeats: true },
    fuller: { down: () => void session.changeOpacity(1), repeats: true },
    blendBefore: { down: () => void session.changeBlend(-1), repeats: true },
    blendAfter: { down: () => void session.changeBlend(1), repeats: true },
    turn: { held: "turn", tap: () => session.upright() },
    zoom: { held: "zoom", tap: () => session.fit() },
  };
  const keyOf = (code: string): Key | undefined => {
    if (code === "Space") return { held: "pan" };
    const map = state().keys;
    const action = (Object.keys(map) as KeyAction[]).find((name) => map[name] === code);
    return action && keys[action];
  };

  const onDown = (event: KeyboardEvent): void => {
    hand.shift = event.shiftKey;
    if (inDialog(event.target) || state().dialog) return;
    if (isTyping(event.target) && !opensFinder(event)) return;
    if (event.ctrlKey || event.metaKey) return withControl(event, session);
    if (state().tool === "transform" && (event.key === "Enter" || event.key === "Escape")) {
      if (event.key === "Enter" && isButton(event.target)) return;
      event.preventDefault();
      return void endTransform(session, event.key === "Enter");
    }
    if (useStencils.getState().inHand !== null && (event.key === "Enter" || event.key === "Escape"))
      return letGo();
    if (state().tool === "select" && (event.key === "Enter" || event.key === "Escape")) {
      if (event.key === "Enter" && isButton(event.target)) return;
      event.preventDefault();
      return void closePolygon(session, event.key === "Enter");
    }
    // Tab bares the table for a hand that draws; for one that goes by keys it goes on.
    if (event.key === "Tab" && (hand.hasFocus || state().bare)) {
      event.preventDefault();
      state().set({ bare: !state().bare });
      return;
    }
    if (event.key === "Escape" && state().tool === "lines") return chooseNoLines();
    if (event.key === "Escape" && state().tool === "strew") return chooseNoPieces();
    if (nudgesPieces(event, event.target === hand.element)) {
      event.preventDefault();
      return void nudgePieces(session, event.key, event.shiftKey);
    }
    if (event.key === "Escape" && state().bare) return state().set({ bare: false });
    if (event.key === "?") return state().set({ dialog: "shortcuts" });
    if (
      event.key === "Delete" &&
      (event.target === hand.element || event.target === document.body)
    ) {
      if (state().tool === "lines" && removeChosen(session)) return;
      if (state().tool === "strew" && removePieces(session)) return;
      return void session.clearLayers();
    }
    const key = keyOf(event.code);
    const isAgain = event.repeat && !key?.repeats;
    if (!key || isAgain || event.altKey || hand.isDrawing) {
      if (key && event.code === "Space" && !isButton(event.target)) event.preventDefault();
      return;
    }
    // Space presses a button that has the focus; elsewhere it moves the sheet.
    if (event.code === "Space" && isButton(event.target)) return;
    event.preventDefault();
    down = { code: event.code, key, at: event.timeStamp };
    hand.held = key.held ?? null;
    hand.usedWhileHeld = false;
    key.down?.();
  };

  const onUp = (event: KeyboardEvent): void => {
    hand.shift = event.shiftKey;
    if (down?.code !== event.code) return;
    const { key, at } = down;
    down = null;
    hand.held = null;
    const borrowed = hand.usedWhileHeld || event.timeStamp - at > state().pen.hold;
    key.up?.();
    if (borrowed) key.back?.();
    else key.tap?.();
  };

  window.addEventListener("keydown", onDown, { signal });
  window.addEventListener("keyup", onUp, { signal });
  window.addEventListener(
    "blur",
    () => {
      down?.key.up?.();
      down?.key.back?.();
      down = null;
      hand.held = null;
    },
    { signal },
  );
  return () => listeners.abort();
}

/** The finder comes from wherever the hand is, from a field too. */
const opensFinder = (event: KeyboardEvent): boolean =>
  (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k";

const isButton = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest("button, a, input, [role='option'], [role='button']") !== null;

function withControl(event: KeyboardEvent, session: Session): void {
  const { set } = useTable.getState();
  const acts: Record<string, () => unknown> = {
    z: () => (event.shiftKey ? session.redo() : session.undo()),
    y: () => session.redo(),
    k: () => set({ dialog: "finder" }),
    e: () => set({ dialog: "export" }),
    a: () => session.selectShape({ kind: "all" }, "replace"),
    c: () => copySelected(session, false),
    x: () => cutSelected(session),
    v: () => pasteClipping(session, false),
    s: () => session.save(event.shiftKey),
    arrowup: () => session.nudgeLayers(1),
    arrowdown: () => session.nudgeLayers(-1),
  };
  const name = event.key.toLowerCase();
  const act = acts[name];
  if (!act) return;
  // What was copied elsewhere comes with the paste event, which must not be held up.
  if (name === "v" && !hasClipping()) return;
  event.preventDefault();
  void act();
}
