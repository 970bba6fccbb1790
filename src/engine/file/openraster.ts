import { XMLBuilder, XMLParser } from "fast-xml-parser";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import { z } from "zod";
import { type BlendMode, blendModes } from "../compose/blend-modes";
import { hexColour } from "../colour/srgb";
import { type CommandInput } from "../command/commands";
import { toBase64 } from "./base64";
import { flatten, layerRows, type Progress } from "../compose/flatten";
import { type Engine } from "../engine";
import { within } from "../compose/tree";
import { type Layer, newLayer, Picture } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { limits } from "./limits";
import { type Pixels, PngWriter, readPng, readPngHeader, writePng } from "./png";

/**
 * OpenRaster 0.0.6 (freedesktop.org): a zip whose first entry is the stored `mimetype`,
 * with stack.xml, a PNG a layer, mergedimage.png and a thumbnail.
 */
const MIMETYPE = "image/openraster";
const THUMBNAIL_SIDE = 256;

type OraProperties = {
  name: string;
  opacity: number;
  visible: boolean;
  blend: BlendMode;
  clip: boolean;
  locked: boolean;
  /** Of a sketch aid. */
  tint: string | null;
};

/** A layer as it was read: properties and pixels still packed. */
export type OraLayer = OraProperties & { kind: "layer"; x: number; y: number; png: Uint8Array };

/** A group and what lies in it, bottom first. */
export type OraGroup = OraProperties & { kind: "group"; through: boolean; inside: OraNode[] };

export type OraNode = OraLayer | OraGroup;

/** What an OpenRaster file holds, bottom first. `notes` say what could not be kept. */
export type OraFile = {
  width: number;
  height: number;
  ppi: number;
  layers: OraNode[];
  notes: string[];
};

/** Groups lie in each other so deep at most. */
const MOST_DEPTH = 64;

/** Modes that OpenRaster calls otherwise. */
const opNames: Partial<Record<BlendMode, string>> = {
  normal: "svg:src-over",
  add: "svg:plus",
  glaze: "pampas:glaze",
};

const compositeOps: Record<BlendMode, string> = Object.fromEntries(
  blendModes.map((mode) => [mode, opNames[mode] ?? `svg:${mode}`]),
) as Record<BlendMode, string>;

function blendOf(op: string, notes: string[], name: string): { blend: BlendMode; clip: boolean } {
  if (op === "svg:src-atop") return { blend: "normal", clip: true };
  const found = blendModes.find((mode) => compositeOps[mode] === op);
  if (!found) notes.push(`“${name}” used the blend mode ${op}, which is shown as normal.`);
  return { blend: found ?? "normal", clip: false };
}

// ---- reading ----

const numberText = (fallback: number) => z.coerce.number().catch(fallback);
const attributes = z.object({
  "@_name": z.string().catch("Layer"),
  "@_src": z.string().optional(),
  "@_x": numberText(0),
  "@_y": numberText(0),
  "@_opacity": numberText(1),
  "@_visibility": z.enum(["visible", "hidden"]).catch("visible"),
  "@_composite-op": z.string().catch("svg:src-over"),
  "@_edit-locked": z.string().optional(),
  // What OpenRaster has no word for; other readers pass it over.
  "@_pampas-clip": z.enum(["true", "false"]).optional().catch(undefined),
  "@_pampas-tint": hexColour.nullable().catch(null).default(null),
  "@_isolation": z.enum(["auto", "isolate"]).catch("isolate"),
});
const imageSchema = z.object({
  "@_w": z.coerce.number().int().min(1),
  "@_h": z.coerce.number().int().min(1),
  "@_xres": numberText(300),
});

/** Names that would climb out of an archive, or are no plain path. */
const climbs = (name: string): boolean =>
  name.startsWith("/") ||
  name.includes("\\") ||
  name.split("/").includes("..") ||
  name.includes("\0");

/**
 * Unpacks an archive whose sizes have been looked at first.
 * @param most bytes that an entry of this name may unpack to; 0: it is not wanted
 * @throws Refusal where it is broken, climbs, or would unpack to too much
 */
