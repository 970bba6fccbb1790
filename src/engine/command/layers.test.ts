import {
  alphaAt,
  fingerprint,
  line,
  pixelAt,
  stroke,
  testEngine,
  testHeader,
  writeStraight,
} from "../engine.testing";
import { Compositor } from "../compose/compositor";
import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { type CommandInput } from "./commands";
import { MASK } from "../picture/picture";
import { pixelOffset, tileKey } from "../tiles/layout";
import { type Work } from "./work";

const engine = testEngine();
const side = 160;

function sheet(...ids: string[]): Work {
  const work = engine.open(testHeader({ width: side, height: side, ground: "#ffffff" }));
  for (const id of ids)
    work.apply({
      do: "layer.add",
      id,
      name: id.toUpperCase(),
      above: work.picture.structure.layers.at(-1)?.id ?? null,
    });
  return work;
}

const paint = (work: Work, id: string, rgba: number[], from = 0, to = side): void =>
  writeStraight(work, id, (x) => (x >= from && x < to ? rgba : [0, 0, 0, 0]));

/** What is seen at a pixel, 0…255. */
function seen(work: Work, x: number, y = 80): number[] {
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  let out: number[] = [];
  compositor.compose([tileKey(x >> 6, y >> 6)], (_key, address) => {
    out = [0, 1, 2].map((c) => {
      const at = (address + pixelOffset(x & 63, y & 63, c)) >> 1;
      return Math.round(((engine.store.heap.u16[at] as number) * 255) / 32767);
    });
  });
  compositor.free();
  return out;
}

const order = (work: Work): string[] =>
  work.picture.structure.layers.map(({ id, group }) => (group ? `${group}/${id}` : id));

describe("groups", () => {
  test("layers go into a group where the topmost lies, and out again; undo puts all back", () => {
    const work = sheet("a", "b", "c", "d");
    const before = fingerprint(engine, work);
    work.apply({ do: "layer.group", id: "g", name: "Group", layers: ["a", "c"] });
    expect(order(work)).toEqual(["b", "g/a", "g/c", "g", "d"]);
    work.apply({ do: "layer.ungroup", id: "g" });
    expect(order(work)).toEqual(["b", "a", "c", "d"]);
    work.undo();
    work.undo();
    expect(fingerprint(engine, work)).toBe(before);
    work.release();
  });

  test("duplicated and removed with all that is in it", () => {
    const work = sheet("a", "b");
    paint(work, "a", [200, 0, 0, 255]);
    work.apply({ do: "layer.group", id: "g", name: "Group", layers: ["a", "b"] });
    work.apply({ do: "layer.copy", id: "g", as: "h", name: "Copy" });
    expect(order(work)).toEqual(["g/a", "g/b", "g", "h/h.1", "h/h.2", "h"]);
    expect(pixelAt(engine, work, "h.1", 5, 5)).toEqual([200, 0, 0, 255]);
    work.apply({ do: "layer.remove", id: "g" });
    expect(order(work)).toEqual(["h/h.1", "h/h.2", "h"]);
    work.release();
  });

  test("a hidden group hides what is in it; an isolated one keeps multiply to itself", () => {
    const work = sheet("low", "high");
    paint(work, "low", [200, 100, 50, 255]);
    paint(work, "high", [128, 128, 128, 255]);
    work.apply({ do: "layer.set", id: "high", blend: "multiply" });
    work.apply({ do: "layer.group", id: "g", name: "Group", layers: ["high"] });
    expect(seen(work, 20)).toEqual([128, 128, 128]);
    work.apply({ do: "layer.set", id: "g", through: true });
    expect(seen(work, 20)).toEqual([100, 50, 25]);
    work.apply({ do: "layer.set", id: "g", visible: false });
    expect(seen(work, 20)).toEqual([200, 100, 50]);
    work.release();
  });

  test.each<[CommandInput, string]>([
    [{ do: "layer.move", id: "g", above: null, group: "g" }, "in itself"],
    [{ do: "layer.move", id: "a", above: null, group: "b" }, "no group"],
    [{ do: "layer.ungroup", id: "a" }, "no group"],
    [{ do: "layer.merge", id: "a", name: "X", layers: ["b"] }, "already"],
    [{ do: "layer.add", id: "f", name: "F", above: null, kind: "fill" }, "colour"],
  ])("%j is refused", (command, word) => {
    const work = sheet("a", "b");
    work.apply({ do: "layer.group", id: "g", name: "Group", layers: ["a"] });
    const before = fingerprint(engine, work);
    expect(() => work.apply(command)).toThrow(word);
    expect(fingerprint(engine, work)).toBe(before);
    work.release();
  });

  test("nothing can be painted on a group, and it says what to do", () => {
    const work = sheet("a");
    work.apply({ do: "layer.group", id: "g", name: "Group", layers: ["a"] });
    expect(() => work.apply(stroke(line([5, 5], [50, 50]), { layer: "g" }))).toThrow("in it");
    work.release();
  });
});

