import { nanoid } from "nanoid";
import { create } from "zustand";
import { type Camera, newScene, type Scene, type SceneLight } from "../../../engine/scene/scene";
import {
  type Solid,
  type SolidInput,
  type SolidKind,
  solidSchema,
} from "../../../engine/scene/solid";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { type TableState, useTable } from "../table-store";

export type SceneTab = "solids" | "camera" | "light" | "layers";

/** What is being changed and not yet done. */
type Draft = { solids?: readonly Solid[]; camera?: Camera; light?: SceneLight };

type SceneState = {
  /** Whether the scene is worked on. */
  open: boolean;
  tab: SceneTab;
  /** Ids of the chosen solids; handles belong to the first. */
  chosen: readonly string[];
  draft: Draft | null;
  /** How much of the picture shows through the scene, 0…1. */
  through: number;
};

export const useScene = create<SceneState>()(() => ({
  open: false,
  tab: "solids",
  chosen: [],
  draft: null,
  through: 0.1,
}));

export const openScene = (): void => {
  useTable.setState({ tool: "brush" });
  useScene.setState({ open: true, draft: null });
};
export const closeScene = (): void => useScene.setState({ open: false, draft: null });

/** The picture's scene; one with nothing in it where it has none yet. */
export function keptScene(picture: TableState["picture"]): Scene {
  return picture?.scene ?? newScene(picture?.width ?? 1, picture?.height ?? 1);
}

/** The scene with what is being changed. */
export function withDraft(kept: Scene, draft: Draft | null): Scene {
  if (!draft) return kept;
  const changed = new Map((draft.solids ?? []).map((solid) => [solid.id, solid]));
  return {
    ...kept,
    camera: draft.camera ?? kept.camera,
    light: draft.light ?? kept.light,
    solids: kept.solids.map((solid) => changed.get(solid.id) ?? solid),
  };
}

/** The scene as it is shown now. */
export const shownScene = (): Scene =>
  withDraft(keptScene(useTable.getState().picture), useScene.getState().draft);

/** Puts solids into the picture's scene, those of known ids in place of what they were. */
export async function putSolids(session: Session, solids: readonly Solid[]): Promise<void> {
  if (solids.length === 0) return;
  // As a command takes them: lists of their own.
  const own = solids.map((solid) => solidSchema.parse(solid));
  await session.apply({ do: "scene.put", solids: own });
  useScene.setState({ draft: null });
}

export async function setCamera(session: Session, camera: Camera): Promise<void> {
  await session.apply({ do: "scene.set", camera });
  useScene.setState({ draft: null });
}

export async function setLight(session: Session, light: SceneLight): Promise<void> {
  await session.apply({ do: "scene.set", light });
  useScene.setState({ draft: null });
}

const SIZES: Record<Exclude<SolidKind, "mesh">, readonly [number, number, number]> = {
  box: [1, 1, 1],
  ball: [1, 1, 1],
  cylinder: [0.8, 1.2, 0.8],
  cone: [0.8, 1.2, 0.8],
  wedge: [1, 0.6, 1],
  plane: [2, 1, 2],
  tube: [0.2, 1, 1],
};

/** What solids are made of at first: clay, stone, tin, moss, slate. */
const CLAYS = ["#c0a98a", "#b9b4a8", "#9fb0b8", "#a9ad88", "#93a0b0"] as const;

const capital = (name: string): string => `${name[0]?.toUpperCase() ?? ""}${name.slice(1)}`;

/** A name that no solid has yet. */
function freeName(base: string, solids: readonly Solid[]): string {
  const taken = new Set(solids.map(({ name }) => name));
  for (let n = 1; ; n++) {
    const name = `${base} ${n}`;
    if (!taken.has(name)) return name;
  }
}

/** A shape from a file, where the camera looks. */
export async function addShape(session: Session, file: File): Promise<void> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = await session.link.api.shapeFromFile(bytes);
  if (!read.ok) return void tell(`“${file.name}” could not be brought in: ${read.why}.`);
  const { mesh, size } = read.value;
  const base = file.name.replace(/\.\w+$/, "").slice(0, 40) || "Shape";
  await putNew(session, base, { kind: "mesh", size, mesh });
}

