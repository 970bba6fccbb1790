"use client";

import { type KeyboardEvent, type PointerEvent, useMemo, useRef } from "react";
import { type Place } from "../../../engine/guides/guide";
import { projectionOf, seenAt } from "../../../engine/scene/camera";
import { boundsOf, seenInScene } from "../../../engine/scene/pick";
import { type Camera, type Scene } from "../../../engine/scene/scene";
import { type Solid } from "../../../engine/scene/solid";
import { plus, turned, type Vector } from "../../../engine/scene/vector";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  carriedTo,
  goneRound,
  handleAt,
  type HandleKind,
  handleKinds,
  pathPulled,
  pulledTo,
  slid,
  turnedUpright,
} from "./handles";
import { SceneLook } from "./SceneLook";
import {
  chooseSolid,
  chosenSolids,
  closeScene,
  keptScene,
  putSolids,
  removeChosen,
  setCamera,
  useScene,
  withDraft,
} from "./scene-store";

/** Radians a CSS px of dragging. */
const TURN_A_PX = 0.006;
/** Farther than this a press is a drag, CSS px. */
const STILL = 4;
/** Metres and radians that a press of an arrow key moves and turns by. */
const STEP = 0.1;
const TURN_STEP = Math.PI / 36;

const NAMES: Record<HandleKind, string> = {
  width: "Width",
  height: "Height",
  depth: "Depth",
  turn: "Turn",
  lift: "Lift",
};

type Drag =
  | { kind: "solids"; grip: Vector; start: readonly Solid[]; from: Place; moved: boolean }
  | { kind: "camera"; start: Camera; x: number; y: number; moved: boolean; slides: boolean }
  | { kind: "handle"; handle: HandleKind; start: Solid; from: Place }
  | { kind: "path"; index: number; start: Solid };

/** The chosen solid after an arrow key on one of its handles. */
function nudged(solid: Solid, handle: HandleKind, by: number): Solid {
  if (handle === "turn") return turnedUpright(solid, by * TURN_STEP);
  if (handle === "lift")
    return { ...solid, at: [solid.at[0], solid.at[1] + by * STEP, solid.at[2]] };
  const size: [number, number, number] = [...solid.size];
  const i = ({ width: 0, height: 1, depth: 2 } as const)[handle];
  size[i] = Math.max(STEP, size[i] + by * STEP);
  return { ...solid, size };
}

/** The lines of a solid's box: pairs of places. */
function boxLines({ least, most }: { least: Vector; most: Vector }): [Vector, Vector][] {
  const corner = (i: number): Vector => [
    i & 1 ? most[0] : least[0],
    i & 2 ? most[1] : least[1],
    i & 4 ? most[2] : least[2],
  ];
  const lines: [Vector, Vector][] = [];
  for (let i = 0; i < 8; i++)
    for (const bit of [1, 2, 4]) if (!(i & bit)) lines.push([corner(i), corner(i | bit)]);
  return lines;
}

/** Bounds of a solid before it is turned and stood up. */
const ownBox = (solid: Solid, scene: Scene) =>
  boundsOf({ ...solid, at: [0, 0, 0], turn: [0, 0, 0, 1] }, scene);

