"use client";

import { useEffect, useState } from "react";
import { Area, AreaChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { type Adjustment, MOST_LAYER_RADIUS } from "../../../engine/adjust/adjustment";
import { type Histogram } from "../../../engine/crit/histogram";
import { GradientStrip } from "../gradient/GradientStrip";
import { CurveEditor } from "../../workshop/CurveEditor";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  adjustmentNames,
  endAdjusting,
  setAdjustment,
  showAdjusted,
  useAdjust,
} from "./adjust-store";

/** How often each value is met, behind levels and curves. */
function HistogramChart({ session, layer }: { session: Session; layer: string | null }) {
  const [histogram, setHistogram] = useState<Histogram | null>(null);
  useEffect(() => {
    void session.link.api
      .histogram(layer)
      .then((answer) => answer.ok && setHistogram(answer.value));
  }, [session, layer]);
  if (!histogram) return <div className="histogram" />;
  const data = histogram.light.map((light, i) => ({
    light,
    red: histogram.red[i],
    green: histogram.green[i],
    blue: histogram.blue[i],
  }));
  return (
    <div
      className="histogram"
      role="img"
      aria-label={`Histogram of ${Math.round(histogram.count)} points`}
      data-testid="histogram"
    >
      <ResponsiveContainer width="100%" height="100%">
        <AreaChart data={data} margin={{ top: 2, right: 0, bottom: 0, left: 0 }}>
          <XAxis hide />
          <YAxis hide scale="sqrt" domain={[0, "dataMax"]} />
          <Area
            dataKey="light"
            stroke="none"
            fill="var(--quiet)"
            fillOpacity={0.55}
            isAnimationActive={false}
          />
          <Area dataKey="red" stroke="#b2452f" fill="none" isAnimationActive={false} />
          <Area dataKey="green" stroke="#4f7d3a" fill="none" isAnimationActive={false} />
          <Area dataKey="blue" stroke="#3d6a9e" fill="none" isAnimationActive={false} />
        </AreaChart>
      </ResponsiveContainer>
    </div>
  );
}

function Slide({
  label,
  value,
  least,
  most,
  step = 0.01,
  set,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step?: number;
  set: (value: number) => void;
}) {
  const shown = step >= 1 ? String(Math.round(value)) : value.toFixed(2);
  return (
    <label className="slide">
      <span>{label}</span>
      <input
        type="range"
        className="swell even"
        min={least}
        max={most}
        step={step}
        value={value}
        aria-label={label}
        onChange={(event) => set(Number(event.target.value))}
      />
      <output>{shown}</output>
    </label>
  );
}

type Of<K extends Adjustment["kind"]> = Extract<Adjustment, { kind: K }>;

function Levels({ of, set }: { of: Of<"levels">; set: (next: Adjustment) => void }) {
  const slide = (label: string, key: "black" | "white" | "lowest" | "highest") => (
    <Slide label={label} value={of[key]} least={0} most={1} set={(v) => set({ ...of, [key]: v })} />
  );
  return (
    <>
      {slide("Black from", "black")}
      {slide("White from", "white")}
      <Slide
        label="Middle"
        value={Math.log2(of.middle)}
        least={-3}
        most={3}
        set={(v) => set({ ...of, middle: 2 ** v })}
      />
      {slide("Darkest", "lowest")}
      {slide("Lightest", "highest")}
    </>
  );
}

const channels = ["all", "red", "green", "blue"] as const;

function Curves({ of, set }: { of: Of<"curves">; set: (next: Adjustment) => void }) {
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
      <CurveEditor
        label={`Curve of ${channel}`}
        curve={of[channel]}
        least={0}
        most={1}
        onChange={(curve) => set({ ...of, [channel]: curve })}
      />
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
        <Slide
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
      <GradientStrip
        label="Colours by value"
        stops={of.stops}
        clear={false}
        onTry={setStops}
        onKeep={setStops}
      />
      <div className="ends quiet" aria-hidden="true">
        <span>darks</span>
        <span>lights</span>
      </div>
      <p className="quiet mb-0">Press the strip for one more stop in the colour in hand.</p>
    </>
  );
}

/** The controls of an adjustment, on a layer's paint or as a layer. */
function Controls({
  of,
  set,
  isLayer,
}: {
  of: Adjustment;
  set: (next: Adjustment) => void;
  isLayer: boolean;
}) {
  switch (of.kind) {
    case "levels":
      return <Levels of={of} set={set} />;
    case "curves":
      return <Curves of={of} set={set} />;
    case "balance":
      return <Balance of={of} set={set} />;
    case "by value":
      return <Stops of={of} set={set} />;
    case "brightness":
      return (
        <>
          <Slide
            label="Brightness"
            value={of.brightness}
            least={-1}
            most={1}
            set={(v) => set({ ...of, brightness: v })}
          />
          <Slide
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
          <Slide
            label="Hue"
            value={of.hue}
            least={-180}
            most={180}
            step={1}
            set={(v) => set({ ...of, hue: v })}
          />
          <Slide
            label="Saturation"
            value={of.saturation}
            least={-1}
            most={1}
            set={(v) => set({ ...of, saturation: v })}
          />
          <Slide
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
        <Slide
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
        <Slide
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
          <Slide
            label="Radius, px"
            value={of.radius}
            least={1}
            most={40}
            step={1}
            set={(v) => set({ ...of, radius: v })}
          />
          <Slide
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
        <Slide
          label="Amount"
          value={of.amount}
          least={0}
          most={1}
          set={(v) => set({ ...of, amount: v })}
        />
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
  const hasHistogram = adjustment.kind === "levels" || adjustment.kind === "curves";
  return (
    <section className="adjust-panel handle" aria-label={adjustmentNames[adjustment.kind]}>
      <h2>{adjustmentNames[adjustment.kind]}</h2>
      {hasHistogram && (
        <HistogramChart session={session} layer={layer ? null : (selected[0] ?? null)} />
      )}
      <Controls
        of={adjustment}
        set={(next) => setAdjustment(session, next)}
        isLayer={layer !== null}
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
          Before, held
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
    </section>
  );
}
