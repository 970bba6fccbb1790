import { nanoid } from "nanoid";
import { alphas, testEngine, testHeader } from "../../engine.testing";
import { lengthsOf, nearestOn, pointOn } from "../../lines/curve";
import { type Line } from "../../lines/line";
import { linesOf } from "../../lines/line-set";
import { along, draw, lineWork, wave } from "../../lines/lines.testing";
import { hexOf } from "./colour";
import { onSheet, readSvg, svgCommands } from "./read";
import { writeSvg } from "./write";

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** An SVG of 1000 × 800 px with something in it. */
const svg = (inside: string, more = 'width="1000" height="800"'): Uint8Array =>
  bytes(`<svg xmlns="http://www.w3.org/2000/svg" ${more}>${inside}</svg>`);

const only = (inside: string): Line => {
  const [layer] = readSvg(svg(inside)).layers;
  const [line] = layer?.lines ?? [];
  if (!line) throw new Error("there is no line");
  return line;
};

const endsOf = ({ curve }: Line): number[] => [
  ...pointOn(curve, { piece: 0, t: 0 }),
  ...pointOn(curve, { piece: curve.material.length - 2, t: 1 }),
];

describe("lines from an SVG", () => {
  it("out and in again are the same lines, to the byte", () => {
    const { engine, work } = lineWork({ ppi: 150 });
    const swelling = (u: number): number => 0.25 + 0.7 * Math.abs(Math.sin(u * 5));
    for (const [i, brush] of ["pen-sprung", "pen-even", "pencil-6b", "pen-brush"].entries())
      draw(engine, work, along(wave(60, 580, 80 + 90 * i), 600, swelling), { brush, size: 8 });
    const seen = alphas(engine, work, "l");
    const file = readSvg(writeSvg(engine, work.picture));
    expect([file.width, file.height, Math.round(file.ppi)]).toEqual([640, 480, 150]);
    expect(file.notes).toEqual([]);
    const again = testEngine();
    const other = again.open(testHeader({ width: 640, height: 480, ppi: 150 }));
    for (const command of svgCommands(file, () => "l", null)) other.apply(command);
    const [a, b] = [
      linesOf(engine.store, work.picture, "l"),
      linesOf(again.store, other.picture, "l"),
    ];
    const shapes = (lines: readonly Line[]) => lines.map(({ z: _z, ...rest }) => rest);
    expect(shapes(b.lines)).toEqual(shapes(a.lines));
    expect(alphas(again, other, "l")).toEqual(seen);
  });

  it("takes paths of every kind: straight, cubic, quadratic, smooth, arcs, relative ones", () => {
    expect(endsOf(only('<path d="M10 20 l30 0 v40 H5" stroke="#102030" fill="none"/>'))).toEqual([
      10, 20, 5, 60,
    ]);
    const cubic = only(
      '<path d="M0 0C0 100 100 100 100 0S200-100 200 0" stroke="red" fill="none"/>',
    );
    expect(cubic.colour).toBe("#ff0000");
    expect(pointOn(cubic.curve, { piece: 0, t: 0.5 })).toEqual([50, 75]);
    expect(pointOn(cubic.curve, { piece: 1, t: 0.5 })).toEqual([150, -75]);
    expect(cubic.curve.corners[1]).toBe(false);
    const quadratic = only('<path d="M0 0Q50 100 100 0" stroke="black" fill="none"/>');
    expect(pointOn(quadratic.curve, { piece: 0, t: 0.5 })[1]).toBeCloseTo(50, 3);
    const arc = only('<path d="M100 0A100 100 0 0 1 0 100" stroke="black" fill="none"/>');
    for (const [x, y] of [
      [100 * Math.SQRT1_2, 100 * Math.SQRT1_2],
      [50, Math.sqrt(7500)],
    ] as const)
      expect(nearestOn(arc.curve, x, y)?.distance).toBeLessThan(0.05);
  });

  it("takes shapes, groups, transforms, styles and opacity", () => {
    const circle = only(
      '<circle cx="300" cy="200" r="50" fill="none" style="stroke:#0a0b0c;stroke-width:4"/>',
    );
    expect(circle.closed).toBe(true);
    expect(circle.width[1]).toBe(2);
    expect(lengthsOf(circle.curve).at(-1)).toBeCloseTo(2 * Math.PI * 50, 0);
    const rect = only(
      '<rect x="10" y="20" width="100" height="60" rx="8" fill="none" stroke="navy"/>',
    );
    expect(rect.closed).toBe(true);
    expect(lengthsOf(rect.curve).at(-1)).toBeCloseTo(2 * (84 + 44) + 2 * Math.PI * 8, 0);
    const moved = only(
      '<g transform="translate(100 50)" stroke="#336699" opacity="0.5"><g transform="scale(2)"><line x1="0" y1="0" x2="10" y2="20" stroke-width="3" stroke-opacity="0.5"/></g></g>',
    );
    expect(endsOf(moved)).toEqual([100, 50, 120, 90]);
    expect(moved.width[1]).toBeCloseTo(3, 5);
    expect(moved.strength).toBeCloseTo(0.25, 6);
    const file = readSvg(
      svg(
        '<g><title>Coat</title><path d="M0 0L9 9" stroke="black"/></g><g id="Hat"><polyline points="0,0 50,0 50,50" fill="none" stroke="black"/><polygon points="0 0 50 0 50 50" fill="none" stroke="black"/></g>',
      ),
    );
    expect(file.layers.map(({ name, lines }) => [name, lines.length])).toEqual([
      ["Coat", 1],
      ["Hat", 2],
    ]);
  });

  it("knows its size on paper, and makes an icon a sheet", () => {
    const line = '<path d="M0 0L9 9" stroke="black"/>';
    expect(
      readSvg(svg(line, 'width="254mm" height="127mm" viewBox="0 0 3000 1500"')),
    ).toMatchObject({
      width: 3000,
      height: 1500,
      ppi: 300,
    });
    const icon = readSvg(svg(line, 'viewBox="-2 -2 24 24"'));
    expect([icon.width, icon.height]).toEqual([1200, 1200]);
    expect(endsOf(icon.layers[0]?.lines[0] as Line)).toEqual([100, 100, 550, 550]);
  });

  it("names what it leaves out; filled shapes come in as outlines", () => {
    const file = readSvg(
      svg(
        '<text x="3" y="9">no</text><image href="a.png"/><use href="#a"/><path d="M0 0H90V90z" fill="#445566"/><defs><path d="M0 0L1 1"/></defs>',
      ),
    );
    expect(file.notes).toEqual([
      "Left out: text, image, use.",
      "1 filled shapes came in as outlines: fill them on a layer below.",
    ]);
    expect(file.layers[0]?.lines).toMatchObject([{ colour: "#445566", closed: true }]);
  });

  it.each([
    ["entities", '<!DOCTYPE svg [<!ENTITY a "b">]><svg width="10" height="10"/>', /entities/],
    [
      "no size",
      '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 9" stroke="red"/></svg>',
      /how large/,
    ],
    ["nothing in it", '<svg width="900" height="900"/>', /no line in this SVG/],
    [
      "a path that is none",
      '<svg width="900" height="900"><path stroke="red" d="M0 0 L x y"/></svg>',
      /cannot be read/,
    ],
    ["no svg", "<html></html>", /not an SVG/],
    [
      "groups without end",
      `<svg width="900" height="900">${"<g>".repeat(90)}<path d="M0 0L9 9" stroke="red"/>${"</g>".repeat(90)}</svg>`,
      /too deep/,
    ],
  ])("refuses %s in words", (_name, text, why) => {
    expect(() => readSvg(bytes(text))).toThrow(why);
  });

  it("a line of ours that was spoilt comes in by its path", () => {
    const file = readSvg(
      svg(
        '<path d="M10 10L90 90" stroke="#123456" fill="none" stroke-width="6" data-line="QUJD"/>',
      ),
    );
    expect(file.layers[0]?.lines).toMatchObject([
      { brush: "pen-even", colour: "#123456", width: [0, 3] },
    ]);
  });

  it("lies in the middle of a sheet, made smaller where it must", () => {
    const file = readSvg(svg('<path d="M0 0L1000 800" stroke="black" stroke-width="10"/>'));
    const small = onSheet(file, { width: 500, height: 500 });
    const line = small.layers[0]?.lines[0] as Line;
    expect(endsOf(line)).toEqual([0, 50, 500, 450]);
    expect(line.width[1]).toBeCloseTo(2.5, 5);
    expect(svgCommands(small, nanoid, "a")).toMatchObject([
      { do: "layer.add", above: "a", kind: "lines" },
      { do: "line.add" },
    ]);
  });

  it("reads plain colours", () => {
    expect(
      ["#abc", "#A1b2C3", "rgb(1, 2, 3)", "rgb(100%,0%,50%)", "teal", "none", "url(#g)"].map(hexOf),
    ).toEqual(["#aabbcc", "#a1b2c3", "#010203", "#ff0080", "#008080", null, "#000000"]);
  });
});
