import { create } from "zustand";
import { hexToRgb, rgbToOklab } from "../../engine/colour/oklch";
import { firstFault } from "../../engine/picture/refusal";
import { type Brush, type BrushInput, brushSchema } from "../../engine/stroke/brush";
import { type TipPicture } from "../../engine/stroke/tip";
import { type TipMaking } from "../../engine/stroke/tip-from";
import { BrushBox } from "../../storage/brushes";
import { openDatabase } from "../../storage/database";
import { type Mode } from "../table/table-store";

export const sectionNames = [
  "Laying",
  "Tip",
  "Size and flow",
  "Spacing and scatter",
  "Turn and stretch",
  "Grain",
  "Colour",
  "Overtip",
  "Ends",
  "About",
] as const;
export type SectionName = (typeof sectionNames)[number];

/** What says nothing of a dry tip: its marks are no pictures, and its material knows the paper. */
const notOfDryTips: readonly SectionName[] = [
  "Tip",
  "Spacing and scatter",
  "Grain",
  "Colour",
  "Overtip",
];

/** The parts that count for a brush. */
export const sectionsOf = ({ laying }: Brush): readonly SectionName[] =>
  laying.kind === "contact"
    ? sectionNames.filter((name) => !notOfDryTips.includes(name))
    : sectionNames;

/** Papers to try a brush on, light to dark. */
export const trialGrounds = { light: "#f1ede3", mid: "#99938a", dark: "#2e2b29" } as const;
export type TrialGround = keyof typeof trialGrounds;

/** How much lighter or darker than the paper a colour must be to be seen on it, OKLab L. */
const SEEN = 0.2;

/** The first of two colours that is seen on a paper; where neither is, the one that is seen better. */
export function seenOn(ground: TrialGround, first: string, second: string): string {
  const light = (hex: string): number => rgbToOklab(hexToRgb(hex))[0];
  const apart = (hex: string): number => Math.abs(light(hex) - light(trialGrounds[ground]));
  return apart(first) >= SEEN || apart(first) >= apart(second) ? first : second;
}

export type WorkshopState = {
  /** The brush in the making. */
  draft: Brush | null;
  /** Whether it differs from what is kept. */
  changed: boolean;
  /** Why the last change was not taken. */
  fault: string | null;
  section: SectionName;
  mode: Mode;
  size: number;
  /** What the strip is of. */
  ground: TrialGround;
  making: TipMaking;
  /** Who waits for a tip to be boxed on the picture. */
  takesTip: ((picture: TipPicture) => void) | null;
  set: (changes: Partial<WorkshopState>) => void;
  take: (brush: Brush, changed: boolean) => void;
  change: (changes: Partial<BrushInput>) => void;
};

export const useWorkshop = create<WorkshopState>()((set, get) => ({
  draft: null,
  changed: false,
  fault: null,
  section: "Laying",
  mode: "paint",
  size: 20,
  ground: "light",
  making: "coverage",
  takesTip: null,
  set: (changes) => set(changes),
  take: (draft, changed) => {
    set({ draft, changed, fault: null, size: draft.size });
    rememberDraft(changed ? draft : null);
  },
  change: (changes) => {
    const { draft } = get();
    if (!draft) return;
    const parsed = brushSchema.safeParse({ ...draft, ...changes });
    // What cannot be is said; the brush stays as it was.
    if (!parsed.success) return set({ fault: firstFault(parsed.error) });
    set({ draft: parsed.data, changed: true, fault: null });
    rememberDraft(parsed.data);
  },
}));

const REST = 300;
let waiting: ReturnType<typeof setTimeout> | undefined;

/** Puts the brush in the making into store, once the hand rests: it survives whatever happens. */
function rememberDraft(brush: Brush | null): void {
  clearTimeout(waiting);
  waiting = setTimeout(() => {
    void openDatabase().then(async (db) => {
      await new BrushBox(db).keepDraft(brush);
      db.close();
    });
  }, REST);
}

/** The brush that was in the making when the page was last left. */
export async function keptDraft(): Promise<Brush | null> {
  const db = await openDatabase();
  const draft = await new BrushBox(db).draft();
  db.close();
  return draft;
}
