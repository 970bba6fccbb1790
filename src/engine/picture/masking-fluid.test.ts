import { alphaAt, line, pixelAt, stroke } from "../engine.testing";
import { Compositor } from "../compose/compositor";
import { seen } from "../compose/seen.testing";
import { lostToOthers, planOpenRaster } from "../file/openraster/plan";
import { lay, over, type Sheet, sheet, wait } from "../water/water.testing";
import { isWashWet } from "../water/wash-planes";

/** A sheet with paint layer “a” under a film of masking fluid, a band of 40 px across its middle. */
function masked(): Sheet {
  const made = sheet();
  made.work.apply({ do: "layer.add", id: "film", name: "Masking fluid", above: "a" });
  made.work.apply({ do: "layer.set", id: "film", holds: true, tint: "#d8a53c" });
  made.work.apply(
    stroke(line([60, 190], [450, 190]), { layer: "film", size: 40, brush: "pen-even" }),
  );
  return made;
}

const shown = ({ engine, work }: Sheet, x: number, y: number): number =>
  alphaAt(engine, work, "a", x, y);

describe("masking fluid", () => {
  it("holds strokes off, wholly under it and in part under its edge", () => {
    const s = masked();
    s.work.apply(stroke(line([250, 40], [250, 350]), { size: 60, brush: "round-firm" }));
    expect(shown(s, 250, 100)).toBe(1);
    expect(shown(s, 250, 190)).toBe(0);
    expect(shown(s, 250, 300)).toBe(1);
    // The mark is what the film lets through, pixel by pixel.
    for (let y = 160; y < 220; y++)
      expect(shown(s, 250, y)).toBeCloseTo(1 - alphaAt(s.engine, s.work, "film", 250, y), 3);
  });

  it("holds fills, gradients and Lift off, too", () => {
    const s = masked();
    s.work.apply({ do: "fill", layer: "a", at: [[100, 60]], colour: "#204080" });
    expect(shown(s, 250, 190)).toBe(0);
    expect(shown(s, 250, 300)).toBe(1);
    s.work.apply({ do: "layer.set", id: "film", visible: false });
    s.work.apply(stroke(line([250, 40], [250, 350]), { size: 60, brush: "round-firm" }));
    s.work.apply({ do: "layer.set", id: "film", visible: true });
    const lift = { size: 60, brush: "round-firm", mode: "lift" } as const;
    s.work.apply(stroke(line([250, 40], [250, 350]), lift));
    expect(shown(s, 250, 190)).toBe(1);
    expect(shown(s, 250, 300)).toBe(0);
  });

  it("does not take on paint that is wet, water or oil, and says so", () => {
    for (const wet of [{ brush: "wash-round" }, { brush: "oil-flat" }]) {
      const s = masked();
      s.work.apply(stroke(line([100, 60], [400, 60]), { size: 40, ...wet }));
      const film = stroke(line([60, 300], [450, 300]), {
        layer: "film",
        size: 20,
        brush: "pen-even",
      });
      expect(() => s.work.apply(film)).toThrow(/takes on dry paper alone, and “A” is wet/);
      s.work.apply({ do: "paint.dry", layers: ["a"] });
      s.work.apply(film);
      expect(alphaAt(s.engine, s.work, "film", 250, 300)).toBe(1);
    }
  });

  it("keeps the paper dry under it while a wash runs around it", () => {
    const s = masked();
    lay(s, over(80, 60, 340, 260), { size: 80 });
    wait(s, 4);
    s.work.apply({ do: "paint.dry", layers: ["a"] });
    expect(shown(s, 250, 190)).toBe(0);
    let [beside, under] = [0, 0];
    for (let x = 120; x < 400; x += 7) {
      beside += shown(s, x, 120);
      for (let y = 178; y < 202; y += 6) under = Math.max(under, shown(s, x, y));
    }
    expect(under).toBe(0);
    expect(beside / 40).toBeGreaterThan(0.2);
  });

  it("is rubbed off by Lift, and what it held can be painted", () => {
    const s = masked();
    s.work.apply(
      stroke(line([60, 190], [450, 190]), {
        ...{ layer: "film", size: 60, mode: "lift" },
        brush: "pen-even",
      }),
    );
    s.work.apply(stroke(line([250, 40], [250, 350]), { size: 60, brush: "round-firm" }));
    expect(shown(s, 250, 190)).toBe(1);
  });

  it("is a film whatever brush lays it, in whatever colour", () => {
    const s = masked();
    for (const brush of ["wash-round", "oil-flat", "pen-even"])
      s.work.apply(stroke(line([60, 60], [200, 60]), { layer: "film", brush, colour: "#ffffff" }));
    expect(isWashWet(s.work.picture, "film")).toBe(false);
    expect(pixelAt(s.engine, s.work, "film", 130, 60)).toEqual([0, 0, 0, 255]);
  });

  it("takes on what is dry alone", () => {
    const s = masked();
    lay(s, over(80, 260, 340, 60));
    const film = stroke(line([60, 60], [200, 60]), { layer: "film", brush: "pen-even" });
    expect(() => s.work.apply(film)).toThrow(/“A” is wet/);
    s.work.apply({ do: "paint.dry", layers: ["a"] });
    s.work.apply(film);
    expect(alphaAt(s.engine, s.work, "film", 130, 60)).toBe(1);
  });

  it("is seen on the table and in nothing that is exported", () => {
    const s = masked();
    const at = (of: Uint16Array, x: number, y: number): number[] => [
      ...of.subarray((y * 512 + x) * 4, (y * 512 + x) * 4 + 4),
    ];
    const exported = seen(s.engine, s.work);
    expect(at(exported, 250, 190)).toEqual(at(exported, 250, 60));
    const { store, workforce } = s.engine;
    const table = new Compositor(s.work.picture, store, workforce, true, true);
    const onTable = seen(s.engine, s.work, table);
    table.free();
    expect(at(onTable, 250, 190)).not.toEqual(at(onTable, 250, 60));
    // What others read of a file has no film either.
    const { structure } = s.work.picture;
    const { elements } = planOpenRaster(structure, true, new Set());
    expect(JSON.stringify(elements)).not.toContain("Masking fluid");
    expect(lostToOthers(structure, true)).toContainEqual(expect.stringContaining("Masking fluid"));
  });
});
