"use client";

import { useRef, useState } from "react";
import { inWords, type SunPin, wrapped } from "../../../engine/sun/sun-pin";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { DISC, solidArrow } from "./solid";

/** Radians a CSS px of dragging, and a press of an arrow key. */
const TURN_A_PX = 0.014;
const TURN_A_KEY = Math.PI / 36;
const NUDGE = 6;
const FLATTENED = 0.41;

const keys: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The light swung by an angle to the right and one up; behind the picture right is the other way round. */
const swung = (pin: SunPin, right: number, up: number): SunPin => ({
  ...pin,
  azimuth: wrapped(pin.azimuth - (pin.azimuth >= 0 ? right : -right)),
  height: Math.min(Math.PI / 2, Math.max(-Math.PI / 2, pin.height + up)),
});

/** The sun pin over the picture: a solid arrow from the light, its ground, and what it drops there. */
export function SunOverlay({ session }: { session: Session }) {
  const kept = useTable((state) => state.picture?.sun ?? null);
  const view = useTable((state) => state.view);
  const [moving, setMoving] = useState<SunPin | null>(null);
  const from = useRef<{ x: number; y: number; pin: SunPin } | null>(null);
  const pin = moving ?? kept;
  if (!pin) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const [fx, fy] = toScreen(matrix, pin.at.x, pin.at.y).map((v) => v / ratio) as [number, number];
  const arrow = solidArrow(pin);
  const keep = (next: SunPin): void => {
    void session.setSun(next).then(() => setMoving(null));
  };
  const moved = (start: SunPin, dx: number, dy: number): SunPin => {
    const [sx, sy] = toScreen(matrix, start.at.x, start.at.y);
    const [x, y] = toPicture(matrix, sx + dx * ratio, sy + dy * ratio);
    return { ...start, at: { x, y } };
  };
  const handle = (
    label: string,
    at: { x: number; y: number },
    change: (start: SunPin, dx: number, dy: number) => SunPin,
    byKey: (start: SunPin, dx: number, dy: number) => SunPin,
  ) => (
    <circle
      className="handle"
      cx={at.x}
      cy={at.y}
      r={label === "Sun" ? 11 : 6}
      data-sun={label === "Sun" || undefined}
      tabIndex={0}
      role="button"
      aria-label={`${label}: light ${inWords(pin)}. Drag, or use the arrow keys`}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, y: event.clientY, pin };
      }}
      onPointerMove={(event) => {
        const start = from.current;
        if (!start || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
        setMoving(change(start.pin, event.clientX - start.x, event.clientY - start.y));
      }}
      onPointerUp={() => {
        from.current = null;
        if (moving) keep(moving);
      }}
      onKeyDown={(event) => {
        const step = keys[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        keep(byKey(pin, ...step));
      }}
    />
  );
  const solid = (
    <>
      <polygon className="dark" points={arrow.shaft} />
      <polygon className="lit" points={arrow.shaftLit} />
      <polygon className="dark" points={arrow.head} />
      <polygon className="lit" points={arrow.headLit} />
    </>
  );
  return (
    <svg className="sun-overlay">
      <g transform={`translate(${fx} ${fy})`}>
        {pin.height < 0 && solid}
        <ellipse className="ground" rx={DISC} ry={DISC * FLATTENED} />
        <polygon className="dropped" points={arrow.shadow} />
        {pin.height >= 0 && solid}
        {handle("Foot of the sun pin", { x: 0, y: 0 }, moved, (start, dx, dy) =>
          moved(start, dx * NUDGE, dy * NUDGE),
        )}
        {handle(
          "Sun",
          arrow.sun,
          (start, dx, dy) => swung(start, dx * TURN_A_PX, -dy * TURN_A_PX),
          (start, dx, dy) => swung(start, dx * TURN_A_KEY, -dy * TURN_A_KEY),
        )}
        {moving && (
          <text y={DISC * FLATTENED + 18} textAnchor="middle">
            {inWords(moving)}
          </text>
        )}
      </g>
    </svg>
  );
}
