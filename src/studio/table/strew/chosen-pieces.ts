import { type CommandInput } from "../../../engine/command/commands";
import { type PieceLook } from "../../../worker/strewn";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Turn, turnMatrix } from "../turn";
import { choosePieces, newLayerId, type Point, strewnLayerNow, useStrew } from "./strew-store";

type StrewCommand = Extract<CommandInput, { do: `strew.${string}` }>;

/** The chosen pieces of the layer that is worked on; null where there are none. */
export function chosenNow(): { layer: string; pieces: number[] } | null {
  const layer = strewnLayerNow();
  const { chosen } = useStrew.getState();
  return layer && chosen.length > 0 ? { layer: layer.id, pieces: [...chosen] } : null;
}

/** The middle of the chosen pieces, and how far they reach from there, px. */
export function middleOf(looks: readonly PieceLook[]): { at: Point; reach: number } {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y, matrix } of looks) {
    const half = Math.hypot(matrix[0], matrix[1]) * 0.8;
    left = Math.min(left, x - half);
    top = Math.min(top, y - half);
    right = Math.max(right, x + half);
    bottom = Math.max(bottom, y + half);
  }
  return {
    at: [(left + right) / 2, (top + bottom) / 2],
    reach: Math.hypot(right - left, bottom - top) / 2,
  };
}

/** Moves the chosen pieces by so much; null where none is chosen. */
export function moved([dx, dy]: Point): StrewCommand | null {
  const chosen = chosenNow();
  return chosen && { do: "strew.move", ...chosen, warp: matrix([1, 0, dx, 0, 1, dy, 0, 0, 1]) };
}

/** Turns the chosen pieces about a place, radians clockwise, and makes them so many times as large. */
export function turned(at: Point, turn: Turn): StrewCommand | null {
  const chosen = chosenNow();
  return chosen && { do: "strew.move", ...chosen, warp: matrix(turnMatrix(at, turn)) };
}

const matrix = (
  of: [number, number, number, number, number, number, number, number, number],
): Extract<StrewCommand, { do: "strew.move" }>["warp"] => ({ kind: "matrix", matrix: of });

/** Does something with the chosen pieces, and looks at what is left of them. */
export async function withChosen(
  session: Session,
  make: (chosen: { layer: string; pieces: number[] }) => StrewCommand,
): Promise<void> {
  const chosen = chosenNow();
  if (!chosen) return;
  await session.apply(make(chosen));
  await choosePieces(session, chosen.pieces);
}

/** Takes the chosen pieces away. @returns whether there were any */
export function removePieces(session: Session): boolean {
  const chosen = chosenNow();
  if (!chosen) return false;
  void session.apply({ do: "strew.remove", ...chosen });
  return true;
}

const NUDGES: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Whether a key moves the chosen pieces: an arrow, where the picture has the focus. */
export const nudgesPieces = ({ key }: KeyboardEvent, isOnPicture: boolean): boolean =>
  isOnPicture &&
  key in NUDGES &&
  useTable.getState().tool === "strew" &&
  useStrew.getState().chosen.length > 0;

export async function nudgePieces(session: Session, key: string, far: boolean): Promise<void> {
  const [dx, dy] = NUDGES[key] ?? [0, 0];
  const by = far ? 10 : 1;
  const command = moved([dx * by, dy * by]);
  if (!command) return;
  await session.apply(command);
  await choosePieces(session, useStrew.getState().chosen);
}

/** Chooses every piece of the layer. */
export async function chooseAllPieces(session: Session): Promise<void> {
  const layer = strewnLayerNow();
  if (!layer) return;
  const all = await session.link.api.choosePieces(layer.id, { kind: "all" });
  if (all.ok) await choosePieces(session, all.value);
}

/** A copy of the chosen pieces, a little aside; the copies are chosen. */
export async function duplicatePieces(session: Session): Promise<void> {
  const chosen = chosenNow();
  if (!chosen) return;
  const aside = (16 * window.devicePixelRatio) / useTable.getState().view.zoom;
  await session.apply({ do: "strew.duplicate", ...chosen, by: [aside, aside] });
  const all = await session.link.api.choosePieces(chosen.layer, { kind: "all" });
  if (!all.ok) return;
  // New pieces take the highest numbers.
  const newest = [...all.value].sort((a, b) => a - b).slice(-chosen.pieces.length);
  await choosePieces(session, newest);
}

/** The chosen pieces become paint on a new layer on top, the others where they are. */
export async function placeBefore(session: Session): Promise<void> {
  const chosen = chosenNow();
  const { picture } = useTable.getState();
  const layer = picture?.layers.find(({ id }) => id === chosen?.layer);
  const above = picture?.layers.at(-1)?.id;
  if (!chosen || !layer || !above) return;
  const id = newLayerId();
  const before = { pieces: chosen.pieces, id, name: `${layer.name} before`.slice(0, 120), above };
  if (await session.apply({ do: "strew.place", layer: chosen.layer, before })) session.select([id]);
}
