import { type Command } from "../engine/command/commands";
import { Refusal } from "../engine/picture/refusal";
import { type Connection } from "./connection";
import { type Database, isFull, logRange } from "./database";
import { lostLog } from "./log";
import { type HeadRecord } from "./records";

/** Autosave state shown in the top bar. */
export type Kept =
  /** `note` is told once. */
  | { state: "kept"; at: number; note?: string }
  | { state: "keeping" }
  | { state: "full"; waiting: number }
  | { state: "failed"; why: string; waiting: number };

/** A command that became entry `place`, or (no text) a log that was turned to `place`. */
type Entry = { place: number; text: string | null };

/** Entries written in one transaction. */
const BATCH = 64;

/** The head after some entries, and from where on the log before them is gone. */
function headAfter(head: HeadRecord, entries: readonly Entry[]): [HeadRecord, number | null] {
  const next = { ...head };
  let cut: number | null = null;
  for (const { place, text } of entries) {
    next.place = place;
    if (text === null) continue;
    if (next.count > place) {
      cut = Math.min(cut ?? place, place);
      // What was checkpointed beyond this place belongs to work that is gone.
      const { checkpoint } = next;
      if (checkpoint && checkpoint.place > place)
        next.checkpoint = { ...checkpoint, back: Math.min(checkpoint.back ?? place, place) };
    }
    next.place = place + 1;
    next.count = place + 1;
  }
  return [next, cut];
}

/**
 * The journal of one picture: every finished command and every turn of the log, in order, each
 * committed before it is called kept. One transaction of the picture runs at a time, so the head
 * in memory is the head in store.
 */
export class Journal {
  head: HeadRecord | null = null;
  /** Bytes written since the picture's record was last brought up to date. */
  written = 0;
  /** Bytes written since opening. */
  total = 0;
  #queue: Entry[] = [];
  #flushing: Promise<void> | null = null;
  #last: Promise<unknown> = Promise.resolve();

  constructor(
    readonly connection: Connection,
    readonly id: string,
    readonly tell: (kept: Kept) => void,
    /** The head was no longer in store when an entry was written: it is there again, without the log before `place`. */
    readonly lost: (place: number) => void,
    /** Whether more must be stored before the work can be called kept. */
    readonly isIncomplete: () => boolean,
    /** Makes room on a full disk. Returns whether it could. */
    readonly makeRoom: () => Promise<boolean>,
  ) {}

  /** How many entries wait to be written. */
  get waiting(): number {
    return this.#queue.length;
  }

  /** Notes a finished command as entry `place`. */
  note(command: Command, place: number): void {
    this.#enqueue({ place, text: JSON.stringify(command) });
  }

  /** Notes that `place` commands of the log are now in force. */
  turn(place: number): void {
    this.#enqueue({ place, text: null });
  }

  #enqueue(entry: Entry): void {
    this.#queue.push(entry);
    this.tell({ state: "keeping" });
    void this.flush();
  }

  /** Runs `act` when no other transaction of this picture is under way. */
  alone<T>(act: (db: Database) => Promise<T>): Promise<T> {
    const turn = this.#last.then(() => this.connection.use(act));
    this.#last = turn.catch(() => undefined);
    return turn;
  }

  /** Writes what is waiting. What cannot be written keeps its place and is tried again. */
  flush(): Promise<void> {
    this.#flushing ??= this.#write().finally(() => {
      this.#flushing = null;
    });
    return this.#flushing;
  }

  async #write(): Promise<void> {
    while (this.#queue.length > 0) {
      const batch = this.#queue.slice(0, BATCH);
      try {
        await this.alone((db) => this.#commit(db, batch));
      } catch (error) {
        if (isFull(error) && (await this.makeRoom())) continue;
        this.failed(error);
        return;
      }
      this.#queue.splice(0, batch.length);
    }
    if (!this.isIncomplete()) this.tell({ state: "kept", at: Date.now() });
  }

  /** Tells why something could not be stored. */
  failed(error: unknown): void {
    const { waiting } = this;
    if (isFull(error)) this.tell({ state: "full", waiting });
    else {
      console.error(error);
      const why = error instanceof Refusal ? error.message : "The browser refused to store them.";
      this.tell({ state: "failed", why, waiting });
    }
  }

  async #commit(db: Database, batch: readonly Entry[]): Promise<void> {
    if (!this.head) throw new Error("a journal is written before its head was read");
    const [head, cut] = headAfter(this.head, batch);
    const tx = db.transaction(["heads", "log"], "readwrite", { durability: "strict" });
    const log = tx.objectStore("log");
    // Nothing is waited for before the commit is asked for: a tab that closes now loses nothing.
    const there = tx.objectStore("heads").getKey(this.id);
    if (cut !== null) void log.delete(logRange(this.id, cut));
    for (const { place, text } of batch) if (text !== null) void log.put(text, [this.id, place]);
    void tx.objectStore("heads").put(head);
    tx.commit();
    const [known] = await Promise.all([there, tx.done]);
    this.head = head;
    const bytes = batch.reduce((sum, { text }) => sum + (text?.length ?? 0), 0);
    this.written += bytes;
    this.total += bytes;
    if (known === undefined) this.lost(batch[0]?.place ?? head.place);
  }

  /**
   * The lines of the log that are in force, stored or waiting, without its header.
   * @throws Refusal where the beginning of the log is gone
   */
  async lines(): Promise<string[]> {
    const { lost, lines } = await this.inForce();
    if (lost > 0) throw new Refusal(lostLog(lost));
    return lines;
  }

  /** The lines that are in force, and how many came before them that are gone. */
  async inForce(): Promise<{ lost: number; lines: string[] }> {
    const { id } = this;
    const stored = await this.alone((db) => db.getAll("log", logRange(id)));
    // Nothing is waited for from here on: what is stored and what waits belong together.
    const { head } = this;
    if (!head) throw new Error("a journal is read before its head was");
    const { lost } = head;
    const lines = stored.slice(0, head.count - lost);
    let { place } = head;
    for (const entry of this.#queue) {
      place = entry.place;
      if (entry.text === null) continue;
      lines.length = place - lost;
      lines.push(entry.text);
      place++;
    }
    return { lost, lines: lines.slice(0, place - lost) };
  }
}
