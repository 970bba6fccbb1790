import { z } from "zod";
import { type Database } from "./database";

const placeRecord = z.object({
  handle: z.custom<FileSystemFileHandle>(
    (value) => typeof FileSystemFileHandle !== "undefined" && value instanceof FileSystemFileHandle,
  ),
  /** The file's own time after it was last saved from here: another one says that somebody else wrote. */
  modified: z.number(),
});

/** A file that a picture is saved in. */
export type Place = z.infer<typeof placeRecord>;

/** Key of a picture's place among the settings. */
export const placeKey = (picture: string): string => `place ${picture}`;

/** The files that pictures are saved in, remembered where the browser lets us write to them again. */
export class Places {
  constructor(readonly db: Database) {}

  /** Where a picture is saved; null where nowhere yet, or it cannot be read. */
  async of(picture: string): Promise<Place | null> {
    const parsed = placeRecord.safeParse(await this.db.get("settings", placeKey(picture)));
    return parsed.success ? parsed.data : null;
  }

  async keep(picture: string, place: Place): Promise<void> {
    await this.db.put("settings", place, placeKey(picture));
  }
}
