"use client";

import { type ComponentProps } from "react";
import { RestingSlider } from "./RestingSlider";

/** A slider with its word before it, on a line of its own. `word` is what stands there, `label` what it is about. */
export function SliderLine({
  word,
  title,
  ...slider
}: { word: string; title?: string } & ComponentProps<typeof RestingSlider>) {
  return (
    <div className="line">
      <label htmlFor={slider.id} title={title}>
        {word}
      </label>
      <RestingSlider {...slider} />
    </div>
  );
}
