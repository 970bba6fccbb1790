import { testWork, writeStraight } from "../engine/engine.testing";
import { linearToSrgb, srgbToLinear } from "../engine/colour/oklch";
import { MOST_PICK_RADIUS, pickedColour } from "./picking";

const { engine, work } = testWork();
writeStraight(work, "a", (x, y) =>
  y > 150
    ? [0, 0, 0, 0]
    : y > 130
      ? [200, 40, 30, 60]
      : x % 2
        ? [255, 255, 255, 255]
        : [0, 0, 0, 255],
);

const pick = (x: number, y: number, radius = 0): string | null =>
  pickedColour(engine.store.heap, work.picture, [x, y], radius, (keys, take) => {
    for (const key of keys) {
      const tile = work.picture.plane("a").get(key);
      if (tile) take(key, engine.store.address(tile));
    }
  });

it("is the very pixel without a radius", () => {
  expect([pick(10, 10), pick(11.9, 10.5)]).toEqual(["#000000", "#ffffff"]);
});

it("is the mean of light in a disc: half black and half white is not the middle of the code", () => {
  let white = 0;
  let all = 0;
  for (let dy = -20; dy <= 20; dy++)
    for (let dx = -20; dx <= 20; dx++) {
      if (dx * dx + dy * dy > 20.5 ** 2) continue;
      all++;
      if ((64 + dx) % 2) white++;
    }
  const expected = Math.round(linearToSrgb(white / all) * 255);
  const hex = pick(64, 64, 20) as string;
  expect(parseInt(hex.slice(1, 3), 16)).toBe(expected);
  expect(srgbToLinear(expected / 255)).toBeCloseTo(0.5, 1);
});

it("takes thin paint for its own colour, and bare places for nothing", () => {
  expect(pick(40, 140)).toBe("#c8281e");
  expect(pick(40, 150, 3)).toBe("#c8281e");
  expect(pick(40, 170)).toBeNull();
  expect(pick(40, 170, 4)).toBeNull();
});

it("stays on the sheet, and within its greatest radius", () => {
  expect([pick(-1, 5), pick(256, 5), pick(5, 192)]).toEqual([null, null, null]);
  expect(pick(0, 0, 3)).toMatch(/^#(..)\1\1$/);
  expect(pick(100, 60, 1e6)).toBe(pick(100, 60, MOST_PICK_RADIUS));
});
