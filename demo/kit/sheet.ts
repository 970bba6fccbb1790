import { type CommandInput } from "../../src/engine/command/commands";
import { writeWorkLog } from "../../src/engine/command/work-log";
import { type BlendMode } from "../../src/engine/compose/blend-modes";
import { type Header, newHeader } from "../../src/engine/picture/header";
import { Chance } from "../../src/engine/stroke/chance";
import {
  along,
  between,
  closed,
  distance,
  mix,
  parallels,
  type Point,
  type Shape,
  smooth,
} from "./shape";

/** What the hand has hold of. */
export type Tool = {
  brush: string;
  size: number;
  colour: string;
  strength?: number;
  mode?: "paint" | "lift" | "blend";
};

/** How a line is drawn: pressure along it (0…1 in, 0…1 out), lean of the pen, unsteadiness in px. */
export type Manner = {
  press?: (u: number) => number;
  /** Radians; π/2 upright. */
  altitude?: number;
  azimuth?: number;
  wobble?: number;
  speed?: number;
  /** Corners are rounded off, as a hand does; false keeps them. */
  soft?: boolean;
};

export const swell =
  (least: number, most: number) =>
  (u: number): number =>
    mix(least, most, Math.sin(Math.PI * u));
export const fade =
  (from: number, to: number) =>
  (u: number): number =>
    mix(from, to, u);
/** Firm for most of its length, lifted at the end. */
export const flick =
  (firm: number) =>
  (u: number): number =>
    firm * Math.min(1, u * 6 + 0.35) * (u < 0.6 ? 1 : 1 - ((u - 0.6) / 0.4) ** 1.5 * 0.9);

const STEP = 9;

/** Gaps in inked lines that taps do not fall through, px. */
const BRIDGE = 8;

const pair = ([x, y]: Point): [number, number] => [round(x), round(y)];

/** A sheet under the hand of a draughtsman: it writes a work log. */
export class Sheet {
  readonly commands: CommandInput[] = [];
  readonly header: Header;
  #chance: Chance;
  #draws = 0;
  #strokes = 0;
  #layer = "";
  #top: string | null = null;

  constructor(header: Partial<Header> & Pick<Header, "width" | "height">, seed: number) {
    this.header = newHeader(header);
    this.#chance = new Chance(seed);
  }

  get log(): string {
    return writeWorkLog(this.header, this.commands);
  }

