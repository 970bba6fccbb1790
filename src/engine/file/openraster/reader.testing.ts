import { strFromU8, unzipSync } from "fflate";
import { XMLParser } from "fast-xml-parser";
import { decode } from "fast-png";
import { type BlendMode } from "../../compose/blend-modes";
import { blended, type Rgb } from "../../compose/reference.testing";

/**
 * An independent reader of OpenRaster: it knows the standard's own attributes alone and lays
 * layers on each other by the formulas of W3C Compositing and Blending Level 1, in plain numbers.
 */

type Node = Record<string, unknown> & { ":@"?: Record<string, string> };

/** Premultiplied RGBA, 0…1. */
type Sheet = Float64Array;

const modes: Record<string, BlendMode> = { "svg:src-over": "normal", "svg:plus": "add" };
const modeOf = (op: string): BlendMode => modes[op] ?? (op.replace("svg:", "") as BlendMode);

/** One pixel on another by W3C §§ 5, 9; `at` is a pixel's first number. */
function lay(on: Sheet, source: Sheet, at: number, opacity: number, op: string): void {
  const as = (source[at + 3] as number) * opacity;
  const ab = on[at + 3] as number;
  if (op === "svg:dst-in") {
    for (let c = 0; c < 4; c++) on[at + c] = (on[at + c] as number) * as;
    return;
  }
  if (as === 0) return;
  const straight = (of: Sheet, alpha: number): Rgb =>
    [0, 1, 2].map((c) => (alpha === 0 ? 0 : (of[at + c] as number) / alpha)) as Rgb;
  const cs = straight(source, source[at + 3] as number);
  if (op === "svg:src-atop") {
    for (let c = 0; c < 3; c++)
      on[at + c] = as * ab * (cs[c] as number) + (on[at + c] as number) * (1 - as);
    return;
  }
  const mixed = blended[modeOf(op)](straight(on, ab), cs);
  for (let c = 0; c < 3; c++)
    on[at + c] =
      as * (1 - ab) * (cs[c] as number) +
      as * ab * (mixed[c] as number) +
      (1 - as) * (on[at + c] as number);
  on[at + 3] = as + ab * (1 - as);
}

/** The picture that a file's own layers make, 8 bits straight RGBA. */
export function composedByOthers(bytes: Uint8Array): Uint8Array {
  const files = unzipSync(bytes);
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: "",
    preserveOrder: true,
  });
  const xml = parser.parse(strFromU8(files["stack.xml"] as Uint8Array)) as Node[];
  const image = xml.find((node) => "image" in node) as Node;
  const { w, h } = image[":@"] as { w: string; h: string };
  const pixels = Number(w) * Number(h);

  const pictureOf = (src: string): Sheet => {
    const { data, width, height } = decode(files[src] as Uint8Array);
    if (width !== Number(w) || height !== Number(h)) throw new Error(`${src} is no whole sheet`);
    const sheet = new Float64Array(pixels * 4);
    for (let i = 0; i < pixels; i++) {
      const alpha = (data[i * 4 + 3] as number) / 255;
      for (let c = 0; c < 3; c++) sheet[i * 4 + c] = ((data[i * 4 + c] as number) / 255) * alpha;
      sheet[i * 4 + 3] = alpha;
    }
    return sheet;
  };

  const layAll = (on: Sheet, nodes: readonly Node[]): void => {
    for (const node of nodes.toReversed()) {
      const said = node[":@"] ?? {};
      if (said.visibility === "hidden") continue;
      const opacity = Number(said.opacity ?? 1);
      const op = said["composite-op"] ?? "svg:src-over";
      const inside = node.stack as Node[] | undefined;
      if (inside && said.isolation === "auto" && opacity === 1 && op === "svg:src-over") {
        layAll(on, inside);
        continue;
      }
      const own = inside ? new Float64Array(pixels * 4) : pictureOf(said.src as string);
      if (inside) layAll(own, inside);
      for (let i = 0; i < pixels; i++) lay(on, own, i * 4, opacity, op);
    }
  };

  const sheet = new Float64Array(pixels * 4);
  const root = (image.image as Node[]).find((node) => "stack" in node) as Node;
  layAll(sheet, root.stack as Node[]);
  const out = new Uint8Array(pixels * 4);
  for (let i = 0; i < pixels; i++) {
    const alpha = sheet[i * 4 + 3] as number;
    for (let c = 0; c < 3; c++)
      out[i * 4 + c] = alpha === 0 ? 0 : Math.round(((sheet[i * 4 + c] as number) / alpha) * 255);
    out[i * 4 + 3] = Math.round(alpha * 255);
  }
  return out;
}

/** The share of pixels that are no more than `by` (of 255) apart in any channel. */
export function shareWithin(one: Uint8Array, other: Uint8Array, by: number): number {
  let near = 0;
  for (let i = 0; i < one.length; i += 4) {
    let apart = 0;
    for (let c = i; c < i + 4; c++)
      apart = Math.max(apart, Math.abs((one[c] as number) - (other[c] as number)));
    if (apart <= by) near++;
  }
  return near / (one.length / 4);
}
