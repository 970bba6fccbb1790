import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { fingerprint, line, pixelAt, stroke, sum, testEngine, testHeader } from "../engine.testing";
import { findBrush } from "../media";
import { type Brush } from "../stroke/brush";
import { powderOf } from "./dry.testing";

const engine = testEngine();
const UPRIGHT = Math.PI / 2;
const BLUE = "#203a90";
const YELLOW = "#f0c020";

/** The oil pastel, and one just like it that takes nothing along. */
const pastel = findBrush("pastel-oil") as Brush;
const clean = {
  ...pastel,
  id: "pastel-clean",
  name: "Clean pastel",
  laying: { ...pastel.laying, drags: 0 },
} as Brush;

function sheet(): Work {
  const work = engine.open(testHeader({ paper: { kind: "cold-pressed", scale: 1 } }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply({ do: "brush.bring", brush: clean });
  return work;
}

type Drawn = { brush?: string; colour?: string; size?: number; seed?: number };

const across = (
  y: number,
  from: number,
  to: number,
  { brush = "pastel-oil", colour = YELLOW, size = 30, seed = 1 }: Drawn = {},
): CommandInput =>
  stroke(line([from, y], [to, y], { altitude: UPRIGHT }), { brush, colour, size, seed });

/** A patch of a colour over the left half of the sheet. */
function patch(work: Work, drawn: Drawn): void {
  for (let y = 40; y < 152; y += 16) work.apply(across(y, 20, 120, { ...drawn, seed: y }));
}

/** The mean straight colour of what is painted in a box. */
function colourIn(work: Work, left: number, right: number, top: number, bottom: number): number[] {
  const total = [0, 0, 0, 0];
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++)
      pixelAt(engine, work, "a", x, y).forEach((v, c) => {
        total[c] = (total[c] as number) + v;
      });
  return total.slice(0, 3).map((v) => v / (total[3] as number));
}

describe("an oil pastel", () => {
  it("takes wax along out of a patch: yellow drawn out of blue is green, and clears as it goes", () => {
    const out = (brush: string): { near: number[]; far: number[] } => {
      const work = sheet();
      patch(work, { colour: BLUE });
      work.apply(across(96, 40, 250, { brush }));
      const near = colourIn(work, 142, 158, 88, 104);
      const far = colourIn(work, 215, 235, 88, 104);
      work.release();
      return { near, far };
    };
    const dirty = out("pastel-oil");
    const own = out("pastel-clean");
    const [r = 0, g = 0, b = 0] = dirty.near;
    const [ownRed = 0] = own.near;
    expect(g).toBeGreaterThan(r * 1.05);
    expect(g).toBeGreaterThan(b * 1.5);
    expect(r).toBeLessThan(0.8 * ownRed);
    // Farther out it has given away most of what it took.
    expect(dirty.far[0] as number).toBeGreaterThan(r + 0.15 * (ownRed - r));
  });

  it("leaves less of the wax that it draws over", () => {
    const left = (brush: string): number => {
      const work = sheet();
      patch(work, { colour: BLUE });
      const before = powderOf(engine, work).mass;
      work.apply(across(96, 40, 250, { brush, size: 40 }));
      const { mass } = powderOf(engine, work);
      work.release();
      return mass - before;
    };
    expect(left("pastel-oil")).toBeLessThan(left("pastel-clean"));
  });

  it.each([
    ["a bare sheet", (): void => undefined],
    ["ink, which holds", (work: Work) => patch(work, { brush: "pen-even", colour: BLUE })],
  ])("over %s takes nothing along", (_over, lay) => {
    const drawn = (brush: string): string => {
      const work = sheet();
      lay(work);
      work.apply(across(96, 40, 250, { brush }));
      const print = fingerprint(engine, work);
      work.release();
      return print;
    };
    expect(drawn("pastel-oil")).toBe(drawn("pastel-clean"));
  });

  it("is the same in whatever pieces the stroke comes; taken back, all is as it was", () => {
    const samples = line([30, 60], [240, 130], { altitude: UPRIGHT, steps: 40 });
    const begun = {
      do: "stroke",
      layer: "a",
      brush: "pastel-oil",
      size: 34,
      colour: YELLOW,
    } as const;
    const whole = sheet();
    patch(whole, { colour: BLUE });
    const bare = fingerprint(engine, whole);
    whole.apply({ ...begun, seed: 5, samples });
    const drawn = sheet();
    patch(drawn, { colour: BLUE });
    drawn.beginStroke({ ...begun, seed: 5 });
    drawn.extendStroke(samples.slice(0, 20));
    drawn.abandonStroke();
    expect(fingerprint(engine, drawn)).toBe(bare);
    drawn.beginStroke({ ...begun, seed: 5 });
    for (const sample of samples) drawn.extendStroke([sample]);
    drawn.endStroke();
    expect(fingerprint(engine, drawn)).toBe(fingerprint(engine, whole));
    drawn.undo();
    expect(fingerprint(engine, drawn)).toBe(bare);
    whole.release();
    drawn.release();
  });

  it("does not reach out of what is selected", () => {
    const work = sheet();
    patch(work, { colour: BLUE });
    const box = { left: 64, top: 0, right: 192, bottom: 192 };
    const before = colourIn(work, 20, 60, 40, 152);
    work.apply({ do: "select", shape: { kind: "box", box } });
    for (let i = 0; i < 3; i++) work.apply(across(96, 20, 250, { seed: i }));
    expect(colourIn(work, 20, 60, 40, 152)).toEqual(before);
    for (let i = 0; i < 3; i++) work.undo();
    expect(colourIn(work, 20, 60, 40, 152)).toEqual(before);
    work.release();
  });
});

describe("wax that is rubbed", () => {
  it("goes along with its colour as wax: a finger softens it more than a stump", () => {
    const moved = (tool: string): { beyond: number; wax: number; loose: number } => {
      const work = sheet();
      patch(work, { colour: BLUE });
      const before = powderOf(engine, work);
      for (let y = 44; y < 148; y += 20)
        work.apply(across(y, 100, 200, { brush: tool, size: 40, seed: y }));
      const after = powderOf(engine, work);
      const beyond = sum(
        Array.from({ length: 50 }, (_, i) => pixelAt(engine, work, "a", 134 + i, 96)[3] ?? 0),
      );
      work.release();
      return {
        beyond,
        wax: after.wax / before.wax,
        loose: after.loose / after.mass,
      };
    };
    const finger = moved("fingertip");
    const stump = moved("stump");
    expect(finger.beyond).toBeGreaterThan(1.4 * stump.beyond);
    for (const { wax, loose } of [finger, stump]) {
      // What stays on the tool is wiped off it.
      expect(wax).toBeGreaterThan(0.93);
      expect(wax).toBeLessThan(1.001);
      expect(loose).toBeLessThan(0.01);
    }
  });

  it("keeps off charcoal where it has come to", () => {
    const taken = (rubs: boolean): number => {
      const work = sheet();
      patch(work, { colour: BLUE });
      if (rubs)
        for (let i = 0; i < 6; i++)
          work.apply(across(96, 90, 230, { brush: "fingertip", size: 60, seed: i }));
      const { mass } = powderOf(engine, work);
      work.apply(across(96, 140, 220, { brush: "charcoal-vine", colour: "#000000" }));
      const more = powderOf(engine, work).mass - mass;
      work.release();
      return more;
    };
    expect(taken(true)).toBeLessThan(0.97 * taken(false));
  });
});
