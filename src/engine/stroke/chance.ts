/**
 * Chance in the engine: the PCG hash (O'Neill 2014; as a hash of a counter: Jarzynski &
 * Olano 2020), so the n-th number of a stroke is the same whoever asks and in whatever order.
 */
function pcg(input: number): number {
  const state = (Math.imul(input, 747796405) + 2891336453) >>> 0;
  const word = Math.imul((state >>> ((state >>> 28) + 4)) ^ state, 277803737) >>> 0;
  return ((word >>> 22) ^ word) >>> 0;
}

export class Chance {
  readonly #key: number;

  /** @param seed a whole number 0…2³²−1 */
  constructor(seed: number) {
    this.#key = pcg(seed ^ 0x9e3779b9);
  }

  /** What a kernel is told of it (`kernels/noise.ts`). */
  get key(): number {
    return this.#key;
  }

  /** 32 random bits for a counter. */
  bits(counter: number): number {
    return pcg(pcg(counter) ^ this.#key);
  }

  /** A number 0…1 (1 excluded) for a counter. */
  at(counter: number): number {
    return this.bits(counter) / 4294967296;
  }
}