export function unpackArchive(
  bytes: Uint8Array,
  most: (name: string) => number,
): Record<string, Uint8Array> {
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  let total = 0;
  let entries = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize, size }) => {
        if (climbs(name))
          throw new Refusal(`the archive names a place outside itself: ${name.slice(0, 80)}`);
        if (++entries > limits.archiveEntries)
          throw new Refusal("the archive holds too many files");
        const limit = name.endsWith("/") ? 0 : most(name);
        if (limit === 0) return false;
        if (originalSize > limit)
          throw new Refusal(`${name.slice(0, 80)} in the archive is too large`);
        total += originalSize;
        if (
          total > limits.archiveBytes ||
          originalSize > Math.max(2 ** 20, size * limits.archiveRatio)
        )
          throw new Refusal("the archive would unpack to far more than it holds");
        return true;
      },
    });
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal("the archive is broken or cut off");
  }
}

/** What is unpacked before anything else, and how large it may be. */
const HEAD_LIMITS: Record<string, number> = { mimetype: 256, "stack.xml": limits.xmlBytes };

type XmlNode = Record<string, unknown> & { ":@"?: Record<string, unknown> };

function parseStack(bytes: Uint8Array): XmlNode[] {
  if (bytes.length > limits.xmlBytes) throw new Refusal("stack.xml is too large");
  const text = strFromU8(bytes);
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    throw new Refusal("stack.xml declares entities, which are not read");
  try {
    const parser = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: "@_",
      preserveOrder: true,
      processEntities: true,
      parseAttributeValue: false,
    });
    return parser.parse(text, true) as XmlNode[];
  } catch {
    throw new Refusal("stack.xml is not readable");
  }
}

const childrenOf = (node: XmlNode, name: string): XmlNode[] =>
  (node[name] as XmlNode[] | undefined) ?? [];

/** Reads an OpenRaster file's layers and groups. */
export function readOpenRaster(bytes: Uint8Array): OraFile {
  const head = unpackArchive(bytes, (name) => HEAD_LIMITS[name] ?? 0);
  if (head.mimetype && strFromU8(head.mimetype).trim() !== MIMETYPE)
    throw new Refusal("this archive is not an OpenRaster picture");
  const stack = head["stack.xml"];
  if (!stack)
    throw new Refusal("this archive has no stack.xml, so it is not an OpenRaster picture");
  const image = parseStack(stack).find((node) => "image" in node);
  const size = imageSchema.safeParse(image?.[":@"]);
  if (!image || !size.success) throw new Refusal("stack.xml does not say how large the picture is");
  const notes: string[] = [];
  const wanted = new Set(sourcesIn(image));
  const files = unpackArchive(bytes, (name) => (wanted.has(name) ? limits.layerBytes : 0));
  const root = childrenOf(image, "image").find((node) => "stack" in node);
  const layers = root ? gather(childrenOf(root, "stack"), files, notes, 0) : [];
  const { "@_w": width, "@_h": height, "@_xres": ppi } = size.data;
  return {
    width,
    height,
    ppi: ppi >= 1 && ppi <= 9600 ? ppi : 300,
    layers,
    notes,
  };
}

/** Names of all files that a stack's layers are in. */
function sourcesIn(node: unknown, depth = 0): string[] {
  if (typeof node !== "object" || node === null || depth > 8 * MOST_DEPTH) return [];
  if (Array.isArray(node)) return node.flatMap((one) => sourcesIn(one, depth + 1));
  return Object.entries(node).flatMap(([key, value]) =>
    key === "@_src" && typeof value === "string" ? [value] : sourcesIn(value, depth + 1),
  );
}

/** The nodes of a stack, which the file has from the top, from the bottom. */
function gather(
  nodes: XmlNode[],
  files: Record<string, Uint8Array>,
  notes: string[],
  depth: number,
): OraNode[] {
  if (depth > MOST_DEPTH)
    throw new Refusal(`its groups lie more than ${MOST_DEPTH} deep in each other`);
  const found: OraNode[] = [];
  for (const node of nodes) {
    const read = attributes.parse(node[":@"] ?? {});
    const name = read["@_name"].slice(0, 120) || "Layer";
    const properties = (): OraProperties => ({
      name,
      opacity: Math.min(1, Math.max(0, read["@_opacity"])),
      visible: read["@_visibility"] === "visible",
      ...blendOf(read["@_composite-op"], notes, name),
      ...(read["@_pampas-clip"] === "true" ? { clip: true } : {}),
      locked: read["@_edit-locked"] === "true",
      tint: read["@_pampas-tint"],
    });
    if ("stack" in node) {
      const through = read["@_isolation"] === "auto";
      const inside = gather(childrenOf(node, "stack"), files, notes, depth + 1);
      found.push({ kind: "group", ...properties(), through, inside });
    } else if ("layer" in node) {
      const png = files[read["@_src"] ?? ""];
      if (!png) {
        notes.push(`The pixels of “${name}” are not in the file.`);
        continue;
      }
      readPngHeader(png);
      const [x, y] = [Math.round(read["@_x"]), Math.round(read["@_y"])];
      found.push({ kind: "layer", ...properties(), x, y, png });
    } else if ("text" in node) notes.push("A text layer could not be read.");
  }
  return found.reverse();
}

