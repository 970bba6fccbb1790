"use client";

import {
  Droplets,
  FlipHorizontal2,
  Hand,
  History,
  Lasso,
  Maximize,
  PaintBucket,
  Paintbrush,
  Grid3x3,
  Pipette,
  RotateCcw,
  Scaling,
  LineSquiggle,
  Eraser,
  Wrench,
} from "lucide-react";
import { type CSSProperties, type ReactNode, useEffect, useRef, useState } from "react";
import { BrushCard } from "../brushes/BrushCard";
import { brushById, kitsOf, useBrushBox } from "../brushes/brush-box";
import { GuidesMenu } from "./guides/GuidesMenu";
import { toggleLines } from "./lines/lines-store";
import { StencilsMenu } from "./stencils/StencilsMenu";
import { keyName } from "./keys/key-map";
import { type Session } from "./session";
import { TipPicture } from "./slab/TipPicture";
import {
  amountsNow,
  modeNow,
  kitOrder,
  type Mode,
  positionOf,
  sizeAt,
  useParts,
  useTable,
} from "./table-store";
import { LEAST_SIZE, MOST_SIZE } from "../../engine/stroke/brush";
import { toggleTool } from "./region/region-store";
import { SetCards, STREW_KIT } from "./strew/SetCards";
import { toggleTransform } from "./transform/transform-store";

const modes: { mode: Mode; label: string; icon: ReactNode }[] = [
  { mode: "paint", label: "Paint", icon: <Paintbrush size={20} /> },
  { mode: "lift", label: "Lift", icon: <Eraser size={20} /> },
  { mode: "blend", label: "Blend", icon: <Droplets size={20} /> },
];

function Modes() {
  const mode = useTable(modeNow);
  const only = useTable((state) => {
    const brush = brushById(state.brush);
    return brush?.does ? `${brush.name} only ${brush.does === "lift" ? "lifts" : "blends"}` : null;
  });
  const set = useTable((state) => state.set);
  const keys = useTable((state) => state.keys);
  return (
    <div className="modes">
      <div className="buttons" role="radiogroup" aria-label="Mode">
        {modes.map(({ mode: own, label, icon }) => (
          <button
            key={own}
            type="button"
            role="radio"
            aria-checked={mode === own}
            disabled={only !== null && mode !== own}
            title={only ?? undefined}
            aria-keyshortcuts={keyName(keys[own])}
            onClick={() => set({ mode: own, tool: "brush" })}
          >
            {icon}
            {label}
          </button>
        ))}
      </div>
      <div className="hint">
        hold {keyName(keys.lift)} to lift, {keyName(keys.blend)} to blend
      </div>
    </div>
  );
}

/** The size as a number that can be typed, px. */
function SizeField({ size, choose }: { size: number; choose: (size: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = (): void => {
    const wanted = Number((typed ?? "").replace(",", "."));
    if (typed !== null && typed.trim() !== "" && Number.isFinite(wanted))
      choose(Math.min(MOST_SIZE, Math.max(LEAST_SIZE, wanted)));
    setTyped(null);
  };
  return (
    <span className="typed">
      <input
        type="text"
        inputMode="decimal"
        aria-label="Brush px"
        title="Type a size, 0.5 to 2000 px"
        value={typed ?? String(size)}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === "Escape") setTyped(null);
          if (event.key === "Enter" || event.key === "Escape") event.currentTarget.blur();
        }}
      />
      px
    </span>
  );
}

function Amounts() {
  const { size, strength } = useTable(amountsNowStable);
  const setAmounts = useTable((state) => state.setAmounts);
  const carried = useTable((state) => (state.keepsPaint ? state.carried[state.brush] : undefined));
  return (
    <div className="amounts">
      <div>
        <div className="line">
          <label htmlFor="brush-size">Size</label>
          {carried && <TipPicture carried={carried} />}
          <SizeField size={size} choose={(next) => setAmounts({ size: next })} />
        </div>
        <input
          id="brush-size"
          type="range"
          className="swell"
          min={0}
          max={1}
          step={0.005}
          value={positionOf(size)}
          aria-valuetext={`${size} px`}
          onChange={(event) => setAmounts({ size: sizeAt(Number(event.target.value)) })}
        />
      </div>
      <div>
        <div className="line">
          <label htmlFor="brush-strength">Strength</label>
          <output>{Math.round(strength * 100)}</output>
        </div>
        <input
          id="brush-strength"
          type="range"
          className="swell even"
          style={
            { "--track": "linear-gradient(90deg, var(--sunken), var(--quiet))" } as CSSProperties
          }
          min={1}
          max={100}
          value={Math.round(strength * 100)}
          onChange={(event) => setAmounts({ strength: Number(event.target.value) / 100 })}
        />
      </div>
    </div>
  );
}

