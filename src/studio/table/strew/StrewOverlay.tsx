"use client";

import { type PointerEvent, useEffect, useState } from "react";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { middleOf, turned } from "./chosen-pieces";
import { chooseNoPieces, choosePieces, type Point, setDepth, useStrew } from "./strew-store";
import { type Turn, turnTransform } from "../turn";
import { TurnHandle } from "../TurnHandle";

/** Keys move the horizon by such a share of the sheet. */
const STEP = 0.01;
/** Pieces beyond this many are shown by their frame alone. */
const MOST_MARKS = 600;

/** What is chosen of the strewn pieces, the handle that turns and stretches them, and the horizon of what is strewn. */
export function StrewOverlay({ session }: { session: Session }) {
  const tool = useTable((state) => state.tool);
  const working = useTable((state) => state.selected[0]);
  const fresh = useTable((state) => (working ? state.freshness[working] : 0));
  const view = useTable((state) => state.view);
  const picture = useTable((state) => state.picture);
  const { looks, way, act, depth, part } = useStrew();
  const [turn, setTurn] = useState<Turn | null>(null);
  useEffect(() => chooseNoPieces(), [working]);
  useEffect(() => {
    const { chosen } = useStrew.getState();
    if (tool === "strew" && chosen.length > 0) void choosePieces(session, chosen);
  }, [session, tool, fresh]);
  if (tool !== "strew" || !picture) return null;
  const ratio = window.devicePixelRatio;
  const matrix = viewMatrix(view, session.screen);
  const onScreen = (at: Point): Point => {
    const [x, y] = toScreen(matrix, ...at);
    return [x / ratio, y / ratio];
  };
  const inPicture = (event: PointerEvent<Element>): Point => {
    const box = event.currentTarget.closest(".view")?.getBoundingClientRect();
    const [left, top] = [box?.left ?? 0, box?.top ?? 0];
    return toPicture(matrix, (event.clientX - left) * ratio, (event.clientY - top) * ratio);
  };
  const { at, reach } = middleOf(looks);
  const isChoosing = act === "choose" && looks.length > 0;
  const horizonAt = (share: number): Point => onScreen([picture.width / 2, share * picture.height]);
  const [a, b] = matrix;
  const along = Math.atan2(b, a);
  const showsHorizon = depth.on && part === "depth" && act === "strew";
  return (
    <>
      <svg className="lines-overlay" aria-hidden="true" data-testid="strew-overlay">
        <g transform={`matrix(${matrix.map((v) => v / ratio).join(" ")})`}>
          {isChoosing &&
            looks
              .slice(0, MOST_MARKS)
              .map(({ id, x, y, matrix: [ma, mb, mc, md] }) => (
                <path
                  key={id}
                  className="chosen"
                  transform={turn ? turnTransform(at, turn) : undefined}
                  d={roundOf(x, y, [ma * 0.9, mb * 0.9, mc * 0.9, md * 0.9])}
                />
              ))}
          {way.length > 1 && (
            <path className="way" d={`M${way.map((point) => point.join(" ")).join("L")}Z`} />
          )}
        </g>
      </svg>
      {isChoosing && (
        <TurnHandle
          session={session}
          what="the chosen pieces"
          at={at}
          reach={reach}
          commandFor={turned}
          turns={setTurn}
          done={() => choosePieces(session, useStrew.getState().chosen)}
        />
      )}
      {showsHorizon && (
        <button
          type="button"
          className="handle strew-horizon"
          aria-label={`Horizon at ${Math.round(depth.horizon * 100)} of 100: arrow keys up and down move it`}
          style={{
            ...placed(horizonAt(depth.horizon)),
            transform: `translate(-50%, -50%) rotate(${along}rad)`,
          }}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            setDepth({ horizon: held(inPicture(event)[1] / picture.height) });
          }}
          onKeyDown={(event) => {
            const by = { ArrowUp: -STEP, ArrowDown: STEP }[event.key] ?? 0;
            if (by === 0) return;
            event.preventDefault();
            event.stopPropagation();
            setDepth({ horizon: held(depth.horizon + by) });
          }}
        />
      )}
    </>
  );
}

const held = (share: number): number => Math.min(1.5, Math.max(-0.5, share));
const placed = ([left, top]: Point): { left: number; top: number } => ({ left, top });

/** The round that a piece's picture fills, as an SVG path. */
function roundOf(x: number, y: number, [a, b, c, d]: readonly number[]): string {
  const at = (u: number, v: number): string =>
    `${x + (a ?? 0) * u + (c ?? 0) * v} ${y + (b ?? 0) * u + (d ?? 0) * v}`;
  // A circle of four cubics, through the piece's own axes.
  const k = 0.5523;
  return [
    `M${at(1, 0)}`,
    `C${at(1, k)} ${at(k, 1)} ${at(0, 1)}`,
    `C${at(-k, 1)} ${at(-1, k)} ${at(-1, 0)}`,
    `C${at(-1, -k)} ${at(-k, -1)} ${at(0, -1)}`,
    `C${at(k, -1)} ${at(1, -k)} ${at(1, 0)}Z`,
  ].join("");
}
