import { type Brush, brushSchema } from "../engine/stroke/brush";
import { type Database } from "./database";
import { type OwnBrush, ownBrushRecord } from "./records";

/** Name of the channel on which changes to the own brushes are told. */
export const BRUSHES_CHANNEL = "pampas-brushes";
const DRAFT = "draft";

/** The brushes that a person has made, in store; and the one in the making. */
export class BrushBox {
  constructor(readonly db: Database) {}

  /** All of them, those thrown away too. What cannot be read stays as it is. */
  async list(): Promise<{ brushes: OwnBrush[]; unreadable: number }> {
    const brushes: OwnBrush[] = [];
    let unreadable = 0;
    for (const id of await this.db.getAllKeys("brushes")) {
      const value: unknown = await this.db.get("brushes", id);
      const parsed = ownBrushRecord.safeParse(value);
      if (parsed.success) brushes.push(parsed.data);
      else unreadable++;
    }
    return { brushes: brushes.sort((a, b) => a.made - b.made), unreadable };
  }

  /** Keeps a brush; `first`, what it may be brought back to, stays what it was. */
  async keep(brush: Brush): Promise<OwnBrush> {
    const tx = this.db.transaction("brushes", "readwrite");
    const known = await tx.store.get(brush.id);
    const record: OwnBrush = {
      id: brush.id,
      brush,
      first: known?.first ?? brush,
      made: known?.made ?? Date.now(),
      thrownAway: null,
    };
    await tx.store.put(record);
    await tx.done;
    return record;
  }

  async throwAway(id: string, when: number | null): Promise<void> {
    const tx = this.db.transaction("brushes", "readwrite");
    const record = await tx.store.get(id);
    if (record) await tx.store.put({ ...record, thrownAway: when });
    await tx.done;
  }

  /** The brush in the making, as it was last changed; null where none is, or it cannot be read. */
  async draft(): Promise<Brush | null> {
    const parsed = brushSchema.safeParse(await this.db.get("settings", DRAFT));
    return parsed.success ? parsed.data : null;
  }

  async keepDraft(brush: Brush | null): Promise<void> {
    if (brush) await this.db.put("settings", brush, DRAFT);
    else await this.db.delete("settings", DRAFT);
  }
}
