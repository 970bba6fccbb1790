"use client";

import { type PointerEvent, useState } from "react";
import { type Point } from "../../../engine/transform/warp";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Frame, type Grip, grips, moved, placeOf, pulled } from "./frame";
import { useSheet } from "./sheet-store";

const NAMES = ["upper left corner", "upper side", "upper right corner", "right side"];
const MORE = ["lower right corner", "lower side", "lower left corner", "left side"];
const gripNames = [...NAMES, ...MORE];
/** Arrow keys move a side by so many px of the picture. */
const NUDGE = 8;

type Held = { grip: Grip | null; start: Frame; from: Point };

/** The frame of the new sheet over the picture: what falls away is dimmed; sides, corners and the frame are pulled. */
export function SheetOverlay({ session }: { session: Session }) {
  const { way, frame, proportion } = useSheet();
  const view = useTable((state) => state.view);
  const [held, setHeld] = useState<Held | null>(null);
  if (way !== "cut") return null;
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const onScreen = (at: Point): Point => {
    const [x, y] = toScreen(matrix, ...at);
    return [x / ratio, y / ratio];
  };
  const inPicture = (event: PointerEvent<Element>): Point => {
    const box = event.currentTarget.closest(".view")?.getBoundingClientRect();
    return toPicture(
      matrix,
      (event.clientX - (box?.left ?? 0)) * ratio,
      (event.clientY - (box?.top ?? 0)) * ratio,
    );
  };
  const take = (event: PointerEvent<Element>, grip: Grip | null): void => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    setHeld({ grip, start: frame, from: inPicture(event) });
  };
  const drag = (event: PointerEvent<Element>): void => {
    if (!held) return;
    const to = inPicture(event);
    useSheet.setState({
      frame: held.grip
        ? pulled(held.start, held.grip, to, proportion)
        : moved(held.start, to[0] - held.from[0], to[1] - held.from[1]),
    });
  };
  const drop = (): void => setHeld(null);
  const corners = (
    [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const
  ).map((at) => onScreen(placeOf(frame, at)));
  const inside = corners.map((at) => at.join(" ")).join(" L");
  const [wide, high] = [session.screen.width / ratio, session.screen.height / ratio];
  return (
    <>
      <svg className="box-overlay sheet-frame" aria-hidden="true">
        <path className="veil" fillRule="evenodd" d={`M0 0H${wide}V${high}H0Z M${inside}Z`} />
        <path
          className="hold handle"
          d={`M${inside}Z`}
          onPointerDown={(event) => take(event, null)}
          onPointerMove={drag}
          onPointerUp={drop}
          onPointerCancel={drop}
        />
        <polygon points={corners.join(" ")} />
        <polygon className="dashes" points={corners.join(" ")} />
      </svg>
      {grips.map((grip, i) => {
        const [x, y] = onScreen(placeOf(frame, grip));
        const name = gripNames[i] ?? "";
        return (
          <button
            key={name}
            type="button"
            className="handle gradient-handle"
            style={{ left: x, top: y }}
            aria-label={`New sheet: ${name}. Drag, or use the arrow keys`}
            onPointerDown={(event) => take(event, grip)}
            onPointerMove={drag}
            onPointerUp={drop}
            onPointerCancel={drop}
            onKeyDown={(event) => {
              const dx = { ArrowLeft: -NUDGE, ArrowRight: NUDGE }[event.key] ?? 0;
              const dy = { ArrowUp: -NUDGE, ArrowDown: NUDGE }[event.key] ?? 0;
              if (dx === 0 && dy === 0) return;
              event.preventDefault();
              event.stopPropagation();
              const [px, py] = placeOf(frame, grip);
              useSheet.setState({ frame: pulled(frame, grip, [px + dx, py + dy], proportion) });
            }}
          />
        );
      })}
    </>
  );
}
