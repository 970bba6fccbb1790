import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { headerSchema } from "../engine/picture/header";
import { type Database, openDatabase } from "./database";
import { PinBox } from "./pins";
import { type PinRecord } from "./records";
import { Shelf } from "./shelf";

const pin = (id: string, picture: string, made = 1): PinRecord => ({
  id,
  picture,
  name: "Brass lamp",
  png: new Uint8Array([1, 2, 3]),
  width: 40,
  height: 30,
  x: 10,
  y: 20,
  across: 200,
  zoom: 1,
  middleX: 0.5,
  middleY: 0.5,
  mirrored: false,
  grey: false,
  made,
});

let db: Database;
let box: PinBox;
beforeEach(async () => {
  globalThis.indexedDB = new IDBFactory();
  db = await openDatabase();
  box = new PinBox(db);
});
afterEach(() => db.close());

it("keeps a picture's pins, in the order in which they were pinned", async () => {
  await box.keep(pin("b", "one", 2));
  await box.keep(pin("a", "one", 1));
  await box.keep(pin("c", "two"));
  await box.keep({ ...pin("a", "one", 1), grey: true, zoom: 3 });
  const { pins } = await box.list("one");
  expect(pins.map(({ id }) => id)).toEqual(["a", "b"]);
  expect(pins[0]).toMatchObject({ grey: true, zoom: 3 });
  await box.remove("a");
  expect((await box.list("one")).pins).toHaveLength(1);
});

it("leaves what cannot be read as it is, and shows the others", async () => {
  await box.keep(pin("a", "one"));
  await db.put("pins", { ...pin("b", "one"), zoom: -4 });
  const { pins, unreadable } = await box.list("one");
  expect(pins).toHaveLength(1);
  expect(unreadable).toBe(1);
  expect(await db.get("pins", "b")).toMatchObject({ zoom: -4 });
});

it("refuses a pin that could not be read again", async () => {
  await expect(box.keep({ ...pin("a", "one"), across: Number.NaN })).rejects.toThrow();
  expect((await box.list("one")).pins).toEqual([]);
});

it("a picture deleted for good takes its pins with it, and no others", async () => {
  await box.keep(pin("a", "one"));
  await box.keep(pin("c", "two"));
  await new Shelf(db).remove("one");
  expect((await box.list("one")).pins).toEqual([]);
  expect((await box.list("two")).pins).toHaveLength(1);
});

it("a duplicated picture has pins of its own", async () => {
  await box.keep(pin("a", "one"));
  const record = {
    id: "one",
    title: "One",
    width: 10,
    height: 10,
    ppi: 300,
    created: 1,
    touched: 1,
  };
  await db.put("pictures", {
    ...record,
    bytes: 0,
    thumbnail: null,
    thrownAway: null,
    sample: null,
  });
  const header = headerSchema.parse({ pampas: 1, width: 10, height: 10 });
  const place = { place: 0, count: 0, checkpoint: null };
  await db.put("heads", { id: "one", schema: 2, needs: [], lost: 0, header, ...place });
  await new Shelf(db).duplicate("one", "two", "Two");
  const [copy] = (await box.list("two")).pins;
  expect(copy).toMatchObject({ name: "Brass lamp", picture: "two" });
  await box.remove(copy?.id ?? "");
  expect((await box.list("one")).pins).toHaveLength(1);
});
