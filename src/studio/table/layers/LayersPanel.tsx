"use client";

import { Search } from "lucide-react";
import { useState } from "react";
import { paperName } from "../../../engine/paper/paper";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { LayerList } from "./LayerList";
import { AddLayerMenu } from "./LayerMenu";
import { LayerSettings } from "./LayerSettings";

/** The layers at the left: how the working one lies, and the list of all. */
export function LayersPanel({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const working = useTable((state) => state.selected[0]);
  const set = useTable((state) => state.set);
  const [looked, setLooked] = useState<string | null>(null);
  if (!picture) return null;
  return (
    <aside className="layers-panel" aria-label="Layers">
      <header>
        <h2>Layers</h2>
        <button
          type="button"
          className="icon-button"
          aria-label="Find a layer"
          title="Find a layer"
          aria-pressed={looked !== null}
          onClick={() => setLooked(looked === null ? "" : null)}
        >
          <Search size={16} />
        </button>
        <AddLayerMenu session={session} />
      </header>
      {looked !== null && (
        <input
          className="form-control form-control-sm find-layer"
          aria-label="Name of the layer"
          placeholder="Name of the layer"
          autoFocus
          value={looked}
          onChange={(event) => setLooked(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && setLooked(null)}
        />
      )}
      <LayerSettings session={session} layer={picture.layers.find(({ id }) => id === working)} />
      <LayerList session={session} looked={looked ?? ""}>
        <button
          type="button"
          className="layer-row w-100 text-start"
          style={{ color: "inherit" }}
          onClick={() => set({ dialog: "paper" })}
        >
          <span className="ground" style={{ background: picture.ground }} />
          <span className="names">
            <div className="name">Paper</div>
            <div className="about">{paperName(picture.paper).toLowerCase()}</div>
          </span>
        </button>
      </LayerList>
    </aside>
  );
}
