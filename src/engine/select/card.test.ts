import { type Work } from "../command/work";
import {
  alphaAt,
  fingerprint,
  line,
  pixelAt,
  stroke,
  testEngine,
  testHeader,
} from "../engine.testing";

const engine = testEngine();

function sheet(): Work {
  const work = engine.open(testHeader({ paper: { kind: "cold-pressed", scale: 1 } }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return work;
}

/** The card's edge: through (120, 90), open toward the lower right. */
const card = { x: 120, y: 90, nx: 0.8, ny: 0.6 };
const beyond = (x: number, y: number): number => (x + 0.5 - 120) * 0.8 + (y + 0.5 - 90) * 0.6;
const samples = line([20, 60], [230, 130]);

describe.each([
  ["a soft round", "round-soft"],
  ["an airbrush", "spray-air"],
  ["a pencil", "pencil-6b"],
  ["an oil pastel", "pastel-oil"],
  ["oil", "oil-flat"],
  ["a wash", "wash-round"],
])("under a card %s", (_what, brush) => {
  const drawn = (changes: Parameters<typeof stroke>[1] = {}): Work => {
    const work = sheet();
    work.apply(stroke(samples, { brush, size: 70, seed: 3, ...changes }));
    return work;
  };

  it("paints on the open side as without it, and not at all on the other", () => {
    const [free, held] = [drawn(), drawn({ card })];
    let [open, shut] = [0, 0];
    for (let y = 0; y < 192; y += 3)
      for (let x = 0; x < 256; x += 3) {
        const alpha = alphaAt(engine, held, "a", x, y);
        const far = beyond(x, y);
        // Oil is pushed along from where it may lie; water comes as far as its film's edge is shown.
        if (far < -12) shut = Math.max(shut, alpha);
        if (far > 40) open += Math.abs(alpha - alphaAt(engine, free, "a", x, y)) > 0.25 ? 1 : 0;
      }
    expect(shut).toBe(0);
    expect(open).toBeLessThan(40);
    free.release();
    held.release();
  });

  it("is the same in whatever pieces it comes, and undone", () => {
    const whole = drawn({ card });
    const pieces = sheet();
    const bare = fingerprint(engine, pieces);
    const begun = { do: "stroke", layer: "a", brush, size: 70, seed: 3, card } as const;
    pieces.beginStroke({ ...begun, colour: "#000000" });
    for (const sample of samples) pieces.extendStroke([sample]);
    pieces.endStroke();
    expect(fingerprint(engine, pieces)).toBe(fingerprint(engine, whole));
    pieces.undo();
    expect(fingerprint(engine, pieces)).toBe(bare);
    whole.release();
    pieces.release();
  });
});

it("cuts clean: the edge is as wide as a pixel, and lies where it was laid", () => {
  const work = sheet();
  const ink = { brush: "pen-even", size: 120, colour: "#ffffff" };
  work.apply(stroke(samples, { ...ink, card: { ...card, nx: 0.4, ny: 0.3 } }));
  for (let x = 90; x < 150; x++) {
    const far = beyond(x, 90);
    const [, , , alpha = 0] = pixelAt(engine, work, "a", x, 90);
    expect(alpha / 255).toBeCloseTo(Math.min(1, Math.max(0, far + 0.5)), 1);
  }
  work.release();
});

it("without a direction is refused", () => {
  const work = sheet();
  const none = { ...card, nx: 0, ny: 0 };
  expect(() => work.apply(stroke(samples, { card: none }))).toThrow("needs a direction");
  work.release();
});
