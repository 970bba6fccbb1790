"use client";

import { type ReactNode, useRef } from "react";
import { type Box } from "../../../engine/tiles/layout";
import { type Free, middleOf } from "../../../engine/transform/free";
import { type Point } from "../../../engine/transform/warp";
import { toPicture, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  cornersOf,
  type Corners,
  inFrame,
  leaned,
  outline,
  placed,
  type Placement,
} from "./placement";

/** How far from the upper side the turning handle stands, CSS px. */
const STALK = 26;
const TURN_STEP = Math.PI / 12;
const KEY_STEP = 1;
const KEY_STEP_COARSE = 10;

const keys: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A thing to take hold of: where it is, and what becomes of the placement when it is pulled. */
type Grip = {
  name: string;
  at: Point;
  shape: "corner" | "side" | "turn" | "lean" | "point";
  pulled: (start: Placement, from: Point, to: Point, constrained: boolean) => Placement;
};

const withFree = (start: Placement, change: (free: Free) => Partial<Free>): Placement =>
  start.kind === "free" ? { kind: "free", free: { ...start.free, ...change(start.free) } } : start;

/** A side or corner of the box pulled: the opposite one stays where it is. */
function scaled(
  from: Box,
  start: Placement,
  side: Point,
  to: Point,
  constrained: boolean,
): Placement {
  return withFree(start, (free) => {
    const [u, v] = inFrame(from, free, to);
    // The frame's half sizes run from −scale to scale; the far side stays.
    const grow = (own: number, at: number, scale: number): number =>
      own === 0 ? scale : (at * own + scale) / 2;
    let scaleX = grow(side[0], u, free.scaleX);
    let scaleY = grow(side[1], v, free.scaleY);
    if (constrained && side[0] !== 0 && side[1] !== 0) {
      const ratio = Math.max(scaleX / free.scaleX, scaleY / free.scaleY);
      scaleX = free.scaleX * ratio;
      scaleY = free.scaleY * ratio;
    }
    const least = 1e-3;
    const held = (scale: number): number =>
      Math.abs(scale) < least ? Math.sign(scale || 1) * least : scale;
    const next = { ...free, scaleX: held(scaleX), scaleY: held(scaleY) };
    const [mx, my] = middleOf(from);
    const far: Point = [
      mx - (side[0] * (from.right - from.left)) / 2,
      my - (side[1] * (from.bottom - from.top)) / 2,
    ];
    const before = placed(from, { kind: "free", free }, far);
    const after = placed(from, { kind: "free", free: next }, far);
    return { ...next, x: next.x + before[0] - after[0], y: next.y + before[1] - after[1] };
  });
}

function turned(start: Placement, from: Point, to: Point, constrained: boolean): Placement {
  return withFree(start, ({ x, y, angle }) => {
    const turn = Math.atan2(to[1] - y, to[0] - x) - Math.atan2(from[1] - y, from[0] - x);
    const next = angle + turn;
    return { angle: constrained ? Math.round(next / TURN_STEP) * TURN_STEP : next };
  });
}

/** All of it moved by as much as the pointer. */
function moved(start: Placement, from: Point, to: Point, constrained: boolean): Placement {
  let dx = to[0] - from[0];
  let dy = to[1] - from[1];
  if (constrained && Math.abs(dx) > Math.abs(dy)) dy = 0;
  else if (constrained) dx = 0;
  // Whole pixels, so that what is only moved stays as crisp as it is.
  [dx, dy] = [Math.round(dx), Math.round(dy)];
  if (start.kind === "free") return withFree(start, ({ x, y }) => ({ x: x + dx, y: y + dy }));
  const by = ([x, y]: Point): [number, number] => [x + dx, y + dy];
  if (start.kind === "perspective")
    return { ...start, corners: start.corners.map(by) as unknown as Corners };
  return { ...start, points: start.points.map(by) };
}

const sideNames = ["upper", "right", "lower", "left"];
const cornerNames = ["upper left", "upper right", "lower right", "lower left"];

/** What can be taken hold of, for a placement. */
function gripsOf(from: Box, placement: Placement, pxAScreenPx: number): Grip[] {
  if (placement.kind === "mesh")
    return placement.points.map((at, i) => ({
      name: `mesh point ${i + 1}`,
      at,
      shape: "point",
      pulled: (start, _from, to) =>
        start.kind === "mesh"
          ? { ...start, points: start.points.map((p, j) => (j === i ? [...to] : p)) }
          : start,
    }));
  const corners = cornersOf(from);
  if (placement.kind === "perspective")
    return placement.corners.map((at, i) => ({
      name: `${cornerNames[i]} corner`,
      at,
      shape: "corner",
      pulled: (start, _from, to) =>
        start.kind === "perspective"
          ? {
              ...start,
              corners: start.corners.map((p, j) => (j === i ? to : p)) as unknown as Corners,
            }
          : start,
    }));
  const signs: Point[] = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ];
  const cornerGrips = corners.map((corner, i): Grip => ({
    name: `${cornerNames[i]} corner`,
    at: placed(from, placement, corner),
    shape: "corner",
    pulled: (start, _at, to, constrained) =>
      scaled(from, start, signs[i] as Point, to, constrained),
  }));
  const sides: Point[] = [
    [0, -1],
    [1, 0],
    [0, 1],
    [-1, 0],
  ];
  const [mx, my] = middleOf(from);
  const sideAt = ([u, v]: Point): Point =>
    placed(from, placement, [
      mx + (u * (from.right - from.left)) / 2,
      my + (v * (from.bottom - from.top)) / 2,
    ]);
  const sideGrips = sides.map((side, i): Grip => ({
    name: `${sideNames[i]} side`,
    at: sideAt(side),
    shape: "side",
    pulled: (start, _at, to) => scaled(from, start, side, to, false),
  }));
  const middle: Point = [placement.free.x, placement.free.y];
  const beyond = ([x, y]: Point): Point => {
    const away = Math.hypot(x - middle[0], y - middle[1]) || 1;
    const stalk = (STALK * pxAScreenPx) / away;
    return [x + (x - middle[0]) * stalk, y + (y - middle[1]) * stalk];
  };
  const turn: Grip = { name: "turn", at: beyond(sideAt([0, -1])), shape: "turn", pulled: turned };
  const lean: Grip = {
    name: "lean",
    at: beyond(sideAt([0, 1])),
    shape: "lean",
    pulled: (start, was, to) =>
      withFree(start, (free) => leaned(from, free, [to[0] - was[0], to[1] - was[1]])),
  };
  return [...cornerGrips, ...sideGrips, turn, lean];
}

