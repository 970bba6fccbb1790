"use client";

import { toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** The frames of a sheet of studies, numbered, over the sheet. They are never exported. */
export function FramesOverlay({ session }: { session: Session }) {
  const studies = useTable((state) => state.picture?.studies ?? null);
  const view = useTable((state) => state.view);
  if (!studies) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const at = (x: number, y: number): number[] => toScreen(matrix, x, y).map((v) => v / ratio);
  return (
    <svg className="frames-overlay" aria-hidden="true">
      {studies.frames.map(({ left, top, right, bottom }, i) => {
        const corners = [at(left, top), at(right, top), at(right, bottom), at(left, bottom)];
        const [x = 0, y = 0] = at(left, top);
        return (
          <g key={i}>
            <polygon points={corners.map((corner) => corner.join(" ")).join(" ")} />
            <text x={x} y={y - 5}>
              {i + 1}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
