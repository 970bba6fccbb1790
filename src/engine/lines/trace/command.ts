import { z } from "zod";
import { rgbToHex } from "../../colour/oklch";
import { type Applying } from "../../command/command";
import { defineCommand } from "../../command/define";
import { putLayer } from "../../command/layers";
import { layerId, layerName, newId, newLayer } from "../../picture/picture";
import { Refusal } from "../../picture/refusal";
import { type Curve, pointOn } from "../curve";
import { changeLines } from "../draw-lines";
import { type Line, MOST_LINES } from "../line";
import { inkOf, Paint } from "./ink";
import { Tracer } from "./trace";

/** A brush whose line is one clean shape. */
const BRUSH = "pen-even";
/** Places of a curve's piece where its colour is looked at. */
const LOOKS = 9;
/** Ways that are read between two looks at how far it has come. */
const AT_A_TIME = 64;

export const traceSchema = z.strictObject({
  do: z.literal("line.trace"),
  /** The layer of paint that is read; it stays as it is. */
  layer: layerId,
  /** The line layer that is made above it. */
  id: newId,
  name: layerName,
});

/** The colour that the ink along a curve has mostly: the middle one of each channel, so that what crosses it does not stain it. */
function colourAlong(paint: Paint, curve: Curve): string {
  const found: [number[], number[], number[]] = [[], [], []];
  for (let piece = 0; piece + 1 < curve.material.length; piece++)
    for (let n = 0; n < LOOKS; n++) {
      const [x, y] = pointOn(curve, { piece, t: (n + 0.5) / LOOKS });
      if (x < 0 || y < 0 || x >= paint.picture.width || y >= paint.picture.height) continue;
      const [r, g, b, a] = paint.pixel(Math.floor(x), Math.floor(y));
      if (a > 0) [r, g, b].forEach((v, c) => found[c]?.push(v / a));
    }
  const [r, g, b] = found.map((all) => all.sort((one, other) => one - other)[all.length >> 1] ?? 0);
  return rgbToHex([r ?? 0, g ?? 0, b ?? 0]);
}

/**
 * Reads the ink of a layer of paint as lines on a layer of their own above it: the middle of each mark, its width along
 * it and its colour; lines that cross stay whole.
 * @throws Refusal where nothing on it is a line
 */
function trace(applying: Applying, { layer, id, name }: z.infer<typeof traceSchema>): string {
  const { picture, bench } = applying;
  const source = picture.layer(layer);
  if (source.kind !== "paint")
    throw new Refusal(
      `“${source.name}” holds no paint. Choose a layer of paint to turn into lines.`,
    );
  const paint = new Paint(bench.store, picture, picture.plane(layer));
  applying.tell("Reading lines", 0.05);
  const tracer = new Tracer(inkOf(bench.store, picture, paint));
  const { ways } = tracer;
  const style = { brush: BRUSH, size: 1, strength: 1, second: "#000000", seed: 1 };
  const put: Line[] = [];
  ways.forEach((way, i) => {
    if (i % AT_A_TIME === 0) applying.tell("Reading lines", 0.4 + (0.4 * i) / ways.length);
    const names = { id: put.length + 1, z: put.length + 1 };
    const line = tracer.line(way, { ...style, colour: "#000000" }, names);
    if (line) put.push({ ...line, colour: colourAlong(paint, line.curve) });
  });
  if (put.length === 0)
    throw new Refusal(
      `Nothing on “${source.name}” could be read as a line. Draw with a firm brush first.`,
    );
  if (put.length > MOST_LINES)
    throw new Refusal(
      `There are ${put.length} marks on “${source.name}”, and a line layer holds ${MOST_LINES}. Select a part of it.`,
    );
  const made = { ...newLayer(id, name), kind: "lines" as const, group: source.group };
  putLayer(applying, made, picture.indexOf(layer) + 1);
  changeLines(applying, id, { gone: [], put });
  return "turn paint into lines";
}

export const traceCommand = defineCommand({ schema: traceSchema, apply: trace });
