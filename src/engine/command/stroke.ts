import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { brushOf } from "../media";
import { COLOUR, layerId, MASK, type Picture, SELECTION } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { sampleSchema } from "../stroke/sample";
import { Stroke, type StrokeStart } from "../stroke/stroke";
import { type Applying } from "./command";

export const MOST_SAMPLES = 200_000;

/** What a stroke is before the pen has moved: the part that a live stroke begins with. */
export const strokeStartSchema = z.strictObject({
  do: z.literal("stroke"),
  layer: layerId,
  /** Whether the layer's colour is painted on, or its mask. */
  on: z.enum(["colour", "mask"]).default("colour"),
  brush: z.string().max(64),
  mode: z.enum(["paint", "lift", "blend"]).default("paint"),
  size: z.number().min(0.5).max(2000),
  strength: z.number().min(0).max(1).optional(),
  colour: hexColour.default("#000000"),
  /** Taken by the light part of tips in two tones, and by colours that stray toward it. */
  second: hexColour.default("#ffffff"),
  seed: z.int().min(0).max(0xffffffff).default(0),
  /** 0 as the hand goes … 1 held by a long string. */
  steady: z.number().min(0).max(1).default(0),
  /** Picture px a screen px when it was drawn. */
  scale: z.number().min(0.001).max(1000).default(1),
  /** What Blend takes up: the layer's own paint, or what is seen of it and all below. */
  takes: z.enum(["layer", "below"]).default("layer"),
});

export const strokeSchema = strokeStartSchema
  .extend({ samples: z.array(sampleSchema).min(1).max(MOST_SAMPLES) })
  .strict();

export type StrokeStartCommand = z.infer<typeof strokeStartSchema>;
export type StrokeCommand = z.infer<typeof strokeSchema>;

/**
 * The engine's form of a stroke's beginning.
 * @throws Refusal where the brush is unknown
 */
export function strokeStart(picture: Picture, command: StrokeStartCommand): StrokeStart {
  const brush = brushOf(picture, command.brush);
  if (!brush) throw new Refusal(`there is no brush "${command.brush}"`);
  const { layer, on, mode, size, colour, second, seed, steady, scale, takes } = command;
  const isMask = layer === SELECTION || on === "mask";
  return {
    layer,
    plane: on === "mask" ? MASK : COLOUR,
    brush,
    mode,
    size,
    strength: command.strength ?? brush.strength,
    // A mask is alpha alone.
    colour: isMask ? "#000000" : colour,
    second: isMask ? "#000000" : second,
    seed,
    steady,
    scale,
    takes,
  };
}

const modeLabels = { paint: "paint", lift: "lift", blend: "blend" } as const;

export const strokeLabel = (command: StrokeStartCommand): string => modeLabels[command.mode];

/** Draws a whole stroke. */
export function applyStroke(applying: Applying, command: StrokeCommand): string {
  const stroke = new Stroke(
    applying.bench,
    applying.picture,
    strokeStart(applying.picture, command),
  );
  stroke.extend(command.samples);
  finishStroke(applying, stroke);
  return strokeLabel(command);
}

/** Ends a stroke and notes the tiles that it changed. */
export function finishStroke(applying: Applying, stroke: Stroke): void {
  const { picture, bench } = applying;
  const { layer, plane: name } = stroke.start;
  const tiles = stroke.end();
  // Who paints on the selection wants one.
  if (layer === SELECTION && !picture.structure.selection)
    applying.setStructure({ ...picture.structure, selection: true });
  // The stroke wrote in place; put its tiles back in through the door that remembers.
  for (const { key, before, after } of tiles) {
    const plane = picture.plane(layer, name);
    if (before) plane.set(key, before);
    else plane.delete(key);
    applying.swap(
      layer,
      key,
      bench.store.isEmpty(after) ? (bench.store.release(after), null) : after,
      name,
    );
  }
}
