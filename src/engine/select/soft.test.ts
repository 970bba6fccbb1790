import { type CommandInput } from "../command/commands";
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

/** The same stroke at once, sample by sample, and a few samples at a time. */
function inPieces(begun: Parameters<Work["beginStroke"]>[0], lay: () => Work): Set<string> {
  const prints = [samples.length, 1, 7].map((each) => {
    const work = lay();
    work.beginStroke(begun);
    for (let i = 0; i < samples.length; i += each) work.extendStroke(samples.slice(i, i + each));
    work.endStroke();
    const print = fingerprint(engine, work);
    work.release();
    return print;
  });
  return new Set(prints);
}

it.each<[string, Partial<Parameters<Work["beginStroke"]>[0]>, CommandInput[]]>([
  ["is blended with what is there", { lays: "multiply" }, []],
  ["lies behind it", { lays: "behind" }, []],
  [
    "keeps to what is painted",
    { brush: "charcoal-stick" },
    [{ do: "layer.set", id: "a", lockTransparency: true }],
  ],
  ["changes a mask", { on: "mask" }, [{ do: "mask.add", id: "a", from: { kind: "nothing" } }]],
  ["blends what is seen below", { mode: "blend", takes: "below" }, []],
  [
    "lies beside masking fluid",
    {},
    [
      { do: "layer.add", id: "f", name: "F", above: "a" },
      { do: "layer.set", id: "f", holds: true },
      { do: "select.none" },
      stroke(line([100, 40], [140, 160]), { layer: "f", brush: "round-soft", size: 60 }),
    ],
  ],
])("so is one that %s", (_what, changes, before) => {
  const begun = { do: "stroke", layer: "a", brush: "round-soft", size: 60, seed: 3 } as const;
  const lay = (): Work => {
    const work = sheet();
    for (const command of before) work.apply(command);
    return work;
  };
  expect(inPieces({ ...begun, colour: "#3060c0", ...changes }, lay).size).toBe(1);
});
