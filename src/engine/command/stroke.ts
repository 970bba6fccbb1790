import { defineCommand } from "./define";
import { z } from "zod";
import { laysSchema } from "../compose/blend-modes";
import { hexColour } from "../colour/srgb";
import { brushOf } from "../media";
import { carriedSchema } from "../oil/carried";
import { WET_PLANES } from "../oil/wet-planes";
import { WASH_PLANES } from "../water/wash-planes";
import {
  COLOUR,
  isOnFluid,
  type Layer,
  layerId,
  MASK,
  type Picture,
  SELECTION,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { cardSchema, laidCard } from "../select/card";
import { type Sample, sampleSchema } from "../stroke/sample";
import { dissolvingAfter, laysSoluble, withSoluble } from "../water/dissolving";
import { dryOf, LEAST_SIZE, modeOf, MOST_SIZE } from "../stroke/brush";
import { beginStroke } from "../stroke/begin";
import { type Stroker, type StrokeStart, type StrokeTile } from "../stroke/stroker";
import { strewSchema } from "../strew/strew";
import { MOST_FRAMES } from "../studies/studies";
import { SLAB } from "../slab/slab";
import { type Box } from "../tiles/layout";
import { type Applying } from "./command";

export const MOST_SAMPLES = 200_000;

/**
 * What a stroke is before the pen has moved: the part that a live stroke begins with. It is drawn on a layer, on
 * the selection, or on the slab.
 */
export const strokeStartSchema = z.strictObject({
  do: z.literal("stroke"),
  layer: layerId,
  /** Whether the layer's colour is painted on, or its mask. */
  on: z.enum(["colour", "mask"]).default("colour"),
  brush: z.string().max(64),
  mode: z.enum(["paint", "lift", "blend"]).default("paint"),
  size: z.number().min(LEAST_SIZE).max(MOST_SIZE),
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
  /** How paint lies on what is there; left out, as the brush says. */
  lays: laysSchema.optional(),
  /** What is on a brush for oil as it comes down, where it was not loaded afresh. */
  carried: carriedSchema.optional(),
  /** The share of thinner in oil that it lays; thinned paint runs when time passes. */
  thinner: z.number().min(0).max(1).optional(),
  /** How much water a brush for washes holds, beside what is usual for it. */
  water: z.number().min(0).max(4).optional(),
  /** The study whose frame it may not leave, from 0; left out: it goes where it goes. */
  frame: z
    .int()
    .min(0)
    .max(MOST_FRAMES - 1)
    .optional(),
  /** A card in the other hand, whose edge holds it back. */
  card: cardSchema.optional(),
  /** On a layer of strewn pieces: how they are strewn. */
  strew: strewSchema.optional(),
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
  const { layer, on, size, colour, second, seed, steady, scale, takes } = command;
  const mode = modeOf(brush, command.mode);
  const isMask = layer === SELECTION || on === "mask" || isOnFluid(picture, layer);
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
    thinner: mode === "paint" ? (command.thinner ?? 0) : 0,
    water: command.water ?? 1,
    carried: mode === "paint" ? (command.carried ?? null) : null,
    // A mask is alpha alone, and only paint is blended.
    frame: command.frame === undefined ? null : frameOf(picture, command.frame),
    card: command.card ? laidCard(command.card) : null,
    strew: mode === "paint" && !isMask ? (command.strew ?? null) : null,
    lays: isMask || mode !== "paint" ? "normal" : (command.lays ?? brush.lays),
  };
}

function frameOf(picture: Picture, index: number): Box {
  const frame = picture.structure.studies?.frames[index];
  if (!frame) throw new Refusal(`there is no study ${index + 1} on this sheet`);
  return frame;
}

const modeLabels = { paint: "paint", lift: "lift", blend: "blend" } as const;

export const strokeLabel = ({ layer, mode, strew }: StrokeStartCommand): string => {
  if (layer === SLAB) return "mix on the slab";
  return strew && mode === "paint" ? "strew" : modeLabels[mode];
};

/** Draws a whole stroke. */
export function applyStroke(applying: Applying, command: StrokeCommand): string {
  const { bench, picture } = applying;
  const stroke = beginStroke(bench, picture, strokeStart(picture, command), false);
  stroke.extend(command.samples);
  finishStroke(applying, stroke);
  return strokeLabel(command);
}

/** Ends a stroke and notes the tiles that it changed. */
export function finishStroke(applying: Applying, stroke: Stroker): void {
  const { picture } = applying;
  const { layer, brush } = stroke.start;
  const ended = stroke.end();
  const isSoluble = laysSoluble(picture, stroke.start) && ended.length > 0;
  // A dry tip notes it as it lays.
  const tiles =
    isSoluble && !dryOf(brush) ? withSoluble(applying.bench, picture, stroke.start, ended) : ended;
  // Who paints on the selection wants one.
  if (layer === SELECTION && !picture.structure.selection)
    applying.setStructure({ ...picture.structure, selection: true });
  putTiles(applying, layer, tiles);
  if (stroke.changes) changeLayer(applying, layer, stroke.changes);
  if (isSoluble)
    changeLayer(applying, layer, { dissolves: dissolvingAfter(picture, stroke.start) });
  const { laying } = brush;
  if (laying.kind === "bristles" && laying.dries && layer !== SLAB) applying.dry(layer);
}

/** Changes what a layer is, apart from its pixels. */
export function changeLayer(applying: Applying, id: string, changes: Partial<Layer>): void {
  const { structure } = applying.picture;
  const layers = structure.layers.map((layer) =>
    layer.id === id ? { ...layer, ...changes } : layer,
  );
  applying.setStructure({ ...structure, layers });
}

/** Puts in place through the door that remembers what was written in place. */
export function putTiles(applying: Applying, layer: string, tiles: readonly StrokeTile[]): void {
  const { picture, bench } = applying;
  for (const { plane: name, key, before } of tiles) {
    const plane = picture.plane(layer, name);
    if (before) plane.set(key, before);
    else plane.delete(key);
  }
  const isOil = tiles.some(({ plane }) => WET_PLANES.includes(plane));
  const isWash = tiles.some(({ plane }) => WASH_PLANES.includes(plane));
  const put = (): void => {
    for (const { plane, key, after } of tiles) {
      const isEmpty = bench.store.isEmpty(after);
      if (isEmpty) bench.store.release(after);
      applying.swap(layer, key, isEmpty ? null : after, plane);
    }
  };
  if (isOil) applying.keepingWet("oil", put);
  else if (isWash) applying.keepingWet("wash", put);
  else put();
}

/** The slab stays as large as it is, whatever the sheet. */
const scaledStroke = (command: StrokeCommand, by: number): StrokeCommand =>
  command.layer === SLAB
    ? command
    : {
        ...command,
        size: Math.min(MOST_SIZE, Math.max(LEAST_SIZE, command.size * by)),
        scale: command.scale * by,
        ...(command.card && {
          card: { ...command.card, x: command.card.x * by, y: command.card.y * by },
        }),
        ...(command.strew?.depth && {
          strew: {
            ...command.strew,
            depth: { ...command.strew.depth, horizon: command.strew.depth.horizon * by },
          },
        }),
        samples: command.samples.map(([t, x, y, ...rest]): Sample => [t, x * by, y * by, ...rest]),
      };

export const strokeCommand = defineCommand({
  schema: strokeSchema,
  apply: applyStroke,
  scaled: scaledStroke,
});
