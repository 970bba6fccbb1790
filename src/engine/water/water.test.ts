import { fingerprint, line, pixel, stroke, testWork } from "../engine.testing";
import { rgbToOklch } from "../colour/oklch";
import { type Sample } from "../stroke/sample";
import { isWashWet, REST, WATER } from "./wash-planes";
import {
  amount,
  cell,
  density,
  dry,
  GRANULATING,
  lay,
  over,
  type Sheet,
  sheet,
  STAINING,
  wait,
} from "./water.testing";

const soon = (s: Sheet, edge = 0.4): void =>
  void s.work.apply({ do: "wash.set", layer: "a", pace: 1, edge });

/** The greatest density between two places of a column, mean of so many columns. */
function ridge(s: Sheet, from: number, to: number, left: number, columns: number): number {
  let sum = 0;
  for (let x = left; x < left + columns; x++) {
    let most = 0;
    for (let y = from; y < to; y++) most = Math.max(most, density(s, x, y));
    sum += most / columns;
  }
  return sum;
}

/** How much densities of single px differ in a small box, beside their mean. */
function grain(s: Sheet, x: number, y: number): number {
  const all = Array.from({ length: 576 }, (_, i) =>
    density(s, x + (i % 24), y + Math.floor(i / 24)),
  );
  const mean = all.reduce((sum, v) => sum + v, 0) / all.length;
  const spread = all.reduce((sum, v) => sum + (v - mean) ** 2, 0) / all.length;
  return Math.sqrt(spread) / mean;
}

const mop = { brush: "wash-mop", size: 50 } as const;

it("loses no paint while it runs, spreads and dries", () => {
  const s = sheet(320, 320);
  soon(s);
  lay(s, over(90, 90, 140, 140), mop);
  lay(s, line([100, 160], [220, 160]), { brush: "wash-charge", size: 30, colour: "#b3263a" });
  const before = [amount(s, 0), amount(s, 1)];
  expect(before[1]).toBeGreaterThan(100);
  wait(s, 3);
  expect(amount(s, 0) / (before[0] as number)).toBeCloseTo(1, 6);
  dry(s);
  for (const slot of [0, 1])
    expect(Math.abs(amount(s, slot) / (before[slot] as number) - 1)).toBeLessThan(1e-6);
});

it("holds no less than nothing of anything, anywhere", () => {
  const s = sheet(320, 256);
  s.work.apply({ do: "tilt.set", tilt: { x: 0.3, y: 0.6 } });
  lay(s, over(60, 40, 180, 60), mop);
  lay(s, line([80, 60], [200, 70]), { brush: "wash-bloom", size: 30 });
  wait(s, 4);
  let least = 0;
  for (const [name, plane] of s.work.picture.planesOf("a")) {
    if (!name.startsWith("wash ") || name === "wash under") continue;
    for (const tile of plane.values()) {
      const first = s.engine.store.address(tile) >> 2;
      for (let i = 0; i < 8192; i++)
        least = Math.min(least, s.engine.store.heap.f32[first + i] as number);
    }
  }
  expect(least).toBe(0);
});

it("dries with a rim, the darker the more it is drawn there", () => {
  const ratios = [0, 0.4, 0.8].map((edge) => {
    const s = sheet(320, 320);
    soon(s, edge);
    lay(s, over(90, 90, 140, 140), mop);
    dry(s);
    return ridge(s, 50, 110, 140, 40) / density(s, 140, 140, 40, 40);
  });
  expect(ratios[0]).toBeLessThan(1.3);
  expect(ratios[1]).toBeGreaterThan(1.6);
  expect(ratios[2]).toBeGreaterThan(2.4);
});

it("takes little more where a wet stroke overlaps another: the brush fills the film up to its own", () => {
  const s = sheet(512, 256);
  const across = (y: number, changes: Parameters<typeof lay>[2] = {}): void =>
    lay(s, line([60, y], [460, y]), { brush: "wash-flat", size: 80, ...changes });
  for (const y of [60, 110, 160]) across(y);
  // 80 px high strokes, 50 apart: from 120 to 150 two lie over each other, at 110 one does.
  const paint = (y: number): number => cell(s, 0, 120, y);
  const [once, twice] = [paint(110), paint(134)];
  expect(twice / once).toBeGreaterThan(1.02);
  expect(twice / once).toBeLessThan(1.4);
  // A stronger brush still brings what is in it.
  across(110, { brush: "wash-charge", size: 46 });
  expect(paint(110)).toBeGreaterThan(2.3 * once);
  s.work.release();
});

