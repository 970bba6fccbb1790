/**
 * Chance in the engine: the "squares" counter generator (Widynski 2020, four rounds), so
 * the n-th number of a stroke is the same whoever asks and in whatever order.
 */
const KEY_STEP = 0x9e3779b97f4a7c15n;
const MASK = 0xffffffffffffffffn;

/** An odd 64-bit key from a stroke's seed. */
const keyOf = (seed: number): bigint => ((BigInt(seed) + 1n) * KEY_STEP * 2n + 1n) & MASK;

export class Chance {
  #key: bigint;

  /** @param seed a whole number 0…2³²−1 */
  constructor(seed: number) {
    this.#key = keyOf(seed);
  }

  /** 32 random bits for a counter. */
  bits(counter: number): number {
    const y0 = (BigInt(counter) * this.#key) & MASK;
    const z = (y0 + this.#key) & MASK;
    let x = (y0 * y0 + y0) & MASK;
    x = ((x >> 32n) | (x << 32n)) & MASK;
    x = (x * x + z) & MASK;
    x = ((x >> 32n) | (x << 32n)) & MASK;
    x = (x * x + y0) & MASK;
    x = ((x >> 32n) | (x << 32n)) & MASK;
    return Number(((x * x + z) & MASK) >> 32n);
  }

  /** A number 0…1 (1 excluded) for a counter. */
  at(counter: number): number {
    return this.bits(counter) / 4294967296;
  }
}
