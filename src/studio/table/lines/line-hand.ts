import { type CommandInput } from "../../../engine/command/commands";
import { type Sample } from "../../../engine/stroke/sample";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { chooseLines, lineLayerNow, type Point, useLines } from "./lines-store";

/** How near to a line the hand takes hold of it, screen px. */
const NEAR = 14;
/** Points of a way stand this far apart at least, screen px. */
const APART = 2;
/** A way that stays within this is a tap, screen px. */
const A_TAP = 4;
/** The widest gap that is joined where the hand drags from end to end, screen px. */
const WIDEST_GAP = 60;
/** A mouse presses so hard. */
const MOUSE_PRESSURE = 1;

/** One report of the pen, as far as lines are concerned. */
export type Touch = { place: Point; pressure: number; time: number; shift: boolean };

type Line = Extract<CommandInput, { do: `line.${string}` }>;

/** The hand that corrects lines: each gesture is one command, shown while it is made. */
export class LineHand {
  #layer = "";
  #way: Touch[] = [];
  #held: Promise<number | null> = Promise.resolve(null);
  #line: number | null = null;
  #isTrying = false;
  #next: Line | null = null;
  #asking = false;

  constructor(readonly session: Session) {}

  get isOurs(): boolean {
    return useTable.getState().tool === "lines";
  }

