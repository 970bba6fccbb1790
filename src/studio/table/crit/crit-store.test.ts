import { line, stroke } from "../../../engine/engine.testing";
import { type Session } from "../session";
import { openTable, theTable, toldLast } from "../table.testing";
import {
  endWipe,
  lookAgain,
  toggleCharts,
  toggleEyes,
  toggleHoles,
  toggleWipe,
  useCrit,
  wipeWith,
} from "./crit-store";

jest.mock("../../engine-link", () => jest.requireActual<object>("../table.testing"));

let session: Session;

beforeEach(async () => {
  session = await openTable();
  useCrit.setState({ charts: null, eyes: null, holes: null, wipe: null });
});

test("charts count what is seen, are put away again, and look again when asked", async () => {
  await toggleCharts(session);
  const { charts } = useCrit.getState();
  expect(charts?.grey).toBe(charts?.count);
  theTable().work.apply(
    stroke(line([0, 96], [256, 96]), { size: 120, colour: "#d04020", brush: "round-firm" }),
  );
  // They show what was there when they were asked for.
  expect(useCrit.getState().charts).toBe(charts);
  await lookAgain(session);
  expect(useCrit.getState().charts?.warm).toBeGreaterThan(5000);
  await toggleCharts(session);
  expect(useCrit.getState().charts).toBeNull();
});

test("charts of a selection count only what is in it", async () => {
  await session.selectShape(
    { kind: "box", box: { left: 10, top: 10, right: 30, bottom: 40 } },
    "replace",
  );
  await toggleCharts(session);
  expect(useCrit.getState().charts?.count).toBe(20 * 30);
});

test("the eye goes to the one spot that stands out", async () => {
  theTable().work.apply(
    stroke(line([190, 50], [196, 50]), { size: 26, colour: "#101010", brush: "pen-even" }),
  );
  await toggleEyes(session);
  const { eyes } = useCrit.getState();
  if (!eyes) throw new Error("nothing was found");
  const strongest = eyes.pull.indexOf(Math.max(...eyes.pull));
  const x = ((strongest % eyes.width) + 0.5) * (256 / eyes.width);
  const y = (Math.floor(strongest / eyes.width) + 0.5) * (192 / eyes.height);
  expect(Math.hypot(x - 193, y - 50)).toBeLessThan(30);
  await toggleEyes(session);
  expect(useCrit.getState().eyes).toBeNull();
});

test("holes are found inside of paint; where there are none a word says so", async () => {
  const { work } = theTable();
  await toggleHoles(session);
  expect(toldLast()).toContain("No holes");
  work.apply({
    do: "fill.loop",
    layer: "a",
    colour: "#405060",
    loop: [
      [20, 20],
      [200, 20],
      [200, 170],
      [20, 170],
    ],
  });
  work.apply(stroke(line([100, 90], [104, 90]), { size: 10, mode: "lift", brush: "pen-even" }));
  await toggleHoles(session);
  const { holes } = useCrit.getState();
  expect(holes).toHaveLength(1);
  const [hole] = holes ?? [];
  expect(hole && (hole.left + hole.right) / 2).toBeCloseTo(102, 0);
  expect(hole && (hole.top + hole.bottom) / 2).toBeCloseTo(90, 0);
});

describe("before and after", () => {
  const wipe = () => {
    const { wipe: now } = useCrit.getState();
    if (!now) throw new Error("there is nothing to wipe");
    return now;
  };
  const red = (side: "before" | "after"): number => {
    const { data, width } = wipe().pictures[side];
    return data[(96 * width + 120) * 4] as number;
  };

  test("lays the first and the last point of the history side by side; any others can be taken", async () => {
    const { work } = theTable();
    for (const colour of ["#800000", "#ff0000"])
      work.apply(stroke(line([0, 96], [256, 96]), { size: 40, colour, brush: "pen-even" }));
    const place = work.place;
    await toggleWipe(session);
    expect(wipe().steps).toHaveLength(3);
    expect([wipe().before, wipe().after]).toEqual([0, 3]);
    expect([red("before"), red("after")]).toEqual([255, 255]);
    await wipeWith(session, "before", 2);
    expect(red("before")).toBe(128);
    await wipeWith(session, "after", 1);
    expect(wipe().after).toBe(1);
    expect(wipe().pictures.after.data[(96 * wipe().pictures.after.width + 120) * 4 + 1]).toBe(255);
    // Looking has changed nothing.
    expect(work.place).toBe(place);
    await toggleWipe(session);
    expect(useCrit.getState().wipe).toBeNull();
    endWipe();
    await wipeWith(session, "before", 0);
    expect(useCrit.getState().wipe).toBeNull();
  });
});
