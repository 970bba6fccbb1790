import {
  canBeResized,
  choiceOf,
  type ExportForm,
  firstForm,
  inUnit,
  isPaintedAnew,
  lookOf,
  namedAfter,
  sizeOf,
} from "./export-form";

const sheet = { width: 3000, height: 2000 };
const form = (changes: Partial<ExportForm> = {}): ExportForm => ({
  ...firstForm(300, 3000),
  ...changes,
});

test("what a format cannot be is left out of what is asked for, and comes back with another format", () => {
  const chosen = form({ tones: "black-and-white", depth: 16, ground: false });
  expect(choiceOf(chosen, sheet)).toMatchObject({
    rendering: { tones: "black-and-white", depth: 8, ground: true },
  });
  expect(choiceOf({ ...chosen, format: "jpeg" }, sheet)).toMatchObject({
    rendering: { tones: "colour" },
    quality: 0.9,
  });
  expect(
    choiceOf(form({ depth: 16, ground: false, format: "tiff", pages: true }), sheet),
  ).toMatchObject({
    rendering: { depth: 16, ground: true },
    pages: true,
  });
  expect(choiceOf(form({ format: "log" }), sheet)).toEqual({ format: "log" });
});

test("a size in mm is px by the ppi that is asked for, with the sheet's shape", () => {
  const chosen = form({ resized: true, width: 254, unit: "mm", ppi: 150 });
  expect(sizeOf(chosen, sheet)).toEqual({ width: 1500, height: 1000 });
  expect(choiceOf(chosen, sheet)).toMatchObject({
    rendering: { size: { width: 1500, height: 1000, ppi: 150, sizing: "crisp" } },
  });
  expect(inUnit(chosen, "in")).toEqual({ unit: "in", width: 10 });
  expect(inUnit(chosen, "px")).toEqual({ unit: "px", width: 1500 });
});

test("sizes that cannot be are told in words", () => {
  expect(sizeOf(form({ resized: true, width: 0 }), sheet)).toBe("Give a width.");
  expect(sizeOf(form({ resized: true, width: 900_000 }), sheet)).toMatch(/at most/);
  expect(sizeOf(form({ resized: true, width: NaN }), sheet)).toBe("Give a width.");
});

test("black and white and PDF keep their own size", () => {
  expect(canBeResized(form({ tones: "black-and-white" }))).toBe(false);
  expect(canBeResized(form({ format: "pdf" }))).toBe(false);
  expect(sizeOf(form({ format: "pdf", resized: true, width: 10 }), sheet)).toBeNull();
});

test("what no browser shows is looked at as a PNG of the same tones", () => {
  const pdf = choiceOf(form({ format: "pdf", tones: "grey" }), sheet);
  expect(lookOf(pdf)).toMatchObject({ format: "png", rendering: { tones: "grey", depth: 8 } });
  const jpeg = choiceOf(form({ format: "jpeg" }), sheet);
  expect(lookOf(jpeg)).toBe(jpeg);
  expect(lookOf({ format: "log" })).toBeNull();
});

test("a kept export's file is named after it, so that two of a kind lie side by side", () => {
  expect(namedAfter("Night stop.png", "For the web")).toBe("Night stop - For the web.png");
  expect(namedAfter("Night stop ×2.ora", "a/b")).toBe("Night stop 2 - a b.ora");
});

test("only PNG and OpenRaster are painted anew, and not where they are resized", () => {
  expect(isPaintedAnew(form({ repaint: 2 }))).toBe(true);
  expect(isPaintedAnew(form({ repaint: 2, resized: true }))).toBe(false);
  expect(isPaintedAnew(form({ repaint: 2, format: "jpeg" }))).toBe(false);
  expect(isPaintedAnew(form({ repaint: 1 }))).toBe(false);
});
