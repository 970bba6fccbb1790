import { type Database } from "./database";

/** Stores whose records are checked when they are read. */
type Store = "pictures" | "heads" | "brushes" | "pins";

/** Moves a record that cannot be read out of the way, kept as it was found. */
export async function setAside(
  db: Database,
  store: Store,
  key: string,
  value: unknown,
  why: string,
): Promise<void> {
  const tx = db.transaction([store, "aside"], "readwrite");
  await Promise.all([
    tx.objectStore("aside").add({ when: Date.now(), store, key, why, value }),
    tx.objectStore(store).delete(key),
    tx.done,
  ]);
}
