import { create } from "zustand";
import { type Layer } from "../../../engine/picture/picture";
import { type LineLook } from "../../../worker/lines";
import { endTransform } from "../transform/transform-store";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** What the hand does to lines. */
export const correcting = {
  choose: "Choose",
  pull: "Pull",
  weight: "Weight",
  redraw: "Redraw",
  smooth: "Smooth",
  cut: "Cut",
  erase: "Erase",
  join: "Join",
  repeat: "Repeat",
  speed: "Speed",
  focus: "Focus",
} as const;
export type Correcting = keyof typeof correcting;

export type Point = readonly [x: number, y: number];

type LinesState = {
  act: Correcting;
  /** How far along a line a pull is felt, screen px. */
  reach: number;
  endsHeld: boolean;
  weighing: "thicken" | "thin" | "even";
  /** Of the hand that goes over lines, screen px. */
  radius: number;
  smoothing: 1 | 2 | 3;
  cutting: "to crossings" | "part";
  erasing: "touched" | "to crossings" | "whole";
  /** Of copies along a way: tenths of a mm from one to the next, and whether they turn with it. */
  repeating: { gap: number; turns: boolean };
  /** Of speed and focus lines: how far apart (tenths of a mm), how broad the bundle is (mm), how much chance has a say (%). */
  rays: {
    gap: number;
    across: number;
    widths: number;
    lengths: number;
    gaps: number;
    /** Of what focus lines leave clear: its height, % of its breadth. */
    height: number;
    pointed: "end" | "both";
  };
  /** Numbers of the lines that are chosen, on the working layer. */
  chosen: readonly number[];
  /** The line under the hand, and those that are chosen, as they are. */
  hovered: LineLook | null;
  looks: readonly LineLook[];
  /** The way of the hand, picture px; empty while it does nothing. */
  way: readonly Point[];
  /** Lines that the hand went over. */
  touched: readonly LineLook[];
  set: (changes: Partial<LinesState>) => void;
};

export const useLines = create<LinesState>()((set) => ({
  act: "pull",
  reach: 90,
  endsHeld: true,
  weighing: "thicken",
  radius: 26,
  smoothing: 2,
  cutting: "to crossings",
  erasing: "touched",
  repeating: { gap: 60, turns: true },
  rays: { gap: 15, across: 60, widths: 60, lengths: 50, gaps: 70, height: 100, pointed: "end" },
  chosen: [],
  hovered: null,
  looks: [],
  way: [],
  touched: [],
  set: (changes) => set(changes),
}));

/** The line layer that is worked on; null where another kind of layer is. */
export function lineLayerNow(): Layer | null {
  const { picture, selected } = useTable.getState();
  const layer = picture?.layers.find(({ id }) => id === selected[0]);
  return layer?.kind === "lines" ? layer : null;
}

/** Forgets what was chosen: another layer is worked on, or nothing is to be chosen. */
export const chooseNoLines = (): void =>
  useLines.setState({ chosen: [], looks: [], hovered: null, way: [], touched: [] });

export async function toggleLines(session: Session): Promise<void> {
  const { tool } = useTable.getState();
  if (tool === "transform") await endTransform(session, true);
  // What is chosen stays so while another brush is taken up.
  useLines.setState({ hovered: null, way: [], touched: [] });
  useTable.setState({ tool: tool === "lines" ? "brush" : "lines", box: null });
}

/** Chooses lines, and looks at them as they are now. */
export async function chooseLines(session: Session, ids: readonly number[]): Promise<void> {
  const layer = lineLayerNow();
  if (!layer) return chooseNoLines();
  const looked = await session.link.api.lookAtLines(layer.id, ids);
  const looks = looked.ok ? looked.value : [];
  useLines.setState({ looks, chosen: looks.map(({ id }) => id) });
}

/** Looks again at what is chosen: lines have changed. */
export async function lookAgain(session: Session): Promise<void> {
  const { chosen, hovered } = useLines.getState();
  if (hovered) useLines.setState({ hovered: null });
  if (chosen.length > 0) await chooseLines(session, chosen);
}
