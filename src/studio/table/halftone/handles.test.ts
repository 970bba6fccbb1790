import { type Halftone, USUAL_HALFTONE } from "../../../engine/halftone/halftone";
import { movedTo, nearestDot, turnedAbout } from "./handles";

const halftone: Halftone = { ...USUAL_HALFTONE, lpi: 30, angle: 0, x: 5, y: 7 };
const PPI = 600;

describe("the nearest dot", () => {
  test("lies on the screen's lattice, at most half a dot's diagonal away", () => {
    expect(nearestDot(halftone, PPI, [48, 12])).toEqual([45, 7]);
    for (const angle of [15, 45, -60]) {
      const [x, y] = nearestDot({ ...halftone, angle }, PPI, [333, 222]);
      expect(Math.hypot(x - 333, y - 222)).toBeLessThanOrEqual(20 * Math.SQRT1_2 + 1e-9);
      // It stands for the same pattern: the dot nearest to itself is itself.
      const again = nearestDot({ ...halftone, angle, x, y }, PPI, [5, 7]);
      expect(Math.hypot(again[0] - 5, again[1] - 7)).toBeLessThan(1e-6);
    }
  });
});

describe("pulled by its arm", () => {
  test("outward it is coarser, round about it is turned, and its dot stays", () => {
    const pulled = turnedAbout(halftone, [100, 80], [150, 80], [100, 180], false);
    expect(pulled).toMatchObject({ angle: 90, lpi: 15, x: 100, y: 80 });
  });

  test("in steps it keeps to 15 degrees, and no ruling leaves what there is", () => {
    const stepped = turnedAbout(halftone, [0, 0], [100, 0], [80, 70], true);
    expect(stepped.angle % 15).toBe(0);
    expect(turnedAbout(halftone, [0, 0], [100, 0], [9000, 0], false).lpi).toBe(2);
    expect(turnedAbout(halftone, [0, 0], [100, 0], [1, 0], false).lpi).toBe(300);
    expect(turnedAbout(halftone, [0, 0], [100, 0], [0, 0], false)).toBe(halftone);
  });

  test("past half a turn it goes on from the other side", () => {
    const turned = turnedAbout({ ...halftone, angle: 170 }, [0, 0], [100, 0], [0, 100], false);
    expect(turned.angle).toBe(-100);
  });
});

test("moved it keeps its ruling and angle", () => {
  expect(movedTo(halftone, [12.345, -3])).toEqual({ ...halftone, x: 12.35, y: -3 });
});
