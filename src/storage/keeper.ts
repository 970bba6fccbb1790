import { type Command, parseCommand } from "../engine/command/commands";
import { type Damage, type Work, type WorkEvents } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Header } from "../engine/picture/header";
import { ENGINE_REVISION, otherEngine } from "../engine/revision";
import { forgetWet, MOVED_PLANES } from "../engine/time/wet-state";
import { type PlaneName, type Sheet, type Structure } from "../engine/picture/picture";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { capture, encode, type Encoded, sizeOf } from "./captured";
import { type Connection } from "./connection";
import { type Database, isFull, tileRange } from "./database";
import { Journal, type Kept } from "./journal";
import { type Painted } from "./painted";
import { plainStructure } from "./plain-structure";
import { headRecord, type HeadRecord, newerThanThis, type PictureRecord, SCHEMA } from "./records";
import { forgetAllSteps, StepsBack, type StepsToKeep } from "./steps-back";
import { readTile } from "./tile-at-rest";
import { forgetUnreadable, HELD_PLANES } from "./forget-unreadable";

/** What to say of layers whose wet paint could not be read. */
const driedNote = (names: readonly string[]): string =>
  `The wet paint of ${names.map((name) => `“${name}”`).join(", ")} could not be read. It looks as it did, and is dry.`;

/** What to say of line layers whose lines could not be read. */
const settledNote = (names: readonly string[]): string =>
  `What lies on ${names.map((name) => `“${name}”`).join(", ")} could not be read as lines or pieces. It looks as it did, and is paint now.`;

/** Commands replayed before giving way. */
const REPLAY_SLICE = 8;
/** How long after a checkpoint failed the next is tried, ms. */
const AGAIN_AFTER = 5000;
/** Bytes of older steps that are brought back before anybody asks for them. */
const MOST_READY = 96 * 2 ** 20;
const OPENING = "Opening the picture";
/** Why a picture was painted anew, or was not, where another engine drew it. */
const MAY_LACK = "Strokes may have been missing in this picture, so it was painted from its log.";
const NOT_REBUILT =
  "It was not painted anew. Its work log, exported and brought in, would fill them.";
const FROM_LOG = "This picture was painted from its log.";
const REBUILDING = "Rebuilding the picture from its log, once";

/** One state of the log, ready to be stored. */
type Checkpoint = {
  place: number;
  turns: number;
  replacesAll: boolean;
  structure: Structure;
  /** The sheet's size as it is now: the Portfolio shows it. */
  sheet: Sheet;
  encoded: readonly Encoded[];
  steps: StepsToKeep;
  thumbnail: Uint8Array | null;
};

type Progress = (label: string, share: number) => void;
type Dirty = Map<string, { layer: string; plane: PlaneName; keys: Set<number> }>;

/** Lets other work of the thread go first. */
const giveWay = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/**
 * Keeps one picture: every finished command goes to the journal at once; tiles are
 * checkpointed in the background, changed ones only, in one transaction with the place in
 * the log that they belong to. What is in store is therefore always one whole state.
 */
export class Keeper {
  readonly journal: Journal;
  readonly stepsBack: StepsBack;
  #dirty: Dirty = new Map();
  #structureDirty = false;
  /** Whether the tiles in store are of no known state: the next checkpoint replaces them all. */
  #replacesAll = false;
  /** Whether the log in store no longer suffices: only a checkpoint keeps the picture. */
  #mustCheckpoint = false;
  #underWay: Promise<void> | null = null;
  /** Raised when the log turns back: a checkpoint begun before that is no longer one of its states. */
  #turns = 0;
  /** Bytes of each tile in store, by layer and key. */
  #sizes = new Map<string, number>();
  /** The picture's record as it was last seen. */
  #record: PictureRecord | null = null;
  #note: string | undefined;
  #failedAt = -Infinity;
  /** Bytes of the log that was repeated on opening. */
  #replayed = 0;

  constructor(
    readonly connection: Connection,
    readonly id: string,
    readonly tell: (kept: Kept) => void,
  ) {
    this.journal = new Journal(
      connection,
      id,
      tell,
      (place) => this.#lostLog(place),
      () => this.#mustCheckpoint,
      () => this.#makeRoom(),
    );
    this.stepsBack = new StepsBack(connection, id);
  }

