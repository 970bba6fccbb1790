import { fingerprint, line, stroke, testWork } from "../engine.testing";
import { seen, worst } from "../compose/seen.testing";
import { rgbToOklch } from "../colour/oklch";
import { type Sample } from "../stroke/sample";
import { isWet, standsUp } from "./drying";
import { paintAt, stored, thickness, volume, type Wet } from "./oil.testing";
import { RELIEF } from "./wet-planes";

const BOARD = { kind: "board", scale: 1 } as const;
const oil = { brush: "oil-round", size: 40, seed: 5 } as const;
const even = (pressure: number, steps = 40) => ({
  pressure: () => pressure,
  altitude: 1.57,
  steps,
});

function sheet(width = 512, height = 256, kind: "board" | "canvas" = "board"): Wet {
  return testWork({ width, height, ppi: 200, paper: { ...BOARD, kind } });
}

const paint = (wet: Wet, samples: Sample[], changes: Parameters<typeof stroke>[1] = {}): void =>
  void wet.work.apply(stroke(samples, { ...oil, ...changes }));

it("runs dry: a loaded stroke ends as a broken trace", () => {
  const wet = sheet(1100, 128, "canvas");
  paint(wet, line([40, 64], [1060, 64], even(0.6, 120)), { size: 60, strength: 0.5 });
  const first = volume(wet, 80, 34, 180, 94) / 6000;
  const last = volume(wet, 940, 34, 1040, 94) / 6000;
  expect(first).toBeGreaterThan(0.8);
  expect(last).toBeLessThan(first * 0.2);
  let bare = 0;
  for (let y = 44; y < 84; y++)
    for (let x = 940; x < 1040; x++) if (thickness(wet, x, y) < 0.02) bare++;
  expect(bare / 4000).toBeGreaterThan(0.1);
});

it("lays as much paint whichever way it goes", () => {
  const volumes = Array.from({ length: 8 }, (_, i) => {
    const wet = sheet(512, 512);
    const [x, y] = [Math.cos((i * Math.PI) / 16) * 150, Math.sin((i * Math.PI) / 16) * 150];
    paint(wet, line([256 - x, 256 - y], [256 + x, 256 + y], even(0.6, 60)));
    return volume(wet, 0, 0, 512, 512);
  });
  const mean = volumes.reduce((sum, v) => sum + v, 0) / volumes.length;
  for (const one of volumes) expect(Math.abs(one / mean - 1)).toBeLessThan(0.01);
});

it("makes green where blue goes through wet yellow", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024", size: 70 });
  paint(wet, line([100, 128], [420, 128], even(0.5)), { colour: "#2a4fc0", strength: 0.3 });
  const { h, c } = paintAt(wet, 380, 128);
  expect(h).toBeGreaterThan(110);
  expect(h).toBeLessThan(175);
  expect(c).toBeGreaterThan(0.05);
});

it("leaves dry paint as it is: over it colours do not mix", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024", size: 70 });
  wet.work.apply({ do: "paint.dry", layers: ["a"] });
  expect(isWet(wet.work.picture, "a")).toBe(false);
  paint(wet, line([100, 128], [420, 128], even(0.5)), { colour: "#2a4fc0", strength: 0.3 });
  const blue = rgbToOklch([42 / 255, 79 / 255, 192 / 255]);
  const { h } = paintAt(wet, 200, 128);
  expect(Math.abs(h - blue.h)).toBeLessThan(2);
});

it("looks the same once it is dry, but that it shines less", () => {
  const wet = sheet();
  paint(wet, line([40, 40], [470, 210], even(0.7)), { colour: "#a03020" });
  const dull = { do: "layer.set", id: "a", relief: { depth: 0.6, gloss: 0 } } as const;
  const [shining, before] = [
    seen(wet.engine, wet.work),
    (wet.work.apply(dull), seen(wet.engine, wet.work)),
  ];
  wet.work.apply({ do: "paint.dry", layers: ["a"] });
  // A quarter of a step of eight bits: heights are kept a little coarser once they are dry.
  expect(worst(before, seen(wet.engine, wet.work))).toBeLessThan(32);
  wet.work.apply({ ...dull, relief: { depth: 0.6, gloss: 1 } });
  const lights = (pixels: Uint16Array): number => pixels.reduce((sum, v) => sum + v, 0);
  expect(lights(seen(wet.engine, wet.work))).toBeLessThan(lights(shining));
  wet.work.undo();
  expect(standsUp(wet.work.picture, "a")).toBe(true);
  wet.work.undo();
  expect(isWet(wet.work.picture, "a")).toBe(true);
});

