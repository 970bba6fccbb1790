import { hexToRgb, rgbToOklch } from "../engine/colour/oklch";
import { colourOf } from "../engine/pigment/pigment";
import { loadOf, wiped } from "../engine/oil/carried";
import { BrushesInHand } from "./brushes-in-hand";

const blue = { colour: "#2a4fc0", strength: 0.8 };
const yellow = { colour: "#f2d024", strength: 0.8 };
const hueOf = (strip: readonly number[] | undefined): number =>
  rgbToOklch(colourOf((strip ?? []).slice(1))).h;

it("a brush that is new is dipped for its first stroke, as full as it is asked to be", () => {
  const hands = new BrushesInHand();
  expect(hands.of("oil-flat")).toBeNull();
  expect(loadOf(hands.begin("oil-flat", blue))).toBeCloseTo(0.8, 5);
});

it("goes on with what a stroke has left, until another colour is chosen: that stains", () => {
  const hands = new BrushesInHand();
  const left = wiped(hands.begin("oil-flat", blue));
  hands.left("oil-flat", left, blue.colour);
  expect(hands.begin("oil-flat", blue)).toBe(left);
  const next = hands.begin("oil-flat", yellow);
  expect(loadOf(next)).toBeCloseTo(0.8, 5);
  expect(hueOf(next[0])).toBeGreaterThan(rgbToOklch(hexToRgb(yellow.colour)).h + 10);
});

it("rinsed it stays clean, also for the next stroke; dipped it is full again", () => {
  const hands = new BrushesInHand();
  hands.begin("oil-flat", blue);
  hands.care("oil-flat", "wipe", blue);
  expect(hands.loadOf("oil-flat")).toBeCloseTo(0.16, 5);
  hands.care("oil-flat", "rinse", blue);
  expect(loadOf(hands.begin("oil-flat", blue))).toBe(0);
  hands.care("oil-flat", "dip", yellow);
  expect(hueOf(hands.of("oil-flat")?.[0])).toBeCloseTo(rgbToOklch(hexToRgb(yellow.colour)).h, 0);
});

it("each brush keeps its own", () => {
  const hands = new BrushesInHand();
  hands.begin("oil-flat", blue);
  hands.begin("oil-round", yellow);
  expect(hueOf(hands.of("oil-flat")?.[0])).not.toBeCloseTo(hueOf(hands.of("oil-round")?.[0]), 0);
});