  /**
   * Puts a new picture in store, with the work that makes it, whole or not at all.
   * @param painted the state after all of that work, where it was painted beforehand
   * @param lost how many commands came before these and are gone
   */
  static async create(
    db: Database,
    header: Header,
    record: PictureRecord,
    commands: readonly Command[] = [],
    painted: Painted | null = null,
    lost = 0,
  ): Promise<void> {
    const lines = commands.map((command) => JSON.stringify(command));
    const count = lost + lines.length;
    if (lost > 0 && !painted) throw new Refusal("the beginning of its log is gone");
    if (painted && painted.place !== count)
      throw new Refusal(`it was painted to step ${painted.place} of ${count}`);
    const tiles = painted?.tiles ?? [];
    const bytes =
      lines.reduce((sum, line) => sum + line.length, record.bytes) +
      tiles.reduce((sum, tile) => sum + sizeOf(tile.record), 0);
    // What was painted beforehand can be had again: it need not have reached the disk.
    const durability = painted ? "relaxed" : "default";
    const tx = db.transaction(["pictures", "heads", "log", "tiles"], "readwrite", { durability });
    void tx.objectStore("pictures").put({ ...record, bytes });
    for (const { layer, plane, key, record: tile } of tiles)
      void tx.objectStore("tiles").put(tile, [record.id, layer, plane, key]);
    void tx.objectStore("heads").put({
      id: record.id,
      schema: SCHEMA,
      needs: [],
      lost,
      header,
      place: count,
      count,
      checkpoint: painted && { place: count, structure: painted.structure },
    });
    lines.forEach((line, i) => void tx.objectStore("log").put(line, [record.id, lost + i]));
    await tx.done;
  }

  /** The first checkpoint of a picture that was just created. */
  async keepNew(engine: Engine, work: Work, thumbnail: Uint8Array | null): Promise<void> {
    this.journal.head = await this.#readHead();
    this.#record = (await this.connection.use((db) => db.get("pictures", this.id))) ?? null;
    this.#allDirty(work);
    // What made the picture is not undone step by step.
    this.stepsBack.forget(work.place);
    await this.checkpoint(engine, work, thumbnail);
  }

  /** What the engine should tell this keeper. */
  get events(): WorkEvents {
    return {
      damaged: (damage) => this.#noteDamage(damage),
      restructured: () => {
        this.#structureDirty = true;
      },
      logged: (command, place) => this.journal.note(command, place),
      stepped: (place) => {
        this.#turns++;
        this.stepsBack.turned(place);
        this.journal.turn(place);
      },
    };
  }

  get needsCheckpoint(): boolean {
    return (
      !this.#underWay &&
      performance.now() - this.#failedAt > AGAIN_AFTER &&
      (this.#dirty.size > 0 || this.#structureDirty || this.#replacesAll || this.#mustCheckpoint)
    );
  }

  /** A checkpoint that is being stored. */
  get underWay(): Promise<void> | null {
    return this.#underWay;
  }

  /** Whether all finished work is in store. */
  get isKept(): boolean {
    return this.journal.waiting === 0 && !this.#mustCheckpoint;
  }

  // ---- opening ----

  /**
   * Opens the picture as it was at its last finished command: the last checkpoint, and the
   * journal since. Tiles that may lack strokes (schema 1), or cannot be read, are painted again
   * from the log where all of it can be repeated. `notes` say what could not be read.
   * @throws Refusal where its record cannot be read; it stays as it is
   */
  async open(
    engine: Engine,
    events: WorkEvents,
    progress: Progress,
  ): Promise<{ work: Work; notes: string[] }> {
    const head = await this.#readHead();
    this.journal.head = head;
    this.#record = (await this.connection.use((db) => db.get("pictures", this.id))) ?? null;
    const other = otherEngine(head.header.engine);
    if (head.schema < SCHEMA && head.checkpoint && head.lost === 0) {
      const work = await this.#rebuilt(engine, events, progress);
      if (work) return { work, notes: other ? [`${MAY_LACK} ${other}`] : [] };
    }
    const opened = await this.#fromCheckpoint(engine, events, progress);
    if (opened.broken === 0 || head.lost > 0) return opened;
    // What is whole is worth more than what is broken: it is not repainted unasked.
    if (other) return { ...opened, notes: [...opened.notes, `${NOT_REBUILT} ${other}`] };
    const work = await this.#rebuilt(engine, events, progress);
    if (!work) return opened;
    opened.work.release();
    return { work, notes: ["Parts of this picture were damaged. It was rebuilt from its log."] };
  }

  /** Paints everything from the log; null where a step cannot be repeated. */
  async #rebuilt(engine: Engine, events: WorkEvents, progress: Progress): Promise<Work | null> {
    const { head } = this.journal;
    if (!head) return null;
    const faults: string[] = [];
    this.#replayed = 0;
    const header = { ...head.header, engine: ENGINE_REVISION };
    const work = engine.open(header, events);
    await this.#replay(work, 0, head.place, faults, (share) => progress(REBUILDING, share));
    if (faults.length > 0) {
      work.release();
      this.#clean();
      return null;
    }
    this.journal.head = { ...head, header };
    this.stepsBack.forget(head.place);
    this.#replaceAll(work);
    return work;
  }

