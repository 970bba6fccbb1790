import { type Sample } from "../../../engine/stroke/sample";
import { toPicture, type Size, type View, viewMatrix, wrapAngle } from "../../../worker/view";
import { felt } from "./felt";
import { StandInPen } from "./stand-in-pen";
import { useTable } from "../table-store";

export type Point = { x: number; y: number };

const UPRIGHT = Math.PI / 2;

/** Turns what the browser says of a pen, a mouse or a finger over a surface into samples of a stroke on it. */
export class PenSamples {
  #began = 0;
  #standIn = new StandInPen();
  #pressed = 0.5;

  constructor(
    readonly element: HTMLElement,
    /** How the surface is seen, and the size of what it is seen in, device px. */
    readonly seen: () => { view: View; screen: Size },
  ) {}

  /** A stroke begins. */
  begin(event: PointerEvent): void {
    this.#began = event.timeStamp;
    this.#standIn = new StandInPen();
  }

  /** Device px in the view. */
  place(event: { clientX: number; clientY: number }): Point {
    const box = this.element.getBoundingClientRect();
    const ratio = window.devicePixelRatio;
    return { x: (event.clientX - box.left) * ratio, y: (event.clientY - box.top) * ratio };
  }

  /** Px of the surface. */
  onSurface({ x, y }: Point): Point {
    const { view, screen } = this.seen();
    const [px, py] = toPicture(viewMatrix(view, screen), x, y);
    return { x: px, y: py };
  }

  of(event: PointerEvent): Sample {
    const place = this.place(event);
    const { x, y } = this.onSurface(place);
    const t = Math.max(0, event.timeStamp - this.#began);
    const leans = event.pointerType === "pen" && useTable.getState().pen.leans;
    return [
      t,
      x,
      y,
      this.#pressure(event, t, place),
      leans ? (event.altitudeAngle ?? UPRIGHT) : UPRIGHT,
      azimuthOn(this.seen().view, leans ? (event.azimuthAngle ?? 0) : 0),
      ((event.twist ?? 0) * Math.PI) / 180,
    ];
  }

  #pressure(event: PointerEvent, t: number, place: Point): number {
    // A pen that is lifted says 0; the line ends with the pressure that it had.
    if (event.type === "pointerup") return this.#pressed;
    const isFelt = event.pointerType === "touch" && event.pressure > 0 && event.pressure !== 1;
    if (event.pointerType === "pen" || isFelt) this.#pressed = felt(event.pressure);
    else
      this.#pressed = useTable.getState().standInPen
        ? this.#standIn.press(t, place.x, place.y)
        : 0.5;
    return this.#pressed;
  }
}

/** A direction on the screen as one on the sheet, which may be turned or mirrored. */
function azimuthOn({ angle, mirrored }: View, azimuth: number): number {
  const turned = azimuth - angle;
  return wrapAngle(mirrored ? Math.PI - turned : turned);
}
