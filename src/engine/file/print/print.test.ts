import { unzlibSync, zlibSync } from "fflate";
import sharp from "sharp";
import { type CommandInput } from "../../command/commands";
import { line, stroke, testWork } from "../../engine.testing";
import { USUAL_HALFTONE } from "../../halftone/halftone";
import { readPng, readPngHeader } from "../png";
import { readTiff } from "../tiff";
import { renderingOf, writePicture, writePicturePng } from "../render";
import { layerPages } from "./layer-pages";
import { type PdfChoice, writePdf } from "./pdf";
import { greyProfile, srgbProfile } from "./profile";
import { stampJpeg, stampWebp } from "./stamp";
import { writeTiff } from "./tiff";
import { type Rendering } from "./tones";

/** The last chunk of a PNG. */
const END = [0, 0, 0, 0, 73, 69, 78, 68, 174, 66, 96, 130];
const WIDTH = 230;
const HEIGHT = 170;
const rendering = (changes: Partial<Rendering> = {}): Rendering =>
  renderingOf({ depth: 8, ground: true, ...changes });

/** A sheet with two strokes in colour on two layers, 300 ppi. */
function painted(commands: CommandInput[] = []) {
  const made = testWork({ width: WIDTH, height: HEIGHT, ppi: 300, title: "Tide table" });
  const { work } = made;
  work.apply(stroke(line([20, 30], [200, 140]), { size: 30, colour: "#b04020" }));
  work.apply({ do: "layer.add", id: "b", name: "Blue", above: "a" });
  work.apply(stroke(line([20, 140], [200, 30]), { layer: "b", size: 22, colour: "#2050a0" }));
  for (const command of commands) work.apply(command);
  return made;
}

const rawOf = async (bytes: Uint8Array, page = 0) =>
  sharp(bytes, { page }).raw({ depth: "uchar" }).toBuffer({ resolveWithObject: true });

describe("a profile", () => {
  test("is read by others as sRGB, in colour and in grey", async () => {
    for (const [profile, space] of [
      [srgbProfile(), "RGB "],
      [greyProfile(), "GRAY"],
    ] as const) {
      const view = new DataView(profile.buffer);
      expect(view.getUint32(0)).toBe(profile.length);
      expect(String.fromCharCode(...profile.subarray(16, 20))).toBe(space);
      expect(String.fromCharCode(...profile.subarray(36, 40))).toBe("acsp");
      const tags = view.getUint32(128);
      for (let i = 0; i < tags; i++) {
        const [at, length] = [view.getUint32(136 + i * 12), view.getUint32(140 + i * 12)];
        expect(at % 4).toBe(0);
        expect(at + length).toBeLessThanOrEqual(profile.length);
      }
    }
    // Colours that another library takes through the profile come out as they went in.
    const { engine, work } = painted();
    const tiff = writeTiff(engine, [{ picture: work.picture, name: "" }], rendering());
    const converted = await sharp(tiff).toColourspace("srgb").raw().toBuffer();
    const plain = readPng(writePicturePng(engine, work, rendering())).data;
    let worst = 0;
    for (let i = 0; i < WIDTH * HEIGHT; i++)
      for (let c = 0; c < 3; c++)
        worst = Math.max(worst, Math.abs(converted[i * 3 + c]! - plain[i * 4 + c]!));
    expect(worst).toBeLessThanOrEqual(2);
    work.release();
  });
});

