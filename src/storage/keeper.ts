import { deflateSync, inflateSync } from "fflate";
import { type Command, parseCommand } from "../engine/command/commands";
import { type Damage, type Work, type WorkEvents } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Header } from "../engine/picture/header";
import { type PlaneName, type Structure } from "../engine/picture/picture";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { TILE_BYTES } from "../engine/tiles/layout";
import { type Tile } from "../engine/tiles/tile-store";
import { setAside } from "./aside";
import { type Database, isFull, logRange } from "./database";
import {
  headRecord,
  type HeadRecord,
  type PictureRecord,
  type TileRecord,
  tileRecord,
} from "./records";

/** Compression of tiles at rest: they are written in the background, often. */
const DEFLATE_LEVEL = 1;
/** Tiles encoded before giving way. */
const SLICE = 6;
/** Commands replayed before giving way. */
const REPLAY_SLICE = 8;

/** How the keeping goes, for the person to see. */
export type Kept =
  | { state: "kept"; at: number }
  | { state: "keeping" }
  | { state: "full"; waiting: number }
  | { state: "failed"; why: string; waiting: number };

type Encoded = Captured & { record: TileRecord | null };
type Checkpoint = {
  place: number;
  turns: number;
  structure: Structure;
  encoded: Encoded[];
  thumbnail: Uint8Array | null;
};

/** Bytes that a tile's record takes, about. */
const sizeOf = (record: unknown): number =>
  record instanceof Uint8Array ? record.length : record ? 16 : 0;

type Captured = { layer: string; plane: PlaneName; key: number; tile: Tile | null };

/** Lets other work of the thread go first. */
const giveWay = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/**
 * Keeps one picture: every finished command goes to the journal at once; tiles are
 * checkpointed in the background, changed ones only, in one transaction with the place in
 * the log that they belong to. What is in store is therefore always one whole state.
 */
export class Keeper {
  #queue: ((db: Database) => Promise<void>)[] = [];
  #flushing: Promise<void> | null = null;
  #dirty = new Map<string, { layer: string; plane: PlaneName; keys: Set<number> }>();
  #structureDirty = false;
  #checkpointing = false;
  /** Raised when the log turns back: a checkpoint begun before that is no longer one of its states. */
  #turns = 0;
  /** Bytes of each tile in store, by layer and key. */
  #sizes = new Map<string, number>();

  constructor(
    readonly db: Database,
    readonly id: string,
    readonly tell: (kept: Kept) => void,
  ) {}

  /** Puts a new picture in store, with the work that makes it, whole or not at all. */
  static async create(
    db: Database,
    header: Header,
    record: PictureRecord,
    commands: readonly Command[] = [],
  ): Promise<void> {
    const lines = commands.map((command) => JSON.stringify(command));
    const count = lines.length;
    const head: HeadRecord = { id: record.id, header, place: count, count, checkpoint: null };
    const bytes = lines.reduce((sum, line) => sum + line.length, record.bytes);
    const tx = db.transaction(["pictures", "heads", "log"], "readwrite");
    void tx.objectStore("pictures").put({ ...record, bytes });
    void tx.objectStore("heads").put(head);
    lines.forEach((line, place) => void tx.objectStore("log").put(line, [record.id, place]));
    await tx.done;
  }

  /** Marks all of a picture's tiles as not yet in store. */
  takeAll(work: Work): void {
    this.#allDirty(work);
  }

  /** What the engine should tell this keeper. */
  get events(): WorkEvents {
    return {
      damaged: (damage) => this.#noteDamage(damage),
      restructured: () => {
        this.#structureDirty = true;
      },
      logged: (command, place) => this.#journal(command, place),
      stepped: (place) => this.#step(place),
    };
  }

  get needsCheckpoint(): boolean {
    return !this.#checkpointing && (this.#dirty.size > 0 || this.#structureDirty);
  }

  /**
   * Opens the picture as it was at its last finished command: the last checkpoint, and the
   * journal since. `notes` say what could not be read.
   * @throws Refusal where its record cannot be read; it has then been set aside
   */
  async open(
    engine: Engine,
    events: WorkEvents,
    progress: (share: number) => void,
  ): Promise<{ work: Work; notes: string[] }> {
    const head = await this.#readHead();
    const notes: string[] = [];
    const work = engine.open(head.header, events);
    const { checkpoint } = head;
    // An undo may have gone back beyond the checkpoint; then all is drawn from the beginning.
    const from = checkpoint && checkpoint.place <= head.place ? checkpoint : null;
    if (from) {
      work.picture.structure = from.structure;
      work.place = from.place;
      await this.#readTiles(engine, work, notes);
    }
    await this.#replay(work, from?.place ?? 0, head.place, notes, progress);
    this.#dirty.clear();
    this.#structureDirty = false;
    if (!from || notes.length > 0) this.#allDirty(work);
    return { work, notes };
  }

