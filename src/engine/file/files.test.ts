import { deflateSync, strFromU8, strToU8 } from "fflate";
import { decode, encode } from "fast-png";
import { fingerprint, line, stroke, testEngine, testWork } from "../engine.testing";
import { toBase64 } from "./base64";
import { PngWriter, readDeepPng, readPng, readPngHeader, writePng } from "./png";
import { paintLog, writePicturePng } from "./render";

const noise = (n: number): Uint8Array =>
  Uint8Array.from({ length: n }, (_, i) => (Math.imul(i + 7, 2654435761) >>> 11) & 255);

describe("PNG", () => {
  it("of 8 bits comes back as it went, and other readers read it", () => {
    const data = noise(37 * 21 * 4);
    const png = writePng({ width: 37, height: 21, data }, 300);
    expect(readPng(png)).toMatchObject({ width: 37, height: 21, data });
    expect(readPng(png).ppi).toBeCloseTo(300, 0);
    const other = decode(png, { checkCrc: true });
    expect(other).toMatchObject({ width: 37, height: 21, channels: 4, depth: 8 });
    expect(Uint8Array.from(other.data)).toEqual(data);
  });

  it("of 16 bits is read by others sample for sample, and says sRGB", () => {
    const writer = new PngWriter({ width: 5, height: 3, depth: 16, alpha: false, ppi: 600 });
    const rows = [0, 1, 2].map((y) => noise(30 * (y + 1)).slice(-30));
    rows.forEach((row) => writer.row(row));
    const png = writer.finish();
    const other = decode(png, { checkCrc: true });
    expect(other.depth).toBe(16);
    const expected = rows.flatMap((row) =>
      Array.from(
        { length: 15 },
        (_, i) => ((row[i * 2] as number) << 8) | (row[i * 2 + 1] as number),
      ),
    );
    expect([...other.data]).toEqual(expected);
    expect(strFromU8(png, true)).toContain("sRGB");
  });

  it("of 16 bits keeps more than 8 of them on a layer, and comes out as it went in", () => {
    // Opaque greys a 4096th apart: sixteen of them share one value of eight bits.
    const data = Uint16Array.from({ length: 64 * 4 }, (_, i) =>
      (i & 3) === 3 ? 65535 : 30000 + (i >> 2) * 16,
    );
    const png = writePng({ width: 64, height: 1, data });
    expect(readDeepPng(png).data).toEqual(data);
    const { engine, work } = testWork({ width: 64, height: 1 });
    work.apply({ do: "place", layer: "a", x: 0, y: 0, png: toBase64(png) });
    const out = readDeepPng(writePicturePng(engine, work, { depth: 16, ground: false })).data;
    data.forEach((v, i) => expect(Math.abs((out[i] as number) - v)).toBeLessThanOrEqual(2));
  });

  it.each([
    ["grey", 1, 8],
    ["grey with alpha", 2, 8],
    ["colour", 3, 8],
    ["colour, 16 bits", 3, 16],
    ["colour with alpha, 16 bits", 4, 16],
  ] as const)("of %s is read", (_name, channels, depth) => {
    const samples =
      depth === 16
        ? Uint16Array.from(noise(6 * 4 * channels), (v) => v * 257)
        : noise(6 * 4 * channels);
    const png = encode({ width: 6, height: 4, data: samples, channels, depth });
    const { data } = readPng(png);
    const scale = depth === 16 ? 257 : 1;
    for (let i = 0; i < 24; i++) {
      const grey = channels < 3;
      const at = i * channels;
      const expected = [0, 1, 2].map((c) => (samples[at + (grey ? 0 : c)] as number) / scale);
      const alpha =
        channels === 2 || channels === 4 ? (samples[at + channels - 1] as number) / scale : 255;
      expect([...data.subarray(i * 4, i * 4 + 4)]).toEqual([...expected, alpha]);
    }
  });

  it.each([1, 2, 4])("of greys of %s bits is read: its greatest value is white", (depth) => {
    // Eight samples a row of one bit are as many bytes as fewer samples of more bits.
    const writer = new PngWriter({
      width: 24,
      height: 2,
      depth: 1,
      grey: true,
      alpha: false,
      ppi: 72,
    });
    const rows = [
      [0b10110001, 0xff, 0x00],
      [0b01001110, 0x1b, 0xe4],
    ].map((row) => Uint8Array.from(row));
    rows.forEach((row) => writer.row(row));
    const png = writer.finish();
    const width = 24 / depth;
    new DataView(png.buffer).setUint32(16, width);
    png[24] = depth;
    const { data } = readPng(png);
    rows.forEach((row, y) => {
      for (let x = 0; x < width; x++) {
        const bit = x * depth;
        const v = (row[bit >> 3]! >> (8 - depth - (bit & 7))) & (2 ** depth - 1);
        expect(data[(y * width + x) * 4]).toBe(Math.round((v * 255) / (2 ** depth - 1)));
      }
    });
  });

  const good = writePng({ width: 40, height: 30, data: noise(40 * 30 * 4) });
  const patched = (change: (view: DataView) => void): Uint8Array => {
    const copy = good.slice();
    change(new DataView(copy.buffer));
    return copy;
  };

  it.each([
    ["no PNG at all", strToU8("hello, not a picture"), /not a PNG/],
    ["nothing", new Uint8Array(0), /not a PNG/],
    ["cut off", good.slice(0, 300), /cut off/],
    [
      "cut off in its data",
      Uint8Array.from([...good.slice(0, good.length - 400), ...good.slice(-12)]),
      /cut off|broken|less than/,
    ],
    [
      "a header that says too much",
      patched((v) => v.setUint32(16, 16000)),
      /less than its header|broken/,
    ],
    [
      "a header that says too little",
      patched((v) => v.setUint32(20, 2)),
      /broken|more than its header/,
    ],
    [
      "a giant",
      patched((v) => (v.setUint32(16, 4_000_000_000), v.setUint32(20, 4_000_000_000))),
      /16384 px a side/,
    ],
    ["an empty one", patched((v) => v.setUint32(16, 0)), /16384 px a side/],
  ])("that is %s is refused with a word", (_name, bytes, why) => {
    expect(() => readPng(bytes)).toThrow(why);
  });

  it("whose data unpacks without end is stopped early", () => {
    // 1 × 1 px by its header, 48 MB of zeros in its data.
    const zeros = new Uint8Array(48 * 2 ** 20);
    const packed = deflateSync(zeros, { level: 6 });
    const small = writePng({ width: 1, height: 1, data: new Uint8Array(4) });
    const header = small.slice(0, 33);
    const idat = new Uint8Array(packed.length + 18);
    const view = new DataView(idat.buffer);
    view.setUint32(0, packed.length + 6);
    idat.set(strToU8("IDAT"), 4);
    idat.set([0x78, 0x9c], 8);
    idat.set(packed, 10);
    const bomb = Uint8Array.from([...header, ...idat, ...small.slice(-12)]);
    expect(() => readPng(bomb)).toThrow(/more than its header/);
  });

  it("headers are read without touching the data", () => {
    expect(readPngHeader(good)).toEqual({
      width: 40,
      height: 30,
      depth: 8,
      colourType: 6,
      interlaced: false,
    });
  });
});

it("a log painted anew gives the same picture", async () => {
  const { engine, work } = testWork();
  const commands = [
    stroke(line([10, 10], [200, 120]), { brush: "pencil-6b" }),
    stroke(line([10, 80], [200, 20]), { mode: "blend", brush: "round-soft", size: 30 }),
  ];
  for (const command of commands) work.apply(command);
  const again = testEngine();
  const painted = await paintLog(
    again,
    {
      header: work.picture.header,
      commands: [{ do: "layer.add", id: "a", name: "A", above: null }, ...commands] as never,
    },
    () => Promise.resolve(),
  );
  expect(fingerprint(again, painted)).toBe(fingerprint(engine, work));
});
