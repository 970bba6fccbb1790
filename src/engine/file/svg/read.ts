import { XMLParser } from "fast-xml-parser";
import svgpath from "svgpath";
import { type CommandInput } from "../../command/commands";
import { type Curve, directionAt } from "../../lines/curve";
import { decodeLines, encodeLines } from "../../lines/chunk";
import { drawsLines } from "../../lines/drawable";
import { isSound, type Line, MOST_LINES, settledLine } from "../../lines/line";
import { movedLine } from "../../lines/moved";
import { findBrush } from "../../media";
import { MOST_LAYERS } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";
import { LEAST_SIZE, MOST_SIZE } from "../../stroke/brush";
import { fromBase64, toBase64 } from "../base64";
import { limits } from "../limits";
import { hexOf } from "./colour";
import { pathOfShape } from "./shapes";

/** An SVG as lines: a layer for each group that is not in another. */
export type SvgFile = {
  width: number;
  height: number;
  ppi: number;
  layers: { name: string; lines: Line[] }[];
  notes: string[];
};

type XmlNode = Record<string, unknown> & { ":@"?: Record<string, string> };
type Matrix = readonly [number, number, number, number, number, number];

/** How deep groups may lie in each other. */
const MOST_DEPTH = 64;
/** The smallest and the largest side that a sheet gets, px: what is smaller is an icon. */
const SMALL = 600;
const GROWN = 1200;
/** What an SVG px is on paper. */
const CSS_PPI = 96;
/** What brings lines that are none of ours. */
const BRUSH = "pen-even";
/** Outlines of filled shapes are so wide, px. */
const OUTLINE = 1;
/** Pieces that turn more than this meet in a corner, radians. */
const CORNER = 0.3;

const UNITS: Readonly<Record<string, number>> = { mm: 25.4, cm: 2.54, in: 1, pt: 72, pc: 6 };
/** Elements that hold nothing to be drawn. */
const SILENT = new Set(["title", "desc", "metadata", "defs", "#text", "namedview"]);
const SHAPES = new Set(["path", "rect", "circle", "ellipse", "line", "polyline", "polygon"]);
const GROUPS = new Set(["svg", "g", "a", "switch"]);

type Style = {
  fill: string;
  stroke: string;
  width: number;
  opacity: number;
  fillOpacity: number;
  strokeOpacity: number;
};

const FIRST: Style = {
  fill: "#000000",
  stroke: "none",
  width: 1,
  opacity: 1,
  fillOpacity: 1,
  strokeOpacity: 1,
};

function parsed(bytes: Uint8Array): XmlNode[] {
  if (bytes.length > limits.svgBytes) throw new Refusal("the SVG is too large");
  const text = new TextDecoder().decode(bytes);
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    throw new Refusal("the SVG declares entities, which are not read");
  try {
    return new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: "",
      preserveOrder: true,
      parseAttributeValue: false,
      removeNSPrefix: true,
    }).parse(text, true) as XmlNode[];
  } catch {
    throw new Refusal("the SVG is not readable");
  }
}

const nameOf = (node: XmlNode): string => Object.keys(node).find((key) => key !== ":@") ?? "";
const insideOf = (node: XmlNode): XmlNode[] => (node[nameOf(node)] as XmlNode[] | undefined) ?? [];
const attributesOf = (node: XmlNode): Record<string, string> => node[":@"] ?? {};

/** Attributes, with what `style` says over them. */
function saidOf(node: XmlNode): Record<string, string> {
  const said = { ...attributesOf(node) };
  for (const part of (said.style ?? "").split(";")) {
    const [name = "", value = ""] = part.split(":");
    if (name.trim()) said[name.trim()] = value.trim();
  }
  return said;
}

const share = (text: string | undefined, otherwise: number): number => {
  const value = parseFloat(text ?? "");
  if (!Number.isFinite(value)) return otherwise;
  return Math.min(1, Math.max(0, text?.trim().endsWith("%") ? value / 100 : value));
};

function styleOf(node: XmlNode, around: Style): Style {
  const said = saidOf(node);
  const width = parseFloat(said["stroke-width"] ?? "");
  return {
    fill: said.fill ?? around.fill,
    stroke: said.stroke ?? around.stroke,
    width: Number.isFinite(width) && width >= 0 ? width : around.width,
    opacity: around.opacity * share(said.opacity, 1),
    fillOpacity: share(said["fill-opacity"], around.fillOpacity),
    strokeOpacity: share(said["stroke-opacity"], around.strokeOpacity),
  };
}

