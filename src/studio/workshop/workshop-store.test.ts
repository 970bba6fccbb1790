import { seenOn } from "./workshop-store";

it.each([
  ["light", "#2b2b33", "#f4efe6", "#2b2b33"],
  ["dark", "#2b2b33", "#f4efe6", "#f4efe6"],
  ["dark", "#c0562f", "#f4efe6", "#c0562f"],
  ["mid", "#99938a", "#f4efe6", "#f4efe6"],
  ["light", "#f1ede3", "#f4efe6", "#f4efe6"],
] as const)("on %s paper, of %s and %s the strip shows %s", (ground, first, second, shown) => {
  expect(seenOn(ground, first, second)).toBe(shown);
});
