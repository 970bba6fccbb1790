import { PDFDocument, PDFName, type PDFObject, type PDFRef } from "pdf-lib";
import { type Progress } from "../../compose/flatten";
import { type Engine } from "../../engine";
import { type Curve } from "../../lines/curve";
import { isClean } from "../../lines/drawable";
import { type Line } from "../../lines/line";
import { linesOf } from "../../lines/line-set";
import { findBrush } from "../../media";
import { outlineOf } from "../../lines/outline";
import { type Layer, Picture } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";
import { evenWidth } from "../svg/write";
import { PackedRows } from "./packed-rows";
import { greyProfile, srgbProfile } from "./profile";
import { bitsOf, channelsOf, type Rendering, writeTones } from "./tones";

const POINTS_AN_INCH = 72;
const MM_AN_INCH = 25.4;
/** Room around the sheet for crop marks, and their length and distance from the trim, mm. */
const MARKS = { room: 8, length: 5, gap: 2.5 };
/** Crop marks are a quarter point wide. */
const MARK_WIDTH = 0.25;
/** Longest side of a page by PDF 1.6. */
const MOST_POINTS = 14_400;
const PLACES = 4;

export type PdfChoice = {
  /** How much of the sheet is cut off on every side, mm. */
  bleed: number;
  /** Whether marks outside of the sheet show where it is cut. */
  marks: boolean;
  /** Whether clean lines on top of the stack go out as curves. */
  curves: boolean;
};

const number = (v: number): string => String(Number(v.toFixed(PLACES)));
const points = (mm: number): number => (mm / MM_AN_INCH) * POINTS_AN_INCH;

/**
 * Line layers on top of the stack whose lines are clean shapes, lowest first: they can lie over the rest as curves.
 * A layer with a look of its own, or one that is clipped, masked or blended, cannot, and none below it.
 */
export function curveLayers(picture: Picture, lines: (id: string) => readonly Line[]): Layer[] {
  const { brushes } = picture.structure;
  const seen = picture.structure.layers.filter(({ visible }) => visible);
  const found: Layer[] = [];
  for (const layer of seen.toReversed()) {
    const isPlain =
      layer.kind === "lines" &&
      layer.group === null &&
      layer.blend === "normal" &&
      layer.opacity === 1 &&
      !layer.clip &&
      !layer.mask?.on &&
      !layer.contour &&
      !layer.fringe &&
      !layer.halftone?.on &&
      !layer.tint;
    if (!isPlain) break;
    const clean = lines(layer.id).every(({ brush }) => {
      const known = brushes[brush] ?? findBrush(brush);
      return known !== undefined && isClean(known);
    });
    if (!clean) break;
    found.unshift(layer);
  }
  return found;
}

function path({ points: at }: Curve, isClosed: boolean): string {
  const parts = [`${number(at[0]!)} ${number(at[1]!)} m`];
  for (let i = 2; i + 5 < at.length; i += 6)
    parts.push(`${Array.from(at.slice(i, i + 6), number).join(" ")} c`);
  if (isClosed) parts.push("h");
  return parts.join("\n");
}

const inks = (hex: string): string =>
  [1, 3, 5].map((at) => number(parseInt(hex.slice(at, at + 2), 16) / 255)).join(" ");

/** A line as operators of a page: a stroke where its width is even, else its outline filled. */
function lineOperators(line: Line): string {
  const width = evenWidth(line);
  if (width !== null)
    return `${inks(line.colour)} RG ${number(width)} w\n${path(line.curve, line.closed)}\nS`;
  const loops = outlineOf(line).map((loop) => path(loop, true));
  return `${inks(line.colour)} rg\n${loops.join("\n")}\nf*`;
}

/** Marks at the four corners of what is left after cutting, outside of the sheet. */
function cropMarks(
  left: number,
  bottom: number,
  width: number,
  height: number,
  bleed: number,
): string {
  const near = Math.max(points(MARKS.gap), bleed + 1);
  const far = near + points(MARKS.length);
  const marks: string[] = [];
  for (const [x, dx] of [
    [left, -1],
    [left + width, 1],
  ] as const)
    for (const [y, dy] of [
      [bottom, -1],
      [bottom + height, 1],
    ] as const) {
      marks.push(
        `${number(x + dx * near)} ${number(y)} m ${number(x + dx * far)} ${number(y)} l S`,
      );
      marks.push(
        `${number(x)} ${number(y + dy * near)} m ${number(x)} ${number(y + dy * far)} l S`,
      );
    }
  return `q 0 G ${MARK_WIDTH} w\n${marks.join("\n")}\nQ`;
}

