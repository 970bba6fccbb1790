import { arc, arched, between, box, mix, type Point, type Shape } from "./kit/shape";
import { fade, flick, type Manner, Sheet, swell, type Tool } from "./kit/sheet";

/**
 * “Studies for the cover”: six small frames, pencil and ink, each another way to see the
 * last tram. A loose line finds the form, hatching turns it, the side of a soft lead lays
 * the dark, and ink is kept for what matters most.
 */
const WIDTH = 2400;
const HEIGHT = 1650;
const FRAME = { w: 680, h: 660 };
/** How many times as large the cover is. */
const COVER = 5;

const graphite = "#2c2c33";
const ink = "#17181f";
const hard: Tool = { brush: "pencil-2h", size: 5, colour: graphite };
const lead: Tool = { brush: "pencil-2b", size: 6, colour: graphite };
const dark: Tool = { brush: "pencil-6b", size: 11, colour: graphite };
const side: Tool = { brush: "pencil-6b", size: 15, colour: graphite, strength: 0.8 };
const nib: Tool = { brush: "pen-sprung", size: 8, colour: ink };
const fine: Tool = { brush: "pen-fine", size: 4, colour: ink };

/** The lead lying on its side. */
const flat: Manner = { altitude: 0.5, azimuth: 1.2 };

/** One study: a frame on the sheet, addressed from 0 to 1 across and down. */
class Frame {
  constructor(
    readonly sheet: Sheet,
    readonly left: number,
    readonly top: number,
  ) {}

  at(x: number, y: number): Point {
    return [this.left + x * FRAME.w, this.top + y * FRAME.h];
  }

  shape(...points: [number, number][]): Shape {
    return points.map(([x, y]) => this.at(x, y));
  }

  /** A broad, soft tone: the side of the lead, one direction, pressure by how dark it should be. */
  tone(shape: Shape, value: number, angle = 0.6): void {
    this.sheet.hatch(
      shape,
      { ...side, size: 9 },
      { ...flat, angle, gap: 13, press: flick(mix(0.25, 0.95, value)), wobble: 1.2 },
    );
  }

  hatch(shape: Shape, value: number, angle: number, bend = 0): void {
    this.sheet.hatch(shape, lead, {
      angle,
      gap: mix(17, 8, value),
      bend,
      press: flick(mix(0.3, 0.8, value)),
    });
  }

  /** Hatching in two directions, for the deepest shade. */
  cross(shape: Shape, angle: number): void {
    this.hatch(shape, 0.8, angle);
    this.hatch(shape, 0.6, angle + 1.1);
  }

  line(points: Shape, most = 0.75): void {
    this.sheet.search(points, lead, { press: swell(0.2, most) });
  }

  border(): void {
    const frame = box(this.left, this.top, FRAME.w, FRAME.h);
    this.sheet.outline(frame, hard, { press: swell(0.45, 0.7), wobble: 0.9 });
    this.sheet.outline(frame, lead, { press: swell(0.3, 0.65), wobble: 1.1 });
  }
}

