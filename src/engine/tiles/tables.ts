import { type Heap } from "./heap";

/** Tables that are kept at most, longest unused first to go: more than the layers of a picture can ask for. */
const MOST_TABLES = 1200;
/** Bytes of them: a screen has some 300 kB, and while its angle is dragged there are many. */
const MOST_BYTES = 128 * 2 ** 20;

type Kept = { address: number; bytes: number };
const shelves = new WeakMap<Heap, Map<string, Kept>>();

/**
 * Address of a table of f32 in shared memory, made when it is first asked for and kept under
 * its name. A table that is asked for stays good until as many others have been asked for.
 */
export function tableAddress(heap: Heap, name: string, make: () => Float32Array): number {
  let shelf = shelves.get(heap);
  if (!shelf) shelves.set(heap, (shelf = new Map()));
  const known = shelf.get(name);
  if (known) {
    shelf.delete(name);
    shelf.set(name, known);
    return known.address;
  }
  const numbers = make();
  const kept = { address: heap.allocate(numbers.byteLength), bytes: numbers.byteLength };
  heap.f32.set(numbers, kept.address >> 2);
  shelf.set(name, kept);
  let held = 0;
  for (const { bytes } of shelf.values()) held += bytes;
  for (const [oldest, { address, bytes }] of shelf) {
    if (shelf.size <= MOST_TABLES && held <= MOST_BYTES) break;
    held -= bytes;
    heap.free(address, bytes);
    shelf.delete(oldest);
  }
  return kept.address;
}
