import { type Work } from "../command/work";
import { type CommandInput } from "../command/commands";
import { seen, worst } from "../compose/seen.testing";
import { chances } from "../chances.testing";
import { line, pixel, stroke, testEngine, testHeader, writeStraight } from "../engine.testing";
import { USUAL_HALFTONE } from "../halftone/halftone";
import { linesOf } from "../lines/line-set";
import { shapeOf } from "../lines/shape";
import { MASK, SELECTION } from "../picture/picture";

const engine = testEngine();
const [WIDTH, HEIGHT] = [256, 192];

function sheet(...commands: CommandInput[]): Work {
  const work = engine.open(testHeader({ width: WIDTH, height: HEIGHT }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  for (const command of commands) work.apply(command);
  return work;
}

/** A layer with another colour in each pixel, some clear. */
function speckled(work: Work): void {
  const chance = chances(3);
  writeStraight(work, "a", (x, y) =>
    x % 7 === 0 ? [0, 0, 0, 0] : [x & 255, y & 255, Math.floor(chance() * 256), 255],
  );
}

const at = (work: Work, x: number, y: number, layer = "a"): number[] =>
  pixel(engine, work, layer, x, y);

describe("cropped", () => {
  test.each([
    [64, 64, 100, 90],
    [0, 0, 128, 64],
    [13, 7, 200, 150],
    [127, 1, 129, 191],
  ])(
    "at %i, %i to %i × %i px every pixel stays what it was, to the bit",
    (left, top, width, height) => {
      const work = sheet();
      speckled(work);
      const before = seen(engine, work);
      work.apply({ do: "sheet.crop", left, top, width, height });
      expect([work.picture.width, work.picture.height]).toEqual([width, height]);
      const after = seen(engine, work);
      expect(after.length).toBe(width * height * 4);
      let off = 0;
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++)
          for (let c = 0; c < 4; c++)
            off += Math.abs(
              after[(y * width + x) * 4 + c]! - before[((y + top) * WIDTH + x + left) * 4 + c]!,
            );
      expect(off).toBe(0);
      work.undo();
      expect([work.picture.width, work.picture.height]).toEqual([WIDTH, HEIGHT]);
      expect(worst(seen(engine, work), before)).toBe(0);
      work.release();
    },
  );

  test("extended, the paint lies where the old sheet lies on the new one, and the rest is bare", () => {
    const work = sheet();
    speckled(work);
    const was = at(work, 100, 50);
    work.apply({ do: "sheet.crop", left: -30, top: -70, width: 400, height: 300 });
    expect(at(work, 130, 120)).toEqual(was);
    expect(at(work, 29, 69)).toEqual([0, 0, 0, 0]);
    expect(at(work, 390, 290)).toEqual([0, 0, 0, 0]);
    work.apply(stroke(line([300, 250], [390, 290])));
    expect(at(work, 345, 270)[3]).toBe(32767);
    work.release();
  });

  test("the selection, masks, kept selections and locked and hidden layers go along", () => {
    const box = { left: 40, top: 50, right: 90, bottom: 100 };
    const work = sheet(
      { do: "select", shape: { kind: "box", box } },
      { do: "select.keep", id: "k", name: "Kept" },
      { do: "mask.add", id: "a", from: { kind: "selection" } },
      { do: "layer.set", id: "a", locked: true, visible: false, mask: { on: true, linked: false } },
    );
    work.apply({ do: "sheet.crop", left: 33, top: 44, width: 100, height: 100 });
    for (const [owner, plane] of [
      [SELECTION, "colour"],
      ["(kept k)", "colour"],
      ["a", MASK],
    ] as const) {
      const tiles = work.picture.plane(owner, plane);
      const alpha = (x: number, y: number): number => {
        const tile = tiles.get((x >> 6) + 256 * (y >> 6));
        if (!tile) return 0;
        if (tile.colour) return tile.colour[3];
        const place =
          engine.store.address(tile) + (y & 63) * 512 + ((x & 63) >> 3) * 64 + (x & 7) * 2;
        return engine.store.heap.u16[(place + 48) >> 1]!;
      };
      // A mask says what is held back: the other way round.
      const inside = plane === MASK ? 0 : 32767;
      expect(alpha(7, 6)).toBe(inside);
      expect(alpha(56, 55)).toBe(inside);
      expect(alpha(6, 6)).toBe(32767 - inside);
      expect(alpha(57, 55)).toBe(32767 - inside);
    }
    work.release();
  });

  test("guides, the sun pin, gradients and halftones go along", () => {
    const paint = {
      kind: "gradient" as const,
      shape: "linear" as const,
      from: [10, 20] as [number, number],
      to: [110, 20] as [number, number],
      stops: [
        { at: 0, colour: "#000000" },
        { at: 1, colour: "#ffffff" },
      ],
    };
    const work = sheet(
      { do: "layer.add", id: "g", name: "G", above: "a", kind: "fill", paint },
      { do: "layer.set", id: "g", halftone: { ...USUAL_HALFTONE, x: 5, y: 6 } },
      {
        do: "guides.set",
        guides: [{ kind: "straightedge", from: { x: 50, y: 60 }, to: { x: 90, y: 60 } }],
      },
      { do: "sun.set", sun: { at: { x: 70, y: 80 }, azimuth: 1, height: 0.5 } },
    );
    const before = seen(engine, work);
    work.apply({ do: "sheet.crop", left: 20, top: 30, width: 150, height: 120 });
    const { structure } = work.picture;
    expect(structure.guides[0]).toMatchObject({ from: { x: 30, y: 30 }, to: { x: 70, y: 30 } });
    expect(structure.sun?.at).toEqual({ x: 50, y: 50 });
    expect(work.picture.layer("g").paint).toMatchObject({ from: [-10, -10], to: [90, -10] });
    const after = seen(engine, work);
    let most = 0;
    for (let y = 0; y < 120; y++)
      for (let x = 0; x < 150; x++)
        most = Math.max(
          most,
          Math.abs(after[(y * 150 + x) * 4]! - before[((y + 30) * WIDTH + x + 20) * 4]!),
        );
    // Dots and ramp lie where they lay; the ramp's own grain, which moves the dots' edges a little, lies with the sheet.
    expect(most).toBeLessThan(2000);
    work.release();
  });

  test("lines stay lines, beyond the sheet too, and come back with it", () => {
    const work = sheet(
      { do: "layer.add", id: "l", name: "L", above: "a", kind: "lines" },
      stroke(line([20, 40], [230, 150]), { layer: "l", size: 6 }),
    );
    const box = (): number[] => {
      const [own] = linesOf(engine.store, work.picture, "l").lines;
      const { left, top } = shapeOf(own!).box;
      return [left, top];
    };
    const [left, top] = box() as [number, number];
    work.apply({ do: "sheet.crop", left: 100, top: 20, width: 60, height: 60 });
    expect(box()[0]).toBeCloseTo(left - 100, 3);
    work.apply({ do: "sheet.crop", left: -100, top: -20, width: WIDTH, height: HEIGHT });
    expect(box()[0]).toBeCloseTo(left, 3);
    expect(box()[1]).toBeCloseTo(top, 3);
    expect(at(work, 30, 45, "l")[3]).toBeGreaterThan(20_000);
    work.release();
  });

  test("the grain stays with the paint: a dry stroke after it meets the same tooth as one before", () => {
    const shade = (y: number): CommandInput =>
      stroke(line([40, y], [220, y], { pressure: () => 0.4 }), {
        brush: "charcoal-vine",
        size: 60,
        colour: "#000000",
      });
    const alphasOf = (work: Work, left: number, top: number): number[] => {
      const out: number[] = [];
      for (let y = 85; y < 115; y++)
        for (let x = 70; x < 190; x++) out.push(at(work, x - left, y - top)[3]!);
      return out;
    };
    const likeness = (a: number[], b: number[]): number => {
      const mean = (v: number[]): number => v.reduce((sum, one) => sum + one, 0) / v.length;
      const [ma, mb] = [mean(a), mean(b)];
      let [ab, aa, bb] = [0, 0, 0];
      a.forEach((v, i) => {
        ab += (v - ma) * (b[i]! - mb);
        aa += (v - ma) ** 2;
        bb += (b[i]! - mb) ** 2;
      });
      return ab / Math.sqrt(aa * bb);
    };
    const first = sheet(shade(100));
    const before = alphasOf(first, 0, 0);
    const cut = sheet({ do: "sheet.crop", left: 27, top: 19, width: 220, height: 160 });
    cut.apply(
      stroke(line([40 - 27, 81], [220 - 27, 81], { pressure: () => 0.4 }), {
        brush: "charcoal-vine",
        size: 60,
        colour: "#000000",
      }),
    );
    // Loose particles lie by chance; the tooth is the same.
    expect(likeness(before, alphasOf(cut, 27, 19))).toBeGreaterThan(0.45);
    // Elsewhere on the paper it would be another tooth.
    const other = sheet(shade(100 - 37));
    expect(likeness(before, alphasOf(other, 0, 37))).toBeLessThan(0.2);
    for (const work of [first, cut, other]) work.release();
  });

  test("turned, what was level lies level no more: straightened by the same angle it does", () => {
    const slope = Math.tan(0.1);
    const work = sheet(stroke(line([20, 60], [230, 60 + 210 * slope]), { size: 8 }));
    work.apply({ do: "sheet.crop", left: 0, top: 0, width: WIDTH, height: HEIGHT, angle: 0.1 });
    const middleOf = (x: number): number => {
      let sum = 0;
      let weight = 0;
      for (let y = 0; y < HEIGHT; y++) {
        const [, , , a = 0] = at(work, x, y);
        sum += a * y;
        weight += a;
      }
      return sum / weight;
    };
    expect(Math.abs(middleOf(50) - middleOf(190))).toBeLessThan(0.3);
    work.release();
  });

  test("a sheet of studies is not cut through a frame", () => {
    const frames = [
      { left: 10, top: 10, right: 60, bottom: 60 },
      { left: 100, top: 10, right: 150, bottom: 60 },
    ];
    const work = sheet({
      do: "studies.set",
      studies: { frames, target: { width: 100, height: 100, ppi: 300 } },
    });
    work.apply({ do: "sheet.crop", left: 5, top: 5, width: 200, height: 100 });
    expect(work.picture.structure.studies?.frames[1]).toEqual({
      left: 95,
      top: 5,
      right: 145,
      bottom: 55,
    });
    expect(() =>
      work.apply({ do: "sheet.crop", left: 20, top: 0, width: 100, height: 100 }),
    ).toThrow("study’s frame");
    expect(work.picture.width).toBe(200);
    work.release();
  });
});

describe("resized", () => {
  test("twice as large and half again it is nearly what it was; wide lines, contours and guides follow", () => {
    const work = sheet(
      stroke(line([30, 40], [220, 150]), { size: 24, colour: "#a03020" }),
      { do: "layer.set", id: "a", contour: { width: 4, colour: "#000000" } },
      { do: "layer.add", id: "l", name: "L", above: "a", kind: "lines" },
      stroke(line([30, 150], [220, 40]), { layer: "l", size: 6 }),
    );
    const before = seen(engine, work);
    work.apply({ do: "sheet.resize", width: 512, ppi: 600 });
    expect([work.picture.width, work.picture.height, work.picture.ppi]).toEqual([512, 384, 600]);
    expect(work.picture.layer("a").contour?.width).toBe(8);
    work.apply({ do: "sheet.resize", width: 256, ppi: 300 });
    const after = seen(engine, work);
    const mean =
      after.reduce((sum, v, i) => sum + Math.abs(v - before[i]!), 0) / after.length / 32767;
    expect(mean).toBeLessThan(0.003);
    work.release();
  });

  test("px an inch change no pixel", () => {
    const work = sheet();
    speckled(work);
    const before = seen(engine, work);
    work.apply({ do: "sheet.ppi", ppi: 72 });
    expect(work.picture.ppi).toBe(72);
    expect(worst(seen(engine, work), before)).toBe(0);
    expect(work.undo()).toBe("size on paper");
    expect(work.picture.ppi).toBe(300);
    work.release();
  });

  test("and change nothing of how media behave: a pencil line drawn or corrected after it is as before", () => {
    const shade = stroke(line([40, 100], [220, 100], { altitude: 0.6 }), {
      brush: "pencil-2b",
      size: 20,
    });
    const own = sheet(shade);
    const other = sheet({ do: "sheet.ppi", ppi: 72 }, shade);
    expect(worst(seen(engine, other), seen(engine, own))).toBe(0);
    const lined = (...more: CommandInput[]): Work =>
      sheet(
        { do: "layer.add", id: "l", name: "L", above: "a", kind: "lines" },
        stroke(line([40, 100], [220, 100]), { layer: "l", brush: "pencil-hb", size: 8 }),
        ...more,
        { do: "line.set", layer: "l", lines: [1], colour: "#205080" },
      );
    const [plain, onPaper] = [lined(), lined({ do: "sheet.ppi", ppi: 600 })];
    expect(worst(seen(engine, plain), seen(engine, onPaper))).toBe(0);
    for (const work of [own, other, plain, onPaper]) work.release();
  });

  test.each([
    [{ do: "sheet.crop", left: 0, top: 0, width: 0, height: 10 }, "width"],
    [{ do: "sheet.crop", left: 0.5, top: 0, width: 10, height: 10 }, "left"],
    [{ do: "sheet.crop", left: 0, top: 0, width: 16384, height: 16384 }, "200 million"],
    [{ do: "sheet.resize", width: 16384, ppi: 0 }, "ppi"],
  ])("what cannot be is refused: %j", (command, word) => {
    const work = sheet();
    expect(() => work.apply(command as CommandInput)).toThrow(word);
    expect(work.picture.width).toBe(WIDTH);
    work.release();
  });
});
