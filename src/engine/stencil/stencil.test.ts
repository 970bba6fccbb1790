import {
  alphaAt,
  fingerprint,
  line,
  pixelAt,
  stroke,
  testEngine,
  testHeader,
  testWork,
  writeStraight,
} from "../engine.testing";
import { type CommandInput } from "../command/commands";
import { scaleWorkLog } from "../command/work-log";
import { parseCommand } from "../command/commands";
import { type Work } from "../command/work";
import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { STENCILS } from "../picture/picture";
import { atRest, type Free } from "../transform/free";
import { type Stencil } from "./stencil";

const engine = testEngine();
const sheet = (): Work => {
  const work = engine.open(testHeader());
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return work;
};

/** A stencil cut from a box of the sheet, nothing selected any more. */
function cutBox(
  work: Work,
  id: string,
  [left, top, right, bottom]: readonly [number, number, number, number],
  way: Stencil["way"] = "holds",
): void {
  work.apply({ do: "select", shape: { kind: "box", box: { left, top, right, bottom } } });
  work.apply({ do: "stencil.add", id, name: "Card", way, from: { kind: "selection" } });
  work.apply({ do: "select.none" });
}

const placed = (work: Work, id: string, changes: Partial<Free>): CommandInput => {
  const stencil = work.picture.structure.stencils.find((other) => other.id === id) as Stencil;
  return { do: "stencil.set", ids: [id], changes: { place: { ...stencil.place, ...changes } } };
};

const across = (y: number, changes = {}): CommandInput =>
  stroke(line([10, y], [246, y]), { size: 12, ...changes });
const a = (work: Work, x: number, y: number): number => alphaAt(engine, work, "a", x, y);

describe("a stencil that holds back, and one that lets through", () => {
  it.each(["pen-even", "chalk", "hair-straight", "round-bristle"])("under %s", (brush) => {
    for (const way of ["holds", "lets through"] as const) {
      const work = sheet();
      cutBox(work, "s", [100, 0, 160, 192], way);
      work.apply(across(96, { brush, size: 40 }));
      let inside = 0;
      let outside = 0;
      for (let x = 12; x < 244; x++)
        for (let y = 80; y < 112; y++)
          if (x >= 100 && x < 160) inside += a(work, x, y);
          else outside += a(work, x, y);
      expect(way === "holds" ? inside : outside).toBe(0);
      expect(way === "holds" ? outside : inside).toBeGreaterThan(20);
      work.release();
    }
  });

  it("shields paint that is there from lifting, blending, filling and gradients, to the bit", () => {
    const work = sheet();
    writeStraight(work, "a", (x, y) => [x, y, (x * y) % 256, 255]);
    const column = (): string[] =>
      Array.from({ length: 192 }, (_, y) => pixelAt(engine, work, "a", 130, y).join());
    const before = column();
    cutBox(work, "s", [100, 0, 160, 192]);
    work.apply(across(60, { mode: "lift" }));
    work.apply(across(90, { mode: "blend", brush: "round-soft", size: 50 }));
    work.apply({ do: "fill", layer: "a", at: [[20, 20]], tolerance: 1, colour: "#123456" });
    expect(pixelAt(engine, work, "a", 20, 20)).toEqual([0x12, 0x34, 0x56, 255]);
    expect(column()).toEqual(before);
    work.release();
  });

  it("lets half of the paint through where its edge is half there", () => {
    const work = sheet();
    writeStraight(work, "a", (x) => [0, 0, 0, x < 128 ? 128 : 0]);
    work.apply({
      do: "stencil.add",
      id: "s",
      name: "Veil",
      from: { kind: "layer", layer: "a" },
    });
    work.apply({ do: "layer.clear", id: "a" });
    work.apply(across(96, { size: 30 }));
    expect(a(work, 60, 96)).toBeCloseTo(127 / 255, 2);
    expect(a(work, 200, 96)).toBeCloseTo(1, 2);
    work.release();
  });

  it("several lie on each other, and a selection is kept too", () => {
    const work = sheet();
    cutBox(work, "window", [40, 0, 200, 192], "lets through");
    cutBox(work, "bar", [100, 0, 120, 192]);
    work.apply({
      do: "select",
      shape: { kind: "box", box: { left: 0, top: 90, right: 256, bottom: 192 } },
    });
    work.apply(across(96, { size: 40 }));
    expect(a(work, 20, 96)).toBe(0);
    expect(a(work, 110, 96)).toBe(0);
    expect(a(work, 60, 96)).toBe(1);
    expect(a(work, 60, 84)).toBe(0);
    work.release();
  });
});

