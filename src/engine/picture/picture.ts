import { z } from "zod";
import { type BlendMode, blendSchema } from "../compose/blend-modes";
import { type Paper } from "../paper/paper";
import { hexColour } from "../colour/srgb";
import { type Guide } from "../guides/guide";
import { type Brush } from "../stroke/brush";
import { type Studies } from "../studies/studies";
import { type SunPin } from "../sun/sun-pin";
import { type Tile } from "../tiles/tile-store";
import { type Header } from "./header";
import { Refusal } from "./refusal";

export const layerId = z.string().min(1).max(64);
export const layerName = z.string().min(1).max(120);
export const MOST_LAYERS = 500;

/** What a layer is, apart from its pixels. Never changed in place. */
export type Layer = Readonly<{
  id: string;
  name: string;
  opacity: number;
  blend: BlendMode;
  visible: boolean;
  /** Nothing on it may change. */
  locked: boolean;
  /** Colour may change, alpha may not. */
  lockTransparency: boolean;
  /** Shown only inside the shape of the first unclipped layer below. */
  clip: boolean;
  /** Seen in this colour: dark paint takes it, white stays white. Null: as it is. */
  tint: string | null;
  /** Fills and flats take its marks for borders. */
  lines: boolean;
}>;

export const layerProperties = z.strictObject({
  name: layerName,
  opacity: z.number().min(0).max(1),
  blend: blendSchema,
  visible: z.boolean(),
  locked: z.boolean(),
  lockTransparency: z.boolean(),
  clip: z.boolean(),
  tint: hexColour.nullable(),
  lines: z.boolean(),
});

export const newLayer = (id: string, name: string): Layer => ({
  id,
  name,
  opacity: 1,
  blend: "normal",
  visible: true,
  locked: false,
  lockTransparency: false,
  clip: false,
  tint: null,
  lines: false,
});

/**
 * The selection has planes as a layer has, under this name: alpha says how far a pixel is
 * selected. It is no layer.
 */
export const SELECTION = "(selection)";

/** Where the planes of a kept selection are. */
export const keptPlanes = (id: string): string => `(kept ${id})`;

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
}>;

/** Tiles by key; an absent tile is transparent, or zero. */
export type Plane = Map<number, Tile>;

/**
 * What a layer's pixels consist of. `colour` every layer has; others (the height of thick
 * paint, say) come and go by name, and code that does not know a plane passes it on as it is.
 */
export type PlaneName = string;
export const COLOUR: PlaneName = "colour";

/** A picture: its structure and, for each layer, its planes. */
export class Picture {
  structure: Structure;
  readonly width: number;
  readonly height: number;
  /** The planes of each layer, those of removed layers too while the history needs them. */
  readonly planes = new Map<string, Map<PlaneName, Plane>>();

  constructor(readonly header: Header) {
    this.width = header.width;
    this.height = header.height;
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
    };
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

/** A layer that may be worked on, else a refusal that says why not. */
export function workableLayer(picture: Picture, id: string): Layer {
  if (id === SELECTION) return selectionAsLayer;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to work on it.`);
  if (!layer.visible) throw new Refusal(`“${layer.name}” is hidden. Show it to work on it.`);
  return layer;
}
