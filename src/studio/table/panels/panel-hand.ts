import { nanoid } from "nanoid";
import {
  alongGutter,
  around,
  bledShape,
  cutShape,
  holds,
  nearestSide,
  overlapOf,
  type Shape,
  type Side,
  withSideMoved,
} from "../../../engine/panels/shape";
import { widestGutter } from "../../../engine/panels/panels";
import { tell } from "../../notices/notices";
import { type Touch } from "../lines/line-hand";
import { tenths } from "../on-paper";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { drawingOf, panelsOn, usePanels } from "./panels-store";

type Point = readonly [x: number, y: number];

/** A way that stays within this is a tap, and a side is taken hold of from so near, screen px. */
const A_TAP = 4;
const NEAR = 18;

type Gesture = { from: Point; to: Point; shift: boolean; moved: boolean; side: Side | null };

const shapesNow = (): Shape[] =>
  panelsOn(useTable.getState().picture).map(({ corners }) => corners);

/** How far a place is from a side, within the side's own stretch, px. */
function distanceTo(shape: Shape, side: number, [x, y]: Point): number {
  const [ax, ay] = shape[side] as Point;
  const [bx, by] = shape[(side + 1) % shape.length] as Point;
  const [dx, dy] = [bx - ax, by - ay];
  const t = Math.min(
    1,
    Math.max(0, ((x - ax) * dx + (y - ay) * dy) / Math.max(1e-9, dx * dx + dy * dy)),
  );
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

/** The side that is nearest to a place, of all panels; null where none is near. */
export function sideNear(shapes: readonly Shape[], place: Point, within: number): Side | null {
  let best: Side | null = null;
  let least = within;
  shapes.forEach((shape, of) => {
    for (let side = 0; side < shape.length; side++) {
      const far = distanceTo(shape, side, place);
      if (far >= least) continue;
      least = far;
      best = { of, side };
    }
  });
  return best;
}

/** A way made level or upright, whichever it is nearer to. */
export function evenWay([x0, y0]: Point, [x1, y1]: Point): [Point, Point] {
  if (Math.abs(x1 - x0) >= Math.abs(y1 - y0)) {
    const y = (y0 + y1) / 2;
    return [
      [x0, y],
      [x1, y],
    ];
  }
  const x = (x0 + x1) / 2;
  return [
    [x, y0],
    [x, y1],
  ];
}

/** The hand that cuts a page into panels. Each gesture is one command, whose shapes are seen before it is done. */
export class PanelHand {
  #gesture: Gesture | null = null;

  constructor(readonly session: Session) {}

  get isOurs(): boolean {
    return useTable.getState().tool === "panels";
  }

  #px(screen: number): number {
    return (screen * window.devicePixelRatio) / useTable.getState().view.zoom;
  }

  #sideAt(place: Point): Side | null {
    const shapes = shapesNow();
    const { act } = usePanels.getState();
    const near = sideNear(shapes, place, this.#px(NEAR));
    if (near || act !== "bleed") return near;
    // A tap anywhere in a panel lets the side bleed that is nearest.
    const of = shapes.findIndex((shape) => holds(shape, place));
    const shape = shapes[of];
    return shape ? { of, side: nearestSide(shape, place) } : null;
  }

  /** The pen comes down. Answers whether it draws a way from here. */
  begin({ place, shift }: Touch): boolean {
    if (shapesNow().length === 0) {
      tell("The page has no panels yet. Set its margin and lay the first one.");
      return false;
    }
    const side = this.#sideAt(place);
    this.#gesture = { from: place, to: place, shift, moved: false, side };
    return true;
  }

  move({ place, shift }: Touch): void {
    const gesture = this.#gesture;
    if (!gesture) return;
    const [x, y] = gesture.from;
    gesture.to = place;
    gesture.shift = shift;
    gesture.moved ||= Math.hypot(place[0] - x, place[1] - y) > this.#px(A_TAP);
    usePanels.setState({ tried: gesture.moved ? this.#tried(gesture) : [] });
  }

  giveUp(): void {
    this.#gesture = null;
    usePanels.setState({ tried: [], near: null });
  }

  /** The way of a cut, and the gutter that it leaves, px. */
  #cut({ from, to, shift }: Gesture): { from: Point; to: Point; gutter: number } {
    const { even, tiers, beside } = usePanels.getState();
    const [a, b] = even !== shift ? evenWay(from, to) : [from, to];
    const isLevel = Math.abs(b[0] - a[0]) >= Math.abs(b[1] - a[1]);
    return { from: a, to: b, gutter: tenths(isLevel ? tiers : beside) };
  }

  /** How far a side is pushed: across itself, as far as the hand has gone. */
  #by({ from, to, side }: Gesture): [number, number] {
    const shape = side && shapesNow()[side.of];
    if (!side || !shape) return [0, 0];
    const [ax, ay] = shape[side.side] as Point;
    const [bx, by] = shape[(side.side + 1) % shape.length] as Point;
    const length = Math.hypot(bx - ax, by - ay) || 1;
    const [nx, ny] = [(by - ay) / length, (ax - bx) / length];
    const far = (to[0] - from[0]) * nx + (to[1] - from[1]) * ny;
    return [nx * far, ny * far];
  }

  /** The shapes that panels would have. */
  #tried(gesture: Gesture): Shape[] {
    const shapes = shapesNow();
    const { picture } = useTable.getState();
    const { act } = usePanels.getState();
    if (!picture) return [];
    if (act === "cut") {
      const { from, to, gutter } = this.#cut(gesture);
      return shapes.flatMap((shape) => cutShape(shape, from, to, gutter) ?? []);
    }
    if (act === "join") {
      const [a, b] = [gesture.from, gesture.to].map((place) =>
        shapes.find((shape) => holds(shape, place)),
      );
      if (!a || !b || a === b) return a ? [a] : [];
      const both = around(a, b);
      const rest = shapes.filter((shape) => shape !== a && shape !== b);
      return rest.some((shape) => overlapOf(shape, both) > 1) ? [a, b] : [both];
    }
    if (act === "push" && gesture.side) {
      const by = this.#by(gesture);
      return alongGutter(shapes, gesture.side, widestGutter(picture)).flatMap(({ of, side }) => {
        const moved = withSideMoved(shapes[of] as Shape, side, by);
        return moved ? [moved] : [];
      });
    }
    return [];
  }

  async end(): Promise<void> {
    const gesture = this.#gesture;
    this.giveUp();
    if (!gesture) return;
    const { act } = usePanels.getState();
    if (act === "bleed") return this.#bleed(gesture);
    if (!gesture.moved) return this.#choose(gesture);
    if (act === "cut") return this.#doCut(gesture);
    return act === "join" ? this.#join(gesture) : this.#push(gesture);
  }

  async #doCut(gesture: Gesture): Promise<void> {
    const { from, to, gutter } = this.#cut(gesture);
    const id = nanoid(10);
    await this.session.apply({ do: "panels.cut", id, from: [...from], to: [...to], gutter });
  }

  async #push(gesture: Gesture): Promise<void> {
    const group = gesture.side && this.#groupOf(gesture.side.of);
    if (!gesture.side || !group) return void tell("Take hold of a panel's side and push it.");
    const { side } = gesture.side;
    await this.session.apply({ do: "panels.push", group, side, by: this.#by(gesture) });
  }

  async #bleed({ side }: Gesture): Promise<void> {
    const group = side && this.#groupOf(side.of);
    if (!side || !group) return void tell("Tap the side that is to bleed.");
    await this.session.apply({ do: "panels.bleed", group, side: side.side });
  }

  async #join({ from, to }: Gesture): Promise<void> {
    const [a, b] = [this.#at(from), this.#at(to)];
    if (!a || !b || a === b) return void tell("Drag from one panel into the one beside it.");
    await this.session.apply({ do: "panels.join", groups: [a, b] });
  }

  /** A tap: this panel is worked on. */
  #choose({ from }: Gesture): void {
    const { picture, selected } = useTable.getState();
    const group = this.#at(from);
    if (picture && group) this.session.select([drawingOf(picture, group, selected)]);
  }

  #groupOf(place: number): string | null {
    return panelsOn(useTable.getState().picture)[place]?.group ?? null;
  }

  /** The group of the panel at a place. */
  #at(place: Point): string | null {
    const panels = panelsOn(useTable.getState().picture);
    return panels.find(({ corners }) => holds(corners, place))?.group ?? null;
  }

  hover(place: Point | null): void {
    const { act, near } = usePanels.getState();
    const wants = place && this.isOurs && !this.#gesture && (act === "push" || act === "bleed");
    const side = wants ? this.#sideAt(place) : null;
    if (side?.of === near?.of && side?.side === near?.side) return;
    usePanels.setState({ near: side });
  }
}

/** Where a side would end that bleeds, for the overlay; null where it cannot. */
export function bledNow({ of, side }: Side): Shape | null {
  const { picture } = useTable.getState();
  const shapes = shapesNow();
  const shape = shapes[of];
  if (!picture || !shape) return null;
  const { width, height } = picture;
  const sheet = { left: 0, top: 0, right: width, bottom: height };
  const made = bledShape(shape, side, sheet, 0);
  const isFree = made && shapes.every((other) => other === shape || overlapOf(other, made) <= 1);
  return isFree ? made : null;
}