const amountsNowStable = (state: Parameters<typeof amountsNow>[0]) => amountsNow(state);

/** Kits and their cards. The chosen kit's brushes come first, then the others in the stage's order. */
function Brushes({ session }: { session: Session }) {
  const { stage, kit, set } = useParts("stage", "kit", "set");
  const box = useBrushBox();
  const kits = kitsOf(box, kitOrder(stage));
  const cards = useRef<HTMLDivElement>(null);
  useEffect(() => {
    cards.current?.scrollTo({ left: 0 });
  }, [kit, stage]);
  const chosen = kits.filter(({ name }) => name === kit);
  const shown = [...chosen, ...kits.filter(({ name }) => name !== kit)];
  return (
    <div className="brushes">
      <div className="kits" role="tablist" aria-label="Kits">
        {[...kits.map(({ name }) => name), STREW_KIT].map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={name === kit}
            onClick={() => set({ kit: name })}
          >
            {name}
          </button>
        ))}
      </div>
      <div className="cards" ref={cards} role="radiogroup" aria-label="Brushes">
        {kit === STREW_KIT && <SetCards session={session} />}
        {shown.flatMap(({ name, brushes }) =>
          brushes.map((brush) => (
            <BrushCard key={`${name} ${brush.id}`} session={session} brush={brush} />
          )),
        )}
      </div>
    </div>
  );
}

function ToolButton({
  label,
  icon,
  pressed,
  act,
  keys,
}: {
  label: string;
  icon: ReactNode;
  pressed?: boolean;
  act: () => void;
  keys?: string;
}) {
  return (
    <button type="button" aria-pressed={pressed} aria-keyshortcuts={keys} onClick={act}>
      {icon}
      {label}
    </button>
  );
}

function Tools({ session }: { session: Session }) {
  const { tool, keys, set } = useParts("tool", "keys", "set");
  const mirrored = useTable(({ view }) => view.mirrored);
  const zoom = useTable(({ view }) => view.zoom);
  const toggle = (other: "pick" | "hand") => () => set({ tool: tool === other ? "brush" : other });
  return (
    <div className="tools" role="group" aria-label="Tools">
      <ToolButton
        label="Pick"
        icon={<Pipette size={18} />}
        pressed={tool === "pick"}
        act={toggle("pick")}
        keys={keyName(keys.pick)}
      />
      <ToolButton
        label="Move"
        icon={<Hand size={18} />}
        pressed={tool === "hand"}
        act={toggle("hand")}
        keys="Space"
      />
      <ToolButton
        label="Select"
        icon={<Lasso size={18} />}
        pressed={tool === "select"}
        act={() => void toggleTool(session, "select")}
        keys={keyName(keys.select)}
      />
      <ToolButton
        label="Fill"
        icon={<PaintBucket size={18} />}
        pressed={tool === "fill"}
        act={() => void toggleTool(session, "fill")}
        keys={keyName(keys.fill)}
      />
      <ToolButton
        label="Correct"
        icon={<LineSquiggle size={18} />}
        pressed={tool === "lines"}
        act={() => void toggleLines(session)}
        keys={keyName(keys.lines)}
      />
      <ToolButton
        label="Transform"
        icon={<Scaling size={18} />}
        pressed={tool === "transform"}
        act={() => void toggleTransform(session)}
        keys={keyName(keys.transform)}
      />
      <GuidesMenu session={session} />
      <StencilsMenu session={session} />
      <ToolButton
        label="Fit"
        icon={<Maximize size={18} />}
        act={() => session.fit()}
        keys={keyName(keys.zoom)}
      />
      <ToolButton
        label="1 : 1"
        icon={<Grid3x3 size={18} />}
        pressed={zoom === 1}
        act={() => session.oneToOne()}
      />
      <ToolButton
        label="Mirror"
        icon={<FlipHorizontal2 size={18} />}
        pressed={mirrored}
        act={() => session.mirror()}
        keys={keyName(keys.mirror)}
      />
      <ToolButton
        label="Upright"
        icon={<RotateCcw size={18} />}
        act={() => session.upright()}
        keys={keyName(keys.turn)}
      />
      <ToolButton
        label="Workshop"
        icon={<Wrench size={18} />}
        act={() => set({ dialog: "workshop" })}
      />
      <ToolButton
        label="Replay"
        icon={<History size={18} />}
        act={() => set({ dialog: "replay" })}
      />
    </div>
  );
}

export function Tray({ session }: { session: Session }) {
  return (
    <section className="tray" aria-label="Tray">
      <Modes />
      <Amounts />
      <Brushes session={session} />
      <Tools session={session} />
    </section>
  );
}
