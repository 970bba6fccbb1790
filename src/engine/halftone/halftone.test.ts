import { chances } from "../chances.testing";
import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { readWorkLog, scaleWorkLog, writeWorkLog } from "../command/work-log";
import { Compositor } from "../compose/compositor";
import { seen } from "../compose/seen.testing";
import { alphaAt, line, stroke, sum, testEngine, testHeader, testWork } from "../engine.testing";
import { type Halftone, screenKinds, USUAL_HALFTONE } from "./halftone";
import { ENTRIES, screenTable } from "./screen";
import { directionOf, dotSide, isResolved } from "./write";

const engine = testEngine();
const SIDE = 256;
const PPI = 600;

/** How much ink (0…1, alpha of the layer on its own) lies on each pixel. */
function inkOf(work: Work, scale = 1): Float32Array {
  const compositor = new Compositor(work.picture, engine.store, engine.workforce, false);
  compositor.setScale(scale);
  const pixels = seen(engine, work, compositor);
  compositor.free();
  const ink = new Float32Array(pixels.length / 4);
  for (let i = 0; i < ink.length; i++) ink[i] = (pixels[i * 4 + 3] as number) / 32767;
  return ink;
}

/** A sheet filled with one grey, as a halftone. */
function sheetOf(grey: number, halftone: Partial<Halftone>, side = SIDE): Work {
  const work = engine.open(testHeader({ width: side, height: side, ppi: PPI }));
  const hex = grey.toString(16).padStart(2, "0");
  const paint = { kind: "colour" as const, colour: `#${hex}${hex}${hex}` };
  work.apply({ do: "layer.add", id: "f", name: "F", above: null, kind: "fill", paint });
  work.apply({ do: "layer.set", id: "f", halftone: { ...USUAL_HALFTONE, ...halftone } });
  return work;
}

/** Looked up once: globals are slow to come by where tests run. */
const { abs, min } = Math;

/** Mean ink in a square turned as the screen is, `cells` dots a side, its middle at a place. */
function meanIn(
  ink: Float32Array,
  side: number,
  angle: number,
  [cx, cy]: readonly number[],
): number {
  const [cos, sin] = directionOf(angle);
  let sum = 0;
  let count = 0;
  const reach = Math.ceil(side * 0.75);
  for (let y = Math.floor(cy!) - reach; y < cy! + reach; y++)
    for (let x = Math.floor(cx!) - reach; x < cx! + reach; x++) {
      const dx = x + 0.5 - cx!;
      const dy = y + 0.5 - cy!;
      // How much of the pixel lies in the square, along each of its sides.
      const u = side / 2 + 0.5 - abs(dx * cos + dy * sin);
      const v = side / 2 + 0.5 - abs(dy * cos - dx * sin);
      if (u <= 0 || v <= 0) continue;
      const share = min(1, u) * min(1, v);
      sum += share * (ink[y * SIDE + x] as number);
      count += share;
    }
  return sum / count;
}

describe("mean ink", () => {
  test.each(screenKinds)("of %s is the density, at every angle and ruling", (screen) => {
    const chance = chances(7);
    const worst: { off: number; at: string } = { off: 0, at: "" };
    for (const angle of [0, 15, 45, 75])
      for (const lpi of [45, 85, 120, 150])
        for (const grey of [10, 60, 128, 245]) {
          const work = sheetOf(grey, { screen, angle, lpi });
          const ink = inkOf(work);
          const cell = dotSide({ ...USUAL_HALFTONE, lpi }, PPI);
          const cells = screen === "grain" ? 12 : 4;
          for (let i = 0; i < 2; i++) {
            const at = [128 + 30 * (chance() - 0.5), 128 + 30 * (chance() - 0.5)];
            const off = Math.abs(meanIn(ink, cells * cell, angle, at) - (1 - grey / 255));
            if (off > worst.off) Object.assign(worst, { off, at: `${angle}° ${lpi} lpi ${grey}` });
          }
          work.release();
        }
    expect(worst.at).not.toBe("");
    expect(worst.off).toBeLessThan(0.02);
  });

  test.each([45, 75])("shows no beat against the pixels at %s degrees", (angle) => {
    for (const lpi of [53, 85, 106]) {
      const work = sheetOf(140, { angle, lpi });
      const ink = inkOf(work);
      const side = 2 * dotSide({ ...USUAL_HALFTONE, lpi }, PPI);
      const means: number[] = [];
      for (let y = 60; y < 200; y += 9)
        for (let x = 60; x < 200; x += 7) means.push(meanIn(ink, side, angle, [x, y]));
      expect(Math.max(...means) - Math.min(...means)).toBeLessThan(0.03);
      work.release();
    }
  });
});

