import { testEngine } from "../engine.testing";
import { Regions } from "../region/regions";
import { pullOf } from "./eye";
import { countPixel, emptyHistogram, temperatureOf } from "./histogram";
import { holesIn } from "./holes";

describe("holes", () => {
  const engine = testEngine();
  const bareSheet = (isBare: (x: number, y: number) => boolean) => {
    const regions = new Regions(engine.bench, 300, 200);
    const bare = regions.make();
    for (let y = 0; y < 200; y++)
      for (let x = 0; x < 300; x++) if (isBare(x, y)) regions.set(bare, x, y);
    const found = holesIn(regions, bare);
    regions.free();
    return found;
  };
  const inBox = (x: number, y: number, l: number, t: number, r: number, b: number): boolean =>
    x >= l && x < r && y >= t && y < b;

  test("bare places inside of paint are found, the largest first; the surround is none", () => {
    const found = bareSheet(
      (x, y) =>
        !inBox(x, y, 20, 20, 280, 180) ||
        inBox(x, y, 60, 60, 66, 70) ||
        inBox(x, y, 200, 100, 202, 102),
    );
    expect(found).toEqual([
      { left: 60, top: 60, right: 66, bottom: 70, area: 60 },
      { left: 200, top: 100, right: 202, bottom: 102, area: 4 },
    ]);
  });

  test("a large bare place is meant, and an empty or a full sheet has none", () => {
    expect(bareSheet((x, y) => inBox(x, y, 50, 50, 150, 150))).toEqual([]);
    expect(bareSheet(() => true)).toEqual([]);
    expect(bareSheet(() => false)).toEqual([]);
  });
});

describe("where the eye goes", () => {
  const width = 80;
  const height = 60;
  const picture = (at: (x: number, y: number) => number[]): Uint8ClampedArray => {
    const rgba = new Uint8ClampedArray(width * height * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) rgba.set([...at(x, y), 255], (y * width + x) * 4);
    return rgba;
  };
  const strongest = (pull: Float32Array): [number, number] => {
    const i = pull.indexOf(Math.max(...pull));
    return [i % width, Math.floor(i / width)];
  };

  test.each([
    ["a light spot in the dark", [40, 40, 40], [240, 240, 240]],
    ["a red one of the same lightness among greys", [119, 119, 119], [190, 80, 80]],
  ])("%s", (_name, rest, spot) => {
    const pull = pullOf(
      picture((x, y) => (Math.hypot(x - 55, y - 20) < 4 ? spot : rest)),
      width,
      height,
    );
    const [x, y] = strongest(pull);
    expect(Math.hypot(x - 55, y - 20)).toBeLessThan(6);
    expect(pull[5 * width + 5]).toBeLessThan(0.1);
  });

  test("nothing stands out of an even sheet", () => {
    const pull = pullOf(
      picture(() => [90, 120, 60]),
      width,
      height,
    );
    expect(Math.max(...pull)).toBeLessThan(1e-3);
  });
});

test("a histogram counts values and hues; greys have no hue", () => {
  const counted = emptyHistogram();
  countPixel(counted, [0, 0, 0], 1);
  countPixel(counted, [1, 1, 1], 0.5);
  countPixel(counted, [0.8, 0.1, 0.1], 1);
  expect(counted.count).toBe(2.5);
  expect([counted.light[0], counted.light[63]]).toEqual([1, 0.5]);
  expect(counted.hues.filter((n) => n > 0)).toHaveLength(1);
  expect(counted.hues.findIndex((n) => n > 0)).toBe(2);
});

test("warm, cool and grey are told apart by hue, and sum to all that was counted", () => {
  const counted = emptyHistogram();
  expect(temperatureOf(counted)).toEqual({ warm: 0, cool: 0, grey: 0 });
  countPixel(counted, [0.8, 0.3, 0.1], 2);
  countPixel(counted, [0.1, 0.3, 0.8], 1);
  countPixel(counted, [0.5, 0.5, 0.5], 3);
  expect(temperatureOf(counted)).toEqual({ warm: 33, cool: 17, grey: 50 });
  expect(counted.count).toBe(6);
});
