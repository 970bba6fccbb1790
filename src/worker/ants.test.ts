import { testWork } from "../engine/engine.testing";
import { outline } from "./ants";
import { copySelected } from "./clipping";
import { RegionLooker } from "./region-look";
import { type View } from "./view";
import { readPng } from "../engine/file/png";
import { line, stroke } from "../engine/engine.testing";

const view: View = { x: 128, y: 96, zoom: 1, angle: 0, mirrored: false };
const screen = { width: 256, height: 192 };

const box = (left: number, top: number, right: number, bottom: number) => ({
  do: "select" as const,
  shape: { kind: "box" as const, box: { left, top, right, bottom } },
});

test("ants walk along the edge of what is selected, wherever the view is", () => {
  const { engine, work } = testWork();
  work.apply(box(40, 40, 200, 150));
  const count = (seen: Uint8ClampedArray): number =>
    seen.reduce((n, v, i) => n + (i % 4 === 3 && v > 0 ? 1 : 0), 0);
  const whole = outline(work.picture, engine.store, view, screen);
  // Seen from above and from the left: the corner where both meet counts once.
  expect(count(whole)).toBe(2 * 160 + 2 * 110 - 1);
  expect(whole[(39 * 256 + 100) * 4 + 3]).toBe(255);
  expect(whole[(90 * 256 + 100) * 4 + 3]).toBe(0);
  const near = outline(work.picture, engine.store, { ...view, zoom: 4 }, screen);
  expect(count(near)).toBe(0);
  work.release();
});

test("what is copied is what is selected, and where it lay", () => {
  const { engine, work } = testWork();
  work.apply(stroke(line([10, 100], [240, 100]), { size: 20, colour: "#a04020" }));
  work.apply(box(60, 60, 100, 140));
  const clipping = copySelected(engine, work.picture, ["a"]);
  expect([clipping.x, clipping.width]).toEqual([60, 40]);
  const { data, width, height } = readPng(clipping.png);
  expect([width, height]).toEqual([clipping.width, clipping.height]);
  const middle = (Math.floor(height / 2) * width + 20) * 4;
  expect([...data.slice(middle, middle + 4)]).toEqual([0xa0, 0x40, 0x20, 255]);
  work.apply(box(0, 0, 20, 20));
  expect(() => copySelected(engine, work.picture, ["a"])).toThrow("nothing");
  work.release();
});

test("a region is looked at before it is taken, and looked at anew when the picture changed", () => {
  const { engine, work } = testWork();
  const choice = { layer: "a", borders: "layer" as const, tolerance: 0.2, bridge: 0 };
  const looker = new RegionLooker(engine, work);
  const inside = (): number =>
    looker.at(20, 20, choice, false)?.data.reduce((n, v) => n + (v ? 1 : 0), 0) ?? 0;
  expect(inside()).toBe(256 * 192);
  work.apply(stroke(line([128, -10], [128, 210]), { size: 12 }));
  expect(inside()).toBeLessThan(256 * 192 * 0.52);
  expect(looker.at(-4, 20, choice, true)).toBeNull();
  expect(looker.at(20, 20, choice, true)?.leak).toBeNull();
  looker.free();
  work.release();
});
