"use client";

import { useEffect } from "react";
import { type Session } from "../session";
import { amountsNow, useTable } from "../table-store";
import { TiltLevel } from "./TiltLevel";

/** How much water is in a brush for washes, and how the sheet is tilted. */
export function WaterCare({ session }: { session: Session }) {
  const { water } = useTable((state) => amountsNow(state));
  const setAmounts = useTable((state) => state.setAmounts);
  useEffect(() => void session.link.api.prepareWash(), [session]);
  const percent = Math.round(water * 100);
  return (
    <>
      <label title="100 is what the brush is made for; less leaves it damp, more floods the sheet">
        Water
        <input
          type="range"
          className="swell"
          min={10}
          max={300}
          step={10}
          value={percent}
          aria-label="Water"
          onChange={(event) => setAmounts({ water: Number(event.target.value) / 100 })}
        />
        <output>{percent}</output>
      </label>
      <TiltLevel session={session} />
    </>
  );
}
