"use client";

import { RotateCw } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useMemo, useState } from "react";
import { type CommandInput } from "../../engine/command/commands";
import { toPicture, toScreen, viewMatrix } from "../../worker/view";
import { type Session } from "./session";
import { useTable } from "./table-store";
import { Trying } from "./trying";
import { type Point, type Pull, type Turn, turnOf } from "./turn";

/** Keys turn by so much, radians, and make so many times as large. */
const STEP = { turn: Math.PI / 36, times: 1.05 };

/** A handle at the upper right of what is chosen, big enough for a pen: pulled about its middle, it turns and stretches it. */
export function TurnHandle({
  session,
  what,
  at,
  reach,
  commandFor,
  turns,
  done,
}: {
  session: Session;
  /** What is chosen, in words. */
  what: string;
  /** Its middle, and how far it reaches from there, picture px. */
  at: Point;
  reach: number;
  commandFor: (at: Point, turn: Turn) => CommandInput | null;
  /** Told while it is pulled; null once it is not any more. */
  turns?: (turn: Turn | null) => void;
  done: () => Promise<void>;
}) {
  const view = useTable((state) => state.view);
  const [pull, setPull] = useState<Pull | null>(null);
  const trying = useMemo(() => new Trying(session), [session]);
  const ratio = window.devicePixelRatio;
  const matrix = viewMatrix(view, session.screen);
  const inPicture = (event: PointerEvent<Element>): Point => {
    const box = event.currentTarget.closest(".view")?.getBoundingClientRect();
    const [left, top] = [box?.left ?? 0, box?.top ?? 0];
    return toPicture(matrix, (event.clientX - left) * ratio, (event.clientY - top) * ratio);
  };
  const px = ratio / view.zoom;
  const corner: Point = [at[0] + reach * 0.707 + 10 * px, at[1] - reach * 0.707 - 10 * px];
  const [left, top] = toScreen(matrix, ...(pull ? pull.to : corner)).map((v) => v / ratio);
  const change = async (turn: Turn): Promise<void> => {
    trying.drop();
    const command = commandFor(at, turn);
    if (command) await session.apply(command);
    await done();
  };
  const end = (): void => {
    setPull(null);
    turns?.(null);
  };
  const keys = (event: KeyboardEvent): void => {
    const angle = { ArrowLeft: -STEP.turn, ArrowRight: STEP.turn }[event.key] ?? 0;
    const times = { ArrowUp: STEP.times, ArrowDown: 1 / STEP.times }[event.key] ?? 1;
    if (angle === 0 && times === 1) return;
    event.preventDefault();
    event.stopPropagation();
    void change({ angle, times });
  };
  return (
    <button
      type="button"
      className="handle turn-handle"
      aria-label={`Turn and stretch ${what}: arrow keys left and right turn, up and down stretch`}
      style={{ left, top }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        const from = inPicture(event);
        setPull({ about: at, from, to: from });
      }}
      onPointerMove={(event) => {
        if (!pull) return;
        const next = { ...pull, to: inPicture(event) };
        setPull(next);
        const turn = turnOf(next);
        turns?.(turn);
        trying.show(commandFor(next.about, turn));
      }}
      onPointerUp={() => {
        if (pull) void change(turnOf(pull));
        end();
      }}
      onPointerCancel={() => {
        end();
        trying.takeBack();
      }}
      onKeyDown={keys}
    >
      <RotateCw size={13} aria-hidden="true" />
    </button>
  );
}
