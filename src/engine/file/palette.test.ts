import { readPalette, writePalette, paletteFormats } from "./palette";

const colours = [
  { hex: "#1d2b3a", name: "Night blue" },
  { hex: "#e8b04a", name: "Brass {lamp}." },
  { hex: "#e8b04a", name: "Brass {lamp}." },
  { hex: "#ffffff", name: "" },
];

test.each(paletteFormats)("a palette written as %s is read back", (format) => {
  const read = readPalette(writePalette({ name: "Quillmoor <night>", colours }, format), "p.txt");
  expect(read.colours.map(({ hex }) => hex)).toEqual(colours.map(({ hex }) => hex));
  if (format !== "list") {
    expect(read.name).toContain("Quillmoor");
    expect(read.colours[0]?.name).toBe("Night blue");
  }
});

test("design tokens of other hands: nested groups, inherited types, other colour spaces", () => {
  const text = JSON.stringify({
    depot: {
      $type: "color",
      wall: { $value: "#abc" },
      lamp: { warm: { $value: { colorSpace: "srgb", components: [1, 0.5, 0] } } },
      sky: { $value: { colorSpace: "oklch", components: [0.6, 0.1, 250] } },
    },
    space: { $type: "dimension", gap: { $value: "4px" } },
  });
  const { name, colours: read } = readPalette(text, "tokens.json");
  expect(name).toBe("depot");
  expect(read.slice(0, 2)).toEqual([
    { hex: "#aabbcc", name: "wall" },
    { hex: "#ff8000", name: "warm" },
  ]);
  expect(read[2]?.hex).toMatch(/^#[0-9a-f]{6}$/);
});

test("a list with short colours, names and commas", () => {
  expect(readPalette("#a4c night coat\nAA44CC, 123456", "coat.txt").colours).toEqual([
    { hex: "#aa44cc", name: "night coat" },
    { hex: "#aa44cc", name: "" },
    { hex: "#123456", name: "" },
  ]);
});

test.each([
  ["", "no colours"],
  ["#12", "no colour"],
  ["{", "not JSON"],
  ['{"a":{"$type":"color","$value":{"colorSpace":"lab","components":[1,2,3]}}}', "read"],
  ["<svg><!DOCTYPE x></svg>", "entities"],
  ["<svg><rect", "not readable"],
  [`${"#111111\n".repeat(300)}`, "300"],
])("%j is refused with a reason", (text, word) => {
  expect(() => readPalette(text, "x")).toThrow(word);
});
