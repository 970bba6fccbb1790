import { type Database } from "./database";

const stores = ["pictures", "heads", "brushes", "pins"] as const;

/**
 * Brings back records that an earlier version moved aside because it could not read them. One
 * whose place is taken meanwhile stays where it is.
 */
export async function bringBack(db: Database): Promise<void> {
  if ((await db.count("aside")) === 0) return;
  const tx = db.transaction(["aside", ...stores], "readwrite");
  const aside = tx.objectStore("aside");
  for (let cursor = await aside.openCursor(); cursor; cursor = await cursor.continue()) {
    const { store, key, value } = cursor.value;
    const home = stores.find((name) => name === store);
    if (!home || typeof key !== "string") continue;
    if ((await tx.objectStore(home).getKey(key)) !== undefined) continue;
    // It goes back as it was found, whatever its shape: readers check every record.
    await tx.objectStore(home).put(value as never);
    await cursor.delete();
  }
  await tx.done;
}
