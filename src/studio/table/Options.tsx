"use client";

import { remember } from "./session";
import { useTable } from "./table-store";

/** Options of the tool in hand. */
export function Options() {
  const { steady, standInPen, set, tool, picture, view } = useTable();
  const percent = Math.round(view.zoom * 1000) / 10;
  return (
    <div className="options" role="group" aria-label="Options">
      {tool === "pick" && <span>Press on the picture to take its colour</span>}
      {tool === "hand" && <span>Drag to move the sheet</span>}
      {tool === "brush" && (
        <>
          <label>
            Steady
            <input
              type="range"
              className="swell"
              min={0}
              max={10}
              step={1}
              value={Math.round(steady * 10)}
              aria-label="Steady"
              onChange={(event) => set({ steady: Number(event.target.value) / 10 })}
            />
            <output>{Math.round(steady * 10)}</output>
          </label>
          <label title="Mouse speed acts as pressure">
            <input
              type="checkbox"
              className="form-check-input mt-0"
              checked={standInPen}
              onChange={(event) => {
                set({ standInPen: event.target.checked });
                void remember({ standInPen: event.target.checked });
              }}
            />
            Stand-in pen
          </label>
        </>
      )}
      <span className="quiet">
        {picture?.width} × {picture?.height} px · {percent}%
      </span>
    </div>
  );
}