/** The scene over the picture: solids are chosen, carried and pulled, the camera goes round them. */
export function SceneOverlay({ session }: { session: Session }) {
  const open = useScene((state) => state.open);
  const picture = useTable((state) => state.picture);
  const view = useTable((state) => state.view);
  const isPanning = useTable((state) => state.tool === "hand");
  const draft = useScene((state) => state.draft);
  const chosen = useScene((state) => state.chosen);
  const drag = useRef<Drag | null>(null);
  const kept = useMemo(() => keptScene(picture), [picture]);
  const scene = useMemo(() => withDraft(kept, draft), [kept, draft]);
  if (!open || !picture) return null;

  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const projection = projectionOf(scene.camera);
  const onScreen = (at: Vector): Place | null => {
    const seen = seenAt(projection, at);
    if (!seen) return null;
    const [x, y] = toScreen(matrix, seen.x, seen.y);
    return { x: x / ratio, y: y / ratio };
  };
  const inPicture = (event: PointerEvent<Element>): Place => {
    const box = event.currentTarget.closest(".view")?.getBoundingClientRect();
    const [x, y] = toPicture(
      matrix,
      (event.clientX - (box?.left ?? 0)) * ratio,
      (event.clientY - (box?.top ?? 0)) * ratio,
    );
    return { x, y };
  };
  const hold = (event: PointerEvent<Element>, what: Drag): void => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = what;
  };

  const press = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.button !== 0) return;
    const from = inPicture(event);
    const hit = seenInScene(scene, from);
    if (hit?.solid) {
      if (event.shiftKey || !useScene.getState().chosen.includes(hit.solid.id))
        chooseSolid(scene, hit.solid, event.shiftKey);
      const start = chosenSolids(scene);
      const first = start[0];
      if (!first) return;
      const grip: Vector = [hit.at[0] - first.at[0], 0, hit.at[2] - first.at[2]];
      hold(event, { kind: "solids", grip, start, from, moved: false });
      return;
    }
    const slides = event.shiftKey;
    const { clientX: x, clientY: y } = event;
    hold(event, { kind: "camera", start: scene.camera, x, y, moved: false, slides });
  };
  const move = (event: PointerEvent<Element>): void => {
    const held = drag.current;
    if (!held) return;
    const to = inPicture(event);
    if (held.kind === "solids") {
      const gone = Math.hypot(to.x - held.from.x, to.y - held.from.y) * view.zoom;
      held.moved ||= gone > STILL * ratio;
      if (held.moved)
        useScene.setState({
          draft: { solids: carriedTo(kept, held.start, held.grip, to, event.altKey) },
        });
    } else if (held.kind === "handle")
      useScene.setState({
        draft: { solids: [pulledTo(kept, held.start, held.handle, held.from, to)] },
      });
    else if (held.kind === "path")
      useScene.setState({ draft: { solids: [pathPulled(kept, held.start, held.index, to)] } });
    else {
      const [dx, dy] = [event.clientX - held.x, event.clientY - held.y];
      held.moved ||= Math.hypot(dx, dy) > STILL;
      if (!held.moved) return;
      const px = ratio / view.zoom;
      const camera = held.slides
        ? slid(held.start, dx * px, dy * px)
        : goneRound(held.start, dx * TURN_A_PX, dy * TURN_A_PX);
      useScene.setState({ draft: { camera } });
    }
  };
  const drop = (): void => {
    const held = drag.current;
    drag.current = null;
    const { draft: made } = useScene.getState();
    if (held?.kind === "camera" && !held.moved) chooseSolid(scene, null, false);
    if (made?.camera) void setCamera(session, made.camera);
    else if (made?.solids) void putSolids(session, made.solids);
  };
  const keys = (event: KeyboardEvent): void => {
    if (event.key === "Escape") closeScene();
    else if (event.key === "Delete" || event.key === "Backspace") void removeChosen(session);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const first = scene.solids.find(({ id }) => id === chosen[0]);
  const others = scene.solids.filter(({ id }) => chosen.includes(id));
  return (
    <>
      <SceneLook session={session} scene={scene} width={picture.width} height={picture.height} />
      <div
        className="scene-surface handle"
        role="application"
        aria-label="Scene: choose and carry solids; drag beside them to go round"
        tabIndex={0}
        style={isPanning ? { pointerEvents: "none" } : undefined}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={drop}
        onPointerCancel={drop}
        onKeyDown={keys}
      />
      <svg className="box-overlay scene-boxes" aria-hidden="true">
        {others.map((solid) =>
          boxLines(ownBox(solid, scene)).map(([a, b], i) => {
            const stands = (v: Vector): Vector => plus(solid.at, turned(solid.turn, v));
            const [p, q] = [onScreen(stands(a)), onScreen(stands(b))];
            return p && q && <line key={`${solid.id} ${i}`} x1={p.x} y1={p.y} x2={q.x} y2={q.y} />;
          }),
        )}
      </svg>
      {first && (
        <SolidHandles
          solid={first}
          onScreen={onScreen}
          hold={hold}
          inPicture={inPicture}
          move={move}
          drop={drop}
          put={(solid) => void putSolids(session, [solid])}
        />
      )}
    </>
  );
}

/** Handles of one solid: its sides, its turn, its height over the ground; of a tube the places of its path. */
function SolidHandles({
  solid,
  onScreen,
  hold,
  inPicture,
  move,
  drop,
  put,
}: {
  solid: Solid;
  onScreen: (at: Vector) => Place | null;
  hold: (event: PointerEvent<Element>, what: Drag) => void;
  inPicture: (event: PointerEvent<Element>) => Place;
  move: (event: PointerEvent<Element>) => void;
  drop: () => void;
  put: (solid: Solid) => void;
}) {
  const shared = { onPointerMove: move, onPointerUp: drop, onPointerCancel: drop };
  const own = solid.kind === "tube" ? (["turn", "lift"] as const) : handleKinds;
  const path = solid.kind === "tube" ? (solid.path ?? []) : [];
  return (
    <>
      {own.map((handle) => {
        if (solid.kind === "plane" && handle === "height") return null;
        const at = onScreen(handleAt(solid, handle));
        if (!at) return null;
        return (
          <button
            key={handle}
            type="button"
            className="handle gradient-handle scene-handle"
            data-handle={handle}
            style={{ left: at.x, top: at.y }}
            title={NAMES[handle]}
            aria-label={`${NAMES[handle]} of ${solid.name}. Drag, or use the arrow keys`}
            onPointerDown={(event) =>
              hold(event, { kind: "handle", handle, start: solid, from: inPicture(event) })
            }
            {...shared}
            onKeyDown={(event) => {
              const by =
                { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key] ?? 0;
              if (by === 0) return;
              event.preventDefault();
              event.stopPropagation();
              put(nudged(solid, handle, by));
            }}
          />
        );
      })}
      {path.map((place, index) => {
        const at = onScreen(plus(solid.at, turned(solid.turn, place)));
        return (
          at && (
            <button
              key={index}
              type="button"
              className="handle gradient-handle scene-handle"
              data-handle="path"
              style={{ left: at.x, top: at.y }}
              aria-label={`Place ${index + 1} of ${solid.name}. Drag it`}
              onPointerDown={(event) => hold(event, { kind: "path", index, start: solid })}
              {...shared}
            />
          )
        );
      })}
    </>
  );
}
