import { type Sample } from "../engine/stroke/sample";

/**
 * A ring of pen samples in shared memory: the page writes, the worker reads, nobody waits.
 * Words 0–2 of the head (32 bits): how many were written, how many were read, whether the
 * reader sleeps and wants to be woken; word 3: whether long work should stop;
 * word 4: counts up while the reader lives. Then `CAPACITY` samples of seven 64-bit floats.
 */
const CAPACITY = 4096;
const FIELDS = 7;
const HEAD_BYTES = 64;
const WRITTEN = 0;
const READ = 1;
const ASLEEP = 2;
const STOP = 3;
const PULSE = 4;

/** In place of a sample's time: a stroke begins here, starts over, or is given up. */
const BEGIN = -3;
const RESTART = -1;
const ABANDON = -2;
export type PenMark = "restart" | "abandon";

export const createPenRing = (): SharedArrayBuffer =>
  new SharedArrayBuffer(HEAD_BYTES + CAPACITY * FIELDS * 8);

class Ring {
  protected readonly head: Int32Array;
  protected readonly body: Float64Array;

  constructor(buffer: SharedArrayBuffer) {
    this.head = new Int32Array(buffer, 0, HEAD_BYTES / 4);
    this.body = new Float64Array(buffer, HEAD_BYTES);
  }

  protected at(index: number): number {
    return ((index >>> 0) % CAPACITY) * FIELDS;
  }
}

/** The page's end. */
export class PenWriter extends Ring {
  /** Adds a sample. False where the ring is full (the reader is far behind). */
  write(sample: Sample): boolean {
    const written = Atomics.load(this.head, WRITTEN);
    if (written - Atomics.load(this.head, READ) >= CAPACITY) return false;
    this.body.set(sample, this.at(written));
    Atomics.store(this.head, WRITTEN, written + 1);
    return true;
  }

  /** Write before the engine is told that a stroke begins: samples after it belong to that stroke. */
  begin(): void {
    this.write([BEGIN, 0, 0, 0, 0, 0, 0]);
  }

  mark(mark: PenMark): void {
    this.write([mark === "restart" ? RESTART : ABANDON, 0, 0, 0, 0, 0, 0]);
  }

  /** Asks for long work to be stopped: read even while the worker is busy. */
  askToStop(): void {
    Atomics.store(this.head, STOP, 1);
  }

  /** Changes while the reader lives. */
  pulse(): number {
    return Atomics.load(this.head, PULSE);
  }

  /** Whether the reader must be woken; asks once only. */
  mustWake(): boolean {
    return Atomics.exchange(this.head, ASLEEP, 0) === 1;
  }
}

/** The worker's end. */
export class PenReader extends Ring {
  /** Whether a stop was asked for since the last look. */
  stopAsked(): boolean {
    return Atomics.exchange(this.head, STOP, 0) === 1;
  }

  /** Shows the page that this thread lives. */
  beat(): void {
    Atomics.add(this.head, PULSE, 1);
  }

  /** Passes over what is left of earlier strokes, to the samples of the one that begins. */
  skipToBegin(): void {
    const written = Atomics.load(this.head, WRITTEN);
    let read = Atomics.load(this.head, READ);
    while (read !== written && this.body[this.at(read)] !== BEGIN) read++;
    Atomics.store(this.head, READ, read === written ? read : read + 1);
  }

  /**
   * Hands over what has come for the stroke in the making, and nothing of the next one.
   * Asks to be woken for more.
   */
  read(samples: (samples: Sample[]) => void, mark: (mark: PenMark) => void): void {
    Atomics.store(this.head, ASLEEP, 1);
    let batch: Sample[] = [];
    let read = Atomics.load(this.head, READ);
    const written = Atomics.load(this.head, WRITTEN);
    for (; read !== written; read++) {
      const at = this.at(read);
      const t = this.body[at] as number;
      if (t === BEGIN) break;
      if (t >= 0) {
        batch.push([...this.body.subarray(at, at + FIELDS)] as unknown as Sample);
        continue;
      }
      if (batch.length > 0) samples(batch);
      batch = [];
      mark(t === RESTART ? "restart" : "abandon");
    }
    Atomics.store(this.head, READ, read);
    if (batch.length > 0) samples(batch);
  }
}
