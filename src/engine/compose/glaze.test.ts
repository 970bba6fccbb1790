import { hexToOklch, hexToRgb, type Rgb, rgbToOklch } from "../colour/oklch";
import { testEngine, testHeader } from "../engine.testing";
import { Compositor } from "./compositor";
import { ONE, pixelOffset } from "../tiles/layout";

const engine = testEngine();

/** What a glaze of one colour over a ground of another looks like, sRGB 0…1. */
function glazed(ground: string, colour: string, opacity = 1): Rgb {
  const work = engine.open(testHeader({ width: 64, height: 64, ground }));
  const paint = { kind: "colour" as const, colour };
  work.apply({ do: "layer.add", id: "g", name: "Glaze", above: null, kind: "fill", paint });
  work.apply({ do: "layer.set", id: "g", blend: "glaze", opacity });
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  let seen: Rgb = [0, 0, 0];
  compositor.compose([0], (_key, address) => {
    const { u16 } = engine.store.heap;
    seen = [0, 1, 2].map(
      (c) => (u16[(address + pixelOffset(9, 9, c)) >> 1] as number) / ONE,
    ) as Rgb;
  });
  compositor.free();
  work.release();
  return seen;
}

const colours = ["#1b2a8c", "#f5d327", "#b5532a", "#2f7a4a", "#808080", "#e8d8c8"];

test.each(colours)("over white, %s is exactly itself; half as opaque it is half way", (colour) => {
  const own = hexToRgb(colour);
  glazed("#ffffff", colour).forEach((v, i) => expect(v).toBeCloseTo(own[i] as number, 2));
  const half = glazed("#ffffff", colour, 0.5);
  half.forEach((v, i) => expect(v).toBeCloseTo((1 + (own[i] as number)) / 2, 2));
});

test("a blue glaze over yellow is green, where multiplying light alone would be nearly black", () => {
  for (const [blue, yellow] of [
    ["#1b6fb0", "#f5d327"],
    ["#2a8fb8", "#e8c840"],
  ] as const) {
    const { c, h } = rgbToOklch(glazed(yellow, blue));
    expect(h).toBeGreaterThan(115);
    expect(h).toBeLessThan(170);
    expect(c).toBeGreaterThan(0.06);
  }
});

test("a light glaze veils the dark a little; a dark one never lightens what is under it", () => {
  const veil = rgbToOklch(glazed("#000000", "#ffffff"));
  expect(veil.l).toBeGreaterThan(0.3);
  expect(veil.l).toBeLessThan(0.6);
  for (const ground of colours) {
    const under = hexToOklch(ground).l;
    expect(rgbToOklch(glazed(ground, "#101014")).l).toBeLessThan(under);
    // Glazes deepen: the same colour over itself is darker, and of much the same hue.
    const twice = rgbToOklch(glazed(ground, ground));
    expect(twice.l).toBeLessThan(under + 0.002);
  }
});