/** How large the sheet is, px; and what takes the file's units to it. */
function sheetOf(root: XmlNode): { width: number; height: number; ppi: number; map: Matrix } {
  const { viewBox, width: w, height: h } = attributesOf(root);
  const box = (viewBox ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const length = (text: string | undefined): { px: number; perInch: number | null } => {
    const [, value = "", unit = ""] = /^\s*([\d.eE+-]+)\s*([a-z]*)\s*$/.exec(text ?? "") ?? [];
    const perInch = UNITS[unit];
    const size = parseFloat(value);
    return perInch ? { px: (size / perInch) * CSS_PPI, perInch } : { px: size, perInch: null };
  };
  const [asWide, asHigh] = [length(w), length(h)];
  const hasBox =
    box.length === 4 && box.every(Number.isFinite) && (box[2] ?? 0) > 0 && (box[3] ?? 0) > 0;
  const [left, top, across, down] = hasBox
    ? (box as [number, number, number, number])
    : ([0, 0, asWide.px, asHigh.px] as const);
  if (!(across > 0 && down > 0)) throw new Refusal("the SVG does not say how large it is");
  const longer = Math.max(across, down);
  const by = longer < SMALL ? GROWN / longer : 1;
  const inches = asWide.perInch ? asWide.px / CSS_PPI : null;
  const ppi = inches ? (across * by) / inches : 300;
  return {
    width: Math.max(1, Math.round(across * by)),
    height: Math.max(1, Math.round(down * by)),
    ppi: ppi >= 1 && ppi <= 9600 ? Math.round(ppi * 1000) / 1000 : 300,
    map: [by, 0, 0, by, -left * by, -top * by],
  };
}

/** Gathers lines on its way through a file. */
class Reader {
  readonly notes: string[] = [];
  readonly leftOut = new Map<string, number>();
  filled = 0;
  otherBrushes = 0;
  count = 0;

  /** All lines in an element, with what groups around it say. */
  lines(
    node: XmlNode,
    around: Style,
    transforms: readonly string[],
    depth: number,
    into: Line[],
  ): void {
    if (depth > MOST_DEPTH) throw new Refusal("the SVG’s groups lie too deep in each other");
    const name = nameOf(node);
    if (SILENT.has(name)) return;
    const { transform, display, visibility } = saidOf(node);
    if (display === "none" || visibility === "hidden") return;
    const all = transform ? [transform, ...transforms] : transforms;
    const style = styleOf(node, around);
    if (GROUPS.has(name)) {
      for (const inside of insideOf(node)) this.lines(inside, style, all, depth + 1, into);
      return;
    }
    if (!SHAPES.has(name)) {
      this.leftOut.set(name, (this.leftOut.get(name) ?? 0) + 1);
      return;
    }
    this.#shape(node, style, all, into);
  }

  #shape(node: XmlNode, style: Style, transforms: readonly string[], into: Line[]): void {
    const said = attributesOf(node);
    const own = said["data-line"] ? this.#own(said["data-line"], transforms) : null;
    const made = own ?? this.#drawn(node, style, transforms);
    for (const line of made) {
      if (this.count >= MOST_LINES)
        throw new Refusal(`the SVG holds more than ${MOST_LINES} lines`);
      this.count++;
      into.push(line);
    }
  }

  /** A line that Pampas wrote: it is what it was. Null where it cannot be read. */
  #own(data: string, transforms: readonly string[]): Line[] | null {
    try {
      const [a, b, c, d, e, f] = matrixOf(transforms);
      return decodeLines(fromBase64(data)).flatMap((line) => {
        const brush = findBrush(line.brush);
        if (!brush || !drawsLines(brush)) this.otherBrushes++;
        const known = brush && drawsLines(brush) ? line : { ...line, brush: BRUSH };
        if (a === 1 && b === 0 && c === 0 && d === 1 && e === 0 && f === 0) return [known];
        return movedLine(known, (x, y) => [a * x + c * y + e, b * x + d * y + f], true) ?? [];
      });
    } catch {
      return null;
    }
  }

  #drawn(node: XmlNode, style: Style, transforms: readonly string[]): Line[] {
    const stroke = hexOf(style.stroke);
    const fill = hexOf(style.fill);
    const data = pathOfShape(nameOf(node), attributesOf(node));
    if (!data || (!stroke && !fill)) return [];
    const [a, b, c, d] = matrixOf(transforms);
    const grows = Math.sqrt(Math.abs(a * d - b * c));
    const width = stroke ? style.width * grows : OUTLINE;
    const colour = stroke ?? fill ?? "#000000";
    if (!stroke) this.filled++;
    const strength = style.opacity * (stroke ? style.strokeOpacity : style.fillOpacity);
    if (width <= 0 || strength <= 0) return [];
    return curvesOf(data, transforms).flatMap(({ curve, closed }) => {
      const line = settledLine({
        id: 1,
        z: 0,
        brush: BRUSH,
        size: Math.min(MOST_SIZE, Math.max(LEAST_SIZE, width)),
        strength,
        colour,
        second: "#ffffff",
        seed: 0,
        curve,
        width: [0, width / 2],
        hand: [0, 0.7, Math.PI / 2, 0, 0, 0],
        taper: { in: 0, out: 0 },
        closed,
      });
      return isSound(line) ? [line] : [];
    });
  }

  /** What is to be said of the file. */
  said(): string[] {
    const said = [...this.notes];
    if (this.leftOut.size > 0)
      said.push(
        `Left out: ${[...this.leftOut].map(([name, n]) => (n > 1 ? `${n} × ${name}` : name)).join(", ")}.`,
      );
    if (this.filled > 0)
      said.push(`${this.filled} filled shapes came in as outlines: fill them on a layer below.`);
    if (this.otherBrushes > 0)
      said.push(
        `${this.otherBrushes} lines were drawn with a brush that is not here; they came in as Even liner.`,
      );
    return said;
  }
}

