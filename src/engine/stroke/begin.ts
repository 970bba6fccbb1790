import { KnifeStroke } from "../oil/knife-stroke";
import { OilStroke } from "../oil/oil-stroke";
import { COLOUR, type Picture, SELECTION } from "../picture/picture";
import { Stroke, type Bench, type StrokeStart } from "./stroke";
import { type Stroker } from "./stroker";

/**
 * Begins a stroke as its brush's medium has it. A mask knows no medium: there every brush leaves plain cover.
 * @throws Refusal where the layer may not be worked on
 */
export function beginStroke(bench: Bench, picture: Picture, start: StrokeStart): Stroker {
  const { laying } = start.brush;
  const isPaint = start.plane === COLOUR && start.layer !== SELECTION;
  // Quick paint is dry by the next stroke: there it is stirred and lifted as any colour is.
  const isWet = laying.kind === "bristles" && (!laying.dries || start.mode === "paint");
  if (isWet && isPaint) return new OilStroke(bench, picture, start, laying);
  if (laying.kind === "knife" && isPaint) return new KnifeStroke(bench, picture, start, laying);
  return new Stroke(bench, picture, start);
}
