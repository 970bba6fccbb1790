"use client";

/** A number in a panel: its name, a slider over the panel's width, and what it stands at. */
export function WideSlide({
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
