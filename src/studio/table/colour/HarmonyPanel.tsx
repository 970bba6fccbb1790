"use client";

import { useState } from "react";
import { harmonies, type Harmony, harmonyOf, shadeAndLight } from "../../../engine/colour/harmony";
import { useTable } from "../table-store";

const names: Record<Harmony, string> = {
  complement: "Complement",
  split: "Split",
  near: "Near",
  triad: "Triad",
};

/** Colours that go with the one in hand, warm and cool told apart, and its shade and light. */
export function HarmonyPanel() {
  const colour = useTable((state) => state.colour);
  const chooseColour = useTable((state) => state.chooseColour);
  const [harmony, setHarmony] = useState<Harmony>("complement");
  const [warmth, setWarmth] = useState(0.6);
  // The page turns with the colour: the base is held while one of its own is tried.
  const [base, setBase] = useState<{ of: string; taken: string } | null>(null);
  const from = base && base.taken === colour ? base.of : colour;
  const take = (hex: string): void => {
    setBase({ of: from, taken: hex });
    chooseColour(hex);
  };
  const { shade, light } = shadeAndLight(from, warmth);
  const swatch = (hex: string, label: string) => (
    <button
      key={label}
      type="button"
      style={{ background: hex }}
      aria-label={`${label} ${hex}`}
      title={label}
      onClick={() => take(hex)}
    />
  );
  return (
    <div className="harmony">
      <select
        className="form-select form-select-sm"
        aria-label="Harmony"
        value={harmony}
        onChange={(event) => setHarmony(event.target.value as Harmony)}
      >
        {(Object.keys(harmonies) as Harmony[]).map((name) => (
          <option key={name} value={name}>
            {names[name]}
          </option>
        ))}
      </select>
      <div className="hues" role="group" aria-label={`${names[harmony]} colours`}>
        {harmonyOf(from, harmony).map((tones, i) => (
          <div key={i} className="hue">
            {tones.map(({ hex }, j) =>
              swatch(hex, `Harmony ${i + 1}, ${["dark", "own", "light"][j]}`),
            )}
            <span className="quiet">{tones[1]?.warm ? "warm" : "cool"}</span>
          </div>
        ))}
      </div>
      <div className="shading" role="group" aria-label="Shade and light">
        {swatch(shade, "Shade")}
        {swatch(from, "Base")}
        {swatch(light, "Light")}
        <label>
          <span className="quiet">{warmth < 0 ? "cold light" : "warm light"}</span>
          <input
            type="range"
            className="swell even"
            min={-1}
            max={1}
            step={0.1}
            value={warmth}
            aria-label="Warmth of the light"
            onChange={(event) => setWarmth(Number(event.target.value))}
          />
        </label>
      </div>
    </div>
  );
}
