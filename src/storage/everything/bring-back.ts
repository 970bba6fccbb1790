import {
  BlobReader,
  configure,
  type FileEntry,
  TextWriter,
  Uint8ArrayWriter,
  ZipReader,
} from "@zip.js/zip.js";
import { nanoid } from "nanoid";
import { z } from "zod";
import { firstFault, Refusal } from "../../engine/picture/refusal";
import { type Database, logRange, stepRange, tileRange } from "../database";
import { pictureLock } from "../shelf";
import { openLineAndBytes, type StoredTile, takeTiles } from "../tile-list";
import {
  asText,
  folder,
  headline,
  HEADLINE,
  inJson,
  keyed,
  linesOf,
  named,
  partLine,
  pictureFile,
  type Progress,
  withId,
} from "./format";

/** What an entry may unpack to. */
const MOST_ENTRY = 512 * 2 ** 20;
const WHAT = "part of a copy";

// A worker that packs needs no workers of its own.
configure({ useWebWorkers: false });

/** How a picture in a copy stands to what is here. */
export type Standing = "missing" | "same" | "other";

export type Inside = {
  made: number;
  pictures: { index: number; title: string; touched: number; here: number | null; is: Standing }[];
  /** Brushes of one's own that are not here, and those that are other than here. */
  brushes: { missing: number; other: number };
};

/** What becomes of a picture: it is left, takes the place of the one here, or lies beside it. */
export type Wish = "leave" | "replace" | "beside";
export type Wishes = {
  /** By the picture's place in the copy. */
  pictures: Readonly<Record<number, Wish>>;
  /** Whether brushes in the copy take the place of those that are other here; missing ones always come. */
  brushes: boolean;
  /** Whether the settings, keys and wells of the copy become those of this browser. */
  settings: boolean;
};

/** Does something to a picture that nobody else works on. @throws Refusal where somebody does */
export type Alone = (id: string, act: () => Promise<void>) => Promise<void>;

const locked: Alone = (id, act) =>
  navigator.locks.request(pictureLock(id), { ifAvailable: true }, async (held) => {
    if (!held) throw new Refusal("it is open in another tab: close it there first");
    await act();
  });

/** A copy that was opened for reading. */
export class Copy {
  private constructor(
    readonly db: Database,
    readonly head: z.infer<typeof headline>,
    readonly entries: ReadonlyMap<string, FileEntry>,
    readonly close: () => Promise<void>,
    readonly alone: Alone,
  ) {}

  /** @throws Refusal where this is no copy of everything, or one that this version cannot read */
  static async open(db: Database, file: Blob, alone: Alone = locked): Promise<Copy> {
    const zip = new ZipReader(new BlobReader(file));
    const entries = new Map<string, FileEntry>();
    try {
      for (const entry of await zip.getEntries()) {
        if (entry.directory) continue;
        if (entry.uncompressedSize > MOST_ENTRY)
          throw new Refusal(`${entry.filename.slice(0, 80)} in the copy is too large`);
        entries.set(entry.filename, entry);
      }
    } catch (error) {
      await zip.close();
      if (error instanceof Refusal) throw error;
      throw new Refusal("this file is no copy of everything, or it is cut off");
    }
    const head = entries.get(HEADLINE);
    if (!head) throw new Refusal("this file is no copy of everything");
    const parsed = headline.safeParse(inJson(await textOf(head)));
    if (!parsed.success) throw new Refusal(`this copy cannot be read: ${firstFault(parsed.error)}`);
    return new Copy(db, parsed.data, entries, () => zip.close(), alone);
  }

  /** What is in it, beside what is here. */
  async look(): Promise<Inside> {
    const pictures: Inside["pictures"] = [];
    for (const [index, { id, title, touched }] of this.head.pictures.entries()) {
      // One that was deleted while the copy was made is listed alone.
      if (!this.entries.has(`${folder(index)}/picture.json`)) continue;
      const is = await this.#standing(index, id);
      const here = named.safeParse(await this.db.get("pictures", id)).data?.touched ?? null;
      pictures.push({ index, title, touched, here: is === "missing" ? null : here, is });
    }
    const brushes = { missing: 0, other: 0 };
    for (const brush of await this.#brushes()) {
      const here: unknown = await this.db.get("brushes", brush.id);
      if (here === undefined) brushes.missing++;
      else if (asText(here) !== asText(brush)) brushes.other++;
    }
    return { made: this.head.made, pictures, brushes };
  }

  async #standing(index: number, id: string): Promise<Standing> {
    const here: unknown = await this.db.get("heads", id);
    if ((await this.db.getKey("pictures", id)) === undefined) return "missing";
    const { head } = await this.#picture(index);
    // What a checkpoint says changes without the picture being another one.
    if (workOf(here) !== workOf(head)) return "other";
    const lines = (await this.db.getAll("log", logRange(id))).join("\n");
    const log = linesOf(await this.#text(`${folder(index)}/log.jsonl`));
    return log.map(([, text]) => text).join("\n") === lines ? "same" : "other";
  }