/** All transforms, the innermost first, as one. @throws Refusal where one cannot be read */
function matrixOf(transforms: readonly string[]): Matrix {
  const places: number[][] = [];
  transformed("M0 0L1 0L0 1", transforms).iterate(
    (segment) => void places.push(segment.slice(1) as number[]),
  );
  const [[e = 0, f = 0] = [], [x1 = 1, y1 = 0] = [], [x2 = 0, y2 = 1] = []] = places;
  return [x1 - e, y1 - f, x2 - e, y2 - f, e, f];
}

function transformed(data: string, transforms: readonly string[]) {
  let path = svgpath(data).abs();
  for (const transform of transforms) path = path.transform(transform);
  return path;
}

type Drawn = { curve: Curve; closed: boolean };

/** The curves of a path's data, one for each of its parts. */
function curvesOf(data: string, transforms: readonly string[]): Drawn[] {
  const parts: number[][] = [];
  const closed: boolean[] = [];
  let [x, y] = [0, 0];
  const path = transformed(data, transforms).unshort().unarc().abs();
  const to = (x1: number, y1: number, x2: number, y2: number, px: number, py: number): void => {
    parts.at(-1)?.push(x1, y1, x2, y2, px, py);
    [x, y] = [px, py];
  };
  const straight = (px: number, py: number): void =>
    to(x + (px - x) / 3, y + (py - y) / 3, x + ((px - x) * 2) / 3, y + ((py - y) * 2) / 3, px, py);
  const begin = (px: number, py: number): void => {
    [x, y] = [px, py];
    parts.push([px, py]);
    closed.push(false);
  };
  path.iterate((segment) => {
    const [kind, ...n] = segment as unknown as [string, ...number[]];
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = n;
    if (kind !== "M" && kind !== "Z" && closed.at(-1)) begin(x, y);
    if (kind === "M") begin(a, b);
    else if (kind === "L") straight(a, b);
    else if (kind === "H") straight(a, y);
    else if (kind === "V") straight(x, a);
    else if (kind === "C") to(a, b, c, d, e, f);
    else if (kind === "Q")
      to(
        x + ((a - x) * 2) / 3,
        y + ((b - y) * 2) / 3,
        c + ((a - c) * 2) / 3,
        d + ((b - d) * 2) / 3,
        c,
        d,
      );
    else if (kind.toUpperCase() === "Z") {
      const [sx = x, sy = y] = parts.at(-1) ?? [];
      if (Math.abs(sx - x) + Math.abs(sy - y) > 1e-3) straight(sx, sy);
      closed[closed.length - 1] = true;
    }
  });
  if ((path as unknown as { err: string }).err)
    throw new Refusal("a path of the SVG cannot be read");
  return parts.flatMap((points, i) =>
    points.length >= 8 ? [drawnFrom(points, closed[i] ?? false)] : [],
  );
}

