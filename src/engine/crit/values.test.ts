import { lab65 } from "culori";
import { lightness, luminance, MOST_STEPS, toValues } from "./values";

const grey = (rgb: [number, number, number], steps = 0): number => {
  const pixels = Uint8Array.from([...rgb, 255]);
  toValues(pixels, steps);
  expect(pixels[1]).toBe(pixels[0]);
  expect(pixels[2]).toBe(pixels[0]);
  expect(pixels[3]).toBe(255);
  return pixels[0] as number;
};

const lOf = ([r, g, b]: [number, number, number]): number =>
  lab65({ mode: "rgb", r: r / 255, g: g / 255, b: b / 255 }).l;

it.each<[number, number, number]>([
  [255, 0, 0],
  [0, 255, 0],
  [0, 0, 255],
  [240, 200, 40],
  [20, 40, 90],
  [128, 128, 128],
  [255, 255, 255],
  [0, 0, 0],
])("the grey of %d %d %d is as light as it", (...rgb) => {
  const v = grey(rgb);
  expect(Math.abs(lOf([v, v, v]) - lOf(rgb))).toBeLessThan(0.4);
});

it("lightness and luminance are each other's way back", () => {
  for (let l = 0; l <= 100; l += 4) expect(lightness(luminance(l))).toBeCloseTo(l, 6);
});

it.each([2, 3, 4, 5, 6, MOST_STEPS])(
  "in %d steps there are so many, from black to white",
  (steps) => {
    const seen = new Set<number>();
    for (let v = 0; v < 256; v++) seen.add(grey([v, v, v], steps));
    expect(seen.size).toBe(steps);
    expect(Math.min(...seen)).toBe(0);
    expect(Math.max(...seen)).toBe(255);
  },
);

it("in two steps what is lighter than the middle is white", () => {
  const middle = Math.round((1.055 * luminance(50) ** (1 / 2.4) - 0.055) * 255);
  expect(grey([middle - 3, middle - 3, middle - 3], 2)).toBe(0);
  expect(grey([middle + 3, middle + 3, middle + 3], 2)).toBe(255);
});