it("brings all of it to damp paper and to dry", () => {
  const laid = (dampens: boolean): number => {
    const s = sheet(320, 256);
    if (dampens) {
      lay(s, line([40, 120], [280, 120]), { brush: "wash-clear", size: 90 });
      wait(s, 20);
      expect(cell(s, "water", 160, 120)).toBeLessThan(0.02);
    }
    lay(s, line([60, 120], [260, 120]), { size: 40 });
    const paint = cell(s, 0, 160, 120);
    s.work.release();
    return paint;
  };
  expect(laid(true)).toBeCloseTo(laid(false), 3);
});

it("granulates as its paint does: grains settle in hollows, a stain lies even", () => {
  const [stain, grains] = [STAINING, GRANULATING].map((colour) => {
    const s = sheet(320, 320);
    soon(s);
    lay(s, over(80, 80, 160, 160), { ...mop, colour });
    dry(s);
    return grain(s, 150, 150);
  });
  expect(stain).toBeLessThan(0.05);
  expect(grains).toBeGreaterThan(0.1);
  expect(grains).toBeLessThan(0.3);
});

it("runs eight times as far into wet paper as on dry", () => {
  const [onDry, inWet] = [false, true].map((isWet) => {
    const s = sheet(512, 384);
    if (isWet) lay(s, over(60, 60, 380, 260), { brush: "wash-clear", size: 60 });
    const across = (): number => {
      const row = Array.from({ length: 120 }, (_, i) => density(s, 200, 130 + i, 100, 1));
      const most = Math.max(...row);
      return row.filter((v) => v > most / 10).length;
    };
    lay(s, line([120, 190], [390, 190], { pressure: () => 0.6 }), { size: 30, colour: "#b3263a" });
    const before = across();
    dry(s);
    return (across() - before) / 2;
  });
  expect(inWet).toBeGreaterThan(8 * Math.max(1, onDry as number));
});

/** A drop falls into a wash whose film has so far gone: how pale it leaves its middle, and how dark and how far its rim. */
function dropped(film: number, edge: number): { middle: number; rim: number; far: number } {
  const s = sheet(448, 448);
  soon(s, edge);
  lay(s, over(60, 60, 330, 330), { brush: "wash-mop", size: 60 });
  for (let i = 0; i < 60; i++) {
    if (cell(s, "water", 226, 226) / cell(s, "cover", 226, 226) < film) break;
    wait(s, 0.5);
  }
  lay(s, line([226, 226], [228, 226], { pressure: () => 0.9, steps: 3 }), {
    brush: "wash-bloom",
    size: 30,
  });
  dry(s);
  const wash = density(s, 120, 120, 30, 200);
  const ridges = Array.from({ length: 24 }, (_, turn) => {
    const ridge = { most: 0, at: 0 };
    for (let r = 8; r < 80; r += 2) {
      const x = Math.round(226 + r * Math.cos((turn / 12) * Math.PI));
      const y = Math.round(226 + r * Math.sin((turn / 12) * Math.PI));
      const most = density(s, x - 1, y - 1, 3, 3);
      if (most > ridge.most) Object.assign(ridge, { most, at: r });
    }
    return ridge;
  });
  const mean = (of: "most" | "at"): number => ridges.reduce((sum, one) => sum + one[of], 0) / 24;
  return {
    middle: density(s, 220, 220, 12, 12) / wash,
    rim: mean("most") / wash,
    far: mean("at"),
  };
}

it("is pushed aside by a drop: pale within, a rim around, darker and closer the later it falls", () => {
  const [early, due, late] = [dropped(0.75, 0.4), dropped(0.31, 0.4), dropped(0.15, 0.4)];
  for (const { middle } of [early, due, late]) expect(middle).toBeLessThan(0.75);
  expect(due.rim).toBeGreaterThan(1.15);
  expect(late.rim).toBeGreaterThan(early.rim + 0.05);
  expect(late.far).toBeLessThan(0.85 * early.far);
  const strong = dropped(0.31, 0.65);
  expect(strong.middle).toBeLessThan(0.5);
  expect(strong.rim).toBeGreaterThan(1.25);
});

