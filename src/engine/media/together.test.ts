import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fingerprint, line, stroke } from "../engine.testing";
import { COLOUR, POWDER } from "../picture/picture";
import { pixelOffset, tileKey } from "../tiles/layout";
import { placesIn, withDissolving } from "../water/dissolving";
import { WASHED } from "../water/wash-planes";
import { type WashPaint } from "../water/wash-state";
import { amount, cell, lay, over, type Sheet, sheet, STAINING } from "../water/water.testing";

/** `docs/media-together.md` says what media do to each other; here it is looked at. */
const rows = readFileSync(join(process.cwd(), "docs", "media-together.md"), "utf8")
  .split("\n")
  .filter((text) => text.startsWith("|"))
  .slice(2)
  .map((text) => text.split("|").map((word) => word.trim()))
  .map(([, name = "", brush = "", fixed = "", water = "", stump = "", rubber = ""]) => ({
    name,
    brush,
    isFixed: fixed === "yes",
    water,
    stump,
    rubber,
  }));

const BAND = { left: 60, top: 60, width: 200, height: 40 };
/** What dry marks come to in a wash, beside their alpha: see `kernels/water/dissolve.ts`. */
const STRENGTH = 1.5;

/** A channel of a plane of layer “a” (3: alpha), summed over a box. */
function sum(s: Sheet, plane: string, box: typeof BAND, channel = 3): number {
  const { store } = s.engine;
  let all = 0;
  for (let y = box.top; y < box.top + box.height; y++)
    for (let x = box.left; x < box.left + box.width; x++) {
      const tile = s.work.picture.plane("a", plane).get(tileKey(x >> 6, y >> 6));
      if (!tile) continue;
      const at = store.address(tile) + pixelOffset(x & 63, y & 63, channel);
      all += (store.heap.u16[at >> 1] as number) / 32767;
    }
  return all;
}

/** A sheet with a band of a medium on it. */
function drawn(brush: string, isFixed: boolean): Sheet {
  const s = sheet(320, 192);
  const size = brush.startsWith("pen") ? 8 : 14;
  s.work.apply(
    stroke(over(BAND.left + 8, BAND.top + 8, BAND.width - 16, BAND.height - 16, size * 0.7), {
      brush,
      size,
      colour: "#23306b",
      seed: 3,
    }),
  );
  if (isFixed)
    for (let coat = 0; coat < 4; coat++) s.work.apply({ do: "powder.fix", layers: ["a"] });
  return s;
}

/** A wash, or a stump, down across the band. */
const WET = { left: 120, top: 30, width: 80, height: 100 };
const clearWater = (s: Sheet): void =>
  lay(s, over(WET.left, WET.top, WET.width, WET.height), { brush: "wash-clear", size: 50 });

/** How far the band holds water off, the mean. */
function heldOff(s: Sheet): number {
  let all = 0;
  for (let y = 70; y < 90; y += 2)
    for (let x = WET.left; x < WET.left + WET.width; x += 2) all += cell(s, "resist", x, y);
  return all / (10 * (WET.width / 2));
}

describe.each(rows)("$name", ({ brush, isFixed, water, stump, rubber }) => {
  it(`water: ${water}`, () => {
    const s = drawn(brush, isFixed);
    const inside = { ...BAND, left: WET.left, width: WET.width };
    const before = sum(s, COLOUR, inside);
    expect(before).toBeGreaterThan(400);
    clearWater(s);
    const gone = 1 - sum(s, WASHED, inside) / before;
    const off = heldOff(s);
    const seen =
      off > 0.4 ? "keeps off" : gone > 0.5 ? "dissolves" : gone > 0.15 ? "runs" : "stays";
    expect(seen).toBe(water);
    if (seen === "stays" || seen === "keeps off") expect(gone).toBeLessThan(0.02);
  });

  it(`a stump: ${stump}`, () => {
    const s = drawn(brush, isFixed);
    const inside = { left: 120, top: BAND.top, width: 40, height: BAND.height };
    const beside = { left: 120, top: 110, width: 40, height: 40 };
    const before = sum(s, COLOUR, inside);
    for (let pass = 0; pass < 3; pass++)
      s.work.apply(
        stroke(line([140, 70], [140, 150], { pressure: () => 0.8 }), { brush: "stump", size: 30 }),
      );
    const moved = sum(s, COLOUR, beside) / before;
    expect(moved > 0.18 ? "moves" : moved > 0.05 ? "moves a little" : "stays").toBe(stump);
  });

  it(`a kneaded eraser: ${rubber}`, () => {
    const s = drawn(brush, isFixed);
    const inside = { left: 140, top: 70, width: 60, height: 20 };
    const before = sum(s, COLOUR, inside);
    s.work.apply(
      stroke(line([130, 80], [210, 80], { pressure: () => 0.8 }), {
        brush: "eraser-kneaded",
        size: 36,
      }),
    );
    const lifted = 1 - sum(s, COLOUR, inside) / before;
    expect(lifted > 0.2 ? "lifts" : lifted > 0.05 ? "lifts a little" : "stays").toBe(rubber);
  });
});

