import { type Header } from "../engine/picture/header";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { type Database } from "./database";
import { headRecord, newerThanThis } from "./records";

/**
 * A picture's log as it is in store: its header, and the lines in force.
 * @throws Refusal where its record cannot be read or its beginning is gone
 */
export async function readLog(
  db: Database,
  id: string,
): Promise<{ header: Header; lines: string[] }> {
  const value: unknown = await db.get("heads", id);
  const parsed = headRecord.safeParse(value);
  if (!parsed.success) {
    const why = newerThanThis(value) ?? firstFault(parsed.error);
    throw new Refusal(`The record of this picture cannot be read (${why}).`);
  }
  const { header, place, lost } = parsed.data;
  if (lost > 0) throw new Refusal(lostLog(lost));
  const range = IDBKeyRange.bound([id, 0], [id, place], false, true);
  return { header, lines: await db.getAll("log", range) };
}

/** What is said where the log cannot be had. */
export const lostLog = (steps: number): string =>
  `The first ${steps} steps of this picture's log were deleted. The picture itself is whole: export it as OpenRaster.`;
