import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { type Box } from "../tiles/layout";
import { boxAround, type Shape } from "./shape";

/** How many panels a page may have, and corners a panel. */
export const MOST_PANELS = 64;
const MOST_CORNERS = 64;

const place = z.number().min(-65_536).max(65_536);

const panelSchema = z.strictObject({
  /** The group whose mask has its shape. */
  group: z.string().min(1).max(64),
  /** The number of its frame on the line layer; 0: it has none. */
  frame: z.int().min(0),
  corners: z
    .array(z.tuple([place, place]))
    .min(3)
    .max(MOST_CORNERS),
});

/** How frames are drawn. */
export const frameStyleSchema = z.strictObject({
  /** Width, px. */
  width: z.number().min(0.5).max(500),
  colour: hexColour,
});

/** The panels of a comic page. */
export const panelsSchema = z.strictObject({
  /** The line layer that their frames are on. */
  frames: z.string().min(1).max(64),
  style: frameStyleSchema,
  panels: z.array(panelSchema).max(MOST_PANELS),
});

/** Gutters wider than this share of a sheet's smaller side are none. */
const WIDEST_GUTTER = 0.2;

/** The widest gutter that is pushed as one, px. */
export const widestGutter = (sheet: { width: number; height: number }): number =>
  WIDEST_GUTTER * Math.min(sheet.width, sheet.height);

export type Panel = Readonly<z.infer<typeof panelSchema>>;
export type Panels = Readonly<z.infer<typeof panelsSchema>>;

/** Corners that may be written down. */
export const cornersOf = (shape: Shape): [number, number][] => shape.map(([x, y]) => [x, y]);

/** The box of the panel that a layer lies in, px; null where it lies in none. */
export function boxOfPanel(
  {
    panels,
    layers,
  }: {
    panels?: Panels | null | undefined;
    layers: readonly { id: string; group: string | null }[];
  },
  layer: string,
): Box | null {
  const byId = new Map(layers.map((own) => [own.id, own]));
  for (let id = byId.get(layer)?.group ?? null; id; id = byId.get(id)?.group ?? null) {
    const panel = panels?.panels.find(({ group }) => group === id);
    if (panel) return boxAround(panel.corners);
  }
  return null;
}
