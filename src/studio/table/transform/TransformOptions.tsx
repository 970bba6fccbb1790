"use client";

import { FlipHorizontal2, FlipVertical2, Link2, Link2Off, Square } from "lucide-react";
import { useState } from "react";
import { type Filter } from "../../../engine/transform/filters";
import { NumberField } from "../../ui/NumberField";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { atRest, type Free } from "../../../engine/transform/free";
import { flipped, heldAs, type Placement } from "./placement";
import { endTransform, place, putDown, useTransform } from "./transform-store";

const DEGREE = Math.PI / 180;
const ways: { kind: Placement["kind"]; label: string }[] = [
  { kind: "free", label: "Free" },
  { kind: "perspective", label: "Perspective" },
  { kind: "mesh", label: "Mesh" },
];
const filterNames: Record<Filter, string> = {
  bicubic: "Smooth (bicubic)",
  lanczos: "Crisp (Lanczos)",
};

function Numbers({ session, free }: { session: Session; free: Free }) {
  const piece = useTransform((state) => state.piece);
  const [linked, setLinked] = useState(false);
  if (!piece) return null;
  const width = piece.from.right - piece.from.left;
  const height = piece.from.bottom - piece.from.top;
  const change = (changes: Partial<Free>): void =>
    void place(session, { kind: "free", free: { ...free, ...changes } });
  const scale = (px: number, of: number, own: number): number =>
    (Math.max(0.5, Math.abs(px)) / of) * Math.sign(own);
  /** With linked proportions the other side changes as much. */
  const scaled = (side: "scaleX" | "scaleY", px: number): Partial<Free> => {
    const next = scale(px, side === "scaleX" ? width : height, free[side]);
    if (!linked) return { [side]: next };
    const by = next / free[side];
    return { scaleX: free.scaleX * by, scaleY: free.scaleY * by };
  };
  const turn = (degrees: number): number =>
    Math.atan2(Math.sin(degrees * DEGREE), Math.cos(degrees * DEGREE));
  return (
    <>
      <NumberField label="X" unit="px" value={free.x} take={(x) => change({ x })} />
      <NumberField label="Y" unit="px" value={free.y} take={(y) => change({ y })} />
      <NumberField
        label="Wide"
        unit="px"
        value={Math.abs(free.scaleX) * width}
        take={(px) => change(scaled("scaleX", px))}
      />
      <button
        type="button"
        className="icon-button"
        aria-pressed={linked}
        aria-label="Keep proportions"
        title="Keep proportions: width and height change together"
        onClick={() => setLinked(!linked)}
      >
        {linked ? <Link2 size={16} /> : <Link2Off size={16} />}
      </button>
      <NumberField
        label="High"
        unit="px"
        value={Math.abs(free.scaleY) * height}
        take={(px) => change(scaled("scaleY", px))}
      />
      <NumberField
        label="Turn"
        unit="°"
        value={free.angle / DEGREE}
        take={(degrees) => change({ angle: turn(degrees) })}
      />
      <NumberField
        label="Skew"
        unit="°"
        value={free.skew / DEGREE}
        take={(degrees) => change({ skew: Math.min(80, Math.max(-80, degrees)) * DEGREE })}
      />
    </>
  );
}

/** Options of a piece in hand: how it is held, its numbers, and what becomes of it. */
export function TransformOptions({ session }: { session: Session }) {
  const { piece, placement, filter, cells, set } = useTransform();
  const setTable = useTable((state) => state.set);
  if (!piece) return null;
  const hold = (kind: Placement["kind"], count = cells): void => {
    set({ cells: count });
    void place(session, heldAs(piece.from, placement, kind, count));
  };
  return (
    <div className="transform-options">
      <div className="line">
        <div className="ways" role="radiogroup" aria-label="Held">
          {ways.map(({ kind, label }) => (
            <button
              key={kind}
              type="button"
              role="radio"
              aria-checked={placement.kind === kind}
              onClick={() => hold(kind)}
            >
              {label}
            </button>
          ))}
        </div>
        {placement.kind === "mesh" && (
          <select
            className="form-select form-select-sm"
            aria-label="Cells of the mesh"
            value={cells}
            onChange={(event) => hold("mesh", Number(event.target.value))}
          >
            {[1, 2, 3, 4, 5, 6].map((n) => (
              <option key={n} value={n}>
                {n} × {n}
              </option>
            ))}
          </select>
        )}
        {placement.kind === "free" && <Numbers session={session} free={placement.free} />}
        {placement.kind === "perspective" && <span>Pull the corners</span>}
      </div>
      <div className="line">
        <button
          type="button"
          className="icon-button"
          aria-label="Flip left to right"
          title="Flip left to right"
          onClick={() => void place(session, flipped(piece.from, placement, true))}
        >
          <FlipHorizontal2 size={16} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label="Flip top to bottom"
          title="Flip top to bottom"
          onClick={() => void place(session, flipped(piece.from, placement, false))}
        >
          <FlipVertical2 size={16} />
        </button>
        <select
          className="form-select form-select-sm"
          aria-label="Resampling"
          value={filter}
          onChange={(event) => {
            set({ filter: event.target.value as Filter });
            void putDown(session);
          }}
        >
          {(Object.keys(filterNames) as Filter[]).map((name) => (
            <option key={name} value={name}>
              {filterNames[name]}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => setTable({ tool: "transform box" })}
        >
          <Square size={14} /> Only a box
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void place(session, { kind: "free", free: atRest(piece.from) })}
        >
          As it was
        </button>
        <span className="grow" />
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void endTransform(session, false)}
        >
          Throw away
        </button>
        <button
          type="button"
          className="btn btn-sm btn-strong"
          onClick={() => void endTransform(session, true)}
        >
          Keep
        </button>
      </div>
    </div>
  );
}
