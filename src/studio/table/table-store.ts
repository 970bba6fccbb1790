import { type Lays } from "../../engine/compose/blend-modes";
import { create } from "zustand";
import { type Carried } from "../../engine/oil/carried";
import { useShallow } from "zustand/react/shallow";
import { brushes } from "../../engine/media";
import { LEAST_SIZE, modeOf, MOST_SIZE } from "../../engine/stroke/brush";
import { madeSets } from "../../engine/strew/sets";
import { brushById } from "../brushes/brush-box";
import { type Brush } from "../../engine/stroke/brush";
import { type Box } from "../../engine/tiles/layout";
import { type Kept } from "../../storage/journal";
import { firstPen, type PenSettings } from "../../storage/pen-settings";
import { type Settings } from "../../storage/records";
import { type EngineHealth } from "../engine-link";
import { type PictureState } from "../../worker/protocol";
import { type View } from "../../worker/view";
import { hexToOklch } from "../../engine/colour/oklch";
import { firstKeys, type KeyMap } from "./keys/key-map";

export type Mode = "paint" | "lift" | "blend";
export type Tool =
  | "brush"
  | "pick"
  | "hand"
  | "select"
  | "fill"
  | "lines"
  | "panels"
  | "strew"
  | "tip box"
  | "transform"
  | "transform box";

export const stages = ["Sketch", "Ink", "Colour", "Paint", "Finish"] as const;
export type Stage = (typeof stages)[number];

/** Kits in the order in which a stage lays them out; all others come after. */
const firstKits: Record<Stage, readonly string[]> = {
  Sketch: ["Pencils", "Charcoal and chalk", "Pastel and wax", "Inks"],
  Ink: ["Inks", "Markers", "Pencils"],
  Colour: ["Rounds and sprays", "Markers", "Inks", "Leaf and ribbon"],
  Paint: [
    "Oil",
    "Water",
    "Gouache and acrylic",
    "Rounds and sprays",
    "Pastel and wax",
    "Hair and fur",
    "Leaf and ribbon",
  ],
  Finish: ["Inks", "Rounds and sprays", "Oil", "Leaf and ribbon"],
};

const allKits = [...new Set(brushes.map(({ kit }) => kit))];

/** The kits that ship, in a stage's order. */
export const kitOrder = (stage: Stage): string[] => [
  ...firstKits[stage],
  ...allKits.filter((kit) => !firstKits[stage].includes(kit)),
];

/** What of the table becomes a drawer on a small screen. */
export type Drawer = "layers" | "brushes" | "colour";

export type Dialog =
  | "export"
  | "finder"
  | "paper"
  | "shortcuts"
  | "about"
  | "pen"
  | "workshop"
  | "studies"
  | "replay"
  | "signing"
  | null;

const MOST_RECENT = 16;

/** Widths that the slab may be pulled to, CSS px. */
export const NARROWEST_SLAB = 220;
export const WIDEST_SLAB = 900;

type BrushAmounts = {
  size: number;
  strength: number;
  lays: Lays;
  thinner: number;
  /** Water in a brush for washes, beside what is usual for it. */
  water: number;
};

