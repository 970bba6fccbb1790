import { nanoid } from "nanoid";
import { firstFault } from "../engine/picture/refusal";
import { setAside } from "./aside";
import { type Database, logRange, tileRange } from "./database";
import {
  defaultSettings,
  pictureRecord,
  type PictureRecord,
  type Settings,
  settingsRecord,
} from "./records";

/** Name of the channel on which changes to pictures in store are told. */
export const SHELF_CHANNEL = "pampas-shelf";

/** What the Portfolio does with whole pictures. */
export class Shelf {
  constructor(readonly db: Database) {}

  /**
   * All pictures, last touched first. Records that cannot be read are set aside, never
   * deleted; `aside` says how many were, this time.
   */
  async list(): Promise<{ pictures: PictureRecord[]; aside: number }> {
    const pictures: PictureRecord[] = [];
    const broken: { key: string; value: unknown; why: string }[] = [];
    const keys = await this.db.getAllKeys("pictures");
    for (const key of keys) {
      const value: unknown = await this.db.get("pictures", key);
      const parsed = pictureRecord.safeParse(value);
      if (parsed.success) pictures.push(parsed.data);
      else broken.push({ key, value, why: firstFault(parsed.error) });
    }
    for (const { key, value, why } of broken) await setAside(this.db, "pictures", key, value, why);
    pictures.sort((a, b) => b.touched - a.touched);
    return { pictures, aside: broken.length };
  }

  async asideCount(): Promise<number> {
    return this.db.count("aside");
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
    const tx = this.db.transaction(["pictures", "heads", "log", "tiles", "pins"], "readwrite");
    const pins = await tx.objectStore("pins").index("picture").getAllKeys(id);
    await Promise.all([
      ...pins.map((pin) => tx.objectStore("pins").delete(pin)),
      tx.objectStore("pictures").delete(id),
      tx.objectStore("heads").delete(id),
      tx.objectStore("log").delete(logRange(id)),
      tx.objectStore("tiles").delete(tileRange(id)),
      tx.done,
    ]);
  }

  /** A second picture with the same work, in one transaction. */
  async duplicate(id: string, as: string, title: string): Promise<void> {
    const tx = this.db.transaction(["pictures", "heads", "log", "tiles", "pins"], "readwrite");
    const record = await tx.objectStore("pictures").get(id);
    const head = await tx.objectStore("heads").get(id);
    if (!record || !head) throw new Error("the picture to be duplicated is no longer there");
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
    const settings = { ...(await this.settings()), ...changes };
    await this.db.put("settings", settings, "all");
    return settings;
  }
}
