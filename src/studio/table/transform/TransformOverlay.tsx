"use client";

import { useEffect, useRef } from "react";
import { viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { Handles } from "./Handles";
import { paintPiece } from "./paint-piece";
import { drag, keepWhenLeft, place, putDown, useTransform } from "./transform-store";

/** The piece in hand: its outline, what it can be held by, and itself while it is dragged. */
export function TransformOverlay({ session }: { session: Session }) {
  const { piece, placement, dragged } = useTransform();
  const view = useTable((state) => state.view);
  const canvas = useRef<HTMLCanvasElement>(null);

  useEffect(() => keepWhenLeft(session), [session]);
  useEffect(() => {
    const matrix = viewMatrix(view, session.screen);
    if (canvas.current)
      paintPiece(canvas.current, session.screen, matrix, dragged ? piece : null, placement);
  });

  if (!piece) return null;
  return (
    <>
      <canvas ref={canvas} className="piece" aria-hidden="true" />
      <Handles
        session={session}
        what="Transform"
        from={piece.from}
        placement={placement}
        holding={{
          now: () => useTransform.getState().placement,
          drag: (next) => drag(session, next),
          letGo: () => {
            if (useTransform.getState().dragged) void putDown(session);
          },
          put: (next) => void place(session, next),
        }}
      />
    </>
  );
}