describe("PNG in greys and in black and white", () => {
  test("greys are the luma of the colours, at eight and sixteen bits, with alpha where there is no ground", async () => {
    const { engine, work } = painted();
    const colour = readPng(writePicturePng(engine, work, rendering())).data;
    for (const depth of [8, 16] as const) {
      const png = writePicturePng(engine, work, rendering({ tones: "grey", depth }));
      expect(readPngHeader(png)).toMatchObject({ depth, colourType: 0 });
      const { data, info } = await rawOf(png);
      expect(info.width).toBe(WIDTH);
      const at = (x: number, y: number): number => data[(y * WIDTH + x) * info.channels]!;
      for (const [x, y] of [
        [110, 85],
        [5, 5],
        [60, 50],
        [180, 45],
      ] as const) {
        const [r, g, b] = colour.subarray((y * WIDTH + x) * 4);
        expect(Math.abs(at(x, y) - (0.2126 * r! + 0.7152 * g! + 0.0722 * b!))).toBeLessThan(1);
      }
    }
    const bare = writePicturePng(engine, work, rendering({ tones: "grey", ground: false }));
    expect(readPngHeader(bare).colourType).toBe(4);
    expect(readPng(bare).data[3]).toBe(0);
    work.release();
  });

  test("black and white has one bit, two values, and the dots of the screen", async () => {
    const halftone = { ...USUAL_HALFTONE, lpi: 30 };
    const { engine, work } = painted([
      { do: "layer.set", id: "a", halftone },
      { do: "layer.set", id: "b", visible: false },
    ]);
    const png = writePicturePng(engine, work, rendering({ tones: "black-and-white" }));
    expect(readPngHeader(png)).toMatchObject({ depth: 1, colourType: 0 });
    const { density } = await sharp(png).metadata();
    expect(density).toBe(300);
    const bits = readPng(png).data;
    const seen = readPng(writePicturePng(engine, work, rendering({ tones: "grey" }))).data;
    let black = 0;
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const grey = seen[i * 4]!;
      // At the very middle rounding decides.
      if (grey < 127 || grey > 128) expect(bits[i * 4]).toBe(grey >= 128 ? 255 : 0);
      if (bits[i * 4] === 0) black++;
    }
    expect(black).toBeGreaterThan(1000);
    work.release();
  });

  test("for the screen halftones go out as greys", () => {
    const { engine, work } = painted([
      { do: "layer.set", id: "a", halftone: { ...USUAL_HALFTONE, lpi: 30 } },
    ]);
    const middle = (dots: boolean): Set<number> => {
      const { data } = readPng(writePicturePng(engine, work, rendering({ dots })));
      const values = new Set<number>();
      for (let x = 50; x < 70; x++) values.add(data[(50 * WIDTH + x) * 4]!);
      return values;
    };
    expect(middle(true).size).toBeGreaterThan(4);
    expect(middle(false).size).toBeLessThanOrEqual(4);
    work.release();
  });

  test("at another size it has that size, the same size on paper, and the same mean", async () => {
    const { engine, work } = painted();
    const mean = (data: Uint8Array): number => data.reduce((sum, v) => sum + v, 0) / data.length;
    const own = mean(readPng(writePicturePng(engine, work, rendering())).data);
    for (const sizing of ["crisp", "soft", "mean", "nearest"] as const) {
      const size = { width: 115, height: 85, sizing };
      const png = writePicturePng(engine, work, rendering({ size }));
      expect(await sharp(png).metadata()).toMatchObject({ width: 115, height: 85, density: 150 });
      // In linear light an edge's mean is lighter than in sRGB values.
      expect(Math.abs(mean(readPng(png).data) - own)).toBeLessThan(3);
    }
    work.release();
  });
});

