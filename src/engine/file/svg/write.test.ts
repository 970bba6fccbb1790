import { XMLParser, XMLValidator } from "fast-xml-parser";
import sharp from "sharp";
import { alphas, sum } from "../../engine.testing";
import { nearestOn } from "../../lines/curve";
import { along, draw, lineWork, straightWay, theLine, wave } from "../../lines/lines.testing";
import { outlineOf } from "../../lines/outline";
import { shapeOf } from "../../lines/shape";
import { evenWidth, writeSvg } from "./write";

const swelling = (u: number): number => 0.25 + 0.7 * Math.abs(Math.sin(u * 5));

/** Alpha of every pixel as another renderer draws a file at a px to its px, 0…1. */
async function drawnByOthers(svg: string): Promise<Float64Array> {
  const inPx = svg.replace(/width="[\d.]+mm" height="[\d.]+mm"/, 'width="640" height="480"');
  const { data, info } = await sharp(Buffer.from(inPx))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([640, 480]);
  return Float64Array.from({ length: 640 * 480 }, (_, i) => (data[i * 4 + 3] as number) / 255);
}

describe("lines as SVG", () => {
  // At 96 ppi a px is what a renderer takes for one.
  const { engine, work } = lineWork({ ppi: 96 });
  draw(engine, work, along(wave(60, 580, 80), 600, swelling), { brush: "pen-brush", size: 18 });
  draw(engine, work, along(wave(60, 580, 180, 40, 7), 600, swelling), { size: 9 });
  draw(engine, work, along(wave(60, 580, 280, 30, 14), 700), { brush: "pen-even", size: 5 });
  // One that crosses itself and runs wide.
  const loop = (u: number): readonly [number, number] => [
    320 + 70 * ((-2 + 4 * u) ** 3 / 2 - (-2 + 4 * u) * 1.5),
    330 + 30 * (-2 + 4 * u) ** 2,
  ];
  draw(engine, work, along(loop, 700, swelling), { brush: "pen-brush", size: 30 });
  const round = (u: number): readonly [number, number] => [
    560 + 50 * Math.cos(u * 6.28),
    420 + 40 * Math.sin(u * 6.28),
  ];
  draw(engine, work, along(round, 300), { size: 12 });
  work.apply({ do: "layer.set", id: "l", name: 'Ink <of "night">' });
  const svg = writeSvg(engine, work.picture);
  const text = new TextDecoder().decode(svg);

  it("is well formed, of the picture's size on paper, with the layer's name", () => {
    expect(XMLValidator.validate(text)).toBe(true);
    const read = new XMLParser({ ignoreAttributes: false }).parse(text);
    expect(read.svg["@_viewBox"]).toBe("0 0 640 480");
    expect(parseFloat(read.svg["@_width"])).toBeCloseTo((640 / 96) * 25.4, 2);
    expect(read.svg.g.title).toBe('Ink <of "night">');
    expect(read.svg.g.path).toHaveLength(5);
    expect(text).not.toMatch(/script|href|foreign/i);
  });

  it("another renderer draws what we draw: of the pixels at edges under 2 % differ by more than a tenth", async () => {
    const theirs = await drawnByOthers(text);
    const ours = alphas(engine, work, "l");
    let [edges, off] = [0, 0];
    ours.forEach((v, i) => {
      const other = theirs[i] as number;
      if ((v > 0.02 && v < 0.98) || (other > 0.02 && other < 0.98)) edges++;
      if (Math.abs(v - other) > 0.1) off++;
    });
    expect(edges).toBeGreaterThan(2000);
    expect(off / edges).toBeLessThan(0.02);
    expect(sum(theirs) / sum(ours)).toBeCloseTo(1, 2);
  });

  it("lines of one width are strokes, those that swell outlines", () => {
    expect(evenWidth(theLine(engine, work, 3))).toBeCloseTo(5, 1);
    expect(evenWidth(theLine(engine, work, 1))).toBeNull();
    expect(text.match(/stroke-width/g)).toHaveLength(2);
  });

  it("outlines lie on the ink's edge, with holes where a line closes round nothing", () => {
    const line = theLine(engine, work, 5);
    const loops = outlineOf(line);
    expect(loops).toHaveLength(2);
    const { ends } = shapeOf(line);
    for (const loop of loops)
      for (let i = 0; i < loop.points.length; i += 6) {
        const [x, y] = [loop.points[i] as number, loop.points[i + 1] as number];
        let least = Infinity;
        for (let k = 0; k < ends.length; k += 4)
          least = Math.min(
            least,
            Math.hypot(x - (ends[k] as number), y - (ends[k + 1] as number)) -
              (ends[k + 2] as number),
          );
        // The ends of its chords are up to some px apart.
        expect(Math.abs(least)).toBeLessThan(0.4);
      }
    expect(nearestOn(line.curve, 0, 0)).not.toBeNull();
  });

  it("says where there is nothing to write, and leaves hidden layers out", () => {
    const { engine: other, work: bare } = lineWork();
    draw(other, bare, along(straightWay([60, 100], [200, 100]), 140));
    bare.apply({ do: "layer.set", id: "l", visible: false });
    expect(() => writeSvg(other, bare.picture)).toThrow("No line layer is seen");
  });
});
