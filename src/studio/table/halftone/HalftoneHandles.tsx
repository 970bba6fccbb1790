"use client";

import { type PointerEvent, useState } from "react";
import { type Halftone } from "../../../engine/halftone/halftone";
import { directionOf } from "../../../engine/halftone/write";
import { type Point } from "../../../engine/transform/warp";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { movedTo, nearestDot, turnedAbout } from "./handles";
import { tryHalftone, useHalftone } from "./halftone-store";

/** How far from its dot the handle stands that turns and scales, CSS px. */
const ARM = 90;

type Dragged = { which: "place" | "arm"; start: Halftone; dot: Point; from: Point };

/** A dot of the open halftone near the middle of the view, to be moved, and an arm that turns and scales about it. */
export function HalftoneHandles({ session }: { session: Session }) {
  const { layer: id, tried } = useHalftone();
  const picture = useTable((state) => state.picture);
  const view = useTable((state) => state.view);
  const bare = useTable((state) => state.bare);
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const layer = picture?.layers.find((one) => one.id === id);
  const halftone = tried ?? layer?.halftone;
  if (!picture || !halftone?.on || bare) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const middle: Point = [
    Math.min(picture.width, Math.max(0, view.x)),
    Math.min(picture.height, Math.max(0, view.y)),
  ];
  const dot: Point = dragged ? [halftone.x, halftone.y] : nearestDot(halftone, picture.ppi, middle);
  const [cos, sin] = directionOf(halftone.angle);
  const reach = (ARM * ratio) / view.zoom;
  const stretch = dragged?.which === "arm" ? dragged.start.lpi / halftone.lpi : 1;
  const arm: Point = [dot[0] + cos * reach * stretch, dot[1] + sin * reach * stretch];
  const onScreen = (at: Point): Point => {
    const [x, y] = toScreen(matrix, ...at);
    return [x / ratio, y / ratio];
  };
  const take = (event: PointerEvent<Element>, which: Dragged["which"]): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setDragged({ which, start: halftone, dot, from: which === "arm" ? arm : dot });
  };
  const drag = (event: PointerEvent<Element>): void => {
    const box = event.currentTarget.closest(".view")?.getBoundingClientRect();
    if (!dragged || !box) return;
    const to = toPicture(
      matrix,
      (event.clientX - box.left) * ratio,
      (event.clientY - box.top) * ratio,
    );
    const next =
      dragged.which === "place"
        ? movedTo(dragged.start, to)
        : turnedAbout(dragged.start, dragged.dot, dragged.from, to, event.shiftKey);
    tryHalftone(session, next);
  };
  const places = [onScreen(dot), onScreen(arm)] as const;
  const handle = (which: Dragged["which"], at: Point, label: string) => (
    <button
      type="button"
      className="handle gradient-handle"
      style={{ left: at[0], top: at[1] }}
      aria-label={label}
      title={label}
      onPointerDown={(event) => take(event, which)}
      onPointerMove={drag}
      onPointerUp={() => setDragged(null)}
      onPointerCancel={() => setDragged(null)}
    />
  );
  return (
    <>
      <svg className="box-overlay" aria-hidden="true">
        <polyline points={places.join(" ")} />
        <polyline className="dashes" points={places.join(" ")} />
      </svg>
      {handle("place", places[0], "Halftone: drag to move the pattern")}
      {handle("arm", places[1], "Halftone: drag round to turn, outward to coarsen; Shift by 15°")}
    </>
  );
}
