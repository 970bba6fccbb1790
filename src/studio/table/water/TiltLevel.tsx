"use client";

import { type KeyboardEvent, type PointerEvent, useState } from "react";
import { FLAT, type Tilt } from "../../../engine/water/wash-state";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** Radius of the glass, CSS px; the bubble rests at its rim when the sheet is tilted most. */
const RADIUS = 14;
const BUBBLE = 4;
const REACH = RADIUS - BUBBLE - 1;
const KEY_STEP = 0.1;

/** A slope no steeper than 1, level where it is hardly any. */
function held({ x, y }: Tilt): Tilt {
  const slope = Math.hypot(x, y);
  if (slope < 0.08) return FLAT;
  const by = Math.min(1, 1 / slope);
  return { x: Math.round(x * by * 100) / 100, y: Math.round(y * by * 100) / 100 };
}

function about({ x, y }: Tilt): string {
  const slope = Math.round(Math.hypot(x, y) * 100);
  if (slope === 0) return "the sheet lies flat";
  const across = Math.abs(x) < 0.05 ? "" : x > 0 ? "right" : "left";
  const down = Math.abs(y) < 0.05 ? "" : y > 0 ? "down" : "up";
  return `water runs ${[down, across].filter(Boolean).join(" and ")}, slope ${slope}`;
}

/**
 * A small level: it is pushed to where water is to run, farther for a steeper sheet. Two taps lay the sheet flat;
 * the arrow keys tilt it too.
 */
export function TiltLevel({ session }: { session: Session }) {
  const tilt = useTable(({ picture }) => picture?.tilt ?? FLAT);
  const [pushed, push] = useState<Tilt | null>(null);
  const seen = pushed ?? tilt;
  const settle = (next: Tilt): void => {
    push(null);
    if (next.x !== tilt.x || next.y !== tilt.y) void session.apply({ do: "tilt.set", tilt: next });
  };
  const at = (event: PointerEvent<HTMLElement>): Tilt => {
    const box = event.currentTarget.getBoundingClientRect();
    return held({
      x: (event.clientX - box.left - box.width / 2) / REACH,
      y: (event.clientY - box.top - box.height / 2) / REACH,
    });
  };
  const press = (event: KeyboardEvent): void => {
    const ways: Record<string, [x: number, y: number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const way = ways[event.key];
    if (!way && event.key !== "Home") return;
    event.preventDefault();
    event.stopPropagation();
    settle(way ? held({ x: tilt.x + way[0] * KEY_STEP, y: tilt.y + way[1] * KEY_STEP }) : FLAT);
  };
  return (
    <span className="tilt">
      Tilt
      <button
        type="button"
        className="level"
        aria-label={`Tilt of the sheet: ${about(seen)}`}
        title={`Push it to where water is to run; two taps lay the sheet flat. Now ${about(seen)}.`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          push(at(event));
        }}
        onPointerMove={(event) => pushed && push(at(event))}
        onPointerUp={(event) => pushed && settle(at(event))}
        onPointerCancel={() => push(null)}
        onDoubleClick={() => settle(FLAT)}
        onKeyDown={press}
      >
        <svg
          width={2 * RADIUS}
          height={2 * RADIUS}
          viewBox={`${-RADIUS} ${-RADIUS} ${2 * RADIUS} ${2 * RADIUS}`}
          aria-hidden="true"
        >
          <circle className="glass" r={RADIUS - 0.5} />
          <circle className="mark" r={BUBBLE + 1.5} />
          <circle className="bubble" r={BUBBLE} cx={seen.x * REACH} cy={seen.y * REACH} />
        </svg>
      </button>
    </span>
  );
}
