import { create } from "zustand";
import { type Adjustment, isTone, type Tone } from "../../../engine/adjust/adjustment";
import { type Layer } from "../../../worker/protocol";
import { layersWith, TRIED } from "../layers/trying";
import { type Curve } from "../../../engine/stroke/curve";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";

export const adjustmentNames: Record<Adjustment["kind"], string> = {
  levels: "Levels",
  curves: "Curves",
  brightness: "Brightness and contrast",
  hue: "Hue, saturation, lightness",
  balance: "Colour balance",
  "by value": "Colour by value",
  invert: "Invert",
  posterize: "Posterize",
  blur: "Blur",
  sharpen: "Sharpen",
  noise: "Noise",
};

const straight = (): Curve => [
  [0, 0],
  [1, 1],
];

/** Where each adjustment begins: changing nothing, as far as it can. */
export const firstTones = {
  levels: { kind: "levels", black: 0, white: 1, middle: 1, lowest: 0, highest: 1 },
  curves: {
    kind: "curves",
    all: straight(),
    red: straight(),
    green: straight(),
    blue: straight(),
  },
  brightness: { kind: "brightness", brightness: 0, contrast: 0 },
  hue: { kind: "hue", hue: 0, saturation: 0, lightness: 0 },
  balance: { kind: "balance", darks: [0, 0, 0], middles: [0, 0, 0], lights: [0, 0, 0] },
  "by value": {
    kind: "by value",
    stops: [
      { at: 0, colour: "#1d1b2e", alpha: 1 },
      { at: 0.5, colour: "#8a5a4a", alpha: 1 },
      { at: 1, colour: "#f6e7c8", alpha: 1 },
    ],
  },
  invert: { kind: "invert" },
  posterize: { kind: "posterize", steps: 4 },
} satisfies { [K in Tone["kind"]]: Extract<Tone, { kind: K }> };

export const firstOthers = {
  blur: { kind: "blur", radius: 8 },
  sharpen: { kind: "sharpen", radius: 3, amount: 0.8 },
  noise: { kind: "noise", amount: 0.2, grey: true, seed: 1 },
} satisfies { [K in Exclude<Adjustment["kind"], Tone["kind"]>]: Extract<Adjustment, { kind: K }> };

type AdjustState = {
  adjustment: Adjustment | null;
  /** The adjustment layer that is changed; null: the chosen layers are. */
  layer: string | null;
  /** Whether that layer was made for it: thrown away, it goes too. */
  isNew: boolean;
  /** Seen as it was, while held. */
  before: boolean;
};

export const useAdjust = create<AdjustState>()(() => ({
  adjustment: null,
  layer: null,
  isNew: false,
  before: false,
}));

/** Opens an adjustment: of a layer that is one, or of what the chosen layers hold. */
export function beginAdjusting(
  session: Session,
  kind: Adjustment["kind"],
  layer: string | null,
  isNew = false,
): void {
  const { picture } = useTable.getState();
  const own = picture?.layers.find(({ id }) => id === layer)?.tone;
  const adjustment: Adjustment = own ?? { ...firstTones, ...firstOthers }[kind];
  useAdjust.setState({ adjustment, layer, isNew, before: false });
  showAdjusted(session);
}

/** The layers as they would be with the adjustment; null where it can only be seen when it is done. */
function adjustedLayers(layers: readonly Layer[]): readonly Layer[] | null {
  const { adjustment, layer } = useAdjust.getState();
  if (!adjustment) return null;
  if (layer) return layers.map((one) => (one.id === layer ? { ...one, tone: adjustment } : one));
  const { selected, picture } = useTable.getState();
  return layersWith(layers, selected, picture?.selection ?? false, () => ({
    kind: "adjustment",
    tone: adjustment,
  }));
}

/** What is tried in place of the picture, and whether the engine is at work on it. */
let isTrying = false;
let isStale = false;

/** Adjustments that look at neighbours are done for show: the newest, one at a time. */
async function tryOut(session: Session): Promise<void> {
  isStale = true;
  if (isTrying) return;
  isTrying = true;
  try {
    while (isStale) {
      isStale = false;
      const { adjustment, before, layer } = useAdjust.getState();
      const isShown = adjustment && !before && !layer && !isTone(adjustment);
      const command = isShown ? adjusting(adjustment) : null;
      const said = await session.link.api.tryOut(command);
      if (!said.ok) tell(said.why);
    }
  } finally {
    isTrying = false;
  }
}

const adjusting = (adjustment: Adjustment) => ({
  do: "adjust" as const,
  layers: useTable.getState().selected,
  adjustment,
});

/** Shows what the adjustment would do, or what was before. */
export function showAdjusted(session: Session): void {
  const { picture } = useTable.getState();
  const { before, layer, adjustment } = useAdjust.getState();
  if (adjustment && !layer && !isTone(adjustment)) return void tryOut(session);
  const layers = !before && picture ? adjustedLayers(picture.layers) : null;
  void session.link.api.previewLayers(layers, layer ? null : TRIED);
}

export function setAdjustment(session: Session, adjustment: Adjustment): void {
  useAdjust.setState({ adjustment });
  showAdjusted(session);
}

/** Ends an adjustment: it is done, or thrown away. */
export async function endAdjusting(session: Session, keep: boolean): Promise<void> {
  const { adjustment, layer, isNew } = useAdjust.getState();
  useAdjust.setState({ adjustment: null, layer: null, isNew: false, before: false });
  if (keep && adjustment) {
    if (!layer) await session.apply(adjusting(adjustment));
    else await session.apply({ do: "layer.set", id: layer, tone: adjustment });
  } else if (layer && isNew) await session.apply({ do: "layer.remove", id: layer });
  else await session.link.api.tryOut(null);
  await session.link.api.previewLayers(null, null);
}
