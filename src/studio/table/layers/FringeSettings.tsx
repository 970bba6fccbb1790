"use client";

import { type Fringe, MOST_FRINGE } from "../../../engine/fringe/fringe";
import { type Layer } from "../../../worker/protocol";
import { SliderLine } from "../../ui/SliderLine";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** How strong a layer's fringe is and how far it reaches, seen while it is changed; until it is dried. */
export function FringeSettings({ session, layer }: { session: Session; layer: Layer }) {
  const { fringe, kind } = layer;
  if (!fringe) return null;
  const show = (tried: Fringe | null): void => {
    const layers = useTable.getState().picture?.layers ?? [];
    const changed = layers.map((one) => (one.id === layer.id ? { ...one, fringe: tried } : one));
    void session.link.api.previewLayers(tried ? changed : null, null);
  };
  const keep = (kept: Fringe): Promise<unknown> =>
    session.setLayers({ fringe: kept }).then(() => show(null));
  return (
    <>
      <SliderLine
        word="Fringe"
        id="fringe-strength"
        label="Strength of the fringe"
        most={1}
        step={0.05}
        value={fringe.strength}
        show={(strength) => show({ ...fringe, strength })}
        settle={(strength) => keep({ ...fringe, strength })}
      />
      <SliderLine
        word="reaches"
        id="fringe-width"
        label="Reach of the fringe"
        least={1}
        most={MOST_FRINGE}
        value={fringe.width}
        show={(width) => show({ ...fringe, width })}
        settle={(width) => keep({ ...fringe, width })}
      />
      {kind === "paint" && (
        <button
          type="button"
          className="btn btn-sm"
          title="The fringe becomes part of the paint"
          onClick={() => void session.dryFringe(layer.id)}
        >
          Dry the fringe
        </button>
      )}
    </>
  );
}