describe("merging", () => {
  test("what was seen is seen still, and layers are fewer", () => {
    const work = sheet("low", "shade", "light");
    paint(work, "low", [200, 100, 50, 255], 0, 100);
    paint(work, "shade", [120, 120, 160, 200], 40, 160);
    paint(work, "light", [250, 240, 200, 90]);
    work.apply({ do: "layer.set", id: "shade", blend: "multiply", clip: true, opacity: 0.8 });
    work.apply({ do: "layer.set", id: "light", blend: "screen" });
    const before = [10, 60, 90, 130].map((x) => seen(work, x));
    work.apply({ do: "layer.merge", id: "m", name: "Merged", layers: ["low", "shade"] });
    expect(order(work)).toEqual(["m", "light"]);
    [10, 60, 90, 130].forEach((x, i) =>
      seen(work, x).forEach((v, c) =>
        expect(Math.abs(v - (before[i]?.[c] as number))).toBeLessThanOrEqual(1),
      ),
    );
    work.release();
  });

  test("merged down onto a multiplied layer, it stays multiplied", () => {
    const work = sheet("ground", "shade", "more");
    paint(work, "ground", [200, 200, 100, 255]);
    paint(work, "shade", [128, 128, 128, 255], 0, 80);
    paint(work, "more", [200, 60, 60, 255], 0, 40);
    work.apply({ do: "layer.set", id: "shade", blend: "multiply" });
    work.apply({ do: "layer.merge", id: "m", name: "Shade", layers: ["shade", "more"] });
    expect(work.picture.layer("m").blend).toBe("multiply");
    expect(seen(work, 60)).toEqual([100, 100, 50]);
    work.release();
  });

  test("a copy of all that is seen leaves the layers as they were", () => {
    const work = sheet("a", "b");
    paint(work, "a", [10, 200, 30, 255]);
    work.apply({ do: "layer.merge", id: "m", name: "Copy", layers: ["a", "b"], keep: true });
    expect(order(work)).toEqual(["a", "b", "m"]);
    expect(pixelAt(engine, work, "m", 9, 9)).toEqual([10, 200, 30, 255]);
    work.release();
  });
});

