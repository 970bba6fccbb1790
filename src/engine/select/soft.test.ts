import { type Work } from "../command/work";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine.testing";

const engine = testEngine();

function sheet(): Work {
  const work = engine.open(testHeader({ paper: { kind: "cold-pressed", scale: 1 } }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply(stroke(line([20, 100], [230, 90]), { brush: "charcoal-stick", size: 60 }));
  const box = { left: 60, top: 40, right: 180, bottom: 140 };
  work.apply({ do: "select", shape: { kind: "box", box } });
  work.apply({ do: "select.change", change: { kind: "feather", by: 12 } });
  return work;
}

const samples = line([20, 60], [230, 130]);
const modes = ["paint", "lift", "blend"] as const;
const brushes = [
  "round-soft",
  "pencil-6b",
  "pastel-oil",
  "stump",
  "pen-even",
  "hair-wavy",
  "weaver",
  "spray-air",
  "oil-flat",
  "wash-round",
];

it.each(brushes.flatMap((brush) => modes.map((mode) => [brush, mode] as const)))(
  "%s, %s: a stroke inside a soft selection is the same in whatever pieces it comes",
  (brush, mode) => {
    const begun = { do: "stroke", layer: "a", brush, mode, size: 50, seed: 3 } as const;
    const whole = sheet();
    whole.apply({ ...begun, samples });
    const pieces = sheet();
    pieces.beginStroke(begun);
    for (const sample of samples) pieces.extendStroke([sample]);
    pieces.endStroke();
    expect(fingerprint(engine, pieces)).toBe(fingerprint(engine, whole));
    whole.release();
    pieces.release();
  },
);

it("a stroke whose paint is blended with what is there is so, too", () => {
  const begun = { do: "stroke", layer: "a", brush: "round-soft", lays: "multiply" } as const;
  const prints = [samples.length, 1, 7].map((each) => {
    const work = sheet();
    work.beginStroke({ ...begun, size: 60, colour: "#3060c0" });
    for (let i = 0; i < samples.length; i += each) work.extendStroke(samples.slice(i, i + each));
    work.endStroke();
    const print = fingerprint(engine, work);
    work.release();
    return print;
  });
  expect(new Set(prints).size).toBe(1);
});