it("leaves a coat that has dried as it was under a glaze, and its light goes through both", () => {
  const s = sheet(384, 256);
  soon(s);
  lay(s, over(70, 70, 120, 100), { ...mop, colour: "#f0c62a" });
  dry(s);
  const first = pixel(s.engine, s.work, "a", 100, 120);
  const alone = density(s, 150, 100, 20, 40);
  lay(s, over(140, 90, 150, 60), { ...mop, colour: "#b3263a" });
  expect(pixel(s.engine, s.work, "a", 100, 120)).toEqual(first);
  dry(s);
  expect(pixel(s.engine, s.work, "a", 100, 120)).toEqual(first);
  const glaze = density(s, 230, 100, 20, 40);
  expect(density(s, 150, 100, 20, 40) / (alone + glaze)).toBeGreaterThan(0.85);
  expect(density(s, 150, 100, 20, 40) / (alone + glaze)).toBeLessThan(1.15);
});

it("makes green of navy and yellow where they meet wet", () => {
  const s = sheet(320, 320);
  lay(s, over(90, 90, 140, 140), { ...mop, colour: "#f0c62a" });
  lay(s, over(90, 90, 140, 140), { ...mop, colour: "#1f2f6e", strength: 0.4 });
  wait(s, 2);
  const light = pixel(s.engine, s.work, "a", 160, 160).map((v) => v / 32767);
  const [r = 0, g = 0, b = 0, a = 0] = light;
  const { h, c } = rgbToOklch([r + 1 - a, g + 1 - a, b + 1 - a]);
  expect(h).toBeGreaterThan(105);
  expect(h).toBeLessThan(175);
  expect(c).toBeGreaterThan(0.04);
});

it("is lifted by a thirsty brush: grains nearly, a stain hardly", () => {
  const [stain, grains] = [STAINING, GRANULATING].map((colour) => {
    const s = sheet(320, 256);
    soon(s);
    lay(s, over(70, 70, 180, 110), { ...mop, colour });
    dry(s);
    const before = density(s, 140, 110, 30, 20);
    for (let i = 0; i < 2; i++)
      lay(s, line([90, 120], [230, 120]), { brush: "wash-thirsty", size: 44, mode: "lift" });
    return 1 - density(s, 140, 110, 30, 20) / before;
  });
  expect(stain).toBeGreaterThan(0.02);
  expect(stain).toBeLessThan(0.2);
  expect(grains).toBeGreaterThan(0.3);
});

it("runs down a tilted sheet and off its edge", () => {
  const s = sheet(256, 192);
  s.work.apply({ do: "tilt.set", tilt: { x: 0, y: 0.8 } });
  lay(s, over(60, 130, 130, 40), { ...mop, water: 2 });
  const before = amount(s, 0);
  wait(s, 4);
  expect(cell(s, "cover", 120, 188)).toBeGreaterThan(0.8);
  const left = amount(s, 0) / before;
  expect(left).toBeLessThan(0.98);
  expect(left).toBeGreaterThan(0.2);
});

it("reaches as far along an axis as along a diagonal", () => {
  const s = sheet(320, 320);
  lay(s, over(40, 40, 240, 240), { brush: "wash-clear", size: 60 });
  lay(s, line([160, 160], [161, 160], { pressure: () => 1, steps: 2 }), {
    brush: "wash-charge",
    size: 40,
  });
  wait(s, 10);
  const reach = (dx: number, dy: number): number => {
    let sum = 0;
    for (const sign of [-1, 1])
      for (const turned of [false, true]) {
        const [ux, uy] = turned ? [-dy * sign, dx * sign] : [dx * sign, dy * sign];
        for (let r = 0; r < 100; r++)
          sum += cell(s, 0, Math.round(160 + ux * r), Math.round(160 + uy * r)) * r;
      }
    return sum;
  };
  const ratio = reach(1, 0) / reach(Math.SQRT1_2, Math.SQRT1_2);
  expect(ratio).toBeGreaterThan(0.9);
  expect(ratio).toBeLessThan(1.1);
});

