import { create } from "zustand";
import { brushes } from "../../engine/media";
import { type Kept } from "../../storage/keeper";
import { type Settings } from "../../storage/records";
import { type PictureState } from "../../worker/protocol";
import { type View } from "../../worker/view";
import { hexToOklch } from "../../engine/colour/oklch";
import { firstKeys, type KeyMap } from "./keys/key-map";

export type Mode = "paint" | "lift" | "blend";
export type Tool = "brush" | "pick" | "hand";

export const stages = ["Sketch", "Ink", "Colour", "Paint", "Finish"] as const;
export type Stage = (typeof stages)[number];

/** Kits in the order in which a stage lays them out. */
export const kitsByStage: Record<Stage, readonly string[]> = {
  Sketch: ["Pencils", "Inks", "Rounds"],
  Ink: ["Inks", "Pencils", "Rounds"],
  Colour: ["Rounds", "Inks", "Pencils"],
  Paint: ["Rounds", "Pencils", "Inks"],
  Finish: ["Inks", "Rounds", "Pencils"],
};

export type Dialog = "export" | "finder" | "paper" | "shortcuts" | null;

const MOST_RECENT = 16;

type BrushAmounts = { size: number; strength: number };

export type TableState = {
  picture: PictureState | null;
  /** Layers that actions apply to; the first is the one that is drawn on. */
  selected: string[];
  mode: Mode;
  tool: Tool;
  brush: string;
  lastBrush: string;
  amounts: Record<string, BrushAmounts>;
  steady: number;
  colour: string;
  second: string;
  /** Hue of the Leaf's right page; greys keep it. */
  hue: number;
  recent: string[];
  stage: Stage;
  kit: string;
  view: View;
  room: Settings["room"];
  standInPen: boolean;
  /** Which key does what. */
  keys: KeyMap;
  bare: boolean;
  kept: Kept | null;
  progress: { label: string; share: number } | null;
  dialog: Dialog;
  /** Raised when a layer's pixels change, so that its thumbnail is drawn anew. */
  freshness: Record<string, number>;
  set: (changes: Partial<TableState>) => void;
  chooseColour: (hex: string, keepHue?: boolean) => void;
  useColour: () => void;
  chooseBrush: (id: string) => void;
  chooseStage: (stage: Stage) => void;
  setAmounts: (changes: Partial<BrushAmounts>) => void;
};

const firstAmounts: Record<string, BrushAmounts> = Object.fromEntries(
  brushes.map(({ id, size, strength }) => [id, { size, strength }]),
);

export const useTable = create<TableState>()((set) => ({
  picture: null,
  selected: [],
  mode: "paint",
  tool: "brush",
  brush: "pencil-2b",
  lastBrush: "pen-sprung",
  amounts: firstAmounts,
  steady: 0.15,
  colour: "#2b2b33",
  second: "#f4efe6",
  hue: hexToOklch("#2b2b33").h,
  recent: [],
  stage: "Sketch",
  kit: "Pencils",
  view: { x: 0, y: 0, zoom: 1, angle: 0, mirrored: false },
  room: "studio",
  standInPen: false,
  keys: firstKeys,
  bare: false,
  kept: null,
  progress: null,
  dialog: null,
  freshness: {},
  set: (changes) => set(changes),
  chooseColour: (hex, keepHue = false) =>
    set(({ hue }) => {
      const { c, h } = hexToOklch(hex);
      return { colour: hex, hue: keepHue || c < 0.004 ? hue : h };
    }),
  useColour: () =>
    set(({ colour, recent, mode }) =>
      mode !== "paint" || recent[0] === colour
        ? {}
        : { recent: [colour, ...recent.filter((other) => other !== colour)].slice(0, MOST_RECENT) },
    ),
  chooseBrush: (id) =>
    set(({ brush, lastBrush }) => ({
      brush: id,
      lastBrush: id === brush ? lastBrush : brush,
      tool: "brush",
      kit: brushes.find((other) => other.id === id)?.kit ?? "Pencils",
    })),
  chooseStage: (stage) => set({ stage, kit: kitsByStage[stage][0] ?? "Pencils" }),
  setAmounts: (changes) =>
    set(({ amounts, brush }) => ({
      amounts: { ...amounts, [brush]: { ...(amounts[brush] as BrushAmounts), ...changes } },
    })),
}));

/** Size and strength of the brush in hand. */
export const amountsNow = ({ amounts, brush }: TableState): BrushAmounts =>
  amounts[brush] ?? { size: 10, strength: 1 };

/** Size runs evenly to the eye: position 0…1 ↔ 0.5…2000 px. */
const LEAST_SIZE = 0.5;
const MOST_SIZE = 2000;
export const sizeAt = (position: number): number => {
  const size = LEAST_SIZE * (MOST_SIZE / LEAST_SIZE) ** Math.min(1, Math.max(0, position));
  return size < 10 ? Math.round(size * 10) / 10 : Math.round(size);
};
export const positionOf = (size: number): number =>
  Math.log(size / LEAST_SIZE) / Math.log(MOST_SIZE / LEAST_SIZE);