describe("a screen", () => {
  test.each(screenKinds)("of %s has each threshold equally often", (kind) => {
    const table = screenTable(kind);
    const counts = new Float64Array(8);
    for (let i = 0; i < table.length; i += 4) counts[Math.min(7, Math.floor(table[i]! * 8))]!++;
    for (const count of counts) expect(Math.abs(count / ENTRIES ** 2 - 1 / 8)).toBeLessThan(0.032);
  });

  test("is turned by its angle, exactly so at quarter turns", () => {
    expect(directionOf(0)[0]).toBe(1);
    expect(directionOf(180)[0]).toBe(-1);
    for (const degrees of [90, -90]) expect(Math.abs(directionOf(degrees)[0])).toBe(0);
    for (let degrees = -180; degrees <= 180; degrees += 7) {
      const [cos, sin] = directionOf(degrees);
      expect(cos).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 12);
      expect(sin).toBeCloseTo(Math.sin((degrees * Math.PI) / 180), 12);
    }
  });

  test("has dots where its ruling and its place say: a dot's side later it is the same", () => {
    const ink = inkOf(sheetOf(150, { angle: 0, lpi: 60 }));
    for (let i = 0; i < 200; i++) {
      const [x, y] = [13 + (i % 90), 17 + ((i * 7) % 110)];
      expect(Math.abs(ink[y * SIDE + x]! - ink[(y + 20) * SIDE + x + 30]!)).toBeLessThan(0.002);
    }
    const moved = inkOf(sheetOf(150, { angle: 0, lpi: 60, x: 4, y: 3 }));
    for (let i = 0; i < 200; i++) {
      const [x, y] = [13 + (i % 90), 17 + ((i * 7) % 110)];
      expect(Math.abs(ink[y * SIDE + x]! - moved[(y + 3) * SIDE + x + 4]!)).toBeLessThan(0.002);
    }
  });

  test("too fine for the view is shown as its mean, and at 1:1 always dot by dot", () => {
    const work = sheetOf(150, { lpi: 60 });
    const density = 1 - 150 / 255;
    for (const v of inkOf(work, 0.25)) expect(Math.abs(v - density)).toBeLessThan(0.001);
    expect(new Set(inkOf(work, 0.5)).size).toBeGreaterThan(20);
    expect(inkOf(work, 1)).toEqual(inkOf(work, 0.5));
    expect(isResolved({ ...USUAL_HALFTONE, lpi: 300 }, 300, 1)).toBe(true);
    work.release();
  });

  test("in two values is what printing it leaves: whole dots, the same as on the table", () => {
    const ink = inkOf(sheetOf(128, { lpi: 30, angle: 45 }));
    const edge = ink.filter((v) => v > 0.01 && v < 0.99).length;
    // Edges are a pixel wide: a dot of half the area has 2 √(π/2) sides of one.
    expect(edge / ink.length).toBeLessThan(3.2 / 20);
  });
});

describe("ink and paper", () => {
  /** Mean colour on white of a sheet of one colour, 0…255. */
  const meanColour = (halftone: Partial<Halftone>, colour: string): number[] => {
    const work = engine.open(testHeader({ width: 128, height: 128, ppi: PPI }));
    const paint = { kind: "colour" as const, colour };
    work.apply({ do: "layer.add", id: "f", name: "F", above: null, kind: "fill", paint });
    work.apply({ do: "layer.set", id: "f", halftone: { ...USUAL_HALFTONE, ...halftone } });
    const pixels = seen(engine, work);
    work.release();
    return [0, 1, 2].map(
      (c) => (sum(pixels.filter((_, i) => i % 4 === c)) / 128 ** 2 / 32767) * 255,
    );
  };

  test("in its own colours the mean of the dots is the paint", () => {
    const [r, g, b] = meanColour({ ink: null, lpi: 120 }, "#d08a50");
    expect(Math.abs(r! - 0xd0)).toBeLessThan(2);
    expect(Math.abs(g! - 0x8a)).toBeLessThan(2);
    expect(Math.abs(b! - 0x50)).toBeLessThan(2);
  });

  test("in an ink of its own it is that ink, as dark as the paint was", () => {
    const [r, g, b] = meanColour({ ink: "#c02020", lpi: 120 }, "#808080");
    const share = 1 - 128 / 255;
    expect(Math.abs(r! - (255 - share * (255 - 0xc0)))).toBeLessThan(2);
    expect(Math.abs(g! - (255 - share * (255 - 0x20)))).toBeLessThan(2);
    expect(Math.abs(b! - (255 - share * (255 - 0x20)))).toBeLessThan(2);
  });

  test("white lies between the dots only where the paper is white", () => {
    for (const paper of ["clear", "white"] as const) {
      const work = sheetOf(150, { paper });
      const least = Math.min(...inkOf(work));
      expect(least).toBe(paper === "white" ? 1 : 0);
      work.release();
    }
  });

  test("steps hold it to so many greys; density makes it denser; off shows the greys", () => {
    const meanOf = (halftone: Partial<Halftone>): number => {
      const work = sheetOf(190, halftone);
      const ink = inkOf(work);
      work.release();
      return ink.reduce((sum, v) => sum + v, 0) / ink.length;
    };
    const density = 1 - 190 / 255;
    expect(meanOf({ steps: 2 })).toBeCloseTo(0.5, 1);
    expect(meanOf({ density: 2 })).toBeCloseTo(2 * density, 1);
    expect(meanOf({ on: false })).toBe(1);
  });
});

