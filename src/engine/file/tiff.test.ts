import { readTiff } from "./tiff";

type Page = { width: number; height: number; bits: 8 | 16; samples: number[]; name?: string };

/** An uncompressed little-endian RGB TIFF, written by the book (TIFF 6.0, section 6). */
function tiff(pages: Page[], ppi = 0): Uint8Array {
  const chunks: { at: number; bytes: Uint8Array }[] = [];
  let end = 8;
  const put = (bytes: Uint8Array): number => {
    const at = end;
    chunks.push({ at, bytes });
    end += bytes.length + (bytes.length & 1);
    return at;
  };
  const starts: number[] = [];
  const links: number[] = [];
  for (const { width, height, bits, samples, name } of pages) {
    const data =
      bits === 8 ? Uint8Array.from(samples) : new Uint8Array(Uint16Array.from(samples).buffer);
    const strip = put(data);
    const depth = put(new Uint8Array(Uint16Array.from([bits, bits, bits]).buffer));
    const rational = put(new Uint8Array(Uint32Array.from([ppi, 1]).buffer));
    const text = new TextEncoder().encode(`${name ?? ""}\0`);
    const label = put(text);
    const fields: [number, number, number, number][] = [
      [256, 4, 1, width],
      [257, 4, 1, height],
      [258, 3, 3, depth],
      [259, 3, 1, 1],
      [262, 3, 1, 2],
      [273, 4, 1, strip],
      [277, 3, 1, 3],
      [278, 4, 1, height],
      [279, 4, 1, data.length],
      ...(ppi ? ([[282, 5, 1, rational]] as [number, number, number, number][]) : []),
      ...(name ? ([[285, 2, text.length, label]] as [number, number, number, number][]) : []),
      ...(ppi ? ([[296, 3, 1, 2]] as [number, number, number, number][]) : []),
    ];
    const ifd = new DataView(new ArrayBuffer(2 + fields.length * 12 + 4));
    ifd.setUint16(0, fields.length, true);
    fields.forEach(([tag, type, count, value], i) => {
      ifd.setUint16(2 + i * 12, tag, true);
      ifd.setUint16(4 + i * 12, type, true);
      ifd.setUint32(6 + i * 12, count, true);
      ifd.setUint32(10 + i * 12, value, true);
    });
    const at = put(new Uint8Array(ifd.buffer));
    starts.push(at);
    links.push(at + 2 + fields.length * 12);
  }
  const out = new Uint8Array(end);
  for (const { at, bytes } of chunks) out.set(bytes, at);
  const view = new DataView(out.buffer);
  view.setUint16(0, 0x4949);
  view.setUint16(2, 42, true);
  view.setUint32(4, starts[0] ?? 0, true);
  links.forEach((link, i) => view.setUint32(link, starts[i + 1] ?? 0, true));
  return out;
}

const colours = (n: number): number[] => Array.from({ length: n * 3 }, (_, i) => (i * 37) % 256);
const rgba = (samples: number[], opaque = 255): number[] =>
  Array.from({ length: samples.length / 3 }, (_, i) => [
    ...samples.slice(i * 3, i * 3 + 3),
    opaque,
  ]).flat();

it.each([8, 16] as const)("pixels of %d bits are read, sample for sample", (bits) => {
  const samples = colours(12).map((v, i) => (bits === 8 ? v : (v * 257 + i * 911) % 65536));
  const [page] = readTiff(tiff([{ width: 4, height: 3, bits, samples }], 300));
  expect(page).toMatchObject({ width: 4, height: 3, ppi: 300, name: null });
  expect([...(page?.data ?? [])]).toEqual(rgba(samples, bits === 8 ? 255 : 65535));
});

