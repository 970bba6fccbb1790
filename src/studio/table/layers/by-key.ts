import { blendModes } from "../../../engine/compose/blend-modes";
import { type Layer } from "../../../engine/picture/picture";

/** One press changes opacity by so much. */
const OPACITY_STEP = 0.05;

/** A layer's opacity a step up or down, on even steps. */
export const opacityAfter = ({ opacity }: Pick<Layer, "opacity">, by: 1 | -1): number =>
  Math.min(1, Math.max(0, (Math.round(opacity / OPACITY_STEP) + by) * OPACITY_STEP));

/** The blend mode after or before a layer's own in the list; round again at its ends. */
export function blendAfter({ blend }: Pick<Layer, "blend">, by: 1 | -1): Layer["blend"] {
  const at = blendModes.indexOf(blend) + by + blendModes.length;
  return blendModes[at % blendModes.length] as Layer["blend"];
}
