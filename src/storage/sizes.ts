import { COLOUR } from "../engine/picture/picture";
import { sizeOf } from "./captured";
import { type Database, logRange, stepRange, tileRange } from "./database";

/** Bytes of a picture in store, by part. */
export type Sizes = {
  /** What is seen of its layers. */
  colour: number;
  /** What else the layers are made of: wet paint, relief, powder, masks, lines, pieces. */
  planes: number;
  /** Its strokes and all else that was done. */
  log: number;
  /** What was there before its latest steps, so that they can be undone after it is opened anew. */
  steps: number;
  /** References beside it, and its small picture on the shelf. */
  beside: number;
};

/** Tiles read at once. */
const BATCH = 256;

/** What a picture takes in store. */
export async function sizesOf(db: Database, id: string): Promise<Sizes> {
  const sizes: Sizes = { colour: 0, planes: 0, log: 0, steps: 0, beside: 0 };
  for await (const [key, value] of storedTiles(db, id))
    sizes[key[2] === COLOUR ? "colour" : "planes"] += sizeOf(value);
  for (const text of await db.getAll("log", logRange(id))) sizes.log += text.length;
  for (const [, , bytes] of await db.getAllKeys("steps", stepRange(id))) sizes.steps += bytes;
  const { thumbnail } = (await db.get("pictures", id)) ?? {};
  sizes.beside += thumbnail?.length ?? 0;
  for (const { png } of await db.getAllFromIndex("pins", "picture", id))
    sizes.beside += png?.length ?? 0;
  return sizes;
}

type TileKey = [string, string, string, number];

/** Tiles of a picture in store, a few at a time: all of them at once may be more than there is memory. */
async function* storedTiles(db: Database, id: string): AsyncGenerator<[TileKey, unknown]> {
  let range = tileRange(id);
  for (;;) {
    const tx = db.transaction("tiles");
    const [keys, values] = await Promise.all([
      tx.store.getAllKeys(range, BATCH),
      tx.store.getAll(range, BATCH) as Promise<unknown[]>,
    ]);
    for (const [i, key] of keys.entries()) yield [key, values[i]];
    const last = keys.at(-1);
    if (!last || keys.length < BATCH) return;
    range = IDBKeyRange.bound(last, [id, []], true);
  }
}
