import { type Heap } from "./heap";

/**
 * Blue noise, 64 × 64 values 0…255, each 16 times: void-and-cluster (Ulichney 1993).
 * A pixel's rank is found by adding points where the summed Gaussian is least.
 */
const SIDE = 64;
const CELLS = SIDE * SIDE;
const SIGMA = 1.9;
const REACH = 9;
const FIRST_POINTS = CELLS / 10;

/** Weights of the torus Gaussian, rounded so that they are the same on every machine. */
function gaussian(): Float64Array {
  const weights = new Float64Array((2 * REACH + 1) ** 2);
  for (let y = -REACH, i = 0; y <= REACH; y++)
    for (let x = -REACH; x <= REACH; x++, i++)
      weights[i] = Math.round(Math.exp(-(x * x + y * y) / (2 * SIGMA * SIGMA)) * 2 ** 20);
  return weights;
}

let made: Uint8Array | null = null;

/** Ranks turned into 8 bits, row by row; made once. */
export function blueNoise(): Uint8Array {
  return (made ??= makeNoise());
}

function makeNoise(): Uint8Array {
  const weights = gaussian();
  const energy = new Float64Array(CELLS);
  const taken = new Uint8Array(CELLS);
  const spread = (cell: number, sign: number): void => {
    const cx = cell % SIDE;
    const cy = (cell - cx) / SIDE;
    for (let y = -REACH, i = 0; y <= REACH; y++) {
      const row = ((cy + y + SIDE) % SIDE) * SIDE;
      for (let x = -REACH; x <= REACH; x++, i++) {
        const at = row + ((cx + x + SIDE) % SIDE);
        energy[at] = (energy[at] as number) + sign * (weights[i] as number);
      }
    }
    taken[cell] = sign > 0 ? 1 : 0;
  };
  const extreme = (among: number, sign: number): number => {
    let best = -1;
    let value = Infinity;
    for (let i = 0; i < CELLS; i++) {
      const e = sign * (energy[i] as number);
      if (taken[i] === among && e < value) {
        value = e;
        best = i;
      }
    }
    return best;
  };

  // A first scatter from a small generator, then moved until clusters and voids agree.
  let state = 12345;
  for (let placed = 0; placed < FIRST_POINTS;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const cell = state >>> 20;
    if (taken[cell]) continue;
    spread(cell, 1);
    placed++;
  }
  for (let moves = 0; moves < CELLS; moves++) {
    const tightest = extreme(1, -1);
    spread(tightest, -1);
    const emptiest = extreme(0, 1);
    spread(emptiest, 1);
    if (tightest === emptiest) break;
  }

  const ranks = new Uint16Array(CELLS);
  const first = Uint8Array.from(taken);
  const points = first.reduce((a, b) => a + b, 0);
  for (let rank = points - 1; rank >= 0; rank--) {
    const cell = extreme(1, -1);
    ranks[cell] = rank;
    spread(cell, -1);
  }
  for (let i = 0; i < CELLS; i++) if (first[i]) spread(i, 1);
  for (let rank = points; rank < CELLS; rank++) {
    const cell = extreme(0, 1);
    ranks[cell] = rank;
    spread(cell, 1);
  }
  return Uint8Array.from(ranks, (rank) => rank >> 4);
}

const inMemory = new WeakMap<Heap, number>();

/** Address of the noise as the kernels read it: rows of 128, the second half repeating the first. */
export function noiseAddress(heap: Heap): number {
  const known = inMemory.get(heap);
  if (known !== undefined) return known;
  const noise = blueNoise();
  const address = heap.allocate(64 * 128 * 2);
  const { u16 } = heap;
  for (let y = 0; y < 64; y++)
    for (let x = 0; x < 128; x++)
      u16[(address >> 1) + y * 128 + x] = noise[y * 64 + (x & 63)] as number;
  inMemory.set(heap, address);
  return address;
}
