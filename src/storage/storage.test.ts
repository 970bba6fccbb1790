import "fake-indexeddb/auto";
import { chances } from "../engine/chances.testing";
import { fingerprint, line, pixel, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { parseCommand } from "../engine/command/commands";
import { type Work } from "../engine/command/work";
import { isLayerWet } from "../engine/time/wet-state";
import { PAINTS, WATER } from "../engine/water/wash-planes";
import { LINES } from "../engine/lines/line-set";
import { packRaw } from "../engine/file/zlib";
import { BULK } from "../engine/oil/wet-planes";
import { type Database, openDatabase } from "./database";
import { bringBack } from "./aside";
import { Connection } from "./connection";
import { Keeper } from "./keeper";
import { type HeadRecord, type KeptHand } from "./records";
import { connectionTo, kettleRecord, openAsTable, type Opened, smallDisk } from "./storage.testing";
import { Shelf } from "./shelf";
import { rawRecord } from "./unreadable";
import { exportFormSchema } from "./kept-exports";
import { workingKey, WorkingLayers } from "./working-layers";

let db: Database;
let shelf: Shelf;
let next = 0;

beforeAll(async () => {
  db = await openDatabase();
  shelf = new Shelf(db);
});

/** Opens a picture as a table would. */
const open = (id: string, connection = connectionTo(db)): Promise<Opened> =>
  openAsTable(testEngine(), connection, id);

async function fresh(): Promise<Opened & { id: string }> {
  const id = `p${next++}`;
  const first = parseCommand({ do: "layer.add", id: "a", name: "A", above: null });
  await Keeper.create(db, testHeader(), kettleRecord(id), [first]);
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

  it("stores nothing while time runs: only what has passed is a state of the log", async () => {
    const { id, engine, work, keeper } = await fresh();
    work.apply(stroke(line([30, 40], [200, 120]), { brush: "wash-round", size: 60 }));
    await keeper.flush();
    expect(work.advance(12)).toBe(true);
    await keeper.checkpoint(engine, work, null);
    expect(((await db.get("heads", id)) as HeadRecord).checkpoint).toBeNull();
    work.endTime();
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    expect(((await db.get("heads", id)) as HeadRecord).checkpoint?.place).toBe(3);
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });

  it("waits for a checkpoint that is under way", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    void keeper.checkpoint(engine, work, null);
    expect(keeper.needsCheckpoint).toBe(false);
    await keeper.underWay;
    expect(((await db.get("heads", id)) as HeadRecord).checkpoint?.place).toBe(2);
    expect(keeper.underWay).toBeNull();
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
    await db.clear("steps");
    const { small, fill } = smallDisk(db);
    fill(true);
    const { engine, work, keeper, kept } = await open(id, connectionTo(small));
    draw(work, 20);
    draw(work, 40);
    await keeper.flush();
    expect(kept.at(-1)).toEqual({ state: "full", waiting: 2 });
    fill(false);
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

  it("rebuilds a picture with a broken tile from its log, and says so", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await db.put("tiles", Uint8Array.of(1, 2, 3), [id, "a", "colour", 0]);
    const again = await open(id);
    expect(again.notes).toEqual([expect.stringMatching(/rebuilt from its log/)]);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    await again.keeper.checkpoint(again.engine, again.work, null);
    expect((await open(id)).notes).toEqual([]);
  });

  it.each([
    ["oil", "oil-flat", BULK],
    ["a wash", "wash-flat", PAINTS[0] as string],
    ["a wash", "wash-flat", WATER],
  ])(
    "opens a layer of %s dry that cannot be read (%s, %s), and says so; from a whole log it is painted wet",
    async (_medium, brush, plane) => {
      const { id, engine, work, keeper } = await fresh();
      work.apply(stroke(line([20, 30], [100, 40]), { brush, size: 30 }));
      const seen = pixel(engine, work, "a", 60, 35);
      await keeper.flush();
      await keeper.checkpoint(engine, work, null);
      const [tile] = work.picture.plane("a", plane).keys();
      await db.put("tiles", Uint8Array.of(1, 2, 3), [id, "a", plane, tile ?? 0]);
      const rebuilt = await open(id);
      expect(rebuilt.notes).toEqual([expect.stringMatching(/rebuilt from its log/)]);
      expect(isLayerWet(rebuilt.work.picture, "a")).toBe(true);

      const head = (await db.get("heads", id)) as HeadRecord;
      await db.put("heads", { ...head, lost: 1 });
      const again = await open(id);
      expect(again.notes).toEqual([
        expect.stringMatching(/^The wet paint of “A” could not be read\. .* is dry\.$/),
      ]);
      expect(isLayerWet(again.work.picture, "a")).toBe(false);
      expect(pixel(again.engine, again.work, "a", 60, 35)).toEqual(seen);
      await again.keeper.checkpoint(again.engine, again.work, null);
      expect((await open(id)).notes).toEqual([]);
    },
  );

  it.each([
    ["cut short", Uint8Array.of(1, 2, 3)],
    ["of other bytes", packRaw(new Uint8Array(32_768).fill(7), 1)],
  ])(
    "opens a line layer as paint whose lines are %s, and says so; from a whole log they are lines again",
    async (_how, bytes) => {
      const { id, engine, work, keeper } = await fresh();
      work.apply({ do: "layer.add", id: "l", name: "Ink", above: "a", kind: "lines" });
      work.apply(stroke(line([20, 30], [200, 40]), { layer: "l", size: 8 }));
      const seen = pixel(engine, work, "l", 60, 33);
      expect(seen[3]).toBeGreaterThan(30_000);
      await keeper.flush();
      await keeper.checkpoint(engine, work, null);
      await db.put("tiles", bytes, [id, "l", LINES, 0]);
      const rebuilt = await open(id);
      expect(rebuilt.notes).toEqual([expect.stringMatching(/rebuilt from its log/)]);
      expect(fingerprint(rebuilt.engine, rebuilt.work)).toBe(fingerprint(engine, work));

      const head = (await db.get("heads", id)) as HeadRecord;
      await db.put("heads", { ...head, lost: 1 });
      const again = await open(id);
      expect(again.notes).toEqual([
        expect.stringMatching(
          /^What lies on “Ink” could not be read as lines or pieces\. .* paint now\.$/,
        ),
      ]);
      expect(again.work.picture.layer("l").kind).toBe("paint");
      expect(pixel(again.engine, again.work, "l", 60, 33)).toEqual(seen);
      await again.keeper.checkpoint(again.engine, again.work, null);
      expect((await open(id)).notes).toEqual([]);
    },
  );

  it("does not repaint a picture of another engine unasked, and says so", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    const head = (await db.get("heads", id)) as HeadRecord;
    await db.put("heads", { ...head, header: { ...head.header, engine: 0 } });
    // As long as all is whole there is nothing to say: what is in store is trusted.
    expect((await open(id)).notes).toEqual([]);
    const [key] = await db.getAllKeys("tiles", IDBKeyRange.bound([id], [id, []]));
    if (!key) throw new Error("there is no tile");
    await db.put("tiles", Uint8Array.of(1, 2, 3), key);
    const again = await open(id);
    expect(again.notes).toEqual([
      expect.stringMatching(/^1 pieces of the picture/),
      expect.stringMatching(/^It was not painted anew\. .* an earlier engine \(revision 0/),
    ]);
  });

  it("says so where a picture of another engine must be painted from its log", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    const head = (await db.get("heads", id)) as HeadRecord;
    await db.put("heads", { ...head, checkpoint: null, header: { ...head.header, engine: 9 } });
    const again = await open(id);
    expect(again.notes).toEqual([
      expect.stringMatching(/painted from its log\. .* a later engine/),
    ]);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });

  it("leaves a broken tile empty where the log is broken too, and says how many there were", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await db.put("tiles", Uint8Array.of(1, 2, 3), [id, "a", "colour", 0]);
    await db.put("log", "{", [id, 1]);
    const again = await open(id);
    expect(again.notes).toEqual([expect.stringMatching(/1 pieces/)]);
    expect(again.work.picture.plane("a").has(0)).toBe(false);
  });

  it("leaves a head that it cannot read where it is, and says why", async () => {
    const { id } = await fresh();
    const broken = { id, header: { pampas: 1, width: "wide" }, place: 0 };
    await db.put("heads", broken as never);
    await expect(open(id)).rejects.toThrow(/cannot be read \(header.width/);
    expect(await db.get("heads", id)).toEqual(broken);
  });

  it("leaves a head of a newer version where it is, and says so", async () => {
    const { id } = await fresh();
    const newer = { ...(await db.get("heads", id)), schema: 9, needs: ["relief"] };
    await db.put("heads", newer as never);
    await expect(open(id)).rejects.toThrow(/newer version of Pampas/);
    expect(await db.get("heads", id)).toEqual(newer);
  });

  it("keeps a stroke that a reopening replayed, whatever is checkpointed after it", async () => {
    const { id, keeper, engine, work } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    draw(work, 60);
    await keeper.flush();
    const second = await open(id);
    draw(second.work, 140);
    await second.keeper.flush();
    await second.keeper.checkpoint(second.engine, second.work, null);
    draw(work, 140);
    const third = await open(id);
    expect(fingerprint(third.engine, third.work)).toBe(fingerprint(engine, work));
  });

  it("takes no checkpoint of half a stroke or of what is only tried", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    const whole = fingerprint(engine, work);
    work.beginStroke({ do: "stroke", layer: "a", brush: "pencil-6b", size: 30 });
    work.extendStroke(line([10, 100], [200, 100]));
    await keeper.checkpoint(engine, work, null);
    work.abandonStroke();
    work.tryOut({ do: "layer.clear", id: "a" });
    await keeper.checkpoint(engine, work, null);
    expect((await db.get("heads", id))?.checkpoint).toBeNull();
    work.stopTrying();
    await keeper.checkpoint(engine, work, null);
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(whole);
  });

  it("forgets the tiles of a checkpoint that was undone beyond", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    draw(work, 120);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    work.undo();
    work.undo();
    work.apply({ do: "layer.set", id: "a", opacity: 0.5 });
    await keeper.flush();
    // The tab is killed here; the next one opens, keeps, and is opened again.
    const second = await open(id);
    await second.keeper.checkpoint(second.engine, second.work, null);
    const third = await open(id);
    expect(third.work.picture.plane("a").size).toBe(0);
    expect(fingerprint(third.engine, third.work)).toBe(fingerprint(engine, work));
  });

  it("rebuilds tiles of an earlier shape from the log once, with progress", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    draw(work, 120);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    const [key] = await db.getAllKeys("tiles", IDBKeyRange.bound([id], [id, []]));
    if (key) await db.delete("tiles", key);
    const { schema, needs, lost, ...old } = (await db.get("heads", id)) as HeadRecord;
    expect([schema, needs, lost]).toEqual([2, [], 0]);
    await db.put("heads", old as HeadRecord);
    const again = await open(id);
    expect(again.labels).toContain("Rebuilding the picture from its log, once");
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    await again.keeper.checkpoint(again.engine, again.work, null);
    const third = await open(id);
    expect(third.labels).not.toContain("Rebuilding the picture from its log, once");
    expect(fingerprint(third.engine, third.work)).toBe(fingerprint(engine, work));
  });

  it("keeps tiles of an earlier shape whose log cannot be repeated", async () => {
    const { id, engine, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await db.put("heads", { ...((await db.get("heads", id)) as HeadRecord), schema: 1 });
    await db.put("log", "{", [id, 1]);
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });

  it("restores a picture that was deleted elsewhere while it was worked on", async () => {
    const { id, engine, work, keeper, kept } = await fresh();
    draw(work, 20);
    await keeper.flush();
    await keeper.checkpoint(engine, work, null);
    await shelf.remove(id);
    kept.length = 0;
    draw(work, 90);
    await keeper.flush();
    expect(kept.map(({ state }) => state)).toEqual(["keeping"]);
    await keeper.checkpoint(engine, work, null);
    expect(kept.at(-1)).toMatchObject({ state: "kept", note: expect.stringMatching(/deleted/) });
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    expect((await shelf.list()).pictures.some((picture) => picture.id === id)).toBe(true);
    await expect(again.keeper.journal.lines()).rejects.toThrow(/first 2 steps/);
  });

  it("does not call an undo kept that is not in store", async () => {
    const { id, work, keeper, kept } = await fresh();
    draw(work, 20);
    draw(work, 60);
    await keeper.flush();
    await shelf.remove(id);
    kept.length = 0;
    work.undo();
    await keeper.flush();
    expect(kept.map(({ state }) => state)).toEqual(["keeping"]);
  });

  it("goes on with a new connection when the old one was closed", async () => {
    const { id } = await fresh();
    const databases: Database[] = [];
    const connection = new Connection(async (closed) => {
      const opened = await openDatabase(closed);
      databases.push(opened);
      return opened;
    });
    const { engine, work, keeper, kept } = await open(id, connection);
    draw(work, 20);
    await keeper.flush();
    databases[0]?.close();
    draw(work, 60);
    await keeper.flush();
    expect(kept.at(-1)?.state).toBe("kept");
    expect(databases).toHaveLength(2);
    const again = await open(id);
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
    for (const opened of databases) opened.close();
  });

  it("gives the log with what still waits to be stored", async () => {
    const { id } = await fresh();
    const { small, fill } = smallDisk(db);
    const { work, keeper } = await open(id, connectionTo(small));
    draw(work, 20);
    draw(work, 40);
    await keeper.flush();
    fill(true);
    work.undo();
    draw(work, 90);
    await keeper.flush();
    const lines = await keeper.journal.lines();
    expect(lines.map((text) => (JSON.parse(text) as { seed?: number }).seed)).toEqual([
      undefined,
      20,
      90,
    ]);
  });

  it("replays strokes whose directions went beyond a turn", async () => {
    const { id, work, keeper } = await fresh();
    draw(work, 20);
    await keeper.flush();
    const text = (await db.get("log", [id, 1])) as string;
    const command = JSON.parse(text) as { samples: number[][] };
    for (const sample of command.samples) sample[5] = (sample[5] as number) - 10 * Math.PI;
    await db.put("log", JSON.stringify(command), [id, 1]);
    expect((await open(id)).notes).toEqual([]);
  });
});

