import { type CommandInput } from "../../engine/command/commands";
import { type PictureState } from "../../worker/protocol";
import { tell } from "../notices/notices";
import { useTable } from "./table-store";

/** Names as they are said: two of them, and how many more. */
function named(names: readonly string[]): string {
  const first = names.slice(0, 2).map((name) => `“${name}”`);
  const more = names.length - first.length;
  return more > 0 ? `${first.join(", ")} and ${more} more` : first.join(" and ");
}

const namesOf = ({ layers }: PictureState, ids: readonly string[]): string[] =>
  layers.filter(({ id }) => ids.includes(id)).map(({ name }) => name);

/** Says of layers that are wet that what is begun with them dries them. */
export function tellItDries(ids: readonly string[]): void {
  const { picture } = useTable.getState();
  if (!picture) return;
  const wet = namesOf(
    picture,
    ids.filter((id) => picture.wet.includes(id)),
  );
  if (wet.length > 0)
    tell(
      `${named(wet)} ${wet.length > 1 ? "are" : "is"} wet and dries as it is moved. Undo makes it wet again.`,
    );
}

/** Says of layers that were wet that a change dried them. Of those that are gone only a merge dried any. */
export function tellWhatDried(before: PictureState | null, by: CommandInput["do"]): void {
  const { picture } = useTable.getState();
  if (!before || !picture) return;
  const stays = (id: string): boolean => picture.layers.some((layer) => layer.id === id);
  const dried = namesOf(
    before,
    before.wet.filter((id) => !picture.wet.includes(id) && (stays(id) || by === "layer.merge")),
  );
  if (dried.length > 0) tell(`${named(dried)} dried for it. Undo makes it wet again.`);
}