describe("TIFF", () => {
  test.each([8, 16] as const)("of %s bits is read by others, pixel for pixel", async (depth) => {
    const { engine, work } = painted();
    const tiff = writeTiff(engine, [{ picture: work.picture, name: "x" }], rendering({ depth }));
    const about = await sharp(tiff).metadata();
    expect(about).toMatchObject({ format: "tiff", width: WIDTH, height: HEIGHT, density: 300 });
    expect(about.icc).toBeDefined();
    const own = readPng(writePicturePng(engine, work, rendering())).data;
    const read = readTiff(tiff)[0]!;
    expect(read.data instanceof Uint16Array).toBe(depth === 16);
    for (let i = 0; i < WIDTH * HEIGHT; i += 7)
      for (let c = 0; c < 3; c++) {
        const v = depth === 16 ? read.data[i * 4 + c]! / 257 : read.data[i * 4 + c]!;
        expect(Math.abs(v - own[i * 4 + c]!)).toBeLessThan(0.6);
      }
    work.release();
  });

  test("in one bit and in greys it is what PNG is", async () => {
    const { engine, work } = painted();
    for (const tones of ["grey", "black-and-white"] as const) {
      const tiff = writeTiff(engine, [{ picture: work.picture, name: "" }], rendering({ tones }));
      const { data, info } = await rawOf(tiff);
      const own = readPng(writePicturePng(engine, work, rendering({ tones }))).data;
      for (let i = 0; i < WIDTH * HEIGHT; i++) expect(data[i * info.channels]).toBe(own[i * 4]);
    }
    work.release();
  });

  test("with a page for each layer has them named, alone and clear", async () => {
    const { engine, work } = painted();
    const tiff = writeTiff(engine, layerPages(work.picture), rendering({ ground: false }));
    expect((await sharp(tiff).metadata()).pages).toBe(3);
    const pages = readTiff(tiff);
    expect(pages.map(({ name }) => name)).toEqual(["All layers", "A", "Blue"]);
    // Where the strokes cross, each page has its own colour.
    const at = (85 * WIDTH + 110) * 4;
    expect([...pages[1]!.data.subarray(at, at + 4)]).toEqual([0xb0, 0x40, 0x20, 255]);
    expect([...pages[2]!.data.subarray(at, at + 4)]).toEqual([0x20, 0x50, 0xa0, 255]);
    expect(pages[2]!.data[3]).toBe(0);
    work.release();
  });
});

describe("JPEG and WebP", () => {
  test("say how large they are on paper, and their profile; pixels stay", async () => {
    const { engine, work } = painted();
    const png = writePicturePng(engine, work, rendering());
    const jpeg = new Uint8Array(await sharp(png).jpeg({ quality: 90 }).toBuffer());
    const stamped = stampJpeg(jpeg, 300);
    const about = await sharp(stamped).metadata();
    expect(about).toMatchObject({ format: "jpeg", density: 300, width: WIDTH });
    expect(about.icc).toBeDefined();
    expect((await rawOf(stamped)).data.equals((await rawOf(jpeg)).data)).toBe(true);
    for (const lossless of [false, true]) {
      const webp = new Uint8Array(await sharp(png).webp({ lossless }).toBuffer());
      const named = stampWebp(webp, WIDTH, HEIGHT, 600);
      const said = await sharp(named).metadata();
      expect(said).toMatchObject({ format: "webp", width: WIDTH, height: HEIGHT });
      // Px an inch as a fraction, by the tags of Exif: sharp hands its bytes on as they are.
      expect([said.exif!.readUInt16LE(10), said.exif!.readUInt32LE(50)]).toEqual([282, 60_000]);
      expect(said.exif!.readUInt32LE(54)).toBe(100);
      expect(said.icc).toBeDefined();
      expect((await rawOf(named)).data.equals((await rawOf(webp)).data)).toBe(true);
    }
    expect(() => stampJpeg(png, 300)).toThrow("not a JPEG");
    expect(() => stampWebp(png, 1, 1, 300)).toThrow("not a WebP");
    expect(() => stampJpeg(jpeg.subarray(0, 30), 300)).toThrow("cut off");
    work.release();
  });
});

