import { type Applying } from "../command/command";
import { mapOf, type PlaceMap } from "../lines/moved";
import { type Warp } from "../transform/warp";
import { type Piece, settledPiece } from "./piece";
import { piecesOf } from "./heap-of-pieces";
import { changePieces } from "./lay";

/**
 * A piece where a map of the sheet takes it: moved, turned and stretched as the map does about its middle.
 * Null where that goes nowhere.
 */
export function movedPiece(piece: Piece, map: PlaceMap): Piece | null {
  const { x, y, matrix } = piece;
  const [a, b, c, d] = matrix;
  const [here, left, right, up, down] = [
    map(x, y),
    map(x - 0.5, y),
    map(x + 0.5, y),
    map(x, y - 0.5),
    map(x, y + 0.5),
  ];
  if (!here || !left || !right || !up || !down) return null;
  const [xx, yx] = [right[0] - left[0], right[1] - left[1]];
  const [xy, yy] = [down[0] - up[0], down[1] - up[1]];
  return settledPiece({
    ...piece,
    x: here[0],
    y: here[1],
    matrix: [xx * a + xy * b, yx * a + yy * b, xx * c + xy * d, yx * c + yy * d],
  });
}

/** Moves a layer's pieces: all, or those whose middle is meant. */
export function movePieces(
  applying: Applying,
  layer: string,
  warp: Warp,
  isMeant: (x: number, y: number) => boolean = () => true,
): void {
  const { bench, picture } = applying;
  const map = mapOf(warp);
  const { pieces } = piecesOf(bench.store, picture, layer);
  const put = pieces
    .filter(({ x, y }) => isMeant(x, y))
    .flatMap((piece) => movedPiece(piece, map) ?? []);
  if (put.length > 0) changePieces(applying, layer, { gone: [], put });
}
