"use client";

import { nanoid } from "nanoid";
import { useState } from "react";
import { type CommandInput } from "../../../engine/command/commands";
import { MOST_LAYER_RADIUS } from "../../../engine/adjust/adjustment";
import { type Layer } from "../../../engine/picture/picture";
import { passKinds, type PassKind, type Scene } from "../../../engine/scene/scene";
import { towardLight } from "../../../engine/sun/sun-pin";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { useScene } from "./scene-store";
import { pinFromScene } from "./sun-and-scene";

type Steps = Extract<CommandInput, { do: "together" }>["steps"];

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
    const steps: Steps = [
      {
        ...{ do: "layer.add", id, name: "Haze", above: layers.at(-1)?.id ?? null, kind: "fill" },
        paint: { kind: "colour", colour: scene.light.fill },
      },
      { do: "mask.add", id, from: { kind: "layer", layer: depth.id, by: "light" } },
      { do: "layer.set", id, opacity: 0.8 },
    ];
    await session.apply({ do: "together", label: "haze by distance", steps });
  };
  const facing = layerOf("normal");
  /** What surfaces show a light, and what they turn from it: two fills over all, each as strong as wanted. */
  const relight = async (): Promise<void> => {
    if (!facing) return;
    const sun = towardLight(useTable.getState().picture?.sun ?? pinFromScene(scene));
    const above = layers.at(-1)?.id ?? null;
    const fill = (
      id: string,
      name: string,
      colour: string,
      under: string | null,
    ): Steps[number] => ({
      ...{ do: "layer.add", id, name, above: under, kind: "fill" },
      paint: { kind: "colour", colour },
    });
    const held = (id: string, [x, y, z]: readonly number[]): Steps[number] => ({
      ...{ do: "mask.add", id },
      from: { kind: "facing", layer: facing.id, toward: [x, y, z] as [number, number, number] },
    });
    const [shade, light] = [nanoid(), nanoid()];
    const steps: Steps = [
      fill(shade, "Shade by facing", scene.light.fill, above),
      held(
        shade,
        sun.map((v) => -v),
      ),
      { do: "layer.set", id: shade, blend: "multiply", opacity: 0.7 },
      fill(light, "Light by facing", scene.light.sun, shade),
      held(light, sun),
      { do: "layer.set", id: light, blend: "soft-light", opacity: 0.8 },
      { do: "layer.set", id: facing.id, visible: false },
    ];
    await session.apply({ do: "together", label: "light by facing", steps });
  };
  /** What is far is out of focus: a blur over all, held back where the depth is near. */
  const blurFar = async (): Promise<void> => {
    if (!depth) return;
    const id = nanoid();
    const wide = Math.round(scene.camera.frame.width / 120);
    const radius = Math.max(2, Math.min(MOST_LAYER_RADIUS, wide));
    const steps: Steps = [
      {
        ...{ do: "layer.add", id, name: "Blur by distance", above: layers.at(-1)?.id ?? null },
        kind: "adjustment",
        tone: { kind: "blur", radius },
      },
      { do: "mask.add", id, from: { kind: "layer", layer: depth.id, by: "light" } },
      { do: "layer.set", id: depth.id, visible: false },
    ];
    await session.apply({ do: "together", label: "blur by distance", steps });
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
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={!depth}
          title={depth ? "What is far is out of focus" : "Paint the depth as a layer first"}
          onClick={() => void blurFar()}
        >
          Blur by distance
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!facing}
          title={
            facing
              ? "Lit and shaded anew from the sun pin, or from the scene's sun where there is none"
              : "Paint where surfaces face as a layer first"
          }
          onClick={() => void relight()}
        >
          Light by facing
        </button>
      </div>
    </>
  );
}
