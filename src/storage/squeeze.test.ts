import "fake-indexeddb/auto";
import { type CommandInput } from "../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { Connection } from "./connection";
import { type Database, logRange, openDatabase, tileRange } from "./database";
import { Keeper } from "./keeper";
import { sizesOf } from "./sizes";
import { squeeze } from "./squeeze";

const engine = testEngine();
const ID = "p";
const quiet = (): void => undefined;
let db: Database;
let is = "";

const keeper = (): Keeper => new Keeper(new Connection(() => Promise.resolve(db)), ID, quiet);

async function pixels(): Promise<string> {
  const { work, notes } = await keeper().open(engine, {}, quiet);
  expect(notes).toEqual([]);
  const found = fingerprint(engine, work);
  work.release();
  return found;
}

const bytesInStore = async (): Promise<number> =>
  (await db.getAll("tiles", tileRange(ID))).reduce(
    (sum, tile) => sum + (tile instanceof Uint8Array ? tile.length : 16),
    0,
  );

beforeEach(async () => {
  db = await openDatabase();
  for (const store of ["pictures", "heads", "log", "tiles", "pins"] as const) await db.clear(store);
  const work = engine.open(testHeader());
  const strokes: CommandInput[] = ["charcoal-stick", "wash-round"].map((brush) =>
    stroke(line([20, 40], [230, 150]), { brush, size: 60 }),
  );
  const layer: CommandInput = { do: "layer.add", id: "a", name: "A", above: null };
  const commands = [layer, ...strokes].map((command) => work.apply(command));
  is = fingerprint(engine, work);
  const record = {
    ...{ id: ID, title: "Kettle", width: 256, height: 192, ppi: 300, created: 1, touched: 1 },
    ...{ bytes: 0, thumbnail: Uint8Array.of(1, 2, 3), thrownAway: null, sample: null },
  };
  await Keeper.create(db, work.picture.header, record, commands);
  await keeper().keepNew(engine, work, null);
  work.release();
});

it("a picture is told by its parts, to the byte", async () => {
  const sizes = await sizesOf(db, ID);
  expect(sizes.colour + sizes.planes).toBe(await bytesInStore());
  expect(Math.min(sizes.colour, sizes.planes)).toBeGreaterThan(0);
  const texts = await db.getAll("log", logRange(ID));
  expect(sizes.log).toBe(texts.join("").length);
  expect(sizes.beside).toBe(3);
});

it("a squeezed picture is smaller by what is said, and the same", async () => {
  const before = await bytesInStore();
  const gained = await squeeze(db, ID, quiet);
  expect(gained).toBeGreaterThan(0);
  expect(await bytesInStore()).toBe(before - gained);
  expect(await pixels()).toBe(is);
  expect(await squeeze(db, ID, quiet)).toBe(0);
});

it("what was undone is forgotten, what stands is not", async () => {
  const open = keeper();
  const { work } = await open.open(engine, {}, quiet);
  const { stepped, logged } = open.events;
  logged?.(work.apply(stroke(line([9, 9], [90, 20]), { size: 8 })), work.place - 1);
  work.undo();
  stepped?.(work.place);
  await open.flush();
  work.release();
  const count = (await db.getAllKeys("log", logRange(ID))).length;
  await squeeze(db, ID, quiet);
  expect(await db.getAllKeys("log", logRange(ID))).toHaveLength(count - 1);
  expect(await pixels()).toBe(is);
});

it("stopped half way all is in order", async () => {
  let looks = 0;
  const stop = (): void => {
    if (++looks > 1) throw new Error("stopped");
  };
  await expect(squeeze(db, ID, stop)).rejects.toThrow("stopped");
  expect(await pixels()).toBe(is);
});

it("a tile that cannot be read stays as it is", async () => {
  const [key] = await db.getAllKeys("tiles", tileRange(ID));
  if (!key) throw new Error("expected tiles");
  await db.put("tiles", Uint8Array.of(1, 2, 3), key);
  await squeeze(db, ID, quiet);
  expect(await db.get("tiles", key)).toEqual(Uint8Array.of(1, 2, 3));
});
