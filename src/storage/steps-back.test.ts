import "fake-indexeddb/auto";
import { chances } from "../engine/chances.testing";
import { type CommandInput, parseCommand } from "../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { type Database, logRange, openDatabase, stepRange } from "./database";
import { Keeper } from "./keeper";
import { type HeadRecord } from "./records";
import { Shelf } from "./shelf";
import { forgetOldSteps } from "./steps-back";
import { connectionTo, kettleRecord, openAsTable, type Opened, smallDisk } from "./storage.testing";

const engine = testEngine();
let db: Database;
let next = 0;
/** More steps than there are. */
const ALL = 1000;

beforeAll(async () => {
  db = await openDatabase();
});

const open = (id: string): Promise<Opened> => openAsTable(engine, connectionTo(db), id);

type Picture = Opened & { id: string };

async function fresh(): Promise<Picture> {
  const id = `s${next++}`;
  const first = parseCommand({ do: "layer.add", id: "a", name: "A", above: null });
  await Keeper.create(db, testHeader(), kettleRecord(id), [first]);
  return { id, ...(await open(id)) };
}

const across = (y: number, brush = "pencil-6b"): CommandInput =>
  stroke(line([10, y], [220, y + 20]), { brush, size: 20, seed: y });
const draw = ({ work }: Opened, y: number): void => void work.apply(across(y));
const seen = ({ work }: Opened): string => fingerprint(engine, work);

async function checkpoint({ keeper, work }: Opened): Promise<void> {
  await keeper.flush();
  await keeper.checkpoint(engine, work, null);
}

const placesInStore = async (id: string): Promise<number[]> =>
  (await db.getAllKeys("steps", stepRange(id))).map(([, place]) => place);

/** Undoes all that can be, and tells what was seen at each place. */
async function undoneAll(table: Opened): Promise<Map<number, string>> {
  await table.keeper.bringStepsBack(engine, table.work, ALL);
  const was = new Map<number, string>();
  while (table.work.undo() !== null) was.set(table.work.place, seen(table));
  return was;
}

it("what an earlier session did is undone step by step, and done again", async () => {
  const first = await fresh();
  const looks = [seen(first)];
  for (const y of [10, 50, 90]) {
    draw(first, y);
    looks.push(seen(first));
    await checkpoint(first);
  }
  const again = await open(first.id);
  expect(again.work.history.undoLabel).toBeNull();
  expect(await again.keeper.bringStepsBack(engine, again.work, 1)).toBe(true);
  expect(again.work.history.steps).toHaveLength(1);
  expect(Object.fromEntries(await undoneAll(again))).toEqual({
    1: looks[0],
    2: looks[1],
    3: looks[2],
  });
  while (again.work.redo() !== null);
  expect(seen(again)).toBe(looks[3]);
});

it("a picture that was just laid out has nothing to undo", async () => {
  const work = engine.open(testHeader());
  const first = work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  await Keeper.create(db, work.picture.header, kettleRecord("new"), [first]);
  await new Keeper(connectionTo(db), "new", () => undefined).keepNew(engine, work, null);
  const table = await open("new");
  expect(await table.keeper.bringStepsBack(engine, table.work, ALL)).toBe(false);
  draw(table, 40);
  await checkpoint(table);
  const again = await open("new");
  expect([...(await undoneAll(again)).keys()]).toEqual([1]);
});

it("after an undo beyond the checkpoint it opens without its log, and what was undone can be done again", async () => {
  const first = await fresh();
  for (const y of [10, 50, 90]) draw(first, y);
  await checkpoint(first);
  const whole = seen(first);
  first.work.undo();
  first.work.undo();
  await first.keeper.flush();
  await db.delete("log", logRange(first.id));
  const again = await open(first.id);
  expect(again.notes).toEqual([]);
  expect(again.work.place).toBe(2);
  expect(seen(again)).toBe(seen(first));
  again.work.redo();
  again.work.redo();
  expect(seen(again)).toBe(whole);
  await checkpoint(again);
  expect(seen(await open(first.id))).toBe(whole);
});

it("after an undo and another stroke it opens from the checkpoint, by way of the steps", async () => {
  const first = await fresh();
  for (const y of [10, 50, 90]) draw(first, y);
  await checkpoint(first);
  first.work.undo();
  first.work.undo();
  draw(first, 130);
  draw(first, 150);
  first.work.undo();
  await first.keeper.flush();
  // What came before is not needed: neither the first layer nor the first stroke.
  await db.delete("log", IDBKeyRange.bound([first.id, 0], [first.id, 1]));
  const again = await open(first.id);
  expect(again.notes).toEqual([]);
  expect(seen(again)).toBe(seen(first));
  // Only what this log can do again is done again.
  expect(again.work.redo()).toBeNull();
  await checkpoint(again);
  expect(await placesInStore(first.id)).toEqual([1, 2]);
  const third = await open(first.id);
  expect(seen(third)).toBe(seen(first));
  expect([...(await undoneAll(third)).keys()]).toEqual([2, 1]);
});

