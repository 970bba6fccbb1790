"use client";

import { Choice } from "../../ui/Choice";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { CameraPart } from "./CameraPart";
import { LayersPart } from "./LayersPart";
import { LightPart } from "./LightPart";
import {
  closeScene,
  keptScene,
  putSolids,
  type SceneTab,
  setCamera,
  setLight,
  useScene,
  withDraft,
} from "./scene-store";
import { SolidsPart } from "./SolidsPart";

const TABS: readonly (readonly [SceneTab, string])[] = [
  ["solids", "Solids"],
  ["camera", "Camera"],
  ["light", "Light"],
  ["layers", "Layers"],
];

/** The scene of solids that a place is blocked out with. */
export function ScenePanel({ session }: { session: Session }) {
  const { open, tab, draft, through } = useScene();
  const picture = useTable((state) => state.picture);
  if (!open || !picture) return null;
  const scene = withDraft(keptScene(picture), draft);
  // Sliders try out; what they stand at is kept when they are let go.
  const keep = (): void => {
    const made = useScene.getState().draft;
    if (made?.camera) void setCamera(session, made.camera);
    else if (made?.light) void setLight(session, made.light);
    else if (made?.solids) void putSolids(session, made.solids);
  };
  return (
    <FloatingPanel title="Scene" className="adjust-panel sheet-panel scene-panel">
      <Choice
        label="Part of the scene"
        of={TABS}
        value={tab}
        choose={(next) => useScene.setState({ tab: next })}
      />
      <div className="scene-part" onPointerUp={keep} onKeyUp={keep}>
        {tab === "solids" && <SolidsPart session={session} scene={scene} />}
        {tab === "camera" && <CameraPart session={session} scene={scene} />}
        {tab === "light" && <LightPart session={session} scene={scene} />}
        {tab === "layers" && <LayersPart session={session} scene={scene} />}
      </div>
      <WideSlide
        label="Picture shows through"
        least={0}
        most={1}
        value={through}
        set={(v) => useScene.setState({ through: v })}
      />
      <footer>
        <button type="button" className="btn" onClick={closeScene}>
          Back to painting
        </button>
      </footer>
    </FloatingPanel>
  );
}
