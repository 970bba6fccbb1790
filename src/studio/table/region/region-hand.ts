import { type Session } from "../session";
import { tell } from "../../notices/notices";
import { useTable } from "../table-store";
import { gradientInHand, layGradient, showGradient, straightened } from "../gradient/gradient-hand";
import { idLayerNow, looksAhead, type Point, useRegion } from "./region-store";

/** Points of a loop or a trail stand this far apart at least, screen px. */
const APART = 2.5;
/** The pointer rests after this long, ms; then leaks are looked for. */
const REST = 240;
/** Colours as near as this (ΔE in OKLab) are one id. */
const SAME_ID = 0.004;
/** Most points of a trail: what a fill takes. */
const MOST_TRAIL = 900;

/** What the hand does with the tools for regions: loops, trails of regions, places. */
export class RegionHand {
  #asking = false;
  #next: Point | null = null;
  #rest: ReturnType<typeof setTimeout> | undefined;
  #lastPress = 0;

  constructor(readonly session: Session) {}

  /** Whether the tool in hand is ours (a selecting brush is the brush's). */
  get isOurs(): boolean {
    const { tool } = useTable.getState();
    if (tool === "fill") return true;
    return tool === "select" && useRegion.getState().selecting !== "brush";
  }

  /** The pen comes down at a place. Answers whether it draws a way from here. */
  begin([x, y]: Point, timeStamp: number): boolean {
    const { tool } = useTable.getState();
    const { selecting, what, path, set } = useRegion.getState();
    if (tool === "select" && selecting === "polygon") {
      const again = timeStamp - this.#lastPress < 350;
      this.#lastPress = timeStamp;
      if (again && path.length >= 3) void closePolygon(this.session, true);
      else set({ path: [...path, [x, y]] });
      return false;
    }
    if (tool === "select" && selecting === "id") {
      void this.#selectId([x, y]);
      return false;
    }
    if (tool === "fill" && what === "flats") {
      tell("Press “Lay flats” below: every closed region of the lines gets a colour of its own.");
      return false;
    }
    if (tool === "fill" && what === "everywhere") {
      void this.#fillEverywhere([x, y]);
      return false;
    }
    if (tool === "select" && (selecting === "region" || selecting === "colour")) {
      void this.#selectAt(selecting, [x, y]);
      return false;
    }
    set({ path: [[x, y]], look: what === "tap" ? useRegion.getState().look : null });
    return true;
  }

  move([x, y]: Point, straight: boolean): void {
    const { path, set } = useRegion.getState();
    const last = path.at(-1);
    const [first] = path;
    if (first && laysGradient() && useRegion.getState().gradientShape !== "path") {
      set({ path: [first, straight ? straightened(first, [x, y]) : [x, y]] });
      return showGradient(this.session);
    }
    const { zoom } = useTable.getState().view;
    if (last && Math.hypot(x - last[0], y - last[1]) * zoom < APART) return;
    set({ path: [...path, [x, y]] });
    if (laysGradient()) showGradient(this.session);
  }

  /** The pen goes up: what it has drawn is taken. */
  async end(): Promise<void> {
    const { tool } = useTable.getState();
    const { path, selecting, set } = useRegion.getState();
    const gradient = laysGradient() ? gradientInHand() : null;
    set({ path: [], look: null });
    if (path.length === 0) return;
    if (laysGradient()) return layGradient(this.session, gradient);
    if (tool === "fill") return this.#fill(path);
    if (selecting === "move") return this.#moveOutline(path);
    const shape = shapeOf(selecting, path);
    if (shape) await this.session.selectShape(shape);
    else if (useRegion.getState().joining === "replace") await this.session.selectNone();
  }

