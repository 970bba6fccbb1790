import { type Heap } from "./heap";
import { type Kernels } from "./kernels";
import { checkInstruction, REGION_BYTES, SAMPLES_BYTES } from "./tape";

/**
 * Runs tapes (see `kernels/tape.ts`), one a tile, on this thread and on helpers that share
 * the memory. Which thread takes which tape makes no difference to the pixels.
 *
 * The protocol, in 32-bit words at `control`:
 *   0 round: raised by one for every batch; helpers sleep on it
 *   1 next job · 2 address of the list of tapes · 3 count · 4 helpers done · 5 stop
 * and, in each helper's scratch, one word that admits it: the round it starts from, plus one.
 * A helper takes part only once admitted, so that a batch always knows whom to wait for.
 */
const CONTROL = { round: 0, next: 1, tapes: 2, count: 3, done: 4, stop: 5 };
const CONTROL_BYTES = 64;
const SCRATCH_BYTES = 1024 + Math.max(REGION_BYTES, SAMPLES_BYTES);
const ADMITTED_AT = 512;
const MOST_JOBS = 4096;
const TAPE_WORDS = 1 << 20;

/** What a helper needs to begin. */
export type HelperStart = {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
  control: number;
  scratch: number;
};

export class Workforce {
  readonly control: number;
  helpers = 0;
  #scratch: number;
  #tapes: number;
  #list: number;
  #word = 0;
  #jobs = 0;
  #jobStart = 0;

  constructor(
    readonly heap: Heap,
    readonly kernels: Kernels,
  ) {
    this.control = heap.allocate(CONTROL_BYTES);
    heap.u8.fill(0, this.control, this.control + CONTROL_BYTES);
    this.#scratch = heap.allocate(SCRATCH_BYTES);
    this.#list = heap.allocate(MOST_JOBS * 4);
    this.#tapes = heap.allocate(TAPE_WORDS * 4);
  }

  /** What a helper's thread must be given. It helps once it has been admitted. */
  enlist(module: WebAssembly.Module): HelperStart {
    const scratch = this.heap.allocate(SCRATCH_BYTES);
    this.heap.u8.fill(0, scratch, scratch + ADMITTED_AT + 4);
    return { module, memory: this.heap.memory, control: this.control, scratch };
  }

  /** Call when the helper's thread has said that it runs. */
  admit(start: HelperStart): void {
    const { i32 } = this.heap;
    const word = (start.scratch + ADMITTED_AT) >> 2;
    Atomics.store(i32, word, Atomics.load(i32, (this.control >> 2) + CONTROL.round) + 1);
    Atomics.notify(i32, word);
    this.helpers++;
  }

  /** This thread's own scratch, for kernels that are called outside a tape. */
  get scratch(): number {
    return this.#scratch;
  }

  get isFull(): boolean {
    return this.#jobs >= MOST_JOBS || this.#word > TAPE_WORDS - 4096;
  }

  get isEmpty(): boolean {
    return this.#jobs === 0;
  }

  beginJob(): void {
    this.#jobStart = this.#word;
  }

  /**
   * Adds one instruction to the job that was begun.
   * @throws RangeError where it is none, has too few operands or too many, or the tapes are full
   */
  write(...words: number[]): void {
    checkInstruction(words);
    if (this.#word + words.length >= TAPE_WORDS)
      throw new RangeError(`the tapes hold ${TAPE_WORDS} words and are full`);
    const { i32 } = this.heap;
    let at = (this.#tapes >> 2) + this.#word;
    for (let i = 0; i < words.length; i++) i32[at++] = words[i] as number;
    this.#word += words.length;
  }

  endJob(): void {
    const { i32 } = this.heap;
    i32[(this.#tapes >> 2) + this.#word++] = 0;
    i32[(this.#list >> 2) + this.#jobs++] = this.#tapes + this.#jobStart * 4;
  }

  /** Runs all jobs. `together`: worth waking the helpers for. */
  run(together: boolean): void {
    const jobs = this.#jobs;
    this.#jobs = 0;
    this.#word = 0;
    if (jobs === 0) return;
    const { i32 } = this.heap;
    const c = this.control >> 2;
    Atomics.store(i32, c + CONTROL.next, 0);
    const shared = together && this.helpers > 0 && jobs > 1;
    if (shared) {
      Atomics.store(i32, c + CONTROL.tapes, this.#list);
      Atomics.store(i32, c + CONTROL.count, jobs);
      Atomics.store(i32, c + CONTROL.done, 0);
      Atomics.add(i32, c + CONTROL.round, 1);
      Atomics.notify(i32, c + CONTROL.round);
    }
    this.kernels.pullJobs(this.control + CONTROL.next * 4, this.#list, jobs, this.#scratch);
    if (!shared) return;
    // A helper that woke late finds no jobs left and says so at once.
    for (;;) {
      const done = Atomics.load(i32, c + CONTROL.done);
      if (done >= this.helpers) return;
      Atomics.wait(i32, c + CONTROL.done, done, 1);
    }
  }

  stop(): void {
    const { i32 } = this.heap;
    const c = this.control >> 2;
    Atomics.store(i32, c + CONTROL.stop, 1);
    Atomics.add(i32, c + CONTROL.round, 1);
    Atomics.notify(i32, c + CONTROL.round);
    this.helpers = 0;
  }
}

/** A helper's life: wait to be admitted, sleep, pull jobs, until told to stop. Blocks its thread. */
export function help(kernels: Kernels, start: HelperStart): void {
  // The words lie in the first pages, so a view taken now stays good as memory grows.
  const i32 = new Int32Array(start.memory.buffer);
  const c = start.control >> 2;
  const admitted = (start.scratch + ADMITTED_AT) >> 2;
  Atomics.wait(i32, admitted, 0);
  let round = Atomics.load(i32, admitted) - 1;
  for (;;) {
    Atomics.wait(i32, c + CONTROL.round, round);
    round = Atomics.load(i32, c + CONTROL.round);
    if (Atomics.load(i32, c + CONTROL.stop)) return;
    kernels.pullJobs(
      start.control + CONTROL.next * 4,
      Atomics.load(i32, c + CONTROL.tapes),
      Atomics.load(i32, c + CONTROL.count),
      start.scratch,
    );
    Atomics.add(i32, c + CONTROL.done, 1);
    Atomics.notify(i32, c + CONTROL.done);
  }
}
