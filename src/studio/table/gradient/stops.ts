import { MOST_STOPS, type Stops } from "../../../engine/gradient/gradient";

export type Stop = Stops[number];

/** What a strip shows of stops: a CSS gradient, mixed in OKLab as the engine mixes. */
export function stripOf(stops: Stops): string {
  const parts = stops.map(({ at, colour, alpha }) => {
    const rest = Math.round(alpha * 255)
      .toString(16)
      .padStart(2, "0");
    return `${colour}${rest} ${Math.round(at * 1000) / 10}%`;
  });
  return `linear-gradient(90deg in oklab, ${parts.join(", ")})`;
}

/** A stop elsewhere, between its neighbours: stops never change their order. */
export function movedStop(stops: Stops, index: number, at: number): Stops {
  const least = stops[index - 1]?.at ?? 0;
  const most = stops[index + 1]?.at ?? 1;
  const held = Math.round(Math.min(most, Math.max(least, at)) * 1000) / 1000;
  return stops.map((stop, i) => (i === index ? { ...stop, at: held } : stop));
}

/**
 * One stop more at a place of the strip, as solid as the gradient is there.
 * @returns where it is among the stops, or null where there are as many as there may be
 */
export function withStop(
  stops: Stops,
  at: number,
  colour: string,
): { stops: Stops; index: number } | null {
  if (stops.length >= MOST_STOPS) return null;
  const found = stops.findIndex((stop) => stop.at > at);
  const index = found < 0 ? stops.length : found;
  const [low, high] = [stops[index - 1], stops[index]];
  const span = low && high ? high.at - low.at : 0;
  const alpha =
    low && high && span > 0
      ? low.alpha + ((high.alpha - low.alpha) * (at - low.at)) / span
      : (low ?? high)?.alpha;
  const stop = { at: Math.round(at * 1000) / 1000, colour, alpha: alpha ?? 1 };
  return { stops: [...stops.slice(0, index), stop, ...stops.slice(index)], index };
}

/** Without one of the stops; two always stay. */
export const withoutStop = (stops: Stops, index: number): Stops =>
  stops.length <= 2 ? stops : stops.filter((_, i) => i !== index);

/** A stop in another colour, or more or less clear. */
export const changedStop = (
  stops: Stops,
  index: number,
  changes: Partial<Pick<Stop, "colour" | "alpha">>,
): Stops => stops.map((stop, i) => (i === index ? { ...stop, ...changes } : stop));

/** The same stops from last to first. */
export const turnedStops = (stops: Stops): Stops =>
  stops.toReversed().map((stop) => ({ ...stop, at: Math.round((1 - stop.at) * 1000) / 1000 }));
