import { fittedSize, shrunk } from "./shrink";

const flat = (width: number, height: number, pixel: number[], deep = false) => {
  const data = deep ? new Uint16Array(width * height * 4) : new Uint8Array(width * height * 4);
  for (let i = 0; i < data.length; i += 4) data.set(pixel, i);
  return { width, height, data };
};

test.each([
  [{ width: 4000, height: 2000 }, { width: 1000, height: 1000 }, [1000, 500]],
  [{ width: 300, height: 200 }, { width: 1000, height: 1000 }, [300, 200]],
  [{ width: 12000, height: 1 }, { width: 100, height: 100 }, [100, 1]],
])("%j fits into %j", (size, into, [width, height]) => {
  expect(fittedSize(size, into)).toEqual({ width, height });
});

test.each([
  [[200, 120, 40, 255], false],
  [[51234, 777, 65535, 65535], true],
  [[10, 20, 30, 90], false],
] as [number[], boolean][])("one colour stays that colour at its depth: %j", (pixel, deep) => {
  const { data } = shrunk(flat(37, 23, pixel, deep), { width: 10, height: 7 });
  expect(data instanceof Uint16Array).toBe(deep);
  for (let i = 0; i < data.length; i++)
    expect(Math.abs((data[i] as number) - (pixel[i % 4] as number))).toBeLessThanOrEqual(1);
});

test("stripes of black and white become the grey of half the light", () => {
  const image = flat(64, 2, [0, 0, 0, 255]);
  for (let i = 0; i < 128; i += 2) image.data.set([255, 255, 255, 255], i * 4);
  const { data } = shrunk(image, { width: 16, height: 1 });
  // 188/255 is sRGB for one half.
  for (let x = 0; x < 16; x++) expect(data[x * 4]).toBe(188);
});

test("clear pixels lend no colour, and cover as much less", () => {
  const image = flat(2, 1, [255, 0, 0, 255]);
  image.data.set([0, 255, 0, 0], 4);
  expect([...shrunk(image, { width: 1, height: 1 }).data]).toEqual([255, 0, 0, 128]);
});

test("a ramp keeps its mean, whatever the two sizes have to do with each other", () => {
  const image = flat(101, 1, [0, 0, 0, 65535], true);
  for (let x = 0; x < 101; x++) image.data.set([0, 0, 0, Math.round((x / 100) * 65535)], x * 4);
  const { data } = shrunk(image, { width: 7, height: 1 });
  const alphas = Array.from({ length: 7 }, (_, x) => (data[x * 4 + 3] as number) / 65535);
  expect(alphas.reduce((sum, a) => sum + a, 0) / 7).toBeCloseTo(0.5, 3);
  alphas.forEach((a, x) => expect(a).toBeCloseTo(((x + 0.5) * (101 / 7) - 0.5) / 100, 2));
});