  /**
   * @param from the checkpoint to begin with; null: all is drawn from the beginning
   */
  async #fromCheckpoint(
    engine: Engine,
    events: WorkEvents,
    progress: Progress,
    from: HeadRecord["checkpoint"] = (this.journal.head as HeadRecord).checkpoint,
  ): Promise<{ work: Work; notes: string[]; broken: number }> {
    const head = this.journal.head as HeadRecord;
    const notes: string[] = [];
    const work = engine.open(head.header, events);
    const other = otherEngine(head.header.engine);
    if (!from && other && head.place > 0) notes.push(`${FROM_LOG} ${other}`);
    let broken = 0;
    if (from) {
      work.picture.structure = from.structure;
      work.place = from.place;
      const unread = await this.#readTiles(engine, work);
      const settled = forgetUnreadable(engine.store, work.picture, unread.lacking);
      broken = unread.broken + unread.dried.length + settled.length;
      if (settled.length > 0) notes.push(settledNote(settled));
      if (unread.dried.length > 0) notes.push(driedNote(unread.dried));
      if (unread.broken > 0)
        notes.push(
          `${unread.broken} pieces of the picture (64 × 64 px each) could not be read and are empty.`,
        );
    }
    // The tiles in store are those of the checkpoint; what is replayed since is not in it.
    this.#clean();
    if (from) await this.stepsBack.find(from.place);
    else this.stepsBack.forget(head.place);
    // An undo may have gone back beyond the checkpoint. Where its steps are not in store all is drawn from the
    // beginning, unless the beginning is gone.
    const isThere = !from || (await this.#goBack(engine, work, from));
    if (!isThere && head.lost === 0) {
      work.release();
      this.#clean();
      this.#sizes.clear();
      return this.#fromCheckpoint(engine, events, progress, null);
    }
    await this.#replay(work, from ? work.place : head.lost, head.place, notes, (share) =>
      progress(OPENING, share),
    );
    if (!from || notes.length > 0) this.#replaceAll(work);
    return { work, notes, broken };
  }

  /** From a checkpoint to where the log has turned back to since. Returns whether that could be reached. */
  async #goBack(
    engine: Engine,
    work: Work,
    { place, back }: NonNullable<HeadRecord["checkpoint"]>,
  ): Promise<boolean> {
    const target = Math.min(back ?? place, this.journal.head?.place ?? 0);
    for (let at = place; at > target; at--)
      if (!(await this.stepsBack.bringBack(engine, work, giveWay))) return false;
    while (work.place > target) work.stepBack();
    this.stepsBack.turned(target);
    // The log goes on from there with other commands than those.
    if (back !== undefined) work.history.forgetUndone();
    return true;
  }

  /**
   * Makes older steps ready to be undone, where there are any in store, until there are so many. One is always
   * brought where none is ready.
   * @returns whether there are more than before
   */
  async bringStepsBack(engine: Engine, work: Work, steps: number): Promise<boolean> {
    const { history } = work;
    const ready = history.steps.length;
    const isEnough = (): boolean =>
      history.steps.length >= steps || (history.undoLabel !== null && history.bytes > MOST_READY);
    while (!isEnough() && this.stepsBack.hasMore)
      if (!(await this.stepsBack.bringBack(engine, work, giveWay))) break;
    return history.steps.length > ready;
  }

  /** Forgets what could be undone in a later session, so that the work itself can be kept. */
  async #makeRoom(): Promise<boolean> {
    try {
      if (!(await this.connection.use(forgetAllSteps))) return false;
      this.stepsBack.forget(this.journal.head?.checkpoint?.place ?? 0);
      return true;
    } catch {
      return false;
    }
  }

  #clean(): void {
    this.#dirty.clear();
    this.#structureDirty = false;
  }

  async #readHead(): Promise<HeadRecord> {
    const value: unknown = await this.connection.use((db) => db.get("heads", this.id));
    if (value === undefined) throw new Refusal("This picture is not in the Portfolio");
    const parsed = headRecord.safeParse(value);
    if (parsed.success) return parsed.data;
    const why = newerThanThis(value) ?? firstFault(parsed.error);
    throw new Refusal(
      `The record of this picture cannot be read (${why}). It was left as it is; the Portfolio can save it as a file`,
    );
  }

  /**
   * Reads the tiles in store. Wet paint that cannot be read whole is dry from now on: what is seen of it is in
   * its colour.
   * @returns how many others could not be read, the names of what has dried, and layers that lack lines
   */
  async #readTiles(
    engine: Engine,
    work: Work,
  ): Promise<{ broken: number; dried: string[]; lacking: Set<string> }> {
    const { store } = engine;
    const range = tileRange(this.id);
    const [keys, values] = await this.connection.use((db) =>
      Promise.all([db.getAllKeys("tiles", range), db.getAll("tiles", range)]),
    );
    let broken = 0;
    const dries = new Set<string>();
    const lacking = new Set<string>();
    keys.forEach(([, layer, plane, key], i) => {
      this.#sizes.set(`${layer} ${plane} ${key}`, sizeOf(values[i]));
      try {
        work.picture.plane(layer, plane).set(key, readTile(store, values[i]));
      } catch {
        if (HELD_PLANES.includes(plane)) lacking.add(layer);
        else if (MOVED_PLANES.includes(plane)) dries.add(layer);
        else broken++;
      }
      if (i % 256 === 255) store.trim();
    });
    for (const layer of dries) forgetWet(store, work.picture, layer);
    const { layers } = work.picture.structure;
    const named = (id: string): string => layers.find((layer) => layer.id === id)?.name ?? "Slab";
    return { broken, dried: [...dries].map(named), lacking };
  }

  async #replay(
    work: Work,
    from: number,
    to: number,
    notes: string[],
    progress: (share: number) => void,
  ): Promise<void> {
    const { limit } = work.history;
    // What made the picture before it was opened is not undone step by step.
    if (from === 0) work.history.limit = 0;
    for (let place = from; place < to; place++) {
      const text = await this.connection.use((db) => db.get("log", [this.id, place]));
      try {
        if (text === undefined) throw new Refusal("it is missing");
        this.#replayed += text.length;
        work.apply(parseCommand(JSON.parse(text)));
      } catch (error) {
        const why = error instanceof Error ? error.message : "unreadable";
        notes.push(`Step ${place + 1} of ${to} could not be repeated (${why}); the others were.`);
        work.place = place + 1;
        // What can be undone does not reach over a gap.
        work.history.forgetAll();
        this.stepsBack.forget(place + 1);
      }
      if (place % REPLAY_SLICE === 0) {
        progress((place - from) / Math.max(1, to - from));
        await giveWay();
      }
    }
    if (from > 0) return;
    work.history.forgetAll();
    work.history.limit = limit;
  }

  /** The log before `place` is gone from the store: the whole picture must be stored. */
  #lostLog(place: number): void {
    const { head } = this.journal;
    if (!head) return;
    this.journal.head = { ...head, lost: Math.max(head.lost, place), checkpoint: null };
    this.#mustCheckpoint = true;
    this.#replacesAll = true;
    this.#note =
      "This picture was deleted in another tab. It was stored again from this one, without the log of its first steps.";
  }

  /** None of the tiles in store is of use any more. */
  #replaceAll(work: Work): void {
    this.#replacesAll = true;
    this.#allDirty(work);
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

  // ---- keeping ----

  /** Writes what is waiting, and brings the picture's record up to date. */
  async flush(): Promise<void> {
    await this.journal.flush();
    if (this.journal.written === 0) return;
    const { written } = this.journal;
    this.journal.written = 0;
    await this.#changeRecord((record) => ({
      ...record,
      touched: Date.now(),
      bytes: record.bytes + written,
    })).catch((error: unknown) => this.journal.failed(error));
  }

  /** Changes the picture's record; one that is gone is restored as it was last seen. */
  async #changeRecord(change: (record: PictureRecord) => PictureRecord): Promise<void> {
    await this.connection.use(async (db) => {
      const tx = db.transaction("pictures", "readwrite");
      const known = (await tx.store.get(this.id)) ?? this.#record;
      if (known) await tx.store.put((this.#record = change(known)));
      await tx.done;
    });
  }

  /**
   * Stores the tiles that changed since the last checkpoint, with the place in the log.
   * Does nothing while a stroke is drawn, time runs or something is only tried: that is no state of the log. One
   * that is under way is waited for instead.
   * @param thumbnail a PNG of the picture as it is now, if there is a new one
   */
  checkpoint(engine: Engine, work: Work, thumbnail: Uint8Array | null): Promise<void> {
    this.#underWay ??= this.#checkpoint(engine, work, thumbnail).finally(() => {
      this.#underWay = null;
    });
    return this.#underWay;
  }

  async #checkpoint(engine: Engine, work: Work, thumbnail: Uint8Array | null): Promise<void> {
    if (this.journal.waiting > 0) return;
    if (work.isDrawing || work.isTrying || work.isFlowing) return;
    if (this.#replacesAll) this.#allDirty(work);
    const dirty = this.#dirty;
    const { structure, width, height, ppi } = work.picture;
    const sheet = { width, height, ppi };
    const place = { turns: this.#turns, place: work.place, replacesAll: this.#replacesAll };
    const captured = capture(engine.store, work.picture, dirty.values());
    const before = this.stepsBack.capture(engine, work, this.#replacesAll);
    this.#dirty = new Map();
    this.#structureDirty = false;
    try {
      const encoded = await encode(engine.store, captured, giveWay);
      const steps = await this.stepsBack.encode(engine, place.place, before, giveWay);
      await this.flush();
      const isStored = await this.journal.alone((db) =>
        this.#store(db, { ...place, structure, sheet, encoded, steps, thumbnail }),
      );
      if (!isStored) this.#takeBack(dirty);
    } catch (error) {
      this.#takeBack(dirty);
      if (isFull(error) && (await this.#makeRoom())) return;
      this.#failedAt = performance.now();
      this.journal.failed(error);
    }
  }

  #takeBack(dirty: Dirty): void {
    this.#structureDirty = true;
    for (const { layer, plane, keys } of dirty.values())
      this.#noteDamage({ layer, plane, keys: [...keys] });
  }

  /** @returns whether what was captured is a state of the log in store, and is stored now */
  async #store(db: Database, checkpoint: Checkpoint): Promise<boolean> {
    const { place, turns, replacesAll, structure, sheet, encoded, steps, thumbnail } = checkpoint;
    const { head } = this.journal;
    if (!head || turns !== this.#turns || head.count < place) return false;
    if (replacesAll !== this.#replacesAll) return false;
    const stores: ("pictures" | "heads" | "tiles" | "steps")[] = [
      "pictures",
      "heads",
      "tiles",
      "steps",
    ];
    const tx = db.transaction(stores, "readwrite", { durability: "strict" });
    if ((await tx.objectStore("heads").getKey(this.id)) === undefined && !replacesAll) {
      this.#lostLog(place);
      return false;
    }
    const tiles = tx.objectStore("tiles");
    const before = this.#tileBytes;
    if (replacesAll) {
      void tiles.delete(tileRange(this.id));
      this.#sizes.clear();
    }
    for (const { layer, plane, key, record: tile } of encoded) {
      if (tile) void tiles.put(tile, [this.id, layer, plane, key]);
      else if (!replacesAll) void tiles.delete([this.id, layer, plane, key]);
      this.#sizes.set(`${layer} ${plane} ${key}`, sizeOf(tile));
    }
    const stepsKept = this.stepsBack.put(tx.objectStore("steps"), steps, replacesAll);
    const next: HeadRecord = {
      ...head,
      schema: SCHEMA,
      checkpoint: { place, structure: plainStructure(structure) },
    };
    void tx.objectStore("heads").put(next);
    const known = (await tx.objectStore("pictures").get(this.id)) ?? this.#record;
    if (known) {
      const bytes = replacesAll
        ? this.#replayed + this.journal.total + this.#tileBytes
        : Math.max(0, known.bytes + this.#tileBytes - before);
      const record = { ...known, ...sheet, bytes, thumbnail: thumbnail ?? known.thumbnail };
      this.#record = record;
      void tx.objectStore("pictures").put(record);
    }
    await tx.done;
    stepsKept();
    this.journal.head = next;
    this.#replacesAll = false;
    if (this.#mustCheckpoint) {
      this.#mustCheckpoint = false;
      this.tell({ state: "kept", at: Date.now(), note: this.#note });
    }
    return true;
  }

  get #tileBytes(): number {
    let sum = 0;
    for (const size of this.#sizes.values()) sum += size;
    return sum;
  }
}
