"use client";

import { toScreen, viewMatrix } from "../../worker/view";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** A box being drawn on the picture, as the sheet lies: turned and mirrored with it. */
export function BoxOverlay({ session }: { session: Session }) {
  const box = useTable((state) => state.box);
  const view = useTable((state) => state.view);
  if (!box) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const points = [
    [box.left, box.top],
    [box.right, box.top],
    [box.right, box.bottom],
    [box.left, box.bottom],
  ]
    .map(([x = 0, y = 0]) => toScreen(matrix, x, y).map((v) => v / ratio))
    .join(" ");
  return (
    <svg className="box-overlay" aria-hidden="true">
      <polygon points={points} />
      <polygon className="dashes" points={points} />
    </svg>
  );
}
