import { grainMap, PAPER_SIDE, paperHeights, paperKinds, type PaperKind } from "./paper";

describe.each(Object.keys(paperKinds) as PaperKind[])("%s paper", (kind) => {
  const heights = paperHeights(kind);

  it("has every height equally often: mean one half, flat histogram", () => {
    const bins = new Array<number>(16).fill(0);
    let total = 0;
    heights.forEach((h) => {
      total += h;
      bins[h >> 12] = (bins[h >> 12] as number) + 1;
    });
    expect(total / heights.length / 65535).toBeCloseTo(0.5, 3);
    for (const bin of bins) expect(Math.abs(bin / heights.length - 1 / 16)).toBeLessThan(0.001);
  });

  it("tiles without a seam", () => {
    const step = (a: number, b: number): number =>
      Math.abs((heights[a] as number) - (heights[b] as number));
    let seam = 0;
    let inside = 0;
    for (let y = 0; y < PAPER_SIDE; y++) {
      seam += step(y * PAPER_SIDE, y * PAPER_SIDE + PAPER_SIDE - 1);
      inside += step(y * PAPER_SIDE + 200, y * PAPER_SIDE + 201);
    }
    expect(seam / inside).toBeLessThan(1.25);
  });

  it("is larger at a larger scale, and wraps", () => {
    const { period, heights: map } = grainMap({ kind, scale: 2 });
    expect(period).toBe(1024);
    const row = map.subarray(0, period + 16);
    expect(row[0]).toBe(row[period]);
    expect(row[8]).toBe(row[period + 8]);
    expect(row[8]).toBe(heights[0]);
  });
});
