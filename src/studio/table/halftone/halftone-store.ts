import { nanoid } from "nanoid";
import { create } from "zustand";
import { type Halftone, USUAL_HALFTONE } from "../../../engine/halftone/halftone";
import { type Layer } from "../../../worker/protocol";
import { forgetRested, onceRested } from "../../ui/once-rested";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** A tint of a third: what a new halftone begins with. */
const TINT = "#aaaaaa";

type HalftoneState = {
  /** The layer whose halftone is open to be changed; null: none. */
  layer: string | null;
  /** How it is tried, not yet kept; null: as it is. */
  tried: Halftone | null;
};

export const useHalftone = create<HalftoneState>()(() => ({ layer: null, tried: null }));

/** Whether a layer can be shown as a halftone: it holds paint, lines, a fill, or layers. */
export const canBeHalftone = ({ kind }: Layer): boolean => kind !== "adjustment";

const layerNow = (id: string | null): Layer | undefined =>
  useTable.getState().picture?.layers.find((layer) => layer.id === id);

/** Opens a layer's halftone to be changed; one that has none is given one. */
export async function openHalftone(session: Session, layer: Layer): Promise<void> {
  if (!layer.halftone) {
    const ink = useTable.getState().colour;
    await session.apply({ do: "layer.set", id: layer.id, halftone: { ...USUAL_HALFTONE, ink } });
  }
  useHalftone.setState({ layer: layer.id, tried: null });
}

export async function closeHalftone(session: Session): Promise<void> {
  await keepTried(session);
  useHalftone.setState({ layer: null, tried: null });
}

/** Shows a halftone as it would be; it is kept once the hand rests. */
export function tryHalftone(session: Session, halftone: Halftone): void {
  const { layer } = useHalftone.getState();
  const layers = useTable.getState().picture?.layers;
  if (!layers || !layer) return;
  useHalftone.setState({ tried: halftone });
  const tried = layers.map((one) => (one.id === layer ? { ...one, halftone } : one));
  void session.link.api.previewLayers(tried, null);
  onceRested(useHalftone, () => void keepTried(session));
}

/** Keeps what is tried. */
export async function keepTried(session: Session): Promise<void> {
  forgetRested(useHalftone);
  const { layer, tried } = useHalftone.getState();
  if (!layer || !tried) return;
  if (layerNow(layer)) await session.apply({ do: "layer.set", id: layer, halftone: tried });
  // What was tried in the meantime is kept when the hand rests again.
  if (useHalftone.getState().tried !== tried) return;
  useHalftone.setState({ tried: null });
  await session.link.api.previewLayers(null, null);
}

/** The layer is seen in its paint again, and the settings are gone. */
export async function removeHalftone(session: Session): Promise<void> {
  const { layer } = useHalftone.getState();
  forgetRested(useHalftone);
  useHalftone.setState({ layer: null, tried: null });
  await session.link.api.previewLayers(null, null);
  if (layer) await session.apply({ do: "layer.set", id: layer, halftone: null });
}

/** A new layer in halftone above the working one: what is selected is filled with a tint. */
export async function addHalftone(session: Session): Promise<void> {
  const { picture, colour } = useTable.getState();
  if (!picture) return;
  const id = nanoid(10);
  const { width, height } = picture;
  const loop: [number, number][] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  const made = await session.addLayerWith(id, { name: "Halftone" }, [
    { do: "layer.set", id, halftone: { ...USUAL_HALFTONE, ink: colour } },
    ...(picture.selection ? [{ do: "fill.loop" as const, layer: id, loop, colour: TINT }] : []),
  ]);
  if (made) useHalftone.setState({ layer: id, tried: null });
}
