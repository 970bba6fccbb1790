import { line, pixel, stroke, testWork } from "../engine.testing";
import { readPng } from "../file/png";
import { writePicturePng } from "../file/render";
import { decode } from "fast-png";
import { flatten, layerRows } from "./flatten";

describe("flattening", () => {
  const picture = () => {
    const { engine, work } = testWork({ width: 150, height: 90, ground: "#204060" });
    work.apply(
      stroke(line([20, 45], [130, 45]), {
        brush: "round-soft",
        size: 60,
        colour: "#e0a040",
        strength: 0.6,
      }),
    );
    return { engine, work };
  };

  it("with the ground is opaque and lies over it", () => {
    const { engine, work } = picture();
    const { data } = readPng(writePicturePng(engine, work, { depth: 8, ground: true }));
    const [r, g, b, a] = pixel(engine, work, "a", 75, 45) as [number, number, number, number];
    const expected = [r, g, b].map(
      (v, c) => v + ((([0x20, 0x40, 0x60][c] as number) * 32767) / 255) * (1 - a / 32767),
    );
    const at = (45 * 150 + 75) * 4;
    expected.forEach((v, c) =>
      expect(Math.abs((v * 255) / 32767 - (data[at + c] as number))).toBeLessThan(0.6),
    );
    expect([...data.subarray(0, 4)]).toEqual([0x20, 0x40, 0x60, 255]);
  });

  it("without it keeps straight colour and alpha", () => {
    const { engine, work } = picture();
    const { data } = readPng(writePicturePng(engine, work, { depth: 8, ground: false }));
    expect([...data.subarray(0, 4)]).toEqual([0, 0, 0, 0]);
    const at = (45 * 150 + 75) * 4;
    [0xe0, 0xa0, 0x40].forEach((v, c) =>
      expect(Math.abs(v - (data[at + c] as number))).toBeLessThanOrEqual(1),
    );
    const alpha = pixel(engine, work, "a", 75, 45)[3] as number;
    expect(data[at + 3]).toBe(Math.round((alpha * 255) / 32767));
  });

  it("in 16 bits tells apart what 8 bits cannot", () => {
    const { engine, work } = picture();
    const deep = decode(writePicturePng(engine, work, { depth: 16, ground: true }));
    const flat = decode(writePicturePng(engine, work, { depth: 8, ground: true }));
    const values = (png: typeof deep): number => new Set(png.data).size;
    expect(values(deep)).toBeGreaterThan(3 * values(flat));
    deep.data.forEach((v, i) => {
      if (Math.abs(v / 257 - (flat.data[i] as number)) > 0.6)
        throw new Error(`sample ${i}: ${v} is not ${flat.data[i]}`);
    });
  });

  it("tells its progress from 0 to 1, and stops when told", () => {
    const { engine, work } = picture();
    const shares: number[] = [];
    const rows = { depth: 8 as const, alpha: true, row: () => undefined };
    layerRows(work.picture, engine.store, "a", rows, (share) => shares.push(share));
    expect([shares[0], shares.at(-1)]).toEqual([0, 1]);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    const resident = engine.store.residentBytes;
    expect(() =>
      flatten(work.picture, engine.store, engine.workforce, true, rows, () => {
        throw new Error("enough");
      }),
    ).toThrow("enough");
    expect(engine.store.residentBytes).toBe(resident);
  });
});
