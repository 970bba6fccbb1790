import "fake-indexeddb/auto";
import { type Work } from "../engine/command/work";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { parseCommand } from "../engine/command/commands";
import { Connection } from "./connection";
import { type Database, openDatabase } from "./database";
import { Keeper } from "./keeper";
import { readPainted, writePainted } from "./painted";
import { kettleRecord } from "./storage.testing";

const engine = testEngine();
const header = testHeader();
const commands = [
  { do: "layer.add", id: "a", name: "A", above: null },
  stroke(line([20, 40], [230, 150]), { brush: "charcoal-stick", size: 40 }),
  stroke(line([30, 160], [220, 20]), { brush: "stump", size: 30 }),
].map((command) => parseCommand(command));

function paint(): Work {
  const work = engine.open(header);
  for (const command of commands) work.apply(command);
  return work;
}

const thumbnail = Uint8Array.of(137, 80, 78, 71);
const record = { ...kettleRecord("p"), thumbnail, sample: "painted" };

let db: Database;
let file: Uint8Array;
let wanted: string;

beforeAll(async () => {
  const work = paint();
  wanted = fingerprint(engine, work);
  file = await writePainted(engine, work, thumbnail);
  work.release();
});

beforeEach(async () => {
  db = await openDatabase();
  for (const store of ["pictures", "heads", "log", "tiles"] as const) await db.clear(store);
});

it("a picture that was painted beforehand opens as its log paints it, powder and all", async () => {
  const painted = readPainted(file);
  expect(painted.thumbnail).toEqual(thumbnail);
  expect(new Set(painted.tiles.map(({ plane }) => plane))).toEqual(new Set(["colour", "powder"]));
  await Keeper.create(db, header, record, commands, painted);
  const keeper = new Keeper(new Connection(), "p", () => undefined);
  const labels: string[] = [];
  const { work, notes } = await keeper.open(engine, {}, (label) => labels.push(label));
  expect(notes).toEqual([]);
  expect(fingerprint(engine, work)).toBe(wanted);
  const stored = await db.get("pictures", "p");
  expect(stored?.bytes).toBeGreaterThan(file.length / 2);
  work.release();
});

it("goes with no other log", async () => {
  const painted = readPainted(file);
  await expect(Keeper.create(db, header, record, commands.slice(0, 2), painted)).rejects.toThrow(
    "it was painted to step 3 of 2",
  );
  expect(await db.get("pictures", "p")).toBeUndefined();
});

it.each([
  ["nothing", new Uint8Array(0), /no painted picture/],
  ["something else", new TextEncoder().encode("{]\n"), /no painted picture/],
  ["another kind of JSON", new TextEncoder().encode('{"painted":2}\n'), /painted picture: /],
])("%s is refused", (_, bytes, why) => {
  expect(() => readPainted(bytes)).toThrow(why);
});

it("a file that is cut off is refused", () => {
  expect(() => readPainted(file.subarray(0, file.length - 1))).toThrow(/cut off/);
});