describe("a layer as a halftone", () => {
  test("is painted on as before; scraping takes dots away; undo gives the greys back", () => {
    const { engine: own, work } = testWork({ ppi: PPI });
    const loop: [number, number][] = [
      [0, 0],
      [256, 0],
      [256, 192],
      [0, 192],
    ];
    work.apply({ do: "fill.loop", layer: "a", loop, colour: "#808080" });
    const grey = seen(own, work);
    work.apply({ do: "layer.set", id: "a", halftone: USUAL_HALFTONE });
    const dots = seen(own, work);
    const row = (pixels: Uint16Array): Uint16Array =>
      pixels.slice((60 * 256 + 40) * 4, (60 * 256 + 200) * 4);
    expect(Math.min(...row(dots))).toBe(0);
    work.apply(stroke(line([20, 60], [220, 60]), { size: 12, mode: "lift" }));
    expect(Math.min(...row(seen(own, work)))).toBeGreaterThan(32_760);
    work.undo();
    expect(seen(own, work)).toEqual(dots);
    work.undo();
    expect(seen(own, work)).toEqual(grey);
    work.release();
  });

  test("is read by fills as its greys: dots are no borders", () => {
    const { engine: own, work } = testWork({ ppi: PPI });
    const loop: [number, number][] = [
      [30, 30],
      [200, 30],
      [200, 150],
      [30, 150],
    ];
    work.apply({ do: "fill.loop", layer: "a", loop, colour: "#909090" });
    work.apply({ do: "layer.set", id: "a", halftone: { ...USUAL_HALFTONE, lpi: 30 } });
    work.apply({ do: "layer.add", id: "f", name: "F", above: "a" });
    work.apply({
      do: "fill",
      layer: "f",
      at: [[100, 90]],
      borders: "all",
      colour: "#c04020",
    });
    for (let y = 40; y < 140; y += 3)
      for (let x = 40; x < 190; x += 3) expect(alphaAt(own, work, "f", x, y)).toBe(1);
    expect(alphaAt(own, work, "f", 15, 15)).toBe(0);
    work.release();
  });

  test("grows with the sheet: painted at twice the size the dots are twice as large on it", () => {
    const commands: CommandInput[] = [
      { do: "layer.add", id: "a", name: "A", above: null },
      { do: "layer.set", id: "a", halftone: { ...USUAL_HALFTONE, x: 3, y: -8 } },
    ];
    const large = scaleWorkLog(readWorkLog(writeWorkLog(testHeader(), commands)), 2);
    const work = engine.open(large.header);
    for (const command of large.commands) work.apply(command);
    expect(work.picture.header.ppi).toBe(600);
    expect(work.picture.layer("a").halftone).toMatchObject({ lpi: 60, x: 6, y: -16 });
    work.release();
  });

  test.each([
    [{ lpi: 0 }, "lpi"],
    [{ angle: 400 }, "angle"],
    [{ screen: "heart" }, "screen"],
    [{ ink: "red" }, "ink"],
    [{ steps: 40 }, "steps"],
  ])("that cannot be is refused: %j", (wrong, word) => {
    const { work } = testWork();
    const halftone = { ...USUAL_HALFTONE, ...wrong } as unknown as Halftone;
    expect(() => work.apply({ do: "layer.set", id: "a", halftone })).toThrow(word);
    work.release();
  });
});
