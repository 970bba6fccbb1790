import { nanoid } from "nanoid";
import { create } from "zustand";
import { type Panel } from "../../../engine/panels/panels";
import { type Shape, type Side } from "../../../engine/panels/shape";
import { type Box } from "../../../engine/tiles/layout";
import { type PictureState } from "../../../worker/protocol";
import { tenths } from "../on-paper";
import { type Session } from "../session";
import { endTransform } from "../transform/transform-store";
import { useTable } from "../table-store";

/** What the hand does to panels. */
export const panelActs = { cut: "Cut", push: "Push", bleed: "Bleed", join: "Join" } as const;
export type PanelAct = keyof typeof panelActs;

type PanelsState = {
  act: PanelAct;
  /** Cuts run level or upright. */
  even: boolean;
  /** Between what lies above and below, and between what lies side by side, tenths of a mm. */
  tiers: number;
  beside: number;
  /** Of the first panel: around it, mm, and how broad frames are, tenths of a mm. */
  margin: number;
  frame: number;
  /** What would become of panels, while the hand is at it. */
  tried: readonly Shape[];
  /** The side under the hand. */
  near: Side | null;
  set: (changes: Partial<PanelsState>) => void;
};

export const usePanels = create<PanelsState>()((set) => ({
  act: "cut",
  even: true,
  tiers: 60,
  beside: 30,
  margin: 12,
  frame: 8,
  tried: [],
  near: null,
  set: (changes) => set(changes),
}));

type Paged = Pick<PictureState, "panels" | "layers">;

/** The panels whose groups are there. */
export function panelsOn(picture: Paged | null): readonly Panel[] {
  const { panels, layers } = picture ?? {};
  return panels?.panels.filter(({ group }) => layers?.some(({ id }) => id === group)) ?? [];
}

/** What the first panel of a page would take up, px. */
export function liveArea(
  { width, height }: Pick<PictureState, "width" | "height">,
  margin: number,
): Box {
  // However broad the margin, something is left.
  const by = Math.min(tenths(10 * margin), 0.4 * Math.min(width, height));
  const [x, y] = [Math.round(by), Math.round(by)];
  return { left: x, top: y, right: width - x, bottom: height - y };
}

/** Takes up the tool that cuts a page into panels. */
export async function openPanels(session: Session): Promise<void> {
  if (useTable.getState().tool === "transform") await endTransform(session, true);
  usePanels.setState({ tried: [], near: null });
  useTable.setState({ tool: "panels", box: null });
}

/** Lays a page of one panel. */
export async function layPage(session: Session): Promise<void> {
  const { picture } = useTable.getState();
  const { margin, frame } = usePanels.getState();
  if (!picture) return;
  const id = nanoid(10);
  const width = Math.min(500, Math.max(0.5, tenths(frame)));
  const done = await session.apply({
    do: "panels.lay",
    id,
    box: liveArea(picture, margin),
    style: { width, colour: FRAME },
  });
  if (done) session.select([`${id}.drawing`]);
}

/** The colour of frames: ink. */
const FRAME = "#101014";

/** The layer of a panel that is worked on when the panel is tapped: the one that was, or the topmost. */
export function drawingOf({ layers }: Paged, group: string, selected: readonly string[]): string {
  const own = layers.filter((layer) => layer.group === group);
  return (own.find(({ id }) => selected.includes(id)) ?? own.at(-1))?.id ?? group;
}
