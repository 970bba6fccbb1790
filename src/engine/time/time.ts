import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { putTiles } from "../command/stroke";
import { Flow } from "./flow";

/** Steps of time a second. */
export const STEPS_A_SECOND = 30;
/** Two hours at once, at most. */
const MOST_STEPS = 216_000;

export const timeSchema = z.strictObject({
  do: z.literal("time"),
  /** Each 1/30 s. */
  steps: z.int().min(1).max(MOST_STEPS),
});

/** Puts in place what has run. */
export function finishFlow(applying: Applying, flow: Flow): string {
  for (const { layer, tiles } of flow.end()) putTiles(applying, layer, tiles);
  return "time";
}

/** Lets time pass: thinned paint runs. It is undone with what it followed. */
function passTime(applying: Applying, { steps }: z.infer<typeof timeSchema>): string {
  const flow = new Flow(applying.bench, applying.picture);
  flow.step(steps);
  return finishFlow(applying, flow);
}

export const timeCommand = defineCommand({ schema: timeSchema, apply: passTime, follows: true });
