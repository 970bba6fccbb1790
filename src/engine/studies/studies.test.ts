import { alphas, fingerprint, line, stroke, testWork } from "../engine.testing";
import { studiesSheet } from "./studies";

describe("a sheet of studies", () => {
  it.each([2, 3, 4, 6, 7, 9, 12])(
    "of %i frames has them in the picture's proportion, apart from each other",
    (count) => {
      const picture = { width: 6000, height: 4500 };
      const { frames, width, height } = studiesSheet(picture, count);
      expect(frames).toHaveLength(count);
      for (const { left, top, right, bottom } of frames) {
        expect((right - left) / (bottom - top)).toBeCloseTo(4 / 3, 2);
        expect(left).toBeGreaterThanOrEqual(0);
        expect(right).toBeLessThanOrEqual(width);
        expect(bottom).toBeLessThanOrEqual(height);
        const over = frames.filter(
          (other) =>
            other.left < right && other.right > left && other.top < bottom && other.bottom > top,
        );
        expect(over).toHaveLength(1);
      }
    },
  );

  it("lies as sheets lie, whatever the picture's shape", () => {
    for (const picture of [
      { width: 3000, height: 3000 },
      { width: 9000, height: 2000 },
      { width: 1200, height: 5000 },
    ]) {
      const { width, height } = studiesSheet(picture, 6);
      expect(width / height).toBeGreaterThan(0.5);
      expect(width / height).toBeLessThan(2.7);
    }
  });
});

describe("frames", () => {
  const target = { width: 600, height: 400, ppi: 300 };
  const frame = { left: 10, top: 10, right: 70, bottom: 50 };
  const other = { left: 80, top: 10, right: 140, bottom: 50 };

  it("are one step of the history", () => {
    const { work } = testWork();
    work.apply({ do: "studies.set", studies: { frames: [frame, other], target } });
    expect(work.picture.structure.studies?.frames).toEqual([frame, other]);
    work.undo();
    expect(work.picture.structure.studies).toBeNull();
  });

  it.each([
    [{ frames: [frame], target }, /frames/],
    [{ frames: Array.from({ length: 13 }, () => frame), target }, /frames/],
    [{ frames: [frame, { ...other, right: 80 }], target }, /width and a height/],
    [{ frames: [frame, { ...other, right: 9000 }], target }, /sheet is 256 × 192/],
    [{ frames: [frame, other], target: { ...target, width: 0 } }, /target.width/],
  ])("%# are refused", (studies, why) => {
    const { work } = testWork();
    expect(() => work.apply({ do: "studies.set", studies })).toThrow(why);
    expect(work.picture.structure.studies).toBeNull();
  });

  it.each(["paint", "blend"] as const)(
    "holds a stroke (%s) in the frame that it began in",
    (mode) => {
      const { engine, work } = testWork();
      const frame = { left: 30, top: 40, right: 150, bottom: 110 };
      const other = { left: 170, top: 40, right: 250, bottom: 110 };
      const target = { width: 120, height: 70, ppi: 300 };
      work.apply({ do: "studies.set", studies: { frames: [frame, other], target } });
      if (mode === "blend") work.apply(stroke(line([10, 20], [240, 170]), { size: 90 }));
      const before = alphas(engine, work);
      const across = line([60, 60], [240, 160]);
      work.apply(
        stroke(across, { brush: "round-firm", size: 50, mode, frame: 0, colour: "#c03020" }),
      );
      const after = alphas(engine, work);
      let [inside, outside] = [0, 0];
      after.forEach((alpha, i) => {
        const [x, y] = [i % 256, Math.floor(i / 256)];
        const isIn = x >= 30 && x < 150 && y >= 40 && y < 110;
        const changed = Math.abs(alpha - (before[i] as number));
        if (isIn) inside += changed;
        else outside += changed;
      });
      expect(outside).toBe(0);
      if (mode === "paint") expect(inside).toBeGreaterThan(1000);
    },
  );

  it("refuses a stroke for a study that is not there", () => {
    const { engine, work } = testWork();
    const before = fingerprint(engine, work);
    expect(() => work.apply(stroke(line([9, 9], [90, 90]), { frame: 3 }))).toThrow(/no study 4/);
    expect(fingerprint(engine, work)).toBe(before);
  });
});
