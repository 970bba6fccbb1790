import { parseCommand } from "../engine/command/commands";
import { Compositor } from "../engine/compose/compositor";
import { line, pixel, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { carryOver, studyTitle, lookAtStudies, studiesLog, VALUE_STEPS } from "./study";

const paper = { kind: "hot-pressed" as const, scale: 1 };
const sheet = { width: 1600, height: 1200, ppi: 300, ground: "#ffffff", paper };

function drawnIn() {
  const engine = testEngine();
  const log = studiesLog("Trials", sheet, 4);
  const work = engine.open(log.header);
  for (const command of log.commands) work.apply(command);
  const frame = work.picture.structure.studies?.frames[1];
  const layer = work.picture.structure.layers[0]?.id ?? "";
  if (!frame) throw new Error("there is no second frame");
  const y = (frame.top + frame.bottom) / 2;
  work.apply(
    stroke(line([frame.left - 20, y], [frame.right - 200, y]), {
      layer,
      brush: "pen-even",
      size: 60,
    }),
  );
  return { engine, work, frame };
}

it.each([
  ["Studies for the cover", "Cover, study 3"],
  ["Studies", "Studies, study 3"],
  ["Night stop", "Night stop, study 3"],
])("what is carried over from “%s” is called “%s”", (title, expected) => {
  expect(studyTitle(title, 2)).toBe(expected);
});

it("a study is seen with the share of its values", () => {
  const { engine, work } = drawnIn();
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  const studies = lookAtStudies(work.picture, compositor, engine.store.heap);
  expect(studies).toHaveLength(4);
  const [blank, drawn] = studies;
  expect(blank?.values).toEqual([0, 0, 0, 0, 1]);
  expect(drawn?.width).toBe(800);
  const inked = (600 * 60 + (Math.PI * 30 * 30) / 2) / (800 * 600);
  expect(drawn?.values[0]).toBeCloseTo(inked, 2);
  expect(drawn?.values.reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  expect(VALUE_STEPS).toBe(5);
});

it("one is carried over, scaled, only what its frame holds, and the sheet stays", () => {
  const { engine, work } = drawnIn();
  const before = work.place;
  const { header, commands } = carryOver(work.picture, engine.store, 1, "Trials 2");
  expect([header.width, header.height]).toEqual([1600, 1200]);
  const full = engine.open(header);
  for (const command of commands) full.apply(parseCommand(command));
  const [study, drawing] = full.picture.structure.layers;
  expect([study?.name, drawing?.name]).toEqual(["Studies", "Drawing"]);
  // The stroke was 60 px wide in the middle of its frame; here it is 120, from the left edge on.
  const alphaAt = (x: number, y: number): number =>
    pixel(engine, full, study?.id ?? "", x, y)[3] as number;
  expect(alphaAt(2, 600)).toBe(32767);
  expect(alphaAt(600, 545)).toBe(32767);
  // Past the edge a Lanczos filter rings, by less than a hundredth.
  expect(alphaAt(600, 535)).toBeLessThan(328);
  expect(alphaAt(1300, 600)).toBe(0);
  expect(work.place).toBe(before);
});

it("an empty frame, or one that is not there, is told", () => {
  const { engine, work } = drawnIn();
  expect(() => carryOver(work.picture, engine.store, 0, "x")).toThrow(/nothing in frame 1/);
  expect(() => carryOver(work.picture, engine.store, 9, "x")).toThrow(/no frame 10/);
  const plain = engine.open(testHeader());
  expect(() => carryOver(plain.picture, engine.store, 0, "x")).toThrow(/no sheet of studies/);
});