/** The commands that put what was read into a picture; `newId` names each layer. */
export function oraCommands(nodes: readonly OraNode[], newId: () => string): CommandInput[] {
  const commands: CommandInput[] = [];
  const put = (inside: readonly OraNode[], group: string | null, under: string | null): void => {
    let above = under;
    for (const node of inside) {
      const id = newId();
      const { name, opacity, blend, clip, visible, locked, tint } = node;
      const kind = node.kind === "group" ? ("group" as const) : ("paint" as const);
      commands.push({ do: "layer.add", id, name, above, kind, group });
      if (node.kind === "group") put(node.inside, id, above);
      else {
        const { x, y, png } = node;
        commands.push({ do: "place", layer: id, x, y, png: toBase64(png) });
      }
      const through = node.kind === "group" && node.through;
      commands.push({ do: "layer.set", id, opacity, blend, clip, visible, locked, through, tint });
      above = id;
    }
  };
  put(nodes, null, null);
  return commands;
}

/** How many layers and groups there are, in groups too. */
export const countOra = (nodes: readonly OraNode[]): number =>
  nodes.reduce((sum, node) => sum + 1 + (node.kind === "group" ? countOra(node.inside) : 0), 0);

// ---- writing ----

function pngOf(
  engine: Engine,
  picture: Picture,
  id: string | null,
  progress: Progress,
): Uint8Array {
  const { width, height, header } = picture;
  const writer = new PngWriter({ width, height, depth: 8, alpha: true, ppi: header.ppi });
  const rows = {
    depth: 8 as const,
    alpha: true,
    row: (samples: Uint8Array) => writer.row(samples),
  };
  if (id === null) flatten(picture, engine.store, engine.workforce, true, rows, progress);
  else if (!isBaked(picture.layer(id))) layerRows(picture, engine.store, id, rows, progress);
  else flatten(alone(picture, id), engine.store, engine.workforce, false, rows, progress);
  return writer.finish();
}

/** Whether a layer looks otherwise than its paint: other readers get what is seen. */
const isBaked = ({ kind, mask, contour }: Layer): boolean =>
  kind !== "paint" || mask !== null || contour !== null;

/** A picture of one layer and what lies in it, with its mask and outline, without opacity and mode. */
function alone(picture: Picture, id: string): Picture {
  const ids = new Set(within(picture.structure.layers, id));
  const one = new Picture(picture.header);
  one.structure = {
    ...picture.structure,
    layers: picture.structure.layers
      .filter((layer) => ids.has(layer.id))
      .map((layer) =>
        layer.id === id
          ? {
              ...layer,
              group: null,
              opacity: 1,
              blend: "normal",
              visible: true,
              clip: false,
              tint: null,
              through: false,
            }
          : layer,
      ),
  };
  for (const [name, planes] of picture.planes) one.planes.set(name, planes);
  return one;
}

/** A small copy, each pixel the mean of a square of the large one. */
export function reduced({ width, height, data }: Pixels, side: number): Pixels {
  const step = Math.max(1, Math.ceil(Math.max(width, height) / side));
  const w = Math.max(1, Math.floor(width / step));
  const h = Math.max(1, Math.floor(height / step));
  const out = new Uint8Array(w * h * 4);
  for (let y = 0, to = 0; y < h; y++)
    for (let x = 0; x < w; x++, to += 4)
      meanInto(out, to, data, width, x * step, y * step, Math.min(step, width, height));
  return { width: w, height: h, data: out };
}

function meanInto(
  out: Uint8Array,
  to: number,
  data: Uint8Array,
  width: number,
  x0: number,
  y0: number,
  step: number,
): void {
  const sums = [0, 0, 0, 0];
  for (let y = y0; y < y0 + step; y++)
    for (let x = x0; x < x0 + step; x++)
      for (let c = 0; c < 4; c++)
        sums[c] = (sums[c] as number) + (data[(y * width + x) * 4 + c] as number);
  for (let c = 0; c < 4; c++) out[to + c] = Math.round((sums[c] as number) / (step * step));
}

