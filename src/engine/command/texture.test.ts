import { heightAt, paperMap } from "../paper/paper";
import { alphaAt, pixel, testEngine, testHeader, writeStraight } from "../engine.testing";
import { ONE } from "../tiles/layout";
import { readWorkLog, scaleWorkLog, writeWorkLog } from "./work-log";
import { type Work } from "./work";

const engine = testEngine();

function sheet(at: (x: number, y: number) => readonly number[]): Work {
  const work = engine.open(testHeader({ width: 200, height: 160 }));
  work.apply({ do: "layer.add", id: "a", name: "Flat", above: null });
  work.apply({ do: "layer.add", id: "top", name: "Top", above: "a" });
  writeStraight(work, "a", at);
  return work;
}

const half = (x: number): readonly number[] => (x < 100 ? [90, 80, 140, 255] : [0, 0, 0, 0]);
const texture = {
  do: "texture" as const,
  layer: "a",
  id: "t",
  name: "Texture",
  paper: { kind: "laid" as const, scale: 2 },
  colour: "#804020",
  strength: 0.3,
};

test("a texture is as deep as the paper, in one colour, on a layer clipped to what it lies on", () => {
  const work = sheet(half);
  work.apply(texture);
  expect(work.picture.structure.layers.map(({ id, clip }) => [id, clip])).toEqual([
    ["a", false],
    ["t", true],
    ["top", false],
  ]);
  const map = paperMap(texture.paper);
  let sum = 0;
  for (let y = 0; y < 160; y++)
    for (let x = 0; x < 100; x++) {
      const height = heightAt(map, x, y);
      const alpha = alphaAt(engine, work, "t", x, y);
      sum += alpha;
      if (Math.abs(alpha - 0.3 * (1 - height)) > 1e-3) throw new Error(`${x}, ${y}: ${alpha}`);
    }
  // Heights are evenly spread, so on the whole it is half as strong as in its hollows.
  expect(sum / 16_000).toBeCloseTo(0.15, 1);
  expect(alphaAt(engine, work, "t", 150, 80)).toBe(0);
  const [r, g, b, a] = pixel(engine, work, "t", 33, 47).map((v) => v / ONE) as [
    number,
    number,
    number,
    number,
  ];
  expect(r / a).toBeCloseTo(0x80 / 255, 2);
  expect(g / a).toBeCloseTo(0x40 / 255, 2);
  expect(b / a).toBeCloseTo(0x20 / 255, 2);
  work.undo();
  expect(work.picture.structure.layers).toHaveLength(2);
  work.release();
});

test.each([
  [{ layer: "top" }, "holds nothing"],
  [{ layer: "nobody" }, "no layer"],
  [{ id: "top" }, "already"],
  [{ strength: 0 }, "strength"],
  [{ paper: { kind: "picture", scale: 1 } }, "picture"],
])("a texture that cannot be laid is refused with a word: %j", (changes, word) => {
  const work = sheet(half);
  expect(() => work.apply({ ...texture, ...changes })).toThrow(word);
  expect(work.picture.structure.layers).toHaveLength(2);
  work.release();
});

test("on a sheet twice as large its grain is twice as large", () => {
  const header = testHeader();
  const log = writeWorkLog(header, [texture]);
  const [command] = scaleWorkLog(readWorkLog(log), 2).commands;
  expect(command).toMatchObject({ paper: { kind: "laid", scale: 4 } });
});

describe("pictures of depth and of ids", () => {
  test("haze lies where the depth picture is light, as thickly as it is", () => {
    const work = sheet((x) => {
      const v = Math.round((x / 199) * 255);
      return [v, v, v, 255];
    });
    work.apply({
      do: "together",
      label: "haze",
      steps: [
        {
          do: "layer.add",
          id: "h",
          name: "Haze",
          above: "top",
          kind: "fill",
          paint: { kind: "colour", colour: "#a0b0c0" },
        },
        { do: "mask.add", id: "h", from: { kind: "layer", layer: "a", by: "light" } },
        { do: "layer.set", id: "a", visible: false },
      ],
    });
    const held = (x: number): number => {
      const tile = work.picture.plane("h", "mask").get(((80 >> 6) << 8) | (x >> 6));
      if (!tile) return 0;
      const at =
        (engine.store.address(tile) >> 1) + (80 & 63) * 256 + ((x & 63) >> 3) * 32 + 24 + (x & 7);
      return (engine.store.heap.u16[at] as number) / ONE;
    };
    expect(held(0)).toBeCloseTo(1, 2);
    expect(held(199)).toBeCloseTo(0, 2);
    for (let x = 4; x < 200; x += 4) expect(held(x)).toBeLessThanOrEqual(held(x - 4));
    expect(work.undo()).toBe("haze");
    expect(work.picture.layer("a").visible).toBe(true);
    work.release();
  });

  test("an id is selected from a hidden picture, everywhere it is met and nowhere else", () => {
    const ids = ["#c01020", "#10c020", "#1020c0"];
    const work = sheet((x, y) => {
      const hex = ids[(Math.floor(x / 40) + Math.floor(y / 40)) % 3] as string;
      return [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)).concat(255);
    });
    work.apply({ do: "layer.set", id: "a", visible: false });
    work.apply({
      do: "select",
      shape: { kind: "colour", layer: "a", at: [10, 10], borders: "layer", tolerance: 0.004 },
    });
    for (let y = 2; y < 160; y += 9)
      for (let x = 2; x < 200; x += 9) {
        const isSame = (Math.floor(x / 40) + Math.floor(y / 40)) % 3 === 0;
        expect(alphaAt(engine, work, "(selection)", x, y)).toBe(isSame ? 1 : 0);
      }
    work.release();
  });
});
