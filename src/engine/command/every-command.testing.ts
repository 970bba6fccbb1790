import { newScene, passKinds } from "../scene/scene";
import { solid } from "../scene/scene.testing";
import { USUAL_HALFTONE } from "../halftone/halftone";
import { line, stroke } from "../engine.testing";
import { toBase64 } from "../file/base64";
import { writePng } from "../file/png";
import { encodeLines } from "../lines/chunk";
import { type Point, straight } from "../lines/curve";
import { type Line } from "../lines/line";
import { type Command, type CommandInput } from "./commands";

/**
 * Every command there is, on one picture that has something for each of them. A command without
 * a sample does not compile.
 */

const png = (): string =>
  toBase64(
    writePng({
      width: 24,
      height: 16,
      data: Uint8Array.from({ length: 24 * 16 * 4 }, (_, i) =>
        i % 4 === 3 ? 255 : (Math.imul(i + 3, 2654435761) >>> 24) & 255,
      ),
    }),
  );

const box = { left: 40, top: 30, right: 170, bottom: 140 };

/** What lies on the sheet before a sample is applied: paint, lines, a group, masks, a selection kept, stencils. */
export const before: readonly CommandInput[] = [
  { do: "layer.add", id: "a", name: "A", above: null },
  stroke(line([20, 40], [230, 150]), { brush: "round-soft", size: 70, colour: "#b5532a" }),
  { do: "layer.add", id: "b", name: "B", above: "a" },
  stroke(line([30, 160], [220, 20]), { layer: "b", brush: "pencil-6b", size: 30 }),
  { do: "layer.add", id: "ink", name: "Ink", above: "b" },
  stroke(line([40, 30], [170, 30]), { layer: "ink", size: 5 }),
  stroke(line([170, 30], [170, 140]), { layer: "ink", size: 5 }),
  stroke(line([170, 140], [40, 140]), { layer: "ink", size: 5 }),
  stroke(line([40, 140], [40, 30]), { layer: "ink", size: 5 }),
  { do: "layer.set", id: "ink", lines: true },
  { do: "layer.add", id: "flat", name: "Flat", above: "b" },
  { do: "fill", layer: "flat", at: [[100, 90]], colour: "#e0c080", borders: "lines" },
  { do: "layer.add", id: "in", name: "In a group", above: "ink" },
  stroke(line([20, 20], [60, 180]), { layer: "in", size: 24, colour: "#204080" }),
  { do: "layer.group", id: "g", name: "G", layers: ["in"] },
  { do: "mask.add", id: "b", from: { kind: "layer", layer: "a", by: "shape" } },
  { do: "stencil.add", id: "st", name: "Card", from: { kind: "layer", layer: "flat" } },
  { do: "stencil.set", ids: ["st"], changes: { on: false } },
  { do: "select", shape: { kind: "box", box } },
  { do: "select.keep", id: "k", name: "Kept" },
  { do: "select.none" },
];

/** A brush that leaves wet paint, and a stroke of it. */
const oil = { brush: "oil-flat", size: 30 } as const;
const wash = { brush: "wash-round", size: 40, colour: "#2a4fa0" } as const;
const wetStroke: CommandInput = stroke(line([20, 30], [200, 40]), { ...oil, colour: "#c02018" });

const onSlab: CommandInput = stroke(line([20, 30], [200, 40]), { ...oil, layer: "(slab)" });
/** What was dipped in two paints: a stripe of each. */
const stripes = Array.from({ length: 12 }, (_, i) =>
  i < 6 ? [0.8, 0.1, 0.2, 0.1, 0.3, 2, 1, 0.1] : [0.5, 6, 4, 1, 0.4, 0.1, 0.05, 0.02],
);

