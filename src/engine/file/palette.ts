import { XMLParser } from "fast-xml-parser";
import { z } from "zod";
import { hexFromText, linearToRgb, oklchToHex, type Rgb, rgbToHex } from "../colour/oklch";
import { MOST_COLOURS, type Wells } from "../colour/wells";
import { Refusal } from "../picture/refusal";

/** Largest palette file, bytes. */
const MOST_BYTES = 2_000_000;
const MOST_DEPTH = 16;

export type Palette = Pick<Wells, "name" | "colours">;
type Colour = Palette["colours"][number];

export const paletteFormats = ["tokens", "list", "svg"] as const;
export type PaletteFormat = (typeof paletteFormats)[number];

/** How palettes are written: Design Tokens (DTCG 2025), a list of hex, an SVG of swatches. */
export function writePalette({ name, colours }: Palette, format: PaletteFormat): string {
  if (format === "list") return `${colours.map(({ hex }) => hex).join("\n")}\n`;
  return format === "tokens" ? writeTokens(name, colours) : writeSvg(name, colours);
}

const components = (hex: string): number[] => {
  const value = parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255].map((v) => Number((v / 255).toFixed(5)));
};

/** Names that a token may have: no dots or braces, none twice. */
function tokenNames(colours: readonly Colour[]): string[] {
  const used = new Set<string>();
  return colours.map(({ name, hex }) => {
    const plain = (name || hex.slice(1)).replace(/[{}.$]/g, " ").trim() || hex.slice(1);
    let unique = plain;
    for (let n = 2; used.has(unique); n++) unique = `${plain} ${n}`;
    used.add(unique);
    return unique;
  });
}

function writeTokens(name: string, colours: readonly Colour[]): string {
  const names = tokenNames(colours);
  const tokens = Object.fromEntries(
    colours.map(({ hex }, i) => [
      names[i],
      { $value: { colorSpace: "srgb", components: components(hex), hex } },
    ]),
  );
  const group = name.replace(/[{}.$]/g, " ").trim() || "Wells";
  return `${JSON.stringify({ [group]: { $type: "color", ...tokens } }, null, 2)}\n`;
}

const SWATCH = 40;
const A_ROW = 8;

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

function writeSvg(name: string, colours: readonly Colour[]): string {
  const rows = Math.max(1, Math.ceil(colours.length / A_ROW));
  const swatches = colours.map(({ hex, name: called }, i) => {
    const x = (i % A_ROW) * SWATCH;
    const y = Math.floor(i / A_ROW) * SWATCH;
    return `  <rect x="${x}" y="${y}" width="${SWATCH}" height="${SWATCH}" fill="${hex}"><title>${escaped(called || hex)}</title></rect>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${A_ROW * SWATCH}" height="${rows * SWATCH}">`,
    `  <title>${escaped(name)}</title>`,
    ...swatches,
    "</svg>",
    "",
  ].join("\n");
}

/**
 * A palette from a file of any of the three kinds, known by what it holds.
 * @throws Refusal where there are no colours in it, or too many
 */
export function readPalette(text: string, fileName: string): Palette {
  if (text.length > MOST_BYTES) throw new Refusal("the file is too large for a palette");
  const start = text.trimStart();
  const name = fileName.replace(/\.[^.]*$/, "").slice(0, 80) || "Palette";
  const read = start.startsWith("{")
    ? readTokens(start, name)
    : start.startsWith("<")
      ? readSvg(start, name)
      : { name, colours: readList(start) };
  if (read.colours.length === 0) throw new Refusal("there are no colours in this file");
  if (read.colours.length > MOST_COLOURS)
    throw new Refusal(
      `this palette has ${read.colours.length} colours; ${MOST_COLOURS} is the most`,
    );
  return read;
}

/** Colours in a text, one after the other: `#a4c`, `#aa44cc`, `aa44cc`, with a name behind or not. */
function readList(text: string): Colour[] {
  return text.split(/[\n,;]/).flatMap((line): Colour[] => {
    const [first = "", ...rest] = line.trim().split(/\s+/);
    if (first === "") return [];
    const hex = hexFromText(first);
    if (!hex) throw new Refusal(`“${first.slice(0, 24)}” is no colour: write them as #rrggbb`);
    return [{ hex, name: rest.join(" ").slice(0, 80) }];
  });
}

const tokenColour = z.union([
  z.string(),
  z.object({
    hex: z.string().optional(),
    colorSpace: z.string(),
    components: z.array(z.union([z.number(), z.literal("none")])).length(3),
  }),
]);

function readTokens(text: string, name: string): Palette {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new Refusal("this is not JSON");
  }
  const colours: Colour[] = [];
  let group: string | null = null;
  const walk = (node: unknown, path: string[], type: string | null, depth: number): void => {
    if (depth > MOST_DEPTH) throw new Refusal("the tokens are nested too deep");
    if (typeof node !== "object" || node === null || Array.isArray(node)) return;
    const own = (node as { $type?: unknown }).$type;
    const kind = typeof own === "string" ? own : type;
    if ("$value" in node) {
      const hex = kind === "color" ? tokenHex((node as { $value: unknown }).$value, path) : null;
      if (hex) colours.push({ hex, name: (path.at(-1) ?? "").slice(0, 80) });
      return;
    }
    for (const [key, child] of Object.entries(node)) {
      if (key.startsWith("$")) continue;
      if (depth === 0) group ??= key;
      walk(child, [...path, key], kind, depth + 1);
    }
  };
  walk(data, [], null, 0);
  return { name: (group ?? name).slice(0, 80) || name, colours };
}

function tokenHex(value: unknown, path: readonly string[]): string {
  const wrong = (): Refusal =>
    new Refusal(`the token “${path.join(".").slice(0, 60)}” is no colour that can be read`);
  const parsed = tokenColour.safeParse(value);
  if (!parsed.success) throw wrong();
  const colour = parsed.data;
  const hex = typeof colour === "string" ? hexFromText(colour) : hexFromText(colour.hex ?? "");
  if (hex) return hex;
  if (typeof colour === "string") throw wrong();
  const [a, b, c] = colour.components.map((v) => (v === "none" ? 0 : v)) as [
    number,
    number,
    number,
  ];
  if (colour.colorSpace === "srgb") return rgbToHex([a, b, c]);
  if (colour.colorSpace === "srgb-linear") return rgbToHex(linearToRgb([a, b, c] as Rgb));
  if (colour.colorSpace === "oklch") return oklchToHex({ l: a, c: b, h: c });
  throw wrong();
}

function readSvg(text: string, name: string): Palette {
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    throw new Refusal("the SVG declares entities, which are not read");
  let nodes: unknown;
  try {
    nodes = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: "@_",
      processEntities: true,
    }).parse(text, true);
  } catch {
    throw new Refusal("the SVG is not readable");
  }
  const colours: Colour[] = [];
  let title: string | null = null;
  const walk = (node: unknown, depth: number): void => {
    if (depth > MOST_DEPTH || typeof node !== "object" || node === null) return;
    if (Array.isArray(node)) return node.forEach((child) => walk(child, depth));
    const one = node as Record<string, unknown>;
    const fill = typeof one["@_fill"] === "string" ? hexFromText(one["@_fill"]) : null;
    const called = typeof one.title === "string" ? one.title : "";
    if (fill) colours.push({ hex: fill, name: called === fill ? "" : called.slice(0, 80) });
    else if (called && title === null) title = called;
    for (const [key, child] of Object.entries(one))
      if (!key.startsWith("@_")) walk(child, depth + 1);
  };
  walk(nodes, 0);
  return { name: (title ?? name).slice(0, 80) || name, colours };
}
