import { alphas, stroke, testWork } from "../../engine.testing";
import { turnsBetween } from "./strands";
import { type Sample } from "../sample";

const CORNER = { x: 190, y: 90 };
const RADIUS = 20;

/** To the right, and sharply back below. */
function reversal(): Sample[] {
  const there = Array.from({ length: 16 }, (_, i): [number, number] => [40 + i * 10, 82 + i * 0.5]);
  const back = Array.from({ length: 16 }, (_, i): [number, number] => [190 - i * 10, 90 + i * 2]);
  return [...there, ...back.slice(1)].map(([x, y], i): Sample => [i * 10, x, y, 0.7, 1.5, 0, 0]);
}

/** Paint beyond the corner: how much, and how far from it the farthest is. */
function beyond(brush: string): { paint: number; reach: number } {
  const { engine, work } = testWork();
  work.apply(stroke(reversal(), { brush, size: 2 * RADIUS, colour: "#202020", seed: 4 }));
  let [paint, reach] = [0, 0];
  alphas(engine, work).forEach((alpha, i) => {
    const [x, y] = [i % 256, Math.floor(i / 256)];
    if (x < CORNER.x + 3 || alpha < 0.1) return;
    paint += alpha;
    reach = Math.max(reach, Math.hypot(x - CORNER.x, y - CORNER.y));
  });
  return { paint, reach };
}

it.each(["hair-straight", "hair-plait", "ink-dry"])(
  "%s goes round a sharp turn in arcs",
  (brush) => {
    const { paint, reach } = beyond(brush);
    const halfDisc = (Math.PI * RADIUS * RADIUS) / 2;
    expect(paint / halfDisc).toBeGreaterThan(0.25);
    expect(reach).toBeLessThan(RADIUS * 1.35);
  },
);

/** To the left and back: how far from the corner a ribbon's paint is that lies beyond it. */
function spike(brush: string): number {
  const { engine, work } = testWork();
  const corner = { x: 40, y: 90 };
  const path = [
    ...Array.from({ length: 14 }, (_, i) => [240 - i * 14.3, 50 + i * 2.86]),
    ...Array.from({ length: 15 }, (_, i) => [40 + i * 14.3, 90 + i * 2.86]),
  ];
  const samples = path.map(([x = 0, y = 0], i): Sample => [i * 10, x, y, 0.6, 1.2, 0.5, 0]);
  work.apply(stroke(samples, { brush, size: 28, colour: "#803020", seed: 5 }));
  let reach = 0;
  alphas(engine, work).forEach((alpha, i) => {
    const x = i % 256;
    if (alpha < 0.1 || x > corner.x) return;
    reach = Math.max(reach, corner.x - x);
  });
  return reach;
}

it.each(["ribbon", "ink-sweep"])("%s shows no spike where it turns back", (brush) => {
  expect(spike(brush)).toBeLessThan(9);
});

it("a tuft turns the shorter way, in small steps, and not where the way bends gently", () => {
  const right = { x: 1, y: 0 };
  const turn = turnsBetween(right, { x: -0.8, y: 0.6 });
  if (!turn) throw new Error("this is a sharp turn");
  expect(turn.side).toBe(1);
  expect(turn.headings.at(-1)?.x).toBeCloseTo(-0.8, 9);
  const cosines = [right, ...turn.headings].slice(1).map(({ x, y }, i) => {
    const before = [right, ...turn.headings][i] ?? right;
    return x * before.x + y * before.y;
  });
  expect(Math.min(...cosines)).toBeGreaterThan(Math.cos(0.31));
  expect(turnsBetween(right, { x: -0.8, y: -0.6 })?.side).toBe(-1);
  expect(turnsBetween(right, { x: 0.9, y: 0.435 })).toBeNull();
  expect(turnsBetween({ x: 0, y: 0 }, right)).toBeNull();
});
