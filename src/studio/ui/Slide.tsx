"use client";

/** A number in the options of a tool. */
export function Slide({
  label,
  value,
  least = 0,
  most,
  shown,
  set,
}: {
  label: string;
  value: number;
  least?: number;
  most: number;
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
        value={value}
        aria-label={label}
        onChange={(event) => set(Number(event.target.value))}
      />
      <output>{shown ?? value}</output>
    </label>
  );
}
