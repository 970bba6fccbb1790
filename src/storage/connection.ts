import { type Database, openDatabase } from "./database";

/**
 * A database that is opened anew where it was closed: by a newer version in another tab, or by
 * the browser. What failed on a closed connection can so be tried again.
 */
export class Connection {
  #db: Promise<Database> | null = null;

  /** @param open opens the database; `closed` is to be called when it ends by itself */
  constructor(readonly open: (closed: () => void) => Promise<Database> = openDatabase) {}

  /** The open database. @throws Refusal where the store belongs to a newer version */
  get(): Promise<Database> {
    if (this.#db) return this.#db;
    const opening = this.open(() => this.#forget(opening));
    this.#db = opening;
    opening.catch(() => this.#forget(opening));
    return opening;
  }

  /** Does something with the database; once more on a new connection where this one is closed. */
  async use<T>(act: (db: Database) => Promise<T>): Promise<T> {
    const opening = this.get();
    try {
      return await act(await opening);
    } catch (error) {
      if (!isClosed(error)) throw error;
      this.#forget(opening);
      return act(await this.get());
    }
  }

  #forget(opening: Promise<Database>): void {
    if (this.#db === opening) this.#db = null;
  }
}

/** Whether an error says that the connection is closed or closing. */
const isClosed = (error: unknown): boolean =>
  error instanceof DOMException && error.name === "InvalidStateError";
