import { type Heap } from "../tiles/heap";
import { type Box, emptyBox, growBox, MARK_BYTES, MARK_WORDS, ONE } from "../tiles/layout";

/** Layout of a mark: see `kernels/mark.ts`. */
export const MOST_MARKS = 1024;
const DISC = 0;
const GRAIN_DISC = 1;
const SEGMENT = 2;

/** Dithered accumulation keeps this many bits more, while flow · 2^k stays within a half. */
const FINE_BITS = [8, 4] as const;
const FINE_LIMIT = 16384;

/** From this outer radius on a soft round disc is computed in 16-bit numbers, px. */
const FAST_RADIUS = 24;

/** An elliptical mark: radii in px, the longer one along `angle` (radians). */
export type Disc = {
  x: number;
  y: number;
  radius: number;
  stretch: number;
  angle: number;
  hardness: number;
  flow: number;
  /** A random whole number: which part of the noise this mark reads. */
  noise: number;
};

export type Grain = {
  threshold: number;
  softness: number;
  slope: number;
  aheadX: number;
  aheadY: number;
};

export type Segment = {
  x0: number;
  y0: number;
  r0: number;
  x1: number;
  y1: number;
  r1: number;
  flow: number;
};

/** How many more bits a flow can be kept at, and the flow at that size. */
export function fineFlow(flow: number): { bits: number; scaled: number } {
  const q15 = flow * ONE;
  const bits = FINE_BITS.find((k) => q15 * 2 ** k <= FINE_LIMIT) ?? 0;
  return { bits, scaled: Math.min(ONE, Math.round(q15 * 2 ** bits)) };
}

/** A list of marks in shared memory. */
export class Marks {
  readonly address: number;
  count = 0;
  readonly bounds: Box = emptyBox();
  #box: Box = emptyBox();

  /** @param quick whether large soft discs may be written for the quick kernel, which only lays coverage */
  constructor(
    readonly heap: Heap,
    readonly quick = true,
  ) {
    this.address = heap.allocate(MOST_MARKS * MARK_BYTES);
  }

  free(): void {
    this.heap.free(this.address, MOST_MARKS * MARK_BYTES);
  }

  get isFull(): boolean {
    return this.count >= MOST_MARKS;
  }

  clear(): void {
    this.count = 0;
    Object.assign(this.bounds, emptyBox());
  }

  /** Address of mark `index`. */
  at(index: number): number {
    return this.address + index * MARK_BYTES;
  }

  #begin(kind: number, left: number, top: number, right: number, bottom: number): number {
    const { i32 } = this.heap;
    const w = (this.address >> 2) + this.count * MARK_WORDS;
    const box = this.#box;
    i32[w] = kind;
    i32[w + 1] = box.left = Math.floor(left);
    i32[w + 2] = box.top = Math.floor(top);
    i32[w + 3] = box.right = Math.ceil(right);
    i32[w + 4] = box.bottom = Math.ceil(bottom);
    growBox(this.bounds, box);
    this.count++;
    return w;
  }

  /**
   * Adds a disc, on grain where one is given. Its rim falls over one pixel at least, so the
   * edge is smooth; a disc thinner than that keeps its weight by lying fainter.
   */
  disc(disc: Disc, grain: Grain | null): void {
    const { x, y, radius, stretch, angle, hardness } = disc;
    const outer = radius + 0.5;
    const inner = Math.max(0, (radius * hardness - 0.5) / outer);
    const inner2 = inner * inner;
    const kept = Math.min(1, (2 * radius * radius) / (outer * outer * (1 + inner2)));
    const long = radius * stretch + 0.5;
    const cos = Math.cos(angle);
    const sin = Math.sin(angle);
    const halfWidth = Math.sqrt((long * cos) ** 2 + (outer * sin) ** 2);
    const halfHeight = Math.sqrt((long * sin) ** 2 + (outer * cos) ** 2);
    const w = this.#begin(
      grain ? GRAIN_DISC : DISC,
      x - halfWidth,
      y - halfHeight,
      x + halfWidth,
      y + halfHeight,
    );
    const { i32, f32 } = this.heap;
    f32[w + 5] = x;
    f32[w + 6] = y;
    f32[w + 7] = cos / long;
    f32[w + 8] = sin / long;
    f32[w + 9] = -sin / outer;
    f32[w + 10] = cos / outer;
    f32[w + 11] = 1 / (1 - inner2);
    f32[w + 12] = 1 - hardness;
    const flow = disc.flow * kept;
    const fine = fineFlow(flow);
    f32[w + 13] = flow;
    i32[w + 14] = disc.noise & 4095;
    i32[w + 15] = fine.bits;
    i32[w + 16] = fine.scaled;
    i32[w + 21] = 0;
    if (grain) this.#grain(w, grain);
    else if (this.quick && stretch === 1 && hardness === 0 && outer >= FAST_RADIUS)
      this.#fast(w, outer);
  }

  #grain(w: number, grain: Grain): void {
    const { i32, f32 } = this.heap;
    f32[w + 17] = grain.threshold;
    f32[w + 18] = 1 / grain.softness;
    f32[w + 19] = grain.slope;
    i32[w + 20] = (grain.aheadY << 16) | (grain.aheadX & 0xffff);
  }

  /** For a large, quite soft, round disc: what the quick kernel reads. */
  #fast(w: number, outer: number): void {
    const { i32, f32 } = this.heap;
    const root = Math.sqrt((i32[w + 16] as number) / ONE);
    f32[w + 11] = outer;
    i32[w + 12] = Math.round(root * ONE);
    i32[w + 21] = 1;
    f32[w + 22] = (32768 * Math.sqrt(root)) / outer;
  }

  /** Adds a segment whose half-width goes from r0 to r1. */
  segment({ x0, y0, r0, x1, y1, r1, flow }: Segment): void {
    const r = Math.max(r0, r1) + 0.5;
    const w = this.#begin(
      SEGMENT,
      Math.min(x0, x1) - r,
      Math.min(y0, y1) - r,
      Math.max(x0, x1) + r,
      Math.max(y0, y1) + r,
    );
    const { f32 } = this.heap;
    const dx = x1 - x0;
    const dy = y1 - y0;
    const length2 = dx * dx + dy * dy;
    f32[w + 5] = x0;
    f32[w + 6] = y0;
    f32[w + 7] = dx;
    f32[w + 8] = dy;
    f32[w + 9] = length2 > 0 ? 1 / length2 : 0;
    f32[w + 11] = r0;
    f32[w + 12] = r1 - r0;
    f32[w + 13] = flow;
  }
}