/** 1: the tram comes straight at us out of the dark, its lamp a hole in the night. */
function headOn(frame: Frame): void {
  const { sheet } = frame;
  frame.tone(frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.3], [0.02, 0.36]), 0.75, 0.25);
  frame.tone(frame.shape([0.02, 0.3], [0.24, 0.3], [0.26, 0.78], [0.02, 0.86]), 0.6, 1.2);
  frame.tone(frame.shape([0.77, 0.28], [0.98, 0.28], [0.98, 0.86], [0.75, 0.78]), 0.85, 1.9);
  const [x, y] = frame.at(0.3, 0.24);
  const [w, h] = [0.4 * FRAME.w, 0.54 * FRAME.h];
  const body = arched(x, y, w, h, 44);
  sheet.search(body, lead, { press: swell(0.35, 0.8), soft: false });
  sheet.draw(body, nib, { press: swell(0.2, 0.75), wobble: 0.4, soft: false });
  for (let i = 0; i < 3; i++) {
    const pane = box(x + 20 + i * 84, y + 66, 68, 110);
    sheet.outline(pane, fine, { press: swell(0.3, 0.8), wobble: 0.5 });
  }
  frame.cross(box(x + 108, y + 108, 60, 66), 0.9);
  sheet.draw(arc([x + w / 2, y + 100], 15, 18), fine, { press: swell(0.5, 0.9) });
  sheet.draw(arc([x + w / 2, y + 262], 30, 30), nib, { press: swell(0.3, 0.9), wobble: 0.4 });
  for (let i = 0; i < 15; i++) {
    const a = (i / 15) * Math.PI * 2;
    const far = 62 + (i % 3) * 20;
    sheet.draw(
      [
        [x + w / 2 + Math.cos(a) * 42, y + 262 + Math.sin(a) * 42],
        [x + w / 2 + Math.cos(a) * far, y + 262 + Math.sin(a) * far],
      ],
      hard,
      { press: fade(0.6, 0.1) },
    );
  }
  frame.hatch(box(x + w * 0.72, y + 190, w * 0.26, h * 0.42), 0.7, 1.25);
  frame.hatch(box(x + 8, y + h - 66, w - 16, 60), 0.85, 0.12);
  for (const [near, far] of [
    [0.24, 0.4],
    [0.76, 0.6],
  ] as const) {
    sheet.draw([frame.at(far, 0.79), frame.at(near, 0.99)], nib, {
      press: fade(0.3, 0.9),
      wobble: 0.4,
    });
  }
  frame.hatch(frame.shape([0.3, 0.81], [0.7, 0.81], [0.64, 0.98], [0.34, 0.98]), 0.45, 0.04);
}

/** 2: seen from the pavement, long and low, the street running away with it. */
function along(frame: Frame): void {
  const { sheet } = frame;
  const far: Point = frame.at(0.86, 0.44);
  const to = (p: Point, t: number): Point => between(p, far, t);
  const a = frame.at(0.06, 0.2);
  const b = frame.at(0.06, 0.84);
  frame.tone(
    frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.2], [0.5, 0.28], [0.02, 0.16]),
    0.45,
    -0.15,
  );
  frame.tone(
    [frame.at(0.72, 0.24), frame.at(0.98, 0.1), frame.at(0.98, 0.72), to(b, 0.86)],
    0.8,
    1.5,
  );
  for (const p of [a, frame.at(0.06, 0.28), frame.at(0.06, 0.52), frame.at(0.06, 0.6), b])
    frame.line([p, to(p, 0.45), to(p, 0.88)], 0.7);
  sheet.draw([a, b], nib, { press: swell(0.5, 0.95), wobble: 0.5 });
  sheet.draw([a, to(a, 0.88)], nib, { press: fade(0.9, 0.1), wobble: 0.5 });
  sheet.draw([b, to(b, 0.88)], nib, { press: fade(1, 0.15), wobble: 0.5 });
  let t = 0.04;
  for (let i = 0; i < 6; i++) {
    const w = 0.13 * (1 - t * 0.72);
    const high = frame.at(0.06, 0.29);
    const low = frame.at(0.06, 0.51);
    const pane: Shape = [to(high, t), to(high, t + w * 0.8), to(low, t + w * 0.8), to(low, t)];
    sheet.outline(pane, fine, { press: swell(0.4, 0.8), wobble: 0.4 });
    if (i === 1 || i === 4) frame.cross(pane, 0.8);
    t += w;
  }
  frame.hatch([frame.at(0.06, 0.61), to(frame.at(0.06, 0.61), 0.86), to(b, 0.86), b], 0.8, 1.35);
  frame.hatch([frame.at(0.06, 0.61), to(frame.at(0.06, 0.61), 0.5), to(b, 0.5), b], 0.5, 0.5);
  frame.tone([b, to(b, 0.8), frame.at(0.7, 0.98), frame.at(0.04, 0.98)], 0.35, -0.35);
  sheet.draw([frame.at(0.6, 0.98), to(frame.at(0.6, 0.98), 0.9)], nib, { press: fade(0.9, 0.1) });
  sheet.draw([frame.at(0.9, 0.98), to(frame.at(0.9, 0.98), 0.9)], nib, { press: fade(0.8, 0.1) });
}

