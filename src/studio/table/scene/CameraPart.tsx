"use client";

import { type Scene } from "../../../engine/scene/scene";
import { type Session } from "../session";
import { cameraFrom, vanishingPoints } from "../../../engine/scene/camera";
import { length, minus } from "../../../engine/scene/vector";
import { tell } from "../../notices/notices";
import { WideSlide } from "../../ui/WideSlide";
import { useTable } from "../table-store";
import { atDistance, atHeight } from "./handles";
import { setCamera, useScene } from "./scene-store";

const DEGREE = Math.PI / 180;
/** Farthest that a vanishing point is handed to the guides, px. */
const FARTHEST_POINT = 200_000;

/** Lens and place of the camera, and its vanishing points as guides. */
export function CameraPart({ session, scene }: { session: Session; scene: Scene }) {
  const guides = useTable((state) => state.picture?.guides);
  const { camera } = scene;
  const far = length(minus(camera.at, camera.to));
  const draft = (next: typeof camera): void => useScene.setState({ draft: { camera: next } });
  const points = guides?.find((guide) => guide.kind === "vanishing points");
  const fromGuides = (): void => {
    const [a, b] = points?.kind === "vanishing points" ? points.points : [];
    const next = a && b && cameraFrom(camera, [a, b]);
    if (next) void setCamera(session, next);
    else
      tell("No camera sees two such vanishing points. Set one to the left and one to the right.");
  };
  const toGuides = (): void => {
    const found = vanishingPoints(camera, FARTHEST_POINT);
    if (found.length === 0)
      return tell("The camera looks along the scene: nothing vanishes near enough.");
    const others = (guides ?? []).filter((guide) => guide.kind !== "vanishing points");
    void session.setGuides([...others, { kind: "vanishing points", points: found }]);
  };
  return (
    <>
      <WideSlide
        label="Lens, mm"
        least={14}
        most={200}
        step={1}
        value={camera.lens}
        set={(lens) => draft({ ...camera, lens })}
      />
      <WideSlide
        label="Distance, m"
        least={1}
        most={60}
        step={0.1}
        value={far}
        set={(v) => draft(atDistance(camera, v))}
      />
      <WideSlide
        label="Eye height, m"
        least={0.1}
        most={30}
        step={0.05}
        value={camera.at[1]}
        set={(v) => draft(atHeight(camera, v))}
      />
      <WideSlide
        label="Tilt, degrees"
        least={-45}
        most={45}
        step={0.5}
        value={camera.roll / DEGREE}
        set={(v) => draft({ ...camera, roll: v * DEGREE })}
      />
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={points?.kind !== "vanishing points" || points.points.length < 2}
          onClick={fromGuides}
        >
          From the guides
        </button>
        <button type="button" className="btn btn-sm" onClick={toGuides}>
          To the guides
        </button>
      </div>
      <p className="quiet mb-0">
        Focal length on a frame 36 mm wide. The guides take the scene’s vanishing points, or give
        theirs: lens, heading and tilt follow.
      </p>
    </>
  );
}
