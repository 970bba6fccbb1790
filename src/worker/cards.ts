import { Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { headerSchema } from "../engine/picture/header";
import { type Brush, isForWash, isForWet, type StrokeMode } from "../engine/stroke/brush";
import { type Paper } from "../engine/paper/paper";
import { type Sample } from "../engine/stroke/sample";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";

/** A card's picture, px (twice its size on the screen). */
export const CARD = { width: 188, height: 96 };
const POINTS = 48;
/** Steps of time that a wash on a card is left to run and settle. */
const SETTLES = 90;
/** Largest brush that a card shows at its own size, px. */
const WIDEST = 34;

export type Painted = { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> };

/** Colours and size of a sheet that strokes are tried on. */
export type TrialSheet = {
  width: number;
  height: number;
  ground: string;
  colour: string;
  second: string;
};

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

/** How far a brush reaches beyond its size: hair is longer than the patch it grows on. */
function reach({ laying }: Brush): number {
  if (laying.kind === "hairs") return laying.spread * 0.5 + laying.length;
  return laying.kind === "spray" ? laying.spread : 1;
}

const cardSize = (brush: Brush): number =>
  Math.max(2, Math.min(WIDEST / Math.max(1, reach(brush) * 0.75), Math.max(4, brush.size)));

/** A stroke of a trial, with the brush that is tried unless it names another that ships. */
export type TrialStroke = { size: number; samples: Sample[]; mode: StrokeMode; brush?: string };

/** Paints strokes of one brush on a sheet of a paper, at its natural size. Returns the ms that the strokes took too. */
export function paintTrial(
  engine: Engine,
  brush: Brush,
  sheet: TrialSheet,
  strokes: readonly TrialStroke[],
  under: Paper,
): Painted & { ms: number } {
  const { width, height, ground, colour, second } = sheet;
  const paper = { ...under, scale: 1 };
  const work = engine.open(headerSchema.parse({ pampas: 1, width, height, ground, paper }));
  try {
    work.apply({ do: "layer.add", id: "trial", name: "trial", above: null });
    work.apply({ do: "brush.bring", brush });
    const started = performance.now();
    strokes.forEach(({ size, samples, mode, brush: other }, i) => {
      const { strength, id } = brush;
      work.apply({
        do: "stroke",
        layer: "trial",
        brush: other ?? id,
        size,
        mode,
        strength,
        colour,
        second,
        seed: 3 + i,
        samples,
      });
    });
    const ms = performance.now() - started;
    // A wash is judged by what becomes of it.
    if (isForWash(brush)) work.apply({ do: "time", steps: SETTLES });
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    const data = seen(engine, compositor, width, height);
    compositor.free();
    return { width, height, data, ms };
  } finally {
    work.release();
  }
}

/** All pixels of a small picture. */
function seen(
  engine: Engine,
  compositor: Compositor,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const data = new Uint8ClampedArray(width * height * 4);
  const keys = tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  compositor.pack(keys, 0, (key, address) => {
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
  });
  return data;
}

/** What a brush that only lifts or blends is shown on: a band of charcoal, of paint that is wet, or a wash. */
export function shadedWith(brush: Brush): string {
  if (isForWash(brush)) return "wash-flat";
  return isForWet(brush) ? "oil-blender" : "charcoal-vine";
}

/** Whether it shows only in what is there already. */
const needsShade = ({ does, laying }: Brush): boolean =>
  does !== null || (laying.kind === "wash" && laying.load === 0);

function shading(brush: Brush): TrialStroke[] {
  return [0.3, 0.5, 0.7].map((share) => {
    const y = CARD.height * share;
    const samples: Sample[] = [
      [0, 40, y, 0.6, 1.5, 0, 0],
      [300, CARD.width - 40, y - 3, 0.6, 1.5, 0, 0],
    ];
    return { size: 26, samples, mode: "paint", brush: shadedWith(brush) };
  });
}

/** Paints one brush's card. */
export function paintCard(
  engine: Engine,
  brush: Brush,
  colours: Pick<TrialSheet, "ground" | "colour" | "second">,
  paper: Paper,
): Painted {
  const stroke: TrialStroke = { size: cardSize(brush), samples: cardStroke(), mode: "paint" };
  const under = needsShade(brush) ? shading(brush) : [];
  // A card shows the whole of a brush that paints faintly on purpose.
  const whole = { ...brush, strength: 1 };
  return paintTrial(engine, whole, { ...CARD, ...colours }, [...under, stroke], paper);
}