/** 3: the conductor close, lantern raised; the tram is only a lit window behind. */
function conductor(frame: Frame): void {
  const { sheet } = frame;
  frame.tone(frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.22], [0.02, 0.2]), 0.8, 0.4);
  frame.tone(frame.shape([0.02, 0.2], [0.28, 0.2], [0.2, 0.98], [0.02, 0.98]), 0.7, 1.25);
  const coat = frame.shape(
    [0.3, 0.98],
    [0.33, 0.62],
    [0.42, 0.5],
    [0.58, 0.5],
    [0.68, 0.62],
    [0.74, 0.98],
  );
  sheet.search(coat, lead, { press: swell(0.3, 0.8) });
  sheet.draw(coat, nib, { press: swell(0.25, 0.9), wobble: 0.7 });
  const head = arc(frame.at(0.5, 0.37), 0.085 * FRAME.w, 0.11 * FRAME.h);
  sheet.search(head, lead, { press: swell(0.4, 0.7) });
  const cap = frame.shape([0.38, 0.3], [0.4, 0.22], [0.5, 0.19], [0.61, 0.22], [0.62, 0.3]);
  sheet.draw([...cap, cap[0] as Point], nib, { press: swell(0.4, 0.9) });
  sheet.draw(
    frame.shape([0.36, 0.315], [0.5, 0.335], [0.64, 0.31]),
    { ...nib, size: 14 },
    { press: swell(0.4, 1) },
  );
  frame.cross(cap, 0.7);
  frame.hatch(frame.shape([0.5, 0.34], [0.585, 0.34], [0.58, 0.44], [0.53, 0.48]), 0.6, 1.1, 5);
  sheet.draw(frame.shape([0.455, 0.375], [0.475, 0.372]), fine, { press: () => 0.8 });
  sheet.draw(frame.shape([0.525, 0.372], [0.548, 0.376]), fine, { press: () => 0.8 });
  sheet.draw(frame.shape([0.498, 0.38], [0.488, 0.415], [0.502, 0.42]), fine, {
    press: swell(0.3, 0.7),
  });
  sheet.draw(frame.shape([0.462, 0.447], [0.5, 0.455], [0.532, 0.446]), fine, {
    press: swell(0.3, 0.8),
  });
  // Buttons, the bag's strap, the shaded half of the coat following its folds.
  for (let i = 0; i < 5; i++)
    sheet.draw(arc(frame.at(0.5, 0.6 + i * 0.08), 6, 6, 0, 6.3, 8), fine, {
      press: () => 0.8,
      wobble: 0.2,
    });
  sheet.draw(
    frame.shape([0.42, 0.52], [0.55, 0.72], [0.66, 0.86]),
    { ...nib, size: 11 },
    { press: swell(0.4, 0.8) },
  );
  frame.hatch(frame.shape([0.56, 0.53], [0.66, 0.62], [0.73, 0.97], [0.55, 0.97]), 0.85, 1.35, 8);
  frame.hatch(frame.shape([0.6, 0.58], [0.67, 0.64], [0.73, 0.97], [0.63, 0.97]), 0.8, 0.6);
  frame.hatch(frame.shape([0.34, 0.66], [0.4, 0.62], [0.4, 0.97], [0.31, 0.97]), 0.35, 1.8, -6);
  // The arm and the lantern.
  sheet.draw(
    frame.shape([0.36, 0.58], [0.22, 0.6], [0.2, 0.44]),
    { ...nib, size: 12 },
    { press: swell(0.4, 0.9) },
  );
  sheet.draw(frame.shape([0.4, 0.66], [0.25, 0.68], [0.24, 0.46]), nib, { press: swell(0.3, 0.9) });
  const lamp = box(...frame.at(0.165, 0.27), 62, 84);
  sheet.outline(lamp, nib, { press: swell(0.5, 0.9), wobble: 0.5 });
  sheet.draw(arc(frame.at(0.21, 0.27), 24, 26, Math.PI, Math.PI * 2, 10), fine, {
    press: () => 0.7,
  });
  for (let i = 0; i < 18; i++) {
    const a = (i / 18) * Math.PI * 2;
    const c = frame.at(0.21, 0.334);
    sheet.draw(
      [
        [c[0] + Math.cos(a) * 62, c[1] + Math.sin(a) * 66],
        [c[0] + Math.cos(a) * (84 + (i % 2) * 26), c[1] + Math.sin(a) * (88 + (i % 2) * 26)],
      ],
      hard,
      { press: fade(0.55, 0.1) },
    );
  }
  const window = box(...frame.at(0.74, 0.3), 150, 200);
  sheet.outline(window, lead, { press: swell(0.4, 0.7) });
  frame.tone(frame.shape([0.7, 0.24], [0.98, 0.24], [0.98, 0.29], [0.7, 0.29]), 0.8, 0);
  frame.tone(frame.shape([0.72, 0.62], [0.98, 0.62], [0.98, 0.97], [0.76, 0.97]), 0.65, 1.3);
}

