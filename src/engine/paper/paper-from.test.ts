import { fromBase64, toBase64 } from "../file/base64";
import { readPng, writePng } from "../file/png";
import { alphas, line, stroke, sum, testWork } from "../engine.testing";
import { paperBands, type Paper, PICTURE_SIDE } from "./paper";
import { paperFrom } from "./paper-from";

/** A picture of a weave, lit from one side. */
function weave(width: number, height: number): { width: number; height: number; data: Uint8Array } {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = 60 + (110 * x) / width;
      const tooth = 28 * Math.sin(x * 0.41) * Math.sin(y * 0.37);
      data.fill(light + tooth, (y * width + x) * 4, (y * width + x) * 4 + 3);
      data[(y * width + x) * 4 + 3] = 255;
    }
  return { width, height, data };
}

/** Made once: it takes a while. */
const woven = paperFrom(weave(700, 600));

const paper = (picture: string): Paper => ({ kind: "picture", scale: 1, picture });

it("has every height equally often, whatever light lay on the picture", () => {
  const heights = paperBands(paper(woven)).coarse;
  expect(sum(heights) / heights.length / 255).toBeCloseTo(0.5, 3);
  const third = (from: number): number => {
    let total = 0;
    for (let y = 0; y < PICTURE_SIDE; y++)
      for (let x = from; x < from + 128; x++) total += heights[y * 2 * PICTURE_SIDE + x] as number;
    return total / (128 * PICTURE_SIDE) / 255;
  };
  expect(Math.abs(third(0) - third(384))).toBeLessThan(0.08);
});

it("repeats without a seam", () => {
  const { data } = readPng(fromBase64(woven));
  const step = (a: number, b: number): number =>
    Math.abs((data[a * 4] as number) - (data[b * 4] as number));
  let seam = 0;
  let inside = 0;
  for (let i = 0; i < PICTURE_SIDE; i++) {
    seam += step(i * PICTURE_SIDE, i * PICTURE_SIDE + PICTURE_SIDE - 1);
    seam += step(i, i + (PICTURE_SIDE - 1) * PICTURE_SIDE);
    inside +=
      step(i * PICTURE_SIDE + 255, i * PICTURE_SIDE + 256) +
      step(i + 255 * PICTURE_SIDE, i + 256 * PICTURE_SIDE);
  }
  expect(seam / inside).toBeLessThan(1.4);
});

it("is drawn on: another paper, another grain; kept in the log and undone", () => {
  const { engine, work } = testWork();
  const drawn = (): string => {
    work.apply(stroke(line([20, 60], [230, 60]), { brush: "pencil-6b", size: 30 }));
    const seen = alphas(engine, work).join(" ");
    work.undo();
    return seen;
  };
  const smooth = drawn();
  work.apply({ do: "picture.set", paper: paper(woven) });
  const rough = drawn();
  expect(rough).toMatch(/0\.[1-9]/);
  expect(rough === smooth).toBe(false);
  expect(drawn() === rough).toBe(true);
  work.undo();
  expect(drawn() === smooth).toBe(true);
});

describe("is refused", () => {
  it("where the picture is too small, or even", () => {
    expect(() => paperFrom(weave(40, 400))).toThrow(/at least 64/);
    const even = { width: 100, height: 100, data: new Uint8Array(40000).fill(200) };
    expect(() => paperFrom(even)).toThrow(/no tooth/);
  });

  it("where a log's paper has no picture, one of another size, or none of its kind", () => {
    const { work } = testWork();
    const set = (own: object): void => void work.apply({ do: "picture.set", paper: own });
    expect(() => set({ kind: "picture", scale: 1 })).toThrow(/paper.picture/);
    expect(() => set({ kind: "laid", scale: 1, picture: "AAAA" })).toThrow(/paper.picture/);
    const small = toBase64(writePng(weave(64, 64)));
    expect(() => paperBands(paper(small))).toThrow(/512 × 512 px, not 64 × 64/);
  });
});
