import { arc, type Point, type Shape } from "../kit/shape";
import { BLACK, GREYS, type Panel, WHITE } from "./page";

const AT: Point = [1800, 1808];
const RADIUS = 336;

const onRim = (hour: number, radius: number): Point => {
  const a = ((hour - 3) / 12) * 2 * Math.PI;
  return [AT[0] + Math.cos(a) * radius, AT[1] + Math.sin(a) * radius];
};
/** A hand of the clock: a long diamond. */
const hand = (hour: number, length: number, half: number): Shape => [
  onRim(hour, length),
  onRim(hour + 3, half),
  onRim(hour + 6, 52),
  onRim(hour + 9, half),
];

/** 3: the clock, a minute before twelve. Every line points at it. */
export function clock(panel: Panel): void {
  panel.sheet.commands.push({
    do: "line.focus",
    layer: `${panel.group}.rays`,
    style: { brush: "pen-even", size: 22, strength: 1, colour: BLACK, second: WHITE, seed: 41 },
    at: [...AT],
    clear: [398, 398],
    gap: 15,
    chance: { width: 0.75, length: 0.42, gap: 0.85 },
    within: { left: 1160, top: 1310, right: 2352, bottom: 2306 },
  });
  panel.thing(arc(AT, RADIUS, RADIUS, 0, 2 * Math.PI, 72), 26);
  panel.ring(arc(AT, RADIUS - 34, RADIUS - 34, 0, 2 * Math.PI, 72), 7);
  panel.tone(
    [
      ...arc(AT, RADIUS - 40, RADIUS - 40, 0.5 * Math.PI, 1.22 * Math.PI, 30),
      ...arc([AT[0] + 90, AT[1] - 60], RADIUS - 30, RADIUS - 30, 1.16 * Math.PI, 0.6 * Math.PI, 30),
    ],
    GREYS.light,
  );
  for (let minute = 0; minute < 60; minute++) {
    const hour = minute / 5;
    if (minute % 5 === 0)
      panel.line([onRim(hour, RADIUS - 52), onRim(hour, RADIUS - 98)], 20, { press: () => 0.9 });
    else panel.fine([onRim(hour, RADIUS - 50), onRim(hour, RADIUS - 66)], 5);
  }
  // One minute to go.
  panel.fill(hand(11.97, 180, 17));
  panel.fill(hand(11.8, 264, 12));
  panel.fill(arc(AT, 26, 26));
  panel.fill(arc(AT, 9, 9), WHITE);
}
