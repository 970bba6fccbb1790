import { z } from "zod";
import { layerToneSchema } from "../adjust/adjustment";
import { blendSchema } from "../compose/blend-modes";
import { type Paper } from "../paper/paper";
import { hexColour } from "../colour/srgb";
import { type Wells } from "../colour/wells";
import { paintSchema } from "../gradient/gradient";
import { type Guide } from "../guides/guide";
import { fringeSchema } from "../fringe/fringe";
import { halftoneSchema } from "../halftone/halftone";
import { type Panels } from "../panels/panels";
import { type Pass, type Scene } from "../scene/scene";
import { type Stencil } from "../stencil/stencil";
import { type Brush } from "../stroke/brush";
import { type OwnSet } from "../strew/strew";
import { type Studies } from "../studies/studies";
import { type SunPin } from "../sun/sun-pin";
import { type Tilt, type Wash, type WashPaint } from "../water/wash-state";
import { type Tile } from "../tiles/tile-store";
import { type Header } from "./header";
import { Refusal } from "./refusal";
import { MOST_SIDE } from "./size";

export const layerId = z.string().min(1).max(64);
/** Of something new: names in brackets are those of the selection and of stencils. */
export const newId = layerId.refine((id) => !id.startsWith("("), {
  message: "an id does not begin with a bracket",
});
export const layerName = z.string().min(1).max(120);
export const MOST_LAYERS = 500;
/** Widest outline, px. */
export const MOST_CONTOUR = 64;

/** Marks of colour by which layers are found again. */
export const tabs = ["rust", "ochre", "moss", "teal", "slate", "plum"] as const;
export type Tab = (typeof tabs)[number];

/** What a layer holds: paint, other layers, one colour or a gradient, a change of what lies below, lines, or strewn pieces. */
export const layerKinds = ["paint", "group", "fill", "adjustment", "lines", "strewn"] as const;
export type LayerKind = (typeof layerKinds)[number];

/** Kinds that have pixels of their own, drawn by hand or from what they hold. */
const WITH_PIXELS = ["paint", "lines", "strewn"] as const;
export type PixelKind = (typeof WITH_PIXELS)[number];
export const hasPixels = (kind: LayerKind): kind is PixelKind =>
  (WITH_PIXELS as readonly LayerKind[]).includes(kind);

export const contourSchema = z.strictObject({
  width: z.number().min(0.5).max(MOST_CONTOUR),
  colour: hexColour,
});

/** Longest that paint may be told to take before it dries by itself: a day. */
const MOST_MINUTES = 1440;

/** How paint that stands up looks in the light: how deep its relief seems, and how much it shines, 0…1. */
export const reliefSchema = z.strictObject({
  depth: z.number().min(0).max(1),
  gloss: z.number().min(0).max(1),
});
export const USUAL_RELIEF: z.infer<typeof reliefSchema> = { depth: 0.6, gloss: 0.5 };

export const maskSchema = z.strictObject({
  /** Whether it holds back; otherwise it is kept, and the layer is seen whole. */
  on: z.boolean(),
  /** Whether it moves with the layer. */
  linked: z.boolean(),
});

/** What can be set of a layer. */
export const layerProperties = z.strictObject({
  name: layerName,
  opacity: z.number().min(0).max(1),
  blend: blendSchema,
  visible: z.boolean(),
  /** Nothing on it may change. */
  locked: z.boolean(),
  /** Colour may change, alpha may not. */
  lockTransparency: z.boolean(),
  /** Shown only inside the shape of the first unclipped layer below. */
  clip: z.boolean(),
  /** Seen in this colour: dark paint takes it, white stays white. Null: as it is. */
  tint: hexColour.nullable(),
  /** Fills and flats take its marks for borders. */
  lines: z.boolean(),
  /** Of a group: its layers lie on what is below the group, not on a sheet of their own. */
  through: z.boolean(),
  /** What holds parts of it back (its plane “mask”); null: nothing does. */
  mask: maskSchema.nullable(),
  /** An outline around what it holds; null: none. */
  contour: contourSchema.nullable(),
  /** Its paint as dots, lines or grain; null or left out: as it is. */
  halftone: halftoneSchema.nullable().optional(),
  /** Its paint gathers along its rim, as a wash's does; null or left out: it lies as it was laid. */
  fringe: fringeSchema.nullable().optional(),
  /** Of a layer of masking fluid: nothing on other layers changes under it while it is seen. It is never exported. */
  holds: z.boolean().optional(),
  relief: reliefSchema,
  /** Wet paint that was left alone for so many minutes is dry; null: it stays wet. */
  dryAfter: z.int().min(1).max(MOST_MINUTES).nullable(),
  tab: z.enum(tabs).nullable(),
  /** Of a fill: its colour or gradient. */
  paint: paintSchema.nullable(),
  /** Of an adjustment: what it changes. */
  tone: layerToneSchema.nullable(),
});

