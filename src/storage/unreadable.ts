import { toBase64 } from "../engine/file/base64";
import { type Database, logRange } from "./database";

/** A picture whose record this version cannot read. It stays in store as it is. */
export type Unreadable = { id: string; title: string; why: string };

const inJson = (_key: string, value: unknown): unknown =>
  value instanceof Uint8Array ? { base64: toBase64(value) } : value;

/** All records of a picture as they are in store, as JSON; bytes as base64. Its tiles are left out: the log makes them. */
export async function rawRecord(db: Database, id: string): Promise<string> {
  const [picture, head, log, pins] = await Promise.all([
    db.get("pictures", id) as Promise<unknown>,
    db.get("heads", id) as Promise<unknown>,
    db.getAll("log", logRange(id)),
    db.getAllFromIndex("pins", "picture", id) as Promise<unknown>,
  ]);
  return JSON.stringify({ picture, head, log, pins }, inJson);
}
