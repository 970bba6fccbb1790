import { type Point } from "./pen-samples";

/** All fingers are lifted again within this, ms, and none has strayed farther than this, CSS px: a tap. */
const SOON = 350;
const STRAY = 14;

/** Tells a tap of several fingers from a gesture. */
export class Taps {
  #down = new Map<number, Point>();
  #since = 0;
  #most = 0;
  #isSpoiled = false;

  /** @param time ms */
  down(finger: number, place: Point, time: number): void {
    if (this.#down.size === 0) {
      this.#since = time;
      this.#most = 0;
      this.#isSpoiled = false;
    }
    this.#down.set(finger, place);
    this.#most = Math.max(this.#most, this.#down.size);
  }

  move(finger: number, { x, y }: Point): void {
    const from = this.#down.get(finger);
    if (from && Math.hypot(x - from.x, y - from.y) > STRAY) this.#isSpoiled = true;
  }

  /** A finger is lifted, or taken away. Answers with how many fingers the tap was that ended with it; 0 for none. */
  up(finger: number, time: number): number {
    if (!this.#down.delete(finger) || this.#down.size > 0) return 0;
    return this.#isSpoiled || time - this.#since > SOON ? 0 : this.#most;
  }

  /** What is down is no tap: a pen has come. */
  spoil(): void {
    this.#down.clear();
  }
}
