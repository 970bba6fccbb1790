import { nanoid } from "nanoid";
import { create } from "zustand";
import { type Layer } from "../../../engine/picture/picture";
import { madeSets, type Manner } from "../../../engine/strew/sets";
import { FIRST_OWN_SET, MOST_OWN_SETS, type Strew } from "../../../engine/strew/strew";
import { type PieceLook } from "../../../worker/strewn";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { endTransform } from "../transform/transform-store";

/** What the hand does with pieces. */
export type StrewAct = "strew" | "thin" | "choose";
export type StrewPart = "places" | "looks" | "depth";
export type Point = readonly [x: number, y: number];

/** Smaller and paler toward a horizon: `horizon` in shares of the sheet's height. */
type Depth = { on: boolean; horizon: number; amount: number; air: string };

type StrewState = {
  act: StrewAct;
  part: StrewPart;
  /** How sets are strewn where that is not as they come. */
  manners: Readonly<Record<number, Partial<Manner>>>;
  /** The one picture of a set that is strewn; null: all of them. */
  only: number | null;
  depth: Depth;
  /** Numbers of the pieces that are chosen on the working layer, and how they lie. */
  chosen: readonly number[];
  looks: readonly PieceLook[];
  /** The way of the hand, picture px; empty while it does nothing. */
  way: readonly Point[];
  /** Raised when a set of one's own changes, so that its card is drawn anew. */
  renewed: number;
};

export const useStrew = create<StrewState>()(() => ({
  act: "strew",
  part: "places",
  manners: {},
  only: null,
  depth: { on: false, horizon: 0.4, amount: 0.85, air: "#c3cdd6" },
  chosen: [],
  looks: [],
  way: [],
  renewed: 0,
}));

const USUAL: Manner = (madeSets[0] as (typeof madeSets)[number]).manner;

/** How a set is strewn now. */
export const mannerOf = (set: number, manners: StrewState["manners"]): Manner => ({
  ...(madeSets[set]?.manner ?? USUAL),
  ...manners[set],
});

export function setManner(changes: Partial<Manner>): void {
  const set = useTable.getState().strewSet;
  const { manners } = useStrew.getState();
  useStrew.setState({ manners: { ...manners, [set]: { ...manners[set], ...changes } } });
}

export const setDepth = (changes: Partial<Depth>): void =>
  useStrew.setState({ depth: { ...useStrew.getState().depth, ...changes } });

/** The name of a set; of the picture's own by its number. */
export function nameOfSet(set: number): string {
  const own = useTable.getState().picture?.strewn.find(({ number }) => number === set);
  return madeSets[set]?.name ?? own?.name ?? "Pieces";
}

/** The layer of pieces that is worked on; null where another kind of layer is. */
export function strewnLayerNow(): Layer | null {
  const { picture, selected } = useTable.getState();
  const layer = picture?.layers.find(({ id }) => id === selected[0]);
  return layer?.kind === "strewn" ? layer : null;
}

/** Makes a layer to strew on above the working one. */
export const addStrewnLayer = (session: Session): Promise<string | null> =>
  session.addLayer({ kind: "strewn", name: nameOfSet(useTable.getState().strewSet) });

/** Takes up strewing, with a set; on a layer of its own, which is made where none is worked on. */
export async function openStrew(session: Session, set?: number): Promise<void> {
  if (useTable.getState().tool === "transform") await endTransform(session, true);
  useTable.setState({ tool: "strew", box: null, paintOn: "colour" });
  if (set !== undefined) chooseSet(set);
  if (!strewnLayerNow()) await addStrewnLayer(session);
}

/** Takes a set up. */
export function chooseSet(set: number): void {
  if (set !== useTable.getState().strewSet) useStrew.setState({ only: null });
  useTable.setState({ strewSet: set });
  useStrew.setState({ act: "strew" });
}

export const closeStrew = (): void => {
  chooseNoPieces();
  useTable.setState({ tool: "brush" });
};

/** The brush that the log names for a stroke that strews: none of its own is used. */
const NO_BRUSH = "pen-even";

/** What a stroke that strews begins with, or one that thins out. @param lifts the pen's other end is down */
export function strewBeginning(lifts: boolean): {
  brush: string;
  mode: "paint" | "lift";
  on: "colour";
  strew?: Strew;
} {
  const { act, manners, only, depth } = useStrew.getState();
  const { strewSet: set, picture } = useTable.getState();
  const base = { brush: NO_BRUSH, on: "colour" as const };
  if (lifts || act === "thin") return { ...base, mode: "lift" };
  const { on, horizon, amount, air } = depth;
  return {
    ...base,
    mode: "paint",
    strew: {
      ...mannerOf(set, manners),
      set,
      only,
      depth: on ? { horizon: horizon * (picture?.height ?? 1), amount, air } : null,
    },
  };
}

export const chooseNoPieces = (): void => useStrew.setState({ chosen: [], looks: [], way: [] });

/** Chooses pieces, and looks at them as they are now. */
export async function choosePieces(session: Session, ids: readonly number[]): Promise<void> {
  const layer = strewnLayerNow();
  if (!layer || ids.length === 0) return chooseNoPieces();
  const looked = await session.link.api.lookAtPieces(layer.id, ids);
  const looks = looked.ok ? looked.value : [];
  useStrew.setState({ looks, chosen: looks.map(({ id }) => id) });
}

/** What is selected becomes a picture of the set in hand where that is the picture's own, else of a new one. */
export async function collectPicture(session: Session): Promise<void> {
  const { picture, selected, strewSet } = useTable.getState();
  const layer = selected[0];
  if (!picture || !layer) return;
  if (!picture.selection)
    return void tell("Select what is to be strewn first: its paint becomes a picture of the set.");
  const taken = new Set(picture.strewn.map(({ number }) => number));
  let set = FIRST_OWN_SET;
  while (taken.has(set) && set < FIRST_OWN_SET + MOST_OWN_SETS - 1) set++;
  if (taken.has(strewSet)) set = strewSet;
  const name = taken.has(set) ? nameOfSet(set) : freeName(picture.strewn.map((own) => own.name));
  const done = await session.apply({ do: "strew.collect", layer, set, name });
  if (!done) return;
  useStrew.setState({ renewed: useStrew.getState().renewed + 1 });
  chooseSet(set);
  const count = useTable.getState().picture?.strewn.find(({ number }) => number === set)
    ?.pictures.length;
  tell(`“${name}” holds ${count === 1 ? "a picture" : `${count ?? 1} pictures`} to strew now.`);
}

function freeName(names: readonly string[]): string {
  for (let n = 1; ; n++) if (!names.includes(`Own set ${n}`)) return `Own set ${n}`;
}

/** A name for the layer that pieces come on before the others. */
export const newLayerId = (): string => nanoid(10);
