import { Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { findBrush } from "../engine/media";
import { headerSchema } from "../engine/picture/header";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type Sample } from "../engine/stroke/sample";

/** A card's picture, px (twice its size on the screen). */
export const CARD = { width: 188, height: 96 };
const POINTS = 48;
/** Largest brush that a card shows at its own size, px. */
const WIDEST = 34;

/** The stroke on every card: light, heavy, light, leaning over toward the end. */
function cardStroke(): Sample[] {
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const u = i / POINTS;
    const x = 20 + u * (CARD.width - 40);
    const y = CARD.height / 2 - Math.sin((u * 1.16 - 0.08) * Math.PI * 2) * 17 + (0.5 - u) * 16;
    const pressure = 0.12 + 0.8 * Math.sin(Math.min(1, u * 1.02) * Math.PI) ** 1.2;
    return [i * 12, x, y, pressure, 1.2 - 0.35 * u, 0.9, 0];
  });
}

export type CardPicture = {
  brush: string;
  width: number;
  height: number;
  data: Uint8ClampedArray<ArrayBuffer>;
};

/** Paints one brush's card. */
export function paintCard(
  engine: Engine,
  brush: string,
  ground: string,
  colour: string,
): CardPicture {
  const { width, height } = CARD;
  const header = headerSchema.parse({
    pampas: 1,
    width,
    height,
    ground,
    paper: { kind: "cold-pressed", scale: 1 },
  });
  const work = engine.open(header);
  const size = Math.min(WIDEST, Math.max(5, findBrush(brush)?.size ?? 8));
  work.apply({ do: "layer.add", id: "card", name: "card", above: null });
  work.apply({
    do: "stroke",
    layer: "card",
    brush,
    size,
    colour,
    seed: 3,
    strength: 1,
    samples: cardStroke(),
  });
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  const data = new Uint8ClampedArray(width * height * 4);
  compositor.pack(
    tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height),
    0,
    (key, address) => {
      const left = tileColumn(key) * TILE_SIDE;
      const top = tileRow(key) * TILE_SIDE;
      const columns = Math.min(TILE_SIDE, width - left);
      for (let y = 0; y < Math.min(TILE_SIDE, height - top); y++) {
        const from = address + y * TILE_SIDE * 4;
        data.set(
          engine.store.heap.u8.subarray(from, from + columns * 4),
          ((top + y) * width + left) * 4,
        );
      }
    },
  );
  compositor.free();
  work.release();
  return { brush, width, height, data };
}
