import { REACH, solidArrow } from "./solid";

const turn = (share: number): number => share * Math.PI;
const corners = (points: string): { x: number; y: number }[] =>
  points.split(" ").map((pair) => {
    const [x = 0, y = 0] = pair.split(",").map(Number);
    return { x, y };
  });

describe("the arrow of a sun pin", () => {
  it.each<[string, number, number, (x: number, y: number) => boolean]>([
    ["the right", 0, 0, (x, y) => x === REACH && Math.abs(y) < 1e-9],
    ["the left", turn(1), 0, (x) => Math.abs(x + REACH) < 1e-9],
    ["straight above", 0, turn(0.5), (x, y) => Math.abs(x) < 1e-9 && y < -REACH * 0.8],
    ["the front: lower on the screen", turn(0.5), 0, (_x, y) => y > 10],
    ["the back: higher on the screen", turn(-0.5), 0, (_x, y) => y < -10],
    ["beneath", 0, turn(-0.5), (_x, y) => y > REACH * 0.8],
  ])("comes from %s", (_name, azimuth, height, holds) => {
    const { x, y } = solidArrow({ azimuth, height }).sun;
    expect(holds(x, y)).toBe(true);
  });

  it("points at its foot, and drops its shadow straight to the ground", () => {
    const { head, shadow } = solidArrow({ azimuth: 2.4, height: 0.9 });
    expect(corners(head)[0]).toEqual({ x: 0, y: 0 });
    expect(corners(shadow)).toContainEqual({ x: 0, y: 0 });
    // From straight above there is nothing beside the foot for a shadow to reach.
    const above = corners(solidArrow({ azimuth: 0, height: turn(0.5) }).shadow);
    for (const { x, y } of above) expect(Math.hypot(x, y)).toBeLessThan(10);
  });

  it("is nearer, and wider at its end, where the light stands before the picture", () => {
    const width = (azimuth: number): number => {
      const [a, , , d] = corners(solidArrow({ azimuth, height: 0.2 }).shaft);
      return Math.hypot((a?.x ?? 0) - (d?.x ?? 0), (a?.y ?? 0) - (d?.y ?? 0));
    };
    expect(width(turn(0.5))).toBeGreaterThan(width(turn(-0.5)) * 1.2);
  });
});
