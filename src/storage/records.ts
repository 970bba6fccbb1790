import { fringeSchema } from "../engine/fringe/fringe";
import { halftoneSchema } from "../engine/halftone/halftone";
import { z } from "zod";
import { headerSchema } from "../engine/picture/header";
import { layerToneSchema } from "../engine/adjust/adjustment";
import { paintSchema } from "../engine/gradient/gradient";
import {
  contourSchema,
  reliefSchema,
  sheetSchema,
  USUAL_RELIEF,
  layerId,
  layerKinds,
  layerName,
  layerProperties,
  maskSchema,
  tabs,
} from "../engine/picture/picture";
import { laysSchema } from "../engine/compose/blend-modes";
import { hexColour } from "../engine/colour/srgb";
import { wellsSchema } from "../engine/colour/wells";
import { tubesAtHandSchema } from "../engine/pigment/tubes-at-hand";
import { guidesSchema } from "../engine/guides/guide";
import { paperSchema } from "../engine/paper/paper";
import { panelsSchema } from "../engine/panels/panels";
import { stencilsSchema } from "../engine/stencil/stencil";
import { studiesSchema } from "../engine/studies/studies";
import { sunPinSchema } from "../engine/sun/sun-pin";
import { MOST_OWN_SETS, ownSetSchema } from "../engine/strew/strew";
import { passSchema, sceneSchema } from "../engine/scene/scene";
import { dissolvingSchema, tiltSchema, washSchema } from "../engine/water/wash-state";
import { keptExportSchema, MOST_KEPT_EXPORTS } from "./kept-exports";
import { firstPen, penSettings } from "./pen-settings";
import { brushSchema, LEAST_SIZE, MOST_SIZE } from "../engine/stroke/brush";

const bytes = z.custom<Uint8Array>((value) => value instanceof Uint8Array, "expected bytes");

/**
 * Shape of the records of a picture. 2: its tiles agree with its log; in 1 they may lack strokes
 * and are painted again from the log once.
 */
export const SCHEMA = 2;

/** Which shape a record has, and what beyond it a reader must know. */
const versioned = {
  schema: z.int().min(1).max(SCHEMA),
  needs: z.array(z.never()),
};

const versions = z.object({
  schema: z.number().optional(),
  needs: z.array(z.string()).optional(),
});

/** Says so where a record was made by a newer version of Pampas. */
export function newerThanThis(value: unknown): string | null {
  const parsed = versions.safeParse(value);
  if (!parsed.success) return null;
  const { schema = 1, needs = [] } = parsed.data;
  if (schema <= SCHEMA && needs.length === 0) return null;
  return `made by a newer version of Pampas, shape ${[schema, ...needs].join(", ")}`;
}

/** A picture as the Portfolio shows it. */
export const pictureRecord = z.strictObject({
  schema: versioned.schema.optional(),
  needs: versioned.needs.optional(),
  id: z.string().min(1).max(64),
  title: z.string().max(200),
  width: z.int().positive(),
  height: z.int().positive(),
  ppi: z.number().positive(),
  created: z.number(),
  touched: z.number(),
  /** Bytes of its kept tiles and log. */
  bytes: z.number().min(0),
  /** PNG. */
  thumbnail: bytes.nullable(),
  /** When it was thrown away; null while it is on the shelf. */
  thrownAway: z.number().nullable(),
  sample: z.string().nullable(),
});
export type PictureRecord = z.infer<typeof pictureRecord>;

/** A layer as it is kept; what older records do not know is as it was when there was no such thing. */
const layerRecord = layerProperties
  .extend({
    id: layerId,
    kind: z.enum(layerKinds).default("paint"),
    group: layerId.nullable().default(null),
    tint: hexColour.nullable().default(null),
    lines: z.boolean().default(false),
    through: z.boolean().default(false),
    mask: maskSchema.nullable().default(null),
    contour: contourSchema.nullable().default(null),
    relief: reliefSchema.default(USUAL_RELIEF),
    dryAfter: layerProperties.shape.dryAfter.default(null),
    tab: z.enum(tabs).nullable().default(null),
    paint: paintSchema.nullable().default(null),
    tone: layerToneSchema.nullable().default(null),
    wash: washSchema.optional(),
    dissolves: dissolvingSchema.optional(),
    halftone: halftoneSchema.nullable().optional(),
    fringe: fringeSchema.nullable().optional(),
    pass: passSchema.optional(),
  })
  .strict();
export const structureRecord = z.strictObject({
  layers: z.array(layerRecord).max(500),
  ground: hexColour,
  paper: paperSchema,
  brushes: z.record(z.string(), brushSchema).default({}),
  guides: guidesSchema.default([]),
  sun: sunPinSchema.nullable().default(null),
  studies: studiesSchema.nullable().default(null),
  selection: z.boolean().default(false),
  stencils: stencilsSchema.default([]),
  wells: wellsSchema.default([]),
  tubes: tubesAtHandSchema.default(null),
  tilt: tiltSchema.optional(),
  sheet: sheetSchema.optional(),
  scene: sceneSchema.optional(),
  strewn: z.array(ownSetSchema).max(MOST_OWN_SETS).optional(),
  panels: panelsSchema.optional(),
  kept: z.array(z.strictObject({ id: layerId, name: layerName })).default([]),
});

export type StructureRecord = z.infer<typeof structureRecord>;

