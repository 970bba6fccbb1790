import { closed, type Point, type Shape } from "../kit/shape";
import { type Manner, type Sheet, swell } from "../kit/sheet";

export const BLACK = "#0d0d10";
export const WHITE = "#ffffff";
/** Greys that dots make of it: a light, a middle and a dark one. */
export const GREYS = { light: "#c4c4c4", middle: "#8c8c8c", dark: "#585858" } as const;

/** Lines an inch of the page's dots. */
const LPI = 55;

/** A panel under the hand: rays at the bottom, then blacks and whites, tones in dots, ink, and snow over all. */
export class Panel {
  constructor(
    readonly sheet: Sheet,
    readonly group: string,
  ) {
    const { commands } = sheet;
    let above = `${group}.drawing`;
    const add = (name: string, kind: "paint" | "lines"): void => {
      const id = `${group}.${name.toLowerCase()}`;
      commands.push({ do: "layer.add", id, name, above, kind, group });
      above = id;
    };
    add("Rays", "lines");
    add("Blacks", "paint");
    add("Tones", "paint");
    add("Ink", "lines");
    add("Snow", "paint");
    commands.push(
      { do: "layer.remove", id: `${group}.drawing` },
      {
        do: "layer.set",
        id: `${group}.tones`,
        halftone: {
          ...{ on: true, screen: "round", lpi: LPI, angle: 45, density: 1, steps: 0 },
          ...{ ink: BLACK, paper: "clear", x: 0, y: 0 },
        },
      },
    );
  }

  on(layer: "rays" | "blacks" | "tones" | "ink" | "snow"): void {
    this.sheet.on(`${this.group}.${layer}`);
  }

  /** A patch of black, or of what is white in front of it. */
  fill(shape: Shape, colour: string = BLACK): void {
    this.on("blacks");
    this.sheet.lasso(colour, shape);
  }

  /** A patch of even dots. */
  tone(shape: Shape, grey: string): void {
    this.on("tones");
    this.sheet.lasso(grey, shape);
  }

  /** Dots that grow from nothing at one place to the full at another, inside a shape. */
  fade(shape: Shape, from: Point, to: Point, how: "linear" | "radial", most = 1): void {
    this.sheet.commands.push(
      { do: "select", shape: { kind: "polygon", points: shape.map(([x, y]) => [x, y]) } },
      {
        do: "gradient",
        layer: `${this.group}.tones`,
        paint: {
          kind: "gradient",
          shape: how,
          from: [...from],
          to: [...to],
          stops: [
            { at: 0, colour: BLACK, alpha: 0 },
            { at: 1, colour: BLACK, alpha: most },
          ],
        },
      },
      { do: "select.none" },
    );
  }

  /** An outline that swells with the hand. */
  line(points: Shape, size = 13, manner: Manner = {}): void {
    this.on("ink");
    this.sheet.draw(
      points,
      { brush: "pen-sprung", size, colour: BLACK },
      {
        press: swell(0.45, 0.95),
        ...STEADY,
        ...manner,
      },
    );
  }

  /** A fine line of one weight. */
  fine(points: Shape, size = 6, manner: Manner = {}): void {
    this.on("ink");
    this.sheet.draw(
      points,
      { brush: "pen-fine", size, colour: BLACK },
      {
        press: () => 0.7,
        ...STEADY,
        ...manner,
      },
    );
  }

  /** A firm even line around a shape. */
  ring(shape: Shape, size = 10): void {
    this.on("ink");
    this.sheet.draw(
      closed(shape),
      { brush: "pen-even", size, colour: BLACK },
      { press: () => 0.8, ...STEADY, soft: false },
    );
  }

  /** A thing in front: white, with a firm edge. */
  thing(shape: Shape, size = 10): void {
    this.fill(shape, WHITE);
    this.ring(shape, size);
  }