describe("PDF", () => {
  const plain: PdfChoice = { bleed: 0, marks: false, curves: true };
  const text = (bytes: Uint8Array): string => Buffer.from(bytes).toString("latin1");

  /** The packed data of the stream whose dictionary holds some words. */
  function stream(bytes: Uint8Array, words: string): Uint8Array {
    const all = text(bytes);
    const at = all.indexOf(words);
    expect(at).toBeGreaterThan(0);
    const start = all.indexOf("stream\n", at) + 7;
    const end = all.indexOf("\nendstream", start);
    return unzlibSync(bytes.subarray(start, end));
  }

  test("holds the sheet's pixels lossless, at its size on paper, the same bytes each time", async () => {
    const { engine, work } = painted();
    const make = (): Promise<Uint8Array> =>
      writePdf(engine, work.picture, "Tide table", rendering(), plain);
    const pdf = await make();
    expect(Buffer.from(await make()).equals(pdf)).toBe(true);
    expect(text(pdf)).toMatch(/^%PDF-1\.7/);
    const box = /\/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]/.exec(text(pdf))!;
    expect(Number(box[1])).toBeCloseTo((WIDTH / 300) * 72, 3);
    expect(Number(box[2])).toBeCloseTo((HEIGHT / 300) * 72, 3);
    // The image is a PNG's data: with a PNG's head it is one, and holds the same pixels.
    const rows = stream(pdf, "/Subtype /Image");
    expect(rows.length).toBe((WIDTH * 3 + 1) * HEIGHT);
    const own = readPng(writePicturePng(engine, work, rendering()));
    const png = Buffer.from(writePicturePng(engine, work, rendering()));
    const head = png.subarray(0, png.indexOf("IDAT") - 4);
    const data = Buffer.from(zlibSync(rows));
    const sized = Buffer.alloc(8);
    sized.writeUInt32BE(data.length);
    sized.write("IDAT", 4);
    const again = Buffer.concat([head, sized, data, Buffer.alloc(4), Buffer.from(END)]);
    expect(readPng(again).data).toEqual(own.data);
    work.release();
  });

  test("with bleed and marks says where it is cut, and draws the marks outside of the sheet", async () => {
    const { engine, work } = painted();
    const pdf = await writePdf(engine, work.picture, "", rendering(), {
      bleed: 2,
      marks: true,
      curves: false,
    });
    const boxOf = (name: string): number[] =>
      new RegExp(`/${name} \\[ ([\\d. ]+) \\]`).exec(text(pdf))![1]!.trim().split(" ").map(Number);
    const [media, bleed, trim] = [boxOf("MediaBox"), boxOf("BleedBox"), boxOf("TrimBox")];
    const mm = 72 / 25.4;
    expect(media[2]).toBeCloseTo((WIDTH / 300) * 72 + 20 * mm, 2);
    expect(bleed[0]).toBeCloseTo(10 * mm, 2);
    expect(trim[0]! - bleed[0]!).toBeCloseTo(2 * mm, 2);
    expect(bleed[2]! - trim[2]!).toBeCloseTo(2 * mm, 2);
    await expect(
      writePdf(engine, work.picture, "", rendering(), { bleed: 9, marks: false, curves: false }),
    ).rejects.toThrow("leaves nothing");
    work.release();
  });

  test("keeps clean lines on top of the stack as curves, and what is below them in the pixels alone", async () => {
    const { engine, work } = painted([
      { do: "layer.add", id: "l", name: "Lines", above: "b", kind: "lines" },
      stroke(line([30, 20], [210, 60]), { layer: "l", size: 8, colour: "#107030" }),
    ]);
    const pdf = await writePdf(engine, work.picture, "", rendering(), plain);
    const flat = await writePdf(engine, work.picture, "", rendering(), { ...plain, curves: false });
    const contents = new TextDecoder().decode(unzlibSync(lastStream(pdf)));
    expect(contents).toContain("0.0627 0.4392 0.1882");
    expect(contents).toMatch(/ c\n/);
    expect(stream(pdf, "/Subtype /Image")).not.toEqual(stream(flat, "/Subtype /Image"));
    // A layer of paint over them: lines lie in the pixels.
    work.apply({ do: "layer.add", id: "c", name: "Over", above: "l" });
    work.apply(stroke(line([30, 100], [90, 100]), { layer: "c" }));
    const covered = await writePdf(engine, work.picture, "", rendering(), plain);
    expect(new TextDecoder().decode(unzlibSync(lastStream(covered)))).not.toMatch(/ c\n/);
    work.release();
  });

  function lastStream(bytes: Uint8Array): Uint8Array {
    const all = text(bytes);
    const start = all.lastIndexOf("stream\n", all.lastIndexOf("endstream") - 1) + 7;
    return bytes.subarray(start, all.indexOf("\nendstream", start));
  }

  test("of a sheet larger than a page can be is refused in words", async () => {
    const { engine, work } = testWork({ width: 300, height: 20, ppi: 1 });
    await expect(writePicture(engine, work, "pdf")).rejects.toThrow("at most 5 metres");
    work.release();
  });
});
