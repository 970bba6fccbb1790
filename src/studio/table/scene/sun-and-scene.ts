import { projectionOf } from "../../../engine/scene/camera";
import { type Scene, type SceneLight } from "../../../engine/scene/scene";
import { type SunPin, wrapped } from "../../../engine/sun/sun-pin";

/** The way that is the picture's right, on the ground of the scene, radians as a light's azimuth is told. */
function rightOf({ camera }: Pick<Scene, "camera">): number {
  const { right } = projectionOf({ ...camera, roll: 0 });
  return Math.atan2(right[2], right[0]);
}

/** A scene's sun as the picture has it: round the picture from its right over its front. */
export function pinFromScene(scene: Scene): Pick<SunPin, "azimuth" | "height"> {
  const { azimuth, height } = scene.light;
  return { azimuth: wrapped(azimuth - rightOf(scene)), height };
}

/** The scene's light with its sun where the picture's pin says. */
export function sceneFromPin(scene: Scene, pin: Pick<SunPin, "azimuth" | "height">): SceneLight {
  const azimuth = wrapped(pin.azimuth + rightOf(scene));
  return { ...scene.light, azimuth, height: pin.height };
}
