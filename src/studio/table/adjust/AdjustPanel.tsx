"use client";

import { type ReactNode, useRef, useState } from "react";
import { type Adjustment, MOST_LAYER_RADIUS, toneTable } from "../../../engine/adjust/adjustment";
import { TABLE_STEPS } from "../../../engine/gradient/gradient";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { GradientStrip } from "../gradient/GradientStrip";
import { CurveEditor } from "../../curve/CurveEditor";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { HistogramChart } from "./HistogramChart";
import { type LevelMark, levelMarks, placeOfMark, withMark } from "./levels-marks";
import {
  adjustmentNames,
  endAdjusting,
  setAdjustment,
  showAdjusted,
  useAdjust,
} from "./adjust-store";

type Of<K extends Adjustment["kind"]> = Extract<Adjustment, { kind: K }>;

/** What lies behind a control: the histogram. */
type Behind = (over: ReactNode) => ReactNode;

/** Points of the line that says what becomes of each value. */
const LINE = 48;
const NUDGE = 0.01;
const markNames: Record<LevelMark, string> = {
  black: "Black from",
  middle: "Middle",
  white: "White from",
};

/** The levels over the histogram: what becomes of each value, and three marks to drag. */
function LevelMarks({ of, set }: { of: Of<"levels">; set: (next: Adjustment) => void }) {
  const field = useRef<HTMLDivElement>(null);
  const { numbers } = toneTable(of);
  const line = Array.from({ length: LINE + 1 }, (_, i) => {
    const value = numbers[Math.round((i / LINE) * TABLE_STEPS)] as number;
    return `${((i / LINE) * 100).toFixed(1)},${((1 - value) * 100).toFixed(1)}`;
  }).join(" ");
  const move = (mark: LevelMark, clientX: number): void => {
    const box = field.current?.getBoundingClientRect();
    if (box) set(withMark(of, mark, (clientX - box.left) / box.width));
  };
  return (
    <div className="level-marks" ref={field}>
      <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        <polyline points={line} />
      </svg>
      {levelMarks.map((mark) => {
        const at = placeOfMark(of, mark);
        return (
          <button
            key={mark}
            type="button"
            role="slider"
            className={`drop-mark ${mark}`}
            style={{ left: `${at * 100}%` }}
            aria-label={`${markNames[mark]}, on the histogram`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(at * 100)}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => {
              if (event.currentTarget.hasPointerCapture(event.pointerId)) move(mark, event.clientX);
            }}
            onKeyDown={(event) => {
              const step = { ArrowLeft: -NUDGE, ArrowRight: NUDGE }[event.key];
              if (step === undefined) return;
              event.preventDefault();
              event.stopPropagation();
              set(withMark(of, mark, at + step));
            }}
          />
        );
      })}
    </div>
  );
}

function Levels({
  of,
  set,
  behind,
}: {
  of: Of<"levels">;
  set: (next: Adjustment) => void;
  behind: Behind;
}) {
  const slide = (label: string, key: "black" | "white" | "lowest" | "highest") => (
    <WideSlide
      label={label}
      value={of[key]}
      least={0}
      most={1}
      set={(v) => set({ ...of, [key]: v })}
    />
  );
  return (
    <>
      {behind(<LevelMarks of={of} set={set} />)}
      {slide("Black from", "black")}
      <WideSlide
        label="Middle"
        value={Math.log2(of.middle)}
        least={-3}
        most={3}
        set={(v) => set({ ...of, middle: 2 ** v })}
      />
      {slide("White from", "white")}
      {slide("Darkest", "lowest")}
      {slide("Lightest", "highest")}
    </>
  );
}

const channels = ["all", "red", "green", "blue"] as const;

function Curves({
  of,
  set,
  behind,
}: {
  of: Of<"curves">;
  set: (next: Adjustment) => void;
  behind: Behind;
}) {
  const [channel, setChannel] = useState<(typeof channels)[number]>("all");
  return (
    <>
      <div className="ways" role="radiogroup" aria-label="Channel">
        {channels.map((name) => (
          <button
            key={name}
            type="button"
            role="radio"
            aria-checked={name === channel}
            onClick={() => setChannel(name)}
          >
            {name}
          </button>
        ))}
      </div>
      {behind(
        <CurveEditor
          label={`Curve of ${channel}`}
          curve={of[channel]}
          least={0}
          most={1}
          onChange={(curve) => set({ ...of, [channel]: curve })}
        />,
      )}
    </>
  );
}

function Balance({ of, set }: { of: Of<"balance">; set: (next: Adjustment) => void }) {
  const [part, setPart] = useState<"darks" | "middles" | "lights">("middles");
  const names = ["Cyan to red", "Magenta to green", "Yellow to blue"];
  return (
    <>
      <div className="ways" role="radiogroup" aria-label="Part">
        {(["darks", "middles", "lights"] as const).map((name) => (
          <button
            key={name}
            type="button"
            role="radio"
            aria-checked={name === part}
            onClick={() => setPart(name)}
          >
            {name}
          </button>
        ))}
      </div>
      {names.map((label, c) => (
        <WideSlide
          key={label}
          label={label}
          value={of[part][c] as number}
          least={-1}
          most={1}
          set={(v) => {
            const next = [...of[part]] as [number, number, number];
            next[c] = v;
            set({ ...of, [part]: next });
          }}
        />
      ))}
    </>
  );
}

