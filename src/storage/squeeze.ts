import { packRaw, unpackRaw } from "../engine/file/zlib";
import { TILE_BYTES } from "../engine/tiles/layout";
import { type Database, logRange, stepRange, tileRange } from "./database";
import { headRecord } from "./records";

/** Tiles are packed quickly while one paints; here there is time. */
const DEFLATE_LEVEL = 9;
/** Tiles packed anew in one transaction. */
const BATCH = 32;

/**
 * Makes a picture smaller in store: its tiles are packed as small as can be; what was undone and can no longer be
 * done again is forgotten, and so are the steps that could be undone from an earlier session. What it is stays the same, bit for bit. Nobody may work on it meanwhile.
 * @param progress told how far it has come, 0…1; what it throws stops it, and all is in order
 * @returns bytes gained
 */
export async function squeeze(
  db: Database,
  id: string,
  progress: (share: number) => void,
): Promise<number> {
  let gained = await forgetUndone(db, id);
  const steps = await forgetSteps(db, id);
  const keys = await db.getAllKeys("tiles", tileRange(id));
  const filtered = new Uint8Array(TILE_BYTES);
  for (let at = 0; at < keys.length; at += BATCH) {
    progress(at / keys.length);
    const tx = db.transaction("tiles", "readwrite");
    for (const key of keys.slice(at, at + BATCH)) {
      const value: unknown = await tx.store.get(key);
      const packed = value instanceof Uint8Array ? smaller(value, filtered) : null;
      if (!packed) continue;
      gained += (value as Uint8Array).length - packed.length;
      void tx.store.put(packed, key);
    }
    await tx.done;
  }
  const tx = db.transaction("pictures", "readwrite");
  const record = await tx.store.get(id);
  if (record) void tx.store.put({ ...record, bytes: Math.max(0, record.bytes - gained) });
  await tx.done;
  progress(1);
  return gained + steps;
}

/** A tile packed smaller; null where it cannot be, or cannot be read: then it stays as it is. */
function smaller(value: Uint8Array, filtered: Uint8Array): Uint8Array | null {
  try {
    unpackRaw(value, filtered);
  } catch {
    return null;
  }
  const packed = packRaw(filtered, DEFLATE_LEVEL);
  return packed.length < value.length ? packed : null;
}

/** Takes away the steps that could be undone, unless the picture itself is to be reached by them. */
async function forgetSteps(db: Database, id: string): Promise<number> {
  const tx = db.transaction(["heads", "steps"], "readwrite");
  const head = headRecord.safeParse(await tx.objectStore("heads").get(id)).data;
  const checkpoint = head?.checkpoint;
  if (!checkpoint || checkpoint.back !== undefined || checkpoint.place > head.place) return 0;
  const keys = await tx.objectStore("steps").getAllKeys(stepRange(id));
  void tx.objectStore("steps").delete(stepRange(id));
  await tx.done;
  return keys.reduce((sum, [, , bytes]) => sum + bytes, 0);
}

/** Takes away what lies in the log beyond the place that the picture is at. */
async function forgetUndone(db: Database, id: string): Promise<number> {
  const tx = db.transaction(["heads", "log"], "readwrite");
  const parsed = headRecord.safeParse(await tx.objectStore("heads").get(id));
  const head = parsed.data;
  // Where only what was undone is in tiles, the log is needed to come back.
  if (!head || head.place >= head.count || (head.checkpoint?.place ?? 0) > head.place) return 0;
  const beyond = logRange(id, head.place);
  const texts = await tx.objectStore("log").getAll(beyond);
  void tx.objectStore("log").delete(beyond);
  void tx.objectStore("heads").put({ ...head, count: head.place });
  await tx.done;
  return texts.reduce((sum, text) => sum + text.length, 0);
}