/** What a layer is, apart from its pixels. Never changed in place. */
export type Layer = Readonly<z.infer<typeof layerProperties>> &
  Readonly<{
    id: string;
    kind: LayerKind;
    /** The group that it lies in; null: in none. */
    group: string | null;
    /** Of its washes: the paints in them, and how they dry; left out where it has none. */
    wash?: Wash | undefined;
    /** Paints of its dry marks that water takes up again; left out where there are none. */
    dissolves?: WashPaint[] | undefined;
    /** Which picture of the scene it holds, until a hand changes it. */
    pass?: Pass | undefined;
  }>;

/** Whether a layer is a film of masking fluid: it is drawn and rubbed off as paint is, and holds paint off. */
export const isFluid = ({ kind, holds }: Layer): boolean => kind === "paint" && holds === true;

/** Whether a layer of paint has a fringe that can still be changed, and be dried. */
export const hasFringe = ({ kind, fringe }: Layer): boolean => kind === "paint" && !!fringe;

/** Whether what is drawn on is masking fluid. */
export const isOnFluid = ({ structure }: Picture, id: string): boolean =>
  structure.layers.some((layer) => layer.id === id && isFluid(layer));

export const newLayer = (id: string, name: string): Layer => ({
  id,
  kind: "paint",
  group: null,
  name,
  opacity: 1,
  blend: "normal",
  visible: true,
  locked: false,
  lockTransparency: false,
  clip: false,
  tint: null,
  lines: false,
  through: false,
  mask: null,
  contour: null,
  relief: USUAL_RELIEF,
  dryAfter: null,
  tab: null,
  paint: null,
  tone: null,
});

/**
 * The selection has planes as a layer has, under this name: alpha says how far a pixel is
 * selected. It is no layer.
 */
export const SELECTION = "(selection)";

/** Where the planes of a kept selection are. */
export const keptPlanes = (id: string): string => `(kept ${id})`;

/** Where the shape of a stencil is, and its shape as it lies on the sheet (plane {@link PLACED}). */
export const stencilPlanes = (id: string): string => `(stencil ${id})`;
export const PLACED = "placed";
/** What the stencils that lie on the sheet leave open together, in its alpha. */
export const STENCILS = "(stencils)";

/** A selection that was kept under a name. */
export type KeptSelection = Readonly<{ id: string; name: string }>;

/** All of a picture but its pixels. Replaced, never changed in place. */
export type Structure = Readonly<{
  /** Bottom first. */
  layers: readonly Layer[];
  ground: string;
  paper: Paper;
  /** Brushes that were brought into the picture, by id: its own kit. */
  brushes: Readonly<Record<string, Brush>>;
  /** Lines that strokes may follow. */
  guides: readonly Guide[];
  /** Where the light comes from; null until it is said. */
  sun: SunPin | null;
  /** The frames of a sheet of studies; null where it is none. */
  studies: Studies | null;
  /** Whether there is a selection: changes keep inside it then. */
  selection: boolean;
  kept: readonly KeptSelection[];
  /** Shapes that hold paint back or let it through. */
  stencils: readonly Stencil[];
  /** Colours that are kept with the picture. */
  wells: readonly Wells[];
  /** Names of the tubes that it is painted with; null: the whole paint box. */
  tubes: readonly string[] | null;
  /** How the sheet is tilted; left out: it lies flat. */
  tilt?: Tilt | undefined;
  /** The sheet since it was cut or resized; left out: as the header has it. */
  sheet?: Sheet | undefined;
  /** Solids that a place is blocked out with; left out: there are none. */
  scene?: Scene | undefined;
  /** Sets of pieces to strew that were made here; left out: there are none. */
  strewn?: readonly OwnSet[] | undefined;
  /** The panels of a comic page; left out: it has none. */
  panels?: Panels | undefined;
}>;

/** Farther than a sheet can be cut in many steps. */
const grainPlace = z.int().min(-1_000_000).max(1_000_000);

/** A sheet's size, px, and px an inch on paper. */
export const sheetSchema = z.strictObject({
  width: z.int().min(1).max(MOST_SIDE),
  height: z.int().min(1).max(MOST_SIDE),
  ppi: z.number().min(1).max(9600),
  /** Px an inch that media behave by: those that it was begun with, grown with each resizing; left out: as it was begun. */
  media: z.number().min(0.01).max(1_000_000).optional(),
  /** Where on its paper its corner lies, px: the grain stays with the paint. */
  grain: z.tuple([grainPlace, grainPlace]).optional(),
});
export type Sheet = Readonly<z.infer<typeof sheetSchema>>;

