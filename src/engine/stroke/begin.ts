import { LineStroke } from "../lines/line-stroke";
import { KnifeStroke } from "../oil/knife-stroke";
import { OilStroke } from "../oil/oil-stroke";
import { Refusal } from "../picture/refusal";
import { StrewStroke } from "../strew/strew-stroke";
import { SLAB, slabOf } from "../slab/slab";
import { COLOUR, isOnFluid, type Picture, SELECTION } from "../picture/picture";
import { isWet as isOilWet } from "../oil/drying";
import { isWashWet } from "../water/wash-planes";
import { WashStroke } from "../water/wash-stroke";
import { type Bench } from "../bench";
import { type Stroker, type StrokeStart } from "./stroker";
import { Stroke } from "./stroke";

/**
 * Begins a stroke as its brush's medium has it, on the sheet or on the slab. A mask knows no medium, and masking
 * fluid is one: there every brush leaves plain cover. On the slab paint stays wet, quick paint too.
 * @param isLive whether it is seen while it is drawn
 * @throws Refusal where the layer may not be worked on
 */
export function beginStroke(
  bench: Bench,
  picture: Picture,
  start: StrokeStart,
  isLive: boolean,
): Stroker {
  const { laying } = start.brush;
  const isOnSlab = start.layer === SLAB;
  const surface = isOnSlab ? slabOf(picture) : picture;
  const onFluid = isOnFluid(picture, start.layer);
  if (onFluid) refuseOnWet(picture);
  const isPaint = start.plane === COLOUR && start.layer !== SELECTION && !onFluid;
  // Quick paint is dry by the next stroke: there it is stirred and lifted as any colour is.
  const isWet = laying.kind === "bristles" && (!laying.dries || start.mode === "paint" || isOnSlab);
  const kind = isPaint && !isOnSlab ? picture.layer(start.layer).kind : null;
  if (kind === "lines") return new LineStroke(bench, picture, start, isLive);
  if (kind === "strewn") return new StrewStroke(bench, picture, start, isLive);
  if (start.strew)
    throw new Refusal("Pieces are strewn on a layer of their own. Add one, or choose it.");
  if (isWet && isPaint) return new OilStroke(bench, surface, start, laying);
  if (laying.kind === "knife" && isPaint) return new KnifeStroke(bench, surface, start, laying);
  if (isOnSlab)
    throw new Refusal(
      "The slab takes oil, gouache and acrylic. Choose one of their brushes or a knife to mix with.",
    );
  if (laying.kind === "wash" && isPaint) return new WashStroke(bench, picture, start, laying);
  return new Stroke(bench, picture, start);
}

/** Masking fluid takes on what is dry alone. */
function refuseOnWet(picture: Picture): void {
  const wet = picture.structure.layers.find(
    ({ id }) => isWashWet(picture, id) || isOilWet(picture, id),
  );
  if (wet)
    throw new Refusal(
      `Masking fluid takes on dry paper alone, and “${wet.name}” is wet. Let it dry first.`,
    );
}