/** A line layer with two lines that cross, the first of number 1. */
const lined: readonly CommandInput[] = [
  { do: "layer.add", id: "l", name: "Lines", above: "ink", kind: "lines" },
  stroke(line([30, 100], [220, 110]), { layer: "l", brush: "pen-sprung", size: 8 }),
  stroke(line([120, 30], [130, 170]), { layer: "l", brush: "pen-even", size: 4, seed: 2 }),
];
/** With a third that goes on where the first ends, and a pencil's. */
const linedMore: readonly CommandInput[] = [
  ...lined,
  stroke(line([226, 110], [240, 170]), { layer: "l", brush: "pen-sprung", size: 8 }),
  stroke(line([40, 150], [100, 40]), { layer: "l", brush: "pencil-hb", size: 6 }),
];
const overLine: [number, number, number][] = [
  [80, 100, 0.8],
  [120, 104, 1],
];

/** A line as a file brings it. */
const straightLine = (from: Point, to: Point): Line => ({
  id: 1,
  z: 0,
  brush: "pen-even",
  size: 6,
  strength: 1,
  colour: "#204060",
  second: "#ffffff",
  seed: 0,
  curve: straight(from, to, [0, 200]),
  width: [0, 3],
  hand: [0, 0.7, 1.5, 0, 0, 0],
  taper: { in: 0, out: 0 },
  closed: false,
});

/** Two solids, the second of them in front, and the camera turned a little. */
const blockedOut: readonly CommandInput[] = [
  {
    do: "scene.put",
    solids: [
      solid({ id: "shed", size: [3, 2, 2] }),
      solid({ id: "tank", kind: "ball", at: [1, 0, 2], bend: 0, colour: "#507090" }),
    ],
  },
];
const allPasses = passKinds.map((pass) => ({ pass, layer: `scene ${pass}` }));

/** Leaves strewn on a layer of their own. */
const strew = {
  ...({ set: 0, gap: 0.6, spread: 0.8, sizes: 0.5, press: 0.3, turn: "any" } as const),
  ...{ turns: 0.2, flips: true, tint: 0.3, strays: 0.4, fades: 0.3, blurs: 0.3 },
} as const;
const strewn: readonly CommandInput[] = [
  { do: "layer.add", id: "s", name: "Strewn", above: "a", kind: "strewn" },
  stroke(line([30, 40], [220, 130]), { layer: "s", size: 40, seed: 7, strew }),
];
/** A set of one's own, of what is selected on layer “a”. */
const collected: readonly CommandInput[] = [
  { do: "select", shape: { kind: "box", box: { left: 20, top: 20, right: 90, bottom: 80 } } },
  { do: "strew.collect", layer: "a", set: 256, name: "Own" },
];

/** A page of two tiers, the upper of two panels. */
const page: readonly CommandInput[] = [
  {
    do: "panels.lay",
    id: "p",
    box: { left: 12, top: 10, right: 244, bottom: 182 },
    style: { width: 3, colour: "#101014" },
  },
  { do: "panels.cut", id: "q", from: [4, 92], to: [250, 100], gutter: 10 },
  { do: "panels.cut", id: "r", from: [120, 4], to: [120, 80], gutter: 6 },
];
/** How speed and focus lines are drawn. */
const rayStyle = {
  ...{ brush: "pen-even", size: 4, strength: 1, colour: "#101014", second: "#ffffff" },
  seed: 5,
} as const;
const rayChance = { width: 0.7, length: 0.5, gap: 0.8 };

type Name = Command["do"];

