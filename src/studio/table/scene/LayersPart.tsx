"use client";

import { nanoid } from "nanoid";
import { useState } from "react";
import { type CommandInput } from "../../../engine/command/commands";
import { type Layer } from "../../../engine/picture/picture";
import { passKinds, type PassKind, type Scene } from "../../../engine/scene/scene";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { useScene } from "./scene-store";

const none: readonly Layer[] = [];

const PASSES: Record<PassKind, string> = {
  colour: "Colour and shadows",
  line: "Lines",
  depth: "Depth, dark where near",
  id: "A colour a solid",
  normal: "Where surfaces face",
};

/** The scene's pictures as layers, and what is made of them. */
export function LayersPart({ session, scene }: { session: Session; scene: Scene }) {
  const layers = useTable((state) => state.picture?.layers ?? none);
  const working = useTable((state) => state.selected[0] ?? null);
  const [wanted, setWanted] = useState<readonly PassKind[]>(["colour", "line"]);
  const [lineWidth, setLineWidth] = useState(2);
  const chosen = useScene((state) => state.chosen);
  const layerOf = (kind: PassKind) => layers.find(({ pass }) => pass?.kind === kind);
  const depth = layerOf("depth");
  const again = wanted.filter(layerOf).length;
  const paint = async (): Promise<void> => {
    const passes = passKinds
      .filter((kind) => wanted.includes(kind))
      .map((pass) => ({ pass, layer: layerOf(pass)?.id ?? nanoid() }));
    // New ones go beside those that there are: under all of them, over what the scene lies on.
    const lowest = layers.findIndex(({ pass }) => pass);
    const beside = layers[lowest];
    const above = beside ? (layers[lowest - 1]?.id ?? null) : working;
    const group = beside?.group ?? null;
    await session.apply({ do: "scene.paint", passes, above, group, lineWidth });
  };
  const haze = async (): Promise<void> => {
    if (!depth) return;
    const id = nanoid();
    const steps: Extract<CommandInput, { do: "together" }>["steps"] = [
      {
        ...{ do: "layer.add", id, name: "Haze", above: layers.at(-1)?.id ?? null, kind: "fill" },
        paint: { kind: "colour", colour: scene.light.fill },
      },
      { do: "mask.add", id, from: { kind: "layer", layer: depth.id, by: "light" } },
      { do: "layer.set", id, opacity: 0.8 },
    ];
    await session.apply({ do: "together", label: "haze by distance", steps });
  };
  return (
    <>
      {passKinds.map((kind) => (
        <Tick
          key={kind}
          on={wanted.includes(kind)}
          set={(on) => setWanted(on ? [...wanted, kind] : wanted.filter((one) => one !== kind))}
        >
          {PASSES[kind]}
          {layerOf(kind) && <small className="quiet"> · painted</small>}
        </Tick>
      ))}
      <WideSlide
        label="Lines, px"
        least={1}
        most={16}
        step={0.5}
        value={lineWidth}
        set={setLineWidth}
      />
      <p className="quiet mb-0">
        {again > 0
          ? `${again === 1 ? "One layer is" : `${again} layers are`} painted again. A layer that you painted on is yours and stays as it is.`
          : "Each becomes a layer above the one you work on. A layer that you paint on is yours."}
      </p>
      <button
        type="button"
        className="btn btn-strong"
        disabled={wanted.length === 0 || scene.solids.length === 0}
        onClick={() => void paint()}
      >
        {again > 0 ? "Paint the layers again" : "Paint as layers"}
      </button>
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={chosen.length === 0}
          onClick={() =>
            void session.apply({ do: "select", shape: { kind: "solids", ids: [...chosen] } })
          }
        >
          Select the chosen
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!depth}
          title={depth ? undefined : "Paint the depth as a layer first"}
          onClick={() => void haze()}
        >
          Haze by distance
        </button>
      </div>
    </>
  );
}