it("lights what stands up, and not the ink beside it, whatever is painted and dried there later", () => {
  const inked = (): Wet => {
    const wet = sheet(256, 128, "canvas");
    wet.work.apply(
      stroke(line([20, 50], [100, 50]), { brush: "pen-even", size: 10, colour: "#23306b" }),
    );
    return wet;
  };
  const row = (wet: Wet, y: number): Uint16Array =>
    seen(wet.engine, wet.work).subarray((y * 256 + 24) * 4, (y * 256 + 60) * 4);
  const bare = row(inked(), 50);
  const wet = inked();
  const gouache = { brush: "gouache-round", size: 18, colour: "#2f6f5e" } as const;
  paint(wet, line([20, 20], [100, 20], even(0.8)), gouache);
  expect(worst(row(wet, 50), bare)).toBe(0);
  const lit = row(wet, 20);
  expect(worst(lit.subarray(0, 60), lit.subarray(60, 120))).toBeGreaterThan(600);
  paint(wet, line([20, 80], [100, 80], even(0.8)), gouache);
  paint(wet, line([20, 110], [100, 110], even(0.8)), { size: 14 });
  wet.work.apply({ do: "paint.dry", layers: ["a"] });
  expect(worst(row(wet, 50), bare)).toBe(0);
  expect(worst(row(wet, 20), lit)).toBeLessThan(64);
});

it("refuses to dry what is not wet", () => {
  const wet = sheet();
  expect(() => wet.work.apply({ do: "paint.dry", layers: ["a"] })).toThrow(
    "No paint is wet there.",
  );
});

it("does not depend on how samples were batched", () => {
  const samples = line([40, 60], [470, 200], even(0.6, 50));
  const [once, bit] = [sheet(), sheet()];
  for (const wet of [once, bit]) paint(wet, line([60, 128], [450, 128], even(0.7)), { size: 60 });
  const live = stroke([], { ...oil, colour: "#c02018", mode: "paint" });
  paint(once, samples, { colour: "#c02018" });
  const { samples: _none, ...start } = live as { samples: unknown };
  bit.work.beginStroke(start);
  for (const sample of samples) bit.work.extendStroke([sample]);
  bit.work.endStroke();
  expect(fingerprint(bit.engine, bit.work)).toBe(fingerprint(once.engine, once.work));
});

it("is seen as far as it has come, however often it was shown on the way", () => {
  const samples = line([60, 120], [440, 150], { ...even(0.7, 60), pressure: (u) => 0.2 + 0.6 * u });
  const underWay = (batch: number): string => {
    const wet = sheet(512, 256, "canvas");
    paint(wet, line([100, 40], [300, 220], even(0.8)), { colour: "#c8a020" });
    const live = stroke([], { ...oil, size: 90, colour: "#203a8c" });
    const { samples: _none, ...start } = live as { samples: unknown };
    wet.work.beginStroke(start);
    const before = fingerprint(wet.engine, wet.work);
    for (let from = 0; from < samples.length; from += batch)
      wet.work.extendStroke(samples.slice(from, from + batch));
    const seen = fingerprint(wet.engine, wet.work);
    expect(seen).not.toBe(before);
    wet.work.abandonStroke();
    return seen;
  };
  expect(underWay(2)).toBe(underWay(samples.length));
});

it("is shown now and then while it is broad, and whole once the pen rests", () => {
  const samples = line([60, 120], [440, 150], { ...even(0.7, 30), ms: 8 });
  const underWay = (size: number, batch: number): { looks: number; seen: string } => {
    const wet = sheet(512, 256, "canvas");
    const { samples: _none, ...start } = stroke([], { ...oil, size }) as { samples: unknown };
    let looks = 0;
    wet.work.events.damaged = ({ keys }) => (looks += keys.length > 0 ? 1 : 0);
    wet.work.beginStroke(start);
    for (let from = 0; from < samples.length; from += batch)
      wet.work.extendStroke(samples.slice(from, from + batch));
    const before = looks;
    wet.work.showStroke();
    return { looks: before, seen: fingerprint(wet.engine, wet.work) };
  };
  const broad = underWay(520, 1);
  // 240 ms of stroke.
  expect(broad.looks).toBeLessThan(9);
  expect(broad.looks).toBeGreaterThan(5);
  expect(broad.seen).toBe(underWay(520, samples.length).seen);
  expect(underWay(90, 1).looks).toBeGreaterThan(25);
});

