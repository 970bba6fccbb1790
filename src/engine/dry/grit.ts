import { FieldMaker } from "../paper/fields";
import { type Heap } from "../tiles/heap";

/**
 * Noise of single particles, of three sizes: 256 rows of 320 signed bytes (the last 64 repeat the
 * first), 32 ≙ one spread. See `kernels/dry.ts`.
 */
const SIDE = 256;
const ROW = SIDE + 64;

/** Spread of a particle, px at 300 ppi. */
const SIZES = { fine: 0.6, medium: 0.9, coarse: 1.6 };

export type Particle = keyof typeof SIZES;

/** Puts the noise of a particle into memory; its address. */
export function gritInMemory(heap: Heap, particle: Particle): number {
  const make = new FieldMaker(SIDE);
  const field = make.values(make.unit(make.blurred(make.white(81), SIZES[particle])));
  const address = heap.allocate(SIDE * ROW);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < ROW; x++) {
      const value = (field[y * SIDE + (x % SIDE)] as number) * 32;
      heap.u8[address + y * ROW + x] = Math.round(Math.min(127, Math.max(-127, value))) & 255;
    }
  return address;
}
