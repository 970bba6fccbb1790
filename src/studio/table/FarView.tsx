"use client";

import * as Comlink from "comlink";
import { useEffect, useRef } from "react";
import { toPicture, viewMatrix } from "../../worker/view";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** Room that it has, CSS px. */
const WIDTH = 222;
const HEIGHT = 104;

/** The whole picture, small and live, with what the view shows marked on it. Press to go there. */
export function FarView({ session }: { session: Session }) {
  const holder = useRef<HTMLDivElement>(null);
  const picture = useTable((state) => state.picture);
  const view = useTable((state) => state.view);
  const width = picture?.width ?? 1;
  const height = picture?.height ?? 1;
  const scale = Math.min(WIDTH / width, HEIGHT / height);

  useEffect(() => {
    const node = holder.current;
    if (!node) return;
    const canvas = document.createElement("canvas");
    canvas.setAttribute("aria-hidden", "true");
    node.prepend(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    void session.link.api.attachFarView(Comlink.transfer(offscreen, [offscreen]));
    return () => canvas.remove();
  }, [session]);

  const { screen } = session;
  const matrix = viewMatrix(view, screen);
  const corners = [
    [0, 0],
    [screen.width, 0],
    [screen.width, screen.height],
    [0, screen.height],
  ]
    .map(([x = 0, y = 0]) => toPicture(matrix, x, y).join(","))
    .join(" ");

  const go = (event: React.PointerEvent): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * width;
    const y = ((event.clientY - box.top) / box.height) * height;
    session.setView({ ...view, x, y });
  };
  const nudge = (event: React.KeyboardEvent): void => {
    const step = 80 / view.zoom;
    const by: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    session.setView({ ...view, x: view.x + move[0], y: view.y + move[1] });
  };
  return (
    <section className="far-view" aria-label="Far view">
      <h2>Far view</h2>
      <div
        ref={holder}
        className="sheet-afar"
        role="application"
        aria-label="The whole picture: press to go there, arrows to move"
        tabIndex={0}
        style={{ width: width * scale, height: height * scale }}
        onKeyDown={nudge}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          go(event);
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) go(event);
        }}
      >
        <svg viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
          <polygon points={corners} vectorEffect="non-scaling-stroke" />
          <polygon className="inner" points={corners} vectorEffect="non-scaling-stroke" />
        </svg>
      </div>
    </section>
  );
}
