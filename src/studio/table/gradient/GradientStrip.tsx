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
  /** When it is let go, or at once for all else; what is shown stays so until it is done. */
  onKeep: (stops: Stops) => Promise<void> | void;
};

/** Stops as they are in sight: `off` the one that is dragged off, if any. */
type Held = { stops: Stops; off: number | null; isDragged: boolean };

/** What is left without the stop that is dragged off. */
const leftOf = ({ stops, off }: Pick<Held, "stops" | "off">): Stops =>
  off === null ? stops : withoutStop(stops, off);

/**
 * The stops of a gradient on a strip: press between them for one more in the colour in hand,
 * drag them along it or off it, press the swatch to give the chosen one the colour in hand.
 */
export function GradientStrip({ label, stops, clear, onTry, onKeep }: GradientStripProps) {
  const strip = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState(0);
  const [held, setHeld] = useState<Held | null>(null);
  const [fading, setFading] = useState<number | null>(null);
  // All goes on from what is in sight: it may not have come back from the engine yet.
  const shown = held?.stops ?? stops;
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
  /** What was chosen stays in sight until it is done: the engine answers a little later. */
  const keep = (next: Stops): void => {
    const pending = { stops: next, off: null, isDragged: false };
    setHeld(pending);
    void Promise.resolve(onKeep(next)).finally(() => {
      setHeld((now) => (now === pending ? null : now));
      setFading(null);
    });
  };
  const add = (at: number): void => {
    const made = withStop(shown, at, useTable.getState().colour);
    if (!made) return;
    setChosen(made.index);
    keep(made.stops);
  };
  const drag = (event: PointerEvent<HTMLElement>, i: number): void => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    // Dragged off it is gone from the gradient, but not from under the hand that holds it.
    const next = { stops: movedStop(shown, i, placeOf(event)), off: isOff(event) ? i : null };
    setHeld({ ...next, isDragged: true });
    onTry(leftOf(next));
  };
  const drop = (): void => {
    if (held?.isDragged) keep(leftOf(held));
  };
  const press = (event: KeyboardEvent<HTMLElement>, i: number): void => {
    const step = { ArrowLeft: -NUDGE, ArrowRight: NUDGE }[event.key];
    if (step !== undefined) keep(movedStop(shown, i, (shown[i]?.at ?? 0) + step));
    else if (event.key === "Delete" || event.key === "Backspace") keep(withoutStop(shown, i));
    else if (event.key === "Enter") add(((shown[i]?.at ?? 0) + (shown[i + 1]?.at ?? 1)) / 2);
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
        <span style={{ background: stripOf(held ? leftOf(held) : stops) }} />
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
            data-off={held?.off === i || undefined}
            onFocus={() => setChosen(i)}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              setChosen(i);
            }}
            onPointerMove={(event) => drag(event, i)}
            onPointerUp={drop}
            onPointerCancel={drop}
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
          title="Set to current colour"
          onClick={() => keep(changedStop(shown, index, { colour: useTable.getState().colour }))}
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
              onTry(changedStop(shown, index, { alpha: Number(event.target.value) / 100 }));
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
          disabled={shown.length <= 2}
          onClick={() => keep(withoutStop(shown, index))}
        >
          <Minus size={15} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label={`${label}: turn it round`}
          title="Turn it round"
          onClick={() => keep(turnedStops(shown))}
        >
          <ArrowLeftRight size={15} />
        </button>
      </div>
    </div>
  );

  /** How solid the stop is to be, when the slider is let go. */
  function fade(): void {
    if (fading !== null) keep(changedStop(shown, index, { alpha: fading / 100 }));
  }
}
