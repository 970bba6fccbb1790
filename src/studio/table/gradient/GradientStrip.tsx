"use client";

import { ArrowLeftRight, Minus } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { type Stops } from "../../../engine/gradient/gradient";
import { useTable } from "../table-store";
import { changedStop, movedStop, stripOf, turnedStops, withoutStop, withStop } from "./stops";

/** Arrow keys move a stop by this share of the strip. */
const NUDGE = 0.02;
/** Dragged so far below or above the strip a stop is taken off, CSS px. */
const OFF = 34;

type GradientStripProps = {
  label: string;
  stops: Stops;
  /** Whether stops may be partly or wholly clear. */
  clear: boolean;
  /** While a stop is dragged: seen, not yet done. */
  onTry: (stops: Stops) => void;
  /** When it is let go, or at once for all else. */
  onKeep: (stops: Stops) => void;
};

/**
 * The stops of a gradient on a strip: press between them for one more in the colour in hand,
 * drag them along it or off it, press the swatch to give the chosen one the colour in hand.
 */
export function GradientStrip({ label, stops, clear, onTry, onKeep }: GradientStripProps) {
  const strip = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState(0);
  const [dragged, setDragged] = useState<Stops | null>(null);
  const [fading, setFading] = useState<number | null>(null);
  const shown = dragged ?? stops;
  const index = Math.min(chosen, shown.length - 1);
  const stop = shown[index] as Stops[number];

  const placeOf = ({ clientX }: { clientX: number }): number => {
    const box = strip.current?.getBoundingClientRect();
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0;
  };
  const isOff = ({ clientY }: { clientY: number }): boolean => {
    const box = strip.current?.getBoundingClientRect();
    return !!box && (clientY < box.top - OFF || clientY > box.bottom + OFF);
  };
  const add = (at: number): void => {
    const made = withStop(stops, at, useTable.getState().colour);
    if (!made) return;
    setChosen(made.index);
    onKeep(made.stops);
  };
  const drag = (event: PointerEvent<HTMLElement>, i: number): void => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const next = isOff(event) ? withoutStop(stops, i) : movedStop(stops, i, placeOf(event));
    setDragged(next);
    onTry(next);
  };
  const drop = (): void => {
    if (!dragged) return;
    setDragged(null);
    onKeep(dragged);
  };
  const press = (event: KeyboardEvent<HTMLElement>, i: number): void => {
    const step = { ArrowLeft: -NUDGE, ArrowRight: NUDGE }[event.key];
    if (step !== undefined) onKeep(movedStop(stops, i, (stops[i]?.at ?? 0) + step));
    else if (event.key === "Delete" || event.key === "Backspace") onKeep(withoutStop(stops, i));
    else if (event.key === "Enter") add(((stops[i]?.at ?? 0) + (stops[i + 1]?.at ?? 1)) / 2);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="gradient-strip" role="group" aria-label={label}>
      <div
        ref={strip}
        className="strip"
        data-testid="gradient-strip"
        onPointerDown={(event) => {
          if (event.button === 0) add(placeOf(event));
        }}
      >
        <span style={{ background: stripOf(shown) }} />
      </div>
      <div className="stops">
        {shown.map(({ at, colour }, i) => (
          <button
            key={i}
            type="button"
            role="slider"
            className="drop-mark"
            style={{ left: `${at * 100}%`, background: colour }}
            aria-label={`${label}, stop ${i + 1}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(at * 100)}
            aria-valuetext={`${colour} at ${Math.round(at * 100)}%`}
            data-chosen={i === index || undefined}
            onFocus={() => setChosen(i)}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              setChosen(i);
            }}
            onPointerMove={(event) => drag(event, i)}
            onPointerUp={drop}
            onKeyDown={(event) => press(event, i)}
          />
        ))}
      </div>
      <div className="chosen">
        <button
          type="button"
          className="swatch"
          style={{ background: stop.colour }}
          aria-label={`${label}, stop ${index + 1}: give it the colour in hand`}
          title="Press to give it the colour in hand"
          onClick={() => onKeep(changedStop(stops, index, { colour: useTable.getState().colour }))}
        />
        {clear ? (
          <input
            type="range"
            className="swell short"
            min={0}
            max={100}
            value={fading ?? Math.round(stop.alpha * 100)}
            aria-label={`${label}, stop ${index + 1}: how solid`}
            title="How solid it is"
            onChange={(event) => {
              setFading(Number(event.target.value));
              onTry(changedStop(stops, index, { alpha: Number(event.target.value) / 100 }));
            }}
            onPointerUp={() => fade()}
            onKeyUp={() => fade()}
            onBlur={() => fade()}
          />
        ) : (
          <span className="spacer" />
        )}
        <output>
          {clear ? (fading ?? Math.round(stop.alpha * 100)) : Math.round(stop.at * 100)}
        </output>
        <button
          type="button"
          className="icon-button"
          aria-label={`${label}: take stop ${index + 1} away`}
          title="Take this stop away"
          disabled={stops.length <= 2}
          onClick={() => onKeep(withoutStop(stops, index))}
        >
          <Minus size={15} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label={`${label}: turn it round`}
          title="Turn it round"
          onClick={() => onKeep(turnedStops(stops))}
        >
          <ArrowLeftRight size={15} />
        </button>
      </div>
    </div>
  );

  /** How solid the stop is to be, when the slider is let go. */
  function fade(): void {
    if (fading === null) return;
    setFading(null);
    onKeep(changedStop(stops, index, { alpha: fading / 100 }));
  }
}