/** Samples of one command: lists, because some need a step or two of others first. The last one is meant. */
export const samples: Record<Name, readonly (readonly CommandInput[])[]> = {
  "scene.put": [
    [
      ...blockedOut,
      { do: "scene.put", solids: [solid({ id: "shed", kind: "wedge", flip: true })] },
    ],
  ],
  "scene.set": [
    [
      ...blockedOut,
      {
        do: "scene.set",
        camera: {
          ...{ at: [3, 2, 6], to: [0, 1, 0], lens: 28, roll: 0.1 },
          frame: { x: 128, y: 96, width: 256 },
        },
        light: { ...newScene(256, 192).light, height: 0.4 },
        ground: null,
      },
    ],
  ],
  "scene.remove": [[...blockedOut, { do: "scene.remove", ids: ["shed"] }]],
  "scene.clear": [[...blockedOut, { do: "scene.clear" }]],
  "scene.paint": [
    [...blockedOut, { do: "scene.paint", passes: allPasses, above: "b" }],
    [
      ...blockedOut,
      { do: "scene.paint", passes: allPasses.slice(0, 1), above: "b", group: "g" },
      { do: "scene.remove", ids: ["tank"] },
      { do: "scene.paint", passes: allPasses.slice(0, 1), above: null },
    ],
    [
      ...blockedOut,
      { do: "scene.paint", passes: allPasses.slice(0, 2), above: "b" },
      stroke(line([20, 40], [230, 150]), { layer: "scene colour", size: 30 }),
      { do: "sheet.crop", left: 11, top: 7, width: 200, height: 150 },
      { do: "scene.paint", passes: allPasses.slice(1, 2), above: null },
    ],
  ],
  "panels.lay": [page.slice(0, 1)],
  "panels.cut": [page.slice(0, 2), page],
  "panels.bleed": [[...page, { do: "panels.bleed", group: "p", side: 0 }]],
  "panels.push": [[...page, { do: "panels.push", group: "p", side: 1, by: [24, 0] }]],
  "panels.join": [[...page, { do: "panels.join", groups: ["p", "r"] }]],
  "line.speed": [
    [
      ...lined,
      {
        ...{ do: "line.speed", layer: "l", style: rayStyle, chance: rayChance },
        ...{ from: [20, 90], to: [230, 110], across: 90, gap: 6 },
      },
    ],
    [
      ...lined,
      {
        ...{ do: "line.speed", layer: "l", style: rayStyle, chance: rayChance, pointed: "both" },
        ...{ from: [20, 90], to: [230, 110], across: 150, gap: 9, toward: [400, 20] },
        within: { left: 30, top: 30, right: 200, bottom: 160 },
      },
    ],
  ],
  "line.trace": [
    [
      stroke(line([30, 40], [210, 60]), { size: 9, brush: "pen-even" }),
      { do: "line.trace", layer: "a", id: "t", name: "Lines" },
    ],
  ],
  "line.repeat": [
    [
      ...linedMore,
      {
        ...{ do: "line.repeat", layer: "l", lines: [4], gap: 12, turns: true },
        along: [
          [20, 20],
          [60, 20],
          [80, 60],
        ],
      },
    ],
  ],
  "line.focus": [
    [
      ...lined,
      {
        ...{ do: "line.focus", layer: "l", style: rayStyle, chance: rayChance },
        ...{ at: [120, 90], clear: [50, 30], gap: 5 },
      },
    ],
  ],
  "line.pull": [
    [
      ...lined,
      {
        do: "line.pull",
        layer: "l",
        line: 1,
        at: [100, 104],
        to: [104, 130],
        reach: 40,
        ends: "held",
      },
    ],
    [
      ...lined,
      {
        do: "line.pull",
        layer: "l",
        line: 1,
        at: [215, 110],
        to: [215, 150],
        reach: 90,
        ends: "free",
      },
    ],
  ],
  "line.weigh": (["thicken", "thin", "even"] as const).map((how) => [
    ...lined,
    { do: "line.weigh", layer: "l", over: overLine, radius: 30, how },
  ]),
  "line.smooth": ([1, 2, 3] as const).map((strength) => [
    { do: "layer.add", id: "l", name: "Lines", above: "ink", kind: "lines" },
    stroke(
      line([30, 100], [220, 110], { steps: 60 }).map(([t, x, y, ...rest], i) => [
        t,
        x,
        y + (i % 2) * 3,
        ...rest,
      ]),
      { layer: "l", brush: "pen-sprung", size: 8 },
    ),
    { do: "line.smooth", layer: "l", lines: [1], strength },
  ]),
  "line.simplify": [
    [
      { do: "layer.add", id: "l", name: "Lines", above: "ink", kind: "lines" },
      stroke(
        line([30, 100], [220, 110], { steps: 60 }).map(([t, x, y, ...rest], i) => [
          t,
          x,
          y + (i % 2) * 3,
          ...rest,
        ]),
        { layer: "l", size: 8 },
      ),
      { do: "line.simplify", layer: "l", lines: [1], error: 2 },
    ],
  ],
  "line.redraw": [
    [
      ...lined,
      {
        do: "line.redraw",
        layer: "l",
        samples: [...line([60, 102], [100, 130]), ...line([102, 130], [150, 108])],
      },
    ],
    [...lined, { do: "line.redraw", layer: "l", line: 1, samples: line([218, 110], [245, 140]) }],
  ],
  "line.join": [
    [...linedMore, { do: "line.join", layer: "l", lines: [1, 3], within: 20 }],
    [...lined, { do: "line.join", layer: "l", lines: [1], within: 400 }],
  ],
  "line.cut": [
    [...lined, { do: "line.cut", layer: "l", line: 1, at: [200, 109], how: "to crossings" }],
    [...lined, { do: "line.cut", layer: "l", line: 1, at: [80, 102], how: "part" }],
  ],
  "line.erase": (["touched", "to crossings", "whole"] as const).map((how) => [
    ...linedMore,
    { do: "line.erase", layer: "l", over: overLine, radius: 8, how },
  ]),
  "line.add": [
    [
      ...lined,
      {
        do: "line.add",
        layer: "l",
        lines: toBase64(encodeLines([straightLine([30, 40], [200, 160])])),
      },
    ],
  ],
  "line.remove": [[...linedMore, { do: "line.remove", layer: "l", lines: [1, 4] }]],
  "line.set": [
    [...lined, { do: "line.set", layer: "l", lines: [1, 2], colour: "#a02020", strength: 0.6 }],
    [...lined, { do: "line.set", layer: "l", lines: [1], brush: "pen-broken" }],
    [...linedMore, { do: "line.set", layer: "l", lines: [4], brush: "pen-brush", size: 12 }],
    [...lined, { do: "line.set", layer: "l", lines: [1], width: 3, taper: { in: 0, out: 60 } }],
    [...lined, { do: "line.set", layer: "l", lines: [2], times: 2.5 }],
  ],
  "line.fit-width": [
    [
      ...lined,
      { do: "line.set", layer: "l", lines: [1], width: 3 },
      { do: "line.fit-width", layer: "l", lines: [1] },
    ],
  ],
  "line.turn-round": [[...lined, { do: "line.turn-round", layer: "l", lines: [1] }]],
  "line.order": [
    [
      ...lined,
      { do: "line.set", layer: "l", lines: [1], colour: "#a02020" },
      { do: "line.order", layer: "l", lines: [1], to: "front" },
    ],
    [
      ...lined,
      { do: "line.set", layer: "l", lines: [1], colour: "#a02020" },
      { do: "line.order", layer: "l", lines: [2], to: "back" },
    ],
  ],
  "line.move": [
    [
      ...linedMore,
      {
        do: "line.move",
        layer: "l",
        lines: [1, 4],
        warp: { kind: "matrix", matrix: [0.8, -0.3, 30, 0.3, 0.8, -20, 0, 0, 1] },
      },
    ],
    [
      ...lined,
      {
        do: "line.move",
        layer: "l",
        lines: [1],
        warp: {
          kind: "mesh",
          from: { left: 20, top: 80, right: 230, bottom: 130 },
          columns: 2,
          rows: 1,
          points: [
            [20, 80],
            [120, 40],
            [230, 80],
            [20, 130],
            [120, 90],
            [230, 130],
          ],
        },
      },
    ],
  ],
  "line.duplicate": [
    [...linedMore, { do: "line.duplicate", layer: "l", lines: [4], by: [12, 3], copies: 3 }],
  ],
  "line.shade": [
    [...lined, { do: "line.shade", layer: "l", lines: [1, 2], light: -2.2, times: 2 }],
  ],
  "strew.collect": [
    [
      ...collected,
      { do: "select.none" },
      { do: "layer.add", id: "s", name: "Strewn", above: "a", kind: "strewn" },
      stroke(line([30, 40], [220, 130]), {
        ...{ layer: "s", size: 40, seed: 3 },
        strew: { ...strew, set: 256, blurs: 0 },
      }),
    ],
  ],
  "strew.forget": [[...collected, { do: "strew.forget", set: 256 }]],
  "strew.move": [
    [
      ...strewn,
      {
        do: "strew.move",
        layer: "s",
        pieces: [1, 2],
        warp: { kind: "matrix", matrix: [0.8, -0.6, 40, 0.6, 0.8, -20, 0, 0, 1] },
      },
    ],
  ],
  "strew.set": [
    [
      ...strewn,
      { do: "strew.set", layer: "s", pieces: [1], tint: ["#2040a0", 0.9], opacity: 0.6, blur: 0.5 },
      { do: "strew.set", layer: "s", pieces: [2, 3], picture: { set: 3, picture: 1 } },
    ],
  ],
  "strew.remove": [[...strewn, { do: "strew.remove", layer: "s", pieces: [2] }]],
  "strew.thin": [[...strewn, { do: "strew.thin", layer: "s", pieces: [1, 2, 3, 4], keep: 0.5 }]],
  "strew.order": [
    [...strewn, { do: "strew.order", layer: "s", pieces: [1], to: "front" }],
    [...strewn, { do: "strew.order", layer: "s", pieces: [3], to: "back" }],
  ],
  "strew.duplicate": [
    [...strewn, { do: "strew.duplicate", layer: "s", pieces: [1, 2], by: [12, 30] }],
  ],
  "strew.place": [
    [...strewn, { do: "strew.place", layer: "s" }],
    [
      ...strewn,
      {
        do: "strew.place",
        layer: "s",
        before: { pieces: [1, 3], id: "t", name: "Before", above: "b" },
      },
    ],
  ],
  "line.to-paint": [[...lined, { do: "line.to-paint", layer: "l" }]],
  "layer.add": [
    [{ do: "layer.add", id: "n", name: "N", above: "a" }],
    [{ do: "layer.add", id: "n", name: "N", above: null, kind: "group" }],
    [
      {
        do: "layer.add",
        id: "n",
        name: "N",
        above: "g",
        kind: "fill",
        paint: { kind: "colour", colour: "#405060" },
      },
    ],
    [
      {
        do: "layer.add",
        id: "n",
        name: "N",
        above: "g",
        kind: "adjustment",
        tone: { kind: "blur", radius: 4 },
      },
    ],
    [{ do: "layer.add", id: "n", name: "N", above: "a", kind: "lines" }],
  ],
  "layer.remove": [[{ do: "layer.remove", id: "b" }], [{ do: "layer.remove", id: "g" }]],
  "layer.move": [
    [{ do: "layer.move", id: "a", above: "ink" }],
    [{ do: "layer.move", id: "a", above: "in", group: "g" }],
  ],
  "layer.copy": [
    [{ do: "layer.copy", id: "b", as: "b2", name: "B copy" }],
    [{ do: "layer.copy", id: "g", as: "g2", name: "G copy" }],
  ],
  "layer.clear": [
    [{ do: "layer.clear", id: "a" }],
    [
      { do: "select", shape: { kind: "box", box } },
      { do: "layer.clear", id: "a" },
    ],
    [
      { do: "select", shape: { kind: "box", box } },
      { do: "layer.clear", id: "a", outside: true },
    ],
  ],
  "layer.set": [
    [{ do: "layer.set", id: "a", opacity: 0.4, blend: "multiply", tint: "#3f86c6" }],
    [{ do: "layer.set", id: "b", holds: true }],
    [{ do: "layer.set", id: "a", fringe: { width: 6, strength: 0.7 } }],
    [{ do: "layer.set", id: "a", contour: { width: 4, colour: "#101010" } }],
    [{ do: "layer.set", id: "a", halftone: { ...USUAL_HALFTONE, lpi: 40, ink: null, x: 3 } }],
    [{ do: "layer.set", id: "b", mask: { on: false, linked: false }, clip: true }],
  ],
  "layer.group": [[{ do: "layer.group", id: "h", name: "H", layers: ["a", "b"] }]],
  "layer.ungroup": [[{ do: "layer.ungroup", id: "g" }]],
  "layer.merge": [
    [{ do: "layer.merge", layers: ["a", "b"], id: "m", name: "M" }],
    [{ do: "layer.merge", layers: ["g"], id: "m", name: "M", keep: true }],
  ],
  "mask.add": [
    [{ do: "mask.add", id: "a", from: { kind: "all" } }],
    [{ do: "mask.add", id: "g", from: { kind: "layer", layer: "b", by: "dark" } }],
    [{ do: "mask.add", id: "g", from: { kind: "facing", layer: "a", toward: [0.6, 0, 0.8] } }],
  ],
  "mask.remove": [[{ do: "mask.remove", id: "b" }], [{ do: "mask.remove", id: "b", lay: true }]],
  "mask.invert": [[{ do: "mask.invert", id: "b" }]],
  adjust: [
    [{ do: "adjust", layers: ["a"], adjustment: { kind: "invert" } }],
    [{ do: "adjust", layers: ["a", "b"], adjustment: { kind: "blur", radius: 7 } }],
  ],
  gradient: [
    [
      {
        do: "gradient",
        layer: "a",
        opacity: 0.5,
        paint: {
          kind: "gradient",
          shape: "linear",
          from: [0, 0],
          to: [200, 100],
          stops: [
            { at: 0, colour: "#203060" },
            { at: 1, colour: "#f0b070" },
          ],
        },
      },
    ],
  ],
  "paint.dry": [
    [stroke(line([20, 30], [200, 40]), wash), { do: "paint.dry", layers: ["a"] }],
    [wetStroke, { do: "paint.dry", layers: ["a"] }],
  ],
  time: [
    [stroke(line([20, 30], [60, 40]), { ...wash, size: 14 }), { do: "time", steps: 900 }],
    [stroke(line([20, 30], [200, 40]), { ...oil, thinner: 0.7 }), { do: "time", steps: 40 }],
    [stroke(line([20, 30], [200, 40]), { ...oil, thinner: 0.4 }), { do: "time", steps: 900 }],
  ],
  "wash.set": [
    [
      stroke(line([20, 30], [200, 40]), wash),
      { do: "wash.set", layer: "a", edge: 0.9, pace: 2 },
      { do: "time", steps: 30 },
    ],
  ],
  "tilt.set": [
    [
      { do: "tilt.set", tilt: { x: 0.1, y: 0.6 } },
      stroke(line([20, 60], [200, 70]), wash),
      { do: "time", steps: 60 },
      stroke(line([40, 20], [50, 120]), { ...wash, colour: "#c03020" }),
      { do: "time", steps: 20 },
      stroke(line([150, 20], [160, 120]), { ...wash, mode: "lift" }),
    ],
  ],
  "slab.squeeze": [
    [{ do: "slab.squeeze", colour: "#d02020", x: 100, y: 80 }],
    [
      { do: "slab.squeeze", colour: "#d02020", x: 100, y: 80 },
      { do: "slab.squeeze", colour: "#2040c0", x: 150, y: 90 },
    ],
  ],
  "slab.clean": [[onSlab, { do: "slab.clean" }]],
  "powder.fix": [[{ do: "powder.fix", layers: ["a", "b"], share: 0.6 }]],
  "colour.replace": [[{ do: "colour.replace", layer: "flat", from: "#e0c080", to: "#205030" }]],
  "edge.band": [
    [
      {
        do: "edge.band",
        layer: "flat",
        id: "e",
        name: "Rim",
        width: 9,
        soft: 4,
        colour: "#703010",
      },
    ],
  ],
  "shade.steps": [[{ do: "shade.steps", layer: "a", steps: 3 }]],
  texture: [
    [
      {
        do: "texture",
        layer: "flat",
        id: "t",
        name: "Grain",
        paper: { kind: "laid", scale: 1 },
        colour: "#201008",
      },
    ],
  ],
  "sheet.crop": [
    [{ do: "sheet.crop", left: 20, top: 11, width: 200, height: 150 }],
    [{ do: "sheet.crop", left: -64, top: -64, width: 400, height: 330 }],
    [...linedMore, { do: "sheet.crop", left: 10, top: 10, width: 220, height: 160, angle: 0.2 }],
  ],
  "sheet.resize": [
    [{ do: "sheet.resize", width: 128, ppi: 150 }],
    [...lined, { do: "sheet.resize", width: 300, ppi: 300, filter: "bicubic" }],
  ],
  "sheet.ppi": [[{ do: "sheet.ppi", ppi: 72 }]],
  "picture.set": [
    [{ do: "picture.set", ground: "#203040" }],
    [{ do: "picture.set", paper: { kind: "sugar", scale: 2 } }],
  ],
  "brush.bring": [
    [
      {
        do: "brush.bring",
        brush: {
          id: "own",
          name: "Own",
          kit: "Own",
          size: 20,
          strength: 1,
          laying: { kind: "marks", every: null },
          tip: { kind: "round", hardness: 0.4 },
          spacing: { base: 0.1 },
          diameter: { base: 1 },
          flow: { base: 0.6 },
        },
      },
      stroke(line([30, 30], [200, 90]), { brush: "own", size: 25 }),
    ],
  ],
  "guides.set": [
    [{ do: "guides.set", guides: [{ kind: "parallel", angle: 0.4, at: { x: 9, y: 9 } }] }],
  ],
  "sun.set": [[{ do: "sun.set", sun: { at: { x: 30, y: 30 }, azimuth: 0.3, height: 0.8 } }]],
  "studies.set": [
    [
      {
        do: "studies.set",
        studies: {
          frames: [
            { left: 8, top: 8, right: 108, bottom: 83 },
            { left: 120, top: 8, right: 220, bottom: 83 },
          ],
          target: { width: 400, height: 300, ppi: 300 },
        },
      },
      stroke(line([20, 20], [200, 60]), { size: 30, frame: 0 }),
      stroke(line([20, 90], [200, 60]), { size: 30, card: { x: 100, y: 80, nx: 0.6, ny: -0.5 } }),
    ],
  ],
  "tubes.set": [
    [{ do: "tubes.set", tubes: ["Titanium white", "Ultramarine"] }],
    [
      { do: "tubes.set", tubes: ["Ivory black"] },
      { do: "tubes.set", tubes: null },
    ],
  ],
  "wells.set": [
    [
      {
        do: "wells.set",
        wells: [{ id: "w", name: "Dusk", colours: [{ hex: "#203060", name: "Night" }] }],
      },
    ],
  ],
  place: [[{ do: "place", layer: "a", x: 100, y: 70, png: png() }]],
  transform: [
    [
      wetStroke,
      {
        do: "transform",
        layers: ["a"],
        warp: { kind: "matrix", matrix: [0.8, 0.3, 0, -0.3, 0.8, 40, 0, 0, 1] },
      },
    ],
    [
      {
        do: "transform",
        layers: ["a"],
        warp: { kind: "matrix", matrix: [0.8, 0.3, 0, -0.3, 0.8, 40, 0, 0, 1] },
      },
    ],
    [
      {
        do: "transform",
        layers: ["b", "g"],
        box,
        warp: { kind: "matrix", matrix: [1, 0, 17, 0, 1, 9, 0, 0, 1] },
        filter: "lanczos",
      },
    ],
  ],
  stroke: [
    [stroke(line([10, 100], [240, 60]), { brush: "hair-wavy", size: 40 })],
    [stroke(line([10, 100], [240, 60]), { brush: "round-firm", size: 60, mode: "lift" })],
    [stroke(line([10, 100], [240, 60]), { brush: "round-bristle", size: 60, mode: "blend" })],
    [stroke(line([10, 100], [240, 60]), { layer: "b", on: "mask", size: 30 })],
    [stroke(line([10, 100], [240, 60]), { size: 40, lays: "multiply", colour: "#4060c0" })],
    [stroke(line([10, 100], [240, 60]), { layer: "(selection)", size: 40 })],
    [wetStroke, stroke(line([100, 20], [110, 170]), { ...oil, colour: "#e8b020" })],
    [wetStroke, stroke(line([100, 20], [110, 170]), { ...oil, mode: "blend" })],
    [{ do: "select", shape: { kind: "ellipse", box } }, wetStroke],
    [stroke(line([20, 30], [200, 40]), { ...oil, carried: stripes })],
    [stroke(line([20, 30], [200, 40]), { brush: "knife-flat", size: 40, carried: stripes })],
    [onSlab],
    [stroke(line([20, 30], [200, 40]), { ...oil, thinner: 1 })],
    [
      stroke(line([20, 30], [200, 40]), { ...oil, thinner: 0.7 }),
      { do: "time", steps: 20 },
      stroke(line([30, 10], [200, 90]), { ...oil, colour: "#e8b020" }),
    ],
    [{ do: "slab.squeeze", colour: "#d02020", x: 100, y: 35 }, onSlab],
    // What else changes a wet layer has it dry first.
    [wetStroke, stroke(line([10, 60], [220, 30]), { brush: "pencil-hb", size: 6 })],
    [wetStroke, { do: "paint.dry", layers: ["a"] }, wetStroke],
  ],
  fill: [
    [
      {
        do: "fill",
        layer: "flat",
        at: [[100, 90]],
        colour: "#904040",
        borders: "lines",
        bridge: 8,
      },
    ],
  ],
  "fill.loop": [
    [
      {
        do: "fill.loop",
        layer: "flat",
        loop: [
          [60, 60],
          [150, 60],
          [100, 130],
        ],
        colour: "#306090",
      },
    ],
  ],
  flats: [[{ do: "flats", id: "f", name: "Flats", above: "b", borders: "lines", bare: false }]],
  "stencil.add": [
    [{ do: "stencil.add", id: "s2", name: "Moon", from: { kind: "picture", png: png() } }],
  ],
  "stencil.set": [
    [
      { do: "stencil.set", ids: ["st"], changes: { on: true, way: "lets through" } },
      stroke(line([10, 100], [240, 60]), { size: 80 }),
    ],
  ],
  "stencil.remove": [[{ do: "stencil.remove", id: "st" }]],
  select: [
    [{ do: "select", shape: { kind: "ellipse", box } }],
    [...blockedOut, { do: "select", shape: { kind: "solids", ids: ["tank"] } }],
    [{ do: "select", shape: { kind: "region", layer: "a", at: [100, 90], borders: "lines" } }],
    [{ do: "select", shape: { kind: "kept", id: "k" } }],
  ],
  "select.change": [
    [
      { do: "select", shape: { kind: "box", box } },
      { do: "select.change", change: { kind: "grow", by: 9 } },
    ],
    [
      { do: "select", shape: { kind: "box", box } },
      { do: "select.change", change: { kind: "invert" } },
    ],
  ],
  "select.none": [[{ do: "select", shape: { kind: "all" } }, { do: "select.none" }]],
  "select.keep": [
    [
      { do: "select", shape: { kind: "ellipse", box } },
      { do: "select.keep", id: "k2", name: "Moon" },
    ],
  ],
  "select.forget": [[{ do: "select.forget", id: "k" }]],
  together: [
    [
      {
        do: "together",
        label: "two at once",
        steps: [
          { do: "layer.add", id: "n", name: "N", above: "a" },
          { do: "layer.set", id: "n", opacity: 0.5 },
        ],
      },
    ],
  ],
};

/** Each sample with what it is called in a test. */
export const everySample: [name: string, commands: readonly CommandInput[]][] = (
  Object.keys(samples) as Name[]
).flatMap((name) =>
  samples[name].map((commands, i): [string, readonly CommandInput[]] => [
    samples[name].length > 1 ? `${name} (${i + 1})` : name,
    commands,
  ]),
);
