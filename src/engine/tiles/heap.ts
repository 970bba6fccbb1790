import { PAGE_BYTES } from "./kernels";

/** Blocks of these sizes are kept in lists of their own when freed. */
const SLAB_BYTES = 2 * 1024 * 1024;
/** The kernels' own constants lie below this. */
const FIRST_FREE = PAGE_BYTES;

/**
 * Hands out memory from the shared WebAssembly memory: equal-sized blocks cut from slabs,
 * reused when freed. Addresses are multiples of 64.
 */
export class Heap {
  #next = FIRST_FREE;
  #free = new Map<number, number[]>();
  #u8!: Uint8Array;
  #u16!: Uint16Array;
  #i32!: Int32Array;
  #f32!: Float32Array;

  /** Nothing but this heap may grow the memory: its views are renewed when it does. */
  constructor(readonly memory: WebAssembly.Memory) {
    this.#look();
  }

  /** Views of the whole memory; take them anew after anything that may allocate. */
  get u8(): Uint8Array {
    return this.#u8;
  }
  get u16(): Uint16Array {
    return this.#u16;
  }
  get i32(): Int32Array {
    return this.#i32;
  }
  get f32(): Float32Array {
    return this.#f32;
  }

  /** Bytes of memory taken from the system so far. */
  get bytes(): number {
    return this.memory.buffer.byteLength;
  }

  #look(): void {
    const { buffer } = this.memory;
    this.#u8 = new Uint8Array(buffer);
    this.#u16 = new Uint16Array(buffer);
    this.#i32 = new Int32Array(buffer);
    this.#f32 = new Float32Array(buffer);
  }

  /**
   * Address of a block of `bytes` bytes (not cleared). Give it back with the same size.
   * @throws RangeError when the memory cannot grow any more
   */
  allocate(bytes: number): number {
    const size = Math.ceil(bytes / 64) * 64;
    const list = this.#free.get(size);
    const reused = list?.pop();
    if (reused !== undefined) return reused;
    if (size >= SLAB_BYTES / 8) return this.#extend(size);
    const slab = this.#extend(SLAB_BYTES);
    const blocks = list ?? [];
    for (let at = SLAB_BYTES - (SLAB_BYTES % size) - size; at > 0; at -= size)
      blocks.push(slab + at);
    this.#free.set(size, blocks);
    return slab;
  }

  free(address: number, bytes: number): void {
    const size = Math.ceil(bytes / 64) * 64;
    const list = this.#free.get(size);
    if (list) list.push(address);
    else this.#free.set(size, [address]);
  }

  #extend(bytes: number): number {
    const address = this.#next;
    const missing = address + bytes - this.memory.buffer.byteLength;
    if (missing > 0) {
      try {
        this.memory.grow(Math.ceil(Math.max(missing, SLAB_BYTES) / PAGE_BYTES));
        this.#look();
      } catch {
        throw new RangeError(
          `the picture needs more memory than there is (${Math.round(this.bytes / 2 ** 20)} MiB in use)`,
        );
      }
    }
    this.#next = address + bytes;
    return address;
  }
}
