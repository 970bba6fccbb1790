import { type Brush, type Driver, type Parameter } from "./brush";
import { monotoneCubic } from "./curve";
import { type PathPoint } from "./path";

/** Pen speed that counts as full, screen px a second. */
const FULL_SPEED = 3000;

/** What the drivers say at one mark, each 0…1. */
export type Drives = Record<Driver, number>;

type Evaluate = (drives: Drives) => number;

/** v = base ⊕ curveᵢ(driverᵢ), in the order the drives are listed. */
export function evaluator(parameter: Parameter): Evaluate {
  const drives = parameter.drives.map((d) => ({ ...d, at: monotoneCubic(d.curve) }));
  return (values) => {
    let v = parameter.base;
    for (const { by, how, at } of drives) {
      const driven = at(values[by]);
      if (how === "multiply") v *= driven;
      else if (how === "add") v += driven;
      else v = Math.max(v, driven);
    }
    return v;
  };
}

/** A brush's parameters ready to be asked. */
export type Evaluated = { diameter: Evaluate; stretch: Evaluate; flow: Evaluate; press: Evaluate };

export const evaluateBrush = (brush: Brush): Evaluated => ({
  diameter: evaluator(brush.diameter),
  stretch: evaluator(brush.stretch),
  flow: evaluator(brush.flow),
  press: brush.grain ? evaluator(brush.grain.press) : () => 1,
});

/** Fills `into` with what the pen says at a point. */
export function readPen(point: PathPoint, scale: number, into: Drives): void {
  into.pressure = point.pressure;
  into.tilt = Math.min(1, Math.max(0, 1 - point.altitude / (Math.PI / 2)));
  into.speed = Math.min(1, point.speed / scale / FULL_SPEED);
}
