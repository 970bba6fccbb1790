import { type Sample } from "../engine/stroke/sample";

/**
 * A ring of pen samples in shared memory: the page writes, the worker reads, nobody waits.
 * Words 0–2 of the head (32 bits): how many were written, how many were read, whether the
 * reader sleeps and wants to be woken. Then `CAPACITY` samples of seven 64-bit floats.
 */
const CAPACITY = 4096;
const FIELDS = 7;
const HEAD_BYTES = 64;
const WRITTEN = 0;
const READ = 1;
const ASLEEP = 2;

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

  /** Whether the reader must be woken; asks once only. */
  mustWake(): boolean {
    return Atomics.exchange(this.head, ASLEEP, 0) === 1;
  }
}

/** The worker's end. */
export class PenReader extends Ring {
  /** All samples that have come; says first that it is awake, and goes back to sleep at the end. */
  readAll(): Sample[] {
    Atomics.store(this.head, ASLEEP, 1);
    const samples: Sample[] = [];
    let read = Atomics.load(this.head, READ);
    const written = Atomics.load(this.head, WRITTEN);
    while (read !== written) {
      const at = this.at(read);
      samples.push([...this.body.subarray(at, at + FIELDS)] as unknown as Sample);
      read++;
    }
    Atomics.store(this.head, READ, read);
    return samples;
  }
}