  /** White lines in what is black, under all that comes in front of it. */
  scratch(points: Shape, size = 7): void {
    this.on("blacks");
    this.sheet.draw(
      points,
      { brush: "pen-fine", size, colour: WHITE },
      { press: () => 0.75, ...STEADY, soft: false },
    );
  }

  /** White over all: wires, rims, a gleam. */
  white(points: Shape, size = 7): void {
    this.on("snow");
    this.sheet.draw(
      points,
      { brush: "pen-fine", size, colour: WHITE },
      {
        press: () => 0.75,
        ...STEADY,
      },
    );
  }

  snow(box: { x: number; y: number; w: number; h: number }, count: number, most: number): void {
    this.on("snow");
    this.sheet.dots(box, count, { brush: "pen-even", size: 9, colour: WHITE }, [5, most]);
  }
}

const STEADY = { altitude: 1.35, wobble: 0.7, speed: 1.2 } as const;

/** Capitals as a sign painter's strokes, in a box of 4 × 6. */
const LETTERS: Record<string, readonly Shape[]> = {
  T: [
    [
      [0, 0],
      [4, 0],
    ],
    [
      [2, 0],
      [2, 6],
    ],
  ],
  I: [
    [
      [2, 0],
      [2, 6],
    ],
  ],
  C: [
    [
      [4, 1],
      [3, 0],
      [1, 0],
      [0, 1.4],
      [0, 4.6],
      [1, 6],
      [3, 6],
      [4, 5],
    ],
  ],
  K: [
    [
      [0, 0],
      [0, 6],
    ],
    [
      [4, 0],
      [0.2, 3.4],
    ],
    [
      [1.4, 2.4],
      [4, 6],
    ],
  ],
  E: [
    [
      [4, 0],
      [0, 0],
      [0, 6],
      [4, 6],
    ],
    [
      [0, 2.9],
      [3.2, 2.9],
    ],
  ],
  S: [
    [
      [3.9, 0.9],
      [2.8, 0],
      [1, 0],
      [0, 1.2],
      [0.6, 2.6],
      [3.3, 3.4],
      [4, 4.8],
      [3, 6],
      [1.2, 6],
      [0, 5],
    ],
  ],
  M: [
    [
      [0, 6],
      [0.3, 0],
      [2, 4],
      [3.7, 0],
      [4, 6],
    ],
  ],
  D: [
    [
      [0, 0],
      [0, 6],
      [2.2, 6],
      [3.8, 4.6],
      [3.8, 1.4],
      [2.2, 0],
      [0, 0],
    ],
  ],
  N: [
    [
      [0, 6],
      [0, 0],
      [4, 6],
      [4, 0],
    ],
  ],
  G: [
    [
      [4, 1],
      [3, 0],
      [1, 0],
      [0, 1.4],
      [0, 4.6],
      [1, 6],
      [3, 6],
      [4, 5],
      [4, 3.4],
      [2.6, 3.4],
    ],
  ],
  H: [
    [
      [0, 0],
      [0, 6],
    ],
    [
      [4, 0],
      [4, 6],
    ],
    [
      [0, 3],
      [4, 3],
    ],
  ],
  "7": [
    [
      [0, 0],
      [4, 0],
      [1.4, 6],
    ],
  ],
  "!": [
    [
      [2, 0],
      [2, 4],
    ],
    [
      [2, 5.5],
      [2, 6],
    ],
  ],
};

/** Letters in ink, `height` px high, from a place on. */
export function letter(
  panel: Panel,
  words: string,
  [x, y]: Point,
  height: number,
  size: number,
): void {
  const unit = height / 6;
  [...words].forEach((sign, i) => {
    for (const stroke of LETTERS[sign] ?? [])
      panel.fine(
        stroke.map(([u, v]): Point => [x + (i * 5.6 + u) * unit, y + v * unit]),
        size,
        { soft: false, wobble: 0.9 },
      );
  });
}

/** How broad letters are, px. */
export const breadthOf = (words: string, height: number): number =>
  ((words.length - 1) * 5.6 + 4) * (height / 6);
