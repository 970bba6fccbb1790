import { alphas, line, stroke, testWork } from "../engine.testing";

/** A box of lines with a gap in its right side from y = 55 to y = 70, filled with a bridge. */
function filled(bridge: number, lower = 70): Float64Array {
  const { engine, work } = testWork();
  const side = (from: [number, number], to: [number, number]) =>
    stroke(line(from, to), { layer: "ink", size: 4 });
  work.apply({ do: "layer.add", id: "ink", name: "Ink", above: "a" });
  for (const command of [
    side([20, 20], [120, 20]),
    side([20, 20], [20, 110]),
    side([20, 110], [120, 110]),
    side([120, 20], [120, 55]),
    side([120, lower], [120, 110]),
  ])
    work.apply(command);
  work.apply({ do: "layer.set", id: "ink", lines: true });
  const laying = { borders: "lines", bridge, under: 2 } as const;
  work.apply({ do: "fill", layer: "a", at: [[60, 60]], colour: "#e0a040", ...laying });
  return alphas(engine, work);
}

/** Where the fill ends in a row, px: all that it covers from the middle of the box on. */
const endIn = (alpha: Float64Array, y: number): number => {
  let end = 60;
  for (let x = 60; x < 200; x++) end += alpha[y * 256 + x] as number;
  return end;
};

describe("the mouth of a bridged gap", () => {
  it("ends in an even edge from line to line", () => {
    const alpha = filled(16);
    const ends = Array.from({ length: 9 }, (_, i) => endIn(alpha, 58 + i));
    expect(Math.min(...ends)).toBeGreaterThan(118);
    expect(Math.max(...ends)).toBeLessThan(123);
    // From row to row the edge moves by less than half a pixel.
    ends
      .slice(1)
      .forEach((end, i) => expect(Math.abs(end - (ends[i] as number))).toBeLessThan(0.5));
  });

  it("has soft pixels, and none beyond the lines' ends", () => {
    const alpha = filled(16);
    const soft = alpha.filter((a) => a > 0.05 && a < 0.95).length;
    expect(soft).toBeGreaterThan(6);
    for (const y of [40, 50, 76, 90])
      for (let x = 124; x < 140; x++) expect(alpha[y * 256 + x]).toBe(0);
  });

  it("changes nothing where no gap was bridged", () => {
    expect(filled(16, 50)).toEqual(filled(0, 50));
  });
});
