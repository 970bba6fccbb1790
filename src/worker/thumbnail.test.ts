import { readPng } from "../engine/file/png";
import { line, stroke, testEngine, testHeader, testWork } from "../engine/engine.testing";
import { Compositor } from "../engine/compose/compositor";
import { layerThumbnail, PictureThumbnail } from "./thumbnail";

const at = (data: ArrayLike<number>, width: number, x: number, y: number): number[] =>
  [0, 1, 2, 3].map((c) => data[(y * width + x) * 4 + c] as number);

describe("thumbnails", () => {
  it("of a picture show it, small, and follow what changes", async () => {
    const engine = testEngine();
    const work = engine.open(testHeader({ width: 1300, height: 700, ground: "#336699" }));
    work.apply({ do: "layer.add", id: "a", name: "A", above: null });
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    const thumbnail = new PictureThumbnail(work.picture, engine.store.heap);
    const first = readPng((await thumbnail.refresh(compositor)) as Uint8Array);
    expect(Math.max(first.width, first.height)).toBeLessThanOrEqual(640);
    expect(at(first.data, first.width, 100, 100)).toEqual([0x33, 0x66, 0x99, 255]);
    expect(await thumbnail.refresh(compositor)).toBeNull();

    work.events.damaged = ({ keys }) => {
      compositor.forget("a", keys);
      thumbnail.stale(keys);
    };
    work.apply(stroke(line([100, 350], [1200, 350]), { size: 120, colour: "#ff0000" }));
    const second = readPng((await thumbnail.refresh(compositor)) as Uint8Array);
    const scale = second.width / 1300;
    expect(at(second.data, second.width, Math.round(650 * scale), Math.round(350 * scale))).toEqual(
      [255, 0, 0, 255],
    );
    expect(at(second.data, second.width, 10, 10)).toEqual([0x33, 0x66, 0x99, 255]);
  });

  it("of a layer show thin lines, plain areas and nothing else", () => {
    const { engine, work } = testWork({ width: 2000, height: 1500 });
    work.apply(stroke(line([0, 750], [2000, 750], { steps: 60 }), { size: 12, colour: "#000000" }));
    const data = layerThumbnail(work.picture, engine.store, "a", 92, 68);
    const column = Array.from({ length: 68 }, (_, y) => at(data, 92, 46, y)[3] as number);
    expect(Math.max(...column)).toBeGreaterThan(60);
    expect(column.filter((alpha) => alpha > 0).length).toBeLessThan(5);
  });

  it("of a tinted layer show dark paint in its tint and white as white", () => {
    const seen = (colour: string): number[] => {
      const { engine, work } = testWork({ width: 128, height: 64 });
      work.apply({ do: "fill", layer: "a", at: [[20, 20]], colour });
      work.apply({ do: "layer.set", id: "a", tint: "#d8a53c" });
      return at(layerThumbnail(work.picture, engine.store, "a", 16, 8), 16, 7, 4);
    };
    expect(seen("#000000")).toEqual([0xd8, 0xa5, 0x3c, 255]);
    expect(seen("#ffffff")).toEqual([255, 255, 255, 255]);
  });
});
