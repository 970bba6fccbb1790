import { newScene, type Scene } from "./scene";
import { type Solid, type SolidInput, solidSchema } from "./solid";

/** A solid of one metre at the middle of the ground, unless it is said otherwise. */
export const solid = (own: Partial<SolidInput> = {}): Solid =>
  solidSchema.parse({
    id: "one",
    name: "One",
    kind: "box",
    at: [0, 0, 0],
    turn: [0, 0, 0, 1],
    size: [1, 1, 1],
    colour: "#b08040",
    ...own,
  });

/** A scene on a sheet of so many px. */
export const sceneWith = (
  solids: readonly Solid[],
  own: Partial<Scene> = {},
  width = 256,
  height = 192,
): Scene => ({ ...newScene(width, height), ...own, solids });
