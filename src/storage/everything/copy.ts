import { configure, TextReader, Uint8ArrayReader, ZipWriter } from "@zip.js/zip.js";
import { z } from "zod";
import { type Database, logRange, tileRange } from "../database";
import { placeKey } from "../places";
import { sizeOf } from "../captured";
import { tileRecord } from "../records";
import { lineAndBytes, listTile, type StoredTile } from "../tile-list";
import { asText, folder, FORMAT, HEADLINE, type listed, named, type Progress } from "./format";

/** Packed tiles in one entry, bytes about. */
const PART = 24 * 2 ** 20;

// A worker that packs needs no workers of its own.
configure({ useWebWorkers: false });

/** A picture's records as they are in store, in one transaction: one state, whatever is done meanwhile. */
async function takeDown(db: Database, id: string) {
  const tx = db.transaction(["pictures", "heads", "log", "tiles", "pins"]);
  const [record, head, places, lines, keys, tiles, pins] = await Promise.all([
    tx.objectStore("pictures").get(id) as Promise<unknown>,
    tx.objectStore("heads").get(id) as Promise<unknown>,
    tx.objectStore("log").getAllKeys(logRange(id)),
    tx.objectStore("log").getAll(logRange(id)),
    tx.objectStore("tiles").getAllKeys(tileRange(id)),
    tx.objectStore("tiles").getAll(tileRange(id)),
    tx.objectStore("pins").index("picture").getAll(id) as Promise<unknown[]>,
  ]);
  const log = lines.map((text, i) => `[${places[i]?.[1]},${text}]`).join("\n");
  const all = keys.map(([, layer, plane, key], i) => ({ layer, plane, key, record: tiles[i] }));
  const read = all.filter(isTile);
  return { record, head: unclaimed(head, read.length < all.length), log, pins, tiles: read };
}

const isTile = (tile: { record: unknown }): tile is StoredTile =>
  tileRecord.safeParse(tile.record).success;

/** A head that claims no checkpoint where tiles of it cannot be read, as long as the log has all of them. */
function unclaimed(head: unknown, lacks: boolean): unknown {
  const parsed = z.looseObject({ lost: z.number().default(0) }).safeParse(head);
  return lacks && parsed.success && parsed.data.lost === 0
    ? { ...parsed.data, checkpoint: null }
    : (head ?? null);
}

/** Tiles in parts that are small enough to be held at once. */
function* partsOf(tiles: readonly StoredTile[]): Generator<StoredTile[]> {
  let part: StoredTile[] = [];
  let bytes = 0;
  for (const tile of tiles) {
    part.push(tile);
    bytes += sizeOf(tile.record);
    if (bytes < PART) continue;
    yield part;
    part = [];
    bytes = 0;
  }
  if (part.length > 0) yield part;
}

/**
 * Writes a copy of everything.
 * @param write takes the archive's next bytes; what it throws ends the copy
 * @returns how many pictures are in it
 */
export async function copyEverything(
  db: Database,
  write: (bytes: Uint8Array<ArrayBuffer>) => Promise<void>,
  progress: Progress,
): Promise<number> {
  const zip = new ZipWriter(inPieces(write));
  const put = (name: string, text: string): Promise<unknown> => zip.add(name, new TextReader(text));
  const pictures = await listPictures(db);
  await put(HEADLINE, asText({ everything: FORMAT, made: Date.now(), pictures }));
  for (const [i, { id, title }] of pictures.entries()) {
    progress(`Copying “${title}”`, i / pictures.length);
    const { record, head, log, pins, tiles } = await takeDown(db, id);
    // It was deleted since the list was made.
    if (!record) continue;
    let parts = 0;
    for (const part of partsOf(tiles)) {
      progress(`Copying “${title}”`, i / pictures.length);
      const packed: Uint8Array[] = [];
      const line = { tiles: part.map((tile) => listTile(tile, packed)) };
      const file = new Uint8ArrayReader(lineAndBytes(line, packed));
      await zip.add(`${folder(i)}/tiles/${parts++}`, file, { level: 0 });
    }
    await put(`${folder(i)}/log.jsonl`, log);
    await put(`${folder(i)}/picture.json`, asText({ record, head, pins, parts }));
  }
  await put("brushes.json", asText(await db.getAll("brushes")));
  await put("settings.json", asText(await settingsIn(db)));
  await put("aside.json", asText(await db.getAll("aside")));
  await zip.close();
  progress("Copying", 1);
  return pictures.length;
}

/** Bytes that are written at once, about: an archive comes in many small ones. */
const PIECE = 4 * 2 ** 20;

/** A stream whose bytes are joined before they are written. */
function inPieces(
  write: (bytes: Uint8Array<ArrayBuffer>) => Promise<void>,
): WritableStream<Uint8Array> {
  let piece = new Uint8Array(PIECE);
  let filled = 0;
  const flush = async (): Promise<void> => {
    if (filled > 0) await write(piece.slice(0, filled));
    filled = 0;
  };
  return new WritableStream({
    async write(bytes) {
      if (filled + bytes.length > piece.length) await flush();
      if (bytes.length > piece.length) piece = new Uint8Array(bytes.length);
      piece.set(bytes, filled);
      filled += bytes.length;
    },
    close: flush,
  });
}

async function listPictures(db: Database): Promise<z.infer<typeof listed>[]> {
  const pictures = [];
  for (const id of await db.getAllKeys("pictures")) {
    const value: unknown = await db.get("pictures", id);
    pictures.push({ id, ...named.parse(value ?? {}) });
  }
  return pictures.sort((a, b) => b.touched - a.touched);
}

const PLACES = placeKey("");

async function settingsIn(db: Database): Promise<[string, unknown][]> {
  const keys = (await db.getAllKeys("settings")).filter((key) => !key.startsWith(PLACES));
  return Promise.all(keys.map(async (key) => [key, await db.get("settings", key)] as const)).then(
    (all) => all.map(([key, value]) => [key, value]),
  );
}