describe("stencils on the sheet", () => {
  it("are put by and laid again, turned from card to hole, thrown away", () => {
    const work = sheet();
    cutBox(work, "s", [100, 0, 160, 192]);
    work.apply({ do: "stencil.set", ids: ["s"], changes: { on: false } });
    expect(work.picture.plane(STENCILS).size).toBe(0);
    work.apply(across(30));
    expect(a(work, 130, 30)).toBe(1);
    work.apply({ do: "stencil.set", ids: ["s"], changes: { on: true, way: "lets through" } });
    work.apply(across(60));
    expect(a(work, 130, 60)).toBe(1);
    expect(a(work, 50, 60)).toBe(0);
    work.apply({ do: "stencil.remove", id: "s" });
    expect(work.picture.structure.stencils).toEqual([]);
    work.apply(across(90));
    expect(a(work, 50, 90)).toBe(1);
    work.release();
  });

  it("are moved, scaled and turned without wearing out", () => {
    const work = sheet();
    cutBox(work, "s", [100, 80, 160, 120]);
    const rest = atRest({ left: 100, top: 80, right: 160, bottom: 120 });
    expect(work.picture.structure.stencils[0]?.place).toEqual(rest);
    work.apply(placed(work, "s", { x: 50, y: 50, angle: Math.PI / 2 }));
    work.apply(across(50, { size: 100 }));
    // Turned, it is 40 wide and 60 high about (50, 50).
    for (const [x, y, held] of [
      [50, 25, true],
      [35, 50, true],
      [24, 50, false],
      [50, 85, false],
      [130, 95, false],
    ] as const)
      expect([x, y, a(work, x, y)]).toEqual([x, y, held ? 0 : 1]);
    for (let i = 1; i < 12; i++)
      work.apply(placed(work, "s", { angle: i / 3, scaleX: 1 + i / 10 }));
    work.apply(placed(work, "s", rest));
    work.apply({ do: "layer.clear", id: "a" });
    work.apply(across(100, { size: 60 }));
    expect([a(work, 99, 100), a(work, 100, 100), a(work, 159, 100), a(work, 160, 100)]).toEqual([
      1, 0, 0, 1,
    ]);
    work.release();
  });

  it("come back with undo, with what they hold", () => {
    const work = sheet();
    cutBox(work, "s", [100, 0, 160, 192]);
    work.apply(placed(work, "s", { x: 60 }));
    work.apply({ do: "stencil.remove", id: "s" });
    expect(work.undo()).toBe("throw a stencil away");
    work.apply(across(96));
    expect([a(work, 60, 96), a(work, 130, 96)]).toEqual([0, 1]);
    work.undo();
    expect(work.undo()).toBe("move a stencil");
    work.apply(across(96));
    expect([a(work, 60, 96), a(work, 130, 96)]).toEqual([1, 0]);
    work.release();
  });

  it("are cut from the dark parts of a picture, in the middle of the sheet", () => {
    const work = sheet();
    const [width, height] = [60, 40];
    const data = new Uint8Array(width * height * 4).fill(255);
    for (let y = 10; y < 30; y++)
      for (let x = 20; x < 40; x++) data.fill(0, (y * width + x) * 4, (y * width + x) * 4 + 3);
    const png = toBase64(writePng({ width, height, data }));
    work.apply({ do: "stencil.add", id: "s", name: "Leaf", from: { kind: "picture", png } });
    expect(work.picture.structure.stencils[0]?.from).toEqual({
      left: 118,
      top: 86,
      right: 138,
      bottom: 106,
    });
    work.apply(across(96, { size: 60 }));
    expect([a(work, 117, 96), a(work, 118, 96), a(work, 137, 96), a(work, 138, 96)]).toEqual([
      1, 0, 0, 1,
    ]);
    work.release();
  });

  it("give the same pixels from the same log, and hold on a larger sheet too", () => {
    const header = testHeader();
    const commands = [
      { do: "layer.add", id: "a", name: "A", above: null },
      {
        do: "select",
        shape: { kind: "ellipse", box: { left: 90, top: 40, right: 170, bottom: 150 } },
      },
      { do: "stencil.add", id: "s", name: "Moon", from: { kind: "selection" } },
      { do: "select.none" },
      {
        do: "stencil.set",
        ids: ["s"],
        changes: { place: { x: 100, y: 90, scaleX: 0.8, scaleY: 0.8, angle: 0.4, skew: 0 } },
      },
      across(90, { brush: "chalk", size: 70 }),
    ].map((command) => parseCommand(command));
    const prints = [0, 1].map(() => {
      const own = testEngine();
      const work = own.open(header);
      for (const command of commands) work.apply(command);
      return fingerprint(own, work);
    });
    expect(prints[0]).toBe(prints[1]);
    const large = scaleWorkLog({ header, commands }, 2);
    const work = engine.open(large.header);
    for (const command of large.commands) work.apply(command);
    const sum = (x: number): number => {
      let all = 0;
      for (let y = 130; y < 230; y++) all += a(work, x, y);
      return all;
    };
    expect(sum(200)).toBe(0);
    expect(sum(60)).toBeGreaterThan(10);
    work.release();
  });
});

describe("what cannot be a stencil is refused", () => {
  it("in words, and leaves all as it was", () => {
    const { engine: own, work } = testWork();
    const before = fingerprint(own, work);
    const add = (from: object): CommandInput =>
      ({ do: "stencil.add", id: "s", name: "Card", from }) as CommandInput;
    expect(() => work.apply(add({ kind: "selection" }))).toThrow("nothing is selected");
    expect(() => work.apply(add({ kind: "layer", layer: "a" }))).toThrow("nothing was cut");
    expect(() => work.apply(add({ kind: "layer", layer: "z" }))).toThrow('no layer "z"');
    expect(() => work.apply(add({ kind: "picture", png: "AAAA" }))).toThrow();
    expect(() => work.apply({ do: "stencil.remove", id: "s" })).toThrow('no stencil "s"');
    expect(() => work.apply({ do: "stencil.set", ids: ["s"], changes: { on: false } })).toThrow(
      'no stencil "s"',
    );
    expect(work.picture.structure.stencils).toEqual([]);
    expect(fingerprint(own, work)).toBe(before);
  });
});
