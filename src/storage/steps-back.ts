import { type Change } from "../engine/command/command";
import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Tile } from "../engine/tiles/tile-store";
import { type Captured, encode, sizeOf } from "./captured";
import { type Connection } from "./connection";
import { type Database, type Steps, stepRange } from "./database";
import { plainStructure } from "./plain-structure";
import { type StepRecord, stepRecord } from "./records";
import { readTile } from "./tile-at-rest";

/** Bytes of steps kept for each picture. */
const MOST_BYTES = 64 * 2 ** 20;
/** Tiles that one checkpoint keeps of what was before; a step with more cannot be undone later. */
const MOST_TILES = 8192;
/** Pictures whose steps are kept, those last touched. */
const MOST_PICTURES = 12;
/** Tiles read before giving way. */
const SLICE = 16;

/** A finished command as it was at one moment, its tiles held on to until they are encoded. */
export type CapturedStep = { place: number; change: Change; before: readonly Captured[] };
type EncodedStep = { place: number; bytes: number; record: StepRecord };
/** What a checkpoint stores of the steps before it. */
export type StepsToKeep = { from: number; place: number; steps: readonly EncodedStep[] };

/**
 * Steps of one picture in store, so that they can be undone after it was opened anew: what was there before each
 * command, without gaps up to the checkpoint. They are written with the checkpoint, in its transaction.
 */
export class StepsBack {
  /** Bytes that they may take in store. */
  limit = MOST_BYTES;
  /** Commands of the log from `#oldest` up to `#to` are in store, of so many bytes each. */
  #oldest = 0;
  #to = 0;
  #bytes: ReadonlyMap<number, number> = new Map();
  /** The next to be read: it led to where those that can be undone begin. */
  #next = -1;
  #reading: Promise<boolean> | null = null;

  constructor(
    readonly connection: Connection,
    readonly id: string,
  ) {}

  /** Looks which there are up to a checkpoint. */
  async find(place: number): Promise<void> {
    const keys = await this.connection.use((db) => db.getAllKeys("steps", stepRange(this.id)));
    const bytes = new Map(keys.map(([, at, size]) => [at, size]));
    let oldest = place;
    while (bytes.has(oldest - 1)) oldest--;
    this.forget(place);
    this.#oldest = oldest;
    this.#bytes = bytes;
  }

  /** None are in store that lead to this place. */
  forget(place: number): void {
    this.#oldest = place;
    this.#to = place;
    this.#next = place - 1;
    this.#bytes = new Map();
  }

  /** The log has turned back: what comes after this place is another work. */
  turned(place: number): void {
    this.#to = Math.min(this.#to, place);
  }

  /** Whether there are steps that could be read. */
  get hasMore(): boolean {
    return this.#next >= this.#oldest;
  }

  // ---- keeping ----

