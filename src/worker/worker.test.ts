import { levelFor } from "./display";
import { createPenRing, PenReader, PenWriter } from "./pen-ring";
import { fitView, toPicture, toScreen, turnedAt, type View, viewMatrix, zoomedAt } from "./view";
import { kindOf, readAsPicture, readFlat } from "./bring-in";
import { writePng } from "../engine/file/png";
import { type Sample } from "../engine/stroke/sample";

const screen = { width: 900, height: 700 };
const view: View = { x: 300, y: 200, zoom: 1.7, angle: 0.6, mirrored: true };

describe("the view", () => {
  it("goes to the screen and back", () => {
    const matrix = viewMatrix(view, screen);
    const [sx, sy] = toScreen(matrix, 123, 456);
    const [px, py] = toPicture(matrix, sx, sy);
    expect(px).toBeCloseTo(123, 8);
    expect(py).toBeCloseTo(456, 8);
    expect(toScreen(matrix, view.x, view.y)).toEqual([
      expect.closeTo(450, 6),
      expect.closeTo(350, 6),
    ]);
  });

  it("keeps the place under the hand when zoomed or turned", () => {
    const before = toPicture(viewMatrix(view, screen), 111, 222);
    for (const next of [
      zoomedAt(view, screen, 2.3, 111, 222),
      turnedAt(view, screen, 0.8, 111, 222),
    ]) {
      const after = toPicture(viewMatrix(next, screen), 111, 222);
      expect(after[0]).toBeCloseTo(before[0], 6);
      expect(after[1]).toBeCloseTo(before[1], 6);
    }
  });

  it("turned again and again keeps its angle within half a turn", () => {
    let turned = view;
    for (let i = 0; i < 40; i++) turned = turnedAt(turned, screen, 0.5, 10, 10);
    expect(Math.abs(turned.angle)).toBeLessThanOrEqual(Math.PI);
    expect(Math.cos(turned.angle)).toBeCloseTo(Math.cos(view.angle + 20), 8);
  });

  it("that fits shows all of the picture", () => {
    const fitted = fitView({ width: 4000, height: 1000 }, screen, 20);
    const matrix = viewMatrix(fitted, screen);
    for (const [x, y] of [
      [0, 0],
      [4000, 1000],
    ] as const) {
      const [sx, sy] = toScreen(matrix, x, y);
      expect(sx).toBeGreaterThanOrEqual(18);
      expect(sx).toBeLessThanOrEqual(882);
      expect(sy).toBeGreaterThan(0);
      expect(sy).toBeLessThan(700);
    }
  });

  it("has a pixel of detail for every pixel shown", () => {
    expect([4, 1, 0.7, 0.5, 0.3, 0.25, 0.01].map(levelFor)).toEqual([0, 0, 0, 1, 1, 2, 6]);
  });
});

describe("the pen's ring", () => {
  const sample = (t: number): Sample => [t, t * 2, 0, 0.5, 1, 0, 0];
  const taken = (reader: PenReader): (number | string)[] => {
    const out: (number | string)[] = [];
    reader.read(
      (samples) => out.push(...samples.map(([t]) => t)),
      (mark) => out.push(mark),
    );
    return out;
  };

  it("hands over samples in order, and wakes the reader once", () => {
    const ring = createPenRing();
    const [writer, reader] = [new PenWriter(ring), new PenReader(ring)];
    writer.begin();
    reader.skipToBegin();
    expect(taken(reader)).toEqual([]);
    writer.write(sample(1));
    expect(writer.mustWake()).toBe(true);
    writer.write(sample(2));
    expect(writer.mustWake()).toBe(false);
    expect(taken(reader)).toEqual([1, 2]);
  });

  it("keeps the samples of one stroke from the next", () => {
    const ring = createPenRing();
    const [writer, reader] = [new PenWriter(ring), new PenReader(ring)];
    writer.begin();
    reader.skipToBegin();
    writer.write(sample(1));
    writer.mark("restart");
    writer.write(sample(2));
    writer.begin();
    writer.write(sample(3));
    expect(taken(reader)).toEqual([1, "restart", 2]);
    expect(taken(reader)).toEqual([]);
    reader.skipToBegin();
    expect(taken(reader)).toEqual([3]);
  });

  it("says when it is full, and goes round", () => {
    const ring = createPenRing();
    const [writer, reader] = [new PenWriter(ring), new PenReader(ring)];
    for (let round = 0; round < 3; round++) {
      let written = 0;
      while (writer.write(sample(written))) written++;
      expect(written).toBe(4096);
      expect(taken(reader)).toHaveLength(4096);
    }
  });

  it("shows the writer that the reader lives", () => {
    const ring = createPenRing();
    const [writer, reader] = [new PenWriter(ring), new PenReader(ring)];
    const before = writer.pulse();
    expect(writer.pulse()).toBe(before);
    reader.beat();
    expect(writer.pulse()).not.toBe(before);
  });

  it("asks for a stop once", () => {
    const ring = createPenRing();
    new PenWriter(ring).askToStop();
    const reader = new PenReader(ring);
    expect([reader.stopAsked(), reader.stopAsked()]).toEqual([true, false]);
  });
});

describe("bringing in", () => {
  const png = writePng({ width: 4, height: 3, data: new Uint8Array(48).fill(200) }, 150);

  it("knows files by what they hold", () => {
    expect(kindOf(png)).toBe("png");
    expect(kindOf(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0))).toBe("jpeg");
    expect(kindOf(Uint8Array.of(0x49, 0x49, 42, 0, 8, 0, 0, 0))).toBe("tiff");
    expect(kindOf(Uint8Array.of(0x4d, 0x4d, 0, 42, 0, 0, 0, 8))).toBe("tiff");
    expect(kindOf(new TextEncoder().encode("\0\0\0\x1cftypavif\0\0\0\0avifmif1"))).toBe("avif");
    for (const brand of ["heic\0\0\0\0mif1heic", "mif1\0\0\0\0mif1heic", "heix\0\0\0\0mif1"])
      expect(() => kindOf(new TextEncoder().encode(`\0\0\0\x18ftyp${brand}`))).toThrow(
        /this is a HEIC picture.*JPEG or PNG/,
      );
    expect(kindOf(new TextEncoder().encode('{"pampas":1}'))).toBe("log");
    expect(() => kindOf(new TextEncoder().encode("GIF89a"))).toThrow(/none that Pampas reads/);
  });

  it("makes a picture of a PNG, with its size and ppi", async () => {
    const { header, commands } = await readAsPicture(png);
    expect(header).toMatchObject({ width: 4, height: 3 });
    expect(header.ppi).toBeCloseTo(150, 0);
    expect(commands.map((command) => command.do)).toEqual(["layer.add", "place"]);
  });

  it.each([
    ["a JPEG without a size", Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0)],
    ["a WebP that is cut off", new TextEncoder().encode("RIFF\0\0\0\0WEBPVP8 ")],
  ])("refuses %s", async (_name, bytes) => {
    await expect(readFlat(bytes)).rejects.toThrow(/broken/);
  });

  it("refuses a JPEG that says it is gigantic before decoding it", async () => {
    const app0 = [0xff, 0xd8, 0xff, 0xe0, 0, 16, 74, 70, 73, 70, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0];
    const sof = [...app0, 0xff, 0xc0, 0, 17, 8, 0xff, 0xff, 0xff, 0xff, 3, 1, 0x11, 0, 2, 0x11, 1];
    await expect(
      readFlat(Uint8Array.from([...sof, ...new Array<number>(64).fill(0)])),
    ).rejects.toThrow(/16384 px a side/);
  });
});