function solidPng(picture: Picture): Uint8Array {
  const { width, height, header, structure } = picture;
  const writer = new PngWriter({ width, height, depth: 8, alpha: true, ppi: header.ppi });
  const value = parseInt(structure.ground.slice(1), 16);
  const row = new Uint8Array(width * 4);
  for (let x = 0; x < width; x++)
    row.set([value >> 16, (value >> 8) & 255, value & 255, 255], x * 4);
  for (let y = 0; y < height; y++) writer.row(row);
  return writer.finish();
}

/**
 * The picture as an OpenRaster file: every layer a PNG of the whole sheet, the ground a
 * locked layer at the bottom, so that other readers show what we show.
 */
export function writeOpenRaster(
  engine: Engine,
  picture: Picture,
  progress: Progress = () => undefined,
): Uint8Array {
  const { layers, ground } = picture.structure;
  const parts = layers.length + 2;
  let part = 0;
  const step = (): Progress => {
    const from = part++ / parts;
    return (share) => progress(from + share / parts);
  };
  const files: Zippable = { mimetype: [strToU8(MIMETYPE), { level: 0 }] };
  const merged = pngOf(engine, picture, null, step());
  const pixels: Zippable = {};
  const nodeOf = (layer: Layer): XmlNode => {
    const op = layer.clip && layer.blend === "normal" ? "svg:src-atop" : compositeOps[layer.blend];
    if (layer.kind === "group" && !layer.mask && !layer.contour)
      return groupNode(layer, op, nodesIn(layer.id).reverse());
    const src = `data/layer${String(layers.indexOf(layer) + 1).padStart(3, "0")}.png`;
    pixels[src] = [pngOf(engine, picture, layer.id, step()), { level: 0 }];
    return layerNode(src, op, layer);
  };
  // OpenRaster knows no adjustments: what they do is in the merged picture alone.
  const nodesIn = (group: string | null): XmlNode[] =>
    layers
      .filter((layer) => layer.group === group && layer.kind !== "adjustment")
      .map((layer) => nodeOf(layer));
  const nodes = nodesIn(null);
  pixels["data/ground.png"] = [solidPng(picture), { level: 0 }];
  const bottom = { ...newLayer("ground", `Ground ${ground}`), locked: true };
  nodes.unshift(layerNode("data/ground.png", "svg:src-over", bottom));
  files["stack.xml"] = strToU8(stackXml(picture, nodes.reverse()));
  Object.assign(files, pixels);
  files["mergedimage.png"] = [merged, { level: 0 }];
  const small = writePng(reduced(readPng(merged), THUMBNAIL_SIDE), 72);
  files["Thumbnails/thumbnail.png"] = [small, { level: 0 }];
  step()(1);
  return zipSync(files);
}

const groupNode = (layer: Layer, op: string, inside: XmlNode[]): XmlNode => ({
  stack: inside,
  ":@": { ...propertiesOf(layer, op), "@_isolation": layer.through ? "auto" : "isolate" },
});

const layerNode = (src: string, op: string, layer: Layer): XmlNode => ({
  layer: [],
  ":@": { "@_src": src, "@_x": "0", "@_y": "0", ...propertiesOf(layer, op) },
});

/** What a layer and a group say of themselves. */
const propertiesOf = (
  { name, opacity, visible, locked, clip, tint }: Layer,
  op: string,
): Record<string, string> => ({
  "@_name": name,
  "@_opacity": opacity.toFixed(4),
  "@_visibility": visible ? "visible" : "hidden",
  "@_composite-op": op,
  ...(locked ? { "@_edit-locked": "true" } : {}),
  ...(clip ? { "@_pampas-clip": "true" } : {}),
  ...(tint ? { "@_pampas-tint": tint } : {}),
});

function stackXml({ width, height, header }: Picture, nodes: XmlNode[]): string {
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: "@_",
    preserveOrder: true,
    format: true,
    suppressEmptyNode: true,
  });
  const res = String(Math.round(header.ppi));
  const image = {
    image: [{ stack: nodes }],
    ":@": {
      "@_version": "0.0.6",
      "@_w": String(width),
      "@_h": String(height),
      "@_xres": res,
      "@_yres": res,
    },
  };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${String(builder.build([image])).trim()}\n`;
}
