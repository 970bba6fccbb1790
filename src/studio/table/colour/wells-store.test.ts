import "fake-indexeddb/auto";
import { MOST_COLOURS } from "../../../engine/colour/wells";
import { openDatabase } from "../../../storage/database";
import { Shelf } from "../../../storage/shelf";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { openTable } from "../table.testing";
import { addWells, allWells, changeWells, moveWells, useWells } from "./wells-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;
const own = () => useTable.getState().picture?.wells ?? [];
const kept = async () => {
  const db = await openDatabase();
  const { wells } = await new Shelf(db).settings();
  db.close();
  return wells;
};
const night = [
  { hex: "#1b1f3b", name: "night" },
  { hex: "#e8b04a", name: "brass" },
];

beforeEach(async () => {
  session = await openTable();
  useWells.setState({ shared: [], open: null });
});

test("new wells are kept with the picture, opened, and undone like any step", async () => {
  await addWells(session, "Night crew", night);
  expect(own()).toMatchObject([{ name: "Night crew", colours: night }]);
  expect(useWells.getState().open).toBe(own()[0]?.id);
  await session.undo();
  expect(own()).toEqual([]);
});

test("a set is changed alone, and taken away alone", async () => {
  await addWells(session, "One", night);
  await addWells(session, "Two", night);
  const [one, two] = own();
  if (!one || !two) throw new Error("there are not two sets");
  await changeWells(session, "picture", one.id, (wells) => ({ ...wells, name: "Lamps" }));
  expect(own().map(({ name }) => name)).toEqual(["Lamps", "Two"]);
  await changeWells(session, "picture", two.id, null);
  expect(own().map(({ name }) => name)).toEqual(["Lamps"]);
});

test("kept for all pictures, a set leaves this one and is there when another is opened", async () => {
  await addWells(session, "Night crew", night);
  const [set] = own();
  if (!set) throw new Error("there is no set");
  await moveWells(session, "picture", set);
  expect(own()).toEqual([]);
  expect(await kept()).toMatchObject([{ name: "Night crew", colours: night }]);
  expect(allWells(own(), useWells.getState().shared).map(({ place }) => place)).toEqual(["shared"]);
  const [shared] = useWells.getState().shared;
  if (!shared) throw new Error("nothing was kept");
  await moveWells(session, "shared", shared);
  expect(own().map(({ name }) => name)).toEqual(["Night crew"]);
  expect(await kept()).toEqual([]);
});

test("a set holds no more colours than it may, and always has a name", async () => {
  const many = Array.from({ length: MOST_COLOURS + 40 }, (_, i) => ({
    hex: `#${(i * 7919).toString(16).padStart(6, "0").slice(-6)}`,
    name: "",
  }));
  await addWells(session, "", many);
  expect(own()[0]?.colours).toHaveLength(MOST_COLOURS);
  expect(own()[0]?.name).toBe("Wells");
});
