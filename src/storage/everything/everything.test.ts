import "fake-indexeddb/auto";
import { BlobReader, BlobWriter, TextReader, ZipReader, ZipWriter } from "@zip.js/zip.js";
import { type CommandInput } from "../../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../../engine/engine.testing";
import { brushes } from "../../engine/media";
import { Refusal } from "../../engine/picture/refusal";
import { BrushBox } from "../brushes";
import { Connection } from "../connection";
import { type Database, openDatabase } from "../database";
import { Keeper } from "../keeper";
import { placeKey } from "../places";
import { Shelf } from "../shelf";
import { type Alone, Copy, type Wishes } from "./bring-back";
import { copyEverything } from "./copy";

const engine = testEngine();
const STORES = [
  "pictures",
  "heads",
  "log",
  "tiles",
  "steps",
  "brushes",
  "pins",
  "settings",
  "aside",
] as const;
const quiet = (): void => undefined;
/** No other tab is there. */
const alone: Alone = (_id, act) => act();
let db: Database;

beforeAll(async () => {
  db = await openDatabase();
});
const empty = async (): Promise<void> => {
  for (const store of STORES) await db.clear(store);
};
beforeEach(empty);

/** All that is in store, as it is, but for what can be undone: that is not in a copy. */
async function all(): Promise<unknown> {
  const held: Record<string, unknown> = {};
  for (const store of STORES.filter((name) => name !== "steps"))
    held[store] = [await db.getAllKeys(store), await db.getAll(store as "pictures")];
  return held;
}

const keeperOf = (id: string): Keeper =>
  new Keeper(new Connection(() => Promise.resolve(db)), id, quiet);

/** A picture on the shelf with its tiles, after one stroke of each brush. */
async function painted(id: string, ...names: string[]): Promise<void> {
  const layer: CommandInput = { do: "layer.add", id: "a", name: "A", above: null };
  const work = engine.open(testHeader());
  const strokes = names.map((brush) => stroke(line([20, 40], [230, 150]), { brush, size: 30 }));
  const commands = [layer, ...strokes].map((command) => work.apply(command));
  const record = {
    ...{ id, title: `Kettle ${id}`, width: 256, height: 192, ppi: 300, created: 1, touched: 5 },
    ...{ bytes: 0, thumbnail: Uint8Array.of(1, 2), thrownAway: null, sample: null },
  };
  await Keeper.create(db, work.picture.header, record, commands);
  await keeperOf(id).keepNew(engine, work, null);
  work.release();
}

async function pixelsOf(id: string): Promise<string> {
  const { work, notes } = await keeperOf(id).open(engine, {}, quiet);
  expect(notes).toEqual([]);
  const is = fingerprint(engine, work);
  work.release();
  return is;
}

/** One more stroke on a picture in store. */
async function drawOn(id: string): Promise<void> {
  const keeper = keeperOf(id);
  const { work } = await keeper.open(engine, {}, quiet);
  keeper.events.logged?.(
    work.apply(stroke(line([10, 180], [90, 20]), { size: 8 })),
    work.place - 1,
  );
  await keeper.flush();
  work.release();
}

async function copied(): Promise<Blob> {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  const write = (bytes: Uint8Array<ArrayBuffer>): Promise<void> => {
    parts.push(bytes.slice());
    return Promise.resolve();
  };
  await copyEverything(db, write, quiet);
  return new Blob(parts);
}

const none: Wishes = { pictures: {}, brushes: false, settings: false };
async function broughtBack(file: Blob, wishes: Partial<Wishes>, by = alone) {
  const copy = await Copy.open(db, file, by);
  const told = await copy.bringBack({ ...none, ...wishes }, quiet);
  await copy.close();
  return told;
}
const lookInto = async (file: Blob) => (await Copy.open(db, file, alone)).look();