function Stops({ of, set }: { of: Of<"by value">; set: (next: Adjustment) => void }) {
  const setStops = (stops: typeof of.stops): void => set({ ...of, stops });
  return (
    <>
      <div className="ends quiet" aria-hidden="true">
        <span>darks</span>
        <span>lights</span>
      </div>
      <GradientStrip
        label="Colours by value"
        stops={of.stops}
        clear={false}
        onTry={setStops}
        onKeep={setStops}
      />
      <p className="quiet mb-0">Press the strip for one more stop in the colour in hand.</p>
    </>
  );
}

/** The controls of an adjustment, on a layer's paint or as a layer. */
function Controls({
  of,
  set,
  isLayer,
  behind,
}: {
  of: Adjustment;
  set: (next: Adjustment) => void;
  isLayer: boolean;
  behind: Behind;
}) {
  switch (of.kind) {
    case "levels":
      return <Levels of={of} set={set} behind={behind} />;
    case "curves":
      return <Curves of={of} set={set} behind={behind} />;
    case "balance":
      return <Balance of={of} set={set} />;
    case "by value":
      return <Stops of={of} set={set} />;
    case "brightness":
      return (
        <>
          <WideSlide
            label="Brightness"
            value={of.brightness}
            least={-1}
            most={1}
            set={(v) => set({ ...of, brightness: v })}
          />
          <WideSlide
            label="Contrast"
            value={of.contrast}
            least={-1}
            most={0.95}
            set={(v) => set({ ...of, contrast: v })}
          />
        </>
      );
    case "hue":
      return (
        <>
          <WideSlide
            label="Hue"
            value={of.hue}
            least={-180}
            most={180}
            step={1}
            set={(v) => set({ ...of, hue: v })}
          />
          <WideSlide
            label="Saturation"
            value={of.saturation}
            least={-1}
            most={1}
            set={(v) => set({ ...of, saturation: v })}
          />
          <WideSlide
            label="Lightness"
            value={of.lightness}
            least={-1}
            most={1}
            set={(v) => set({ ...of, lightness: v })}
          />
        </>
      );
    case "posterize":
      return (
        <WideSlide
          label="Steps"
          value={of.steps}
          least={2}
          most={16}
          step={1}
          set={(v) => set({ ...of, steps: v })}
        />
      );
    case "blur":
      return (
        <WideSlide
          label="Radius, px"
          value={of.radius}
          least={1}
          most={isLayer ? MOST_LAYER_RADIUS : 200}
          step={1}
          set={(v) => set({ ...of, radius: v })}
        />
      );
    case "sharpen":
      return (
        <>
          <WideSlide
            label="Radius, px"
            value={of.radius}
            least={1}
            most={40}
            step={1}
            set={(v) => set({ ...of, radius: v })}
          />
          <WideSlide
            label="Amount"
            value={of.amount}
            least={0}
            most={3}
            set={(v) => set({ ...of, amount: v })}
          />
        </>
      );
    case "noise":
      return (
        <>
          <WideSlide
            label="Amount"
            value={of.amount}
            least={0}
            most={1}
            set={(v) => set({ ...of, amount: v })}
          />
          <Tick on={of.grey} set={(grey) => set({ ...of, grey })}>
            Grey, without colours
          </Tick>
        </>
      );
    case "invert":
      return <p className="quiet mb-0">Dark becomes light, every hue its opposite.</p>;
  }
}

/** An adjustment in the making: its controls, what it does seen at once on the whole picture. */
export function AdjustPanel({ session }: { session: Session }) {
  const { adjustment, layer, before } = useAdjust();
  const selected = useTable((state) => state.selected);
  if (!adjustment) return null;
  const hold = (next: boolean) => (): void => {
    useAdjust.setState({ before: next });
    showAdjusted(session);
  };
  // Behind a layer's own adjustment lies what is seen, else what the working layer holds.
  const behind: Behind = (over) => (
    <HistogramChart session={session} layer={layer ? null : (selected[0] ?? null)}>
      {over}
    </HistogramChart>
  );
  return (
    <FloatingPanel title={adjustmentNames[adjustment.kind]} className="adjust-panel">
      <Controls
        of={adjustment}
        set={(next) => setAdjustment(session, next)}
        isLayer={layer !== null}
        behind={behind}
      />
      <div className="line">
        <button
          type="button"
          className="btn btn-sm"
          aria-pressed={before}
          onPointerDown={hold(true)}
          onPointerUp={hold(false)}
          onPointerLeave={before ? hold(false) : undefined}
          onKeyDown={(event) => event.key === " " && !event.repeat && hold(true)()}
          onKeyUp={(event) => event.key === " " && hold(false)()}
        >
          Hold: before
        </button>
        <span className="spacer" />
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void endAdjusting(session, false)}
        >
          Throw away
        </button>
        <button
          type="button"
          className="btn btn-sm btn-strong"
          onClick={() => void endAdjusting(session, true)}
        >
          Keep
        </button>
      </div>
    </FloatingPanel>
  );
}
