"use client";

import { type Care } from "../../../worker/brushes-in-hand";
import { brushById } from "../../brushes/brush-box";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { amountsNow, useParts, useTable } from "../table-store";

const cares: { care: Care; label: string; hint: string }[] = [
  { care: "dip", label: "Dip", hint: "Load the brush with the colour in hand, up to its strength" },
  { care: "wipe", label: "Wipe", hint: "Draw the brush through a rag: most of its paint is gone" },
  { care: "rinse", label: "Rinse", hint: "Wash the brush out" },
];

/** Whether a brush goes on with what is on it, and what can be done to it between strokes. */
export function BrushCare({ session }: { session: Session }) {
  const { keepsPaint, brush, colour, set } = useParts("keepsPaint", "brush", "colour", "set");
  const { strength, thinner } = useTable((state) => amountsNow(state));
  const setAmounts = useTable((state) => state.setAmounts);
  const runs = useTable((state) => {
    const laying = brushById(state.brush)?.laying;
    return laying?.kind === "bristles" && !laying.dries;
  });
  return (
    <>
      {runs && (
        <label title="Thinned paint lies thin and runs down the sheet; at 100 the brush lays thinner alone">
          Thinner
          <input
            type="range"
            className="swell"
            min={0}
            max={100}
            step={5}
            value={Math.round(thinner * 100)}
            aria-label="Thinner"
            onChange={(event) => setAmounts({ thinner: Number(event.target.value) / 100 })}
          />
          <output>{Math.round(thinner * 100)}</output>
        </label>
      )}
      <Tick
        on={keepsPaint}
        set={(on) => set({ keepsPaint: on })}
        title="The brush runs dry, gets dirty and is dipped, wiped and rinsed by you. Without, each stroke is loaded afresh."
      >
        Keeps its paint
      </Tick>
      {keepsPaint && (
        <span className="brush-care" role="group" aria-label="Brush">
          {cares.map(({ care, label, hint }) => (
            <button
              key={care}
              type="button"
              className="btn btn-sm"
              title={hint}
              onClick={() => void session.link.api.careFor(brush, care, { colour, strength })}
            >
              {label}
            </button>
          ))}
        </span>
      )}
    </>
  );
}
