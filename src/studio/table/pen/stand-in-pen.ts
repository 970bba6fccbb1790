/**
 * A pen's pressure for those who have only a mouse: slow is heavy, quick is light, and no
 * stroke begins or changes with a jolt.
 */
const HEAVY = 0.82;
const LIGHT = 0.18;
/** Speed at which half of the weight is gone, screen px a second. */
const HALF_SPEED = 900;
const MEMORY = 90;

export class StandInPen {
  #pressure = 0.35;
  #last: { t: number; x: number; y: number } | null = null;

  /** Pressure at a place (screen px) and time (ms). */
  press(t: number, x: number, y: number): number {
    const last = this.#last;
    this.#last = { t, x, y };
    if (!last) return this.#pressure;
    const dt = Math.max(1, t - last.t);
    const speed = (Math.hypot(x - last.x, y - last.y) / dt) * 1000;
    const aim = LIGHT + (HEAVY - LIGHT) / (1 + speed / HALF_SPEED);
    this.#pressure += (aim - this.#pressure) * (dt / (dt + MEMORY));
    return this.#pressure;
  }
}
