"use client";

import { useState } from "react";
import { onceRested } from "./once-rested";

/** What a slider shows once a value has been set: that which the hand has gone on to meanwhile, else what is kept. */
export const goneOnFrom =
  (value: number) =>
  (now: number | null): number | null =>
    now === value ? null : now;

/** A slider that sets what it is about once the hand rests; until then what it would be is shown, where that can be. */
export function RestingSlider({
  id,
  label,
  most,
  step = 1,
  least = 0,
  value,
  show,
  settle,
}: {
  id: string;
  label: string;
  least?: number;
  most: number;
  step?: number;
  value: number;
  show?: (value: number) => void;
  settle: (value: number) => Promise<unknown>;
}) {
  const [sliding, setSliding] = useState<number | null>(null);
  const slide = (slider: HTMLElement, next: number): void => {
    setSliding(next);
    show?.(next);
    onceRested(slider, () => void settle(next).then(() => setSliding(goneOnFrom(next))));
  };
  return (
    <input
      id={id}
      type="range"
      className="swell"
      min={least}
      max={most}
      step={step}
      value={sliding ?? value}
      aria-label={label}
      onChange={(event) => slide(event.target, Number(event.target.value))}
    />
  );
}