  /** Picture px of so many screen px, CSS. */
  #px(screen: number): number {
    return (screen * window.devicePixelRatio) / useTable.getState().view.zoom;
  }

  /** The line at a place; null where there is none. */
  async #lineAt([x, y]: Point): Promise<number | null> {
    const found = await this.session.link.api.lookAtLine(this.#layer, x, y, this.#px(NEAR));
    return found.ok ? (found.value?.id ?? null) : null;
  }

  /** The pen comes down. Answers whether it draws a way from here. */
  begin(touch: Touch): boolean {
    const layer = lineLayerNow();
    if (!layer) {
      tell(
        "Lines are corrected on a line layer. Choose one in the list, or add one with its plus.",
      );
      return false;
    }
    this.#layer = layer.id;
    this.#way = [touch];
    this.#line = null;
    this.#held = this.#lineAt(touch.place).then((line) => (this.#line = line));
    useLines.setState({ way: [touch.place], hovered: null, touched: [] });
    return true;
  }

  move(touch: Touch): void {
    const last = this.#way.at(-1);
    const [x, y] = touch.place;
    if (last && Math.hypot(x - last.place[0], y - last.place[1]) < this.#px(APART)) return;
    this.#way.push(touch);
    useLines.setState({ way: this.#way.map(({ place }) => place) });
    this.#show();
  }

  async end(): Promise<void> {
    const { act } = useLines.getState();
    await this.#held;
    const command = this.#command();
    this.#next = null;
    useLines.setState({ way: [] });
    if (act === "choose") await this.#choose();
    else if (act === "smooth") await this.#smooth();
    else if (act === "join") await this.#join();
    else if (command) await this.session.apply(command);
    else await this.#nothing();
    this.#way = [];
  }

  /** The pointer was taken away: nothing is done. */
  giveUp(): void {
    this.#next = null;
    this.#way = [];
    useLines.setState({ way: [], touched: [] });
    void this.session.link.api.tryOut(null);
  }

  /** Nothing came of a gesture: why not. */
  async #nothing(): Promise<void> {
    await this.session.link.api.tryOut(null);
    const { act } = useLines.getState();
    if (this.#line === null && act !== "erase" && act !== "weight")
      tell("There is no line there. Come nearer to one.");
  }

  /** What the gesture means so far; null where it means nothing yet. */
  #command(): Line | null {
    const { act, reach, endsHeld, weighing, radius, chosen, erasing, cutting } =
      useLines.getState();
    const [first, last] = [this.#way[0], this.#way.at(-1)];
    if (!first || !last) return null;
    const layer = this.#layer;
    const line = this.#line;
    const over = this.#way.map(({ place: [x, y], pressure }): [number, number, number] => [
      x,
      y,
      pressure,
    ]);
    if (act === "pull" && line !== null && this.#hasMoved())
      return {
        do: "line.pull",
        layer,
        line,
        at: [...first.place],
        to: [...last.place],
        reach: Math.min(20_000, Math.max(1, this.#px(reach))),
        ends: endsHeld ? "held" : "free",
      };
    if (act === "weight")
      return {
        do: "line.weigh",
        layer,
        over,
        radius: this.#radius(radius),
        how: weighing,
        lines: chosen.length > 0 ? [...chosen] : null,
      };
    if (act === "erase")
      return { do: "line.erase", layer, over, radius: this.#radius(radius / 2), how: erasing };
    if (act === "cut" && line !== null)
      return { do: "line.cut", layer, line, at: [...first.place], how: cutting };
    if (act === "redraw" && this.#hasMoved())
      return {
        do: "line.redraw",
        layer,
        samples: this.#samples(),
        scale: this.#px(1),
        steady: useTable.getState().steady,
      };
    return null;
  }

  #radius(screen: number): number {
    return Math.min(2000, Math.max(0.5, this.#px(screen)));
  }

  #samples(): Sample[] {
    const start = this.#way[0]?.time ?? 0;
    return this.#way.map(({ place: [x, y], pressure, time }): Sample => [
      Math.max(0, time - start),
      x,
      y,
      pressure,
      Math.PI / 2,
      0,
      0,
    ]);
  }

  #hasMoved(): boolean {
    const [first, last] = [this.#way[0], this.#way.at(-1)];
    if (!first || !last) return false;
    return this.#way.some(
      ({ place: [x, y] }) => Math.hypot(x - first.place[0], y - first.place[1]) > this.#px(A_TAP),
    );
  }

  /** Shows what would become of the lines, the newest gesture only. */
  #show(): void {
    const { act } = useLines.getState();
    if (act === "choose") return void this.#showMoved();
    if (act === "smooth") return void this.#showTouched();
    if (act === "redraw" || act === "join" || act === "cut") return;
    this.#tryOut(this.#command());
  }

  #tryOut(command: Line | null): void {
    if (!command) return;
    this.#next = command;
    if (this.#isTrying) return;
    this.#isTrying = true;
    void this.#tryAll();
  }

  async #tryAll(): Promise<void> {
    while (this.#next) {
      const command = this.#next;
      this.#next = null;
      await this.session.link.api.tryOut(command);
    }
    this.#isTrying = false;
  }

  // ---- choosing ----

  /** Whether the hand took hold of a chosen line: then it moves what is chosen. */
  get #movesChosen(): boolean {
    return this.#line !== null && useLines.getState().chosen.includes(this.#line);
  }

  #moved(): Line | null {
    const [first, last] = [this.#way[0], this.#way.at(-1)];
    if (!first || !last || !this.#hasMoved()) return null;
    const [dx, dy] = [last.place[0] - first.place[0], last.place[1] - first.place[1]];
    return {
      do: "line.move",
      layer: this.#layer,
      lines: [...useLines.getState().chosen],
      warp: { kind: "matrix", matrix: [1, 0, dx, 0, 1, dy, 0, 0, 1] },
    };
  }

  #showMoved(): void {
    if (this.#movesChosen) this.#tryOut(this.#moved());
  }

  async #choose(): Promise<void> {
    const { chosen } = useLines.getState();
    const [first] = this.#way;
    const moved = this.#movesChosen ? this.#moved() : null;
    if (moved) {
      await this.session.apply(moved);
      return chooseLines(this.session, chosen);
    }
    const adds = first?.shift ?? false;
    if (!this.#hasMoved()) {
      const one = this.#line;
      if (one === null) return chooseLines(this.session, adds ? chosen : []);
      if (!adds) return chooseLines(this.session, [one]);
      return chooseLines(
        this.session,
        chosen.includes(one) ? chosen.filter((id) => id !== one) : [...chosen, one],
      );
    }
    const loop = this.#way.map(({ place }) => place);
    const found = await this.session.link.api.chooseLines(this.#layer, { kind: "loop", loop });
    const ids = found.ok ? found.value : [];
    await chooseLines(this.session, adds ? [...new Set([...chosen, ...ids])] : ids);
  }

  // ---- smoothing and joining ----

  /** Lines that the way comes near: asked place by place. */
  async #showTouched(): Promise<void> {
    const at = this.#way.at(-1);
    if (!at || this.#asking) return;
    this.#asking = true;
    const [x, y] = at.place;
    const found = await this.session.link.api.lookAtLine(this.#layer, x, y, this.#px(NEAR));
    this.#asking = false;
    const { touched } = useLines.getState();
    const line = found.ok ? found.value : null;
    if (line && !touched.some(({ id }) => id === line.id))
      useLines.setState({ touched: [...touched, line] });
  }

  async #smooth(): Promise<void> {
    const { smoothing, touched, chosen } = useLines.getState();
    const ids = new Set(touched.map(({ id }) => id));
    if (this.#line !== null) ids.add(this.#line);
    const end = this.#way.at(-1);
    const last = end ? await this.#lineAt(end.place) : null;
    if (last !== null) ids.add(last);
    useLines.setState({ touched: [] });
    // Of many lines that lie together only those that are chosen, where any are.
    const lines = [...ids].filter((id) => chosen.length === 0 || chosen.includes(id));
    if (lines.length === 0) return this.#nothing();
    await this.session.apply({ do: "line.smooth", layer: this.#layer, lines, strength: smoothing });
  }

  async #join(): Promise<void> {
    const end = this.#way.at(-1);
    const other = end ? await this.#lineAt(end.place) : null;
    if (this.#line === null || other === null)
      return void tell("Drag from the end of one line to the end of another.");
    const lines = this.#line === other ? [other] : [this.#line, other];
    if (lines.length === 1 && !this.#hasMoved())
      return void tell(
        "Drag from the end of one line to the end of another, or to its own other end.",
      );
    await this.session.apply({
      do: "line.join",
      layer: this.#layer,
      lines,
      within: this.#px(WIDEST_GAP),
    });
  }

  // ---- looking ahead ----

  hover(place: Point | null): void {
    const layer = lineLayerNow();
    if (!place || !layer || !this.isOurs) {
      if (useLines.getState().hovered) useLines.setState({ hovered: null });
      return;
    }
    if (this.#asking || this.#way.length > 0) return;
    this.#asking = true;
    const [x, y] = place;
    void this.session.link.api.lookAtLine(layer.id, x, y, this.#px(NEAR)).then((found) => {
      this.#asking = false;
      if (this.#way.length === 0) useLines.setState({ hovered: found.ok ? found.value : null });
    });
  }
}

/** How hard a pointer presses, as far as lines are concerned. */
export const pressureOf = (event: PointerEvent): number =>
  event.pointerType === "pen" ? event.pressure : MOUSE_PRESSURE;
