import { turnMatrix, turnOf, turnTransform } from "./turn";

const through = (m: readonly number[], x: number, y: number): number[] => [
  (m[0] as number) * x + (m[1] as number) * y + (m[2] as number),
  (m[3] as number) * x + (m[4] as number) * y + (m[5] as number),
];

const near = (got: readonly number[], wanted: readonly number[]): void =>
  got.forEach((v, i) => expect(v).toBeCloseTo(wanted[i] as number, 9));

test("a turn leaves its middle where it is, and carries the right to below, so many times as far", () => {
  const m = turnMatrix([30, 40], { angle: Math.PI / 2, times: 2 });
  near(through(m, 30, 40), [30, 40]);
  near(through(m, 35, 40), [30, 50]);
  near(m.slice(6), [0, 0, 1]);
});

test("a pull turns by the angle between its ends, and stretches by how much farther it is from the middle", () => {
  const turn = turnOf({ about: [10, 10], from: [20, 10], to: [10, 40] });
  expect(turn.angle).toBeCloseTo(Math.PI / 2, 9);
  expect(turn.times).toBeCloseTo(3, 9);
  near(through(turnMatrix([10, 10], turn), 20, 10), [10, 40]);
});

test("a pull through the middle neither loses nor bursts what it turns", () => {
  expect(turnOf({ about: [0, 0], from: [10, 0], to: [0, 0] }).times).toBe(0.02);
  expect(turnOf({ about: [0, 0], from: [0, 0], to: [10, 0] }).times).toBe(50);
});

test("what is shown while it is turned is what becomes of it", () => {
  expect(turnTransform([5, 6], { angle: Math.PI, times: 3 })).toBe(
    "translate(5 6) rotate(180) scale(3) translate(-5 -6)",
  );
});