/** One thing that a person may do, by chance. */
function doSomething(work: Work, chance: () => number): void {
  const { layers } = work.picture.structure;
  const layer = layers[Math.floor(chance() * layers.length)]?.id ?? "a";
  const y = chance() * 180;
  const pick = Math.floor(chance() * 10);
  const id = `l${Math.floor(chance() * 1e9)}`;
  if (pick < 4) work.apply(stroke(line([10, y], [220, y + 20]), { layer, size: 24, seed: pick }));
  else if (pick === 4) work.undo();
  else if (pick === 5) work.redo();
  else if (pick === 6) work.apply({ do: "layer.add", id, name: "B", above: layer });
  else if (pick === 7) work.apply({ do: "layer.clear", id: layer });
  else if (pick === 8 && layers.length > 1) work.apply({ do: "layer.remove", id: layer });
  else if (pick === 9 && layers.length < 6)
    work.apply({ do: "layer.copy", id: layer, as: id, name: "C" });
}

describe("whatever is done, kept, killed and opened", () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])("the stored picture is that of its log (%i)", async (seed) => {
    const chance = chances(seed);
    const made = await fresh();
    const { id } = made;
    let { engine, work, keeper } = made;
    for (let round = 0; round < 12; round++) {
      for (let i = chance() * 5; i > 0; i--) doSomething(work, chance);
      if (chance() < 0.6) {
        await keeper.flush();
        if (chance() < 0.7) await keeper.checkpoint(engine, work, null);
      }
      if (chance() < 0.5) continue;
      await keeper.flush();
      const asLeft = fingerprint(engine, work);
      ({ engine, work, keeper } = await open(id));
      expect(fingerprint(engine, work)).toBe(asLeft);
    }
    await keeper.flush();
    const repeated = testEngine().open(testHeader());
    for (const text of await keeper.journal.lines()) repeated.apply(JSON.parse(text));
    expect(fingerprint(repeated.bench, repeated)).toBe(fingerprint(engine, work));
  });
});