it("every page comes, with its name and its own size", () => {
  const pages: Page[] = [
    { width: 4, height: 3, bits: 8, samples: colours(12), name: "Lines" },
    { width: 2, height: 5, bits: 8, samples: colours(10), name: "Flats" },
  ];
  const read = readTiff(tiff(pages));
  expect(read.map(({ name, width, height }) => [name, width, height])).toEqual([
    ["Lines", 4, 3],
    ["Flats", 2, 5],
  ]);
  expect([...(read[1]?.data ?? [])]).toEqual(rgba(colours(10)));
});

describe("what is no TIFF is refused", () => {
  const good = tiff([{ width: 4, height: 3, bits: 8, samples: colours(12) }]);
  const changed = (change: (view: DataView) => void): Uint8Array => {
    const copy = good.slice();
    change(new DataView(copy.buffer));
    return copy;
  };
  const start = new DataView(good.buffer).getUint32(4, true);
  const fields = new DataView(good.buffer).getUint16(start, true);

  it.each<[string, Uint8Array, RegExp]>([
    ["a few bytes", good.slice(0, 6), /cut off/],
    ["cut off in its directory", good.slice(0, start + 20), /cut off/],
    ["big", changed((view) => view.setUint16(2, 43, true)), /not a TIFF/],
    [
      "pages in a circle",
      changed((view) => view.setUint32(start + 2 + fields * 12, start, true)),
      /circle/,
    ],
    ["no pages", changed((view) => view.setUint32(4, 0, true)), /no page/],
    [
      "gigantic",
      changed((view) => view.setUint32(start + 2 + 8, 4_000_000_000, true)),
      /16384 px a side/,
    ],
  ])("%s", (_what, bytes, why) => {
    expect(() => readTiff(bytes)).toThrow(why);
  });
});

describe("a TIFF that lies", () => {
  const whole = (): Uint8Array =>
    tiff([{ width: 2, height: 2, bits: 8, samples: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] }]);

  /** The file with another type, count or value of a tag. */
  function changed(
    tag: number,
    change: Partial<{ tag: number; type: number; count: number; value: number }>,
  ) {
    const bytes = whole();
    const view = new DataView(bytes.buffer);
    const at = view.getUint32(4, true);
    for (let i = 0; i < view.getUint16(at, true); i++) {
      const entry = at + 2 + i * 12;
      if (view.getUint16(entry, true) !== tag) continue;
      if (change.tag !== undefined) view.setUint16(entry, change.tag, true);
      if (change.type !== undefined) view.setUint16(entry + 2, change.type, true);
      if (change.count !== undefined) view.setUint32(entry + 4, change.count, true);
      if (change.value !== undefined) view.setUint32(entry + 8, change.value, true);
    }
    return bytes;
  }

  it.each([
    [
      "how many values a tag has",
      changed(258, { count: 0xfffffff0 }),
      /tag of this TIFF is broken/,
    ],
    ["what kind of values they are", changed(258, { type: 99 }), /tag of this TIFF is broken/],
    ["where they are", changed(258, { value: 0x7ffffff0 }), /cut off/],
    ["where its pixels are", changed(273, { value: 0x7ffffff0 }), /cut off/],
    ["how long they are", changed(279, { value: 0x7ffffff0 }), /cut off/],
    ["how many samples a pixel has", changed(277, { value: 60_000 }), /60000 samples/],
    ["how wide a tile is", changed(278, { tag: 322, value: 0 }), /no size/],
    ["how many rows a strip has", changed(278, { value: 0 }), /no size/],
    ["how many strips there are", changed(278, { value: 1 }), /all of its parts/],
    ["how large it is", changed(256, { value: 70_000 }), /16384 px a side/],
  ])("about %s is refused before it is decoded", (_what, bytes, why) => {
    expect(() => readTiff(bytes)).toThrow(why);
  });

  it("has at most as many tags as a picture needs", () => {
    const bytes = whole();
    const view = new DataView(bytes.buffer);
    view.setUint16(view.getUint32(4, true), 60_000, true);
    expect(() => readTiff(bytes)).toThrow(/cut off|60000 tags/);
  });
});
