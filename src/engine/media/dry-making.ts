import { type Brush, type BrushInput } from "../stroke/brush";
import { type ContactInput } from "../dry/material";
import { alongStroke, alongTilt, brush, by, from, round } from "./brush-making";

/** Words in which dry brushes are written down: how a lead, a stick and a stick's edge meet the paper. */

type Shape = Pick<BrushInput, "diameter" | "stretch" | "angle" | "flow">;

/**
 * A pointed lead: a press widens it a little; leaning, it lies on its side, long along the tilt, and the
 * same force is spread over more paper.
 */
export const lead: Shape = {
  diameter: from(
    1,
    by("pressure", [0, 0.62], [0.1, 0.725], [0.25, 0.803], [0.5, 0.897], [1, 1.04]),
    by("tilt", [0, 1], [1, 1.5]),
  ),
  stretch: from(1, by("tilt", [0, 1], [0.25, 1.26], [0.5, 2.05], [0.75, 3.36], [1, 5.2])),
  angle: from(0, alongTilt),
  flow: from(1, by("pressure", [0, 0], [1, 1]), by("tilt", [0, 1], [0.5, 0.645], [1, 0.476])),
};

/** A stick held by its end: leaning, it lies down on its long side. */
export const stick: Shape = {
  diameter: from(
    1,
    by("pressure", [0, 0.72], [0.1, 0.784], [0.25, 0.841], [0.5, 0.917], [1, 1.04]),
    by("tilt", [0, 1], [1, 0.65]),
  ),
  stretch: from(1, by("tilt", [0, 1], [0.25, 2.08], [0.5, 3.39], [0.75, 5.02], [1, 7.08])),
  angle: from(0, alongTilt),
  flow: from(1, by("pressure", [0, 0], [1, 1]), by("tilt", [0, 1], [1, 0.625])),
};

/** A stick laid flat, drawn sideways: its whole length lies across the travel. */
export const side = (longer: number): Shape => ({
  diameter: from(1 / longer, by("pressure", [0, 0.94], [1, 1.04])),
  stretch: from(longer),
  angle: from(0.25, alongStroke),
  flow: from(0.9, by("pressure", [0, 0], [1, 1])),
});

/** A dry brush: its material and how it meets the paper. */
export const dry = (
  written: Pick<BrushInput, "id" | "name" | "kit" | "size" | "tags"> &
    Partial<Pick<BrushInput, "strength" | "dissolves" | "revision">>,
  material: ContactInput,
  shape: Shape,
): Brush => brush({ ...written, ...shape, laying: material, tip: round(0), spacing: from(0.11) });