/** A picture without some of its layers; the planes are shared. */
function without(picture: Picture, gone: readonly Layer[]): Picture {
  const rest = new Picture(picture.header);
  const ids = new Set(gone.map(({ id }) => id));
  rest.structure = {
    ...picture.structure,
    layers: picture.structure.layers.filter(({ id }) => !ids.has(id)),
  };
  for (const [id, planes] of picture.planes) rest.planes.set(id, planes);
  return rest;
}

/**
 * A page for print as PDF 1.7: the pixels lossless at their own size, with profile; clean lines on top as curves;
 * trim and bleed told, crop marks where they are wanted. No date is in it: the same picture gives the same bytes.
 * @throws Refusal where the page would be larger than a PDF page may be, or nothing is left after the bleed
 */
export async function writePdf(
  engine: Engine,
  picture: Picture,
  title: string,
  rendering: Rendering,
  { bleed, marks, curves }: PdfChoice,
  progress: Progress = () => undefined,
): Promise<Uint8Array> {
  const { width, height, ppi } = picture;
  const scale = POINTS_AN_INCH / ppi;
  const room = marks ? points(MARKS.room + bleed) : 0;
  const [sheetWide, sheetHigh] = [width * scale, height * scale];
  const [wide, high] = [sheetWide + 2 * room, sheetHigh + 2 * room];
  if (Math.max(wide, high) > MOST_POINTS)
    throw new Refusal("A PDF page is at most 5 metres long. Raise the ppi of the picture");
  const cut = points(bleed);
  if (2 * cut >= Math.min(sheetWide, sheetHigh))
    throw new Refusal(`A bleed of ${bleed} mm leaves nothing of the sheet`);
  const lines = (id: string): readonly Line[] => linesOf(engine.store, picture, id).lines;
  const isColour = rendering.tones === "colour";
  const above = curves && isColour ? curveLayers(picture, lines) : [];

  const doc = await PDFDocument.create({ updateMetadata: false });
  doc.setTitle(title);
  doc.setProducer("Pampas");
  const { context } = doc;
  const register = (object: PDFObject): PDFRef => context.register(object);
  const profile = register(
    context.flateStream(isColour ? srgbProfile() : greyProfile(), { N: isColour ? 3 : 1 }),
  );
  const packed: Uint8Array[] = [];
  const solid = { ...rendering, ground: true };
  const [channels, bits] = [channelsOf(solid), bitsOf(solid)];
  const rows = new PackedRows(width, height, channels, bits, (part) => packed.push(part));
  writeTones(engine, without(picture, above), solid, (row) => rows.row(row), progress);
  rows.refuseMissing();
  const bytes = new Uint8Array(packed.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of packed) {
    bytes.set(part, at);
    at += part.length;
  }
  const image = register(
    context.stream(bytes, {
      Type: "XObject",
      Subtype: "Image",
      Width: width,
      Height: height,
      BitsPerComponent: bits,
      ColorSpace: bits === 1 ? "DeviceGray" : context.obj(["ICCBased", profile]),
      Filter: "FlateDecode",
      DecodeParms: { Predictor: 15, Colors: channels, BitsPerComponent: bits, Columns: width },
    }),
  );
  const page = doc.addPage([wide, high]);
  page.node.setXObject(PDFName.of("Sheet"), image);
  page.setBleedBox(room, room, sheetWide, sheetHigh);
  page.setTrimBox(room + cut, room + cut, sheetWide - 2 * cut, sheetHigh - 2 * cut);
  const parts = [
    `q ${number(sheetWide)} 0 0 ${number(sheetHigh)} ${number(room)} ${number(room)} cm /Sheet Do Q`,
  ];
  if (above.length > 0) {
    // From here on a unit is a px of the picture, down is down; nothing leaves the sheet.
    parts.push(
      `q ${number(room)} ${number(room)} ${number(sheetWide)} ${number(sheetHigh)} re W n`,
      `${scale} 0 0 ${-scale} ${number(room)} ${number(room + sheetHigh)} cm 1 J 1 j`,
    );
    const opacities = new Set<number>();
    for (const layer of above)
      for (const line of lines(layer.id)) {
        const opacity = Math.round(line.strength * 1000);
        opacities.add(opacity);
        parts.push(`/O${opacity} gs\n${lineOperators(line)}`);
      }
    for (const opacity of opacities)
      page.node.setExtGState(
        PDFName.of(`O${opacity}`),
        context.obj({ CA: opacity / 1000, ca: opacity / 1000 }),
      );
    parts.push("Q");
  }
  if (marks)
    parts.push(cropMarks(room + cut, room + cut, sheetWide - 2 * cut, sheetHigh - 2 * cut, cut));
  page.node.set(PDFName.of("Contents"), register(context.flateStream(parts.join("\n"))));
  return doc.save({ useObjectStreams: false });
}
