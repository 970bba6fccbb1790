import { COLOUR, MASK } from "../picture/picture";
import { brushOf } from "../media";
import { alphas, fingerprint, pixelAt, sum, testEngine, testHeader } from "../engine.testing";
import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { nearestOn } from "./curve";
import { decodeLines, encodeLines } from "./chunk";
import { isSound } from "./line";
import { LINES, linesOf } from "./line-set";
import { along, draw, lineWork, straightWay, theLine, wave } from "./lines.testing";
import { shapeOf } from "./shape";

const swelling = (u: number): number => 0.25 + 0.7 * Math.abs(Math.sin(u * 5));

describe("a line layer", () => {
  it.each(["pen-sprung", "pen-brush", "pen-fine", "pen-even"])(
    "%s: what was seen while it was drawn is what stays",
    (brush) => {
      const { engine, work } = lineWork();
      const size = brushOf(work.picture, brush)?.size ?? 10;
      const samples = along(wave(60, 580, 220), 600, swelling);
      draw(engine, work, samples, { brush, size });
      work.apply({ do: "stroke", layer: "a", brush, size, colour: "#101018", seed: 7, samples });
      const [kept, seen] = [alphas(engine, work, "l"), alphas(engine, work, "a")];
      const off = kept.map((v, i) => Math.abs(v - (seen[i] as number)));
      // 0.3 px and 4 % of the width are a part of a pixel at the edge.
      expect(off.reduce((most, v) => Math.max(most, v), 0)).toBeLessThan(0.55);
      // Of a line of 3 px a tenth of a px at either edge is as much.
      expect(sum(off) / sum(seen)).toBeLessThan(0.08);
      expect(sum(kept) / sum(seen)).toBeGreaterThan(0.98);
      expect(sum(kept) / sum(seen)).toBeLessThan(1.02);
    },
  );

  it("a live stroke leaves the line that its command leaves", () => {
    const { engine, work } = lineWork();
    const { engine: other, work: again } = lineWork();
    const samples = along(wave(60, 580, 220), 600, swelling);
    const { samples: _, ...start } = {
      do: "stroke" as const,
      layer: "l",
      brush: "pen-brush",
      size: 18,
      seed: 3,
      samples,
    };
    work.beginStroke(start);
    for (const sample of samples) work.extendStroke([sample]);
    expect(sum(alphas(engine, work, "l"))).toBeGreaterThan(1000);
    const command = work.endStroke();
    again.apply(command);
    expect(fingerprint(engine, work)).toBe(fingerprint(other, again));
  });

  it("an abandoned stroke leaves nothing", () => {
    const { engine, work } = lineWork();
    const was = fingerprint(engine, work);
    work.beginStroke({ do: "stroke", layer: "l", brush: "pen-even", size: 8 });
    work.extendStroke(along(wave(60, 580, 220), 300));
    work.abandonStroke();
    expect(fingerprint(engine, work)).toBe(was);
  });

  it.each([
    "pencil-6b",
    "pen-broken",
    "ink-dry",
    "ink-sweep",
    "pen-reed",
    "marker-chisel",
    "hair-strands",
  ])(
    "%s: drawn again by itself it is the same to the byte, and like the stroke in paint",
    (brush) => {
      const { engine, work } = lineWork();
      const found = brushOf(work.picture, brush);
      if (!found) return expect(brush).toMatch(/marker|hair/);
      const { size } = found;
      const samples = along(wave(80, 560, 220), 560, swelling);
      let id: number;
      try {
        id = draw(engine, work, samples, { brush, size });
      } catch (error) {
        expect(String(error)).toMatch("cannot draw lines");
        return;
      }
      const first = alphas(engine, work, "l");
      work.apply({ do: "line.set", layer: "l", lines: [id], colour: "#ff0000" });
      work.apply({ do: "line.set", layer: "l", lines: [id], colour: "#101018" });
      expect(alphas(engine, work, "l")).toEqual(first);
      work.apply({ do: "stroke", layer: "a", brush, size, colour: "#101018", seed: 7, samples });
      const ratio = sum(first) / sum(alphas(engine, work, "a"));
      expect(ratio).toBeGreaterThan(0.85);
      expect(ratio).toBeLessThan(1.15);
    },
  );

  it("lies off the hand's way by no more than 0.3 px", () => {
    const { engine, work } = lineWork();
    const way = wave(60, 580, 220);
    const line = theLine(engine, work, draw(engine, work, along(way, 600)));
    // Chords of the true way; the hand's own curve through its samples differs from it by a hair.
    for (let u = 0.02; u < 0.98; u += 0.001) {
      const [x, y] = way(u);
      expect(nearestOn(line.curve, x, y)?.distance).toBeLessThan(0.4);
    }
  });

  it("a shape that nearly closes closes, smooth where it is smooth", () => {
    const { engine, work } = lineWork();
    const round = (u: number): readonly [number, number] => [
      300 + 120 * Math.cos(u * 6.26),
      220 + 90 * Math.sin(u * 6.26),
    ];
    const line = theLine(engine, work, draw(engine, work, along(round, 660)));
    expect(line.closed).toBe(true);
    expect(line.curve.points.slice(0, 2)).toEqual(line.curve.points.slice(-2));
    expect(line.taper).toEqual({ in: 0, out: 0 });
    const open = theLine(engine, work, draw(engine, work, along(wave(60, 580, 400), 600)));
    expect(open.closed).toBe(false);
  });

  it("what is drawn does not hang on the way to it: changed tile by tile, or all at once from its log", () => {
    const { engine, work } = lineWork();
    const commands: CommandInput[] = [];
    const go = (command: CommandInput): void => void commands.push(work.apply(command));
    for (let i = 0; i < 8; i++)
      go({
        do: "stroke",
        layer: "l",
        brush: ["pen-sprung", "pen-brush", "pencil-hb", "pen-broken"][i % 4] as string,
        size: 8 + i,
        colour: i % 2 ? "#802020" : "#101018",
        strength: i % 3 ? 1 : 0.6,
        seed: i,
        samples: along(wave(40, 600, 60 + 45 * i, 24, 5 + i), 600, swelling),
      });
    go({
      do: "line.pull",
      layer: "l",
      line: 2,
      at: [300, 110],
      to: [310, 190],
      reach: 80,
      ends: "held",
    });
    go({ do: "line.set", layer: "l", lines: [3, 4], colour: "#204080" });
    go({ do: "line.order", layer: "l", lines: [1], to: "front" });
    go({
      do: "line.erase",
      layer: "l",
      over: [
        [200, 40, 1],
        [210, 420, 1],
      ],
      radius: 9,
      how: "touched",
    });
    go({
      do: "line.weigh",
      layer: "l",
      over: [
        [300, 20, 1],
        [330, 460, 1],
      ],
      radius: 40,
      how: "thicken",
    });
    const is = fingerprint(engine, work);
    // All tiles of the layer from nothing: the paper is changed and changed back.
    const { paper } = work.picture.structure;
    work.apply({ do: "picture.set", paper: { ...paper, scale: 2 } });
    work.apply({ do: "picture.set", paper });
    expect(fingerprint(engine, work)).toBe(is);
  });

  it("says by name what it does not take", () => {
    const { work } = lineWork();
    const samples = along(straightWay([40, 40], [300, 60]), 260);
    const stroke = (changes: object): CommandInput => ({
      do: "stroke",
      layer: "l",
      brush: "pen-even",
      size: 8,
      samples,
      ...changes,
    });
    expect(() => work.apply(stroke({ mode: "blend" }))).toThrow("lines are not blended");
    expect(() => work.apply(stroke({ brush: "oil-flat", size: 40 }))).toThrow("cannot draw lines");
    expect(() => work.apply(stroke({ brush: "wash-round", size: 40 }))).toThrow(
      "cannot draw lines",
    );
    expect(() =>
      work.apply({ do: "fill", layer: "l", at: [[100, 100]], colour: "#ff0000" }),
    ).toThrow("holds lines, not paint");
    expect(() => work.apply({ do: "line.remove", layer: "a", lines: [1] })).toThrow(
      "holds paint, not lines",
    );
    expect(() => work.apply({ do: "line.remove", layer: "l", lines: [9] })).toThrow(
      "there is no line 9",
    );
    expect(() =>
      work.apply({ do: "line.cut", layer: "l", line: 1, at: [5, 5], how: "part" }),
    ).toThrow("there is no line 1");
    work.apply(stroke({}));
    expect(() =>
      work.apply({ do: "line.cut", layer: "l", line: 1, at: [100, 45], how: "to crossings" }),
    ).toThrow("Nothing crosses this line");
    expect(() =>
      work.apply({
        do: "line.redraw",
        layer: "l",
        samples: along(straightWay([40, 300], [300, 320]), 260),
      }),
    ).toThrow("Begin or end on a line");
    expect(() => work.apply({ do: "line.set", layer: "l", lines: [1], brush: "oil-flat" })).toThrow(
      "cannot draw lines",
    );
    expect(() => work.apply({ do: "line.set", layer: "l", lines: [1], brush: "none" })).toThrow(
      'there is no brush "none"',
    );
  });

  it("keeps lines in the selection, cut at its edge, and clears what is selected of them", () => {
    const { engine, work } = lineWork();
    const box = { left: 150, top: 0, right: 400, bottom: 480 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    draw(engine, work, along(straightWay([40, 100], [600, 110]), 560), {
      brush: "pen-even",
      size: 8,
    });
    const line = theLine(engine, work, 1);
    expect(shapeOf(line).box.left).toBeGreaterThan(140);
    expect(shapeOf(line).box.right).toBeLessThan(410);
    work.apply({ do: "select.none" });
    draw(engine, work, along(straightWay([40, 200], [600, 210]), 560), {
      brush: "pen-even",
      size: 8,
    });
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply({ do: "layer.clear", id: "l" });
    const { lines } = linesOf(engine.store, work.picture, "l");
    expect(lines).toHaveLength(2);
    expect(pixelAt(engine, work, "l", 250, 205)[3]).toBe(0);
    expect(pixelAt(engine, work, "l", 80, 200)[3]).toBe(255);
  });

  it("a stroke that lifts takes away of its lines what it goes over, whole lines too", () => {
    const { engine, work } = lineWork();
    for (const y of [100, 200])
      draw(engine, work, along(straightWay([60, y], [560, y]), 500), {
        brush: "pen-even",
        size: 8,
      });
    const lift = (from: readonly [number, number], to: readonly [number, number], size: number) =>
      work.apply({
        do: "stroke",
        layer: "l",
        mode: "lift",
        brush: "pen-even",
        size,
        samples: along(straightWay(from, to), 200),
      });
    const was = fingerprint(engine, work);
    lift([300, 60], [300, 140], 30);
    expect(linesOf(engine.store, work.picture, "l").lines).toHaveLength(3);
    expect(pixelAt(engine, work, "l", 300, 100)[3]).toBe(0);
    expect(pixelAt(engine, work, "l", 270, 100)[3]).toBe(255);
    lift([30, 100], [600, 100], 20);
    lift([30, 200], [600, 200], 20);
    expect(linesOf(engine.store, work.picture, "l").lines).toHaveLength(0);
    expect(work.picture.plane("l", LINES).size).toBe(0);
    for (let i = 0; i < 3; i++) work.undo();
    expect(fingerprint(engine, work)).toBe(was);
    lift([30, 300], [600, 300], 20);
    expect(fingerprint(engine, work)).toBe(was);
  });

  it("moves with its layer: lines stay lines, and as sharp as they were", () => {
    const { engine, work } = lineWork();
    draw(engine, work, along(straightWay([60, 100], [200, 100]), 140), {
      brush: "pen-even",
      size: 10,
    });
    const before = theLine(engine, work, 1);
    work.apply({
      do: "transform",
      layers: ["l"],
      warp: { kind: "matrix", matrix: [2, 0, 10, 0, 2, 20, 0, 0, 1] },
    });
    const after = theLine(engine, work, 1);
    expect(after.curve.points[0]).toBeCloseTo(2 * (before.curve.points[0] as number) + 10, 3);
    expect(after.width[1]).toBeCloseTo(2 * (before.width[1] as number), 4);
    // A row across it is whole inside and bare outside, but for the two rows that its edges run through.
    const column = Array.from(
      { length: 60 },
      (_, i) => pixelAt(engine, work, "l", 250, 190 + i)[3] as number,
    );
    expect(column.filter((v) => v > 0 && v < 255).length).toBeLessThanOrEqual(2);
    expect(column.filter((v) => v === 255).length).toBeGreaterThanOrEqual(19);
  });

  it("is copied, and becomes paint that looks the same", () => {
    const { engine, work } = lineWork();
    draw(engine, work, along(wave(60, 580, 220), 600, swelling));
    work.apply({ do: "layer.copy", id: "l", as: "c", name: "Copy" });
    expect(linesOf(engine.store, work.picture, "c").lines).toHaveLength(1);
    const seen = alphas(engine, work, "l");
    work.apply({ do: "line.to-paint", layer: "l" });
    expect(alphas(engine, work, "l")).toEqual(seen);
    expect(work.picture.layer("l").kind).toBe("paint");
    expect(work.picture.plane("l", LINES).size).toBe(0);
    work.apply({
      do: "stroke",
      layer: "l",
      brush: "wash-round",
      size: 40,
      samples: along(wave(60, 580, 220), 300),
    });
    work.undo();
    work.undo();
    expect(work.picture.layer("l").kind).toBe("lines");
    expect(linesOf(engine.store, work.picture, "l").lines).toHaveLength(1);
  });

  it("its mask is painted on as any", () => {
    const { engine, work } = lineWork();
    draw(engine, work, along(wave(60, 580, 220), 600));
    work.apply({ do: "mask.add", id: "l", from: { kind: "nothing" } });
    work.apply({
      do: "stroke",
      layer: "l",
      on: "mask",
      brush: "pen-even",
      size: 40,
      samples: along(straightWay([60, 220], [300, 220]), 240),
    });
    expect(work.picture.plane("l", MASK).size).toBeGreaterThan(0);
    expect(work.picture.plane("l", COLOUR).size).toBeGreaterThan(0);
  });
});

describe("lines as bytes", () => {
  const { engine, work } = lineWork();
  for (let i = 0; i < 5; i++)
    draw(engine, work, along(wave(40, 600, 60 + 60 * i), 600, swelling), { seed: i });
  const { lines } = linesOf(engine.store, work.picture, "l");

  it("come back as they were", () => {
    expect(decodeLines(encodeLines(lines))).toEqual(lines);
    expect(decodeLines(encodeLines([]))).toEqual([]);
  });

  it("that were cut short or changed are refused, never misread", () => {
    const bytes = encodeLines(lines);
    for (let i = 0; i < 300; i++) {
      const broken = bytes.slice(0, i % 3 === 0 ? 4 + i * 7 : bytes.length);
      broken[(i * 997) % broken.length] = (i * 31) & 255;
      try {
        const read = decodeLines(broken);
        expect(read.every(isSound)).toBe(true);
      } catch (error) {
        expect(String(error)).toMatch("cannot be read");
      }
    }
  });

  it("of long lines take as many tiles as they need", () => {
    const wide = testEngine();
    const long: Work = wide.open(testHeader({ width: 4000, height: 3000 }));
    long.apply({ do: "layer.add", id: "l", name: "Lines", above: null, kind: "lines" });
    const scribble =
      (x: number) =>
      (u: number): readonly [number, number] => [
        x + u * 3000 + 30 * Math.sin(u * 700),
        1500 + 1200 * Math.sin(u * 60),
      ];
    for (let i = 0; i < 5; i++)
      draw(wide, long, along(scribble(100 + 100 * i), 30_000, swelling), { size: 5, seed: i });
    expect(long.picture.plane("l", LINES).size).toBeGreaterThan(1);
    const is = fingerprint(wide, long);
    long.undo();
    expect(linesOf(wide.store, long.picture, "l").lines).toHaveLength(4);
    long.redo();
    expect(fingerprint(wide, long)).toBe(is);
    for (let i = 0; i < 5; i++) long.undo();
    expect(long.picture.plane("l", LINES).size).toBe(0);
  });
});
