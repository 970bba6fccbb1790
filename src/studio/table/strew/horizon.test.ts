import { cameraFrom, vanishingPoints } from "../../../engine/scene/camera";
import { newScene } from "../../../engine/scene/scene";
import { solid } from "../../../engine/scene/scene.testing";
import { horizonIn } from "./horizon";

describe("the horizon of a picture", () => {
  it("runs through its vanishing points, wherever they lie", () => {
    const points = [
      { x: -400, y: 300 },
      { x: 1600, y: 500 },
    ];
    const guides = [{ kind: "vanishing points" as const, points }];
    expect(horizonIn({ guides, scene: null }, 1200)).toBeCloseTo(400, 9);
    const [first] = points as [(typeof points)[0]];
    const one = [{ kind: "vanishing points" as const, points: [first] }];
    expect(horizonIn({ guides: one, scene: null }, 1200)).toBe(300);
  });

  it("is that of its scene where it has no such guide", () => {
    const scene = newScene(1200, 800);
    const camera = cameraFrom(scene.camera, [
      { x: -300, y: 260 },
      { x: 1900, y: 260 },
    ]);
    if (!camera) throw new Error("there is such a camera");
    const withSolids = { ...scene, camera, solids: [solid({ id: "shed" })] };
    expect(horizonIn({ guides: [], scene: withSolids }, 1200)).toBeCloseTo(260, 3);
    const [across] = vanishingPoints(camera, 100_000);
    expect(across?.y).toBeCloseTo(260, 3);
    expect(horizonIn({ guides: [], scene }, 1200)).toBeNull();
  });
});
