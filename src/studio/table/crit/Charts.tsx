"use client";

import { X } from "lucide-react";
import { Area, AreaChart, Bar, BarChart, Cell, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { oklchToHex } from "../../../engine/colour/oklch";
import { BINS, HUE_BINS, type Histogram, temperatureOf } from "../../../engine/crit/histogram";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { lookAgain, useCrit } from "./crit-store";

const STEP_NAMES = ["dark", "middle", "light"];
/** Where painters' hues stand on the circle of OKLCH, degrees. */
const HUE_NAMES: readonly [number, string][] = [
  [29, "red"],
  [100, "yellow"],
  [148, "green"],
  [195, "cyan"],
  [258, "blue"],
  [304, "violet"],
  [346, "pink"],
];

/** Shares of darks, middles and lights, in hundredths. */
function thirds({ light }: Histogram): number[] {
  const sums = [0, 0, 0];
  light.forEach((n, i) => {
    const third = Math.min(2, Math.floor((i / BINS) * 3));
    sums[third] = (sums[third] as number) + n;
  });
  const all = Math.max(1e-9, sums[0]! + sums[1]! + sums[2]!);
  return sums.map((n) => Math.round((n / all) * 100));
}

/** How much there is of each value and hue. */
export function Charts({ session, charts }: { session: Session; charts: Histogram }) {
  const selection = useTable((state) => state.picture?.selection ?? false);
  const values = charts.light.map((n, i) => ({ value: Math.round((i / (BINS - 1)) * 100), n }));
  const hues = charts.hues.map((n, i) => ({
    hue: Math.round(((i + 0.5) / HUE_BINS) * 360),
    n: Math.round(n * 10) / 10,
  }));
  const shares = thirds(charts);
  const warm = temperatureOf(charts);
  return (
    <FloatingPanel
      title={selection ? "Values and hues of the selection" : "Values and hues"}
      className="adjust-panel crit-charts"
      beside={
        <>
          <button type="button" className="btn btn-sm" onClick={() => void lookAgain(session)}>
            Look again
          </button>
          <button
            type="button"
            className="icon-button"
            aria-label="Close charts"
            onClick={() => useCrit.setState({ charts: null })}
          >
            <X size={16} />
          </button>
        </>
      }
    >
      <div
        className="histogram"
        role="img"
        aria-label={`Values: ${shares.map((n, i) => `${n} % ${STEP_NAMES[i]}`).join(", ")}`}
        data-testid="values-chart"
      >
        <ResponsiveContainer width="100%" height="100%">
          <AreaChart data={values} margin={{ top: 4, right: 4, bottom: 0, left: 4 }}>
            <defs>
              <linearGradient id="value-ramp" x1="0" x2="1">
                <stop offset="0" stopColor="#000" />
                <stop offset="1" stopColor="#fff" />
              </linearGradient>
            </defs>
            <XAxis
              dataKey="value"
              type="number"
              domain={[0, 100]}
              ticks={[0, 25, 50, 75, 100]}
              tick={{ fontSize: 11, fill: "var(--text)" }}
              height={18}
            />
            <YAxis hide scale="sqrt" domain={[0, "dataMax"]} />
            <Area
              dataKey="n"
              stroke="var(--text)"
              fill="url(#value-ramp)"
              fillOpacity={1}
              isAnimationActive={false}
            />
          </AreaChart>
        </ResponsiveContainer>
      </div>
      <div className="thirds">
        {shares.map((n, i) => (
          <span key={STEP_NAMES[i]}>
            {STEP_NAMES[i]} <b>{n} %</b>
          </span>
        ))}
      </div>
      <div
        className="histogram"
        role="img"
        aria-label={`Hues, by how much chroma they have: ${warm.warm} % warm, ${warm.cool} % cool`}
        data-testid="hues-chart"
      >
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={hues}
            margin={{ top: 4, right: 4, bottom: 0, left: 4 }}
            barCategoryGap={1}
          >
            <XAxis
              dataKey="hue"
              type="number"
              domain={[0, 360]}
              ticks={HUE_NAMES.map(([hue]) => hue)}
              tickFormatter={(hue: number) => HUE_NAMES.find(([at]) => at === hue)?.[1] ?? ""}
              interval={0}
              tick={{ fontSize: 11, fill: "var(--text)" }}
              height={18}
            />
            <YAxis hide />
            <Bar dataKey="n" isAnimationActive={false}>
              {hues.map(({ hue }) => (
                <Cell key={hue} fill={oklchToHex({ l: 0.68, c: 0.13, h: hue })} />
              ))}
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </div>
      <div className="thirds">
        <span>
          warm <b>{warm.warm} %</b>
        </span>
        <span>
          cool <b>{warm.cool} %</b>
        </span>
        <span>
          grey <b>{warm.grey} %</b>
        </span>
      </div>
    </FloatingPanel>
  );
}
