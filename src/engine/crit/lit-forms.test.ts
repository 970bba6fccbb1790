import { type CommandInput } from "../command/commands";
import { stroke, testEngine, testHeader } from "../engine.testing";
import { readPng } from "../file/png";
import { writePicturePng } from "../file/render";
import { Chance } from "../stroke/chance";
import { type Sample } from "../stroke/sample";
import { againstLight, lightOnSheet, type LitForm, litForms } from "./lit-forms";

const SIDE = 240;
/** Azimuth and height of a pin: from the upper left, a little to the front. */
const PIN = { azimuth: 2.4, height: 0.7 };
const engine = testEngine();

type Ball = { x: number; y: number; r: number; from: number; n: number };

const COLOURS = [
  ["#f0c9a0", "#b5623a", "#5e2b22"],
  ["#d8e6c0", "#6f9150", "#2c4428"],
  ["#f4f0e6", "#a9a49a", "#4e4b4a"],
  ["#cfe3f2", "#4f7ba6", "#1f3350"],
  ["#f6dd8a", "#c79a35", "#6b4a1c"],
] as const;
const GROUNDS = ["#f4efe6", "#3c4450", "#8f9aa0", "#d9c7a8"] as const;

const ring = (x: number, y: number, r: number): [number, number][] =>
  Array.from({ length: 40 }, (_, i) => [
    x + r * Math.cos((i * Math.PI) / 20),
    y + r * Math.sin((i * Math.PI) / 20),
  ]);

/** Samples along an arc of a ball, from one angle to another. */
const arc = ({ x, y }: Ball, r: number, from: number, to: number): Sample[] =>
  Array.from({ length: 24 }, (_, i) => {
    const a = from + ((to - from) * i) / 23;
    return [i * 10, x + r * Math.cos(a), y + r * Math.sin(a), 0.8, 1.4, 0, 0];
  });

/** How a painter lays a ball in: soft, in hard steps, or with a shadow on the ground beside it. */
function painted(ball: Ball): CommandInput[] {
  const { x, y, r, from, n } = ball;
  const [light, own, dark] = COLOURS[n % COLOURS.length] as (typeof COLOURS)[number];
  const brush = n % 3 === 1 ? "round-firm" : "round-soft";
  const away = from + Math.PI;
  const on = (samples: Sample[], colour: string, size: number, strength: number): CommandInput =>
    stroke(samples, { layer: "ball", brush, colour, size, strength, seed: n + 1 });
  const cast: CommandInput[] =
    n % 4 === 2
      ? [
          stroke(arc({ ...ball, x: x + r * 0.9 * Math.cos(away), y: y + r * 0.95 }, 4, 0, 3), {
            ...{ brush: "round-soft", colour: "#30303a", size: r * 1.1, strength: 0.5 },
          }),
        ]
      : [];
  return [
    { do: "layer.add", id: "a", name: "Ground", above: null },
    ...cast,
    { do: "layer.add", id: "ball", name: "Ball", above: "a" },
    { do: "fill.loop", layer: "ball", colour: own, loop: ring(x, y, r), borders: "layer" },
    { do: "layer.set", id: "ball", lockTransparency: true },
    on(arc(ball, r * 0.86, away - 1.1, away + 1.1), dark, r * 0.95, 0.85),
    on(arc(ball, r * 0.95, away - 0.8, away + 0.8), dark, r * 0.6, 0.8),
    on(arc(ball, r * 0.6, from - 0.6, from + 0.6), light, r * 0.75, 0.7),
    on(arc(ball, r * 0.5, from - 0.2, from + 0.2), light, r * 0.35, 0.9),
  ];
}

/** The forms that are found in a picture. */
function formsIn(ground: string, commands: readonly CommandInput[]): LitForm[] {
  const work = engine.open(testHeader({ width: SIDE, height: SIDE, ground }));
  for (const command of commands) work.apply(command);
  const { width, height, data } = readPng(
    writePicturePng(engine, work, { depth: 8, ground: true }),
  );
  work.release();
  return litForms(new Uint8ClampedArray(data), width, height);
}

const chance = new Chance(77);
const pinned = lightOnSheet(PIN) as number;
const ballOf = (n: number, off: number): Ball => ({
  x: 95 + 50 * chance.at(n * 4),
  y: 95 + 50 * chance.at(n * 4 + 1),
  r: 34 + 30 * chance.at(n * 4 + 2),
  from: pinned + off,
  n,
});
const balls = Array.from({ length: 20 }, (_, n) => n);
const groundOf = (n: number): string => GROUNDS[n % GROUNDS.length] as string;

describe("light that disagrees with the sun pin", () => {
  it("is found on 18 of 20 balls that are painted with wrong light", () => {
    const found = balls.filter((n) => {
      const off = (chance.at(900 + n) < 0.5 ? -1 : 1) * (1.9 + 1.2 * chance.at(800 + n));
      const forms = formsIn(groundOf(n), painted(ballOf(n, off)));
      return againstLight(forms, pinned).length > 0;
    });
    expect(found.length).toBeGreaterThanOrEqual(18);
  });

  it("accuses none of 20 that are painted with the pin's light", () => {
    const accused = balls.filter((n) => {
      const off = 0.9 * (chance.at(700 + n) - 0.5);
      const forms = formsIn(groundOf(n), painted(ballOf(n, off)));
      return againstLight(forms, pinned).length > 0;
    });
    expect(accused).toEqual([]);
  });

  it("is told of the right one of two, with the way that its light comes", () => {
    const right = { x: 70, y: 120, r: 44, from: pinned, n: 0 };
    const wrong = { x: 172, y: 120, r: 44, from: pinned + 2.6, n: 1 };
    const [first, ...rest] = painted(right);
    const others = painted(wrong)
      .slice(1)
      .map((command) => JSON.parse(JSON.stringify(command).replaceAll('"ball"', '"other"')));
    const forms = formsIn("#f4efe6", [first as CommandInput, ...rest, ...others]);
    expect(forms.length).toBe(2);
    const accused = againstLight(forms, pinned);
    expect(accused.length).toBe(1);
    const [{ at, from, reach }] = accused as [LitForm];
    expect(Math.abs(at[0] - 172)).toBeLessThan(8);
    expect(reach).toBeGreaterThan(34);
    const off = from - wrong.from;
    expect(Math.abs(Math.atan2(Math.sin(off), Math.cos(off)))).toBeLessThan(0.35);
  });

  it("is not looked for in flat shapes, in skies, or where light comes from the front", () => {
    const loop = ring(120, 120, 60);
    const flat: CommandInput[] = [
      { do: "layer.add", id: "a", name: "A", above: null },
      { do: "fill.loop", layer: "a", colour: "#b5623a", loop, borders: "layer" },
    ];
    expect(formsIn("#f4efe6", flat)).toEqual([]);
    const sky: CommandInput = {
      ...{ do: "layer.add", id: "sky", name: "Sky", above: null, kind: "fill" },
      paint: {
        ...{ kind: "gradient", shape: "linear", from: [0, 0], to: [0, SIDE] },
        stops: [
          { at: 0, colour: "#20304a" },
          { at: 1, colour: "#e8d8b0" },
        ],
      },
    };
    expect(formsIn("#ffffff", [sky])).toEqual([]);
    expect(lightOnSheet({ azimuth: Math.PI / 2, height: 0.1 })).toBeNull();
    expect(lightOnSheet({ azimuth: 0, height: 0 })).toBeCloseTo(0, 9);
    expect(lightOnSheet({ azimuth: Math.PI / 2, height: 1.5 })).toBeCloseTo(-Math.PI / 2, 6);
  });
});
