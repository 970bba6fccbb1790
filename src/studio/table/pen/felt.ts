import { type Curve, monotoneCubic } from "../../../engine/stroke/curve";
import { useTable } from "../table-store";

const asIs = (pressure: number): number => pressure;
/** A curve that changes nothing: then nothing is lost to rounding either. */
const isStraight = (curve: Curve): boolean =>
  curve.length === 2 && curve.every(([x, y]) => x === y);

let known: { curve: Curve; at: (pressure: number) => number } | null = null;

/** How hard a press is felt, 0…1, by the curve that the person has set. @param pressure as the pen reports it */
export function felt(pressure: number): number {
  const { curve } = useTable.getState().pen;
  if (known?.curve !== curve)
    known = { curve, at: isStraight(curve) ? asIs : monotoneCubic(curve) };
  return Math.min(1, Math.max(0, known.at(Math.min(1, pressure))));
}