  /**
   * Brings back what is wished for, each picture whole or not at all.
   * @returns how many pictures came back, and what could not
   */
  async bringBack(
    wishes: Wishes,
    progress: Progress,
  ): Promise<{ pictures: number; notes: string[] }> {
    const wanted = this.head.pictures
      .map((picture, index) => ({ ...picture, index, wish: wishes.pictures[index] ?? "leave" }))
      .filter(({ wish }) => wish !== "leave");
    const notes: string[] = [];
    let pictures = 0;
    for (const [n, { index, id, title, wish }] of wanted.entries()) {
      progress(`Bringing back “${title}”`, n / wanted.length);
      try {
        await this.#bringPicture(index, wish === "beside" ? nanoid(12) : id, wish === "beside");
        pictures++;
      } catch (error) {
        if (!(error instanceof Refusal) || error.name !== "Refusal") throw error;
        notes.push(`“${title}” was not brought back: ${error.message}.`);
      }
    }
    await this.#bringBrushes(wishes.brushes);
    if (wishes.settings) await this.#bringSettings();
    progress("Bringing back", 1);
    return { pictures, notes };
  }

  async #bringPicture(index: number, id: string, beside: boolean): Promise<void> {
    const { record, head, pins, parts } = await this.#picture(index);
    const lines = linesOf(await this.#text(`${folder(index)}/log.jsonl`));
    const tiles: StoredTile[] = [];
    for (let part = 0; part < parts; part++) tiles.push(...(await this.#part(index, part)));
    const title = named.parse(record).title;
    const own = beside ? { id, title: `${title} (from a copy)`.slice(0, 200) } : { id };
    await this.alone(id, async () => {
      const stores = ["pictures", "heads", "log", "tiles", "steps", "pins"] as const;
      const tx = this.db.transaction(stores, "readwrite");
      void tx.objectStore("log").delete(logRange(id));
      void tx.objectStore("tiles").delete(tileRange(id));
      void tx.objectStore("steps").delete(stepRange(id));
      for (const key of await tx.objectStore("pins").index("picture").getAllKeys(id))
        void tx.objectStore("pins").delete(key);
      // They go back as they were found, whatever their shape: readers check every record.
      void tx.objectStore("pictures").put({ ...record, ...own } as never);
      if (head) void tx.objectStore("heads").put({ ...head, id } as never);
      for (const [place, text] of lines) void tx.objectStore("log").put(text, [id, place]);
      for (const { layer, plane, key, record: tile } of tiles)
        void tx.objectStore("tiles").put(tile, [id, layer, plane, key]);
      for (const pin of pins) {
        const as = beside ? nanoid(10) : pin.id;
        void tx.objectStore("pins").put({ ...pin, id: as, picture: id } as never);
      }
      await tx.done;
    });
  }

  async #bringBrushes(others: boolean): Promise<void> {
    const brushes = await this.#brushes();
    const tx = this.db.transaction("brushes", "readwrite");
    for (const brush of brushes) {
      if (!others && (await tx.store.getKey(brush.id)) !== undefined) continue;
      void tx.store.put(brush as never);
    }
    await tx.done;
  }

  async #bringSettings(): Promise<void> {
    const settings = keyed.parse(inJson(await this.#text("settings.json")));
    const tx = this.db.transaction("settings", "readwrite");
    for (const [key, value] of settings) void tx.store.put(value, key);
    await tx.done;
  }

  async #brushes(): Promise<z.infer<typeof withId>[]> {
    return z.array(withId).parse(inJson(await this.#text("brushes.json")));
  }

  async #picture(index: number): Promise<z.infer<typeof pictureFile>> {
    const parsed = pictureFile.safeParse(inJson(await this.#text(`${folder(index)}/picture.json`)));
    if (parsed.success) return parsed.data;
    throw new Refusal(`its record in the copy: ${firstFault(parsed.error)}`);
  }

  async #part(index: number, part: number): Promise<StoredTile[]> {
    const entry = this.#entry(`${folder(index)}/tiles/${part}`);
    const file = await whole(() => entry.getData(new Uint8ArrayWriter(), { checkSignature: true }));
    const { line, take } = openLineAndBytes(file, WHAT);
    const parsed = partLine.safeParse(line);
    if (!parsed.success) throw new Refusal(`its tiles in the copy: ${firstFault(parsed.error)}`);
    return takeTiles(parsed.data.tiles, take);
  }

  #entry(name: string): FileEntry {
    const entry = this.entries.get(name);
    if (!entry) throw new Refusal(`${name} is not in the copy`);
    return entry;
  }

  #text(name: string): Promise<string> {
    return textOf(this.#entry(name));
  }
}

/** What of a head says which work a picture is. */
const workOf = (head: unknown): string => {
  const { header, place, count, lost } = z.looseObject({}).parse(head ?? {});
  return asText([header, place, count, lost ?? 0]);
};

/** Reads an entry; what is damaged is said so. */
async function whole<T>(read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch {
    throw new Refusal("the copy is damaged there");
  }
}

const textOf = (entry: FileEntry): Promise<string> =>
  whole(() => entry.getData(new TextWriter(), { checkSignature: true }));