it("where the steps are gone it is painted from its log", async () => {
  const first = await fresh();
  for (const y of [10, 50, 90]) draw(first, y);
  await checkpoint(first);
  first.work.undo();
  draw(first, 130);
  await first.keeper.flush();
  await db.clear("steps");
  const again = await open(first.id);
  expect(again.notes).toEqual([]);
  expect(seen(again)).toBe(seen(first));
});

it("a step that cannot be read is not undone, nor what came before it; nothing else is lost", async () => {
  const first = await fresh();
  for (const y of [10, 50, 90, 130]) draw(first, y);
  await checkpoint(first);
  const [key] = (await db.getAllKeys("steps", stepRange(first.id))).filter(([, at]) => at === 2);
  await db.put("steps", { label: "Stroke" } as never, key);
  const again = await open(first.id);
  expect(again.notes).toEqual([]);
  expect([...(await undoneAll(again)).keys()]).toEqual([4, 3]);
  draw(again, 160);
  await checkpoint(again);
  expect(seen(await open(first.id))).toBe(seen(again));
});

it("the oldest are forgotten where they take more than they may", async () => {
  const first = await fresh();
  for (const y of [10, 50, 90, 130, 160]) draw(first, y);
  await checkpoint(first);
  const keys = await db.getAllKeys("steps", stepRange(first.id));
  const bytes = keys.reduce((sum, [, , size]) => sum + size, 0);
  const again = await open(first.id);
  again.keeper.stepsBack.limit = bytes;
  again.work.apply({ do: "layer.set", id: "a", opacity: 0.5 });
  await checkpoint(again);
  const places = await placesInStore(first.id);
  expect(places.length).toBeGreaterThan(1);
  expect(places.length).toBeLessThan(keys.length + 1);
  expect(places.at(-1)).toBe(6);
  const third = await open(first.id);
  expect([...(await undoneAll(third)).keys()]).toEqual([...places].reverse());
});

it("gives its place to the work where the disk is full", async () => {
  const first = await fresh();
  draw(first, 10);
  await checkpoint(first);
  const { small, fill } = smallDisk(db);
  const again = await openAsTable(engine, connectionTo(small), first.id);
  fill(true, "log", "tiles");
  draw(again, 60);
  await again.keeper.flush();
  expect(await placesInStore(first.id)).toEqual([]);
  expect(again.kept.at(-1)).toMatchObject({ state: "kept" });
  expect(again.kept.map(({ state }) => state)).not.toContain("full");
});

it("goes with its picture, and with pictures that were not touched for long", async () => {
  const tables: Picture[] = [];
  for (let i = 0; i < 14; i++) {
    const table = await fresh();
    draw(table, 20);
    await checkpoint(table);
    await new Shelf(db).change(table.id, { touched: 1e15 + i });
    tables.push(table);
  }
  const [a, b] = tables as [Picture, Picture, ...Picture[]];
  await forgetOldSteps(db, a.id);
  expect(await placesInStore(a.id)).not.toEqual([]);
  expect(await placesInStore(b.id)).toEqual([]);
  expect(await placesInStore(tables.at(-1)?.id ?? "")).not.toEqual([]);
  await new Shelf(db).remove(a.id);
  expect(await placesInStore(a.id)).toEqual([]);
});

it.each([1, 2, 3, 4, 5, 6, 7, 8])(
  "whatever is drawn, undone and reopened, each undo leads to what the log says (chance %d)",
  async (seed) => {
    const chance = chances(seed);
    const brushes = ["pencil-6b", "wash-round", "oil-flat", "pen-even"];
    let table: Picture = await fresh();
    const { id } = table;
    for (let i = 0; i < 24; i++) {
      const what = Math.floor(chance() * 8);
      if (what < 3)
        table.work.apply(across(10 + Math.floor(chance() * 160), brushes[i % brushes.length]));
      else if (what === 3)
        table.work.apply({ do: "layer.add", id: `l${i}`, name: "L", above: "a" });
      else if (what === 4) table.work.undo();
      else if (what === 5) table.work.redo();
      else if (what === 6) await checkpoint(table);
      else {
        await table.keeper.flush();
        const was = seen(table);
        table = { id, ...(await open(id)) };
        expect(table.notes).toEqual([]);
        expect(seen(table)).toBe(was);
      }
      if (chance() < 0.2) await table.keeper.bringStepsBack(engine, table.work, 1);
    }
    await checkpoint(table);
    const head = (await db.get("heads", id)) as HeadRecord;
    const log = (await db.getAll("log", logRange(id))).slice(0, head.place);
    const byLog = engine.open(head.header);
    const looks = [fingerprint(engine, byLog)];
    for (const text of log) {
      byLog.apply(JSON.parse(text));
      looks.push(fingerprint(engine, byLog));
    }
    const again = await open(id);
    expect(seen(again)).toBe(looks.at(-1));
    const undone = await undoneAll(again);
    for (const [place, look] of undone) expect(look).toBe(looks[place]);
    while (again.work.redo() !== null);
    expect(seen(again)).toBe(looks.at(-1));
  },
);
