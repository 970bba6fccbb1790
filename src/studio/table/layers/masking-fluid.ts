import { nanoid } from "nanoid";
import { isFluid } from "../../../engine/picture/picture";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** The colour of the film, and how much of it is seen: what lies under it stays to be judged. */
const FILM = "#d8a53c";
const SEEN = 0.72;

/** A film of masking fluid over all layers, with a brush in hand to lay it. */
export async function addFluid(session: Session): Promise<void> {
  const { picture } = useTable.getState();
  const top = picture?.layers.filter(({ group }) => group === null).at(-1);
  if (top) session.select([top.id]);
  const id = nanoid(10);
  await session.addLayerWith(id, { name: "Masking fluid" }, [
    { do: "layer.set", id, holds: true, tint: FILM, opacity: SEEN, clip: false },
  ]);
  useTable.setState({ tool: "brush", mode: "paint", paintOn: "colour" });
}

/** Rubs all masking fluid off the sheet. */
export async function rubOff(session: Session): Promise<void> {
  const films = useTable.getState().picture?.layers.filter(isFluid) ?? [];
  await session.applyAll(
    "rub masking fluid off",
    films.map(({ id }) => ({ do: "layer.remove", id })),
  );
}
