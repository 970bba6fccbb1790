import "fake-indexeddb/auto";
import { type CommandInput, parseCommand } from "../engine/command/commands";
import { before, everySample } from "../engine/command/every-command.testing";
import { fingerprint, testEngine, testHeader } from "../engine/engine.testing";
import { type Database, openDatabase } from "./database";
import { Keeper } from "./keeper";
import { connectionTo, kettleRecord, openAsTable, type Opened } from "./storage.testing";

let db: Database;
let next = 0;
const engine = testEngine();

beforeAll(async () => {
  db = await openDatabase();
});

const open = (id: string): Promise<Opened> => openAsTable(engine, connectionTo(db), id);

async function stored(commands: readonly CommandInput[]): Promise<string> {
  const id = `every${next++}`;
  const header = testHeader({ ground: "#f4efe6" });
  await Keeper.create(db, header, kettleRecord(id), commands.map(parseCommand));
  return id;
}

it.each(everySample)(
  "%s is in the checkpoint after it, and in the journal; it can be undone and done again in a later session",
  async (_n, commands) => {
    const id = await stored(before);
    const first = await open(id);
    const was = fingerprint(engine, first.work);
    await first.keeper.checkpoint(engine, first.work, null);
    for (const command of commands) first.work.apply(command);
    const is = fingerprint(engine, first.work);
    await first.keeper.flush();
    const fromJournal = await open(id);
    expect(fromJournal.notes).toEqual([]);
    expect(fingerprint(engine, fromJournal.work)).toBe(is);
    await fromJournal.keeper.checkpoint(engine, fromJournal.work, null);
    await db.delete("log", IDBKeyRange.bound([id, 0], [id, 1_000_000]));
    const fromTiles = await open(id);
    expect(fingerprint(engine, fromTiles.work)).toBe(is);
    await fromTiles.keeper.bringStepsBack(engine, fromTiles.work, commands.length + 1);
    while (fromTiles.work.undo() !== null);
    expect(fromTiles.work.place).toBe(before.length);
    expect(fingerprint(engine, fromTiles.work)).toBe(was);
    while (fromTiles.work.redo() !== null);
    expect(fingerprint(engine, fromTiles.work)).toBe(is);
    for (const { work } of [first, fromJournal, fromTiles]) work.release();
  },
);
