import "fake-indexeddb/auto";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { parseCommand } from "../engine/command/commands";
import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Database, openDatabase } from "./database";
import { type Kept, Keeper } from "./keeper";
import { type PictureRecord } from "./records";
import { Shelf } from "./shelf";

let db: Database;
let shelf: Shelf;
let next = 0;

const record = (id: string): PictureRecord => ({
  id,
  title: "Kettle",
  width: 256,
  height: 192,
  ppi: 300,
  created: 1,
  touched: 1,
  bytes: 0,
  thumbnail: null,
  thrownAway: null,
  sample: null,
});

beforeAll(async () => {
  db = await openDatabase();
  shelf = new Shelf(db);
});

type Open = { engine: Engine; work: Work; keeper: Keeper; notes: string[]; kept: Kept[] };

/** Opens a picture as a table would. */
async function open(id: string, database = db): Promise<Open> {
  const engine = testEngine();
  const kept: Kept[] = [];
  const keeper = new Keeper(database, id, (now) => kept.push(now));
  let live = false;
  const { work, notes } = await keeper.open(
    engine,
    {
      damaged: (damage) => keeper.events.damaged?.(damage),
      restructured: (a, b) => keeper.events.restructured?.(a, b),
      logged: (command, place) => live && keeper.events.logged?.(command, place),
      stepped: (place) => live && keeper.events.stepped?.(place),
    },
    () => undefined,
  );
  live = true;
  return { engine, work, keeper, notes, kept };
}

async function fresh(): Promise<Open & { id: string }> {
  const id = `p${next++}`;
  const first = parseCommand({ do: "layer.add", id: "a", name: "A", above: null });
  await Keeper.create(db, testHeader(), record(id), [first]);
  return { id, ...(await open(id)) };
}

const draw = (work: Work, y: number): void =>
  void work.apply(stroke(line([10, y], [220, y + 20]), { brush: "pencil-6b", size: 20, seed: y }));

describe("keeping", () => {
  it("brings a picture back from its journal alone", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    draw(work, 60);
    await keeper.flush();
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    expect(again.notes).toEqual([]);
  });

  it("brings it back from a checkpoint and the journal since", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    draw(work, 90);
    work.apply({ do: "layer.set", id: "a", opacity: 0.5 });
    await keeper.flush();
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    expect(again.work.place).toBe(4);
  });

  it("knows undo and redo, also beyond the checkpoint", async () => {
    const { id, engine, work, keeper } = await fresh();
    for (const y of [10, 50, 90, 130]) draw(work, y);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    work.undo();
    work.undo();
    work.undo();
    work.redo();
    await keeper.flush();
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    draw(work, 160);
    await keeper.flush();
    const third = await open(id);
    expect(fingerprint(third.engine, third.work)).toBe(fingerprint(engine, work));
    await third.keeper.checkpoint(third.engine, third.work, null);
    const fourth = await open(id);
    expect(fingerprint(fourth.engine, fourth.work)).toBe(fingerprint(engine, work));
  });

  it("does not mix a checkpoint with work that turned back meanwhile", async () => {
    const { id, engine, work, keeper } = await fresh();
    for (const y of [10, 50, 90]) draw(work, y);
    await keeper.flush();
    const checkpoint = keeper.checkpoint(engine, work, null);
    work.undo();
    work.undo();
    draw(work, 140);
    draw(work, 150);
    draw(work, 160);
    await checkpoint;
    await keeper.flush();
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });

  it("stores only what changed, and forgets tiles that are gone", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    const count = async (): Promise<number> => db.count("tiles", IDBKeyRange.bound([id], [id, []]));
    expect(await count()).toBeGreaterThan(2);
    work.apply({ do: "layer.clear", id: "a" });
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    expect(await count()).toBe(0);
    expect(keeper.needsCheckpoint).toBe(false);
  });

  it("tells when the disk is full, loses nothing, and goes on when there is room", async () => {
    const { id } = await fresh();
    let isFull = true;
    const small = new Proxy(db, {
      get(target, name) {
        if (name === "transaction" && isFull)
          return () => {
            throw new DOMException("no room", "QuotaExceededError");
          };
        const value: unknown = Reflect.get(target, name);
        return typeof value === "function" ? (value as () => unknown).bind(target) : value;
      },
    });
    const { engine, work, keeper, kept } = await open(id, small);
    draw(work, 20);
    draw(work, 40);
    await keeper.flush();
    expect(kept.at(-1)).toEqual({ state: "full", waiting: 2 });
    isFull = false;
    await keeper.flush();
    expect(kept.at(-1)).toMatchObject({ state: "kept" });
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });

  it("leaves out a step that cannot be read, and says which", async () => {
    const { id, work, keeper } = await fresh();
    draw(work, 20);
    draw(work, 60);
    await keeper.flush();
    await db.put("log", '{"do":"stroke","layer":', [id, 1]);
    const again = await open(id);
    expect(again.notes).toEqual([expect.stringMatching(/Step 2 of 3/)]);
    expect(again.work.picture.plane("a").size).toBeGreaterThan(0);
  });

  it("leaves a broken tile empty, and says how many there were", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await db.put("tiles", Uint8Array.of(1, 2, 3), [id, "a", "colour", 0]);
    const again = await open(id);
    expect(again.notes).toEqual([expect.stringMatching(/1 pieces/)]);
    expect(again.work.picture.plane("a").has(0)).toBe(false);
  });

  it("sets a broken head aside as it is, and says so", async () => {
    const { id } = await fresh();
    const broken = { id, header: { pampas: 1, width: "wide" }, place: 0 };
    await db.put("heads", broken as never);
    await expect(open(id)).rejects.toThrow(/set aside/);
    const aside = await db.getAll("aside");
    expect(aside.at(-1)).toMatchObject({ store: "heads", key: id, value: broken });
  });
});

describe("the shelf", () => {
  it("lists pictures, sets broken records aside, and keeps the others", async () => {
    const { id } = await fresh();
    await db.put("pictures", { id: "bad", title: 7 } as never);
    const { pictures, aside } = await shelf.list();
    expect(aside).toBe(1);
    expect(pictures.some((picture) => picture.id === id)).toBe(true);
    expect((await shelf.list()).aside).toBe(0);
    expect(await shelf.asideCount()).toBeGreaterThan(0);
  });

  it("duplicates a picture with its work", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await shelf.duplicate(id, `${id}-copy`, "Second");
    const copy = await open(`${id}-copy`);
    expect(fingerprint(copy.engine, copy.work)).toBe(fingerprint(engine, work));
    await shelf.remove(id);
    await expect(open(id)).rejects.toThrow(/not in the Portfolio/);
    expect((await open(`${id}-copy`)).notes).toEqual([]);
  });

  it("throws away with a way back, and renames", async () => {
    const { id } = await fresh();
    await shelf.throwAway(id);
    expect((await db.get("pictures", id))?.thrownAway).not.toBeNull();
    await shelf.takeBack(id);
    await shelf.rename(id, "  Thermos  ");
    expect(await db.get("pictures", id)).toMatchObject({ thrownAway: null, title: "Thermos" });
  });

  it("keeps settings, and does without broken ones", async () => {
    await shelf.changeSettings({ room: "night" });
    expect((await shelf.settings()).room).toBe("night");
    await db.put("settings", { room: "cellar", recent: "none" }, "all");
    expect(await shelf.settings()).toMatchObject({ room: "studio", recent: [] });
  });
});