it("gives the same bytes whether time passes at once, step by step or from the log", () => {
  const paint = (s: Sheet): void => {
    soon(s);
    lay(s, over(60, 60, 100, 60), mop);
  };
  const [atOnce, stepped, live] = [sheet(256, 192), sheet(256, 192), sheet(256, 192)];
  for (const s of [atOnce, stepped, live]) paint(s);
  atOnce.work.apply({ do: "time", steps: 40 });
  stepped.work.advance(1);
  for (let i = 0; i < 13; i++) stepped.work.advance(3);
  stepped.work.endTime();
  for (let i = 0; i < 4; i++) live.work.apply({ do: "time", steps: 10 });
  const print = (s: Sheet): string => fingerprint(s.engine, s.work);
  expect(print(stepped)).toBe(print(atOnce));
  expect(print(live)).toBe(print(atOnce));
});

it("rests when it is dry: its water is gone, and the next wash is a coat of its own", () => {
  const s = sheet(256, 192);
  soon(s);
  lay(s, over(60, 60, 80, 40), mop);
  const { picture } = s.work;
  expect(isWashWet(picture, "a")).toBe(true);
  dry(s);
  expect(isWashWet(picture, "a")).toBe(false);
  expect(picture.plane("a", REST).size).toBeGreaterThan(0);
  expect(s.work.advance(5)).toBe(false);
  lay(s, over(60, 60, 80, 40), { ...mop, colour: "#b3263a" });
  expect(picture.plane("a", REST).size).toBe(0);
  expect(picture.layer("a").wash?.paints.map(({ colour }) => colour)).toEqual(["#b3263a"]);
});

it("is wetted again by clear water, and what else comes over it lets it be", () => {
  const s = sheet(256, 192);
  soon(s);
  lay(s, over(60, 60, 80, 40), mop);
  dry(s);
  const before = amount(s, 0);
  lay(s, over(60, 60, 80, 40), { brush: "wash-clear", size: 40 });
  expect(isWashWet(s.work.picture, "a")).toBe(true);
  wait(s, 1);
  expect(amount(s, 0) / before).toBeCloseTo(1, 6);
  lay(s, line([20, 20], [60, 20]), { brush: "round-soft", size: 10 });
  expect(isWashWet(s.work.picture, "a")).toBe(false);
  expect(s.work.picture.plane("a", WATER).size).toBe(0);
});

it("knows eight paints at once; a ninth makes one of the two that are nearest", () => {
  const s = sheet(320, 192);
  const colours = ["#b3263a", "#c9742e", "#f0c62a", "#3a6a5a", "#2e6f8e", "#2e3f9e", "#2f419c"];
  for (const [i, colour] of [...colours, "#5a2f6a"].entries())
    lay(s, line([30 + i * 32, 60], [40 + i * 32, 90]), { size: 24, colour });
  const all = (): number =>
    (s.work.picture.layer("a").wash?.paints ?? []).reduce(
      (sum, _, slot) => sum + amount(s, slot),
      0,
    );
  const before = all();
  lay(s, line([100, 140], [220, 140]), { size: 24, colour: "#6a3a22" });
  const paints = s.work.picture.layer("a").wash?.paints ?? [];
  expect(paints).toHaveLength(8);
  expect(paints.map(({ colour }) => colour)).toContain("#6a3a22");
  expect(paints.map(({ colour }) => colour)).not.toContain("#2e3f9e");
  expect(all()).toBeGreaterThan(before);
});

it("dries at once in warm air", () => {
  const s = sheet(256, 192);
  lay(s, over(60, 60, 80, 40), mop);
  const before = amount(s, 0);
  s.work.apply({ do: "paint.dry", layers: ["a"] });
  expect(isWashWet(s.work.picture, "a")).toBe(false);
  expect(amount(s, 0) / before).toBeCloseTo(1, 6);
});

it("keeps inside the selection, and is refused under locked transparency", () => {
  const s = testWork({ width: 256, height: 192, paper: { kind: "board", scale: 1 } });
  const box = { left: 0, top: 0, right: 128, bottom: 192 };
  s.work.apply({ do: "select", shape: { kind: "box", box } });
  lay(s, line([40, 90], [220, 90]));
  expect(cell(s, 0, 200, 90)).toBe(0);
  expect(cell(s, 0, 80, 90)).toBeGreaterThan(0.3);
  s.work.apply({ do: "layer.set", id: "a", lockTransparency: true });
  expect(() => lay(s, line([40, 90], [220, 90]))).toThrow(/Unlock it to lay a wash/);
});

