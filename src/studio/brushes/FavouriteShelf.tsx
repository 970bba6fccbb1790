"use client";

import { kitOrder, useTable } from "../table/table-store";
import { type Session } from "../table/session";
import { BrushCard } from "./BrushCard";
import { FAVOURITES_KIT, kitsOf, useBrushBox } from "./brush-box";

const WIDTH = 416;
const HEIGHT = 244;
const EDGE = 8;

/** Favourites laid out where the pen is, while their key is held. */
export function FavouriteShelf({ session }: { session: Session }) {
  const shelf = useTable((state) => state.shelf);
  const stage = useTable((state) => state.stage);
  const box = useBrushBox();
  if (!shelf) return null;
  const kit = kitsOf(box, kitOrder(stage)).find(({ name }) => name === FAVOURITES_KIT);
  const left = Math.max(EDGE, Math.min(shelf.width - WIDTH - EDGE, shelf.x - WIDTH / 2));
  const top = Math.max(EDGE, Math.min(shelf.height - HEIGHT - EDGE, shelf.y + 18));
  return (
    <div
      className="favourites"
      role="radiogroup"
      aria-label="Favourites"
      style={{ left, top, width: WIDTH }}
    >
      {kit ? (
        kit.brushes.map((brush) => <BrushCard key={brush.id} session={session} brush={brush} />)
      ) : (
        <p className="quiet">
          No favourites yet. Press the star under the picture, and the brush in hand comes here.
        </p>
      )}
    </div>
  );
}
