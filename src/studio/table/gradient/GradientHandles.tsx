"use client";

import { type PointerEvent, useState } from "react";
import { type GradientPaint } from "../../../engine/gradient/gradient";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useHalftone } from "../halftone/halftone-store";
import { useTable } from "../table-store";
import { handlesOf, withHandle, withoutPoint, withPoint } from "./handles";

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
  const isScreened = useHalftone((state) => state.layer !== null);
  if (!layer || !paint || !picture || bare || isScreened) return null;
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
      {paint.shape === "path" && !dragged && (
        <BetweenPoints
          places={handles.map(({ at }) => onScreen(at))}
          add={(index) => void settle(withPoint(paint, index))}
        />
      )}
      {handles.map(({ name, at }, index) => {
        const [x, y] = onScreen(at);
        return (
          <button
            key={name}
            type="button"
            className="handle gradient-handle"
            style={{ left: x, top: y }}
            aria-label={`Gradient: ${name}. Drag, or use the arrow keys`}
            title={
              paint.shape === "path"
                ? "Enter adds a point after it, Delete takes it away"
                : undefined
            }
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDragged({ index, paint });
            }}
            onPointerMove={drag}
            onPointerUp={() => dragged && void settle(dragged.paint)}
            onDoubleClick={() => {
              const changed = withoutPoint(paint, index);
              if (changed !== paint) void settle(changed);
            }}
            onKeyDown={(event) => {
              const changed =
                event.key === "Enter"
                  ? withPoint(paint, index)
                  : event.key === "Delete" || event.key === "Backspace"
                    ? withoutPoint(paint, index)
                    : paint;
              const dx = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
              const dy = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
              if (dx === 0 && dy === 0 && changed === paint) return;
              event.preventDefault();
              event.stopPropagation();
              if (changed !== paint) return void settle(changed);
              void settle(withHandle(paint, index, [at[0] + dx * NUDGE, at[1] + dy * NUDGE]));
            }}
          />
        );
      })}
    </>
  );
}

/** Small marks between the points of a path: pressed, a point is added there. */
function BetweenPoints({
  places,
  add,
}: {
  places: readonly (readonly [number, number])[];
  add: (index: number) => void;
}) {
  return places.slice(1).map(([x, y], index) => {
    const [before] = places.slice(index);
    if (!before) return null;
    return (
      <button
        key={index}
        type="button"
        className="handle gradient-between"
        tabIndex={-1}
        style={{ left: (x + before[0]) / 2, top: (y + before[1]) / 2 }}
        aria-label={`Gradient: one point more after point ${index + 1}`}
        onClick={() => add(index)}
      />
    );
  });
}