/** A new solid where the camera looks, on the ground. */
export async function addSolid(session: Session, kind: Exclude<SolidKind, "mesh">): Promise<void> {
  await putNew(session, capital(kind), {
    kind,
    size: [...SIZES[kind]],
    path:
      kind === "tube"
        ? [
            [-1, 0.1, 0],
            [0, 0.1, 0],
            [0.6, 0.8, 0],
            [1.4, 1, 0],
          ]
        : null,
  });
}

async function putNew(
  session: Session,
  base: string,
  own: Pick<SolidInput, "kind" | "size" | "path" | "mesh">,
): Promise<void> {
  const scene = shownScene();
  const [x, , z] = scene.camera.to;
  const beside = scene.solids.length % 5;
  const solid = solidSchema.parse({
    id: nanoid(),
    name: freeName(base, scene.solids),
    at: [x + beside * 0.25, 0, z + beside * 0.25],
    turn: [0, 0, 0, 1],
    colour: CLAYS[scene.solids.length % CLAYS.length] ?? CLAYS[0],
    ...own,
  });
  await putSolids(session, [solid]);
  useScene.setState({ chosen: [solid.id], tab: "solids" });
}

export const chosenSolids = (scene: Scene): readonly Solid[] => {
  const { chosen } = useScene.getState();
  return chosen.flatMap((id) => scene.solids.find((solid) => solid.id === id) ?? []);
};

/** Copies of the chosen solids, a little aside. */
export async function copyChosen(session: Session): Promise<void> {
  const scene = shownScene();
  const made: Solid[] = [];
  const groups = new Map<string, string>();
  for (const solid of chosenSolids(scene)) {
    const { group } = solid;
    if (group && !groups.has(group)) groups.set(group, nanoid());
    made.push({
      ...solid,
      id: nanoid(),
      name: freeName(solid.name.replace(/ \d+$/, ""), [...scene.solids, ...made]),
      at: [solid.at[0] + 0.4, solid.at[1], solid.at[2] + 0.4],
      group: group && (groups.get(group) ?? null),
    });
  }
  await putSolids(session, made);
  useScene.setState({ chosen: made.map(({ id }) => id) });
}

/** The chosen solids mirrored left and right, about the middle of them all. */
export async function mirrorChosen(session: Session): Promise<void> {
  const solids = chosenSolids(shownScene());
  const xs = solids.map(({ at }) => at[0]);
  const middle = (Math.min(...xs) + Math.max(...xs)) / 2;
  await putSolids(
    session,
    solids.map((solid) => {
      const [x, y, z, w] = solid.turn;
      return {
        ...solid,
        at: [2 * middle - solid.at[0], solid.at[1], solid.at[2]],
        turn: [x, -y, -z, w],
        flip: !solid.flip,
      };
    }),
  );
}

export async function removeChosen(session: Session): Promise<void> {
  const { chosen } = useScene.getState();
  if (chosen.length === 0) return;
  if (await session.apply({ do: "scene.remove", ids: [...chosen] }))
    useScene.setState({ chosen: [] });
}

/** Makes the chosen solids one group, or frees them where they are one. */
export async function groupChosen(session: Session): Promise<void> {
  const solids = chosenSolids(shownScene());
  const group = solids.every((solid) => solid.group) ? null : nanoid();
  await putSolids(
    session,
    solids.map((solid) => ({ ...solid, group })),
  );
}

/** Chooses a solid and its group; `more`: beside what is chosen, or no longer. */
export function chooseSolid(scene: Scene, solid: Solid | null, more: boolean): void {
  const { chosen } = useScene.getState();
  if (!solid) {
    if (!more) useScene.setState({ chosen: [] });
    return;
  }
  const own = scene.solids
    .filter(({ id, group }) => id === solid.id || (group !== null && group === solid.group))
    .map(({ id }) => id);
  const first = [solid.id, ...own.filter((id) => id !== solid.id)];
  if (!more) useScene.setState({ chosen: first });
  else if (chosen.includes(solid.id))
    useScene.setState({ chosen: chosen.filter((id) => !own.includes(id)) });
  else useScene.setState({ chosen: [...chosen, ...first] });
}
