import { type Guide } from "../../../engine/guides/guide";
import { projectionOf, vanishingPoint } from "../../../engine/scene/camera";
import { type Scene } from "../../../engine/scene/scene";

/**
 * Where a picture's horizon crosses the middle of the sheet, px from the top: as its vanishing points say, or its
 * scene; null where it has neither.
 */
export function horizonIn(
  { guides, scene }: { guides: readonly Guide[]; scene: Scene | null },
  width: number,
): number | null {
  for (const guide of guides) {
    if (guide.kind !== "vanishing points") continue;
    const [a, b] = guide.points;
    if (!a) continue;
    const isLevel = !b || Math.abs(b.x - a.x) < 1;
    return isLevel ? a.y : a.y + ((b.y - a.y) * (width / 2 - a.x)) / (b.x - a.x);
  }
  if (!scene || scene.solids.length === 0) return null;
  const { camera } = scene;
  const [dx, , dz] = [camera.to[0] - camera.at[0], 0, camera.to[2] - camera.at[2]];
  return vanishingPoint(projectionOf(camera), [dx, 0, dz])?.y ?? null;
}
