import { worst } from "../compose/seen.testing";
import { deflateSync, strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { decode, encode } from "fast-png";
import { fingerprint, line, stroke, testEngine, testHeader, testWork } from "../engine.testing";
import { toBase64 } from "./base64";
import {
  countOra,
  oraCommands,
  readOpenRaster,
  unpackArchive,
  writeOpenRaster,
} from "./openraster";
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

describe("OpenRaster", () => {
  const picture = () => {
    const { engine, work } = testWork({ ppi: 300, ground: "#f4efe6" });
    work.apply(
      stroke(line([10, 10], [200, 120]), { brush: "round-soft", size: 50, colour: "#b5532a" }),
    );
    work.apply({ do: "layer.add", id: "b", name: "Shade & <light>", above: "a" });
    work.apply(stroke(line([20, 150], [240, 30]), { layer: "b", size: 24, colour: "#223388" }));
    work.apply({ do: "layer.set", id: "b", blend: "multiply", opacity: 0.5, visible: true });
    work.apply({ do: "layer.add", id: "c", name: "Hidden", above: "b" });
    work.apply({ do: "layer.set", id: "c", visible: false, locked: true });
    return { engine, work };
  };

  it("begins with its stored mimetype and holds what the standard asks for", () => {
    const { engine, work } = picture();
    const bytes = writeOpenRaster(engine, work.picture);
    const view = new DataView(bytes.buffer);
    expect(view.getUint16(8, true)).toBe(0);
    expect(strFromU8(bytes.slice(30, 38))).toBe("mimetype");
    expect(strFromU8(bytes.slice(38, 54))).toBe("image/openraster");
    const files = unzipSync(bytes);
    expect(Object.keys(files)).toEqual(
      expect.arrayContaining([
        "mimetype",
        "stack.xml",
        "mergedimage.png",
        "Thumbnails/thumbnail.png",
      ]),
    );
    const thumbnail = readPng(files["Thumbnails/thumbnail.png"] as Uint8Array);
    expect(Math.max(thumbnail.width, thumbnail.height)).toBeLessThanOrEqual(256);
    const merged = readPng(files["mergedimage.png"] as Uint8Array);
    const shown = readPng(writePicturePng(engine, work, { depth: 8, ground: true }));
    expect(merged.data).toEqual(shown.data);
  });

  it("comes back with its layers, in order, as they were", () => {
    const { engine, work } = picture();
    const read = readOpenRaster(writeOpenRaster(engine, work.picture));
    expect(read.notes).toEqual([]);
    expect(read).toMatchObject({ width: 256, height: 192, ppi: 300 });
    expect(
      read.layers.map(({ name, opacity, blend, visible, locked }) => [
        name,
        opacity,
        blend,
        visible,
        locked,
      ]),
    ).toEqual([
      ["Ground #f4efe6", 1, "normal", true, true],
      ["A", 1, "normal", true, false],
      ["Shade & <light>", 0.5, "multiply", true, false],
      ["Hidden", 1, "normal", false, true],
    ]);
    // Drawn from the file it looks as it did, within what 8 bits a layer can hold.
    const again = testEngine().open(testHeader({ ground: "#ffffff" }));
    let ids = 0;
    for (const command of oraCommands(read.layers, () => `l${ids++}`)) again.apply(command);
    const one = readPng(writePicturePng(engine, work, { depth: 8, ground: true })).data;
    const engine2 = { store: again.bench.store, workforce: again.bench.workforce } as typeof engine;
    const other = readPng(writePicturePng(engine2, again, { depth: 8, ground: true })).data;
    let apart = 0;
    one.forEach((v, i) => {
      apart = Math.max(apart, Math.abs(v - (other[i] as number)));
    });
    expect(apart).toBeLessThanOrEqual(2);
  });

  const xml = (body: string, attributes = 'w="8" h="8"'): Uint8Array =>
    zipSync({
      mimetype: [strToU8("image/openraster"), { level: 0 }],
      "stack.xml": strToU8(`<?xml version="1.0"?>${body.replace("ATTR", attributes)}`),
    });

  it("keeps groups in groups, and what they are", () => {
    const { engine, work } = picture();
    work.apply({ do: "layer.group", id: "inner", name: "Inner", layers: ["a", "b"] });
    work.apply({ do: "layer.set", id: "inner", opacity: 0.7, blend: "multiply" });
    work.apply({ do: "layer.add", id: "d", name: "D", above: "c" });
    work.apply(stroke(line([5, 90], [250, 80]), { layer: "d", size: 30, colour: "#308040" }));
    work.apply({ do: "layer.group", id: "outer", name: "Outer", layers: ["inner", "d"] });
    work.apply({ do: "layer.set", id: "outer", through: true });
    work.apply({ do: "layer.set", id: "d", clip: true, blend: "multiply", tint: "#3f86c6" });
    const read = readOpenRaster(writeOpenRaster(engine, work.picture));
    expect(read.notes).toEqual([]);
    expect(countOra(read.layers)).toBe(7);
    const again = engine.open(testHeader({ ground: "#ffffff" }));
    let ids = 0;
    for (const command of oraCommands(read.layers, () => `l${ids++}`)) again.apply(command);
    const nested = (of: typeof work): unknown => {
      const { layers } = of.picture.structure;
      const inside = (group: string | null): unknown[] =>
        layers
          .filter((layer) => layer.group === group && !layer.name.startsWith("Ground"))
          .map(({ id, name, blend, opacity, clip, through, tint }) => [
            tint,
            name,
            blend,
            opacity,
            clip,
            through,
            inside(id),
          ]);
      return inside(null);
    };
    expect(nested(again)).toEqual(nested(work));
    const [one, other] = [work, again].map(
      (of) => readPng(writePicturePng(engine, of, { depth: 8, ground: true })).data,
    ) as [Uint8Array, Uint8Array];
    expect(worst(one, other)).toBeLessThanOrEqual(2);
  });

  it("says what it could not keep", () => {
    const layerPng = writePng({ width: 2, height: 2, data: noise(16) });
    const bytes = zipSync({
      mimetype: [strToU8("image/openraster"), { level: 0 }],
      "stack.xml": strToU8(
        `<image w="8" h="8"><stack><stack name="Group" opacity="0.5" composite-op="svg:multiply"><layer name="In" src="data/a.png" opacity="0.5" composite-op="odd:mode"/></stack><layer name="Low" src="data/a.png" x="3"/><layer name="Gone" src="data/none.png"/></stack></image>`,
      ),
      "data/a.png": layerPng,
    });
    const { layers, notes } = readOpenRaster(bytes);
    expect(layers).toMatchObject([
      { kind: "layer", name: "Low", opacity: 1, x: 3 },
      {
        kind: "group",
        name: "Group",
        opacity: 0.5,
        blend: "multiply",
        through: false,
        inside: [{ name: "In", opacity: 0.5, blend: "normal" }],
      },
    ]);
    expect(notes.join(" ")).toMatch(/blend mode odd:mode/);
    expect(notes.join(" ")).toMatch(/“Gone”/);
    expect(notes).toHaveLength(2);
  });

  it("refuses groups without end", () => {
    const deep = `${"<stack>".repeat(70)}${"</stack>".repeat(70)}`;
    expect(() => readOpenRaster(xml(`<image ATTR><stack>${deep}</stack></image>`))).toThrow(/deep/);
  });

  it.each([
    ["no archive", strToU8("PK hello"), /broken or cut off/],
    ["cut off", xml("<image ATTR/>").slice(0, 60), /broken or cut off/],
    ["without a stack", zipSync({ mimetype: strToU8("image/openraster") }), /no stack.xml/],
    [
      "another kind of archive",
      zipSync({ mimetype: strToU8("application/epub+zip"), "stack.xml": strToU8("<image/>") }),
      /not an OpenRaster/,
    ],
    ["without a size", xml("<image><stack/></image>"), /how large/],
    ["broken XML", xml("<image ATTR><stack>"), /not readable|how large/],
    [
      "with entities",
      xml('<!DOCTYPE x [<!ENTITY a "aaaa">]><image ATTR><stack/></image>'),
      /entities/,
    ],
  ])("that is %s is refused", (_name, bytes, why) => {
    expect(() => readOpenRaster(bytes)).toThrow(why);
  });

  it.each(["../evil.png", "/etc/evil.png", "data/../../evil.png", "a\\..\\evil.png"])(
    "whose entry is called %s is refused",
    (name) => {
      expect(() => unpackArchive(zipSync({ [name]: strToU8("x") }), () => 100)).toThrow(
        /outside itself/,
      );
    },
  );

  it("that would unpack to a thousand times its size is refused before it is unpacked", () => {
    const bomb = zipSync({ "stack.xml": new Uint8Array(32 * 2 ** 20) }, { level: 6 });
    // The packed zeros lie at the limit of what deflate can do: about 1030 to 1.
    const lying = bomb.slice();
    const view = new DataView(lying.buffer);
    const central = lying.length - 22 - 46 - "stack.xml".length;
    view.setUint32(central + 24, 0xfffffff0, true);
    expect(() => unpackArchive(lying, () => 2 ** 32)).toThrow(/far more than it holds/);
    expect(() => readOpenRaster(lying)).toThrow(/too large/);
  });

  it("whose entry is larger than it says is held to what it says", () => {
    const archive = zipSync({ "stack.xml": new Uint8Array(4 * 2 ** 20) }, { level: 6 });
    const lying = archive.slice();
    new DataView(lying.buffer).setUint32(
      lying.length - 22 - 46 - "stack.xml".length + 24,
      100,
      true,
    );
    expect(unpackArchive(lying, () => 1e9)["stack.xml"]).toHaveLength(100);
    expect(() => readOpenRaster(lying)).toThrow(/how large|not readable/);
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
