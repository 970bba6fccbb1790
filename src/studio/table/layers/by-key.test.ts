import { blendModes } from "../../../engine/compose/blend-modes";
import { blendAfter, opacityAfter } from "./by-key";

test("opacity goes in even steps, and no farther than nothing and all", () => {
  expect(opacityAfter({ opacity: 1 }, 1)).toBe(1);
  expect(opacityAfter({ opacity: 0 }, -1)).toBe(0);
  expect(opacityAfter({ opacity: 0.5 }, 1)).toBeCloseTo(0.55, 9);
  // What was set by hand falls back onto the steps.
  expect(opacityAfter({ opacity: 0.333 }, -1)).toBeCloseTo(0.3, 9);
  let opacity = 1;
  for (let i = 0; i < 20; i++) opacity = opacityAfter({ opacity }, -1);
  expect(opacity).toBe(0);
});

test("blend modes come one after the other, each once, and round again; back is the same way", () => {
  let blend = blendModes[0] as (typeof blendModes)[number];
  const met = blendModes.map(() => (blend = blendAfter({ blend }, 1)));
  expect(new Set(met).size).toBe(blendModes.length);
  expect(blend).toBe(blendModes[0]);
  for (const mode of blendModes)
    expect(blendAfter({ blend: blendAfter({ blend: mode }, 1) }, -1)).toBe(mode);
});
