"use client";

import { useState } from "react";
import { type Guide, type Place } from "../../../engine/guides/guide";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { handlesOf, linesOf } from "./lines";

/** Space between parallel lines on the screen, CSS px. */
const SPREAD = 60;
/** How far an arrow key moves a handle, CSS px. */
const NUDGE = 4;

/** The picture's guides, drawn over it, with handles. They are never exported. */
export function GuidesOverlay({ session }: { session: Session }) {
  const guides = useTable((state) => state.picture?.guides);
  const shown = useTable((state) => state.guidesShown);
  const follow = useTable((state) => state.follow);
  const view = useTable((state) => state.view);
  const [moving, setMoving] = useState<{ index: number; guide: Guide } | null>(null);
  if (!guides || guides.length === 0 || !shown) return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = typeof window === "undefined" ? 1 : window.devicePixelRatio;
  const screen = ({ x, y }: Place): [number, number] => {
    const [sx, sy] = toScreen(matrix, x, y);
    return [sx / ratio, sy / ratio];
  };
  const place = (event: React.PointerEvent): Place => {
    const box = event.currentTarget.ownerDocument
      .querySelector("[data-testid=view]")
      ?.getBoundingClientRect();
    const [x, y] = toPicture(
      matrix,
      (event.clientX - (box?.left ?? 0)) * ratio,
      (event.clientY - (box?.top ?? 0)) * ratio,
    );
    return { x, y };
  };
  const keep = (index: number, guide: Guide): void => {
    void session
      .setGuides(guides.map((other, i) => (i === index ? guide : other)))
      .then(() => setMoving(null));
  };
  const spread = (SPREAD * ratio) / view.zoom;
  return (
    <svg className="guides-overlay" data-follow={follow || undefined}>
      {guides.map((kept, index) => {
        const guide = moving?.index === index ? moving.guide : kept;
        return (
          <g key={index}>
            {linesOf(guide, spread).map(({ points, faint }, i) => (
              <polyline
                key={i}
                className={faint ? "faint" : ""}
                points={points.map((p) => screen(p).join(",")).join(" ")}
              />
            ))}
            {handlesOf(guide, spread).map(({ at, label, move }) => {
              const [cx, cy] = screen(at);
              return (
                <circle
                  key={label}
                  className="handle"
                  cx={cx}
                  cy={cy}
                  r={7}
                  tabIndex={0}
                  role="button"
                  aria-label={`${label}: drag, or move with the arrow keys`}
                  onPointerDown={(event) => {
                    event.stopPropagation();
                    event.currentTarget.setPointerCapture(event.pointerId);
                  }}
                  onPointerMove={(event) => {
                    if (event.currentTarget.hasPointerCapture(event.pointerId))
                      setMoving({ index, guide: move(place(event)) });
                  }}
                  onPointerUp={() => moving?.index === index && keep(index, moving.guide)}
                  onKeyDown={(event) => {
                    const by: Record<string, [number, number]> = {
                      ArrowLeft: [-NUDGE, 0],
                      ArrowRight: [NUDGE, 0],
                      ArrowUp: [0, -NUDGE],
                      ArrowDown: [0, NUDGE],
                    };
                    const step = by[event.key];
                    if (!step) return;
                    event.preventDefault();
                    event.stopPropagation();
                    const [x, y] = toPicture(
                      matrix,
                      (cx + step[0]) * ratio,
                      (cy + step[1]) * ratio,
                    );
                    keep(index, move({ x, y }));
                  }}
                />
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}
