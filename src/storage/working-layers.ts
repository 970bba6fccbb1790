import { z } from "zod";
import { layerId } from "../engine/picture/picture";
import { type Database } from "./database";

/** More layers than this are not remembered as chosen. */
const MOST = 200;
const chosen = z.array(layerId).max(MOST);

/** Key of a picture's working layers among the settings. */
export const workingKey = (picture: string): string => `working ${picture}`;

/** Which layers of a picture were chosen when it was last on the table, the working one first. */
export class WorkingLayers {
  constructor(readonly db: Database) {}

  /** The ids; none where nothing was kept, or it cannot be read. */
  async of(picture: string): Promise<string[]> {
    const parsed = chosen.safeParse(await this.db.get("settings", workingKey(picture)));
    return parsed.success ? parsed.data : [];
  }

  async keep(picture: string, ids: readonly string[]): Promise<void> {
    await this.db.put("settings", ids.slice(0, MOST), workingKey(picture));
  }
}