describe("the shelf", () => {
  it("lists records that it cannot read beside the others, and leaves them as they are", async () => {
    const { id } = await fresh();
    const future = { ...kettleRecord("future"), title: "Depot", schema: 9, colours: "spectral" };
    await db.put("pictures", { id: "bad", title: 7 } as never);
    await db.put("pictures", future as never);
    const { pictures, unreadable } = await shelf.list();
    expect(pictures.some((picture) => picture.id === id)).toBe(true);
    expect(unreadable).toEqual([
      { id: "bad", title: "A picture", why: expect.stringMatching(/^title/) },
      { id: "future", title: "Depot", why: expect.stringMatching(/newer version/) },
    ]);
    expect(await db.get("pictures", "future")).toEqual(future);
    expect(JSON.parse(await rawRecord(db, "future"))).toMatchObject({ picture: future });
    await db.delete("pictures", "bad");
    await db.delete("pictures", "future");
  });

  it("brings back what lies aside, unless its place is taken", async () => {
    const { id } = await fresh();
    const moved = (key: string) => ({
      when: 1,
      store: "pictures",
      key,
      why: "unread",
      value: { ...kettleRecord(key), title: "Aside" },
    });
    await db.add("aside", moved("away"));
    await db.add("aside", moved(id));
    await bringBack(db);
    expect((await db.get("pictures", "away"))?.title).toBe("Aside");
    expect((await db.get("pictures", id))?.title).toBe("Kettle");
    expect((await db.getAll("aside")).map(({ key }) => key)).toEqual([id]);
    await db.clear("aside");
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

  it("remembers which layers of a picture were chosen, and forgets them with it", async () => {
    const working = new WorkingLayers(db);
    expect(await working.of("p")).toEqual([]);
    await working.keep("p", ["b", "a"]);
    await working.keep("q", ["c"]);
    expect(await working.of("p")).toEqual(["b", "a"]);
    await shelf.remove("p");
    expect(await working.of("p")).toEqual([]);
    expect(await working.of("q")).toEqual(["c"]);
    await db.put("settings", { not: "a list" }, workingKey("q"));
    expect(await working.of("q")).toEqual([]);
  });

  it("keeps exports by name; one that cannot be read does not take the others along", async () => {
    const form = exportFormSchema.parse({
      ...{ format: "pdf", tones: "grey", depth: 8, ground: true, dots: true, quality: 0.9 },
      ...{ repaint: 1, resized: false, width: 1200, unit: "px", ppi: 300, sizing: "crisp" },
      ...{ pages: false, page: { bleed: 3, marks: true, curves: true }, merges: true },
    });
    const kept = { name: "For the printer", form, runs: true };
    await shelf.changeSettings({ exports: [kept] });
    expect((await shelf.settings()).exports).toEqual([kept]);
    const wrong = { ...kept, name: "Wrong", form: { ...form, ppi: -3 } };
    await db.put("settings", { exports: [wrong, kept, 7] }, "all");
    expect((await shelf.settings()).exports).toEqual([kept]);
  });

  it("keeps settings, and does without broken ones", async () => {
    await shelf.changeSettings({ room: "night" });
    expect((await shelf.settings()).room).toBe("night");
    await db.put("settings", { room: "cellar", recent: "none" }, "all");
    expect(await shelf.settings()).toMatchObject({ room: "studio", recent: [] });
  });

  it("keeps what two change at once, and a hand that is out of bounds is a new one", async () => {
    await Promise.all([
      shelf.changeSettings({ room: "night" }),
      shelf.changeSettings({ standInPen: true }),
      shelf.changeSettings({ favourites: ["pencil-2b"] }),
    ]);
    const settings = await shelf.settings();
    expect(settings).toMatchObject({ room: "night", standInPen: true, favourites: ["pencil-2b"] });
    const hand: KeptHand = {
      ...{ brush: "pen-fine", lastBrush: "pencil-2b", steady: 0.3, takes: "layer" },
      ...{ keepsPaint: true, shine: false, slabShown: true, slabWidth: 420 },
      ...{ colour: "#2e6ab0", second: "#f4efe6", stage: "Paint", kit: "Inks" },
      amounts: { "pen-fine": { size: 12, strength: 0.5, lays: "normal", thinner: 0.4, water: 1 } },
    };
    await shelf.changeSettings({ hand });
    expect((await shelf.settings()).hand).toEqual(hand);
    for (const wrong of [{ colour: "blue" }, { steady: 7 }, { amounts: { a: { size: 1e9 } } }]) {
      await db.put("settings", { ...settings, hand: { ...hand, ...wrong } }, "all");
      expect(await shelf.settings()).toEqual({ ...settings, hand: null });
    }
  });
});
