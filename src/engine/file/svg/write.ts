import { groupsAround } from "../../compose/tree";
import { type Engine } from "../../engine";
import { type Curve } from "../../lines/curve";
import { encodeLines } from "../../lines/chunk";
import { type Line } from "../../lines/line";
import { toBase64 } from "../base64";
import { linesOf } from "../../lines/line-set";
import { outlineOf } from "../../lines/outline";
import { type Layer, type Picture } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";

const MM_AN_INCH = 25.4;
/** Widths that differ by less than this share are one width: such a line goes out as a stroke. */
const EVEN = 0.01;
/** Places after the point, px. */
const PLACES = 3;

const number = (v: number): string => String(Number(v.toFixed(PLACES)));

const SIGNS: Readonly<Record<string, string>> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&apos;",
};

const escaped = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => SIGNS[sign] ?? "").replace(/\p{Cc}/gu, " ");

/** A curve as the data of an SVG path. */
export function pathData({ points }: Curve, isClosed: boolean): string {
  const parts = [`M${number(points[0] as number)} ${number(points[1] as number)}`];
  for (let i = 2; i < points.length; i += 6)
    parts.push(
      `C${points
        .slice(i, i + 6)
        .map(number)
        .join(" ")}`,
    );
  if (isClosed) parts.push("Z");
  return parts.join("");
}

/** The one width of a line that has but one, px; null where it swells, thins or has tapers. */
export function evenWidth({ width, taper, closed }: Line): number | null {
  if (!closed && taper.in + taper.out > 0) return null;
  const radii = width.filter((_, i) => i % 2 === 1);
  const [least, most] = [Math.min(...radii), Math.max(...radii)];
  return most - least <= EVEN * most ? least + most : null;
}

function lineElement(line: Line): string {
  const faint = line.strength < 1 ? ` opacity="${number(line.strength)}"` : "";
  // Others pass over what they do not know; brought in again it is the line that it was.
  const paint = `${faint} data-line="${toBase64(encodeLines([line]))}"`;
  const width = evenWidth(line);
  if (width !== null)
    return `<path d="${pathData(line.curve, line.closed)}" fill="none" stroke="${line.colour}" stroke-width="${number(width)}" stroke-linecap="round" stroke-linejoin="round"${paint}/>`;
  const data = outlineOf(line).map((loop) => pathData(loop, true));
  return `<path d="${data.join("")}" fill="${line.colour}" fill-rule="evenodd"${paint}/>`;
}

/** Line layers that are seen, lowest first, each with its own opacity and that of its groups. */
export function seenLineLayers({
  structure: { layers },
}: Picture): { layer: Layer; opacity: number }[] {
  return layers.flatMap((layer) => {
    if (layer.kind !== "lines") return [];
    const around = [...groupsAround(layers, layer.id)].flatMap(
      (id) => layers.find((other) => other.id === id) ?? [],
    );
    const all = [layer, ...around];
    if (all.some(({ visible }) => !visible)) return [];
    return [{ layer, opacity: all.reduce((product, one) => product * one.opacity, 1) }];
  });
}

/**
 * The line layers that are seen as SVG 1.1: a group a layer with its name and opacity, in mm by the picture's ppi.
 * Lines of one width are strokes, others filled outlines; what texture a brush has is left out.
 * @throws Refusal where no line layer is seen
 */
export function writeSvg(
  { store }: Pick<Engine, "store">,
  picture: Picture,
  progress: (share: number) => void = () => undefined,
): Uint8Array {
  const { width, height, ppi } = picture;
  const layers = seenLineLayers(picture);
  if (layers.length === 0)
    throw new Refusal("No line layer is seen. An SVG holds lines: draw some on a line layer first");
  const mm = (px: number): string => `${number((px / ppi) * MM_AN_INCH)}mm`;
  const parts = [
    `<?xml version="1.0" encoding="UTF-8"?>`,
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}" height="${mm(height)}" viewBox="0 0 ${width} ${height}">`,
  ];
  layers.forEach(({ layer, opacity }, i) => {
    const { lines } = linesOf(store, picture, layer.id);
    const faint = opacity < 1 ? ` opacity="${number(opacity)}"` : "";
    parts.push(`<g${faint}><title>${escaped(layer.name)}</title>`);
    lines.forEach((line, k) => {
      parts.push(lineElement(line));
      if (k % 16 === 0) progress((i + k / lines.length) / layers.length);
    });
    parts.push("</g>");
  });
  parts.push("</svg>", "");
  return new TextEncoder().encode(parts.join("\n"));
}
