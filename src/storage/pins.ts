import { type Database } from "./database";
import { pinRecord, type PinRecord } from "./records";

/** The references pinned beside pictures, in store. They are no part of a picture and never exported. */
export class PinBox {
  constructor(readonly db: Database) {}

  /** A picture's pins, oldest first. What cannot be read stays as it is. */
  async list(picture: string): Promise<{ pins: PinRecord[]; unreadable: number }> {
    const pins: PinRecord[] = [];
    let unreadable = 0;
    for (const id of await this.db.getAllKeysFromIndex("pins", "picture", picture)) {
      const value: unknown = await this.db.get("pins", id);
      const parsed = pinRecord.safeParse(value);
      if (parsed.success) pins.push(parsed.data);
      else unreadable++;
    }
    return { pins: pins.sort((a, b) => a.made - b.made), unreadable };
  }

  async keep(pin: PinRecord): Promise<void> {
    await this.db.put("pins", pinRecord.parse(pin));
  }

  async remove(id: string): Promise<void> {
    await this.db.delete("pins", id);
  }
}
