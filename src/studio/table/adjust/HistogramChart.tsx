"use client";

import { type ReactNode, useEffect, useState } from "react";
import { Area, AreaChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { type Histogram } from "../../../engine/crit/histogram";
import { type Session } from "../session";

/** How often each value is met on a layer (null: in all that is seen); what is set lies over it. */
export function HistogramChart({
  session,
  layer,
  children,
}: {
  session: Session;
  layer: string | null;
  children?: ReactNode;
}) {
  const [histogram, setHistogram] = useState<Histogram | null>(null);
  useEffect(() => {
    void session.link.api
      .histogram(layer)
      .then((answer) => answer.ok && setHistogram(answer.value));
  }, [session, layer]);
  return (
    <div className="over-histogram">
      <div
        className="histogram"
        role="img"
        aria-label={
          histogram ? `Histogram of ${Math.round(histogram.count)} points` : "Histogram, being made"
        }
        data-testid={histogram ? "histogram" : undefined}
      >
        {histogram && <Shape histogram={histogram} />}
      </div>
      {children}
    </div>
  );
}

function Shape({ histogram }: { histogram: Histogram }) {
  const data = histogram.light.map((light, i) => ({
    light,
    red: histogram.red[i],
    green: histogram.green[i],
    blue: histogram.blue[i],
  }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <AreaChart data={data} margin={{ top: 2, right: 0, bottom: 0, left: 0 }}>
        <XAxis hide />
        <YAxis hide scale="sqrt" domain={[0, "dataMax"]} />
        <Area
          dataKey="light"
          stroke="none"
          fill="var(--quiet)"
          fillOpacity={0.4}
          isAnimationActive={false}
        />
        <Area dataKey="red" stroke="#b2452f" fill="none" isAnimationActive={false} />
        <Area dataKey="green" stroke="#4f7d3a" fill="none" isAnimationActive={false} />
        <Area dataKey="blue" stroke="#3d6a9e" fill="none" isAnimationActive={false} />
      </AreaChart>
    </ResponsiveContainer>
  );
}
