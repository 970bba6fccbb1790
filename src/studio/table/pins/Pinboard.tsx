"use client";

import { Contrast, FlipHorizontal2, Palette, X } from "lucide-react";
import { useEffect, useRef } from "react";
import { toValues } from "../../../engine/crit/values";
import { type PinRecord } from "../../../storage/records";
import { wellsOfFile } from "../colour/wells-store";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  changePin,
  layOutPins,
  LEAST_ACROSS,
  seenThrough,
  unpin,
  usePins,
  zoomedPin,
} from "./pinboard";

/** A press that moves less than this, CSS px, takes a colour. */
const STILL = 4;
const KEY_STEP = 12;

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Draws a pin's picture on its canvas, in greys where they are wanted. */
async function paint(canvas: HTMLCanvasElement, pin: PinRecord): Promise<void> {
  const bitmap = await createImageBitmap(
    new Blob([new Uint8Array(pin.png)], { type: "image/png" }),
  );
  const context = canvas.getContext("2d", { willReadFrequently: true });
  context?.drawImage(bitmap, 0, 0);
  bitmap.close();
  if (!context || !pin.grey) return;
  const image = context.getImageData(0, 0, pin.width, pin.height);
  toValues(image.data, 0);
  context.putImageData(image, 0, 0);
}

/** The colour of a pin's picture under a pointer. */
function colourUnder(
  canvas: HTMLCanvasElement,
  event: React.PointerEvent,
  mirrored: boolean,
): string | null {
  const box = canvas.getBoundingClientRect();
  const across = (event.clientX - box.left) / box.width;
  const x = Math.floor((mirrored ? 1 - across : across) * canvas.width);
  const y = Math.floor(((event.clientY - box.top) / box.height) * canvas.height);
  const data = canvas.getContext("2d", { willReadFrequently: true })?.getImageData(x, y, 1, 1).data;
  if (!data || data[3] === 0) return null;
  return `#${[0, 1, 2].map((c) => (data[c] as number).toString(16).padStart(2, "0")).join("")}`;
}

type Drag = { x: number; y: number; pin: PinRecord; far: boolean };

/** What each pointer is dragging. */
const drags = new Map<number, Drag>();

