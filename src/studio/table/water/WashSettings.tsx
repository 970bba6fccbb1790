"use client";

import { type Layer } from "../../../engine/picture/picture";
import { SliderLine } from "../../ui/SliderLine";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";

const paces = [
  { pace: 0, name: "not: time stands" },
  { pace: 0.15, name: "slowly, in damp air" },
  { pace: 0.5, name: "as in a room" },
  { pace: 2, name: "soon, in the sun" },
] as const;

/** How the washes of a layer dry. */
export function WashSettings({ session, layer }: { session: Session; layer: Layer }) {
  const isWet = useTable((state) => state.picture?.wet.includes(layer.id) ?? false);
  const shine = useTable((state) => state.shine);
  const { wash } = layer;
  if (!wash) return null;
  return (
    <>
      <SliderLine
        word="Rim"
        title="How far paint is drawn to the rim of a wash while it dries"
        id="wash-edge"
        label="Rim of washes"
        most={1}
        step={0.05}
        value={wash.edge}
        settle={(edge) => session.apply({ do: "wash.set", layer: layer.id, edge })}
      />
      <div className="line">
        <label htmlFor="wash-pace">Dries</label>
        <select
          id="wash-pace"
          aria-label="Washes dry"
          className="form-select form-select-sm"
          value={wash.pace}
          onChange={({ target: { value } }) =>
            void session.apply({ do: "wash.set", layer: layer.id, pace: Number(value) })
          }
        >
          {paces.map(({ pace, name }) => (
            <option key={pace} value={pace}>
              {name}
            </option>
          ))}
        </select>
      </div>
      <Tick
        on={shine}
        set={() => session.toggleShine()}
        title="On the table alone: as the paper dries its shine breaks up and goes"
      >
        Shines while wet
      </Tick>
      {isWet && (
        <button
          type="button"
          className="btn btn-sm"
          title="Warm air: the wash dries at once, with less of a rim"
          onClick={() => void session.dryPaint()}
        >
          Dry now
        </button>
      )}
    </>
  );
}
