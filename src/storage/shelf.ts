import { Refusal } from "../engine/picture/refusal";
import { nanoid } from "nanoid";
import { z } from "zod";
import { firstFault } from "../engine/picture/refusal";
import { type Database, logRange, stepRange, tileRange } from "./database";
import {
  defaultSettings,
  newerThanThis,
  pictureRecord,
  type PictureRecord,
  type Settings,
  settingsRecord,
} from "./records";
import { placeKey } from "./places";
import { workingKey } from "./working-layers";
import { type Unreadable } from "./unreadable";

/** Name of the channel on which changes to pictures in store are told. */
export const SHELF_CHANNEL = "pampas-shelf";

/** Name of the lock that a tab holds while it works on a picture. */
export const pictureLock = (id: string): string => `pampas-picture-${id}`;

const titled = z.object({ title: z.string().max(200) });

/** What the Portfolio does with whole pictures. */
export class Shelf {
  constructor(readonly db: Database) {}

  /** All pictures, last touched first, and those whose records this version cannot read. */
  async list(): Promise<{ pictures: PictureRecord[]; unreadable: Unreadable[] }> {
    const pictures: PictureRecord[] = [];
    const unreadable: Unreadable[] = [];
    for (const id of await this.db.getAllKeys("pictures")) {
      const value: unknown = await this.db.get("pictures", id);
      const parsed = pictureRecord.safeParse(value);
      if (parsed.success) pictures.push(parsed.data);
      else {
        const why = newerThanThis(value) ?? firstFault(parsed.error);
        unreadable.push({
          id,
          title: titled.catch({ title: "A picture" }).parse(value).title,
          why,
        });
      }
    }
    pictures.sort((a, b) => b.touched - a.touched);
    return { pictures, unreadable };
  }

  async change(id: string, changes: Partial<PictureRecord>): Promise<void> {
    const tx = this.db.transaction("pictures", "readwrite");
    const record = await tx.store.get(id);
    if (record) await tx.store.put({ ...record, ...changes });
    await tx.done;
  }

  rename(id: string, title: string): Promise<void> {
    return this.change(id, { title: title.trim().slice(0, 200) || "Untitled" });
  }

  throwAway(id: string): Promise<void> {
    return this.change(id, { thrownAway: Date.now() });
  }

  takeBack(id: string): Promise<void> {
    return this.change(id, { thrownAway: null });
  }

  /** Deletes a picture for good. */
  async remove(id: string): Promise<void> {
    const stores = ["pictures", "heads", "log", "tiles", "steps", "pins", "settings"] as const;
    const tx = this.db.transaction(stores, "readwrite");
    const pins = await tx.objectStore("pins").index("picture").getAllKeys(id);
    await Promise.all([
      ...pins.map((pin) => tx.objectStore("pins").delete(pin)),
      tx.objectStore("settings").delete(placeKey(id)),
      tx.objectStore("settings").delete(workingKey(id)),
      tx.objectStore("pictures").delete(id),
      tx.objectStore("heads").delete(id),
      tx.objectStore("log").delete(logRange(id)),
      tx.objectStore("tiles").delete(tileRange(id)),
      tx.objectStore("steps").delete(stepRange(id)),
      tx.done,
    ]);
  }

  /** A second picture with the same work, in one transaction. */
  async duplicate(id: string, as: string, title: string): Promise<void> {
    const tx = this.db.transaction(["pictures", "heads", "log", "tiles", "pins"], "readwrite");
    const record = await tx.objectStore("pictures").get(id);
    const head = await tx.objectStore("heads").get(id);
    if (!record || !head) throw new Refusal("the picture to be duplicated is no longer there");
    const now = Date.now();
    await tx
      .objectStore("pictures")
      .put({ ...record, id: as, title, created: now, touched: now, sample: null });
    await tx.objectStore("heads").put({ ...head, id: as });
    const log = tx.objectStore("log");
    for (let cursor = await log.openCursor(logRange(id)); cursor; cursor = await cursor.continue())
      await log.put(cursor.value, [as, cursor.key[1]]);
    const tiles = tx.objectStore("tiles");
    for (
      let cursor = await tiles.openCursor(tileRange(id));
      cursor;
      cursor = await cursor.continue()
    )
      await tiles.put(cursor.value, [as, cursor.key[1], cursor.key[2], cursor.key[3]]);
    const pins = tx.objectStore("pins");
    for (const pin of await pins.index("picture").getAll(id))
      await pins.put({ ...pin, id: nanoid(10), picture: as });
    await tx.done;
  }

  async settings(): Promise<Settings> {
    const parsed = settingsRecord.safeParse(await this.db.get("settings", "all"));
    return parsed.success ? parsed.data : defaultSettings;
  }

  async changeSettings(changes: Partial<Settings>): Promise<Settings> {
    // One transaction: what is changed meanwhile, here or in another tab, stays.
    const tx = this.db.transaction("settings", "readwrite");
    const parsed = settingsRecord.safeParse(await tx.store.get("all"));
    const settings = { ...(parsed.success ? parsed.data : defaultSettings), ...changes };
    await tx.store.put(settings, "all");
    await tx.done;
    return settings;
  }
}
