import { bandsOf, type PaperKind } from "./bands";
import { FIELD_SIDE } from "./fields";
import { heightAt, paperKinds, paperMap } from "./paper";

const at = (x: number, y: number): number => (y % FIELD_SIDE) * FIELD_SIDE + (x % FIELD_SIDE);

/** Mean step from each height to the one beside it, down one column and the next. */
function stepAcross(heights: Uint8Array, x: number): number {
  let total = 0;
  for (let y = 0; y < FIELD_SIDE; y++)
    total += Math.abs((heights[at(x, y)] as number) - (heights[at(x + 1, y)] as number));
  return total / FIELD_SIDE;
}

describe.each(Object.keys(paperKinds) as PaperKind[])("%s paper", (kind) => {
  const { coarse, fine, roughness } = bandsOf(kind);

  it.each([
    ["coarse", coarse],
    ["fine", fine],
  ])("has every height of its %s band equally often", (_, band) => {
    const bins = new Array<number>(16).fill(0);
    for (const h of band) bins[h >> 4] = (bins[h >> 4] as number) + 1;
    for (const bin of bins) expect(Math.abs(bin / band.length - 1 / 16)).toBeLessThan(0.002);
  });

  it("repeats without a seam", () => {
    let inside = 0;
    for (let x = 100; x < 164; x++) inside += stepAcross(coarse, x) / 64;
    expect(stepAcross(coarse, FIELD_SIDE - 1) / inside).toBeLessThan(1.25);
  });

  it("has a fine band that is finer than its coarse one", () => {
    expect(stepAcross(fine, 300)).toBeGreaterThan(1.1 * stepAcross(coarse, 300));
    expect(roughness).toBeGreaterThan(0);
  });

  it("is laid out between its own wrapped ends, at any scale", () => {
    const map = paperMap({ kind, scale: 0.5 });
    expect(map.period).toBe(512);
    const stride = map.period + 32;
    expect(map.bytes.length).toBe(2 * stride * (map.period + 16));
    const row = map.bytes.subarray(8 * stride, 9 * stride);
    expect([...row.subarray(0, 16)]).toEqual([...row.subarray(map.period, map.period + 16)]);
    expect([...row.subarray(16, 32)]).toEqual([...row.subarray(map.period + 16)]);
    const above = map.bytes.subarray(0, stride);
    expect([...above]).toEqual([
      ...map.bytes.subarray(map.period * stride, (map.period + 1) * stride),
    ]);
  });
});

describe("a paper at other scales", () => {
  it("is the same tooth, larger", () => {
    const own = paperMap({ kind: "laid", scale: 1 });
    const large = paperMap({ kind: "laid", scale: 2 });
    for (const [x, y] of [
      [10, 20],
      [500, 900],
      [1023, 1023],
    ] as const)
      expect(heightAt(large, 2 * x, 2 * y)).toBeCloseTo(heightAt(own, x, y), 2);
  });

  it("has every height equally often when it is smaller too", () => {
    const { period, bytes } = paperMap({ kind: "sugar", scale: 0.5 });
    let low = 0;
    for (let y = 0; y < period; y++)
      for (let x = 0; x < period; x++)
        if ((bytes[(8 + y) * (period + 32) + 16 + x] as number) < 64) low++;
    expect(low / period ** 2).toBeCloseTo(0.25, 2);
  });
});

test("a paper begun at another place is the same paper", () => {
  const own = paperMap({ kind: "laid", scale: 1 });
  const begun = paperMap({ kind: "laid", scale: 1 }, [37, -20]);
  for (const [x, y] of [
    [0, 0],
    [500, 900],
    [1000, 1010],
  ] as const)
    expect(heightAt(begun, x, y)).toBe(heightAt(own, x + 37, y - 20 + own.period));
});
