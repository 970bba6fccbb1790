import "fake-indexeddb/auto";
import { type CommandInput } from "../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { Connection } from "../storage/connection";
import { type Database, openDatabase } from "../storage/database";
import { Keeper } from "../storage/keeper";
import { readWholePicture } from "../storage/whole-picture";
import { openedAside, wholePictureFile } from "./whole";

const engine = testEngine();
const quiet = (): void => undefined;
let db: Database;
const connection = new Connection(() => Promise.resolve(db));

/** A picture in store of which only the log is there, open in one place. */
async function opened(id: string) {
  const layer: CommandInput = { do: "layer.add", id: "a", name: "A", above: null };
  const strokes = [20, 60, 100].map((y) => stroke(line([20, y], [230, y + 30]), { size: 20 }));
  const work = engine.open(testHeader());
  const commands = [layer, ...strokes].map((command) => work.apply(command));
  work.release();
  const record = {
    ...{ id, title: "Kettle", width: 256, height: 192, ppi: 300, created: 7, touched: 1 },
    ...{ bytes: 0, thumbnail: null, thrownAway: null, sample: null },
  };
  await Keeper.create(db, testHeader(), record, commands);
  const keeper = new Keeper(connection, id, quiet);
  const live = await keeper.open(engine, {}, quiet);
  return { keeper, work: live.work };
}

beforeAll(async () => {
  db = await openDatabase();
});

it("a picture that is drawn on while it is opened aside comes out as it is in the end", async () => {
  const { keeper, work } = await opened("p");
  let draws = 0;
  const drawn: Promise<void>[] = [];
  const aside = await openedAside(connection, engine, "p", () => {
    if (draws++ > 0) return;
    const mark = stroke(line([10, 180], [240, 10]), { size: 12 });
    keeper.events.logged?.(work.apply(mark), work.place - 1);
    drawn.push(keeper.flush());
  });
  await Promise.all(drawn);
  expect(aside.log.lines).toHaveLength(5);
  expect(fingerprint(engine, aside.work)).toBe(fingerprint(engine, work));
  const file = await wholePictureFile(engine, aside.work, aside.keeper, aside.log, quiet);
  const whole = await readWholePicture(file);
  expect([whole?.title, whole?.created, whole?.commands.length]).toEqual(["Kettle", 7, 5]);
});

it("one that is never left alone is not opened", async () => {
  const { keeper, work } = await opened("q");
  const restless = openedAside(connection, engine, "q", () => {
    keeper.events.logged?.(work.apply(stroke(line([9, 9], [99, 99]), { size: 5 })), work.place - 1);
  });
  await expect(restless).rejects.toThrow("worked on all the while");
  await keeper.flush();
});

it("one that cannot be read whole is not saved from there", async () => {
  await opened("r");
  await db.put("log", "{", ["r", 2]);
  await expect(openedAside(connection, engine, "r", quiet)).rejects.toThrow(
    /could not be repeated/,
  );
});
