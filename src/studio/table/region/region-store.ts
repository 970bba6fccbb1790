import { create } from "zustand";
import { type Joining } from "../../../engine/command/select";
import { type Stops } from "../../../engine/gradient/gradient";
import { type Borders } from "../../../engine/region/source";
import { type RegionLook } from "../../../worker/region-look";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { endTransform } from "../transform/transform-store";

export type Point = readonly [x: number, y: number];

/** How the hand says what is to be selected. */
export const selectingWays = [
  "lasso",
  "polygon",
  "box",
  "ellipse",
  "region",
  "colour",
  "id",
  "brush",
  "move",
] as const;
export type Selecting = (typeof selectingWays)[number];

/**
 * What a fill takes: the regions that are pressed or crossed, a loop, the regions in a loop,
 * all of the layer that has the colour pressed on; the whole layer with a gradient; or every
 * closed region of a line drawing, as flats.
 */
export type Filling = "tap" | "loop" | "regions" | "everywhere" | "gradient" | "flats";
/** What a gradient goes over to: the second colour, nothing, or through stops of its own. */
export type GradientTo = "second" | "nothing" | "stops";

type RegionState = {
  selecting: Selecting;
  joining: Joining;
  /** The layer whose flat colours are ids; it need not be seen. */
  idLayer: string | null;
  what: Filling;
  /** Dragging from one flat to others gives them its colour. */
  joins: boolean;
  borders: Borders;
  tolerance: number;
  bridge: number;
  under: number;
  hues: number;
  bare: boolean;
  /** How far a colour may lie from the one that is replaced everywhere (ΔE in OKLab). */
  alike: number;
  gradientShape: "linear" | "radial" | "path";
  gradientTo: GradientTo;
  gradientStops: Stops;
  /** What the hand is drawing, picture px; closed or a trail. */
  path: readonly Point[];
  /** What would be filled or selected where the pointer rests. */
  look: RegionLook | null;
  /** Raised when something else is selected, so that the ants take another way. */
  stirred: number;
  stir: () => void;
  set: (changes: Partial<RegionState>) => void;
};

/** The tools that work on regions: what they are set to, and what they are doing. */
export const useRegion = create<RegionState>()((set) => ({
  selecting: "lasso",
  joining: "replace",
  idLayer: null,
  what: "tap",
  joins: false,
  borders: "all",
  tolerance: 0.2,
  bridge: 8,
  under: 6,
  hues: 7,
  bare: true,
  alike: 0.03,
  gradientShape: "linear",
  gradientTo: "second",
  gradientStops: [
    { at: 0, colour: "#20264a", alpha: 1 },
    { at: 0.55, colour: "#a8574e", alpha: 1 },
    { at: 1, colour: "#f3d59a", alpha: 1 },
  ],
  path: [],
  look: null,
  stirred: 0,
  stir: () => set(({ stirred }) => ({ stirred: stirred + 1 })),
  set: (changes) => set(changes),
}));

/** Takes a tool in hand, or the brush again. */
export async function toggleTool(session: Session, tool: "select" | "fill"): Promise<void> {
  const now = useTable.getState().tool;
  if (now === "transform") await endTransform(session, true);
  useRegion.getState().set({ path: [], look: null });
  useTable.setState({ tool: now === tool ? "brush" : tool, box: null });
  if (tool === "fill" && now === "fill") void session.link.api.lookAway();
}

/** Whether the hand selects by shapes, which join what is selected or are taken away from it. */
export const selectsShapes = (): boolean => {
  const { selecting } = useRegion.getState();
  return useTable.getState().tool === "select" && selecting !== "brush" && selecting !== "move";
};

/** Whether a region is looked at before it is taken. */
export const looksAhead = (): boolean => {
  const { tool } = useTable.getState();
  const { what, selecting } = useRegion.getState();
  return (tool === "fill" && what === "tap") || (tool === "select" && selecting === "region");
};

/** The layer that ids are taken from: the chosen one, else the lowest that holds paint. */
export function idLayerNow(): { id: string; name: string } | null {
  const layers = useTable.getState().picture?.layers.filter(({ kind }) => kind === "paint") ?? [];
  const { idLayer } = useRegion.getState();
  return layers.find(({ id }) => id === idLayer) ?? layers[0] ?? null;
}
