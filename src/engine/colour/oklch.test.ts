import { converter, type Rgb as CuloriRgb } from "culori";
import {
  greatestChroma,
  hexFromText,
  hexToOklch,
  hexToRgb,
  hslToRgb,
  isInGamut,
  isWarm,
  oklchToHex,
  oklchToLinear,
  rgbToHsl,
} from "./oklch";

const oklch = converter("oklch");
const hsl = converter("hsl");
const colours = [
  "#000000",
  "#ffffff",
  "#8c5a3b",
  "#1b2a8c",
  "#f5d327",
  "#2b2b33",
  "#00ff00",
  "#ff00aa",
  "#7f7f7f",
];
const asCulori = (hex: string): CuloriRgb => {
  const [r, g, b] = hexToRgb(hex);
  return { mode: "rgb", r, g, b };
};

it.each(colours)("%s has the OKLCH that an independent library gives it", (hex) => {
  const own = hexToOklch(hex);
  const other = oklch(asCulori(hex));
  expect(own.l).toBeCloseTo(other.l, 4);
  expect(own.c).toBeCloseTo(other.c, 4);
  if (other.c > 0.01) expect(own.h).toBeCloseTo(other.h ?? 0, 1);
});

it.each(colours)("%s comes back from OKLCH and from HSL", (hex) => {
  expect(oklchToHex(hexToOklch(hex))).toBe(hex);
  const own = rgbToHsl(hexToRgb(hex));
  const other = hsl(asCulori(hex));
  expect(own.l / 100).toBeCloseTo(other.l, 6);
  hslToRgb(own).forEach((v, i) => expect(v).toBeCloseTo(hexToRgb(hex)[i] as number, 6));
});

it("the greatest chroma lies just inside the gamut", () => {
  for (const h of [20, 110, 200, 300])
    for (const l of [0.2, 0.5, 0.8]) {
      const c = greatestChroma(l, h);
      expect(isInGamut(oklchToLinear({ l, c, h }))).toBe(true);
      expect(isInGamut(oklchToLinear({ l, c: c + 0.002, h }))).toBe(false);
    }
});

it("what sRGB does not have keeps its value and hue and gives up chroma", () => {
  const { l, h } = hexToOklch(oklchToHex({ l: 0.6, c: 0.4, h: 150 }));
  expect(l).toBeCloseTo(0.6, 2);
  expect(h).toBeCloseTo(150, -0.5);
});

it("orange is warm and blue is cool", () => {
  expect([60, 20, 350, 250, 180].map(isWarm)).toEqual([true, true, true, false, false]);
});

it("reads colours as people write them", () => {
  expect(["a4c", "#A4C", "aa44cc", " #AA44cc "].map(hexFromText)).toEqual([
    "#aa44cc",
    "#aa44cc",
    "#aa44cc",
    "#aa44cc",
  ]);
  expect(["", "red", "#12345", "#gggggg"].map(hexFromText)).toEqual([null, null, null, null]);
});
