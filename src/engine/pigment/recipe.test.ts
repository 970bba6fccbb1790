import { hexToOklch, hexToRgb, rgbToHex } from "../colour/oklch";
import { colourOf, mixed, paintOf } from "./pigment";
import { testWork } from "../engine.testing";
import { recipeFor } from "./recipe";
import { type Tube, tubes, tubeSets, tubesOf } from "./tubes";

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

it("tells of every tube how it handles, and lays out sets from the box", () => {
  expect(new Set(tubes.map(({ name }) => name)).size).toBe(tubes.length);
  for (const { strength, body, granulates, stains, warmth } of tubes) {
    expect(strength).toBeGreaterThan(0);
    for (const share of [body, granulates, stains])
      expect(share).toBe(Math.min(1, Math.max(0, share)));
    expect(Math.abs(warmth)).toBeLessThanOrEqual(1);
  }
  for (const set of Object.values(tubeSets)) expect(tubesOf(set)).toHaveLength(set.length);
  expect(tubesOf(null)).toBe(tubes);
});

it("mixes from the tubes at hand alone", () => {
  const four = tubesOf(tubeSets["Four for a head"] ?? null);
  const { parts } = recipeFor("#6f7a4a", four);
  for (const part of parts) expect(four).toContain(part.tube);
  expect(recipeFor("#2a4fc0", four).off).toBeGreaterThan(recipeFor("#2a4fc0").off);
});

it.each([
  ["a tube that is not in the box", ["Ultramarine", "Moon blue"], /no tube “Moon blue”/],
  ["a tube named twice", ["Ultramarine", "Ultramarine"], /named twice/],
  ["no tube at all", [], /one tube at least/],
])("a picture refuses %s", (_, names, why) => {
  const { work } = testWork();
  expect(() => work.apply({ do: "tubes.set", tubes: names })).toThrow(why);
  expect(work.picture.structure.tubes).toBeNull();
});