/** 4: the depot from above: rails fan out, one tram still at work. */
function fromAbove(frame: Frame): void {
  const { sheet } = frame;
  const hub = frame.at(0.5, 1.25);
  for (let i = 0; i < 7; i++) {
    const u = i / 6;
    const end = frame.at(mix(0.03, 0.97, u), mix(0.3, 0.3, u) - Math.sin(u * Math.PI) * 0.12);
    const start = between(hub, end, 0.33);
    const middle: Point = [
      mix(start[0], end[0], 0.4) + (u - 0.5) * -40,
      mix(start[1], end[1], 0.5),
    ];
    for (const d of [-9, 9])
      sheet.draw(
        [
          [start[0] + d, Math.min(start[1], frame.at(0, 0.985)[1])],
          [middle[0] + d, middle[1]],
          [end[0] + d * 0.6, end[1]],
        ],
        lead,
        { press: fade(0.75, 0.3), wobble: 0.6 },
      );
  }
  frame.tone(
    frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.2], [0.5, 0.1], [0.02, 0.2]),
    0.9,
    0.1,
  );
  // Sheds in a row, roofs lit from the left.
  for (let i = 0; i < 5; i++) {
    const x = 0.04 + i * 0.188;
    const roof = frame.shape(
      [x, 0.26 - Math.sin((i / 4) * Math.PI) * 0.1],
      [x + 0.09, 0.16 - Math.sin((i / 4) * Math.PI) * 0.1 + 0.02],
      [x + 0.18, 0.26 - Math.sin((i / 4) * Math.PI) * 0.1],
    );
    sheet.search(roof, lead, { press: swell(0.4, 0.8), soft: false });
    frame.cross(
      [roof[1] as Point, roof[2] as Point, between(roof[1] as Point, roof[0] as Point, 0.12)],
      1.2,
    );
  }
  const car = frame.shape([0.4, 0.44], [0.5, 0.42], [0.58, 0.78], [0.45, 0.81]);
  sheet.block(
    car,
    { brush: "round-firm", size: 22, colour: "#f1ede2" },
    { angle: 1.4, vary: 0, edge: true },
  );
  sheet.outline(car, lead, { press: swell(0.4, 0.8) });
  sheet.outline(car, nib, { press: swell(0.5, 0.9), wobble: 0.5 });
  sheet.draw(frame.shape([0.45, 0.45], [0.515, 0.78]), fine, { press: swell(0.5, 0.8) });
  frame.hatch(frame.shape([0.46, 0.45], [0.5, 0.43], [0.58, 0.78], [0.52, 0.79]), 0.85, 0.3);
  frame.tone(frame.shape([0.59, 0.58], [0.74, 0.64], [0.76, 0.86], [0.58, 0.83]), 0.75, 0.5);
  for (let i = 0; i < 7; i++)
    sheet.draw(
      [
        frame.at(0.405 + i * 0.007, 0.49 + i * 0.043),
        frame.at(0.45 + i * 0.007, 0.482 + i * 0.043),
      ],
      fine,
      { press: swell(0.4, 0.7) },
    );
  frame.tone(frame.shape([0.03, 0.6], [0.26, 0.7], [0.3, 0.97], [0.03, 0.97]), 0.4, 0.8);
}

