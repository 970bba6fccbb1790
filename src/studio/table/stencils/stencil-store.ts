import { nanoid } from "nanoid";
import { create } from "zustand";
import { type ShapeWay } from "../../../engine/select/shape-of";
import { type Stencil } from "../../../engine/stencil/stencil";
import { type Free } from "../../../engine/transform/free";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";

type StencilState = {
  /** The stencil that is in hand, to be put somewhere else; null: none. */
  inHand: string | null;
  /** Where it is while it is dragged; null: where it lies. */
  dragged: Free | null;
  /** Whether what stencils cover is seen under a veil. */
  veiled: boolean;
};

export const useStencils = create<StencilState>()(() => ({
  inHand: null,
  dragged: null,
  veiled: true,
}));

const stencilsNow = (): readonly Stencil[] => useTable.getState().picture?.stencils ?? [];

function nextName(): string {
  const taken = new Set(stencilsNow().map(({ name }) => name));
  let n = 1;
  while (taken.has(`Stencil ${n}`)) n++;
  return `Stencil ${n}`;
}

/** Cuts a stencil from what is selected; the outline goes, for the stencil stands in its place. */
export async function cutFromSelection(session: Session): Promise<void> {
  const id = nanoid(10);
  const name = nextName();
  await session.applyAll("cut a stencil", [
    { do: "stencil.add", id, name, from: { kind: "selection" } },
    { do: "select.none" },
  ]);
}

/** Cuts a stencil from what the working layer holds. */
export async function cutFromLayer(session: Session, by: ShapeWay): Promise<void> {
  const [layer] = useTable.getState().selected;
  if (layer === undefined) return tell("Choose a layer first.");
  const from = { kind: "layer", layer, by } as const;
  await session.apply({ do: "stencil.add", id: nanoid(10), name: nextName(), from });
}

/** Cuts a stencil from a picture's shape, and takes it in hand. */
export async function cutFromFile(session: Session, file: File): Promise<void> {
  const id = nanoid(10);
  const name = file.name.replace(/\.\w+$/, "").slice(0, 120) || nextName();
  const bytes = new Uint8Array(await file.arrayBuffer());
  const answer = await session.link.api.cutStencil(id, name, bytes);
  if (!answer.ok) return tell(`“${file.name}” makes no stencil: ${answer.why}.`);
  takeInHand(id);
}

export function takeInHand(id: string): void {
  useTable.setState({ tool: "brush" });
  useStencils.setState({ inHand: id, dragged: null });
}

export const letGo = (): void => useStencils.setState({ inHand: null, dragged: null });

export type StencilChanges = Partial<Pick<Stencil, "name" | "way" | "on" | "place">>;

export const change = (
  session: Session,
  ids: readonly string[],
  changes: StencilChanges,
): Promise<boolean> => session.apply({ do: "stencil.set", ids: [...ids], changes });

/** Turns card into hole: what was held back is let through. */
export const invert = (session: Session, { id, way }: Stencil): Promise<boolean> =>
  change(session, [id], { way: way === "holds" ? "lets through" : "holds" });

/** Lays all stencils on the sheet, or puts all of them by. */
export async function layAll(session: Session, on: boolean): Promise<void> {
  const ids = stencilsNow()
    .filter((stencil) => stencil.on !== on)
    .map(({ id }) => id);
  if (ids.length > 0) await change(session, ids, { on });
  if (!on) letGo();
}

export async function throwAway(session: Session, id: string): Promise<void> {
  if (useStencils.getState().inHand === id) letGo();
  await session.apply({ do: "stencil.remove", id });
}

/** The stencil lies where it was dragged to. */
export async function putDown(session: Session): Promise<void> {
  const { inHand, dragged } = useStencils.getState();
  if (inHand === null || !dragged) return;
  await change(session, [inHand], { place: dragged });
  // Taken up again meanwhile: it goes on being dragged.
  if (useStencils.getState().dragged === dragged) useStencils.setState({ dragged: null });
}

/** Another tool: the stencil in hand is let go. Returns a function that stops. */
export const letGoWhenLeft = (): (() => void) =>
  useTable.subscribe(({ tool }) => {
    if (tool !== "brush" && useStencils.getState().inHand !== null) letGo();
  });
