"use client";

import { blendModes, type Lays, laysSchema } from "../../engine/compose/blend-modes";
import { blendLabel } from "../naming/blend-label";

/** How a brush's paint lies on what is there. */
export function LaysSelect({ lays, choose }: { lays: Lays; choose: (lays: Lays) => void }) {
  return (
    <select
      className="form-select form-select-sm"
      aria-label="Brush blends as"
      title="How the brush’s paint lies on what is there"
      value={lays}
      onChange={(event) => choose(laysSchema.parse(event.target.value))}
    >
      {blendModes.slice(0, 1).map((mode) => (
        <option key={mode} value={mode}>
          {blendLabel(mode)}
        </option>
      ))}
      <option value="behind">Behind</option>
      {blendModes.slice(1).map((mode) => (
        <option key={mode} value={mode}>
          {blendLabel(mode)}
        </option>
      ))}
    </select>
  );
}
