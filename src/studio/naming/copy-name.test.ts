import { copyName } from "./copy-name";

it.each([
  ["Ink", [], "Ink copy"],
  ["Ink copy", [], "Ink copy"],
  ["Ink", ["Ink copy"], "Ink copy 2"],
  ["Ink copy 2", ["Ink copy", "Ink copy 2"], "Ink copy 3"],
  ["Photocopy", [], "Photocopy copy"],
])("a copy of “%s” beside %j is called “%s”", (name, taken, expected) => {
  expect(copyName(name, taken, 120)).toBe(expected);
});

it("is no longer than a name may be", () => {
  expect(copyName("x".repeat(120), [], 120)).toHaveLength(120);
});
