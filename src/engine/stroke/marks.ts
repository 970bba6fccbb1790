import { type Heap } from "../tiles/heap";
import { type Rub } from "./laying/contact";
import { type LinePoint } from "./laying/station";
import { type TipInMemory, levelFor } from "./tip-shelf";
import { type Box, emptyBox, growBox, MARK_BYTES, MARK_WORDS, ONE, tilesIn } from "../tiles/layout";

/** Layout of a mark: see `kernels/mark.ts`. */
const BATCH_MARKS = 1024;
/** A list that grows holds no more than this: a stroke of many metres. */
const MOST_MARKS = 65536;
const DISC = 0;
const GRAIN_DISC = 1;
const SEGMENT = 2;
const CHORD = 6;
const RUB = 7;
const CONE = 8;
/** Heights that a waxy tip ran over just before, px at the paper's natural size; no farther than a paper's margins. */
const PASSED = { near: 2.4, far: 4.8, most: 7 };
/** (Difference of the radii ÷ length)² from which a round cone is no more than its larger disc. */
const MOST_LEAN = 0.998;
/** Kinds of a tip's planes. */
const TONES = { coverage: 3, "two tones": 4, colours: 5 } as const;

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

/** A picture laid as a mark: `radius` is half of its longer side, px. */
export type Stamp = Omit<Disc, "hardness"> & {
  tip: TipInMemory;
  flipX: boolean;
  flipY: boolean;
};

/** A piece of a line with a tip stretched along it, from one share of the stroke to another. */
export type Stretch = { tip: TipInMemory; from: number; to: number };

/** First and second colour, Q15: r g b r g b. */
export type Tint = readonly [number, number, number, number, number, number];

/** How many more bits a flow can be kept at, and the flow at that size. */
export function fineFlow(flow: number): { bits: number; scaled: number } {
  const q15 = flow * ONE;
  const bits = FINE_BITS.find((k) => q15 * 2 ** k <= FINE_LIMIT) ?? 0;
  return { bits, scaled: Math.min(ONE, Math.round(q15 * 2 ** bits)) };
}

/** A list of marks in shared memory. */
export class Marks {
  address: number;
  count = 0;
  #room = BATCH_MARKS;
  readonly bounds: Box = emptyBox();
  /** Of marks that blend: what share of a whole mark's exchange each of them does. */
  share = 1;
  /** Pixels in the boxes of all marks together. */
  area = 0;
  #box: Box = emptyBox();

  /** Colours of the marks that are added from now on; read only where marks have colours. */
  tint: Tint = [0, 0, 0, ONE, ONE, ONE];

