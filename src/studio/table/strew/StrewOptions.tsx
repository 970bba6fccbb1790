"use client";

import { useStrew } from "./strew-store";

const HINTS = {
  strew: "Draw to strew. Pieces stay movable until they are placed as paint.",
  thin: "Draw over pieces to take them away; at less strength only some of them go",
  choose: "Tap a piece or loop around some; drag one to move what is chosen, Shift adds",
} as const;

/** What the hand does with pieces now. */
export function StrewOptions() {
  const act = useStrew((state) => state.act);
  return <span>{HINTS[act]}</span>;
}
