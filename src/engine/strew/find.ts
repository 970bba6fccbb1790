import { type Point } from "../lines/curve";
import { isInside } from "../lines/find";
import { type Pieces } from "./heap-of-pieces";
import { isOnPiece } from "./lay";
import { type Piece } from "./piece";

/** The uppermost piece that a place lies on; null where none is. */
export function pieceAt({ pieces }: Pieces, x: number, y: number): Piece | null {
  return pieces.findLast((piece) => isOnPiece(piece, x, y)) ?? null;
}

/** Pieces whose middle lies in a loop. */
export const piecesIn = ({ pieces }: Pieces, loop: readonly Point[]): Piece[] =>
  pieces.filter(({ x, y }) => isInside(loop, x, y));
