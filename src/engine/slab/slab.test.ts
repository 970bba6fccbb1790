import { fingerprint, line, stroke, testWork } from "../engine.testing";
import { scaledCommand } from "../command/commands";
import { seen } from "../compose/seen.testing";
import { rgbToOklch, hexToRgb } from "../colour/oklch";
import { isWet } from "../oil/drying";
import { paintAt, thickness, volume, type Wet } from "../oil/oil.testing";
import { SLAB, SLAB_HEIGHT, SLAB_WIDTH } from "./slab";

/** A picture smaller than its slab. */
const small = (): Wet => ({ ...testWork(), owner: SLAB });
const even = { pressure: () => 0.7, altitude: 1.57, steps: 60 };
const mixing = (changes: Parameters<typeof stroke>[1] = {}) =>
  stroke(line([300, 500], [700, 500], even), {
    layer: SLAB,
    brush: "oil-round",
    size: 60,
    ...changes,
  });

it("takes paint where no sheet is, and leaves the sheet as it is", () => {
  const wet = small();
  const before = seen(wet.engine, wet.work);
  wet.work.apply(mixing({ colour: "#2a4fc0" }));
  expect(thickness(wet, 500, 500)).toBeGreaterThan(0.3);
  expect(wet.work.picture.plane("a").size).toBe(0);
  expect(seen(wet.engine, wet.work)).toEqual(before);
});

it("paint squeezed out lies in a coil, and is mixed to a green by a brush that goes through it", () => {
  const wet = small();
  wet.work.apply({ do: "slab.squeeze", colour: "#2a4fc0", x: 300, y: 500 });
  wet.work.apply({ do: "slab.squeeze", colour: "#f2d024", x: 380, y: 500 });
  expect(volume(wet, 260, 460, 340, 540)).toBeGreaterThan(3000);
  const { h: pure } = paintAt(wet, 300, 500);
  expect(Math.abs(pure - rgbToOklch(hexToRgb("#2a4fc0")).h)).toBeLessThan(3);
  for (let i = 0; i < 6; i++)
    wet.work.apply(
      stroke(
        line(
          i % 2 ? [430, 490 + 4 * i] : [260, 490 + 4 * i],
          i % 2 ? [260, 500] : [430, 500],
          even,
        ),
        { layer: SLAB, brush: "oil-flat", size: 60, mode: "blend" },
      ),
    );
  const { h, c } = paintAt(wet, 342, 502);
  expect(h).toBeGreaterThan(110);
  expect(h).toBeLessThan(185);
  expect(c).toBeGreaterThan(0.04);
});

it("is taken back and done again with everything else", () => {
  const wet = small();
  const bare = fingerprint(wet.engine, wet.work);
  wet.work.apply(mixing());
  const mixed = fingerprint(wet.engine, wet.work);
  expect(mixed).not.toBe(bare);
  expect(wet.work.undo()).toBe("mix on the slab");
  expect(fingerprint(wet.engine, wet.work)).toBe(bare);
  wet.work.redo();
  expect(fingerprint(wet.engine, wet.work)).toBe(mixed);
});

it("is kept out of selections and stencils, and of drying layers", () => {
  const wet = small();
  wet.work.apply({
    do: "select",
    shape: { kind: "box", box: { left: 0, top: 0, right: 9, bottom: 9 } },
  });
  wet.work.apply(mixing());
  expect(thickness(wet, 500, 500)).toBeGreaterThan(0.3);
  expect(() => wet.work.apply({ do: "paint.dry", layers: ["a"] })).toThrow(/wet/);
  expect(isWet(wet.work.picture, SLAB)).toBe(true);
});

it("keeps quick paint wet, so that it can be mixed and wiped", () => {
  const wet = small();
  wet.work.apply(mixing({ brush: "gouache-flat", colour: "#c02018" }));
  expect(isWet(wet.work.picture, SLAB)).toBe(true);
  const before = volume(wet, 0, 0, SLAB_WIDTH, SLAB_HEIGHT);
  wet.work.apply(mixing({ brush: "gouache-flat", mode: "lift" }));
  expect(volume(wet, 0, 0, SLAB_WIDTH, SLAB_HEIGHT)).toBeLessThan(before * 0.8);
});

it("is scraped clean at once, and says when it is clean already", () => {
  const wet = small();
  const bare = fingerprint(wet.engine, wet.work);
  wet.work.apply(mixing());
  wet.work.apply({ do: "slab.clean" });
  expect(fingerprint(wet.engine, wet.work)).toBe(bare);
  expect(() => wet.work.apply({ do: "slab.clean" })).toThrow("The slab is clean already.");
});

it("refuses what leaves no wet paint, and paint squeezed out beside it", () => {
  const { work } = small();
  expect(() => work.apply(mixing({ brush: "pencil-2b" }))).toThrow(/slab takes oil/);
  expect(() =>
    work.apply({ do: "slab.squeeze", colour: "#2a4fc0", x: SLAB_WIDTH + 1, y: 5 }),
  ).toThrow(/x/);
  expect(() => work.apply({ do: "layer.add", id: SLAB, name: "No", above: null })).toThrow(
    /bracket/,
  );
});

it("stays as large as it is when the sheet is painted larger", () => {
  const { work } = small();
  const command = work.apply(mixing());
  expect(scaledCommand(command, 3)).toEqual(command);
});