it("takes up as much as goes, from colour and powder", () => {
  const s = drawn("pencil-soluble", false);
  // The tiles that the water came to.
  const all = { left: 64, top: 0, width: 192, height: 192 };
  const before = [sum(s, COLOUR, all), sum(s, POWDER, all, 2)];
  clearWater(s);
  const gone = (before[0] as number) - sum(s, WASHED, all);
  expect(gone).toBeGreaterThan(1000);
  expect((amount(s, 0) * 4) / STRENGTH / gone).toBeCloseTo(1, 3);
  expect(sum(s, POWDER, all, 2)).toBeLessThan(0.8 * (before[1] as number));
});

it("is the same however a wet stroke comes in, and gone again when it is put back", () => {
  const marks = over(WET.left, WET.top, WET.width, WET.height);
  const start = {
    do: "stroke",
    layer: "a",
    brush: "wash-clear",
    size: 50,
    colour: STAINING,
    seed: 5,
  };
  const print = (s: Sheet): string => fingerprint(s.engine, s.work);
  const [whole, pieces] = [drawn("charcoal-vine", false), drawn("charcoal-vine", false)];
  const before = print(whole);
  lay(whole, marks, { brush: "wash-clear", size: 50 });
  pieces.work.beginStroke(start);
  pieces.work.extendStroke(marks.slice(0, 20));
  pieces.work.abandonStroke();
  expect(print(pieces)).toBe(before);
  pieces.work.beginStroke(start);
  for (let i = 0; i < marks.length; i += 7) pieces.work.extendStroke(marks.slice(i, i + 7));
  pieces.work.endStroke();
  expect(print(pieces)).toBe(print(whole));
  pieces.work.undo();
  expect(print(pieces)).toBe(before);
});

it("leaves ink as it is beside what dissolves, on other tiles too", () => {
  const s = drawn("pencil-soluble", false);
  const ink = { brush: "pen-even", size: 10, colour: "#23306b" };
  s.work.apply(stroke(line([70, 150], [250, 150]), ink));
  const row = { left: 100, top: 140, width: 120, height: 20 };
  const before = sum(s, COLOUR, row);
  lay(s, over(120, 30, 80, 140), { brush: "wash-clear", size: 50 });
  expect(sum(s, WASHED, row)).toBeCloseTo(before, 3);
});

it("takes up six paints at most: two that are near become one", () => {
  const paint = (colour: string) => ({ colour, granulates: 0, stains: 1 });
  const all = ["#b3263a", "#0f4a6b", "#2d7a4e", "#e8b923", "#5b2a5e", "#111111", "#b3283c"];
  let known: WashPaint[] = [];
  for (const colour of all) known = withDissolving(known, paint(colour));
  expect(known).toHaveLength(6);
  expect(known.map(({ colour }) => colour)).toEqual(expect.arrayContaining(all.slice(1, 6)));
  const seven = ["#fa0000", "#00fa00", "#0000fa", "#fafa00", "#00fafa", "#fa00fa", "#fafafa"];
  const places = placesIn(seven.map(paint), [paint("#00fa00"), paint("#080808"), paint("#f00505")]);
  expect(places.paints).toHaveLength(8);
  expect(places.slots).toEqual([1, 7, 0]);
});
