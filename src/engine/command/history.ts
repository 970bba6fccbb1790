import { type Picture, type Structure } from "../picture/picture";
import { TILE_BYTES } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Change, type TileSwap } from "./command";

/** Bytes of tiles that only the history holds. */
const MOST_BYTES = 768 * 2 ** 20;
/** The newest changes stay ready; older ones are squeezed. */
const READY = 6;

const tileBytes = (tile: Tile | null): number => {
  if (!tile) return 0;
  if (tile.squeezed) return tile.squeezed.length;
  return tile.address ? TILE_BYTES : 0;
};

/** Whether a change is a step of its own to the person. */
export const isStep = ({ silent, follows }: Change): boolean => !silent && !follows;

/** A change of an earlier session: what was there before it. */
export type EarlierChange = Pick<Change, "label" | "silent" | "follows"> & {
  /** Null: as it was after it. */
  structure: Structure | null;
  swaps: readonly Omit<TileSwap, "after">[];
};

/** Undo and redo of everything: changes in order, bounded by bytes. */
export class History {
  limit = MOST_BYTES;
  #done: Change[] = [];
  #undone: Change[] = [];

  constructor(
    readonly picture: Picture,
    readonly store: TileStore,
  ) {}

  get undoLabel(): string | null {
    return this.#done.findLast(isStep)?.label ?? null;
  }

  get redoLabel(): string | null {
    return this.#undone.findLast(isStep)?.label ?? null;
  }

  /** Whether the next to be undone is no step of its own. */
  get undoIsSilent(): boolean {
    return this.#done.at(-1)?.silent ?? false;
  }

  /** Whether the next to be undone goes together with what came before it. */
  get undoFollows(): boolean {
    return this.#done.at(-1)?.follows ?? false;
  }

  /** Whether the next to be done again goes together with what came before it. */
  get redoFollows(): boolean {
    return this.#undone.at(-1)?.follows ?? false;
  }

  get depth(): number {
    return this.#done.length;
  }

  /** What can be undone, oldest first: a label for each step. */
  get steps(): string[] {
    return this.#done.filter(isStep).map(({ label }) => label);
  }

  /** Bytes held by what could be undone. */
  get bytes(): number {
    let sum = 0;
    for (const change of this.#done) for (const swap of change.swaps) sum += tileBytes(swap.before);
    return sum;
  }

  add(change: Change): void {
    this.forgetUndone();
    this.#done.push(change);
    while (this.#done.length > 1 && this.bytes > this.limit)
      this.#forget(this.#done.shift() as Change);
  }

  /** The newest `count` changes that can be undone, oldest of them first; fewer where there are no more. */
  newest(count: number): readonly Change[] {
    return count > 0 ? this.#done.slice(-count) : [];
  }

  /**
   * Puts a change of an earlier session before all that can be undone: the one that led to where those began.
   * Takes over the caller's hold on its tiles.
   * @returns whether there was room for it; if not, its tiles are let go of
   */
  putBefore({ label, silent, follows, structure, swaps }: EarlierChange): boolean {
    const after = this.#done[0]?.structure.before ?? this.picture.structure;
    const change: Change = {
      ...{ label, silent, follows },
      structure: { before: structure ?? after, after },
      swaps: swaps.map((swap) => ({ ...swap, after: undefined })),
    };
    this.#done.unshift(change);
    if (this.bytes <= this.limit) return true;
    this.#done.shift();
    this.#forget(change);
    return false;
  }

  /** What was undone can no longer be done again. */
  forgetUndone(): void {
    for (const undone of this.#undone) this.#forget(undone);
    this.#undone = [];
  }

  /** Lets go of everything. */
  forgetAll(): void {
    for (const change of [...this.#done, ...this.#undone]) this.#forget(change);
    this.#done = [];
    this.#undone = [];
  }

  undo(): Change | null {
    const change = this.#done.pop();
    if (!change) return null;
    this.#put(change.structure.before, change.swaps, "before");
    this.#undone.push(change);
    return change;
  }

  redo(): Change | null {
    const change = this.#undone.pop();
    if (!change) return null;
    this.#put(change.structure.after, change.swaps, "after");
    this.#done.push(change);
    return change;
  }

  #put(structure: Structure, swaps: readonly TileSwap[], side: "before" | "after"): void {
    this.picture.structure = structure;
    // A key may have been exchanged more than once; going back, the first exchange decides.
    const ordered = side === "before" ? [...swaps].reverse() : swaps;
    for (const swap of ordered) {
      const plane = this.picture.plane(swap.layer, swap.plane);
      const there = plane.get(swap.key);
      const tile = swap[side];
      if (tile) plane.set(swap.key, this.store.retain(tile));
      else plane.delete(swap.key);
      // The plane's hold on what is there passes to a change that does not know it yet.
      if (swap.after === undefined) swap.after = there;
      else if (there) this.store.release(there);
    }
  }

  /**
   * Squeezes up to `count` tiles of older changes. For idle moments.
   * @returns whether more could be squeezed
   */
  tidy(count: number): boolean {
    let left = count;
    for (const { swaps } of this.#done.slice(0, -READY)) {
      for (const { layer, plane, key, before } of swaps) {
        if (!before?.address || this.picture.plane(layer, plane).get(key) === before) continue;
        if (left-- === 0) return true;
        this.store.squeeze(before);
      }
    }
    return false;
  }

  #forget(change: Change): void {
    for (const { before, after } of change.swaps) {
      if (before) this.store.release(before);
      if (after) this.store.release(after);
    }
  }
}
