import { type Work } from "../engine/command/work";
import { type Progress } from "../engine/compose/flatten";
import { type Engine } from "../engine/engine";
import { Refusal } from "../engine/picture/refusal";
import { type Connection } from "../storage/connection";
import { type Database, logRange } from "../storage/database";
import { Keeper } from "../storage/keeper";
import { PinBox } from "../storage/pins";
import { writeWholePicture } from "../storage/whole-picture";

/** What of a log is in force, and how many lines before it are gone. */
type InForce = { lost: number; lines: readonly string[] };

/** A picture that is open, as a file that holds all of it, its pins too. */
export async function wholePictureFile(
  engine: Engine,
  work: Work,
  { connection, id }: Keeper,
  log: InForce,
  progress: Progress,
): Promise<Uint8Array<ArrayBuffer>> {
  const record = await connection.use((db) => db.get("pictures", id));
  const { pins } = await connection.use((db) => new PinBox(db).list(id));
  const { title = "Picture", created = Date.now() } = record ?? {};
  const beside = { title, created, pins, ...log };
  return new Uint8Array(await writeWholePicture(engine, work, beside, progress));
}

/** How often a picture is opened anew because somebody has worked on it meanwhile. */
const ATTEMPTS = 4;

/** A picture's head and log as they are in store, in one text: another text is another state. */
async function stateOf(db: Database, id: string): Promise<string> {
  const tx = db.transaction(["heads", "log"]);
  const [head, lines] = await Promise.all([
    tx.objectStore("heads").get(id) as Promise<unknown>,
    tx.objectStore("log").getAll(logRange(id)),
  ]);
  return JSON.stringify([head, lines]);
}

/**
 * Opens a picture from the store while it may be worked on elsewhere, as it was at one moment.
 * @throws Refusal where it cannot be read whole, or is never left alone for long enough
 */
export async function openedAside(
  connection: Connection,
  engine: Engine,
  id: string,
  progress: (share: number) => void,
): Promise<{ work: Work; keeper: Keeper; log: InForce }> {
  for (let attempt = 0; attempt < ATTEMPTS; attempt++) {
    const keeper = new Keeper(connection, id, () => undefined);
    const before = await connection.use((db) => stateOf(db, id));
    const { work, notes } = await keeper.open(engine, {}, (_label, share) => progress(share));
    const log = await keeper.journal.inForce();
    // What is in memory elsewhere may be better than what is in store.
    if (notes.length > 0) throw new Refusal(notes.join(" "));
    if ((await connection.use((db) => stateOf(db, id))) === before) return { work, keeper, log };
    work.release();
  }
  throw new Refusal("the picture was worked on all the while");
}
