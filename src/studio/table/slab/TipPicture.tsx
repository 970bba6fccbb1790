"use client";

import { rgbToHex } from "../../../engine/colour/oklch";
import { type Carried } from "../../../engine/oil/carried";
import { colourOf } from "../../../engine/pigment/pigment";

/** CSS px. */
const WIDTH = 44;
const HEIGHT = 22;
const FERRULE = 5;
/** So much paint reaches up to the ferrule, in full loads. */
const HEAPED = 1.2;

/** The tip of a brush as it is loaded: each strip in its paint, as high as it carries. */
export function TipPicture({ carried }: { carried: Carried }) {
  const wide = WIDTH / carried.length;
  const hair = HEIGHT - FERRULE;
  const load = carried.reduce((sum, [amount = 0]) => sum + amount, 0) / carried.length;
  const words = load < 0.005 ? "clean" : `${Math.round(load * 100)} of 100 loaded`;
  return (
    <svg
      className="tip-picture"
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`On the brush: ${words}`}
    >
      <title>{`On the brush: ${words}`}</title>
      <rect className="ferrule" width={WIDTH} height={FERRULE} rx={1.5} />
      <rect className="hair" y={FERRULE} width={WIDTH} height={hair} />
      {carried.map(([amount = 0, ...paint], i) => {
        if (amount < 0.002) return null;
        const high = Math.max(2, hair * Math.sqrt(Math.min(1, amount / HEAPED)));
        return (
          <rect
            key={i}
            x={i * wide}
            y={HEIGHT - high}
            width={wide + 0.4}
            height={high}
            fill={rgbToHex(colourOf(paint))}
          />
        );
      })}
    </svg>
  );
}
