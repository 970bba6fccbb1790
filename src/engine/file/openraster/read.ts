import { strFromU8 } from "fflate";
import { XMLParser } from "fast-xml-parser";
import { z } from "zod";
import { hexColour } from "../../colour/srgb";
import { type CommandInput } from "../../command/commands";
import { type Layer, type LayerKind, layerKinds, layerProperties } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";
import { unpackArchive } from "../archive";
import { toBase64 } from "../base64";
import { isTooDeep } from "../json";
import { limits } from "../limits";
import { readPngHeader } from "../png";
import { blendOf, MIMETYPE } from "./operators";
import { CARRIED, isForOthers, roles } from "./carried";

type OraProperties = Pick<Layer, "name" | "opacity" | "visible" | "blend" | "clip" | "locked"> &
  Partial<Layer>;

/** A layer as it was read: properties, and pixels and mask still packed. */
export type OraLayer = {
  kind: "layer";
  properties: OraProperties;
  x: number;
  y: number;
  png: Uint8Array;
  mask: Uint8Array | null;
};

/** A group and what lies in it, bottom first. */
export type OraGroup = {
  kind: "group";
  properties: OraProperties;
  inside: OraNode[];
  mask: Uint8Array | null;
};

export type OraNode = OraLayer | OraGroup;

/** What an OpenRaster file holds, bottom first. `notes` say what could not be kept. */
export type OraFile = {
  width: number;
  height: number;
  ppi: number;
  /** The sheet's own colour, where the file says which; else what is lowest is a layer. */
  ground: string | null;
  layers: OraNode[];
  notes: string[];
};

/** Groups lie in each other so deep at most. */
const MOST_DEPTH = 64;

/** Most characters that a layer's own properties may have. */
const MOST_CARRIED = 100_000;

const carriedSchema = layerProperties.partial().extend({ kind: z.enum(layerKinds).optional() });

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
  [CARRIED.layer]: z.string().max(MOST_CARRIED).optional().catch(undefined),
  [CARRIED.role]: z.enum(roles).optional().catch(undefined),
  [CARRIED.source]: z.string().optional(),
  [CARRIED.mask]: z.string().optional(),
  [CARRIED.ground]: hexColour.optional().catch(undefined),
  "@_isolation": z.enum(["auto", "isolate"]).catch("isolate"),
});
const imageSchema = z.object({
  "@_w": z.coerce.number().int().min(1),
  "@_h": z.coerce.number().int().min(1),
  "@_xres": numberText(300),
});

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
  const stackNodes = root ? childrenOf(root, "stack") : [];
  const { "@_w": width, "@_h": height, "@_xres": ppi } = size.data;
  return {
    width,
    height,
    ppi: ppi >= 1 && ppi <= 9600 ? ppi : 300,
    ground: groundOf(stackNodes),
    layers: gather(stackNodes, files, notes, 0),
    notes,
  };
}

/** The colour of the sheet, where the lowest layer stands for it. */
const groundOf = (nodes: readonly XmlNode[]): string | null =>
  attributes.parse(nodes.at(-1)?.[":@"] ?? {})[CARRIED.ground] ?? null;

const SOURCES = new Set(["@_src", CARRIED.source, CARRIED.mask]);

/** Names of all files that a stack's layers are in. */
function sourcesIn(node: unknown, depth = 0): string[] {
  if (typeof node !== "object" || node === null || depth > 8 * MOST_DEPTH) return [];
  if (Array.isArray(node)) return node.flatMap((one) => sourcesIn(one, depth + 1));
  return Object.entries(node).flatMap(([key, value]) =>
    SOURCES.has(key) && typeof value === "string" ? [value] : sourcesIn(value, depth + 1),
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
    const role = read[CARRIED.role];
    if (read[CARRIED.ground] || (role && isForOthers(role))) continue;
    const inside = (): OraNode[] => gather(childrenOf(node, "stack"), files, notes, depth + 1);
    // What only keeps layers together for other readers is opened again, the topmost first.
    if (role && "stack" in node) found.push(...inside().reverse());
    else if ("stack" in node) {
      const through = read["@_isolation"] === "auto";
      const properties = { through, ...propertiesOf(read, notes) };
      found.push({ kind: "group", properties, inside: inside(), mask: maskOf(read, files) });
    } else if ("layer" in node) {
      const layer = layerOf(read, files, notes);
      if (layer) found.push(layer);
    } else if ("text" in node) notes.push("A text layer could not be read.");
  }
  return found.reverse();
}

