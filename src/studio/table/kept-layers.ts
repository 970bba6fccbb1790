import { isFluid } from "../../engine/picture/picture";
import { openDatabase } from "../../storage/database";
import { WorkingLayers } from "../../storage/working-layers";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** Which layers of a picture were chosen when it was last on the table; none where that cannot be read. */
export async function lastChosen(id: string): Promise<string[]> {
  try {
    const db = await openDatabase();
    const ids = await new WorkingLayers(db).of(id);
    db.close();
    return ids;
  } catch {
    return [];
  }
}

/**
 * Takes up the layers that were chosen when the picture was last on the table, as far as they are still there; else
 * the topmost one that is no masking fluid.
 */
export function takeUpLayers(session: Session, last: readonly string[]): void {
  const layers = useTable.getState().picture?.layers ?? [];
  const still = last.filter((id) => layers.some((layer) => layer.id === id));
  const top = layers.findLast((layer) => !isFluid(layer)) ?? layers.at(-1);
  if (still.length > 0) session.select(still);
  else if (top) session.select([top.id]);
}

/** Remembers which layers of a picture are chosen, from now on. Returns a function that stops. */
export function keepChosen(id: string): () => void {
  let last = Promise.resolve();
  const keep = async (ids: readonly string[]): Promise<void> => {
    const db = await openDatabase();
    await new WorkingLayers(db).keep(id, ids);
    db.close();
  };
  return useTable.subscribe(({ picture, selected }, before) => {
    if (picture?.id !== id || picture.readOnly || selected === before.selected) return;
    // One after the other: the last one chosen is the one that stays. Without a store the table still works.
    last = last.then(() => keep(selected)).catch(() => undefined);
  });
}