describe("masks", () => {
  test("painted on, it holds back; lifted, it lets through; the paint itself stays", () => {
    const work = sheet("a");
    paint(work, "a", [200, 0, 0, 255]);
    work.apply({ do: "mask.add", id: "a", from: { kind: "nothing" } });
    const on = { layer: "a", on: "mask" as const, size: 40 };
    work.apply(stroke(line([0, 80], [160, 80]), on));
    expect(seen(work, 80)).toEqual([255, 255, 255]);
    work.apply(stroke(line([80, 40], [80, 120]), { ...on, size: 20, mode: "lift" }));
    expect(seen(work, 80)).toEqual([200, 0, 0]);
    expect(seen(work, 40)).toEqual([255, 255, 255]);
    expect(alphaAt(engine, work, "a", 40, 80)).toBe(1);
    work.apply({ do: "layer.set", id: "a", mask: { on: false, linked: true } });
    expect(seen(work, 40)).toEqual([200, 0, 0]);
    work.release();
  });

  test("from the selection, turned round, laid for good", () => {
    const work = sheet("a");
    paint(work, "a", [200, 0, 0, 255]);
    const box = { left: 0, top: 0, right: 80, bottom: 160 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply({ do: "mask.add", id: "a", from: { kind: "selection" } });
    expect([seen(work, 40)[1], seen(work, 120)[1]]).toEqual([0, 255]);
    work.apply({ do: "mask.invert", id: "a" });
    expect([seen(work, 40)[1], seen(work, 120)[1]]).toEqual([255, 0]);
    work.apply({ do: "mask.remove", id: "a", lay: true });
    expect(alphaAt(engine, work, "a", 40, 80)).toBe(0);
    expect(alphaAt(engine, work, "a", 120, 80)).toBe(1);
    expect(work.picture.plane("a", MASK).size).toBe(0);
    work.release();
  });

  test("a depth picture's lights let a haze through", () => {
    const work = sheet("depth", "haze");
    writeStraight(work, "depth", (x) => [x + 40, x + 40, x + 40, 255]);
    paint(work, "haze", [100, 140, 255, 255]);
    const from = { kind: "layer" as const, layer: "depth", by: "light" as const };
    work.apply({ do: "mask.add", id: "haze", from });
    const held = alphaAt(engine, work, "haze", 100, 80);
    expect(held).toBe(1);
    const depth = 140 / 255;
    const blue = seen(work, 100)[2] as number;
    expect(blue / 255).toBeCloseTo(depth * 1 + (1 - depth) * (140 / 255), 2);
    work.release();
  });

  test("what faces a light lets through by the cosine between them", () => {
    const work = sheet("facing", "light");
    // A ball's equator: from facing the left, over facing who looks, to facing the right.
    const turn = (x: number): number => ((x + 0.5) / 200 - 0.5) * Math.PI;
    const stored = (v: number): number => Math.round(((v + 1) / 2) * 255);
    writeStraight(work, "facing", (x) => [
      stored(Math.sin(turn(x))),
      stored(0),
      stored(Math.cos(turn(x))),
      255,
    ]);
    const toward = [0.6, 0, 0.8] as const;
    const from = {
      kind: "facing" as const,
      layer: "facing",
      toward: [...toward] as [number, number, number],
    };
    expect(() => {
      work.apply({ do: "mask.add", id: "light", from: { ...from, toward: [1, 1, 0] } });
    }).toThrow(/has length 1/);
    work.apply({ do: "mask.add", id: "light", from });
    for (const x of [5, 40, 70, 80, 100, 120]) {
      const tile = work.picture.plane("light", MASK).get(tileKey(x >> 6, 1));
      const at = tile ? engine.store.address(tile) + pixelOffset(x & 63, 16, 3) : 0;
      const held = tile ? (engine.store.heap.u16[at >> 1] as number) / 32767 : 0;
      const cosine = Math.max(0, Math.sin(turn(x)) * toward[0] + Math.cos(turn(x)) * toward[2]);
      expect(Math.abs(1 - held - cosine)).toBeLessThan(0.012);
    }
    work.release();
  });

  test("a picture of sixteen bits makes a mask as fine, and a small one holds back all around it", () => {
    const work = sheet("depth", "haze");
    const data = new Uint16Array(40 * 40 * 4);
    for (let i = 0; i < data.length; i += 4)
      data.set([30000 + i / 4, 30000 + i / 4, 30000 + i / 4, 65535], i);
    const png = toBase64(writePng({ width: 40, height: 40, data }));
    work.apply({ do: "place", layer: "depth", x: 60, y: 60, png });
    paint(work, "haze", [100, 140, 255, 255]);
    work.apply({
      do: "mask.add",
      id: "haze",
      from: { kind: "layer", layer: "depth", by: "light" },
    });
    const held = (x: number, y: number): number => {
      const tile = work.picture.plane("haze", MASK).get(tileKey(x >> 6, y >> 6));
      if (!tile) return 0;
      if (tile.colour) return tile.colour[3];
      const at = engine.store.address(tile) + pixelOffset(x & 63, y & 63, 3);
      return engine.store.heap.u16[at >> 1] as number;
    };
    for (const [x, y] of [
      [60, 60],
      [75, 70],
      [99, 99],
    ] as const) {
      const light = (30000 + (y - 60) * 40 + (x - 60)) / 65535;
      // Sixteen bits tell these apart; eight would be off by up to 64 of 32767.
      expect(Math.abs(held(x, y) - (1 - light) * 32767)).toBeLessThan(3);
    }
    expect(held(20, 20)).toBe(32767);
    work.release();
  });

  test("unlinked, it stays where it is when the layer is moved", () => {
    const matrix = [1, 0, 30, 0, 1, 0, 0, 0, 1];
    const moved = (linked: boolean): number => {
      const work = sheet("a");
      paint(work, "a", [0, 0, 0, 255]);
      const box = { left: 0, top: 0, right: 80, bottom: 160 };
      work.apply({ do: "select", shape: { kind: "box", box } });
      work.apply({ do: "mask.add", id: "a", from: { kind: "selection" } });
      work.apply({ do: "select.none" });
      work.apply({ do: "layer.set", id: "a", mask: { on: true, linked } });
      work.apply({ do: "transform", layers: ["a"], warp: { kind: "matrix", matrix } });
      const at = seen(work, 100)[0] as number;
      work.release();
      return at;
    };
    expect(moved(false)).toBe(255);
    expect(moved(true)).toBe(0);
  });

  test.each<[CommandInput, string]>([
    [{ do: "mask.remove", id: "a" }, "no mask"],
    [
      { do: "mask.add", id: "a", from: { kind: "layer", layer: "a", by: "light" } },
      "holds no paint to make a mask of",
    ],
    [{ do: "mask.add", id: "a", from: { kind: "selection" } }, "nothing is selected"],
    [{ do: "mask.add", id: "x", from: { kind: "nothing" } }, "no layer"],
    [stroke(line([0, 0], [9, 9]), { layer: "a", on: "mask" }), "no mask"],
  ])("%j is refused", (command, word) => {
    const work = sheet("a");
    expect(() => work.apply(command)).toThrow(word);
    work.release();
  });
});

describe("contour", () => {
  test("an outline of its width and colour lies around what the layer holds, and moves with it", () => {
    const work = sheet("a");
    writeStraight(work, "a", (x, y) =>
      x >= 60 && x < 100 && y >= 60 && y < 100 ? [200, 0, 0, 255] : [0, 0, 0, 0],
    );
    work.apply({ do: "layer.set", id: "a", contour: { width: 6, colour: "#102030" } });
    expect(seen(work, 57)).toEqual([16, 32, 48]);
    expect(seen(work, 54)).toEqual([16, 32, 48]);
    expect(seen(work, 53)).toEqual([255, 255, 255]);
    expect(seen(work, 105)).toEqual([16, 32, 48]);
    expect(seen(work, 80)).toEqual([200, 0, 0]);
    // Round at corners, across tiles.
    expect(seen(work, 55, 55)).toEqual([255, 255, 255]);
    expect(alphaAt(engine, work, "a", 57, 80)).toBe(0);
    work.apply(stroke(line([20, 20], [40, 20]), { size: 10 }));
    expect(seen(work, 30, 28)).toEqual([16, 32, 48]);
    work.release();
  });

  test("half-clear paint has a solid outline too, faint paint a faint one", () => {
    const work = sheet("a");
    writeStraight(work, "a", (x, y) =>
      y >= 60 && y < 100 ? [200, 0, 0, x < 80 ? 140 : 40] : [0, 0, 0, 0],
    );
    work.apply({ do: "layer.set", id: "a", contour: { width: 6, colour: "#000000" } });
    expect(seen(work, 30, 57)).toEqual([0, 0, 0]);
    const [faint = 0] = seen(work, 130, 57);
    expect(faint).toBeGreaterThan(120);
    expect(faint).toBeLessThan(220);
    work.release();
  });

  test("along a slanting edge it is as wide as it was set to be, and as smooth as the edge", () => {
    const work = sheet("a");
    const [slope, width] = [0.17, 7];
    const loop: [number, number][] = [
      [-40, 60],
      [200, 60 + 240 * slope],
      [200, 160],
      [-40, 160],
    ];
    work.apply({ do: "fill.loop", layer: "a", loop, colour: "#000000" });
    work.apply({ do: "layer.set", id: "a", contour: { width, colour: "#000000" } });
    for (let x = 10; x < 140; x++) {
      let white = 0;
      for (let y = 0; y < 150; y++) white += (seen(work, x, y)[0] as number) / 255;
      const edge = 60 + (x + 40.5) * slope - width * Math.hypot(1, slope);
      expect(Math.abs(white - edge + 0.25)).toBeLessThan(0.4);
    }
    work.release();
  });
});

describe("fills and adjustments as layers", () => {
  test("a colour and a gradient fill the sheet; its stops are where they were set", () => {
    const work = sheet();
    const stops = [
      { at: 0, colour: "#000000" },
      { at: 1, colour: "#ffffff" },
    ];
    const gradient = {
      kind: "gradient" as const,
      shape: "linear" as const,
      from: [20, 0] as [number, number],
      to: [140, 0] as [number, number],
      stops,
    };
    work.apply({
      do: "layer.add",
      id: "f",
      name: "F",
      above: null,
      kind: "fill",
      paint: { kind: "colour", colour: "#3366cc" },
    });
    expect(seen(work, 3)).toEqual([0x33, 0x66, 0xcc]);
    work.apply({ do: "layer.set", id: "f", paint: gradient });
    expect(seen(work, 10)[0]).toBeLessThanOrEqual(1);
    expect(seen(work, 150)[0]).toBeGreaterThanOrEqual(254);
    // Half-way in OKLab: L = ½.
    expect(seen(work, 80)[0]).toBeCloseTo(99, -0.7);
    work.apply({ do: "layer.set", id: "f", paint: { ...gradient, shape: "radial" } });
    expect(seen(work, 20, 0)[0]).toBeLessThan(6);
    const path: [number, number][] = [
      [0, 80],
      [80, 80],
      [80, 160],
    ];
    work.apply({ do: "layer.set", id: "f", paint: { ...gradient, shape: "path", path } });
    expect(Math.abs((seen(work, 80, 80)[0] as number) - 99)).toBeLessThanOrEqual(3);
    work.release();
  });

  test("an adjustment changes what is below it, as far as its opacity and mask let it", () => {
    const work = sheet("a");
    paint(work, "a", [200, 100, 50, 255]);
    const tone = { kind: "invert" as const };
    work.apply({ do: "layer.add", id: "n", name: "N", above: "a", kind: "adjustment", tone });
    expect(seen(work, 20)).toEqual([55, 155, 205]);
    work.apply({ do: "layer.set", id: "n", opacity: 0.5 });
    expect(seen(work, 20)[0]).toBeCloseTo(127.5, -0.5);
    const box = { left: 0, top: 0, right: 80, bottom: 160 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply({ do: "mask.add", id: "n", from: { kind: "selection" } });
    expect(seen(work, 120)).toEqual([200, 100, 50]);
    work.release();
  });
});

describe("cleared around what is selected", () => {
  const box = { left: 40, top: 0, right: 80, bottom: side };

  it("a layer keeps what is selected, its soft edge as far as that reaches", () => {
    const work = sheet("a");
    paint(work, "a", [200, 40, 40, 255]);
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply({ do: "select.change", change: { kind: "feather", by: 4 } });
    work.apply({ do: "layer.copy", id: "a", as: "b", name: "B" });
    work.apply({ do: "layer.clear", id: "a" });
    work.apply({ do: "layer.clear", id: "b", outside: true });
    for (let x = 2; x < side; x += 3) {
      const both = alphaAt(engine, work, "a", x, 80) + alphaAt(engine, work, "b", x, 80);
      expect(both).toBeCloseTo(1, 3);
    }
    expect(alphaAt(engine, work, "b", 60, 80)).toBe(1);
    expect(alphaAt(engine, work, "b", 100, 80)).toBe(0);
    // No tile is left where nothing is.
    expect([...work.picture.plane("b").keys()].every((key) => key % 256 < 2)).toBe(true);
    work.undo();
    expect(alphaAt(engine, work, "b", 100, 80)).toBe(1);
    work.release();
  });

  it("is refused where nothing is selected, or the layer is no paint", () => {
    const work = sheet("a");
    const around = { do: "layer.clear", id: "a", outside: true } as const;
    expect(() => work.apply(around)).toThrow("nothing is selected");
    work.apply({ do: "layer.add", id: "l", name: "L", above: "a", kind: "lines" });
    work.apply({ do: "select", shape: { kind: "box", box } });
    expect(() => work.apply({ ...around, id: "l" })).toThrow("is no paint");
    work.release();
  });
});