/** Tiles by key; an absent tile is transparent, or zero. */
export type Plane = Map<number, Tile>;

/**
 * What a layer's pixels consist of. `colour` every layer has; others (the height of thick
 * paint, say) come and go by name, and code that does not know a plane passes it on as it is.
 */
export type PlaneName = string;
export const COLOUR: PlaneName = "colour";
/** What dry media left besides colour: loose mass, wax, what water takes up, and mass (see `kernels/dry.ts`). */
export const POWDER: PlaneName = "powder";
/** Alpha says how much of the layer is held back there. */
export const MASK: PlaneName = "mask";

const UNMOVED = [0, 0] as const;

/** A picture: its structure and, for each layer, its planes. */
export class Picture {
  structure: Structure;
  constructor(
    readonly header: Header,
    /** The planes of each layer, those of removed layers too while the history needs them. */
    readonly planes = new Map<string, Map<PlaneName, Plane>>(),
  ) {
    this.structure = {
      layers: [],
      ground: header.ground,
      paper: header.paper,
      brushes: {},
      guides: [],
      sun: null,
      studies: null,
      selection: false,
      kept: [],
      stencils: [],
      wells: [],
      tubes: null,
    };
  }

  get width(): number {
    return this.structure.sheet?.width ?? this.header.width;
  }

  get height(): number {
    return this.structure.sheet?.height ?? this.header.height;
  }

  /** The place of its paper that lies at the sheet's corner, px. */
  get grainAt(): readonly [x: number, y: number] {
    return this.structure.sheet?.grain ?? UNMOVED;
  }

  /** Px an inch that media behave by: another size on paper changes nothing that is drawn. */
  get mediaPpi(): number {
    return this.structure.sheet?.media ?? this.header.ppi;
  }

  /** Px an inch on paper. */
  get ppi(): number {
    return this.structure.sheet?.ppi ?? this.header.ppi;
  }

  /** @throws Refusal where there is no such layer */
  layer(id: string): Layer {
    const found = this.structure.layers.find((layer) => layer.id === id);
    if (!found) throw new Refusal(`there is no layer "${id}"`);
    return found;
  }

  /** Place of a layer, 0 at the bottom. */
  indexOf(id: string): number {
    this.layer(id);
    return this.structure.layers.findIndex((layer) => layer.id === id);
  }

  /** A plane of a layer, empty where there is none yet. */
  plane(id: string, name: PlaneName = COLOUR): Plane {
    let planes = this.planes.get(id);
    if (!planes) this.planes.set(id, (planes = new Map()));
    let plane = planes.get(name);
    if (!plane) planes.set(name, (plane = new Map()));
    return plane;
  }

  /** All planes that a layer has. */
  planesOf(id: string): [PlaneName, Plane][] {
    return [...(this.planes.get(id) ?? [])];
  }
}

/** A mask is painted on as a layer is: the selection, seen as a layer. */
const selectionAsLayer: Layer = newLayer(SELECTION, "Selection");

/** What else than paint a layer is, in words. */
const IS: Record<Exclude<LayerKind, "paint">, string> = {
  group: "is a group and holds no paint. Choose a layer in it, or paint on its mask.",
  fill: "is a fill and holds no paint. Choose a layer in it, or paint on its mask.",
  adjustment: "is an adjustment and holds no paint. Choose a layer in it, or paint on its mask.",
  lines:
    "holds lines, not paint. Correct its lines, work on another layer, or turn it into paint (layer menu).",
  strewn:
    "holds strewn pieces, not paint. Strew more, work on another layer, or place them as paint (layer menu).",
};

const HELD: Record<PixelKind, string> = {
  paint: "anything else",
  lines: "lines",
  strewn: "strewn pieces",
};

/**
 * A layer that may be worked on, else a refusal that says why not.
 * @param holds what is to be worked on where its colour is
 */
export function workableLayer(
  picture: Picture,
  id: string,
  plane: PlaneName = COLOUR,
  holds: PixelKind = "paint",
): Layer {
  if (id === SELECTION) return selectionAsLayer;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to work on it.`);
  if (!layer.visible) throw new Refusal(`“${layer.name}” is hidden. Show it to work on it.`);
  if (plane === COLOUR && layer.kind !== holds)
    throw new Refusal(
      layer.kind === "paint"
        ? `“${layer.name}” holds paint, not ${HELD[holds]}. Choose a layer that holds them.`
        : `“${layer.name}” ${IS[layer.kind]}`,
    );
  if (plane === MASK && !layer.mask) throw new Refusal(`“${layer.name}” has no mask.`);
  return layer;
}
