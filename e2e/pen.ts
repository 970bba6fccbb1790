import { type CDPSession, type Page } from "@playwright/test";

/** A point of a pen's way: CSS px on the page, pressure 0…1, tilt in degrees. */
export type PenPoint = {
  x: number;
  y: number;
  pressure: number;
  tiltX?: number;
  tiltY?: number;
  twist?: number;
  /** ms since the stroke began; without it points follow each other every 8 ms. */
  ms?: number;
};

/** Time between two points of a stroke, ms. */
const STEP_MS = 8;

/**
 * A pen made of the browser's own input events: pages get true pointer events with
 * pressure, tilt and twist.
 */
export class Pen {
  #session: CDPSession;

  private constructor(session: CDPSession) {
    this.#session = session;
  }

  static async on(page: Page): Promise<Pen> {
    return new Pen(await page.context().newCDPSession(page));
  }

  async #send(
    type: "mousePressed" | "mouseMoved" | "mouseReleased",
    point: PenPoint,
    timestamp?: number,
  ): Promise<void> {
    const { x, y, pressure, tiltX = 0, tiltY = 0, twist = 0 } = point;
    const isMove = type === "mouseMoved";
    await this.#session.send("Input.dispatchMouseEvent", {
      type,
      x,
      y,
      button: "left",
      buttons: type === "mouseReleased" ? 0 : 1,
      clickCount: isMove ? 0 : 1,
      pointerType: "pen",
      force: pressure,
      tiltX,
      tiltY,
      twist,
      ...(timestamp === undefined ? {} : { timestamp }),
    });
  }

  async down(point: PenPoint): Promise<void> {
    await this.#send("mousePressed", point);
  }

  async move(point: PenPoint): Promise<void> {
    await this.#send("mouseMoved", point);
  }

  async up(point: PenPoint): Promise<void> {
    await this.#send("mouseReleased", point);
  }

  /** A whole stroke. Moves are sent without waiting, as a real pen does. */
  async stroke(points: readonly PenPoint[]): Promise<void> {
    const [first] = points;
    const last = points.at(-1);
    if (!first || !last) return;
    // Sent all at once, but with the times that a hand takes.
    const start = Date.now() / 1000;
    const at = (point: PenPoint, i: number): number => start + (point.ms ?? i * STEP_MS) / 1000;
    await this.#send("mousePressed", first, start);
    await Promise.all(
      points.slice(1).map((point, i) => this.#send("mouseMoved", point, at(point, i + 1))),
    );
    await this.#send("mouseReleased", last, at(last, points.length - 1) + 0.001);
  }
}

/** A line from a to b whose pressure swells and falls. */
export function swell(
  a: [number, number],
  b: [number, number],
  steps = 24,
  most = 0.9,
): PenPoint[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const u = i / steps;
    return {
      x: a[0] + (b[0] - a[0]) * u,
      y: a[1] + (b[1] - a[1]) * u,
      pressure: 0.05 + (most - 0.05) * Math.sin(u * Math.PI),
    };
  });
}
