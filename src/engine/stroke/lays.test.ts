import { type CommandInput } from "../command/commands";
import { type BlendMode, blendModes } from "../compose/blend-modes";
import { seen, worst } from "../compose/seen.testing";
import { type Sample } from "./sample";
import { fingerprint, line, stroke, testWork } from "../engine.testing";
import { type Work } from "../command/work";

/** Soft paint to lie on, or behind: half of the sheet stays clear. */
const ground = stroke(line([20, 60], [150, 120]), {
  brush: "round-soft",
  size: 90,
  colour: "#c88a3c",
  strength: 0.8,
});
const mark = { brush: "round-soft", size: 60, colour: "#2a6ea8", strength: 0.7 };
const path = line([30, 130], [220, 40]);

function painted(...commands: CommandInput[]): ReturnType<typeof testWork> {
  const made = testWork({ ground: "#ffffff" });
  for (const command of [ground, ...commands]) made.work.apply(command);
  return made;
}

/** The same mark on a layer of its own, by the compositor. */
const onOwnLayer = (blend: BlendMode, above: string | null, clip = false): CommandInput[] => [
  { do: "layer.add", id: "b", name: "B", above },
  stroke(path, { ...mark, layer: "b" }),
  { do: "layer.set", id: "b", blend, clip },
];

const apart = (
  one: { engine: Parameters<typeof seen>[0]; work: Work },
  other: typeof one,
): number => worst(seen(one.engine, one.work), seen(other.engine, other.work));

describe("a brush that blends", () => {
  it.each(blendModes)("%s is as that mode between layers, inside what is painted", (lays) => {
    const keep: CommandInput = { do: "layer.set", id: "a", lockTransparency: true };
    const inside = painted(keep, stroke(path, { ...mark, lays }));
    expect(apart(inside, painted(...onOwnLayer(lays, "a", true)))).toBeLessThanOrEqual(3);
  });

  it("over clear parts lays its own colour", () => {
    const free = painted(stroke(path, { ...mark, lays: "multiply" }));
    const merged = painted(...onOwnLayer("multiply", "a"), {
      do: "layer.group",
      id: "g",
      name: "G",
      layers: ["a", "b"],
    });
    expect(apart(free, merged)).toBeLessThanOrEqual(3);
  });

  it("behind is as on a layer below", () => {
    const behind = painted(stroke(path, { ...mark, lays: "behind" }));
    expect(apart(behind, painted(...onOwnLayer("normal", null)))).toBeLessThanOrEqual(3);
  });

  it("behind is refused where transparency is locked", () => {
    const { engine, work } = painted({ do: "layer.set", id: "a", lockTransparency: true });
    const before = fingerprint(engine, work);
    expect(() => work.apply(stroke(path, { ...mark, lays: "behind" }))).toThrow(/locked/);
    expect(fingerprint(engine, work)).toBe(before);
  });

  it("does so live as it does from the log, and not when it lifts", () => {
    const whole = stroke(path, { ...mark, lays: "overlay" });
    const logged = painted(whole);
    const live = painted();
    const { samples, ...beginning } = whole as Extract<typeof whole, { do: "stroke" }>;
    live.work.beginStroke(beginning);
    for (const sample of samples as Sample[]) live.work.extendStroke([sample]);
    live.work.endStroke();
    expect(fingerprint(live.engine, live.work)).toBe(fingerprint(logged.engine, logged.work));
    const lifted = [{ lays: "overlay" as const }, {}].map((more) =>
      painted(stroke(path, { ...mark, mode: "lift", ...more })),
    );
    const [one, other] = lifted.map(({ engine, work }) => fingerprint(engine, work));
    expect(one).toBe(other);
  });
});