  /** @param quick whether large soft discs may be written for the quick kernel, which only lays coverage */
  constructor(
    readonly heap: Heap,
    readonly quick = true,
    /** Whether it makes room for more; else it is full after a batch, and its marks are to be laid. */
    readonly grows = false,
  ) {
    this.address = heap.allocate(this.#room * MARK_BYTES);
  }

  free(): void {
    this.heap.free(this.address, this.#room * MARK_BYTES);
  }

  /** Bytes that it takes. */
  get bytes(): number {
    return this.#room * MARK_BYTES;
  }

  /** Adds the keys of the tiles that its marks' boxes reach. */
  addTiles(sheet: { width: number; height: number }, keys: Set<number>): void {
    const { i32 } = this.heap;
    for (let i = 0; i < this.count; i++) {
      const w = this.at(i) >> 2;
      const [left, top, right, bottom] = i32.subarray(w + 1, w + 5) as unknown as number[];
      const box = { left, top, right, bottom } as Box;
      for (const key of tilesIn(box, sheet.width, sheet.height)) keys.add(key);
    }
  }

  /** Whether `more` marks find no room. */
  lacksRoomFor(more: number): boolean {
    if (this.count + more <= this.#room) return false;
    if (!this.grows || this.#room >= MOST_MARKS) return true;
    this.#grow();
    return this.lacksRoomFor(more);
  }

  #grow(): void {
    const { heap, address } = this;
    const bytes = this.#room * MARK_BYTES;
    this.#room *= 2;
    this.address = heap.allocate(this.#room * MARK_BYTES);
    heap.u8.copyWithin(this.address, address, address + this.count * MARK_BYTES);
    heap.free(address, bytes);
  }

  clear(): void {
    this.count = 0;
    this.area = 0;
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
    this.area += (box.right - box.left) * (box.bottom - box.top);
    i32[w + 21] = 0;
    this.heap.f32[w + 22] = this.share;
    i32[w + 23] = 0;
    i32[w + 34] = 0;
    i32[w + 35] = 0;
    const { tint } = this;
    for (let c = 0; c < tint.length; c++) i32[w + 40 + c] = tint[c] as number;
    this.count++;
    return w;
  }

  /** What every mark that builds up says of its flow. */
  #flow(w: number, flow: number, noise: number): void {
    const { i32, f32 } = this.heap;
    const fine = fineFlow(flow);
    f32[w + 13] = flow;
    i32[w + 14] = noise & 4095;
    i32[w + 15] = fine.bits;
    i32[w + 16] = fine.scaled;
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
    const { f32 } = this.heap;
    f32[w + 5] = x;
    f32[w + 6] = y;
    f32[w + 7] = cos / long;
    f32[w + 8] = sin / long;
    f32[w + 9] = -sin / outer;
    f32[w + 10] = cos / outer;
    f32[w + 11] = 1 / (1 - inner2);
    f32[w + 12] = 1 - hardness;
    this.#flow(w, disc.flow * kept, disc.noise);
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
    i32[w + 34] = 1;
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

  /** Adds a picture, on grain where one is given. */
  stamp(stamp: Stamp, grain: Grain | null): void {
    const { x, y, radius, stretch, angle, tip } = stamp;
    const longer = Math.max(tip.width, tip.height);
    const halfAcross = Math.max(0.25, (radius * stretch * tip.width) / longer);
    const halfDown = Math.max(0.25, (radius * tip.height) / longer);
    const cos = Math.cos(angle);
    const sin = Math.sin(angle);
    const reachX = Math.abs(halfAcross * cos) + Math.abs(halfDown * sin) + 1;
    const reachY = Math.abs(halfAcross * sin) + Math.abs(halfDown * cos) + 1;
    const w = this.#begin(TONES[tip.tones], x - reachX, y - reachY, x + reachX, y + reachY);
    const level = this.#tip(w, tip, longer / Math.max(0.5, radius * 2));
    const { f32 } = this.heap;
    f32[w + 5] = x;
    f32[w + 6] = y;
    const perX = ((stamp.flipX ? -1 : 1) * level.width) / 2 / halfAcross;
    const perY = ((stamp.flipY ? -1 : 1) * level.height) / 2 / halfDown;
    f32[w + 27] = cos * perX;
    f32[w + 28] = sin * perX;
    f32[w + 29] = -sin * perY;
    f32[w + 30] = cos * perY;
    this.heap.i32[w + 21] = 1;
    this.#flow(w, stamp.flow, stamp.noise);
    if (grain) this.#grain(w, grain);
  }

  #tip(w: number, tip: TipInMemory, texels: number) {
    const { i32 } = this.heap;
    const level = levelFor(tip, texels);
    i32[w + 23] = level.address;
    i32[w + 24] = level.columns;
    i32[w + 25] = level.rows;
    i32[w + 26] = level.planeBytes;
    i32[w + 35] = TONES[tip.tones];
    return level;
  }

  /**
   * Adds a piece of a line, bounded by the bisectors of its joints, with or without a tip
   * stretched along it.
   */
  chord(
    from: LinePoint,
    to: LinePoint,
    flow: number,
    noise: number,
    stretch: Stretch | null,
  ): void {
    const r = Math.max(from.r, to.r) * 1.15 + 1.5;
    const w = this.#begin(
      CHORD,
      Math.min(from.x, to.x) - r,
      Math.min(from.y, to.y) - r,
      Math.max(from.x, to.x) + r,
      Math.max(from.y, to.y) + r,
    );
    const { f32 } = this.heap;
    const dx = to.x - from.x;
    const dy = to.y - from.y;
    const length = Math.sqrt(dx * dx + dy * dy) || 1e-6;
    // At a cusp the bisector would cut half of the line away: there the pieces overlap instead.
    const startTurns = from.tx * dx + from.ty * dy <= length / 2;
    const endTurns = to.tx * dx + to.ty * dy <= length / 2;
    f32[w + 5] = from.x;
    f32[w + 6] = from.y;
    f32[w + 7] = dx;
    f32[w + 8] = dy;
    f32[w + 9] = 1 / length;
    f32[w + 11] = from.r;
    f32[w + 12] = to.r - from.r;
    f32[w + 36] = startTurns ? dx / length : from.tx;
    f32[w + 37] = startTurns ? dy / length : from.ty;
    f32[w + 38] = endTurns ? dx / length : to.tx;
    f32[w + 39] = endTurns ? dy / length : to.ty;
    this.#flow(w, flow, noise);
    if (!stretch) return;
    const { tip } = stretch;
    const along = (Math.abs(stretch.to - stretch.from) * tip.width) / length;
    const across = tip.height / Math.max(0.5, 2 * Math.max(from.r, to.r));
    const level = this.#tip(w, tip, Math.max(across, along / 2));
    f32[w + 27] = stretch.from * level.width + 0.5;
    f32[w + 28] = (stretch.to - stretch.from) * level.width;
  }

  /** Adds a dry tip that goes straight from one place to another. */
  rub(rub: Rub): void {
    const { fromX, fromY, toX, toY, long, short, angle } = rub;
    const cos = Math.cos(angle);
    const sin = Math.sin(angle);
    const halfWidth = Math.sqrt((long * cos) ** 2 + (short * sin) ** 2) + 1;
    const halfHeight = Math.sqrt((long * sin) ** 2 + (short * cos) ** 2) + 1;
    const w = this.#begin(
      RUB,
      Math.min(fromX, toX) - halfWidth,
      Math.min(fromY, toY) - halfHeight,
      Math.max(fromX, toX) + halfWidth,
      Math.max(fromY, toY) + halfHeight,
    );
    const { f32, i32 } = this.heap;
    const dx = toX - fromX;
    const dy = toY - fromY;
    const far = Math.sqrt(dx * dx + dy * dy) || 1e-6;
    // The travel where the tip is a disc of radius 1.
    const along = (dx * cos + dy * sin) / long;
    const across = (dy * cos - dx * sin) / short;
    const length = Math.sqrt(along * along + across * across);
    // One that goes nowhere is taken to go along the tip.
    const [ex, ey] = length > 1e-5 ? [along / length, across / length] : [1, 0];
    f32[w + 5] = fromX;
    f32[w + 6] = fromY;
    f32[w + 7] = (ex * cos) / long - (ey * sin) / short;
    f32[w + 8] = (ex * sin) / long + (ey * cos) / short;
    f32[w + 9] = (-ey * cos) / long - (ex * sin) / short;
    f32[w + 10] = (-ey * sin) / long + (ex * cos) / short;
    f32[w + 11] = length;
    f32[w + 12] = -along / 2;
    f32[w + 13] = cos / long;
    f32[w + 14] = sin / long;
    f32[w + 15] = rub.pressure * rub.share;
    f32[w + 16] = rub.pressure;
    f32[w + 17] = rub.flat;
    f32[w + 18] = rub.shade;
    const toward = (1.2 * rub.grain * rub.catches) / far;
    i32[w + 19] = quarter(dx * toward);
    i32[w + 20] = quarter(dy * toward);
    f32[w + 21] = rub.skips;
    i32[w + 22] = behind(dx / far, dy / far, PASSED.near * rub.grain);
    i32[w + 23] = behind(dx / far, dy / far, PASSED.far * rub.grain);
    f32[w + 24] = rub.face;
    const halfAcross = 1 / Math.sqrt((f32[w + 9] as number) ** 2 + (f32[w + 10] as number) ** 2);
    f32[w + 25] = halfAcross / rub.streak;
    f32[w + 26] = rub.along;
    i32[w + 27] = rub.seed;
    f32[w + 28] = rub.edge;
    f32[w + 29] = rub.rim;
  }

  /**
   * Adds a piece of a clean line: the hull of two discs. Where one disc holds the other, that disc.
   */
  cone({ x0, y0, r0, x1, y1, r1, flow }: Segment): void {
    const r = Math.max(r0, r1) + 1;
    const w = this.#begin(
      CONE,
      Math.min(x0, x1) - r,
      Math.min(y0, y1) - r,
      Math.max(x0, x1) + r,
      Math.max(y0, y1) + r,
    );
    const { f32 } = this.heap;
    const [dx, dy, dr] = [x1 - x0, y1 - y0, r1 - r0];
    const length2 = dx * dx + dy * dy;
    const isDisc = dr * dr >= length2 * MOST_LEAN;
    const atEnd = isDisc && dr > 0;
    f32[w + 5] = atEnd ? x1 : x0;
    f32[w + 6] = atEnd ? y1 : y0;
    f32[w + 7] = isDisc ? 0 : dx;
    f32[w + 8] = isDisc ? 0 : dy;
    f32[w + 9] = isDisc ? 0 : 1 / length2;
    f32[w + 10] = isDisc ? 0 : dr / Math.sqrt(length2 - dr * dr);
    f32[w + 11] = atEnd ? r1 : r0;
    f32[w + 12] = isDisc ? 0 : dr;
    this.#flow(w, flow, 0);
  }

  /** Adds a segment whose half-width goes from r0 to r1; a thread builds up with others. */
  segment({ x0, y0, r0, x1, y1, r1, flow }: Segment, thread: number | null = null): void {
    const r = Math.max(r0, r1) + 0.5;
    const w = this.#begin(
      SEGMENT,
      Math.min(x0, x1) - r,
      Math.min(y0, y1) - r,
      Math.max(x0, x1) + r,
      Math.max(y0, y1) + r,
    );
    const { f32, i32 } = this.heap;
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
    this.#flow(w, flow, thread ?? 0);
    i32[w + 21] = thread === null ? 0 : 1;
  }
}

/** Where a height lies that was passed so many px ago: (dy << 16) | dx. */
function behind(x: number, y: number, by: number): number {
  const whole = (v: number): number =>
    Math.round(Math.min(PASSED.most, Math.max(-PASSED.most, -v * by)));
  return (whole(y) << 16) | (whole(x) & 0xffff);
}

/** A quarter of a number as Q15, held short of one. */
const quarter = (v: number): number =>
  Math.round(Math.min(32_700, Math.max(-32_700, (v / 4) * ONE)));
