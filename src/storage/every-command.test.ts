import "fake-indexeddb/auto";
import { type CommandInput, parseCommand } from "../engine/command/commands";
import { before, everySample } from "../engine/command/every-command.testing";
import { fingerprint, testEngine, testHeader } from "../engine/engine.testing";
import { type Work, type WorkEvents } from "../engine/command/work";
import { Connection } from "./connection";
import { type Database, openDatabase } from "./database";
import { Keeper } from "./keeper";

let db: Database;
let next = 0;
const engine = testEngine();
const connection = new Connection(() => Promise.resolve(db));

beforeAll(async () => {
  db = await openDatabase();
});

async function open(id: string): Promise<{ work: Work; keeper: Keeper; notes: string[] }> {
  const keeper = new Keeper(connection, id, () => undefined);
  let isLive = false;
  const relay: WorkEvents = {
    damaged: (damage) => keeper.events.damaged?.(damage),
    restructured: (from, to) => keeper.events.restructured?.(from, to),
    logged: (command, place) => isLive && keeper.events.logged?.(command, place),
    stepped: (place) => isLive && keeper.events.stepped?.(place),
  };
  const { work, notes } = await keeper.open(engine, relay, () => undefined);
  isLive = true;
  return { work, keeper, notes };
}

async function stored(commands: readonly CommandInput[]): Promise<string> {
  const id = `every${next++}`;
  const record = {
    ...{ id, title: "Kettle", width: 256, height: 192, ppi: 300, created: 1, touched: 1 },
    ...{ bytes: 0, thumbnail: null, thrownAway: null, sample: null },
  };
  const header = testHeader({ ground: "#f4efe6" });
  await Keeper.create(db, header, record, commands.map(parseCommand));
  return id;
}

it.each(everySample)(
  "%s is in the checkpoint after it, and in the journal",
  async (_n, commands) => {
    const id = await stored(before);
    const first = await open(id);
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
    for (const { work } of [first, fromJournal, fromTiles]) work.release();
  },
);