export type TableState = {
  picture: PictureState | null;
  /** Layers that actions apply to; the first is the one that is drawn on. */
  selected: string[];
  /** Whether the brush paints on the layer's colour or on its mask. */
  paintOn: "colour" | "mask";
  maskView: "no" | "veil" | "alone";
  /** Groups that are closed in the list. */
  folded: Record<string, boolean>;
  mode: Mode;
  tool: Tool;
  brush: string;
  lastBrush: string;
  /** Size and strength by brush, and by set of pieces that are strewn. */
  amounts: Record<string, BrushAmounts>;
  /** The set of pieces that is strewn. */
  strewSet: number;
  steady: number;
  /** Whether strokes stay in the study that they begin in. */
  holdsInFrame: boolean;
  /** What Blend takes up: the layer's own paint, or all that is seen down to the ground. */
  takes: "layer" | "below";
  /** Whether a brush for oil goes on with what is on it; otherwise each stroke loads it afresh. */
  keepsPaint: boolean;
  /** What is on each brush that was used, strip by strip. */
  carried: Record<string, Carried>;
  /** Seconds until layers are dry, about, by their ids. */
  dries: Record<string, number>;
  /** How a card in the other hand is turned, degrees on the screen from the right to its open side; null: none is held. */
  card: number | null;
  /** Whether what is wet shines on the table. */
  shine: boolean;
  /** Whether the slab is out, and how wide, CSS px. */
  slabShown: boolean;
  slabWidth: number;
  colour: string;
  second: string;
  /** What colours are picked from, and the radius of the disc whose mean they are, px. */
  pickFrom: "seen" | "layer";
  pickRadius: number;
  /** How far a picked colour takes the one in hand toward it, stirred as paint: 0…1, at 1 it takes its place. */
  pickShare: number;
  /** Hue of the Leaf's right page; greys keep it. */
  hue: number;
  recent: string[];
  stage: Stage;
  kit: string;
  view: View;
  room: Settings["room"];
  standInPen: boolean;
  /** How pen and hands are felt. */
  pen: PenSettings;
  restPicks: boolean;
  /** Whether strokes follow the picture's guides. */
  follow: boolean;
  /** Whether guides and their handles are seen. */
  guidesShown: boolean;
  /** How the picture is looked at: null in colour, 0 in greys, 2…7 in so many steps. */
  values: number | null;
  /** Steps that values are seen in when they are switched on; 0: all greys. */
  valueSteps: number;
  /** Seen blurred, as through half-closed eyes. */
  squint: boolean;
  /** A box that is being drawn on the picture, picture px. */
  box: Box | null;
  /** Where the favourites lie while their key is held, and how large the view is, CSS px. */
  shelf: { x: number; y: number; width: number; height: number } | null;
  /** Whether the pins are seen. */
  pinsShown: boolean;
  /** Which key does what. */
  keys: KeyMap;
  bare: boolean;
  /** What is open where the screen is too small for all of it. */
  drawers: readonly Drawer[];
  kept: Kept | null;
  /** Whether the view still shows what was, while a change of all of it is on its way. */
  viewBusy: boolean;
  /** Whether the engine gives signs of life. */
  engine: EngineHealth;
  progress: { label: string; share: number | null } | null;
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

export const useTable = create<TableState>()((set) => ({
  picture: null,
  selected: [],
  paintOn: "colour",
  maskView: "no",
  folded: {},
  mode: "paint",
  tool: "brush",
  brush: "pencil-2b",
  lastBrush: "pen-sprung",
  amounts: {},
  strewSet: 0,
  holdsInFrame: true,
  takes: "layer",
  keepsPaint: false,
  carried: {},
  dries: {},
  card: null,
  shine: true,
  slabShown: false,
  slabWidth: 340,
  pickFrom: "seen",
  pickRadius: 0,
  pickShare: 1,
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
  pen: firstPen,
  restPicks: false,
  follow: false,
  guidesShown: true,
  values: null,
  valueSteps: 0,
  squint: false,
  box: null,
  shelf: null,
  pinsShown: true,
  keys: firstKeys,
  bare: false,
  drawers: ["brushes"],
  kept: null,
  engine: "well",
  viewBusy: false,
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
      kit: brushById(id)?.kit ?? "Pencils",
    })),
  chooseStage: (stage) => set({ stage, kit: firstKits[stage][0] ?? "Pencils" }),
  setAmounts: (changes) =>
    set((state) => {
      const inHand = whatIsInHand(state);
      return { amounts: { ...state.amounts, [inHand]: { ...amountsNow(state), ...changes } } };
    }),
}));

/** Named parts of the state: who asks renders again when one of these is replaced, and not otherwise. */
export const useParts = <Name extends keyof TableState>(...names: Name[]): Pick<TableState, Name> =>
  useTable(
    useShallow(
      (state) =>
        Object.fromEntries(names.map((name) => [name, state[name]])) as Pick<TableState, Name>,
    ),
  );

/** Size and strength of the brush in hand, and how its paint lies on what is there. */
/** What a stroke would do now: some tools do one thing whatever the mode. */
export const modeNow = ({ brush, mode }: Pick<TableState, "brush" | "mode">): Mode => {
  const own = brushById(brush);
  return own ? modeOf(own, mode) : mode;
};

export const amountsNow = (state: TableState): BrushAmounts => {
  const inHand = whatIsInHand(state);
  return state.amounts[inHand] ?? ownAmounts(inHand);
};

/** What amounts belong to: a brush, or a set of pieces. */
const whatIsInHand = ({ tool, brush, strewSet }: TableState): string =>
  tool === "strew" ? `${STREWN}${strewSet}` : brush;
/** What amounts of sets are kept under: no brush is called so. */
const STREWN = "(strewn) ";

const firstAmounts: BrushAmounts = { size: 10, strength: 1, lays: "normal", thinner: 0, water: 1 };
const kept = new WeakMap<Brush, BrushAmounts>();

const setAmounts = madeSets.map(({ size }): BrushAmounts => ({ ...firstAmounts, size }));
const ownSetAmounts: BrushAmounts = { ...firstAmounts, size: 90 };

/** A brush's own amounts, until they are changed; the same object each time it is asked. */
function ownAmounts(id: string): BrushAmounts {
  if (id.startsWith(STREWN)) return setAmounts[Number(id.slice(STREWN.length))] ?? ownSetAmounts;
  const brush = brushById(id);
  if (!brush) return firstAmounts;
  let amounts = kept.get(brush);
  const { size, strength, lays } = brush;
  if (!amounts) kept.set(brush, (amounts = { size, strength, lays, thinner: 0, water: 1 }));
  return amounts;
}

/** Size runs evenly to the eye: position 0…1 ↔ 0.5…2000 px. */
export const sizeAt = (position: number): number => {
  const size = LEAST_SIZE * (MOST_SIZE / LEAST_SIZE) ** Math.min(1, Math.max(0, position));
  return size < 10 ? Math.round(size * 10) / 10 : Math.round(size);
};
export const positionOf = (size: number): number =>
  Math.log(size / LEAST_SIZE) / Math.log(MOST_SIZE / LEAST_SIZE);