it("is laid by a broad tuft as thick as by a narrow one, within a fifth", () => {
  const mean = (size: number): number => {
    const wet = sheet(900, 512);
    paint(wet, line([200, 256], [700, 256], even(0.6, 80)), { brush: "oil-flat", size });
    const half = Math.round(size * 0.35);
    return volume(wet, 400, 256 - half, 500, 256 + half) / (200 * half);
  };
  const [narrow, broad] = [mean(150), mean(400)];
  expect(Math.abs(broad / narrow - 1)).toBeLessThan(0.2);
});

it("is as it was once a stroke is abandoned", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024" });
  const before = fingerprint(wet.engine, wet.work);
  const { samples: _none, ...start } = stroke([], oil) as { samples: unknown };
  wet.work.beginStroke(start);
  wet.work.extendStroke(line([100, 20], [300, 230], even(0.8)));
  expect(fingerprint(wet.engine, wet.work)).not.toBe(before);
  wet.work.abandonStroke();
  expect(fingerprint(wet.engine, wet.work)).toBe(before);
});

it("stays the same when it is unpacked and packed again", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#30508a", size: 60 });
  paint(wet, line([60, 150], [450, 100], even(0.5)), { colour: "#e8d8b0" });
  const before = fingerprint(wet.engine, wet.work);
  // A clean brush that hardly touches wakes the tiles and moves nothing.
  paint(wet, line([100, 128], [400, 128], even(0)), { mode: "blend" });
  expect(fingerprint(wet.engine, wet.work)).toBe(before);
});

it("keeps to the selection", () => {
  const wet = sheet();
  wet.work.apply({
    do: "select",
    shape: { kind: "box", box: { left: 150, top: 0, right: 330, bottom: 256 } },
  });
  paint(wet, line([40, 128], [470, 128], even(0.7)), { size: 60 });
  expect(volume(wet, 0, 0, 150, 256)).toBe(0);
  expect(volume(wet, 330, 0, 512, 256)).toBe(0);
  expect(thickness(wet, 240, 128)).toBeGreaterThan(0.5);
});

/** How far down from a border between pale and dark a clean brush carries pale paint, px. */
function carried(brush: string, pressure: number): number {
  const wet = sheet(256, 384);
  const ground = { brush: "oil-house", size: 90, strength: 1 };
  for (const y of [50, 110])
    paint(wet, line([10, y], [246, y], even(0.7)), { ...ground, colour: "#f0c890" });
  for (const y of [230, 290, 340])
    paint(wet, line([10, y], [246, y], even(0.7)), { ...ground, colour: "#20306a" });
  paint(wet, line([128, 60], [128, 340], even(pressure, 60)), { brush, mode: "blend", size: 50 });
  const dark = paintAt(wet, 30, 290).l;
  let reached = 0;
  for (let y = 200; y < 340; y++) {
    let l = 0;
    for (let x = 116; x < 140; x++) l += paintAt(wet, x, y).l / 24;
    if (l > dark + 0.06) reached = y - 170;
  }
  return reached;
}

it("drags colour over a border the farther the harder it is pressed; soft hair does it at a touch", () => {
  const [light, firm] = [carried("oil-round", 0.08), carried("oil-round", 0.5)];
  expect(light).toBeLessThan(40);
  expect(firm).toBeGreaterThan(light + 30);
  expect(carried("oil-sable", 0.15)).toBeGreaterThan(40);
});

/** Share of a wet ground that a clean pressed brush bares. */
function bared(brush: string, pressure: number): number {
  const wet = sheet(512, 256);
  for (const y of [80, 128, 176]) paint(wet, line([10, y], [500, y], even(0.6)), { size: 70 });
  paint(wet, line([80, 128], [430, 128], even(pressure, 60)), { brush, mode: "blend", size: 50 });
  let bare = 0;
  for (let y = 118; y < 138; y++)
    for (let x = 150; x < 400; x++) if (thickness(wet, x, y) < 0.3) bare++;
  return bare / 5000;
}

it("scratches through when it is stiff and pressed, and only then", () => {
  expect(bared("oil-house", 1)).toBeGreaterThan(0.25);
  expect(bared("oil-house", 0.5)).toBeLessThan(0.08);
  expect(bared("oil-round", 1)).toBeLessThan(0.08);
});