/** 5: a window from outside, frost at its corners; someone sleeps against the glass. */
function sleeper(frame: Frame): void {
  const { sheet } = frame;
  const pane = arched(...frame.at(0.14, 0.12), 0.72 * FRAME.w, 0.66 * FRAME.h, 50);
  frame.tone(frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.11], [0.02, 0.11]), 0.8, 0.05);
  frame.tone(frame.shape([0.02, 0.11], [0.13, 0.11], [0.13, 0.8], [0.02, 0.8]), 0.7, 1.57);
  frame.tone(frame.shape([0.87, 0.11], [0.98, 0.11], [0.98, 0.8], [0.87, 0.8]), 0.9, 1.57);
  frame.tone(frame.shape([0.02, 0.81], [0.98, 0.81], [0.98, 0.98], [0.02, 0.98]), 0.6, 0.03);
  sheet.search([...pane, pane[0] as Point], lead, { press: swell(0.5, 0.85), soft: false });
  sheet.draw(
    [...pane, pane[0] as Point],
    { ...nib, size: 11 },
    { press: swell(0.4, 0.9), wobble: 0.6, soft: false },
  );
  // Shoulder, hat pulled down, cheek on the glass.
  const shoulder = frame.shape(
    [0.3, 0.77],
    [0.33, 0.6],
    [0.44, 0.52],
    [0.62, 0.55],
    [0.76, 0.66],
    [0.8, 0.77],
  );
  sheet.search(shoulder, lead, { press: swell(0.3, 0.8) });
  sheet.draw(shoulder, nib, { press: swell(0.3, 0.85) });
  sheet.search(arc(frame.at(0.45, 0.42), 66, 78, 0, 6.2), lead, { press: swell(0.3, 0.7) });
  const hat = frame.shape(
    [0.34, 0.385],
    [0.36, 0.29],
    [0.46, 0.255],
    [0.56, 0.3],
    [0.575, 0.41],
    [0.45, 0.36],
  );
  sheet.draw([...hat, hat[0] as Point], nib, { press: swell(0.4, 0.9) });
  frame.cross(hat, 0.5);
  sheet.draw(arc(frame.at(0.405, 0.43), 15, 7, 0.2, 2.9, 8), fine, { press: swell(0.4, 0.8) });
  sheet.draw(frame.shape([0.37, 0.44], [0.355, 0.475], [0.375, 0.48]), fine, {
    press: swell(0.3, 0.7),
  });
  sheet.draw(frame.shape([0.385, 0.515], [0.415, 0.512]), fine, { press: swell(0.3, 0.7) });
  frame.hatch(frame.shape([0.49, 0.4], [0.545, 0.42], [0.53, 0.51], [0.46, 0.53]), 0.6, 1.0, 8);
  frame.hatch(frame.shape([0.5, 0.56], [0.62, 0.57], [0.78, 0.76], [0.52, 0.76]), 0.75, 1.2, 10);
  frame.hatch(frame.shape([0.62, 0.6], [0.75, 0.67], [0.78, 0.76], [0.64, 0.76]), 0.75, 0.4);
  // Frost: short strokes growing in from two corners.
  for (let i = 0; i < 60; i++) {
    const u = sheet.chance();
    const left = i % 2 === 0;
    const p = left
      ? frame.at(0.15 + u * 0.16, 0.77 - sheet.chance() * (0.2 - u * 0.15))
      : frame.at(0.85 - u * 0.14, 0.16 + sheet.chance() * (0.18 - u * 0.12));
    const a = left ? sheet.chance(-1.5, -0.1) : sheet.chance(1.6, 3);
    sheet.draw([p, [p[0] + Math.cos(a) * 20, p[1] + Math.sin(a) * 20]], hard, {
      press: fade(0.55, 0.1),
    });
  }
}

