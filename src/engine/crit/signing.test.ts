import { toEdges } from "./edges";
import { partingOf, toMasses } from "./masses";
import { toTemperature, warmthOf } from "./temperature";

type Rgb = [number, number, number];

function picture(
  width: number,
  height: number,
  at: (x: number, y: number) => Rgb,
): Uint8ClampedArray {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...at(x, y), 255], (y * width + x) * 4);
  return data;
}

describe("temperature", () => {
  test.each<[string, Rgb, number]>([
    ["orange", [0.9, 0.5, 0.1], 1],
    ["rust", [0.6, 0.25, 0.12], 1],
    ["yellow", [0.95, 0.85, 0.3], 1],
    ["blue", [0.15, 0.3, 0.8], -1],
    ["teal", [0.1, 0.45, 0.5], -1],
    ["grey", [0.5, 0.5, 0.5], 0],
  ])("%s is told", (_n, rgb, sign) => {
    const warmth = warmthOf(rgb);
    expect(Math.abs(warmth) < 0.01 ? 0 : Math.sign(warmth)).toBe(sign);
  });

  test("is counted, and shown in orange and blue, as light as it was", () => {
    const pixels = picture(40, 10, (x) =>
      x < 10 ? [200, 110, 40] : x < 30 ? [40, 80, 190] : [128, 128, 128],
    );
    expect(toTemperature(pixels)).toEqual({ warm: 0.25, cool: 0.5 });
    const [warm, cool, grey] = [pixels.slice(0, 3), pixels.slice(60, 63), pixels.slice(156, 159)];
    expect(warm[0]).toBeGreaterThan((warm[2] as number) + 40);
    expect(cool[2]).toBeGreaterThan((cool[0] as number) + 40);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(3);
  });
});

describe("two masses", () => {
  test("are parted between the darks and the lights", () => {
    const values = Float32Array.from({ length: 1000 }, (_, i) =>
      i < 300 ? 20 + (i % 7) : 70 + (i % 9),
    );
    const parting = partingOf(values);
    expect(parting).toBeGreaterThan(26);
    expect(parting).toBeLessThan(70);
  });

  test("hold the share that is dark", () => {
    const pixels = picture(20, 10, (x) => (x < 5 ? [30, 30, 60] : [220, 200, 160]));
    expect(toMasses(pixels)).toBe(0.25);
    expect([...pixels.slice(0, 3)]).toEqual([28, 28, 28]);
    expect([...pixels.slice(40, 43)]).toEqual([238, 238, 238]);
  });
});

describe("edges", () => {
  /** A step from dark to light over so many px. */
  const step = (over: number) =>
    picture(64, 32, (x) => {
      const v = 60 + 140 * Math.min(1, Math.max(0, (x - 32 + over / 2) / over));
      return [v, v, v];
    });

  test("that are made within a px are hard, over ten px soft", () => {
    expect(toEdges(step(1), 64, 32)).toBe(1);
    expect(toEdges(step(10), 64, 32)).toBe(0);
  });

  test("are none on an even sheet, and lie where the step is", () => {
    expect(
      toEdges(
        picture(32, 32, () => [90, 120, 60]),
        32,
        32,
      ),
    ).toBeNull();
    const pixels = step(2);
    toEdges(pixels, 64, 32);
    const reds = Array.from({ length: 64 }, (_, x) => pixels[(16 * 64 + x) * 4 + 2] as number);
    expect(Math.min(...reds.slice(0, 24), ...reds.slice(40))).toBeGreaterThan(230);
    expect(Math.min(...reds.slice(30, 34))).toBeLessThan(120);
  });
});