it("lifts coats below the last one too", () => {
  const s = sheet(320, 256);
  soon(s);
  lay(s, over(70, 70, 180, 110), { ...mop, colour: GRANULATING });
  s.work.apply({ do: "paint.dry", layers: ["a"] });
  // Another coat, elsewhere: the first is no longer told apart.
  lay(s, over(20, 200, 60, 20), { ...mop, size: 20, colour: STAINING });
  s.work.apply({ do: "paint.dry", layers: ["a"] });
  const before = density(s, 140, 110, 30, 20);
  const beside = density(s, 140, 160, 30, 10);
  for (let i = 0; i < 2; i++)
    lay(s, line([90, 120], [230, 120]), { brush: "wash-thirsty", size: 44, mode: "lift" });
  expect(density(s, 140, 110, 30, 20) / before).toBeLessThan(0.85);
  expect(density(s, 140, 160, 30, 10)).toBeCloseTo(beside, 3);
});

it("drips down a steep sheet, and goes on where it was put down in between", () => {
  const [atOnce, inPieces] = [sheet(384, 384), sheet(384, 384)];
  for (const s of [atOnce, inPieces]) {
    s.work.apply({ do: "tilt.set", tilt: { x: 0, y: 0.6 } });
    lay(s, over(60, 60, 260, 60), { ...mop, water: 2 });
  }
  wait(atOnce, 8);
  for (let i = 0; i < 8; i++) wait(inPieces, 1);
  expect(fingerprint(inPieces.engine, inPieces.work)).toBe(fingerprint(atOnce.engine, atOnce.work));
  const fronts = Array.from({ length: 100 }, (_, i) => {
    let y = 382;
    while (y > 0 && cell(atOnce, "cover", 80 + 2 * i, y) < 0.5) y -= 2;
    return y;
  });
  expect(Math.max(...fronts) - Math.min(...fronts)).toBeGreaterThan(24);
});

it("is held off by wax that lies on a layer below", () => {
  const s = sheet(320, 192);
  lay(s, line([60, 90], [260, 90], { pressure: () => 0.9 }), {
    brush: "crayon-wax",
    size: 30,
    colour: "#f6f2e4",
  });
  s.work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  s.work.apply(stroke(over(60, 60, 200, 60), { ...mop, layer: "b", colour: STAINING, seed: 5 }));
  const alpha = (x: number, y: number): number => pixel(s.engine, s.work, "b", x, y)[3] as number;
  const row = (y: number): number =>
    Array.from({ length: 100 }, (_, i) => alpha(100 + i, y)).reduce((sum, v) => sum + v, 0);
  expect(row(90) / row(66)).toBeLessThan(0.7);
});

it.each([
  [{ do: "wash.set", layer: "a", edge: 1.2 }, /edge/],
  [{ do: "wash.set", layer: "a", pace: -1 }, /pace/],
  [{ do: "wash.set", layer: "nowhere", edge: 0.5 }, /nowhere/],
  [{ do: "tilt.set", tilt: { x: 2, y: 0 } }, /tilt/],
  [{ do: "paint.dry", layers: ["a"] }, /No paint is wet there/],
])("refuses %j by name", (command, told) => {
  const s = sheet(128, 128);
  expect(() => s.work.apply(command)).toThrow(told);
});

