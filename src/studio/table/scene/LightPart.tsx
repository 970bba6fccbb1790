"use client";

import { type Scene, type SceneLight } from "../../../engine/scene/scene";
import { inWords, wrapped } from "../../../engine/sun/sun-pin";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { setLight, useScene } from "./scene-store";
import { pinFromScene, sceneFromPin } from "./sun-and-scene";

const DEGREE = Math.PI / 180;

/** The sun, the fill light and the ground. */
export function LightPart({ session, scene }: { session: Session; scene: Scene }) {
  const colour = useTable((state) => state.colour);
  const sun = useTable((state) => state.picture?.sun ?? null);
  const { light } = scene;
  const draft = (changes: Partial<SceneLight>): void =>
    useScene.setState({ draft: { light: { ...light, ...changes } } });
  const set = (changes: Partial<SceneLight>): void =>
    void setLight(session, { ...light, ...changes });
  return (
    <>
      <p className="quiet mb-0">Sun {inWords(pinFromScene(scene))}.</p>
      <WideSlide
        label="Round, degrees"
        least={-180}
        most={180}
        step={1}
        value={light.azimuth / DEGREE}
        set={(v) => draft({ azimuth: wrapped(v * DEGREE) })}
      />
      <WideSlide
        label="Height, degrees"
        least={0}
        most={90}
        step={1}
        value={light.height / DEGREE}
        set={(v) => draft({ height: v * DEGREE })}
      />
      <WideSlide
        label="Sun"
        least={0}
        most={2}
        value={light.strength}
        set={(strength) => draft({ strength })}
      />
      <WideSlide
        label="Fill light"
        least={0}
        most={1}
        value={light.fillStrength}
        set={(fillStrength) => draft({ fillStrength })}
      />
      <Tick on={light.shadows} set={(shadows) => set({ shadows })}>
        Solids throw shadows
      </Tick>
      <Tick
        on={scene.ground !== null}
        set={(on) => void session.apply({ do: "scene.set", ground: on ? colour : null })}
        title="The ground takes the colour in hand"
      >
        A ground
      </Tick>
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={!sun}
          onClick={() => sun && void setLight(session, sceneFromPin(scene, sun))}
        >
          From the sun pin
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void session.setSun({ at: scene.camera.frame, ...pinFromScene(scene) })}
        >
          To the sun pin
        </button>
      </div>
      <div className="steps">
        <button type="button" className="btn btn-sm" onClick={() => set({ sun: colour })}>
          <i className="spot" style={{ background: light.sun }} /> Sun in this colour
        </button>
        <button type="button" className="btn btn-sm" onClick={() => set({ fill: colour })}>
          <i className="spot" style={{ background: light.fill }} /> Fill in this colour
        </button>
      </div>
    </>
  );
}