/** Where a picture's work stands. `place` commands of `count` logged ones are in force. */
export const headRecord = z.strictObject({
  schema: versioned.schema.default(1),
  needs: versioned.needs.default([]),
  id: z.string(),
  /** How many of the first commands are no longer in store: only a checkpoint holds their work. */
  lost: z.int().min(0).default(0),
  header: headerSchema,
  place: z.int().min(0),
  count: z.int().min(0),
  /**
   * The tiles in store are those after `place` commands. Where the log has turned back since, and gone on from
   * there, `back` is how far: the commands beyond it are those of a work that is gone.
   */
  checkpoint: z
    .strictObject({
      place: z.int().min(0),
      structure: structureRecord,
      back: z.int().min(0).optional(),
    })
    .nullable(),
});
export type HeadRecord = z.infer<typeof headRecord>;

/** A reference beside a picture: its own picture as PNG, where it lies on the table and how it is seen. */
export const pinRecord = z.strictObject({
  id: z.string().min(1),
  picture: z.string().min(1),
  name: z.string().max(200),
  png: bytes,
  width: z.int().min(1).max(16384),
  height: z.int().min(1).max(16384),
  /** Upper left corner and width on the table, CSS px. */
  x: z.number(),
  y: z.number(),
  across: z.number().min(40).max(4000),
  /** How many times larger than its frame it is seen, and which part is in the middle, 0…1. */
  zoom: z.number().min(1).max(32),
  middleX: z.number().min(0).max(1),
  middleY: z.number().min(0).max(1),
  mirrored: z.boolean(),
  grey: z.boolean(),
  made: z.number(),
});
export type PinRecord = z.infer<typeof pinRecord>;

/** A tile at rest: filtered and deflated, or one colour. */
export const tileRecord = z.union([
  bytes,
  z.tuple([
    z.int().min(0).max(32767),
    z.int().min(0).max(32767),
    z.int().min(0).max(32767),
    z.int().min(0).max(32767),
  ]),
]);
export type TileRecord = z.infer<typeof tileRecord>;

/** What was there before a command of the log. */
export const stepRecord = z.strictObject({
  label: z.string().max(400),
  silent: z.boolean(),
  follows: z.boolean(),
  /** Null: the command did not change it. */
  structure: structureRecord.nullable(),
  /** Tiles that it exchanged, in order, as they were. */
  swaps: z.array(
    z.strictObject({
      layer: z.string().min(1),
      plane: z.string().min(1),
      key: z.int(),
      before: tileRecord.nullable(),
    }),
  ),
});
export type StepRecord = z.infer<typeof stepRecord>;

/** A brush of one's own: as it is, and as it was when it was first kept. */
export const ownBrushRecord = z.strictObject({
  id: z.string().min(1).max(64),
  brush: brushSchema,
  first: brushSchema,
  made: z.number(),
  thrownAway: z.number().nullable(),
});
export type OwnBrush = z.infer<typeof ownBrushRecord>;

/** Something that an earlier version could not read and moved away, as it was found. */
export type AsideRecord = {
  when: number;
  store: string;
  key: unknown;
  why: string;
  value: unknown;
};

/** Brushes whose size and strength are kept at most. */
export const MOST_AMOUNTS = 200;

/** What was in the hand: brush, colours, and how large and strong each brush was set. */
const handRecord = z.object({
  brush: z.string().max(64),
  lastBrush: z.string().max(64),
  steady: z.number().min(0).max(1),
  colour: hexColour,
  second: hexColour,
  stage: z.string().max(24),
  kit: z.string().max(80),
  takes: z.enum(["layer", "below"]),
  keepsPaint: z.boolean().default(false),
  shine: z.boolean().default(true),
  slabShown: z.boolean().default(false),
  slabWidth: z.number().min(1).max(4000).default(340),
  amounts: z.record(
    z.string().max(64),
    z.object({
      size: z.number().min(LEAST_SIZE).max(MOST_SIZE),
      strength: z.number().min(0).max(1),
      lays: laysSchema,
      thinner: z.number().min(0).max(1).default(0),
      water: z.number().min(0).max(4).default(1),
    }),
  ),
});
export type KeptHand = z.infer<typeof handRecord>;

export const settingsRecord = z.object({
  room: z.enum(["day", "studio", "night"]).catch("studio"),
  standInPen: z.boolean().catch(false),
  /** How pen and hands are felt. */
  pen: penSettings.catch(firstPen),
  /** Whether a pen that rests where it was set down picks the colour there. */
  restPicks: z.boolean().catch(false),
  recent: z.array(hexColour).max(24).catch([]),
  /** Keys that the person has changed: action → place on the keyboard. */
  keys: z.record(z.string().max(40), z.string().max(24)).catch({}),
  /** Brushes on the shelf that is held under the pen. */
  favourites: z.array(z.string().max(64)).max(24).catch([]),
  /** Wells that are at hand in every picture. */
  wells: wellsSchema.catch([]),
  samplesMade: z.boolean().catch(false),
  /** When everything was last copied into a file; null: never. */
  copied: z.number().nullable().catch(null),
  /** After how many days a copy is asked for; 0: never. */
  remindAfter: z.int().min(0).max(365).catch(14),
  /** Until when no copy is asked for. */
  remindLater: z.number().catch(0),
  /** Media that a first word was said about, and the first steps, where they were taken. */
  advised: z.array(z.string().max(80)).max(64).catch([]),
  /** Exports kept by name, to be run at once. */
  exports: z
    .array(keptExportSchema.nullable().catch(null))
    .max(MOST_KEPT_EXPORTS)
    .catch([])
    .transform((list) => list.filter((one) => one !== null)),
  /** Lines that pictures are signed with (`engine/lines/signature.ts`); null: none is kept. */
  signature: z.string().max(1_000_000).nullable().catch(null),
  /** The hand as it was left; null: as a new one. */
  hand: handRecord.nullable().catch(null),
});
export type Settings = z.infer<typeof settingsRecord>;
export const defaultSettings: Settings = settingsRecord.parse({});