  async #fill(path: readonly Point[]): Promise<void> {
    const state = useTable.getState();
    const { selected, colour } = state;
    const { what, joins, borders, tolerance, bridge, under } = useRegion.getState();
    const layer = selected[0];
    if (!layer) return tell("There is no layer to fill. Add one in the list at the left.");
    state.useColour();
    const laying = { layer, borders, tolerance, bridge, under };
    if (what !== "tap") {
      if (path.length < 3) return tell("Draw a loop around what is to be filled.");
      const loop = path.map(([x, y]): [number, number] => [x, y]);
      await this.session.apply({
        do: "fill.loop",
        loop,
        what: what === "regions" ? what : "inside",
        colour,
        ...laying,
      });
      return;
    }
    const step = Math.max(1, Math.ceil(path.length / MOST_TRAIL));
    const at = path.filter((_, i) => i % step === 0).map(([x, y]): [number, number] => [x, y]);
    const [first] = at;
    const taken =
      joins && first ? await this.session.link.api.colourAt(...first, { radius: 0, layer }) : null;
    if (joins && !taken)
      return tell("Begin on a flat: its colour goes to those that you drag across.");
    await this.session.apply({ do: "fill", at, colour: taken ?? colour, ...laying });
  }

  /** All of the working layer that has the colour pressed on takes the one in hand. */
  async #fillEverywhere([x, y]: Point): Promise<void> {
    const state = useTable.getState();
    const layer = state.selected[0];
    if (!layer) return tell("There is no layer to recolour. Choose one in the list at the left.");
    const from = await this.session.link.api.colourAt(x, y, { radius: 0, layer });
    if (!from) return tell("This layer is bare here. Tap a colour that lies on it.");
    state.useColour();
    const { alike: tolerance } = useRegion.getState();
    await this.session.apply({ do: "colour.replace", layer, from, to: state.colour, tolerance });
  }

  async #moveOutline(path: readonly Point[]): Promise<void> {
    const [from, to] = [path[0] as Point, path.at(-1) as Point];
    const x = Math.round(to[0] - from[0]);
    const y = Math.round(to[1] - from[1]);
    if (x !== 0 || y !== 0) await this.session.changeSelection({ kind: "move", x, y });
  }

  async #selectAt(kind: "region" | "colour", [x, y]: Point): Promise<void> {
    const layer = useTable.getState().selected[0];
    if (!layer) return;
    const { borders, tolerance, bridge, under } = useRegion.getState();
    const shape = { layer, at: [x, y] as [number, number], borders, tolerance };
    if (kind === "region") await this.session.selectShape({ kind, bridge, under, ...shape });
    else await this.session.selectShape({ kind, ...shape });
  }

  /** All that has the id that the id picture has here. */
  async #selectId([x, y]: Point): Promise<void> {
    const layer = idLayerNow();
    if (!layer) return tell("There is no layer to take ids from. Bring an id picture in.");
    const at: [number, number] = [x, y];
    const id = await this.session.link.api.colourAt(x, y, { radius: 0, layer: layer.id });
    if (!id) return tell(`“${layer.name}” holds no id at this place.`);
    const like = { layer: layer.id, borders: "layer" as const, tolerance: SAME_ID };
    await this.session.selectShape({ kind: "colour", at, ...like });
  }

  /** The pointer hovers: shows what would be taken here, and where it would leak. */
  hover(point: Point | null): void {
    clearTimeout(this.#rest);
    if (!looksAhead() || !point) {
      if (useRegion.getState().look) useRegion.getState().set({ look: null });
      return;
    }
    this.#next = point;
    void this.#ask();
    this.#rest = setTimeout(() => void this.#look(point, true), REST);
  }

  /** Asks for the newest place only, one question at a time. */
  async #ask(): Promise<void> {
    if (this.#asking) return;
    this.#asking = true;
    try {
      for (let point = this.#next; point; point = this.#next) {
        this.#next = null;
        await this.#look(point, false);
      }
    } finally {
      this.#asking = false;
    }
  }

  async #look([x, y]: Point, leaks: boolean): Promise<void> {
    const layer = useTable.getState().selected[0];
    if (!layer || !looksAhead()) return;
    const { borders, tolerance, bridge } = useRegion.getState();
    const choice = { layer, borders, tolerance, bridge };
    const answer = await this.session.link.api.lookAtRegion(x, y, choice, leaks);
    if (!looksAhead()) return;
    // What stands in the way is said when it is pressed, not while the pointer passes.
    useRegion.getState().set({ look: answer.ok ? answer.value : null });
  }
}

const laysGradient = (): boolean =>
  useTable.getState().tool === "fill" && useRegion.getState().what === "gradient";

type Shape = Parameters<Session["selectShape"]>[0];

/** What a drawn way selects; null where it is too short to hold anything. */
function shapeOf(selecting: string, path: readonly Point[]): Shape | null {
  const first = path[0] as Point;
  const last = path.at(-1) as Point;
  if (selecting === "lasso" || selecting === "polygon")
    return path.length < 3
      ? null
      : { kind: "polygon", points: path.map(([x, y]): [number, number] => [x, y]) };
  const box = {
    left: Math.min(first[0], last[0]),
    top: Math.min(first[1], last[1]),
    right: Math.max(first[0], last[0]),
    bottom: Math.max(first[1], last[1]),
  };
  if (box.right - box.left < 0.5 || box.bottom - box.top < 0.5) return null;
  if (selecting === "ellipse") return { kind: "ellipse", box };
  const whole = {
    left: Math.round(box.left),
    top: Math.round(box.top),
    right: Math.max(Math.round(box.left) + 1, Math.round(box.right)),
    bottom: Math.max(Math.round(box.top) + 1, Math.round(box.bottom)),
  };
  return { kind: "box", box: whole };
}

/** Ends a polygon: it is selected, or thrown away. */
export async function closePolygon(session: Session, keep: boolean): Promise<void> {
  const { path, set } = useRegion.getState();
  set({ path: [] });
  if (keep && path.length >= 3) {
    const shape = shapeOf("polygon", path);
    if (shape) await session.selectShape(shape);
  } else if (path.length === 0 && !keep) await session.selectNone();
}