/** What is held: where it is now, and what becomes of it while it is pulled and when it is let go. */
export type Holding = {
  now: () => Placement;
  drag: (next: Placement) => void;
  letGo: () => void;
  /** Put somewhere at once, as keys do. */
  put: (next: Placement) => void;
};

/** Something that can be dragged, or pushed with the arrow keys. */
function Hold({
  session,
  label,
  pulled,
  at,
  holding,
  children,
}: {
  session: Session;
  label: string;
  pulled: Grip["pulled"];
  at: Point;
  holding: Holding;
  children: ReactNode;
}) {
  const started = useRef<{ placement: Placement; at: Point } | null>(null);
  const onPicture = (event: React.PointerEvent<SVGElement>): Point => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const ratio = window.devicePixelRatio;
    return toPicture(
      viewMatrix(useTable.getState().view, session.screen),
      (event.clientX - (box?.left ?? 0)) * ratio,
      (event.clientY - (box?.top ?? 0)) * ratio,
    );
  };
  const letGo = (): void => {
    if (started.current) holding.letGo();
    started.current = null;
  };
  return (
    <g
      tabIndex={0}
      role="button"
      aria-label={`${label}. Drag, or use the arrow keys`}
      onPointerDown={(event) => {
        event.stopPropagation();
        if (event.nativeEvent.isTrusted) event.currentTarget.setPointerCapture(event.pointerId);
        started.current = { placement: holding.now(), at: onPicture(event) };
      }}
      onPointerMove={(event) => {
        const start = started.current;
        if (!start || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
        holding.drag(pulled(start.placement, start.at, onPicture(event), event.shiftKey));
      }}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      onKeyDown={(event) => {
        const step = keys[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        const far = event.shiftKey ? KEY_STEP_COARSE : KEY_STEP;
        const to: Point = [at[0] + step[0] * far, at[1] + step[1] * far];
        holding.put(pulled(holding.now(), at, to, false));
      }}
    >
      {children}
    </g>
  );
}

function Stalk({ ends }: { ends: string }) {
  return (
    <>
      <polyline className="edge dark" points={ends} />
      <polyline className="edge light" points={ends} />
    </>
  );
}

function GripShape({ shape, x, y }: { shape: Grip["shape"]; x: number; y: number }) {
  if (shape === "corner")
    return <rect className="handle" x={x - 6} y={y - 6} width={12} height={12} />;
  if (shape === "lean") return <path className="handle" d={`M${x - 9} ${y + 5}l4-10h14l-4 10z`} />;
  return <circle className={`handle ${shape}`} cx={x} cy={y} r={shape === "turn" ? 7 : 5.5} />;
}

/** The outline of something that is placed, and what it can be held by. */
export function Handles({
  session,
  what,
  from,
  placement,
  holding,
}: {
  session: Session;
  /** What is held, in words. */
  what: string;
  /** Where it was, before it was placed. */
  from: Box;
  placement: Placement;
  holding: Holding;
}) {
  const view = useTable((state) => state.view);
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const screen = ([x, y]: Point): Point => {
    const [sx, sy] = toScreen(matrix, x, y);
    return [sx / ratio, sy / ratio];
  };
  const grips = gripsOf(from, placement, ratio / view.zoom);
  const edge = outline(from, placement).map(screen);
  const path = edge.map((point) => point.join(" ")).join(" ");
  const gripAt = (wanted: string): string[] =>
    grips.filter(({ name }) => name === wanted).map(({ at }) => screen(at).join(" "));
  const stalks = [
    [...gripAt("upper side"), ...gripAt("turn")],
    [...gripAt("lower side"), ...gripAt("lean")],
  ].flatMap((ends) => (ends.length === 2 ? ends.join(" ") : []));
  return (
    <svg className="transform-overlay">
      <Hold
        session={session}
        label={`${what}: move`}
        pulled={moved}
        at={placed(from, placement, middleOf(from))}
        holding={holding}
      >
        <polygon className="handle body" points={path} />
      </Hold>
      <polygon className="edge dark" points={path} />
      <polygon className="edge light" points={path} />
      {stalks.map((ends) => (
        <Stalk key={ends} ends={ends} />
      ))}
      {grips.map(({ name, at, shape, pulled }) => {
        const [x, y] = screen(at);
        return (
          <Hold
            key={name}
            session={session}
            label={`${what}: ${name}`}
            pulled={pulled}
            at={at}
            holding={holding}
          >
            <GripShape shape={shape} x={x} y={y} />
          </Hold>
        );
      })}
    </svg>
  );
}