/** A curve with corners where its pieces turn, and its length for material. */
function drawnFrom(points: number[], closed: boolean): Drawn {
  const pieces = (points.length - 2) / 6;
  const material = [0];
  for (let i = 0; i < pieces; i++) {
    let way = 0;
    for (let k = 6 * i; k < 6 * i + 6; k += 2)
      way += Math.hypot(
        (points[k + 2] as number) - (points[k] as number),
        (points[k + 3] as number) - (points[k + 1] as number),
      );
    material.push((material[i] as number) + Math.max(1e-3, way));
  }
  const curve: Curve = { points, material, corners: new Array<boolean>(pieces + 1).fill(true) };
  for (let k = 1; k < pieces; k++) {
    const [ax, ay] = directionAt(curve, { piece: k - 1, t: 1 });
    const [bx, by] = directionAt(curve, { piece: k, t: 0 });
    curve.corners[k] = Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by)) > CORNER;
  }
  return { curve, closed };
}

const titleOf = (node: XmlNode): string | null => {
  const title = insideOf(node).find((inside) => nameOf(inside) === "title");
  const text = title ? (insideOf(title)[0]?.["#text"] as unknown) : undefined;
  const said =
    typeof text === "string" || typeof text === "number" ? String(text) : attributesOf(node).id;
  return said?.trim().slice(0, 120) || null;
};

/**
 * Reads an SVG's paths, shapes and groups as lines; what else is in it is named and left out. Scripts and references
 * are not read.
 * @throws Refusal that says what was wrong
 */
export function readSvg(bytes: Uint8Array): SvgFile {
  const root = parsed(bytes).find((node) => nameOf(node) === "svg");
  if (!root) throw new Refusal("this file is not an SVG");
  const { map, ...sheet } = sheetOf(root);
  const reader = new Reader();
  const transforms = [`matrix(${map.join(" ")})`];
  const style = styleOf(root, FIRST);
  const layers: SvgFile["layers"] = [];
  let loose: Line[] | null = null;
  try {
    for (const node of insideOf(root)) {
      const isGroup = GROUPS.has(nameOf(node));
      if (!isGroup && !loose) layers.push({ name: "Lines", lines: (loose = []) });
      const lines = isGroup ? [] : (loose as Line[]);
      reader.lines(node, style, transforms, 0, lines);
      if (!isGroup) continue;
      layers.push({ name: titleOf(node) ?? "Lines", lines });
      loose = null;
    }
  } catch (error) {
    throw error instanceof Refusal ? error : new Refusal("a path of the SVG cannot be read");
  }
  const held = layers.filter(({ lines }) => lines.length > 0).slice(0, MOST_LAYERS);
  if (held.length === 0)
    throw new Refusal(["there is no line in this SVG", ...reader.said()].join(". "));
  return { ...sheet, layers: held, notes: reader.said() };
}

/** The commands that put an SVG's lines on layers of their own, one above the other. */
export function svgCommands(
  { layers }: SvgFile,
  newId: () => string,
  above: string | null,
): Exclude<CommandInput, { do: "together" }>[] {
  let under = above;
  return layers.flatMap(({ name, lines }) => {
    const id = newId();
    const add = { do: "layer.add" as const, id, name, above: under, kind: "lines" as const };
    under = id;
    return [add, { do: "line.add" as const, layer: id, lines: toBase64(encodeLines(lines)) }];
  });
}

/** An SVG's lines in the middle of a sheet: as they are, or made smaller to fit. */
export function onSheet(file: SvgFile, sheet: { width: number; height: number }): SvgFile {
  const by = Math.min(1, sheet.width / file.width, sheet.height / file.height);
  const [dx, dy] = [(sheet.width - file.width * by) / 2, (sheet.height - file.height * by) / 2];
  if (by === 1 && dx === 0 && dy === 0) return file;
  const layers = file.layers.map(({ name, lines }) => ({
    name,
    lines: lines.flatMap(
      (line) => movedLine(line, (x, y) => [x * by + dx, y * by + dy], true) ?? [],
    ),
  }));
  return { ...file, layers };
}