/** 6: a small tram in a great deal of snow: the quiet one. */
function quiet(frame: Frame): void {
  const { sheet } = frame;
  frame.tone(
    frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.46], [0.6, 0.5], [0.02, 0.42]),
    0.6,
    0.12,
  );
  frame.tone(frame.shape([0.02, 0.02], [0.98, 0.02], [0.98, 0.2], [0.02, 0.16]), 0.7, -0.2);
  const hill = frame.shape([0.02, 0.44], [0.3, 0.42], [0.62, 0.51], [0.98, 0.46]);
  sheet.search(hill, lead, { press: swell(0.2, 0.6) });
  const car = box(...frame.at(0.58, 0.4), 132, 66);
  sheet.block(car, { brush: "round-firm", size: 16, colour: "#f1ede2" }, { angle: 0, vary: 0 });
  sheet.outline(car, nib, { press: swell(0.5, 0.9), wobble: 0.5 });
  frame.hatch(box(...frame.at(0.58, 0.455), 132, 30), 0.9, 1.3);
  for (let i = 0; i < 4; i++)
    sheet.outline(box(car[0]![0] + 10 + i * 30, car[0]![1] + 10, 21, 22), fine, {
      press: () => 0.7,
      wobble: 0.2,
    });
  sheet.draw(frame.shape([0.02, 0.36], [0.4, 0.345], [0.67, 0.36], [0.98, 0.33]), fine, {
    press: swell(0.2, 0.6),
  });
  for (const x of [0.2, 0.44, 0.86]) {
    sheet.draw([frame.at(x, 0.33), frame.at(x + 0.004, 0.5)], nib, { press: fade(0.5, 0.8) });
    sheet.draw([frame.at(x + 0.01, 0.5), frame.at(x + 0.16, 0.55)], side, {
      ...flat,
      press: fade(0.6, 0.1),
    });
  }
  for (const d of [0, 0.035])
    sheet.draw(frame.shape([0.1 + d, 0.99], [0.42 + d, 0.72], [0.6 + d * 0.6, 0.51]), lead, {
      press: fade(0.8, 0.2),
      wobble: 0.6,
    });
  // Foot-prints that do not quite follow the rails.
  for (let i = 0; i < 11; i++) {
    const u = i / 11;
    const p = frame.at(mix(0.36, 0.62, u ** 0.8) + (i % 2) * 0.012, mix(0.96, 0.56, u));
    sheet.draw([p, [p[0] + mix(9, 3, u), p[1] - mix(5, 1, u)]], dark, {
      press: () => mix(0.8, 0.4, u),
    });
  }
  frame.tone(frame.shape([0.66, 0.6], [0.98, 0.56], [0.98, 0.7], [0.7, 0.72]), 0.25, 0.1);
  frame.hatch(frame.shape([0.02, 0.74], [0.2, 0.7], [0.1, 0.97], [0.02, 0.97]), 0.3, 0.5);
}

export function studiesForTheCover(): string {
  const sheet = new Sheet(
    {
      title: "Studies for the cover",
      width: WIDTH,
      height: HEIGHT,
      ppi: 300,
      ground: "#f1ede2",
      paper: { kind: "hot-pressed", scale: 1 },
    },
    1107,
  );
  sheet.layer("pencil", "Pencil and ink");
  const studies = [headOn, along, conductor, fromAbove, sleeper, quiet];
  const frames = studies.map(
    (_, i) =>
      new Frame(sheet, 95 + (i % 3) * (FRAME.w + 85), 95 + Math.floor(i / 3) * (FRAME.h + 120)),
  );
  sheet.commands.push({
    do: "studies.set",
    studies: {
      frames: frames.map(({ left, top }) => ({
        left,
        top,
        right: left + FRAME.w,
        bottom: top + FRAME.h,
      })),
      target: { width: FRAME.w * COVER, height: FRAME.h * COVER, ppi: 300 },
    },
  });
  studies.forEach((study, i) => {
    study(frames[i] as Frame);
    (frames[i] as Frame).border();
  });
  // The chosen one is ticked, and a colour or two tried beside it.
  sheet.layer("notes", "Colour notes", { blend: "multiply" });
  const [x, y] = [95 + 2 * (FRAME.w + 85), 95 + FRAME.h + 22];
  const tries = ["#27305c", "#9c3a2c", "#e0a752", "#8d8aae"];
  tries.forEach((colour, i) => {
    for (let k = 0; k < 4; k++)
      sheet.draw(
        [
          [x + 330 + i * 88, y + k * 15],
          [x + 396 + i * 88, y + k * 15 - 3],
        ],
        { brush: "round-firm", size: 20, colour, strength: 0.9 },
        { press: swell(0.5, 0.9) },
      );
  });
  sheet.draw(
    [
      [x + 8, y + 28],
      [x + 30, y + 52],
      [x + 82, y - 4],
    ],
    { brush: "pen-sprung", size: 13, colour: "#9c3a2c" },
    { press: swell(0.5, 1) },
  );
  return sheet.log;
}
