import { z } from "zod";
import { contactSchema } from "../../dry/material";
import { type Before, type Setter, type Station } from "./station";

export const weaveSchema = z.strictObject({
  kind: z.literal("weave"),
  /** How far a thread may reach, in sizes. */
  reach: z.number().min(1).max(200),
  /** Threads tried at each place. */
  threads: z.int().min(0).max(12),
  /** Width of a thread, as a share of the size. */
  thread: z.number().min(0.02).max(1),
  /** Flow of a thread. */
  faint: z.number().min(0).max(1),
  /** What it is drawn with, where that is a dry tip; null: a clean line. */
  dry: contactSchema.nullable().default(null),
});

export type Weave = z.infer<typeof weaveSchema>;

export const weaveMost = ({ threads }: Weave): number => 1 + threads;

/** From this alpha on the layer has a mark that a thread may be tied to. */
const A_MARK = 0.2;
/** Marks narrower than this may be looked past, px. */
const LOOK_STEP = 2;
/** Newest places of the own stroke that are not tied: they are the line itself. */
const TOO_NEW = 6;

/** More than cells can stand side by side, so that a column and a row make one number. */
const CELLS_ACROSS = 1 << 20;

/**
 * Places of the stroke so far, found by where they are. Places are added in order and taken
 * back in order, so that a trial can be undone.
 */
export class Spots {
  #cells = new Map<number, number[]>();
  #xs: number[] = [];
  #ys: number[] = [];
  #near: number[] = [];

  constructor(readonly cell: number) {}

  get count(): number {
    return this.#xs.length;
  }

  #key(x: number, y: number): number {
    return Math.floor(x / this.cell) * CELLS_ACROSS + Math.floor(y / this.cell);
  }

  add(x: number, y: number): void {
    const key = this.#key(x, y);
    const cell = this.#cells.get(key);
    if (cell) cell.push(this.count);
    else this.#cells.set(key, [this.count]);
    this.#xs.push(x);
    this.#ys.push(y);
  }

  /** Takes back all but the first `count`. */
  keep(count: number): void {
    while (this.count > count) {
      const x = this.#xs.pop() as number;
      const y = this.#ys.pop() as number;
      this.#cells.get(this.#key(x, y))?.pop();
    }
  }

  at(index: number): { x: number; y: number } {
    return { x: this.#xs[index] as number, y: this.#ys[index] as number };
  }

  /** Numbers of the places within a cell of (x, y), older than `before`; good until the next call. */
  near(x: number, y: number, before: number): readonly number[] {
    const found = this.#near;
    found.length = 0;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const cell = this.#cells.get(this.#key(x + dx * this.cell, y + dy * this.cell));
        if (!cell) continue;
        for (const i of cell) if (i < before) found.push(i);
      }
    return found;
  }
}

/**
 * Threads from a place to marks near it: of this stroke, and whatever lay on the layer
 * before. The farther a mark, the smaller the chance, so a searching sketch shades itself
 * where its lines crowd.
 */
export function weave(
  { reach, threads, thread, faint }: Weave,
  { x, y, chance, draw, radius }: Station,
  spots: Spots,
  before: Before,
  set: Setter,
): void {
  const far = spots.cell;
  const own = spots.near(x, y, spots.count - TOO_NEW);
  spots.add(x, y);
  for (let i = 0; i < threads; i++) {
    const at = draw + 16 + i * 4;
    const to =
      i % 2 === 0 && own.length > 0
        ? spots.at(own[Math.floor(chance.at(at) * own.length)] as number)
        : foundOnLayer(x, y, far, chance.at(at), chance.at(at + 1), before);
    if (!to) continue;
    const d = Math.hypot(to.x - x, to.y - y);
    if (d < reach * 0.04 * radius || chance.at(at + 2) > 1 - d / far) continue;
    set.thread(x, y, to.x, to.y, thread * radius, faint * (1 - 0.5 * chance.at(at + 3)));
  }
}

/** The first mark on the layer in a direction, looked for step by step. */
function foundOnLayer(
  x: number,
  y: number,
  far: number,
  turn: number,
  share: number,
  before: Before,
): { x: number; y: number } | null {
  const cos = Math.cos(turn * 2 * Math.PI);
  const sin = Math.sin(turn * 2 * Math.PI);
  // Beginning somewhere on the way keeps all threads from ending at the nearest edge.
  for (let d = LOOK_STEP * (2 + share * 2); d < far; d += LOOK_STEP) {
    const px = x + cos * d;
    const py = y + sin * d;
    if (before(px, py)[3] >= A_MARK) return { x: px, y: py };
  }
  return null;
}
