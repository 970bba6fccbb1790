import { harmonies, type Harmony, harmonyOf, shadeAndLight } from "./harmony";
import { hexToOklch, hexToRgb, type Rgb } from "./oklch";
import { paletteFrom } from "./palette-from";

test.each(Object.keys(harmonies) as Harmony[])(
  "%s stands at its angles, as light as asked",
  (name) => {
    const base = "#7a5c3a";
    const { l, h } = hexToOklch(base);
    harmonyOf(base, name).forEach((tones, i) => {
      const own = hexToOklch(tones[1]?.hex ?? "");
      const wanted = (h + (harmonies[name][i] as number) + 360) % 360;
      expect(Math.abs(((own.h - wanted + 540) % 360) - 180)).toBeLessThan(4);
      expect(own.l).toBeCloseTo(l, 1.7);
      expect(hexToOklch(tones[0]?.hex ?? "").l).toBeLessThan(own.l);
      expect(hexToOklch(tones[2]?.hex ?? "").l).toBeGreaterThan(own.l);
    });
  },
);

test("warm light leaves a shade that is darker and cooler, and a light that is warmer", () => {
  const base = hexToOklch("#b07a5a");
  const { shade, light } = shadeAndLight("#b07a5a", 1);
  const blueness = (h: number): number => Math.cos(((h - 250) * Math.PI) / 180);
  expect(hexToOklch(shade).l).toBeLessThan(base.l - 0.1);
  expect(blueness(hexToOklch(shade).h)).toBeGreaterThan(blueness(base.h));
  expect(hexToOklch(light).l).toBeGreaterThan(base.l + 0.1);
  expect(blueness(hexToOklch(light).h)).toBeLessThan(blueness(base.h) + 1e-6);
  const cold = shadeAndLight("#b07a5a", -1);
  expect(blueness(hexToOklch(cold.light).h)).toBeGreaterThan(blueness(base.h));
});

describe("a palette from a picture", () => {
  const flats = ["#1d2b3a", "#e8b04a", "#c24a3a", "#f4efe6", "#4a7a5a"];
  const pixels: Rgb[] = flats.flatMap((hex, i) =>
    Array.from({ length: 200 * (i + 1) }, () => hexToRgb(hex)),
  );

  test("finds the very colours of flats, whatever their shares", () => {
    expect(paletteFrom(pixels, 5).toSorted()).toEqual(flats.toSorted());
  });

  test("never gives two that look alike, and the same twice", () => {
    expect(paletteFrom(pixels, 16)).toHaveLength(5);
    expect(paletteFrom(pixels, 8)).toEqual(paletteFrom(pixels, 8));
    expect(paletteFrom([], 5)).toEqual([]);
  });
});
