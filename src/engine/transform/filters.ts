import { type Heap } from "../tiles/heap";

/**
 * Resampling filters as tables: 256 phases between two pixels, eight weights each in Q14 that
 * sum to exactly one, so that a picture that is not moved stays as it is.
 *
 *   bicubic   Catmull-Rom, four taps (Keys 1981, a = −½): for turning and bending
 *   lanczos   Lanczos of three lobes, six taps (Duchon 1979), in linear light: crisper, for scaling
 */
export const filters = ["bicubic", "lanczos"] as const;
export type Filter = (typeof filters)[number];
export const TAPS: Readonly<Record<Filter, number>> = { bicubic: 4, lanczos: 6 };

/** What is scaled in linear light keeps its brightness. What is only turned need not go there. */
export const IN_LINEAR_LIGHT: Readonly<Record<Filter, boolean>> = { bicubic: false, lanczos: true };

const PHASES = 256;
const ONE_Q14 = 16384;

function keys(x: number): number {
  const d = Math.abs(x);
  if (d < 1) return 1.5 * d ** 3 - 2.5 * d ** 2 + 1;
  return d < 2 ? -0.5 * d ** 3 + 2.5 * d ** 2 - 4 * d + 2 : 0;
}

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
const lanczos = (x: number): number => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0);

const kernels: Readonly<Record<Filter, (x: number) => number>> = { bicubic: keys, lanczos };

/** The weights of a filter's taps, 256 × 8. */
export function weightsOf(filter: Filter): Int16Array {
  const taps = TAPS[filter];
  const table = new Int16Array(PHASES * 8);
  for (let phase = 0; phase < PHASES; phase++) {
    const at = phase / PHASES + taps / 2 - 1;
    const plain = Array.from({ length: taps }, (_, tap) => kernels[filter](at - tap));
    const sum = plain.reduce((all, v) => all + v);
    const whole = plain.map((v) => Math.round((v / sum) * ONE_Q14));
    const greatest = whole.indexOf(Math.max(...whole));
    // What rounding lost goes to the greatest weight.
    whole[greatest] = (whole[greatest] as number) + ONE_Q14 - whole.reduce((all, v) => all + v);
    table.set(whole, phase * 8);
  }
  return table;
}

const inMemory = new WeakMap<Heap, Map<Filter, number>>();

/** Where a filter's table lies in memory; put there when it is first asked for. */
export function filterAddress(heap: Heap, filter: Filter): number {
  let known = inMemory.get(heap);
  if (!known) inMemory.set(heap, (known = new Map()));
  const there = known.get(filter);
  if (there !== undefined) return there;
  const table = weightsOf(filter);
  const address = heap.allocate(table.byteLength);
  new Int16Array(heap.u8.buffer, address, table.length).set(table);
  known.set(filter, address);
  return address;
}