function Pin({ session, pin }: { session: Session; pin: PinRecord }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chooseColour = useTable((state) => state.chooseColour);
  const seen = seenThrough(pin);
  const { id, png, grey } = pin;
  useEffect(() => {
    const node = canvas.current;
    const own = usePins.getState().pins.find((other) => other.id === id);
    if (node && own) void paint(node, own);
  }, [id, png, grey]);

  const dragged = (change: (start: PinRecord, dx: number, dy: number) => Partial<PinRecord>) => ({
    onPointerDown: (event: React.PointerEvent) => {
      event.stopPropagation();
      if (event.nativeEvent.isTrusted) event.currentTarget.setPointerCapture(event.pointerId);
      drags.set(event.pointerId, { x: event.clientX, y: event.clientY, pin, far: false });
    },
    onPointerMove: (event: React.PointerEvent) => {
      const start = drags.get(event.pointerId);
      if (!start) return;
      const dx = event.clientX - start.x;
      const dy = event.clientY - start.y;
      start.far ||= Math.hypot(dx, dy) > STILL;
      if (start.far) changePin(pin.id, change(start.pin, dx, dy), false);
    },
    onPointerUp: (event: React.PointerEvent) => {
      const start = drags.get(event.pointerId);
      drags.delete(event.pointerId);
      if (start?.far) return changePin(pin.id, {});
      const frame = event.currentTarget.querySelector("canvas");
      if (!start || !frame) return;
      const hex = colourUnder(frame, event, pin.mirrored);
      if (hex) chooseColour(hex);
    },
  });
  const moved = (start: PinRecord, dx: number, dy: number): Partial<PinRecord> => ({
    x: Math.max(0, start.x + dx),
    y: Math.max(0, start.y + dy),
  });
  const sized = (start: PinRecord, dx: number): Partial<PinRecord> => ({
    across: Math.max(LEAST_ACROSS, start.across + dx),
  });
  const slid = (start: PinRecord, dx: number, dy: number): Partial<PinRecord> => {
    const own = seenThrough(start);
    const clamp = (v: number): number => Math.min(1, Math.max(0, v));
    return {
      middleX: clamp(start.middleX - ((pin.mirrored ? -1 : 1) * dx) / own.width),
      middleY: clamp(start.middleY - dy / own.height),
    };
  };
  return (
    <figure
      className="pin"
      style={{ left: pin.x, top: pin.y, width: pin.across }}
      aria-label={`Pin: ${pin.name}`}
    >
      <figcaption
        tabIndex={0}
        role="button"
        aria-label={`${pin.name}: drag, or move with the arrow keys`}
        onKeyDown={(event) => {
          const step = arrows[event.key];
          if (!step) return;
          event.preventDefault();
          event.stopPropagation();
          changePin(pin.id, moved(pin, step[0] * KEY_STEP, step[1] * KEY_STEP));
        }}
        {...dragged(moved)}
      >
        {pin.name}
      </figcaption>
      <div className="doings">
        <button
          type="button"
          aria-label={`Mirror ${pin.name}`}
          aria-pressed={pin.mirrored}
          onClick={() => changePin(pin.id, { mirrored: !pin.mirrored })}
        >
          <FlipHorizontal2 size={13} />
        </button>
        <button
          type="button"
          aria-label={`${pin.name} in values`}
          aria-pressed={pin.grey}
          onClick={() => changePin(pin.id, { grey: !pin.grey })}
        >
          <Contrast size={13} />
        </button>
        <button
          type="button"
          aria-label={`Colours from ${pin.name}`}
          title="Put its colours in the wells"
          onClick={() => void wellsOfFile(session, pin.name, pin.png)}
        >
          <Palette size={13} />
        </button>
        <button type="button" aria-label={`Take ${pin.name} off`} onClick={() => unpin(pin)}>
          <X size={13} />
        </button>
      </div>
      <div
        className="frame"
        role="application"
        tabIndex={0}
        aria-label={`${pin.name}: press for a colour, + and − to zoom`}
        style={{ height: seen.frameHeight, transform: pin.mirrored ? "scaleX(-1)" : undefined }}
        onWheel={(event) => {
          event.stopPropagation();
          const box = event.currentTarget.getBoundingClientRect();
          const x = event.clientX - box.left;
          const factor = Math.exp(-event.deltaY / 400);
          changePin(
            pin.id,
            zoomedPin(pin, factor, pin.mirrored ? box.width - x : x, event.clientY - box.top),
          );
        }}
        onKeyDown={(event) => {
          const factor = { "+": 1.25, "=": 1.25, "-": 0.8 }[event.key];
          if (!factor) return;
          event.preventDefault();
          event.stopPropagation();
          changePin(pin.id, zoomedPin(pin, factor, pin.across / 2, seen.frameHeight / 2));
        }}
        {...dragged(slid)}
      >
        <canvas
          ref={canvas}
          width={pin.width}
          height={pin.height}
          style={{ width: seen.width, height: seen.height, left: seen.left, top: seen.top }}
        />
      </div>
      <span className="corner" aria-hidden="true" {...dragged(sized)} />
    </figure>
  );
}

/** The references that lie beside the work. They are never part of the picture. */
export function Pinboard({ session }: { session: Session }) {
  const picture = session.id;
  const pins = usePins((state) => state.pins);
  const shown = useTable((state) => state.pinsShown);
  useEffect(() => layOutPins(picture), [picture]);
  if (!shown || pins.length === 0) return null;
  return (
    <div className="pinboard" role="group" aria-label="Pinboard">
      {pins.map((pin) => (
        <Pin key={pin.id} session={session} pin={pin} />
      ))}
    </div>
  );
}