  /** A number from `least` to `most` by chance. */
  chance(least = 0, most = 1): number {
    return mix(least, most, this.#chance.at(this.#draws++));
  }

  /** A new layer on top, of paint, of lines that stay editable or of strewn pieces; what follows is drawn on it. */
  layer(
    id: string,
    name: string,
    how: { blend?: BlendMode; opacity?: number; clip?: boolean } = {},
    kind: "paint" | "lines" | "strewn" = "paint",
  ): void {
    const of = kind === "paint" ? {} : { kind };
    this.commands.push({ do: "layer.add", id, name, above: this.#top, ...of });
    if (Object.keys(how).length > 0) this.commands.push({ do: "layer.set", id, ...how });
    this.#top = id;
    this.#layer = id;
  }

  /** New layers from here on go on top of this one. */
  climb(id: string): void {
    this.#top = id;
  }

  /** Goes back to a layer. */
  on(id: string): void {
    this.#layer = id;
  }

  /** One stroke along a line. */
  draw(line: Shape, tool: Tool, manner: Manner = {}): void {
    const {
      press = swell(0.25, 0.8),
      altitude = 1.25,
      azimuth = 0.7,
      wobble = 0.6,
      speed = 0.9,
      soft = true,
    } = manner;
    const points = along(soft ? smooth(line) : line, STEP);
    const phase = [this.chance(0, 7), this.chance(0, 7)] as const;
    const last = Math.max(1, points.length - 1);
    const samples = points.map(
      ([x, y], i): [number, number, number, number, number, number, number] => {
        const u = i / last;
        // A hand wavers slowly: two long waves that do not repeat together.
        const w = (k: number): number =>
          wobble *
          (Math.sin(i * 0.31 + (phase[0] as number) + k) +
            0.6 * Math.sin(i * 0.12 + (phase[1] as number) + k * 2));
        const p = Math.min(1, Math.max(0, press(u)));
        return [
          round(i * (STEP / speed)),
          round(x + w(0)),
          round(y + w(1.7)),
          round(p, 1000),
          altitude,
          azimuth,
          0,
        ];
      },
    );
    this.commands.push({
      do: "stroke",
      layer: this.#layer,
      brush: tool.brush,
      mode: tool.mode ?? "paint",
      size: tool.size,
      ...(tool.strength === undefined ? {} : { strength: tool.strength }),
      colour: tool.colour,
      seed: ++this.#strokes,
      samples,
    });
  }

  /** Takes away what the layer in hand holds inside a shape. */
  clear(shape: Shape): void {
    this.commands.push(
      { do: "select", shape: { kind: "polygon", points: shape.map(pair) } },
      { do: "layer.clear", id: this.#layer },
      { do: "select.none" },
    );
  }

  /** Fills what a loop holds, drawn round a shape. */
  lasso(colour: string, ...shapes: readonly Shape[]): void {
    for (const shape of shapes)
      this.commands.push({ do: "fill.loop", layer: this.#layer, colour, loop: shape.map(pair) });
  }

  /** Taps on regions between the lines of the line source; small gaps in them are bridged. */
  tap(colour: string, ...at: readonly Point[]): void {
    this.commands.push({
      do: "fill",
      layer: this.#layer,
      colour,
      at: at.map(pair),
      borders: "lines",
      bridge: BRIDGE,
    });
  }

  /** A contour searched for: drawn twice, not quite the same, ends overshooting. */
  search(line: Shape, tool: Tool, manner: Manner = {}, times = 2): void {
    for (let i = 0; i < times; i++) {
      const d = (): number => this.chance(-1.6, 1.6);
      const [dx, dy] = [d(), d()];
      const moved = line.map(([x, y]): Point => [x + dx, y + dy]);
      this.draw(moved, tool, {
        ...manner,
        press: manner.press ?? swell(0.2, i === 0 ? 0.5 : 0.85),
      });
    }
  }

  /** A closed outline, its sides drawn one by one, overshooting at the corners. */
  outline(shape: Shape, tool: Tool, manner: Manner = {}): void {
    const points = closed(shape);
    for (let i = 0; i < points.length - 1; i++) {
      const a = points[i] as Point;
      const b = points[i + 1] as Point;
      const over = Math.min(7, distance(a, b) * 0.04) / Math.max(1, distance(a, b));
      this.draw([between(a, b, -over), between(a, b, 1 + over)], tool, manner);
    }
  }

  /** Hatching of a shape: parallel lines with the hand's rhythm; `bend` makes them follow a round form. */
  hatch(
    shape: Shape,
    tool: Tool,
    { angle, gap, bend = 0, ...manner }: Manner & { angle: number; gap: number; bend?: number },
  ): void {
    const lines = parallels(shape, angle, gap, this.chance(0.2, 0.8));
    lines.forEach(([a, b], i) => {
      const back = i % 2 === 1;
      const [from, to] = back ? [b, a] : [a, b];
      const start = between(from, to, this.chance(-0.02, 0.04));
      const end = between(from, to, this.chance(0.94, 1.03));
      const middle = between(start, end, 0.5);
      const sag: Point = [middle[0] + Math.sin(angle) * -bend, middle[1] + Math.cos(angle) * bend];
      const firm = this.chance(0.75, 1.05);
      const press = manner.press ?? flick(0.5);
      const line =
        distance(start, end) < 3 ? [start, end] : bend === 0 ? [start, end] : [start, sag, end];
      this.draw(line, tool, { ...manner, press: (u) => press(u) * firm });
    });
  }

  /**
   * Blocks in a shape with a loaded round brush: overlapping strokes, each a little
   * different in colour, and then its edge.
   */
  block(
    shape: Shape,
    tool: Tool,
    {
      angle = 0.2,
      vary = 0.03,
      edge = true,
      gap = 0.5,
      press = 0.9,
    }: { angle?: number; vary?: number; edge?: boolean; gap?: number; press?: number } = {},
  ): void {
    const inset = tool.size * 0.46;
    for (const [a, b] of parallels(shape, angle, tool.size * gap)) {
      const length = distance(a, b);
      if (length < tool.size * 0.6) continue;
      const cut = inset / length;
      const line = [
        between(a, b, cut * this.chance(0.9, 1.2)),
        between(a, b, 1 - cut * this.chance(0.9, 1.2)),
      ];
      const colour = shifted(tool.colour, this.chance(-vary, vary), this.chance(-vary, vary));
      this.draw(line, { ...tool, colour }, { press: () => press, wobble: tool.size * 0.02 });
    }
    if (!edge) return;
    const fine = { ...tool, size: Math.max(3, tool.size * 0.3) };
    const inner = insetShape(shape, fine.size * 0.45);
    const points = closed(inner);
    for (let i = 0; i < points.length - 1; i++)
      this.draw([points[i] as Point, points[i + 1] as Point], fine, {
        press: () => press,
        wobble: 0.25,
      });
  }

  /** Dots strewn by chance over a box: snow, sparks, spatter. */
  dots(
    shape: { x: number; y: number; w: number; h: number },
    count: number,
    tool: Tool,
    sizes: [number, number],
  ): void {
    for (let i = 0; i < count; i++) {
      const at: Point = [
        this.chance(shape.x, shape.x + shape.w),
        this.chance(shape.y, shape.y + shape.h),
      ];
      const size = mix(sizes[0], sizes[1], this.chance() ** 3);
      const drift = this.chance(1, 4);
      this.draw(
        [at, [at[0] - drift * 0.4, at[1] + drift]],
        { ...tool, size: Math.round(size * 10) / 10 },
        { press: () => 0.8, wobble: 0 },
      );
    }
  }
}

const round = (v: number, per = 10): number => Math.round(v * per) / per;

/** A shape drawn in toward its middle by about `by` px. */
function insetShape(shape: Shape, by: number): Shape {
  const cx = shape.reduce((sum, [x]) => sum + x, 0) / shape.length;
  const cy = shape.reduce((sum, [, y]) => sum + y, 0) / shape.length;
  return shape.map(([x, y]) => {
    const d = Math.max(1, Math.hypot(x - cx, y - cy));
    return [x - ((x - cx) / d) * by, y - ((y - cy) / d) * by] as const;
  });
}

/** A colour a little lighter or darker, and a little warmer or cooler. */
export function shifted(hex: string, light: number, warm: number): string {
  const value = parseInt(hex.slice(1), 16);
  const channels = [value >> 16, (value >> 8) & 255, value & 255];
  const moves = [light + warm * 0.6, light, light - warm * 0.6];
  return `#${channels
    .map((v, i) => Math.min(255, Math.max(0, Math.round(v + (moves[i] as number) * 255))))
    .map((v) => v.toString(16).padStart(2, "0"))
    .join("")}`;
}
