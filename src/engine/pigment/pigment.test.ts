import { hexToOklch, hexToRgb, rgbToHex, rgbToOklch } from "../colour/oklch";
import { colourOf, evenShare, mixed, type Paint, paintOf, stringOf } from "./pigment";

const paint = (hex: string): Paint => paintOf(hexToRgb(hex));
const half = (a: string, b: string) =>
  rgbToOklch(
    colourOf(
      mixed([
        [1, paint(a)],
        [1, paint(b)],
      ]),
    ),
  );

it("brings every colour back exactly", () => {
  for (let r = 0; r <= 255; r += 15)
    for (let g = 0; g <= 255; g += 15)
      for (let b = 0; b <= 255; b += 15) {
        const hex = rgbToHex([r / 255, g / 255, b / 255]);
        expect(rgbToHex(colourOf(paint(hex)))).toBe(hex);
      }
});

it("keeps scattering and taking up in one law, for mixtures too", () => {
  const weights = [0.029809, 0.087808, 0.08542, 0.170317, 0.176819, 0.135551, 0.314275];
  const blue = paint("#1b2a8c");
  const total = (one: Paint): number =>
    one.reduce((sum, k, j) => sum + k * (weights[j] as number), 0);
  const both = mixed([
    [3, blue],
    [1, paint("#f5d327")],
  ]);
  expect(total(both)).toBeCloseTo(0.75 * total(blue) + 0.25 * total(paint("#f5d327")), 12);
  expect(total(paint("#000000")) / 1.1888).toBeLessThan(1);
});

it("does not mind in which order it is stirred", () => {
  const [a, b, c] = [paint("#a02030"), paint("#208050"), paint("#e8d0a0")];
  const first = mixed([
    [
      2,
      mixed([
        [1, a],
        [1, b],
      ]),
    ],
    [3, c],
  ]);
  const second = mixed([
    [3, c],
    [1, b],
    [1, a],
  ]);
  first.forEach((k, j) => expect(k).toBeCloseTo(second[j] as number, 12));
});

describe("what painters know", () => {
  // Lightness, chroma and hue in OKLCH at half and half.
  it("blue and yellow make green", () => {
    const deep = half("#1b2a8c", "#f5d327");
    expect(deep.l).toBeCloseTo(0.56, 1);
    expect(deep.c).toBeCloseTo(0.082, 2);
    expect(Math.abs(deep.h - 131)).toBeLessThan(3);
  });

  it("red and green make a dull brown, yellow and black an olive", () => {
    const brown = half("#c02020", "#208030");
    expect(brown.c).toBeLessThan(0.06);
    expect(brown.h).toBeGreaterThan(40);
    expect(brown.h).toBeLessThan(110);
    const olive = half("#f5d327", "#101010");
    expect(olive.h).toBeGreaterThan(100);
    expect(olive.h).toBeLessThan(125);
  });

  it("a little white makes a deep blue more colourful, not only lighter", () => {
    const navy = hexToOklch("#141c50");
    const tints = stringOf("#141c50", "#ffffff", 9).map(hexToOklch);
    expect(Math.max(...tints.map(({ c }) => c))).toBeGreaterThan(1.1 * navy.c);
  });
});

it("strings look even, and hold both ends", () => {
  expect([evenShare(0), evenShare(0.5), evenShare(1)]).toEqual([0, 0.5, 1]);
  const string = stringOf("#1b2a8c", "#f5d327", 7);
  expect([string[0], string[6]]).toEqual(["#1b2a8c", "#f5d327"]);
  const lights = string.map((hex) => hexToOklch(hex).l);
  for (let i = 1; i < lights.length; i++)
    expect(lights[i] as number).toBeGreaterThan(lights[i - 1] as number);
});

it("a mixture of nothing is refused", () => {
  expect(() => mixed([[0, paint("#ffffff")]])).toThrow("a mixture has parts above 0, not 0 in all");
});
