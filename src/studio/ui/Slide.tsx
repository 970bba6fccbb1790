"use client";

/** A number in the options of a tool. */
export function Slide({
  label,
  value,
  least = 0,
  most,
  step = 1,
  shown,
  set,
}: {
  label: string;
  value: number;
  least?: number;
  most: number;
  step?: number;
  shown?: string;
  set: (value: number) => void;
}) {
  return (
    <label>
      {label}
      <input
        type="range"
        className="swell short"
        min={least}
        max={most}
        step={step}
        value={value}
        aria-label={label}
        onChange={(event) => set(Number(event.target.value))}
      />
      <output>{shown ?? value}</output>
    </label>
  );
}
