import { type Applying } from "../command/command";
import { putTiles } from "../command/stroke";
import { RunningWash } from "./running-wash";

/** How soon warm air dries. */
const PACE = 10;
/** No wash takes longer: what is still damp then is called dry. */
const MOST_STEPS = 1200;

/** Dries a layer's washes with warm air, and waits for it. */
export function blowDry(applying: Applying, layer: string): void {
  const running = new RunningWash(applying.bench, applying.picture, layer, PACE);
  for (let i = 0; i < MOST_STEPS && !running.isAtRest; i++) {
    running.step();
    if (i % 10 === 0) applying.tell("Drying", i / MOST_STEPS);
  }
  running.isAtRest = true;
  putTiles(applying, layer, running.end());
}