describe("a copy of everything", () => {
  it("brings an empty browser back to what it was, record for record", async () => {
    await painted("p", "charcoal-stick", "oil-flat");
    await painted("q", "wash-round");
    const [brush] = brushes;
    if (!brush) throw new Error("expected a brush that ships");
    await new BrushBox(db).keep({ ...brush, id: "own", name: "Own" });
    await db.put("pins", {
      ...{ id: "pin", picture: "p", name: "Lamp", png: Uint8Array.of(7, 8), width: 2, height: 1 },
      ...{ x: 1, y: 2, across: 90, zoom: 1, middleX: 0.5, middleY: 0.5, mirrored: false },
      ...{ grey: false, made: 3 },
    });
    await new Shelf(db).changeSettings({ room: "night", recent: ["#123456"] });
    await db.put("pictures", { id: "new", schema: 99, title: "Later" } as never);
    const was = await all();
    const file = await copied();
    await empty();
    const wishes = {
      pictures: { 0: "replace", 1: "replace", 2: "replace" },
      settings: true,
    } as const;
    expect(await broughtBack(file, wishes)).toEqual({ pictures: 3, notes: [] });
    const is = (await all()) as Record<string, unknown>;
    expect(is).toEqual(was);
  }, 60_000);

  it("tells what is missing here, the same, or other", async () => {
    for (const id of ["p", "q", "r"]) await painted(id, "pen-even");
    const file = await copied();
    await drawOn("q");
    await new Shelf(db).remove("r");
    const { pictures } = await lookInto(file);
    const found = Object.fromEntries(pictures.map(({ title, is }) => [title, is]));
    expect(found).toEqual({ "Kettle p": "same", "Kettle q": "other", "Kettle r": "missing" });
  });

  it("lays a picture beside the one here, which stays, pins and all", async () => {
    await painted("p", "charcoal-stick");
    const before = await pixelsOf("p");
    const file = await copied();
    await drawOn("p");
    const after = await pixelsOf("p");
    await broughtBack(file, { pictures: { 0: "beside" } });
    const { pictures } = await new Shelf(db).list();
    const copy = pictures.find(({ id }) => id !== "p");
    expect(copy?.title).toBe("Kettle p (from a copy)");
    expect(await pixelsOf(copy?.id ?? "")).toBe(before);
    expect(await pixelsOf("p")).toBe(after);
  });

  it("replaces a picture whole, and leaves one that is open elsewhere", async () => {
    await painted("p", "charcoal-stick");
    const before = await pixelsOf("p");
    const file = await copied();
    await drawOn("p");
    const open: Alone = () => Promise.reject(new Refusal("it is open in another tab"));
    const { pictures, notes } = await broughtBack(file, { pictures: { 0: "replace" } }, open);
    expect([pictures, notes]).toEqual([
      0,
      ["“Kettle p” was not brought back: it is open in another tab."],
    ]);
    expect(await pixelsOf("p")).not.toBe(before);
    await broughtBack(file, { pictures: { 0: "replace" } });
    expect(await pixelsOf("p")).toBe(before);
  });

  it("brings brushes that are missing, and others only when asked", async () => {
    const box = new BrushBox(db);
    const [one, two] = brushes;
    if (!one || !two) throw new Error("expected brushes that ship");
    await box.keep({ ...one, id: "mine", name: "As copied" });
    await box.keep({ ...two, id: "lost" });
    const file = await copied();
    await box.keep({ ...one, id: "mine", name: "As here" });
    await db.delete("brushes", "lost");
    expect((await lookInto(file)).brushes).toEqual({ missing: 1, other: 1 });
    const names = async () => (await box.list()).brushes.map(({ brush }) => brush.name).sort();
    await broughtBack(file, {});
    expect(await names()).toEqual(["As here", two.name].sort());
    await broughtBack(file, { brushes: true });
    expect(await names()).toEqual(["As copied", two.name].sort());
  });

  it("leaves out where pictures are saved: no other browser may write there", async () => {
    await db.put("settings", { handle: "of this browser" }, placeKey("p"));
    const file = await copied();
    await empty();
    await broughtBack(file, { settings: true });
    expect(await db.getAllKeys("settings")).toEqual([]);
  });

  it("a picture with a tile that cannot be read is painted from its log when it is back", async () => {
    await painted("p", "charcoal-stick");
    const is = await pixelsOf("p");
    const [key] = await db.getAllKeys("tiles");
    if (!key) throw new Error("expected tiles");
    await db.put("tiles", "broken" as never, key);
    const file = await copied();
    await empty();
    await broughtBack(file, { pictures: { 0: "replace" } });
    expect(await pixelsOf("p")).toBe(is);
  });

  it("stops where it is told to", async () => {
    await painted("p", "pen-even");
    const write = (): Promise<void> => Promise.resolve();
    const stop = (): void => {
      throw new Error("stopped");
    };
    await expect(copyEverything(db, write, stop)).rejects.toThrow("stopped");
  });
});

describe("a file that is no whole copy", () => {
  /** A copy with one entry exchanged. */
  async function with_(name: string, change: (text: string) => string): Promise<Blob> {
    const zip = new ZipReader(new BlobReader(await copied()));
    const out = new ZipWriter(new BlobWriter());
    for (const entry of await zip.getEntries()) {
      if (entry.directory) continue;
      const blob = await entry.getData(new BlobWriter());
      const text = entry.filename === name ? change(await blob.text()) : null;
      const reader = text === null ? new BlobReader(blob) : new TextReader(text);
      await out.add(entry.filename, reader);
    }
    return out.close();
  }

  beforeEach(() => painted("p", "charcoal-stick"));

  it.each([
    ["nothing", () => Promise.resolve(new Blob([])), /no copy of everything/],
    ["a text", () => Promise.resolve(new Blob(["kettle"])), /no copy of everything/],
    ["half of it", async () => (await copied()).slice(0, 4000), /cut off/],
    [
      "one of a later version",
      () => with_("everything.json", (text) => text.replace('"everything":1', '"everything":2')),
      /cannot be read: everything/,
    ],
  ])("%s is refused in words", async (_name, make, why) => {
    await expect(Copy.open(db, await make(), alone)).rejects.toThrow(why);
  });

  it.each([
    ["pictures/0/log.jsonl", () => "[x,{}]", /its log in the copy cannot be read/],
    ["pictures/0/picture.json", () => "{}", /its record in the copy/],
    ["pictures/0/picture.json", (text: string) => text.slice(9), /is no JSON/],
    ["pictures/0/tiles/0", () => '{"tiles":[["a","colour",0,500]]}\nshort', /cut off/],
  ] as [string, (text: string) => string, RegExp][])(
    "%s that is broken leaves the picture here as it is",
    async (name, change, why) => {
      const file = await with_(name, change);
      const was = await all();
      const { pictures, notes } = await broughtBack(file, { pictures: { 0: "replace" } });
      expect(pictures).toBe(0);
      expect(notes[0]).toMatch(why);
      expect(await all()).toEqual(was);
    },
  );

  it("bytes that were changed on the way are found out", async () => {
    const bytes = new Uint8Array(await (await copied()).arrayBuffer());
    // Tiles lie in the file as they are: this is one of them.
    bytes[3000] = (bytes[3000] as number) ^ 255;
    const { notes } = await broughtBack(new Blob([bytes]), { pictures: { 0: "replace" } });
    expect(notes[0]).toMatch(/the copy is damaged there/);
  });
});
