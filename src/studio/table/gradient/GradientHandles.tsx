"use client";

import { type PointerEvent, useState } from "react";
import { type GradientPaint } from "../../../engine/gradient/gradient";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { handlesOf, withHandle } from "./handles";

/** Arrow keys move a handle by this many px of the picture. */
const NUDGE = 8;

/** The points of the working gradient layer, to be dragged over the picture; it follows at once. */
export function GradientHandles({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const selected = useTable((state) => state.selected);
  const view = useTable((state) => state.view);
  const bare = useTable((state) => state.bare);
  const [dragged, setDragged] = useState<{ index: number; paint: GradientPaint } | null>(null);
  const layer = picture?.layers.find(({ id }) => id === selected[0]);
  const own = layer?.kind === "fill" && layer.paint?.kind === "gradient" ? layer.paint : null;
  const paint = dragged?.paint ?? own;
  if (!layer || !paint || !picture || bare) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const onScreen = (at: readonly [number, number]): [number, number] => {
    const [x, y] = toScreen(matrix, ...at);
    return [x / ratio, y / ratio];
  };
  const preview = (next: GradientPaint): void =>
    void session.link.api.previewLayers(
      picture.layers.map((one) => (one.id === layer.id ? { ...one, paint: next } : one)),
      null,
    );
  const settle = async (next: GradientPaint): Promise<void> => {
    await session.apply({ do: "layer.set", id: layer.id, paint: next });
    await session.link.api.previewLayers(null, null);
    setDragged(null);
  };
  const drag = (event: PointerEvent<Element>): void => {
    if (!dragged) return;
    const box = (event.currentTarget as Element).closest(".view")?.getBoundingClientRect();
    if (!box) return;
    const place = [(event.clientX - box.left) * ratio, (event.clientY - box.top) * ratio] as const;
    const next = withHandle(paint, dragged.index, toPicture(matrix, ...place));
    setDragged({ index: dragged.index, paint: next });
    preview(next);
  };
  const handles = handlesOf(paint);
  const line = handles.map(({ at }) => onScreen(at).join(",")).join(" ");
  return (
    <>
      <svg className="box-overlay" aria-hidden="true">
        <polyline points={line} />
        <polyline className="dashes" points={line} />
      </svg>
      {handles.map(({ name, at }, index) => {
        const [x, y] = onScreen(at);
        return (
          <button
            key={name}
            type="button"
            className="handle gradient-handle"
            style={{ left: x, top: y }}
            aria-label={`Gradient: ${name}. Drag, or use the arrow keys`}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDragged({ index, paint });
            }}
            onPointerMove={drag}
            onPointerUp={() => dragged && void settle(dragged.paint)}
            onKeyDown={(event) => {
              const dx = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
              const dy = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
              if (dx === 0 && dy === 0) return;
              event.preventDefault();
              event.stopPropagation();
              void settle(withHandle(paint, index, [at[0] + dx * NUDGE, at[1] + dy * NUDGE]));
            }}
          />
        );
      })}
    </>
  );
}
