import "fake-indexeddb/auto";
import { type WorkEvents } from "../engine/command/work";
import { testEngine, testHeader } from "../engine/engine.testing";
import { findBrush } from "../engine/media";
import { type Brush } from "../engine/stroke/brush";
import { BrushBox } from "./brushes";
import { type Database, openDatabase } from "./database";
import { Keeper } from "./keeper";
import { connectionTo, kettleRecord } from "./storage.testing";

const chalk: Brush = { ...(findBrush("chalk") as Brush), id: "own-chalk", name: "Own chalk" };

let db: Database;
let box: BrushBox;

beforeEach(async () => {
  db = await openDatabase();
  await Promise.all([db.clear("brushes"), db.clear("aside"), db.clear("settings")]);
  box = new BrushBox(db);
});

describe("own brushes", () => {
  it("come back as they are, and know what they were at first", async () => {
    await box.keep(chalk);
    await box.keep({ ...chalk, name: "Softer", size: 40 });
    const { brushes, unreadable } = await box.list();
    expect(unreadable).toBe(0);
    expect(brushes).toHaveLength(1);
    expect(brushes[0]).toMatchObject({ brush: { name: "Softer", size: 40 }, first: chalk });
  });

  it("that are thrown away can be taken back", async () => {
    await box.keep(chalk);
    await box.throwAway("own-chalk", 77);
    expect((await box.list()).brushes[0]?.thrownAway).toBe(77);
    await box.throwAway("own-chalk", null);
    expect((await box.list()).brushes[0]?.thrownAway).toBeNull();
  });

  it("that cannot be read stay as they are; the others are there", async () => {
    await box.keep(chalk);
    const broken = { id: "bad", brush: { name: 7 }, first: {}, made: 1, thrownAway: null };
    await db.put("brushes", broken as never);
    const { brushes, unreadable } = await box.list();
    expect(brushes.map(({ id }) => id)).toEqual(["own-chalk"]);
    expect(unreadable).toBe(1);
    expect(await db.get("brushes", "bad")).toEqual(broken);
  });

  it("in the making are there until they are kept, and a broken one is none", async () => {
    expect(await box.draft()).toBeNull();
    await box.keepDraft(chalk);
    expect(await box.draft()).toEqual(chalk);
    await db.put("settings", { name: "?" }, "draft");
    expect(await box.draft()).toBeNull();
    await box.keepDraft(null);
    expect(await db.get("settings", "draft")).toBeUndefined();
  });
});

it("a picture keeps its own brushes and guides through a checkpoint", async () => {
  const engine = testEngine();
  const guide = { kind: "parallel", angle: 0.5, at: { x: 10, y: 20 } } as const;
  await Keeper.create(db, testHeader(), kettleRecord("own"), []);
  const keeper = new Keeper(connectionTo(db), "own", () => undefined);
  let events: WorkEvents = {};
  const { work } = await keeper.open(
    engine,
    {
      damaged: (damage) => events.damaged?.(damage),
      restructured: (before, after) => events.restructured?.(before, after),
      logged: (command, place) => events.logged?.(command, place),
      stepped: (place) => events.stepped?.(place),
    },
    () => undefined,
  );
  events = keeper.events;
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply({ do: "brush.bring", brush: chalk });
  work.apply({ do: "guides.set", guides: [guide] });
  await keeper.flush();
  await keeper.checkpoint(engine, work, null);

  const again = await new Keeper(connectionTo(db), "own", () => undefined).open(
    testEngine(),
    {},
    () => undefined,
  );
  expect(again.notes).toEqual([]);
  expect(again.work.picture.structure.brushes).toEqual({ "own-chalk": chalk });
  expect(again.work.picture.structure.guides).toEqual([guide]);
});
