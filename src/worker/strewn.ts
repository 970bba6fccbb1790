import { type Engine } from "../engine/engine";
import { type Point } from "../engine/lines/curve";
import { type Picture } from "../engine/picture/picture";
import { pieceAt, piecesIn } from "../engine/strew/find";
import { piecesOf } from "../engine/strew/heap-of-pieces";
import { type Piece } from "../engine/strew/piece";
import { madeSets, picturesIn } from "../engine/strew/sets";
import { CARD, type Painted } from "./cards";

/** A piece as the table shows that it is chosen: where it lies, and how. */
export type PieceLook = Pick<Piece, "id" | "x" | "y" | "matrix" | "opacity" | "blur">;

const lookOf = ({ id, x, y, matrix, opacity, blur }: Piece): PieceLook => ({
  id,
  x,
  y,
  matrix,
  opacity,
  blur,
});

type At = { engine: Engine; picture: Picture; layer: string };

const allOf = ({ engine, picture, layer }: At) => piecesOf(engine.store, picture, layer);

/** Pieces of these numbers that are there. */
export const lookAtPieces = (at: At, ids: readonly number[]): PieceLook[] => {
  const { byId } = allOf(at);
  return ids.flatMap((id) => {
    const piece = byId.get(id);
    return piece ? [lookOf(piece)] : [];
  });
};

/** Which pieces are meant: all, the uppermost at a place, or those whose middle lies in a loop. */
export type PieceChoice =
  { kind: "all" } | { kind: "at"; place: Point } | { kind: "loop"; loop: readonly Point[] };

export function choiceOfPieces(at: At, choice: PieceChoice): number[] {
  const all = allOf(at);
  if (choice.kind === "all") return all.pieces.map(({ id }) => id);
  if (choice.kind === "loop") return piecesIn(all, choice.loop).map(({ id }) => id);
  const found = pieceAt(all, ...choice.place);
  return found ? [found.id] : [];
}

/** Grounds that pictures are shown on: paper, and dusk for those that are pale. */
const GROUNDS = { paper: [244, 242, 238], dusk: [58, 66, 80] } as const;
/** Pictures on a card, their side and how far they lie apart, px. */
const ON_CARD = { most: 4, side: 64, gap: 40 };

/** A card for a set: its first pictures in a row, each a little before the last. */
export function setCard(engine: Engine, sheet: Picture, set: number): Painted {
  const { width, height } = CARD;
  const ground = madeSets[set]?.pale ? GROUNDS.dusk : GROUNDS.paper;
  const data = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < data.length; i += 4) data.set([...ground, 255], i);
  const count = Math.min(ON_CARD.most, picturesIn(sheet, set));
  const { side, gap } = ON_CARD;
  const left = Math.round((width - side - gap * (count - 1)) / 2);
  for (let n = 0; n < count; n++) {
    const texels = engine.bench.pieces.texels(sheet, set, n, side);
    const top = (height - side) / 2 + (n % 2 === 0 ? -8 : 8);
    layOver(data, texels, { side, left: left + n * gap, top });
  }
  return { width, height, data };
}

/** Lays texels over a card that is opaque. */
function layOver(
  data: Uint8ClampedArray,
  texels: Uint16Array,
  { side, left, top }: { side: number; left: number; top: number },
): void {
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const from = (y * side + x) * 4;
      const to = ((top + y) * CARD.width + left + x) * 4;
      const through = 1 - (texels[from + 3] as number) / 32767;
      for (let c = 0; c < 3; c++)
        data[to + c] =
          ((texels[from + c] as number) / 32767) * 255 + (data[to + c] as number) * through;
    }
}
