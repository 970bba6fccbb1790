import { StandInPen } from "./stand-in-pen";
import { fromPixels, sizeInWords, toPixels } from "../../files/lengths";
import { purposes } from "../../portfolio/purposes";
import { positionOf, sizeAt } from "../table-store";

/** Pressure after moving at a steady speed, px a second. */
function settled(speed: number): number {
  const pen = new StandInPen();
  let pressure = 0;
  for (let t = 0; t < 1500; t += 8) pressure = pen.press(t, (speed * t) / 1000, 0);
  return pressure;
}

describe("the stand-in pen", () => {
  it("presses less the quicker it goes, within what a pen can press", () => {
    const pressures = [10, 200, 900, 3000, 20000].map(settled);
    pressures.slice(1).forEach((p, i) => expect(p).toBeLessThan(pressures[i] as number));
    for (const p of pressures) expect(p > 0.1 && p < 0.9).toBe(true);
  });

  it("never jumps", () => {
    const pen = new StandInPen();
    let last = pen.press(0, 0, 0);
    for (let i = 1; i < 100; i++) {
      const now = pen.press(i * 8, i % 20 < 10 ? i : i * 40, 0);
      expect(Math.abs(now - last)).toBeLessThan(0.08);
      last = now;
    }
  });
});

describe("sizes", () => {
  it("of sheets are those of the standards", () => {
    const a4 = purposes[0];
    expect(a4 && [toPixels(a4.width, a4.unit, 300), toPixels(a4.height, a4.unit, 300)]).toEqual([
      2480, 3508,
    ]);
    expect(toPixels(8.5, "in", 300)).toBe(2550);
    expect(fromPixels(2480, "mm", 300)).toBeCloseTo(210, 0);
    expect(fromPixels(2480, "px", 300)).toBe(2480);
  });

  it("are told in words", () => {
    expect([12, 45_600, 7_340_000, 2.5e9].map(sizeInWords)).toEqual([
      "12 bytes",
      "46 KB",
      "7.3 MB",
      "2.5 GB",
    ]);
  });

  it("of brushes run from a half to 2000 px along the slider", () => {
    expect([sizeAt(0), sizeAt(1)]).toEqual([0.5, 2000]);
    for (const size of [0.5, 6, 48, 700]) expect(sizeAt(positionOf(size))).toBeCloseTo(size, 0);
  });
});