type Read = z.infer<typeof attributes>;

const nameOf = (read: Read): string => read["@_name"].slice(0, 120) || "Layer";

/** What a layer or a group says of itself: in OpenRaster's words, and in ours where it has them. */
function propertiesOf(read: Read, notes: string[]): OraProperties {
  const name = nameOf(read);
  const carried = carriedOf(read[CARRIED.layer], name, notes);
  return {
    name,
    opacity: Math.min(1, Math.max(0, read["@_opacity"])),
    visible: read["@_visibility"] === "visible",
    locked: read["@_edit-locked"] === "true",
    ...(carried ? { blend: "normal", clip: false } : blendOf(read["@_composite-op"], notes, name)),
    ...carried,
  };
}

function carriedOf(
  text: string | undefined,
  name: string,
  notes: string[],
): z.infer<typeof carriedSchema> | null {
  if (text === undefined) return null;
  const wrong = `What the file says of “${name}” for Pampas could not be read.`;
  try {
    const parsed = carriedSchema.safeParse(isTooDeep(text) ? null : JSON.parse(text));
    if (parsed.success) return parsed.data;
  } catch {
    // Said below.
  }
  notes.push(wrong);
  return null;
}

const maskOf = (read: Read, files: Record<string, Uint8Array>): Uint8Array | null =>
  files[read[CARRIED.mask] ?? ""] ?? null;

function layerOf(read: Read, files: Record<string, Uint8Array>, notes: string[]): OraLayer | null {
  const png = files[read[CARRIED.source] ?? ""] ?? files[read["@_src"] ?? ""];
  if (!png) {
    notes.push(`The pixels of “${nameOf(read)}” are not in the file.`);
    return null;
  }
  readPngHeader(png);
  const mask = maskOf(read, files);
  if (mask) readPngHeader(mask);
  const [x, y] = [Math.round(read["@_x"]), Math.round(read["@_y"])];
  return { kind: "layer", properties: propertiesOf(read, notes), x, y, png, mask };
}

/** What an element stands for: a fill or an adjustment says what it is made of, anything else is paint. */
function kindOf({ kind, properties: { kind: own, paint, tone } }: OraNode): LayerKind {
  if (kind === "group") return kind;
  if (own === "fill" && paint) return own;
  return own === "adjustment" && tone ? own : "paint";
}

/** Commands that give a layer its mask: a layer that lasts only so long says where it lets through. */
const maskCommands = (id: string, mask: Uint8Array, through: string): CommandInput[] => [
  { do: "layer.add", id: through, name: "Mask", above: id },
  { do: "place", layer: through, x: 0, y: 0, png: toBase64(mask) },
  { do: "mask.add", id, from: { kind: "layer", layer: through, by: "shape" } },
  { do: "layer.remove", id: through },
];

/** The commands that put what was read into a picture; `newId` names each layer. */
export function oraCommands(nodes: readonly OraNode[], newId: () => string): CommandInput[] {
  const commands: CommandInput[] = [];
  const put = (inside: readonly OraNode[], group: string | null, under: string | null): void => {
    let above = under;
    for (const node of inside) {
      const id = newId();
      const { name, kind: _, paint = null, tone = null, mask, ...others } = node.properties;
      const kind = kindOf(node);
      commands.push({ do: "layer.add", id, name, above, kind, group, paint, tone });
      if (node.kind === "group") put(node.inside, id, above);
      else if (kind === "paint")
        commands.push({ do: "place", layer: id, x: node.x, y: node.y, png: toBase64(node.png) });
      if (node.mask) commands.push(...maskCommands(id, node.mask, newId()));
      const set = node.mask && mask ? { ...others, mask } : others;
      commands.push({ do: "layer.set", id, ...set });
      above = id;
    }
  };
  put(nodes, null, null);
  return commands;
}

/** How many layers and groups there are, in groups too. */
export const countOra = (nodes: readonly OraNode[]): number =>
  nodes.reduce((sum, node) => sum + 1 + (node.kind === "group" ? countOra(node.inside) : 0), 0);
