import { scaledAdjustment } from "../command/adjust";
import { MOST_LAYER_RADIUS } from "../adjust/adjustment";
import { scaledFringe } from "../fringe/fringe";
import { type Paint } from "../gradient/gradient";
import { type Guide, type Place } from "../guides/guide";
import { MOST_CONTOUR, type Layer, type Structure } from "../picture/picture";
import { scaledPaper } from "../paper/paper";
import { wrapped } from "../sun/sun-pin";
import { type Scene } from "../scene/scene";
import { Refusal } from "../picture/refusal";
import { type Stencil } from "../stencil/stencil";
import { type Panels } from "../panels/panels";
import { type Studies } from "../studies/studies";
import { type Matrix, type Point, through } from "../transform/warp";

/** How what lies on a sheet moves when the sheet is cut, turned or resized: alike in all directions. */
export type SheetMap = {
  matrix: Matrix;
  /** How many times as large. */
  by: number;
  /** Radians clockwise. */
  turn: number;
};

const DEGREES = 180 / Math.PI;
const FULL = 2 * Math.PI;

const point = ({ matrix }: SheetMap, x: number, y: number): Point =>
  through(matrix, x, y) ?? [x, y];
const place = (map: SheetMap, { x, y }: Place): Place => {
  const [px, py] = point(map, x, y);
  return { x: px, y: py };
};
const angle = ({ turn }: SheetMap, a: number): number => (a + turn) % FULL;

function paint(map: SheetMap, own: Paint): Paint {
  if (own.kind === "colour") return own;
  const to = ([x, y]: readonly [number, number]): [number, number] => {
    const [px, py] = point(map, x, y);
    return [px, py];
  };
  return { ...own, from: to(own.from), to: to(own.to), path: own.path.map(to) };
}

function layer(map: SheetMap, own: Layer): Layer {
  const { contour, tone, halftone, fringe } = own;
  const degrees = halftone ? halftone.angle + map.turn * DEGREES : 0;
  const origin = halftone ? place(map, halftone) : { x: 0, y: 0 };
  return {
    ...own,
    paint: own.paint && paint(map, own.paint),
    contour: contour && {
      ...contour,
      width: Math.min(MOST_CONTOUR, Math.max(0.5, contour.width * map.by)),
    },
    ...(fringe ? { fringe: scaledFringe(fringe, map.by) } : {}),
    tone: tone && (scaledAdjustment(tone, map.by, MOST_LAYER_RADIUS) as typeof tone),
    ...(halftone
      ? {
          halftone: {
            ...halftone,
            ...origin,
            angle: degrees - 360 * Math.round(degrees / 360),
          },
        }
      : {}),
  };
}

function guide(map: SheetMap, own: Guide): Guide {
  switch (own.kind) {
    case "vanishing points":
      return { ...own, points: own.points.map((at) => place(map, at)) };
    case "straightedge":
      return { ...own, from: place(map, own.from), to: place(map, own.to) };
    case "parallel":
      return { ...own, at: place(map, own.at), angle: angle(map, own.angle) };
    case "ellipse":
      return {
        ...own,
        at: place(map, own.at),
        across: own.across * map.by,
        down: own.down * map.by,
        angle: angle(map, own.angle),
      };
  }
}

const stencil = (map: SheetMap, own: Stencil): Stencil => {
  const { scaleX, scaleY } = own.place;
  return {
    ...own,
    place: {
      ...own.place,
      ...place(map, own.place),
      scaleX: scaleX * map.by,
      scaleY: scaleY * map.by,
      angle: own.place.angle + map.turn,
    },
  };
};

/** The camera's frame goes along: what it sees stays where it is on the paint. */
function scene(map: SheetMap, own: Scene): Scene {
  const { frame, roll } = own.camera;
  const camera = {
    ...own.camera,
    roll: wrapped(roll + map.turn),
    frame: { ...place(map, frame), width: frame.width * map.by },
  };
  return { ...own, camera };
}

/** @throws Refusal where a frame would not lie on the sheet any more */
function studies(map: SheetMap, own: Studies, width: number, height: number): Studies {
  const frames = own.frames.map((frame) => {
    const [left, top] = point(map, frame.left, frame.top).map(Math.round) as [number, number];
    const [right, bottom] = point(map, frame.right, frame.bottom).map(Math.round) as [
      number,
      number,
    ];
    if (map.turn !== 0 || left < 0 || top < 0 || right > width || bottom > height)
      throw new Refusal("This would cut a study’s frame. Carry the study over first, or cut less");
    return { left, top, right, bottom };
  });
  return { ...own, frames };
}

/** Frames of panels are lines and move as such; their shapes follow here. */
function panels(map: SheetMap, own: Panels): Panels {
  return {
    ...own,
    style: { ...own.style, width: Math.min(500, Math.max(0.5, own.style.width * map.by)) },
    panels: own.panels.map((panel) => ({
      ...panel,
      corners: panel.corners.map(([x, y]): [number, number] => {
        const [px, py] = point(map, x, y);
        return [px, py];
      }),
    })),
  };
}

/** All of a picture but its pixels and its lines, after the sheet became another one. */
export function followed(
  structure: Structure,
  map: SheetMap,
  width: number,
  height: number,
): Structure {
  const { sun } = structure;
  return {
    ...structure,
    layers: structure.layers.map((own) => layer(map, own)),
    guides: structure.guides.map((own) => guide(map, own)),
    sun: sun && { ...sun, at: place(map, sun.at) },
    studies: structure.studies && studies(map, structure.studies, width, height),
    stencils: structure.stencils.map((own) => stencil(map, own)),
    ...(structure.panels ? { panels: panels(map, structure.panels) } : {}),
    ...(structure.scene ? { scene: scene(map, structure.scene) } : {}),
    paper: map.by === 1 ? structure.paper : scaledPaper(structure.paper, map.by),
  };
}
