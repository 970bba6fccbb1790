"use client";

import { useState } from "react";

/** A number that is taken when it is finished, not while it is typed. `unit`: said to who only hears it. */
export function NumberField({
  label,
  unit,
  className = "number",
  value,
  take,
}: {
  label: string;
  unit?: string;
  className?: string;
  value: number;
  take: (value: number) => void;
}) {
  const shown = String(Math.round(value * 100) / 100);
  const [typed, setTyped] = useState<string | null>(null);
  const done = (): void => {
    setTyped(null);
    const next = Number((typed ?? "").replace(",", "."));
    if (typed?.trim() && typed !== shown && Number.isFinite(next)) take(next);
  };
  return (
    <label className={className}>
      {label}
      <input
        className="form-control form-control-sm"
        inputMode="decimal"
        aria-label={unit ? `${label}, ${unit}` : label}
        value={typed ?? shown}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={done}
        onKeyDown={(event) => {
          if (event.key === "Enter") done();
        }}
      />
    </label>
  );
}
