import { type Applying } from "../command/command";
import { SELECTION } from "../picture/picture";
import { isSelected } from "../select/inside";
import { piecesOf } from "./heap-of-pieces";
import { changePieces } from "./lay";

/** Takes away the pieces of a layer whose middle is selected. */
export function clearPieces(applying: Applying, layer: string): void {
  const { bench, picture } = applying;
  const selection = picture.plane(SELECTION);
  const gone = piecesOf(bench.store, picture, layer)
    .pieces.filter(({ x, y }) => isSelected(bench.store, selection, x, y))
    .map(({ id }) => id);
  if (gone.length > 0) changePieces(applying, layer, { gone, put: [] });
}
