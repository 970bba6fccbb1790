import { type GradientPaint } from "../../../engine/gradient/gradient";
import { type Session } from "../session";
import { layersWith, TRIED } from "../layers/trying";
import { type Point, useRegion } from "../region/region-store";
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

/** The gradient between two points in the colours in hand; null where they are too near each other. */
export function gradientBetween(
  [x0, y0]: Point,
  [x1, y1]: Point,
  { shape, to }: { shape: "linear" | "radial"; to: "second" | "nothing" },
  { colour, second }: { colour: string; second: string },
): GradientPaint | null {
  if (Math.hypot(x1 - x0, y1 - y0) < SHORTEST) return null;
  const last = to === "second" ? { colour: second, alpha: 1 } : { colour, alpha: 0 };
  return {
    kind: "gradient",
    shape,
    from: [x0, y0],
    to: [x1, y1],
    path: [],
    stops: [
      { at: 0, colour, alpha: 1 },
      { at: 1, ...last },
    ],
  };
}

export const gradientInHand = (): GradientPaint | null => {
  const { path, gradientShape: shape, gradientTo: to } = useRegion.getState();
  const [from, end] = [path[0], path.at(-1)];
  return from && end ? gradientBetween(from, end, { shape, to }, useTable.getState()) : null;
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
    state.useColour();
    await session.apply({ do: "gradient", layer, paint });
  }
  await session.link.api.previewLayers(null, null);
}
