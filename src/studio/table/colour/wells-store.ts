import { nanoid } from "nanoid";
import { create } from "zustand";
import { MOST_COLOURS, type Wells } from "../../../engine/colour/wells";
import { remember, type Session } from "../session";
import { tell } from "../../notices/notices";
import { useTable } from "../table-store";

/** Wells that are at hand in every picture, and which set is open. */
export const useWells = create<{ shared: Wells[]; open: string | null }>()(() => ({
  shared: [],
  open: null,
}));

export type Place = "picture" | "shared";

/** All sets, those of the picture first, and where each is kept. */
export function allWells(
  own: readonly Wells[],
  shared: readonly Wells[],
): { wells: Wells; place: Place }[] {
  return [
    ...own.map((wells) => ({ wells, place: "picture" as const })),
    ...shared.map((wells) => ({ wells, place: "shared" as const })),
  ];
}

async function put(session: Session, place: Place, sets: readonly Wells[]): Promise<boolean> {
  if (place === "picture") return session.apply({ do: "wells.set", wells: [...sets] });
  useWells.setState({ shared: [...sets] });
  await remember({ wells: [...sets] });
  return true;
}

const setsAt = (place: Place): readonly Wells[] =>
  place === "picture" ? (useTable.getState().picture?.wells ?? []) : useWells.getState().shared;

/** Exchanges a set for a changed one; null takes it away. */
export async function changeWells(
  session: Session,
  place: Place,
  id: string,
  change: ((wells: Wells) => Wells) | null,
): Promise<void> {
  const sets = setsAt(place);
  const next = change
    ? sets.map((wells) => (wells.id === id ? change(wells) : wells))
    : sets.filter((wells) => wells.id !== id);
  await put(session, place, next);
}

/** A new set, kept with the picture. */
export async function addWells(
  session: Session,
  name: string,
  colours: Wells["colours"],
): Promise<void> {
  const id = nanoid(10);
  const own = setsAt("picture");
  const made = { id, name: name.slice(0, 80) || "Wells", colours: colours.slice(0, MOST_COLOURS) };
  if (await put(session, "picture", [...own, made])) useWells.setState({ open: id });
}

/** How many colours are taken from a file or a pin. */
const FROM_FILE = 12;

/** A set of the colours that stand for a picture in a file. */
export async function wellsOfFile(
  session: Session,
  name: string,
  bytes: Uint8Array,
): Promise<void> {
  const answer = await session.link.api.paletteOfFile(bytes, FROM_FILE);
  if (!answer.ok) return tell(`No colours were taken from “${name}”: ${answer.why}.`);
  await addWells(
    session,
    `From ${name}`,
    answer.value.map((hex) => ({ hex, name: "" })),
  );
  tell(`${answer.value.length} colours of “${name}” are in the wells.`);
}

/** Keeps a set for all pictures, or with this one alone. */
export async function moveWells(session: Session, place: Place, wells: Wells): Promise<void> {
  const other: Place = place === "picture" ? "shared" : "picture";
  const fresh = { ...wells, id: nanoid(10) };
  if (!(await put(session, other, [...setsAt(other), fresh]))) return;
  await changeWells(session, place, wells.id, null);
  useWells.setState({ open: fresh.id });
}
