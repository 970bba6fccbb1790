import { hexToOklch, hexToRgb, rgbToHex } from "../colour/oklch";
import { colourOf, mixed, paintOf } from "./pigment";
import { recipeFor } from "./recipe";
import { type Tube, tubes } from "./tubes";

const tube = (name: string): Tube => {
  const known = tubes.find((one) => one.name === name);
  if (!known) throw new Error(`there is no tube ${name}`);
  return known;
};

it("finds a tube by its own colour", () => {
  for (const name of ["Ultramarine", "Yellow ochre", "Titanium white"]) {
    const { parts, off } = recipeFor(tube(name).colour);
    expect(parts).toEqual([{ tube: tube(name), parts: 1 }]);
    expect(off).toBeLessThan(1e-5);
  }
});

it("finds what was mixed, its stronger tubes in fewer parts", () => {
  const [green, white] = [tube("Phthalo green"), tube("Titanium white")];
  const colour = rgbToHex(
    colourOf(
      mixed([
        [1 * green.strength, paintOf(hexToRgb(green.colour))],
        [5 * white.strength, paintOf(hexToRgb(white.colour))],
      ]),
    ),
  );
  const { parts, off } = recipeFor(colour, [green, white, tube("Cadmium red")]);
  expect(parts).toEqual([
    { tube: white, parts: 5 },
    { tube: green, parts: 1 },
  ]);
  expect(off).toBeLessThan(0.003);
});

it("comes near every colour that paint can have, and says how near", () => {
  for (const hex of ["#6b8e3c", "#c9a27e", "#3a4a5c", "#7a2f4a", "#d8c8b0", "#54381f"]) {
    const { colour, off, parts } = recipeFor(hex);
    expect(off).toBeLessThan(0.03);
    expect(parts.length).toBeLessThanOrEqual(3);
    const [wanted, made] = [hexToOklch(hex), hexToOklch(colour)];
    expect(Math.abs(wanted.l - made.l)).toBeLessThanOrEqual(off + 0.003);
  }
  // No paint is as bright as a screen.
  expect(recipeFor("#00ff00").off).toBeGreaterThan(0.1);
});

it("is not mixed from nothing", () => {
  expect(() => recipeFor("#808080", [])).toThrow("one tube at least, not none");
});
