import { LEAST_STEP_MS, type Sample } from "./sample";

/** From here up the hand is held by a string, below it is filtered. */
const STRING_FROM = 0.5;
/** Longest string, screen px. */
const LONGEST_STRING = 120;
/** 1 € filter: cut-off at rest in Hz for faint and for full filtering, and its opening with speed. */
const LOOSE_CUTOFF = 14;
const TIGHT_CUTOFF = 1.6;
const OPENING = 0.03;
const SPEED_CUTOFF = 1;

/** Takes raw samples one by one; gives a steadied one for each, or none. */
export interface Steady {
  take(sample: Sample): Sample | null;
}

const smoothing = (cutoff: number, seconds: number): number => {
  const tau = 1 / (2 * Math.PI * cutoff);
  return 1 / (1 + tau / seconds);
};

/**
 * The 1 € filter (Casiez, Roussel & Vogel 2012) on x and y: slow movement is smoothed,
 * quick movement passes, so jitter goes and lag stays under a sample at speed.
 */
class OneEuro implements Steady {
  #last: Sample | null = null;
  #vx = 0;
  #vy = 0;
  #x = 0;
  #y = 0;

  constructor(
    readonly cutoff: number,
    readonly scale: number,
  ) {}

  take(sample: Sample): Sample {
    const [t, x, y, ...rest] = sample;
    if (!this.#last) {
      this.#x = x;
      this.#y = y;
    } else {
      const seconds = Math.max(LEAST_STEP_MS, t - this.#last[0]) / 1000;
      const slow = smoothing(SPEED_CUTOFF, seconds);
      this.#vx += slow * ((x - this.#last[1]) / seconds - this.#vx);
      this.#vy += slow * ((y - this.#last[2]) / seconds - this.#vy);
      const speed = Math.sqrt(this.#vx * this.#vx + this.#vy * this.#vy) / this.scale;
      const a = smoothing(this.cutoff + OPENING * speed, seconds);
      this.#x += a * (x - this.#x);
      this.#y += a * (y - this.#y);
    }
    this.#last = sample;
    return [t, this.#x, this.#y, ...rest];
  }
}

/** The tip hangs on a string: it moves only when the string is taut. */
class PulledString implements Steady {
  #x = NaN;
  #y = NaN;

  constructor(readonly length: number) {}

  take(sample: Sample): Sample | null {
    const [t, x, y, ...rest] = sample;
    if (Number.isNaN(this.#x)) {
      this.#x = x;
      this.#y = y;
      return sample;
    }
    const dx = x - this.#x;
    const dy = y - this.#y;
    const distance = Math.sqrt(dx * dx + dy * dy);
    if (distance <= this.length) return null;
    const pull = (distance - this.length) / distance;
    this.#x += dx * pull;
    this.#y += dy * pull;
    return [t, this.#x, this.#y, ...rest];
  }
}

const asItIs: Steady = { take: (sample) => sample };

/**
 * Steadying for one stroke.
 * @param amount 0 none … 1 strongest
 * @param scale picture px a screen px when the stroke was drawn
 */
export function steady(amount: number, scale: number): Steady {
  if (amount <= 0) return asItIs;
  if (amount <= STRING_FROM) {
    const share = amount / STRING_FROM;
    return new OneEuro(LOOSE_CUTOFF * (TIGHT_CUTOFF / LOOSE_CUTOFF) ** share, scale);
  }
  const share = (amount - STRING_FROM) / (1 - STRING_FROM);
  return new PulledString((8 + (LONGEST_STRING - 8) * share) * scale);
}
