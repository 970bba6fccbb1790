import { type GradientPaint, type Stops } from "../../../engine/gradient/gradient";
import { type Session } from "../session";
import { layersWith, TRIED } from "../layers/trying";
import { type GradientTo, type Point, useRegion } from "../region/region-store";
import { useTable } from "../table-store";

/** The least length of a gradient, picture px: a press without a drag lays nothing. */
const SHORTEST = 2;
/** With Shift it goes in steps of this many radians. */
const STEP = Math.PI / 12;

/** Where a gradient ends that began at one point, turned to the nearest step. */
export function straightened([x0, y0]: Point, [x, y]: Point): Point {
  const length = Math.hypot(x - x0, y - y0);
  const angle = Math.round(Math.atan2(y - y0, x - x0) / STEP) * STEP;
  return [x0 + Math.cos(angle) * length, y0 + Math.sin(angle) * length];
}

/** Most points that a drawn path keeps: as many as a gradient may have. */
const MOST_POINTS = 64;

/** Points of a way, evenly left out where there are too many; its ends stay. */
function thinned(way: readonly Point[]): [number, number][] {
  const step = Math.max(1, (way.length - 1) / (MOST_POINTS - 1));
  const count = Math.min(way.length, MOST_POINTS);
  return Array.from({ length: count }, (_, i) => {
    const [x, y] = way[Math.round(i * step)] as Point;
    return [x, y];
  });
}

/**
 * The gradient that a way of the hand means, in the colours in hand or stops of its own: between its ends, around
 * its beginning, or along it.
 * @returns null where it is too short
 */
export function gradientAlong(
  way: readonly Point[],
  { shape, to, own }: { shape: GradientPaint["shape"]; to: GradientTo; own: Stops },
  { colour, second }: { colour: string; second: string },
): GradientPaint | null {
  const [first, end] = [way[0], way.at(-1)];
  if (!first || !end) return null;
  const [[x0, y0], [x1, y1]] = [first, end];
  const length = way
    .slice(1)
    .reduce(
      (sum, [x, y], i) => sum + Math.hypot(x - (way[i]?.[0] ?? x), y - (way[i]?.[1] ?? y)),
      0,
    );
  if (length < SHORTEST) return null;
  const last = to === "second" ? { colour: second, alpha: 1 } : { colour, alpha: 0 };
  return {
    kind: "gradient",
    shape,
    from: [x0, y0],
    to: [x1, y1],
    path: shape === "path" ? thinned(way) : [],
    stops:
      to === "stops"
        ? own
        : [
            { at: 0, colour, alpha: 1 },
            { at: 1, ...last },
          ],
  };
}

export const gradientInHand = (): GradientPaint | null => {
  const { path, gradientShape: shape, gradientTo: to, gradientStops: own } = useRegion.getState();
  return gradientAlong(path, { shape, to, own }, useTable.getState());
};

/** Shows the gradient that is being drawn on the working layer. */
export function showGradient(session: Session): void {
  const { picture, selected } = useTable.getState();
  const paint = gradientInHand();
  const [layer] = selected;
  if (!picture || !paint || !layer) return;
  const layers = layersWith(picture.layers, [layer], picture.selection, (own) => ({
    kind: "fill",
    paint,
    clip: own.lockTransparency,
  }));
  void session.link.api.previewLayers(layers, TRIED);
}

/** Lays the gradient that was drawn. */
export async function layGradient(session: Session, paint: GradientPaint | null): Promise<void> {
  const state = useTable.getState();
  const [layer] = state.selected;
  if (paint && layer) {
    if (useRegion.getState().gradientTo !== "stops") state.useColour();
    await session.apply({ do: "gradient", layer, paint });
  }
  await session.link.api.previewLayers(null, null);
}
