import { unselected } from "../engine/command/masks";
import { type Work } from "../engine/command/work";
import { type Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { type Layer, MASK, newLayer } from "../engine/picture/picture";
import { type Tile } from "../engine/tiles/tile-store";

/** The colour of a mask seen as a veil: what it holds back lies under it. */
const VEIL = "#a8402c";
const VEIL_OPACITY = 0.6;
const VEIL_ID = "(veil)";

/** What is shown in place of the picture's own layers. */
type Shown =
  { layers: readonly Layer[]; limited: string | null } | { mask: string; alone: boolean };

/**
 * The picture shown otherwise than it is, without being changed: as it would be with other
 * layers, or with a mask laid over it as a veil, or the mask alone, black where it holds back.
 */
export class Overlaid {
  #masks: Map<number, Tile> | null = null;

  constructor(
    readonly engine: Engine,
    readonly work: Work,
    readonly compositor: Compositor,
    readonly shown: Shown,
  ) {
    if ("limited" in shown && shown.limited && work.picture.structure.selection) {
      this.#masks = unselected(work.picture, engine.bench);
      compositor.standInMask(shown.limited, this.#masks);
    }
    this.arrange();
  }

  /** Looks at the picture's layers anew. */
  arrange(): void {
    this.compositor.forgetAll();
    this.compositor.previewLayers(this.#layers());
  }

  #layers(): readonly Layer[] {
    const { shown, work } = this;
    if ("layers" in shown) return shown.layers;
    const { layers } = work.picture.structure;
    const veil: Layer = { ...newLayer(VEIL_ID, "Mask"), tint: shown.alone ? "#000000" : VEIL };
    this.compositor.standIn(VEIL_ID, work.picture.plane(shown.mask, MASK));
    if (!shown.alone) return [...layers, { ...veil, opacity: VEIL_OPACITY }];
    const white: Layer = {
      ...newLayer("(white)", "White"),
      kind: "fill",
      paint: { kind: "colour", colour: "#ffffff" },
    };
    return [white, veil];
  }

  end(): void {
    const { shown, compositor, engine } = this;
    compositor.previewLayers(null);
    compositor.forgetAll();
    compositor.standIn(VEIL_ID, null);
    if ("limited" in shown && shown.limited) compositor.standInMask(shown.limited, null);
    for (const tile of this.#masks?.values() ?? []) engine.store.release(tile);
    this.#masks = null;
  }
}
