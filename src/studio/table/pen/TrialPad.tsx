"use client";

import { useEffect, useRef, useState } from "react";
import { type Curve } from "../../../engine/stroke/curve";
import { felt } from "./felt";
import { type Range, rangeOf } from "./range";

type Press = { x: number; y: number; pressure: number };

/** Width of the line at full pressure, and the thinnest, CSS px. */
const WIDEST = 14;
const THINNEST = 0.6;
/** Presses that are kept. */
const MOST = 4000;

function paint(canvas: HTMLCanvasElement, strokes: readonly (readonly Press[])[]): void {
  const context = canvas.getContext("2d");
  if (!context) return;
  const ratio = window.devicePixelRatio;
  canvas.width = Math.round(canvas.clientWidth * ratio);
  canvas.height = Math.round(canvas.clientHeight * ratio);
  context.scale(ratio, ratio);
  context.lineCap = "round";
  context.strokeStyle = "#2b2b33";
  for (const stroke of strokes)
    stroke.forEach(({ x, y, pressure }, i) => {
      const before = stroke[i - 1];
      if (!before) return;
      context.lineWidth = THINNEST + felt(pressure) * (WIDEST - THINNEST);
      context.beginPath();
      context.moveTo(before.x, before.y);
      context.lineTo(x, y);
      context.stroke();
    });
}

/**
 * A strip to draw on: the line is as wide as the press is felt. When the curve changes, what was drawn is
 * felt anew.
 */
export function TrialPad({ curve, use }: { curve: Curve; use: (range: Range) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [strokes, setStrokes] = useState<readonly (readonly Press[])[]>([]);
  useEffect(() => {
    if (canvas.current) paint(canvas.current, strokes);
  }, [strokes, curve]);

  const pressesOf = (event: React.PointerEvent<HTMLCanvasElement>): Press[] => {
    const box = event.currentTarget.getBoundingClientRect();
    const all = event.nativeEvent.getCoalescedEvents?.() ?? [];
    return (all.length > 0 ? all : [event.nativeEvent]).map(({ clientX, clientY, pressure }) => ({
      x: clientX - box.left,
      y: clientY - box.top,
      pressure,
    }));
  };
  const pressures = strokes.flat().map(({ pressure }) => pressure);
  const range = rangeOf(pressures);
  const isFull = pressures.length > MOST;
  return (
    <div className="d-grid gap-2">
      <canvas
        ref={canvas}
        className="trial-pad"
        role="img"
        aria-label="Trial strip: draw here"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setStrokes([...(isFull ? [] : strokes), pressesOf(event)]);
        }}
        onPointerMove={(event) => {
          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
          const presses = pressesOf(event);
          setStrokes((all) => [...all.slice(0, -1), [...(all.at(-1) ?? []), ...presses]]);
        }}
      />
      <div className="d-flex gap-2 align-items-center">
        <span className="quiet flex-fill" role="status">
          {range
            ? `You press from ${Math.round(range.light * 100)} to ${Math.round(range.heavy * 100)} of 100.`
            : "Draw here as you do, lightly and hard."}
        </span>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!range}
          title="The whole of a brush lies between your lightest and your hardest press"
          onClick={() => range && use(range)}
        >
          Make that the whole range
        </button>
      </div>
    </div>
  );
}
