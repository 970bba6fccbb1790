import "fake-indexeddb/auto";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { type CommandInput, parseCommand } from "../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { type Layer, type Structure, USUAL_RELIEF } from "../engine/picture/picture";
import { Connection } from "./connection";
import { type Database, logRange, openDatabase, tileRange } from "./database";
import { Keeper } from "./keeper";
import { SCHEMA } from "./records";
import { Shelf } from "./shelf";

/**
 * Records as they were stored by each shape that there was, frozen: a file is written once, when
 * its shape is new (FREEZE=write), and never again. They must open for ever.
 */
const fixture = (name: string): string => join(__dirname, "fixtures", `${name}.json`);
const ID = "frozen";
const engine = testEngine();

type Stored = {
  picture: unknown;
  head: unknown;
  log: unknown[];
  tiles: [key: IDBValidKey, value: unknown][];
  /** Of all that the checkpoint holds. */
  pixels: string;
};

const toText = (_key: string, value: unknown): unknown =>
  value instanceof Uint8Array ? { base64: Buffer.from(value).toString("base64") } : value;
const fromText = (_key: string, value: unknown): unknown =>
  value && typeof value === "object" && "base64" in value
    ? new Uint8Array(Buffer.from(String(value.base64), "base64"))
    : value;

const read = (name: string): Stored =>
  JSON.parse(readFileSync(fixture(name), "utf8"), fromText) as Stored;

async function takeDown(db: Database): Promise<Omit<Stored, "pixels">> {
  const keys = await db.getAllKeys("tiles", tileRange(ID));
  const values = await db.getAll("tiles", tileRange(ID));
  return {
    picture: await db.get("pictures", ID),
    head: await db.get("heads", ID),
    log: await db.getAll("log", logRange(ID)),
    tiles: keys.map((key, i) => [key, values[i]]),
  };
}

async function putUp(db: Database, { picture, head, log, tiles }: Stored): Promise<void> {
  const change = db.transaction(["pictures", "heads", "log", "tiles"], "readwrite");
  const put = (store: "pictures" | "heads" | "log" | "tiles", value: unknown, key?: unknown) =>
    change.objectStore(store).put(value as never, key as never);
  await put("pictures", picture);
  await put("heads", head);
  for (const [place, text] of log.entries()) await put("log", text, [ID, place]);
  for (const [key, value] of tiles) await put("tiles", value, key);
  await change.done;
}

async function pixelsOf(db: Database): Promise<{ pixels: string; notes: string[] }> {
  const keeper = new Keeper(new Connection(() => Promise.resolve(db)), ID, () => undefined);
  const { work, notes } = await keeper.open(engine, {}, () => undefined);
  // What that shape did not know yet is as usual, and was not counted.
  const { layers, tubes, ...structure } = work.picture.structure;
  for (const { relief } of layers) expect(relief).toEqual(USUAL_RELIEF);
  expect(tubes).toBeNull();
  work.picture.structure = {
    ...(structure as Structure),
    layers: layers.map(({ relief: _new, dryAfter: _too, ...layer }) => layer as Layer),
  };
  const pixels = createHash("sha256").update(fingerprint(engine, work)).digest("hex");
  work.release();
  return { pixels, notes };
}

const commands: CommandInput[] = [
  { do: "layer.add", id: "a", name: "Coat & scarf", above: null },
  stroke(line([10, 20], [120, 100]), { brush: "round-soft", size: 50, colour: "#2f4f7f" }),
  { do: "layer.add", id: "b", name: "Lamp", above: "a" },
  stroke(line([20, 110], [110, 10]), { layer: "b", brush: "pencil-6b", size: 20 }),
  { do: "layer.set", id: "b", blend: "screen", opacity: 0.7, contour: null, clip: true },
  { do: "mask.add", id: "b", from: { kind: "layer", layer: "a", by: "shape" } },
  { do: "select", shape: { kind: "ellipse", box: { left: 20, top: 20, right: 90, bottom: 90 } } },
  { do: "select.keep", id: "k", name: "Moon" },
  { do: "stencil.add", id: "s", name: "Card", from: { kind: "selection" } },
  { do: "guides.set", guides: [{ kind: "parallel", angle: 0.4, at: { x: 9, y: 9 } }] },
  { do: "wells.set", wells: [{ id: "w", name: "Dusk", colours: [{ hex: "#203060" }] }] },
];

async function freeze(): Promise<void> {
  const db = await openDatabase();
  const record = {
    ...{ id: ID, title: "Night stop", width: 128, height: 128, ppi: 300, created: 1, touched: 2 },
    ...{ bytes: 0, thumbnail: null, thrownAway: null, sample: null },
  };
  const header = testHeader({ width: 128, height: 128, ground: "#f4efe6" });
  await Keeper.create(db, header, record, commands.map(parseCommand));
  const keeper = new Keeper(new Connection(() => Promise.resolve(db)), ID, () => undefined);
  const { work } = await keeper.open(engine, {}, () => undefined);
  await keeper.checkpoint(engine, work, null);
  const { pixels } = await pixelsOf(db);
  const stored: Stored = { ...(await takeDown(db)), pixels };
  writeFileSync(fixture(`shape-${SCHEMA}`), JSON.stringify(stored, toText));
  db.close();
}

let db: Database;
beforeAll(async () => {
  if (process.env.FREEZE === "write" && !existsSync(fixture(`shape-${SCHEMA}`))) await freeze();
  db = await openDatabase();
});

it("has a frozen picture of the shape that is written now", () => {
  expect(existsSync(fixture(`shape-${SCHEMA}`))).toBe(true);
});

it.each(["shape-2"])("%s opens with the pixels that it was stored with", async (name) => {
  const stored = read(name);
  await putUp(db, stored);
  const { pixels, notes } = await pixelsOf(db);
  expect(notes).toEqual([]);
  expect(pixels).toBe(stored.pixels);
  const [shown] = await new Shelf(db).list().then(({ pictures }) => pictures);
  expect(shown).toMatchObject({ id: ID, title: "Night stop" });
});

it("a picture of a shape that is not known yet stays as it is, and is shown as such", async () => {
  const stored = read("shape-2");
  const future = { schema: SCHEMA + 97, needs: ["smell"] };
  const picture = { ...(stored.picture as object), ...future, smell: ["turpentine"] };
  const head = { ...(stored.head as object), ...future, tides: { ebb: 3 } };
  await putUp(db, { ...stored, picture, head });
  const before = JSON.stringify(await takeDown(db), toText);
  const { pictures, unreadable } = await new Shelf(db).list();
  expect(pictures).toEqual([]);
  expect(unreadable).toMatchObject([{ id: ID, title: "Night stop" }]);
  await expect(pixelsOf(db)).rejects.toThrow(/newer version/);
  expect(JSON.stringify(await takeDown(db), toText)).toBe(before);
});