  /**
   * Takes hold of what was before each command since the last checkpoint.
   * @param anew whether nothing in store is of use
   */
  capture({ store }: Engine, work: Work, anew: boolean): CapturedStep[] {
    const changes = work.history.newest(work.place - (anew ? 0 : this.#to));
    const steps: CapturedStep[] = [];
    let tiles = 0;
    for (const [i, change] of [...changes].reverse().entries()) {
      tiles += change.swaps.filter(({ before }) => before && !before.colour).length;
      if (tiles > MOST_TILES) break;
      const before = change.swaps.map(({ layer, plane, key, before: tile }) => ({
        ...{ layer, plane, key },
        tile: tile && store.retain(tile),
      }));
      steps.unshift({ place: work.place - 1 - i, change, before });
    }
    return steps;
  }

  /** Encodes captured steps, and lets go of their tiles. */
  async encode(
    { store }: Engine,
    place: number,
    captured: readonly CapturedStep[],
    giveWay: () => Promise<void>,
  ): Promise<StepsToKeep> {
    const steps: EncodedStep[] = [];
    for (const { place: at, change, before } of captured) {
      const encoded = await encode(store, before, giveWay);
      const { label, silent, follows, structure } = change;
      const swaps = encoded.map(({ layer, plane, key, record }) => ({
        ...{ layer, plane, key },
        before: record,
      }));
      const isSame = structure.before === structure.after;
      const record = {
        ...{ label, silent, follows, swaps },
        structure: isSame ? null : plainStructure(structure.before),
      };
      steps.push({ place: at, bytes: bytesOf(record), record });
    }
    return { from: captured[0]?.place ?? place, place, steps };
  }

  /**
   * Stores steps in a checkpoint's transaction. What they do not go on from is forgotten, as is what lies beyond
   * them, and the oldest where they are too many.
   */
  put(store: Steps, { from, place, steps }: StepsToKeep, anew: boolean): () => void {
    const { id } = this;
    const isBroken = anew || from > this.#to;
    const bytes = new Map(isBroken ? [] : this.#bytes);
    for (const step of steps) bytes.set(step.place, step.bytes);
    let oldest = isBroken ? from : Math.min(this.#oldest, from);
    let sum = 0;
    for (let at = oldest; at < place; at++) sum += bytes.get(at) ?? 0;
    for (; sum > this.limit; oldest++) sum -= bytes.get(oldest) ?? 0;
    void store.delete(IDBKeyRange.bound([id], [id, oldest], false, true));
    void store.delete(stepRange(id, from));
    for (const { place: at, bytes: size, record } of steps)
      if (at >= oldest) void store.put(record, [id, at, size]);
    return () => {
      this.#oldest = oldest;
      this.#to = place;
      this.#bytes = bytes;
    };
  }

  // ---- bringing back ----

  /**
   * Reads the next older step, so that it can be undone.
   * @returns whether there was one and the history took it
   */
  bringBack(engine: Engine, work: Work, giveWay: () => Promise<void>): Promise<boolean> {
    this.#reading ??= this.#read(engine, work, giveWay).finally(() => {
      this.#reading = null;
    });
    return this.#reading;
  }

  async #read(engine: Engine, work: Work, giveWay: () => Promise<void>): Promise<boolean> {
    if (!this.hasMore) return false;
    const place = this.#next;
    const key = [this.id, place, this.#bytes.get(place) ?? 0] as const;
    const stored: unknown = await this.connection.use((db) => db.get("steps", [...key]));
    const parsed = stepRecord.safeParse(stored);
    const tiles = parsed.success ? await readTiles(engine, parsed.data, giveWay) : null;
    if (!parsed.success || !tiles) {
      // What cannot be read is not undone, nor is what came before it.
      this.#oldest = place + 1;
      return false;
    }
    const letGo = (): void => tiles.forEach((tile) => tile && engine.store.release(tile));
    const isNext = this.#next === place && work.place - work.history.depth === place + 1;
    if (!isNext || work.isDrawing || work.isTrying || work.isFlowing) {
      letGo();
      return false;
    }
    const { swaps, ...step } = parsed.data;
    const isTaken = work.history.putBefore({
      ...step,
      swaps: swaps.map((swap, i) => ({ ...swap, before: tiles[i] ?? null })),
    });
    if (isTaken) this.#next--;
    return isTaken;
  }
}

/** A step's tiles; null where one cannot be read. */
async function readTiles(
  engine: Engine,
  { swaps }: StepRecord,
  giveWay: () => Promise<void>,
): Promise<(Tile | null)[] | null> {
  const tiles: (Tile | null)[] = [];
  try {
    for (const [i, { before }] of swaps.entries()) {
      tiles.push(before && readTile(engine.store, before));
      if (i % SLICE === SLICE - 1) await giveWay();
    }
    return tiles;
  } catch {
    for (const tile of tiles) if (tile) engine.store.release(tile);
    return null;
  }
}

/** Bytes that a step takes in store, about. */
const bytesOf = ({ swaps, structure }: StepRecord): number =>
  swaps.reduce((sum, { before }) => sum + sizeOf(before) + 32, 0) +
  (structure ? JSON.stringify(structure).length : 0);

/** Forgets the steps of pictures that were not touched for long; never those of the picture that is open. */
export async function forgetOldSteps(db: Database, open: string): Promise<void> {
  const tx = db.transaction(["steps", "pictures"], "readwrite");
  const steps = tx.objectStore("steps");
  const held: { id: string; touched: number }[] = [];
  for (let cursor = await steps.openKeyCursor(); cursor;) {
    const [id] = cursor.key;
    const record = await tx.objectStore("pictures").get(id);
    held.push({ id, touched: id === open ? Infinity : (record?.touched ?? 0) });
    cursor = await cursor.continue([id, Infinity, 0]);
  }
  held.sort((a, b) => b.touched - a.touched);
  for (const { id } of held.slice(MOST_PICTURES)) void steps.delete(stepRange(id));
  await tx.done;
}

/** Forgets all steps of all pictures, for room. Returns whether there were any. */
export async function forgetAllSteps(db: Database): Promise<boolean> {
  if ((await db.count("steps")) === 0) return false;
  await db.clear("steps");
  return true;
}