it("goes on pouring while the pen is held still, the same however that is told", () => {
  const held = (ms: number, pieces: number): Sheet => {
    const s = sheet(256, 192);
    const at = (t: number): Sample => [t, 120, 90, 0.8, 1.3, 0.5, 0];
    const [, ...on] = line([120, 90], [150, 90], { steps: 6 });
    const marks = [at(0), ...Array.from({ length: ms / 20 }, (_, i) => at((i + 1) * 20))];
    const all = [...marks, ...on.map(([t, ...rest]): Sample => [ms + 20 + t, ...rest])];
    s.work.beginStroke({ do: "stroke", layer: "a", brush: "wash-round", size: 40, seed: 5 });
    for (let i = 0; i < all.length; i += pieces) s.work.extendStroke(all.slice(i, i + pieces));
    s.work.endStroke();
    return s;
  };
  const [brief, one, two] = [held(100, 9), held(1000, 9), held(2000, 9)];
  const [a, b, c] = [brief, one, two].map((s) => cell(s, 0, 120, 90)) as [number, number, number];
  expect(b).toBeGreaterThan(1.8 * a);
  expect(c - b).toBeGreaterThan(0.7 * (b - a));
  expect(amount(two, 0)).toBeGreaterThan(amount(one, 0) * 1.05);
  expect(cell(two, "water", 120, 90)).toBeGreaterThan(1.5 * cell(brief, "water", 120, 90));
  expect(fingerprint(one.engine, held(1000, 1).work)).toBe(fingerprint(one.engine, one.work));
});

describe("a mist of paint", () => {
  const mist = { brush: "wash-mist", size: 100, seed: 2 };
  const held = (ms: number): Sample[] =>
    Array.from({ length: Math.round(ms / 30) }, (_, i) => [i * 30, 150, 90, 0.8, 1.3, 0, 0]);

  /** Mean water of a box around the place where it is held. */
  function pool(ms: number): number {
    const s = sheet(300, 256);
    lay(s, held(ms), mist);
    let sum = 0;
    for (let y = 80; y < 100; y += 2)
      for (let x = 140; x < 160; x += 2) sum += cell(s, "water", x, y);
    s.work.release();
    return sum / 100;
  }

  it("gathers while it is held still, as long as it is held", () => {
    const [soon, later] = [pool(600), pool(2400)];
    expect(soon).toBeGreaterThan(0.05);
    expect(later / soon).toBeGreaterThan(3);
    expect(later / soon).toBeLessThan(5.5);
  });

  it("stands and runs down a tilted sheet where it has been held too long", () => {
    const reach = (ms: number): number => {
      const s = sheet(300, 384);
      s.work.apply({ do: "tilt.set", tilt: { x: 0, y: 0.6 } });
      lay(s, held(ms), mist);
      wait(s, 6);
      let low = 0;
      for (let y = 90; y < 380; y += 2) if (cell(s, "cover", 150, y) > 0.5) low = y;
      s.work.release();
      return low;
    };
    const brief = reach(300);
    expect(brief).toBeLessThan(150);
    expect(reach(6000)).toBeGreaterThan(brief + 50);
  });

  it("is wider and paler from farther off, of as much paint for each width of its way", () => {
    const drawn = (size: number): { paint: number; middle: number } => {
      const s = sheet(512, 384);
      lay(s, line([100, 190], [400, 190], { pressure: () => 1 }), { ...mist, size });
      const middle = density(s, 200, 184, 100, 12);
      const paint = (amount(s, 0) * size) / 300;
      s.work.release();
      return { paint, middle };
    };
    const [near, far] = [drawn(60), drawn(180)];
    expect(near.middle).toBeGreaterThan(2.5 * far.middle);
    expect(far.paint / near.paint).toBeGreaterThan(0.8);
    expect(far.paint / near.paint).toBeLessThan(1.25);
  });

  it("is a veil from farther off than usual: as much paint for its way, in drops too fine to be told apart", () => {
    const drawn = (size: number): { paint: number; unevenness: number } => {
      const s = sheet(768, 640);
      lay(s, line([200, 320], [560, 320], { pressure: () => 1 }), { ...mist, size });
      const boxes: number[] = [];
      for (let x = 280; x < 480; x += 16) boxes.push(density(s, x, 312, 16, 16));
      const mean = boxes.reduce((sum, of) => sum + of, 0) / boxes.length;
      const spread = boxes.reduce((sum, of) => sum + (of - mean) ** 2, 0) / boxes.length;
      const paint = amount(s, 0);
      s.work.release();
      return { paint, unevenness: Math.sqrt(spread) / mean };
    };
    const [usual, far] = [drawn(160), drawn(400)];
    expect(far.paint / usual.paint).toBeGreaterThan(0.85);
    expect(far.paint / usual.paint).toBeLessThan(1.2);
    expect(far.unevenness).toBeLessThan(1.5 * usual.unevenness);
    expect(far.unevenness).toBeLessThan(0.35);
  });
});