it("wipes wet paint away in Lift, and leaves dry paint alone", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024", size: 60 });
  const before = volume(wet, 150, 100, 350, 156);
  paint(wet, line([100, 128], [420, 128], even(0.7)), { mode: "lift", size: 70 });
  expect(volume(wet, 150, 100, 350, 156)).toBeLessThan(before * 0.35);
  wet.work.apply({ do: "paint.dry", layers: ["a"] });
  const dry = fingerprint(wet.engine, wet.work);
  paint(wet, line([100, 128], [420, 128], even(0.7)), { mode: "lift", size: 70 });
  expect(fingerprint(wet.engine, wet.work)).toBe(dry);
});

it("is painted over plain by other media, and has dried then", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024" });
  wet.work.apply(stroke(line([60, 60], [450, 200]), { brush: "round-firm", size: 20 }));
  expect(isWet(wet.work.picture, "a")).toBe(false);
  expect(standsUp(wet.work.picture, "a")).toBe(true);
});

it("is refused where transparency is locked", () => {
  const wet = sheet();
  wet.work.apply({ do: "layer.set", id: "a", lockTransparency: true });
  expect(() => paint(wet, line([60, 128], [450, 128]))).toThrow("Unlock it to work on it in oil.");
});

it("lies flat in the light where it is flat, and stands out where it stands", () => {
  const wet = sheet();
  for (const y of [60, 100, 140, 180])
    paint(wet, line([-40, y], [552, y], even(0.7)), {
      size: 90,
      brush: "oil-sable",
      colour: "#808080",
    });
  paint(wet, line([60, 128], [450, 128], even(0.9)), {
    brush: "oil-house",
    size: 60,
    colour: "#808080",
  });
  const at = (side: number): number => {
    const pixels = seen(wet.engine, wet.work);
    let sum = 0;
    for (let x = 200; x < 320; x++)
      for (let y = 90; y < 170; y++) {
        const slope = stored(wet, RELIEF, x, y + 1, 0) - stored(wet, RELIEF, x, y - 1, 0);
        if (Math.sign(slope) === side && Math.abs(slope) > 300)
          sum += (pixels[(y * 512 + x) * 4] as number) / 32767 - 0.5;
      }
    return sum;
  };
  // Light comes from the upper left: what rises downward faces it.
  expect(at(1)).toBeGreaterThan(at(-1));
  wet.work.apply({ do: "sun.set", sun: { at: { x: 0, y: 0 }, azimuth: Math.PI / 2, height: -1 } });
  expect(at(1)).toBeLessThan(at(-1));
});

it("is dry at the stroke's end where the paint is quick, and lies clean on what was there", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), {
    brush: "gouache-flat",
    colour: "#f2d024",
    size: 70,
  });
  expect(isWet(wet.work.picture, "a")).toBe(false);
  paint(wet, line([100, 128], [420, 128], even(0.7)), {
    brush: "acrylic-flat",
    colour: "#2a4fc0",
    size: 50,
  });
  const at = (c: number): number => stored(wet, "colour", 230, 128, c);
  expect(at(2)).toBeGreaterThan(2 * at(0));
  expect(at(2)).toBeGreaterThan(1.5 * at(1));
});

/** A wet ground, a ridge across it, and what a clean knife leaves: the thickest in its track. */
function knifed(
  pressure: number,
  mode: "blend" | "lift" = "blend",
): { before: number; after: number } {
  const wet = sheet();
  for (const y of [70, 128, 186]) paint(wet, line([10, y], [500, y], even(0.7)), { size: 80 });
  for (let i = 0; i < 3; i++) paint(wet, line([256, 60], [256, 200], even(0.7)), { size: 30 });
  const thickest = (): number => {
    let most = 0;
    for (let y = 112; y < 144; y++)
      for (let x = 220; x < 290; x++) most = Math.max(most, thickness(wet, x, y));
    return most;
  };
  const before = thickest();
  paint(wet, line([100, 128], [420, 128], even(pressure)), { brush: "knife-flat", size: 60, mode });
  return { before, after: thickest() };
}

it("is levelled by a knife, the lower the firmer, and scraped off in Lift", () => {
  const [light, firm, scraped] = [knifed(0.7), knifed(0.95), knifed(0.7, "lift")];
  expect(light.after).toBeLessThan(light.before * 0.8);
  expect(firm.after).toBeLessThan(light.after);
  expect(scraped.after).toBeLessThan(0.3);
});

it("is as wet on a copy of its layer", () => {
  const wet = sheet();
  paint(wet, line([60, 128], [450, 128], even(0.7)), { colour: "#f2d024" });
  wet.work.apply({ do: "layer.copy", id: "a", as: "copy", name: "Copy" });
  expect(isWet(wet.work.picture, "copy")).toBe(true);
  expect(isWet(wet.work.picture, "a")).toBe(true);
});
