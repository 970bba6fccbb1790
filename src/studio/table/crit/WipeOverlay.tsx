"use client";

import { X } from "lucide-react";
import { useEffect, useMemo, useRef } from "react";
import { type Snapshot } from "../../../worker/snapshot";
import { viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { endWipe, useCrit, type Wipe, wipeWith } from "./crit-store";

/** How far an arrow key pushes the line, of the view's width. */
const STEP = 0.02;

const moveTo = (wipe: Wipe, at: number): void =>
  useCrit.setState({ wipe: { ...wipe, at: Math.min(1, Math.max(0, at)) } });

function asCanvas({ width, height, data }: Snapshot): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
  return canvas;
}

function Side({ session, wipe, side }: { session: Session; wipe: Wipe; side: "before" | "after" }) {
  const last = wipe.steps.length;
  return (
    <label>
      {side === "before" ? "Before" : "After"}
      <select
        className="form-select form-select-sm"
        aria-label={side === "before" ? "Before" : "After"}
        value={wipe[side]}
        onChange={(event) => void wipeWith(session, side, Number(event.target.value))}
      >
        <option value={0}>As it was at first</option>
        {wipe.steps.map((label, i) => (
          <option key={i} value={i + 1}>
            {i + 1 === last ? "As it is now" : `${i + 1}. ${label}`}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Two points of the history over the picture, parted by a line that is dragged across. */
export function WipeOverlay({ session, wipe }: { session: Session; wipe: Wipe }) {
  const view = useTable((state) => state.view);
  const width = useTable((state) => state.picture?.width ?? 1);
  const height = useTable((state) => state.picture?.height ?? 1);
  const canvas = useRef<HTMLCanvasElement>(null);
  const before = useMemo(() => asCanvas(wipe.pictures.before), [wipe.pictures.before]);
  const after = useMemo(() => asCanvas(wipe.pictures.after), [wipe.pictures.after]);
  useEffect(() => {
    const node = canvas.current;
    const context = node?.getContext("2d");
    if (!node || !context) return;
    const { screen } = session;
    node.width = screen.width;
    node.height = screen.height;
    const line = wipe.at * screen.width;
    const matrix = viewMatrix(view, screen);
    for (const [side, from, to] of [
      [before, 0, line],
      [after, line, screen.width],
    ] as const) {
      context.save();
      context.beginPath();
      context.rect(from, 0, to - from, screen.height);
      context.clip();
      context.setTransform(...matrix);
      context.drawImage(side, 0, 0, width, height);
      context.restore();
    }
  }, [session, view, width, height, wipe.at, before, after]);
  // What is done to the picture is to be seen: the look back is over.
  useEffect(
    () =>
      useTable.subscribe((now, was) => {
        if (now.picture !== was.picture) endWipe();
      }),
    [],
  );
  const follow = (event: React.PointerEvent<HTMLElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    moveTo(wipe, (event.clientX - box.left) / box.width);
  };
  return (
    <div
      className="wipe handle"
      data-testid="wipe"
      onPointerDown={(event) => {
        // Another button still moves the sheet, and fingers do.
        if (event.button !== 0 || event.pointerType === "touch") return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        follow(event);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) follow(event);
      }}
    >
      <canvas ref={canvas} aria-hidden="true" />
      <div
        className="wipe-line"
        role="slider"
        tabIndex={0}
        aria-label="Line between before and after"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(wipe.at * 100)}
        style={{ left: `${wipe.at * 100}%` }}
        onKeyDown={(event) => {
          const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
          if (step === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          moveTo(wipe, wipe.at + step);
        }}
      />
      <section
        className="wipe-panel"
        aria-label="Before and after"
        onPointerDown={(event) => event.stopPropagation()}
      >
        <Side session={session} wipe={wipe} side="before" />
        <Side session={session} wipe={wipe} side="after" />
        <button
          type="button"
          className="icon-button"
          aria-label="Put before and after away"
          onClick={endWipe}
        >
          <X size={16} />
        </button>
      </section>
    </div>
  );
}
