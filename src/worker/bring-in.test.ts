import { unzipSync, zipSync } from "fflate";
import { testWork } from "../engine/engine.testing";
import { writeWholePicture } from "../storage/whole-picture";
import { readDeepPng, writePng } from "../engine/file/png";
import {
  kindOf,
  layersOf,
  onSheet,
  readAsPicture,
  readFitted,
  readPages,
  sizeNote,
} from "./bring-in";

/** A picture whose red tells the column, at sixteen bits. */
function ramp(width: number, height: number): Uint8Array {
  const data = new Uint16Array(width * height * 4);
  for (let i = 0; i < width * height; i++)
    data.set([Math.round(((i % width) / (width - 1)) * 65535), 9000, 20000, 65535], i * 4);
  return writePng({ width, height, data }, 240);
}
const page = (width: number, height: number) => ({
  width,
  height,
  ppi: 240,
  png: ramp(width, height),
});

describe("a picture that is not as large as the sheet", () => {
  test("is made smaller to fit where it is larger, as deep as it was", () => {
    const fitted = onSheet(page(300, 120), { width: 100, height: 100 });
    expect([fitted.width, fitted.height, fitted.ppi]).toEqual([100, 40, 240]);
    const { data, width } = readDeepPng(fitted.png);
    expect(data).toBeInstanceOf(Uint16Array);
    // Its ends are still dark and light, its other channels as they were.
    expect(data[0]).toBeLessThan(1500);
    expect(data[(width - 1) * 4]).toBeGreaterThan(64500);
    expect(Math.abs((data[50 * 4 + 1] as number) - 9000)).toBeLessThan(3);
  });

  test("stays as it is where it fits", () => {
    const small = page(30, 20);
    expect(onSheet(small, { width: 100, height: 100 })).toBe(small);
  });

  test("is told of, in both sizes, with what was done", () => {
    const sheet = { width: 100, height: 80 };
    expect(sizeNote("Depth", { width: 100, height: 80 }, sheet)).toBeNull();
    expect(sizeNote("Depth", { width: 400, height: 320 }, sheet)).toBe(
      "“Depth” is 400 × 320 px and the sheet 100 × 80 px: it was made smaller to fit.",
    );
    expect(sizeNote("Ids", { width: 50, height: 80 }, sheet)).toContain(
      "lies in the middle as it is",
    );
  });

  test("as a pin or a stencil it is no larger than asked", async () => {
    const { width, height, png } = await readFitted(ramp(64, 32), 16, 16);
    expect([width, height]).toEqual([16, 8]);
    expect(readDeepPng(png).width).toBe(16);
  });
});

test("pages become layers one above the other, named by their own names or by number", () => {
  const pages = [
    { ...page(4, 4), name: null },
    { ...page(4, 4), name: "Lamp" },
  ];
  const steps = layersOf(pages, "Depot", "floor", ({ width }) => [width, 2]);
  const added = steps.flatMap((step) => (step.do === "layer.add" ? [step] : []));
  expect(added.map(({ name }) => name)).toEqual(["Depot 1", "Lamp"]);
  expect(added.map(({ above }) => above)).toEqual(["floor", added[0]?.id]);
  const placed = steps.flatMap((step) => (step.do === "place" ? [step] : []));
  expect(placed.map(({ layer, x, y }) => [layer, x, y])).toEqual(added.map(({ id }) => [id, 4, 2]));
});

test("a PNG as a picture of its own has its size and its resolution", async () => {
  const { header, commands } = await readAsPicture(ramp(24, 18));
  expect(header).toMatchObject({ width: 24, height: 18, ppi: expect.closeTo(240, 1) });
  expect(commands.map((command) => command.do)).toEqual(["layer.add", "place"]);
  expect(await readPages(ramp(24, 18))).toHaveLength(1);
});

test.each([
  [[0x89, 0x50, 0x4e, 0x47, 1, 2], "png"],
  [[0xff, 0xd8, 0xff, 0xe0], "jpeg"],
  [[...Buffer.from("RIFF0000WEBPVP8 ")], "webp"],
  [[...Buffer.from("0000ftypavif0000")], "avif"],
  [[0x49, 0x49, 42, 0, 8], "tiff"],
  [[0x4d, 0x4d, 0, 42, 8], "tiff"],
  [[0x50, 0x4b, 3, 4, 0], "openraster"],
  [[...Buffer.from('  {"pampas":1}')], "log"],
] as const)("a file is known by its first bytes: %j is %s", (bytes, kind) => {
  expect(kindOf(Uint8Array.from(bytes))).toBe(kind);
});

test.each([
  ["nothing", new Uint8Array(0)],
  ["a text", new TextEncoder().encode("wet street, brass lamp")],
])("%s is refused with what can be read", (_name, bytes) => {
  expect(() => kindOf(bytes)).toThrow("none that Pampas reads");
});

test("a picture that is cut off or larger than any sheet is refused", async () => {
  await expect(readPages(ramp(40, 40).subarray(0, 90))).rejects.toThrow("cut off");
  const huge = ramp(4, 4);
  new DataView(huge.buffer, huge.byteOffset).setUint32(16, 1_000_000);
  await expect(readPages(huge)).rejects.toThrow(/px|large/);
});

describe("a whole picture of ours", () => {
  const file = async (): Promise<Uint8Array> => {
    const { engine, work } = testWork();
    const lines = [JSON.stringify({ do: "layer.add", id: "a", name: "A", above: null })];
    return writeWholePicture(engine, work, { title: "T", created: 1, lost: 0, lines, pins: [] });
  };

  test("is brought in as it was saved", async () => {
    const { whole, notes } = await readAsPicture(await file());
    expect(whole?.title).toBe("T");
    expect(notes).toEqual([]);
  });

  test("that another program has changed is brought in as layers, and it is said why", async () => {
    const files = unzipSync(await file());
    files["mergedimage.png"] = Uint8Array.from(ramp(256, 192));
    const { whole, commands, notes } = await readAsPicture(zipSync(files));
    expect(whole).toBeUndefined();
    expect(commands.map((command) => command.do)).toContain("layer.add");
    expect(notes).toEqual([
      "What Pampas had saved in this file was not used (another program has changed its layers since). Its layers were opened as they are.",
    ]);
  });
});
