import { create } from "zustand";
import { type Box } from "../../../engine/tiles/layout";
import { type Filter } from "../../../engine/transform/filters";
import { type LiftedPicture } from "../../../worker/lifted-picture";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { tellItDries } from "../dried";
import { useTable } from "../table-store";
import { atRest } from "../../../engine/transform/free";
import { isAtRest, type Placement, warpOf } from "./placement";

/** A piece of the picture in hand: what it is, and where it has been put so far. */
export type Piece = LiftedPicture & { layers: string[]; box: Box | null };

export type TransformState = {
  piece: Piece | null;
  placement: Placement;
  filter: Filter;
  /** Cells of a mesh across and down. */
  cells: number;
  /** Drawn by the page while it is dragged, and until the engine has put it down. */
  dragged: boolean;
  set: (changes: Partial<Omit<TransformState, "set">>) => void;
};

const nowhere: Placement = {
  kind: "free",
  free: { x: 0, y: 0, scaleX: 1, scaleY: 1, angle: 0, skew: 0 },
};

export const useTransform = create<TransformState>()((set) => ({
  piece: null,
  placement: nowhere,
  filter: "bicubic",
  cells: 3,
  dragged: false,
  set: (changes) => set(changes),
}));

/** Takes what the selected layers hold in hand, or lays it down again. */
export async function toggleTransform(session: Session): Promise<void> {
  if (useTable.getState().tool === "transform") return endTransform(session, true);
  await beginTransform(session, null);
}

export async function beginTransform(session: Session, box: Box | null): Promise<void> {
  const { selected, set } = useTable.getState();
  if (useTransform.getState().piece) await endTransform(session, true);
  if (selected.length === 0) return tell("Choose a layer first.");
  const answer = await session.link.api.beginTransform(selected, box);
  if (!answer.ok) {
    set({ tool: "brush" });
    return tell(answer.why);
  }
  tellItDries(selected);
  const piece = { ...answer.value, layers: selected, box };
  useTransform.setState({
    piece,
    placement: { kind: "free", free: atRest(piece.from) },
    dragged: false,
  });
  set({ tool: "transform" });
}

/** Shows the piece where it is being dragged to. */
export function drag(session: Session, placement: Placement): void {
  const { dragged } = useTransform.getState();
  if (!dragged) void session.link.api.takeUp();
  useTransform.setState({ placement, dragged: true });
}

/** The hand rests: the engine puts the piece there for good, until it is taken up again. */
export async function putDown(session: Session): Promise<void> {
  const { piece, placement, filter } = useTransform.getState();
  if (!piece) return;
  const warp = isAtRest(piece.from, placement) ? null : warpOf(piece.from, placement);
  await session.changed(session.link.api.putDown(warp, filter));
  // Taken up again meanwhile: it goes on being dragged.
  if (useTransform.getState().placement === placement) useTransform.setState({ dragged: false });
}

/** Puts the piece somewhere at once, as numbers do. */
export async function place(session: Session, placement: Placement): Promise<void> {
  useTransform.setState({ placement });
  await putDown(session);
}

/** Keeps the piece where it lies, or puts it back where it came from. */
export async function endTransform(session: Session, keep: boolean): Promise<void> {
  if (!useTransform.getState().piece) return;
  useTransform.setState({ piece: null, dragged: false, placement: nowhere });
  if (useTable.getState().tool === "transform") useTable.setState({ tool: "brush" });
  await session.link.api.endTransform(keep);
}

/** Another tool or another layer: what is in hand is kept where it lies. Returns a function that stops. */
export const keepWhenLeft = (session: Session): (() => void) =>
  useTable.subscribe((now, before) => {
    if (now.tool === before.tool && now.selected === before.selected) return;
    const { piece } = useTransform.getState();
    if (!piece) return;
    const same = now.selected.join() === piece.layers.join();
    if (now.tool !== "transform" || !same) void endTransform(session, true);
  });