  async #readHead(): Promise<HeadRecord> {
    const value: unknown = await this.db.get("heads", this.id);
    if (value === undefined) throw new Refusal("this picture is not in the Portfolio");
    const parsed = headRecord.safeParse(value);
    if (parsed.success) return parsed.data;
    const why = firstFault(parsed.error);
    await setAside(this.db, "heads", this.id, value, why);
    throw new Refusal(
      `the record of this picture cannot be read (${why}); it was set aside as it is`,
    );
  }

  async #readTiles(engine: Engine, work: Work, notes: string[]): Promise<void> {
    const { store } = engine;
    const range = IDBKeyRange.bound([this.id], [this.id, []]);
    const keys = await this.db.getAllKeys("tiles", range);
    const values = await this.db.getAll("tiles", range);
    let broken = 0;
    keys.forEach(([, layer, plane, key], i) => {
      this.#sizes.set(`${layer} ${plane} ${key}`, sizeOf(values[i]));
      try {
        work.picture.plane(layer, plane).set(key, this.#readTile(engine, values[i]));
      } catch {
        broken++;
      }
      if (i % 256 === 255) store.trim();
    });
    if (broken > 0)
      notes.push(
        `${broken} pieces of the picture (64 × 64 px each) could not be read and are empty.`,
      );
  }

  #readTile(engine: Engine, value: unknown): Tile {
    const record = tileRecord.parse(value);
    if (!(record instanceof Uint8Array)) return engine.store.plain(record);
    return engine.store.fromFiltered(inflateSync(record, { out: new Uint8Array(TILE_BYTES) }));
  }

  async #replay(
    work: Work,
    from: number,
    to: number,
    notes: string[],
    progress: (share: number) => void,
  ): Promise<void> {
    for (let place = from; place < to; place++) {
      const text = await this.db.get("log", [this.id, place]);
      try {
        if (text === undefined) throw new Refusal("it is missing");
        work.apply(parseCommand(JSON.parse(text)));
      } catch (error) {
        const why = error instanceof Error ? error.message : "unreadable";
        notes.push(`Step ${place + 1} of ${to} could not be repeated (${why}); the others were.`);
        work.place = place + 1;
      }
      if (place % REPLAY_SLICE === 0) {
        progress((place - from) / Math.max(1, to - from));
        await giveWay();
      }
    }
  }

  #allDirty(work: Work): void {
    this.#structureDirty = true;
    for (const layer of work.picture.planes.keys())
      for (const [plane, tiles] of work.picture.planesOf(layer))
        this.#noteDamage({ layer, plane, keys: [...tiles.keys()] });
  }

  #noteDamage({ layer, plane, keys }: Damage): void {
    const name = `${plane} ${layer}`;
    let dirty = this.#dirty.get(name);
    if (!dirty) this.#dirty.set(name, (dirty = { layer, plane, keys: new Set() }));
    for (const key of keys) dirty.keys.add(key);
  }

  // ---- the journal ----

  #journal(command: Command, place: number): void {
    const text = JSON.stringify(command);
    this.#enqueue(async (db) => {
      const tx = db.transaction(["heads", "log", "pictures"], "readwrite");
      const head = await tx.objectStore("heads").get(this.id);
      const record = await tx.objectStore("pictures").get(this.id);
      if (!head || !record) throw new Error("the picture is no longer in the Portfolio");
      if (head.count > place) {
        await tx.objectStore("log").delete(logRange(this.id, place));
        // What was checkpointed beyond this place belongs to work that is gone.
        if (head.checkpoint && head.checkpoint.place > place) head.checkpoint = null;
      }
      await tx.objectStore("log").put(text, [this.id, place]);
      await tx.objectStore("heads").put({ ...head, place: place + 1, count: place + 1 });
      await tx
        .objectStore("pictures")
        .put({ ...record, touched: Date.now(), bytes: record.bytes + text.length });
      await tx.done;
    });
  }

  #step(place: number): void {
    this.#turns++;
    this.#enqueue(async (db) => {
      const tx = db.transaction("heads", "readwrite");
      const head = await tx.store.get(this.id);
      if (head) await tx.store.put({ ...head, place });
      await tx.done;
    });
  }

  #enqueue(write: (db: Database) => Promise<void>): void {
    this.#queue.push(write);
    this.tell({ state: "keeping" });
    void this.flush();
  }

  /** Writes what is waiting, in order. What cannot be written keeps its place and is tried again. */
  flush(): Promise<void> {
    this.#flushing ??= this.#write().finally(() => {
      this.#flushing = null;
    });
    return this.#flushing;
  }

  async #write(): Promise<void> {
    for (;;) {
      const next = this.#queue[0];
      if (!next) break;
      try {
        await next(this.db);
      } catch (error) {
        const waiting = this.#queue.length;
        if (isFull(error)) this.tell({ state: "full", waiting });
        else
          this.tell({
            state: "failed",
            why: error instanceof Error ? error.message : "unknown",
            waiting,
          });
        return;
      }
      this.#queue.shift();
    }
    this.tell({ state: "kept", at: Date.now() });
  }

  // ---- checkpoints ----

  /**
   * Stores the tiles that changed since the last checkpoint, with the place in the log.
   * @param thumbnail a PNG of the picture as it is now, if there is a new one
   */
  async checkpoint(engine: Engine, work: Work, thumbnail: Uint8Array | null): Promise<void> {
    if (this.#checkpointing || this.#queue.length > 0) return;
    this.#checkpointing = true;
    const { structure } = work.picture;
    const { place } = work;
    const turns = this.#turns;
    const captured = this.#capture(engine, work);
    const dirty = this.#dirty;
    this.#dirty = new Map();
    this.#structureDirty = false;
    try {
      const encoded = await this.#encode(engine, captured);
      await this.flush();
      await this.#store({ place, turns, structure, encoded, thumbnail });
    } catch (error) {
      for (const { layer, plane, keys } of dirty.values())
        this.#noteDamage({ layer, plane, keys: [...keys] });
      this.#structureDirty = true;
      if (isFull(error)) this.tell({ state: "full", waiting: this.#queue.length });
      else throw error;
    } finally {
      this.#checkpointing = false;
    }
  }

  #capture(engine: Engine, work: Work): Captured[] {
    const captured: Captured[] = [];
    for (const { layer, plane, keys } of this.#dirty.values()) {
      const tiles = work.picture.plane(layer, plane);
      for (const key of keys) {
        const tile = tiles.get(key) ?? null;
        captured.push({ layer, plane, key, tile: tile && engine.store.retain(tile) });
      }
    }
    return captured;
  }

  async #encode(engine: Engine, captured: Captured[]): Promise<Encoded[]> {
    const encoded: Encoded[] = [];
    for (const [i, item] of captured.entries()) {
      const { tile } = item;
      let record: TileRecord | null = null;
      if (tile) {
        record = tile.colour
          ? [...tile.colour]
          : deflateSync(engine.store.filtered(tile), { level: DEFLATE_LEVEL });
        engine.store.release(tile);
      }
      encoded.push({ ...item, record });
      if (i % SLICE === SLICE - 1) await giveWay();
    }
    return encoded;
  }

  async #store({ place, turns, structure, encoded, thumbnail }: Checkpoint): Promise<void> {
    const stores = ["pictures", "heads", "tiles"] as const;
    const tx = this.db.transaction(stores, "readwrite", { durability: "strict" });
    const head = await tx.objectStore("heads").get(this.id);
    const record = await tx.objectStore("pictures").get(this.id);
    if (!head || !record || turns !== this.#turns) {
      tx.abort();
      await tx.done.catch(() => undefined);
      this.#structureDirty = true;
      for (const { layer, plane, key } of encoded) this.#noteDamage({ layer, plane, keys: [key] });
      return;
    }
    const tiles = tx.objectStore("tiles");
    const before = this.#tileBytes;
    for (const { layer, plane, key, record: tile } of encoded) {
      if (tile) void tiles.put(tile, [this.id, layer, plane, key]);
      else void tiles.delete([this.id, layer, plane, key]);
      this.#sizes.set(`${layer} ${plane} ${key}`, sizeOf(tile));
    }
    const checkpoint = {
      place,
      structure: {
        ...structure,
        layers: [...structure.layers],
        guides: [...structure.guides],
        kept: [...structure.kept],
        stencils: [...structure.stencils],
        wells: [...structure.wells],
      },
    };
    void tx.objectStore("heads").put({ ...head, checkpoint });
    const bytes = Math.max(0, record.bytes + this.#tileBytes - before);
    void tx
      .objectStore("pictures")
      .put({ ...record, bytes, thumbnail: thumbnail ?? record.thumbnail });
    await tx.done;
  }

  get #tileBytes(): number {
    let sum = 0;
    for (const size of this.#sizes.values()) sum += size;
    return sum;
  }

  /** The whole log as JSON lines, without its header. */
  async logLines(): Promise<string[]> {
    const head = await this.#readHead();
    const lines = await this.db.getAll(
      "log",
      IDBKeyRange.bound([this.id, 0], [this.id, head.place], false, true),
    );
    return lines;
  }
}
