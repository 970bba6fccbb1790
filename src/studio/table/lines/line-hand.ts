import { felt } from "../pen/felt";
import { type CommandInput } from "../../../engine/command/commands";
import { type Sample } from "../../../engine/stroke/sample";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { tenths } from "../on-paper";
import { Trying } from "../trying";
import { isRayAct, newSeed, RayHand, raysOf } from "./rays";
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

/** One gesture, from where the pen came down. */
type Gesture = {
  layer: string;
  way: Touch[];
  /** The line that it began on; null where there is none, or it is not known yet. */
  line: number | null;
  found: Promise<void>;
  /** What chance makes of rays that are shown. */
  seed: number;
};

/** The hand that corrects lines: each gesture is one command, shown while it is made. */
export class LineHand {
  #gesture: Gesture | null = null;
  /** What was drawn is done one after the other. */
  #done: Promise<void> = Promise.resolve();
  #isShowing = false;
  #trying: Trying;
  #rays: RayHand;
  #asking = false;

  constructor(readonly session: Session) {
    this.#trying = new Trying(session);
    this.#rays = new RayHand(session);
  }

  stop(): void {
    this.#rays.stop();
  }

  get isOurs(): boolean {
    return useTable.getState().tool === "lines";
  }

  /** Picture px of so many screen px, CSS. */
  #px(screen: number): number {
    return (screen * window.devicePixelRatio) / useTable.getState().view.zoom;
  }

  /** The line at a place; null where there is none. */
  async #lineAt(layer: string, [x, y]: Point): Promise<number | null> {
    const found = await this.session.link.api.lookAtLine(layer, x, y, this.#px(NEAR));
    return found.ok ? (found.value?.id ?? null) : null;
  }

  /** The pen comes down. Answers whether it draws a way from here. */
  begin(touch: Touch): boolean {
    const layer = lineLayerNow();
    if (!layer) {
      tell(
        "Lines are corrected on a line layer. Choose one in the list, or add one beside its plus.",
      );
      return false;
    }
    const gesture: Gesture = {
      layer: layer.id,
      way: [touch],
      line: null,
      // What the gesture before it does comes first.
      found: this.#done
        .then(() => this.#lineAt(layer.id, touch.place))
        .then((line) => void (gesture.line = line)),
      seed: newSeed(),
    };
    this.#gesture = gesture;
    useLines.setState({ way: [touch.place], hovered: null, touched: [] });
    return true;
  }

  move(touch: Touch): void {
    const gesture = this.#gesture;
    const last = gesture?.way.at(-1);
    const [x, y] = touch.place;
    if (!gesture || !last) return;
    if (Math.hypot(x - last.place[0], y - last.place[1]) < this.#px(APART)) return;
    gesture.way.push(touch);
    if (this.#isShowing) return;
    // What came in one parcel is shown once.
    this.#isShowing = true;
    queueMicrotask(() => {
      this.#isShowing = false;
      if (this.#gesture !== gesture) return;
      useLines.setState({ way: gesture.way.map(({ place }) => place) });
      this.#show(gesture);
    });
  }

  end(): Promise<void> {
    const gesture = this.#gesture;
    this.#gesture = null;
    this.#trying.drop();
    useLines.setState({ way: [] });
    if (gesture) this.#done = this.#done.then(() => this.#finish(gesture));
    return this.#done;
  }

  async #finish(gesture: Gesture): Promise<void> {
    const { act } = useLines.getState();
    await gesture.found;
    const command = this.#command(gesture);
    if (isRayAct(act)) await this.#layRays(gesture);
    else if (act === "choose") await this.#choose(gesture);
    else if (act === "smooth") await this.#smooth(gesture);
    else if (act === "join") await this.#join(gesture);
    else if (command) await this.session.apply(command);
    else await this.#nothing(gesture);
  }

  /** The pointer was taken away: nothing is done. */
  giveUp(): void {
    this.#gesture = null;
    useLines.setState({ way: [], touched: [] });
    this.#trying.takeBack();
  }

  /** Nothing came of a gesture: why not. */
  async #nothing({ line }: Gesture): Promise<void> {
    await this.session.link.api.tryOut(null);
    if (useLines.getState().act === "repeat")
      tell("Choose lines first, then drag the way that copies of them are to go.");
    else if (line === null) tell("There is no line there. Come nearer to one.");
  }

  /** What the gesture means so far; null where it means nothing yet. */
  #command(gesture: Gesture): Line | null {
    const state = useLines.getState();
    const { act, chosen } = state;
    const { layer, line, way } = gesture;
    const [first, last] = [way[0], way.at(-1)];
    if (!first || !last) return null;
    const over = way.map(({ place: [x, y], pressure }): [number, number, number] => [
      x,
      y,
      pressure,
    ]);
    if (act === "pull" && line !== null && this.#hasMoved(gesture))
      return {
        do: "line.pull",
        layer,
        line,
        at: [...first.place],
        to: [...last.place],
        reach: Math.min(20_000, Math.max(1, this.#px(state.reach))),
        ends: state.endsHeld ? "held" : "free",
      };
    if (act === "weight")
      return {
        do: "line.weigh",
        layer,
        over,
        radius: this.#radius(state.radius),
        how: state.weighing,
        lines: chosen.length > 0 ? [...chosen] : null,
      };
    if (act === "erase")
      return {
        do: "line.erase",
        layer,
        over,
        radius: this.#radius(state.radius / 2),
        how: state.erasing,
      };
    if (act === "cut" && line !== null)
      return { do: "line.cut", layer, line, at: [...first.place], how: state.cutting };
    if (act === "repeat" && chosen.length > 0 && this.#hasMoved(gesture))
      return {
        do: "line.repeat",
        layer,
        lines: [...chosen],
        along: way.map(({ place: [x, y] }) => [x, y]),
        gap: Math.min(8000, Math.max(1, tenths(state.repeating.gap))),
        turns: state.repeating.turns,
      };
    if (act === "redraw" && this.#hasMoved(gesture))
      return {
        do: "line.redraw",
        layer,
        samples: samplesOf(way),
        scale: this.#px(1),
        steady: useTable.getState().steady,
      };
    return null;
  }

  #radius(screen: number): number {
    return Math.min(2000, Math.max(0.5, this.#px(screen)));
  }

  #hasMoved({ way }: Gesture): boolean {
    const [first] = way;
    if (!first) return false;
    return way.some(
      ({ place: [x, y] }) => Math.hypot(x - first.place[0], y - first.place[1]) > this.#px(A_TAP),
    );
  }

  /** Shows what would become of the lines, the newest state of the gesture only. */
  #show(gesture: Gesture): void {
    const { act } = useLines.getState();
    if (act === "choose") {
      if (movesChosen(gesture)) this.#trying.show(this.#moved(gesture));
    } else if (act === "smooth") void this.#showTouched(gesture);
    else if (isRayAct(act)) {
      const ends = this.#hasMoved(gesture) ? endsOf(gesture) : null;
      if (ends) this.#trying.show(raysOf(act, gesture.layer, ...ends, gesture.seed));
    } else if (act === "pull" || act === "weight" || act === "erase" || act === "repeat")
      this.#trying.show(this.#command(gesture));
  }

  // ---- choosing ----

  #moved(gesture: Gesture): Line | null {
    const { layer, way } = gesture;
    const [first, last] = [way[0], way.at(-1)];
    if (!first || !last || !this.#hasMoved(gesture)) return null;
    const [dx, dy] = [last.place[0] - first.place[0], last.place[1] - first.place[1]];
    return {
      do: "line.move",
      layer,
      lines: [...useLines.getState().chosen],
      warp: { kind: "matrix", matrix: [1, 0, dx, 0, 1, dy, 0, 0, 1] },
    };
  }

  async #choose(gesture: Gesture): Promise<void> {
    const { chosen } = useLines.getState();
    const { layer, line, way } = gesture;
    const moved = movesChosen(gesture) ? this.#moved(gesture) : null;
    if (moved) {
      await this.session.apply(moved);
      return chooseLines(this.session, chosen);
    }
    const adds = way[0]?.shift ?? false;
    if (!this.#hasMoved(gesture)) {
      if (line === null) return chooseLines(this.session, adds ? chosen : []);
      if (!adds) return chooseLines(this.session, [line]);
      const isIn = chosen.includes(line);
      return chooseLines(
        this.session,
        isIn ? chosen.filter((id) => id !== line) : [...chosen, line],
      );
    }
    const loop = way.map(({ place }) => place);
    const found = await this.session.link.api.chooseLines(layer, { kind: "loop", loop });
    const ids = found.ok ? found.value : [];
    await chooseLines(this.session, adds ? [...new Set([...chosen, ...ids])] : ids);
  }

  // ---- speed and focus lines ----

  async #layRays(gesture: Gesture): Promise<void> {
    const { act } = useLines.getState();
    const ends = this.#hasMoved(gesture) ? endsOf(gesture) : null;
    if (ends && isRayAct(act)) return this.#rays.lay(act, gesture.layer, ...ends, gesture.seed);
    await this.session.link.api.tryOut(null);
    tell(
      act === "speed"
        ? "Drag the way that the lines are to go."
        : "Press where the lines are to point, and drag to the rim of what stays clear.",
    );
  }

  // ---- smoothing and joining ----

  /** Lines that the way comes near: asked place by place. */
  async #showTouched({ layer, way }: Gesture): Promise<void> {
    const at = way.at(-1);
    if (!at || this.#asking) return;
    this.#asking = true;
    const [x, y] = at.place;
    const found = await this.session.link.api.lookAtLine(layer, x, y, this.#px(NEAR));
    this.#asking = false;
    const { touched } = useLines.getState();
    const line = found.ok ? found.value : null;
    if (line && !touched.some(({ id }) => id === line.id))
      useLines.setState({ touched: [...touched, line] });
  }

  async #smooth(gesture: Gesture): Promise<void> {
    const { layer, way } = gesture;
    const { smoothing, chosen } = useLines.getState();
    const ids = new Set<number>();
    let last: Point | null = null;
    for (const { place } of way) {
      // A line is met by a place within half of what is near.
      if (last && Math.hypot(place[0] - last[0], place[1] - last[1]) < this.#px(NEAR / 2)) continue;
      last = place;
      const line = await this.#lineAt(layer, place);
      if (line !== null) ids.add(line);
    }
    useLines.setState({ touched: [] });
    // Of many lines that lie together only those that are chosen, where any are.
    const lines = [...ids].filter((id) => chosen.length === 0 || chosen.includes(id));
    if (lines.length === 0) return this.#nothing(gesture);
    await this.session.apply({ do: "line.smooth", layer, lines, strength: smoothing });
  }

  async #join(gesture: Gesture): Promise<void> {
    const { layer, line, way } = gesture;
    const end = way.at(-1);
    const other = end ? await this.#lineAt(layer, end.place) : null;
    if (line === null || other === null || (line === other && !this.#hasMoved(gesture)))
      return void tell("Drag from the end of one line to the end of another, or to its own.");
    const lines = line === other ? [line] : [line, other];
    await this.session.apply({ do: "line.join", layer, lines, within: this.#px(WIDEST_GAP) });
  }

  // ---- looking ahead ----

  hover(place: Point | null): void {
    const layer = lineLayerNow();
    if (!place || !layer || !this.isOurs) {
      if (useLines.getState().hovered) useLines.setState({ hovered: null });
      return;
    }
    if (this.#asking || this.#gesture) return;
    this.#asking = true;
    const [x, y] = place;
    void this.session.link.api.lookAtLine(layer.id, x, y, this.#px(NEAR)).then((found) => {
      this.#asking = false;
      if (!this.#gesture) useLines.setState({ hovered: found.ok ? found.value : null });
    });
  }
}

/** Where a gesture began and where it is now. */
function endsOf({ way }: Gesture): [Point, Point] | null {
  const [first, last] = [way[0], way.at(-1)];
  return first && last ? [first.place, last.place] : null;
}

/** Whether the hand took hold of a chosen line: then it moves what is chosen. */
const movesChosen = ({ line }: Gesture): boolean =>
  line !== null && useLines.getState().chosen.includes(line);

/** A way as the pen's reports. */
function samplesOf(way: readonly Touch[]): Sample[] {
  const start = way[0]?.time ?? 0;
  return way.map(({ place: [x, y], pressure, time }): Sample => [
    Math.max(0, time - start),
    x,
    y,
    pressure,
    Math.PI / 2,
    0,
    0,
  ]);
}

/** How hard a pointer presses, as far as lines are concerned. */
export const pressureOf = (event: PointerEvent): number =>
  event.pointerType === "pen" ? felt(event.pressure) : MOUSE_PRESSURE;
