"use client";

import { useEffect, useRef } from "react";
import { type Halftone, screenKinds, type ScreenKind } from "../../../engine/halftone/halftone";
import { dotSide } from "../../../engine/halftone/write";
import { swatchOf } from "../../../engine/halftone/swatch";
import { Choice } from "../../ui/Choice";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { closeHalftone, removeHalftone, tryHalftone, useHalftone } from "./halftone-store";

/** Px of a screen's sample. */
const SWATCH = { width: 52, height: 30 };
/** Rulings beyond this need no slider: they are typed. */
const FINEST_SLID = 133;
/** Angles that printers give to black, cyan, magenta and yellow. */
const ANGLES = [0, 15, 45, 75, 90];
const GREYS = [0, 1, 2, 3, 4, 5, 6, 8, 12];

const WORDS: Record<ScreenKind, string> = {
  round: "Round dots",
  ellipse: "Chained dots",
  diamond: "Diamonds",
  square: "Squares",
  line: "Lines",
  cross: "Crossed lines",
  grain: "Grain",
  wave: "Waves",
  brick: "Bricks",
  scale: "Scales",
  star: "Stars",
  weave: "Weave",
  dash: "Dashes",
};

/** A screen as it grows from light to dark. */
function Swatch({ kind }: { kind: ScreenKind }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    const { width, height } = SWATCH;
    context?.putImageData(new ImageData(swatchOf(kind, width, height), width, height), 0, 0);
  }, [kind]);
  return <canvas ref={canvas} {...SWATCH} aria-hidden="true" />;
}

/** The halftone of a layer, to be changed while it is seen. */
export function HalftonePanel({ session }: { session: Session }) {
  const { layer: id, tried } = useHalftone();
  const picture = useTable((state) => state.picture);
  const working = useTable((state) => state.selected[0]);
  const layer = picture?.layers.find((one) => one.id === id);
  const halftone = tried ?? layer?.halftone;
  // Another layer in hand, or none: what was tried is kept, the panel goes.
  const isOver = id !== null && (working !== id || !halftone);
  useEffect(() => {
    if (isOver) void closeHalftone(session);
  }, [isOver, session]);
  if (!picture || !layer || !halftone || isOver) return null;
  const set = (changes: Partial<Halftone>): void =>
    tryHalftone(session, { ...halftone, ...changes });
  const { ppi } = picture;
  const side = dotSide(halftone, ppi);
  return (
    <FloatingPanel title={`Halftone of ${layer.name}`} className="adjust-panel halftone-panel">
      <div className="screens" role="radiogroup" aria-label="Screen">
        {screenKinds.map((kind) => (
          <button
            key={kind}
            type="button"
            role="radio"
            aria-checked={kind === halftone.screen}
            aria-label={WORDS[kind]}
            title={WORDS[kind]}
            onClick={() => set({ screen: kind })}
          >
            <Swatch kind={kind} />
          </button>
        ))}
      </div>
      <WideSlide
        label="Lines an inch"
        least={5}
        most={Math.max(10, Math.min(FINEST_SLID, Math.floor(ppi / 2)))}
        step={1}
        value={halftone.lpi}
        set={(lpi) => set({ lpi })}
      />
      <p className="quiet mb-0">
        {side.toFixed(side < 10 ? 1 : 0)} px from{" "}
        {halftone.screen === "line" ? "line to line" : "dot to dot"} at {Math.round(ppi)} ppi
        {ppi / halftone.lpi < 4 && ". Finer than the sheet can show cleanly"}
      </p>
      <WideSlide
        label="Angle"
        least={-90}
        most={90}
        step={1}
        value={halftone.angle}
        set={(angle) => set({ angle })}
      />
      <div className="steps" role="group" aria-label="Usual angles">
        {ANGLES.map((angle) => (
          <button
            key={angle}
            type="button"
            className="btn btn-sm"
            aria-pressed={halftone.angle === angle}
            onClick={() => set({ angle })}
          >
            {angle}°
          </button>
        ))}
      </div>
      <WideSlide
        label="Density"
        least={0.25}
        most={3}
        step={0.05}
        value={halftone.density}
        set={(density) => set({ density })}
      />
      <label className="slide">
        <span>Greys</span>
        <select
          className="form-select form-select-sm"
          aria-label="Greys"
          value={halftone.steps}
          onChange={(event) => set({ steps: Number(event.target.value) })}
        >
          {GREYS.map((steps) => (
            <option key={steps} value={steps}>
              {steps === 0 ? "as painted" : steps === 1 ? "solid or bare" : `in ${steps} steps`}
            </option>
          ))}
        </select>
      </label>
      <div className="line">
        <span>Ink</span>
        <Choice
          label="Ink"
          of={[
            ["one", "One ink", "Dark paint makes dense dots, of this ink"],
            ["own", "Own colours", "Dots in the colours of the paint"],
          ]}
          value={halftone.ink ? "one" : "own"}
          choose={(ink) => set({ ink: ink === "own" ? null : useTable.getState().colour })}
        />
        {halftone.ink && (
          <button
            type="button"
            className="swatch"
            style={{ background: halftone.ink }}
            aria-label="Ink: give it the colour in hand"
            title="Ink: press to give it the colour in hand"
            onClick={() => set({ ink: useTable.getState().colour })}
          />
        )}
      </div>
      <div className="line">
        <span>Paper</span>
        <Choice
          label="Paper between the dots"
          of={[
            ["clear", "Clear", "What lies below is seen between the dots"],
            ["white", "White", "Between the dots it is white"],
          ]}
          value={halftone.paper}
          choose={(paper) => set({ paper })}
        />
      </div>
      <footer>
        <button type="button" className="btn" onClick={() => void removeHalftone(session)}>
          Remove
        </button>
        <button
          type="button"
          className="btn"
          aria-pressed={!halftone.on}
          title="The layer in its greys; the settings stay"
          onClick={() => set({ on: !halftone.on })}
        >
          {halftone.on ? "As greys" : "As dots"}
        </button>
        <button
          type="button"
          className="btn btn-strong"
          onClick={() => void closeHalftone(session)}
        >
          Done
        </button>
      </footer>
    </FloatingPanel>
  );
}
