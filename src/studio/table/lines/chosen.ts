import { type Likeness } from "../../../engine/lines/find";
import { type CommandInput } from "../../../engine/command/commands";
import { chordsFor, pointOn } from "../../../engine/lines/curve";
import { type LineLook } from "../../../worker/lines";
import { useRegion } from "../region/region-store";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { amountsNow, useTable } from "../table-store";
import { type Turn, turnMatrix } from "../turn";
import { chooseLines, lineLayerNow, type Point, useLines } from "./lines-store";

type Set = Omit<Extract<CommandInput, { do: "line.set" }>, "do" | "layer" | "lines">;

/** The chosen lines of the layer that is worked on; none where no line layer is. */
function chosenNow(): { layer: string; lines: number[] } | null {
  const layer = lineLayerNow();
  const { chosen } = useLines.getState();
  return layer && chosen.length > 0 ? { layer: layer.id, lines: [...chosen] } : null;
}

/** Changes what the chosen lines are drawn with. */
export async function setChosen(session: Session, changes: Set): Promise<void> {
  const chosen = chosenNow();
  if (!chosen) return;
  if (changes.colour) useTable.getState().useColour();
  await session.apply({ do: "line.set", ...chosen, ...changes });
}

export async function chooseAll(session: Session): Promise<void> {
  const layer = lineLayerNow();
  if (!layer) return;
  const all = await session.link.api.chooseLines(layer.id, { kind: "all" });
  if (all.ok) await chooseLines(session, all.value);
}

/** Chooses all lines that are like one of those that are chosen. */
export async function chooseLike(session: Session, by: Likeness): Promise<void> {
  const chosen = chosenNow();
  if (!chosen) return;
  const { layer, lines: of } = chosen;
  const found = await session.link.api.chooseLines(layer, { kind: "like", of, by });
  if (found.ok) await chooseLines(session, found.value);
}

/** Takes the chosen lines away. @returns whether there were any */
export function removeChosen(session: Session): boolean {
  const chosen = chosenNow();
  if (!chosen) return false;
  void session.apply({ do: "line.remove", ...chosen });
  return true;
}

/** How many times as wide lines in full shadow become, and where light comes from without a sun pin. */
const SHADOW = 1.8;
const USUAL_LIGHT = -2.3;

/** The middle of the chosen lines, and how far they reach from there, px. */
export function middleOf(looks: readonly LineLook[]): { at: Point; reach: number } {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { points } of looks)
    for (let i = 0; i < points.length; i += 2) {
      left = Math.min(left, points[i] as number);
      right = Math.max(right, points[i] as number);
      top = Math.min(top, points[i + 1] as number);
      bottom = Math.max(bottom, points[i + 1] as number);
    }
  return {
    at: [(left + right) / 2, (top + bottom) / 2],
    reach: Math.hypot(right - left, bottom - top) / 2,
  };
}

/** Turns the chosen lines about a place and makes them so many times as large. */
export function turnedLines(at: Point, turn: Turn): CommandInput | null {
  const chosen = chosenNow();
  const warp = { kind: "matrix" as const, matrix: turnMatrix(at, turn) };
  return chosen && { do: "line.move", ...chosen, warp };
}

/** The chosen lines mirrored about their own middle. */
function mirrored(session: Session, across: boolean): Promise<boolean> | undefined {
  const chosen = chosenNow();
  const { looks } = useLines.getState();
  if (!chosen || looks.length === 0) return undefined;
  const axis = across ? 0 : 1;
  const about = 2 * middleOf(looks).at[axis];
  const matrix = across ? [-1, 0, about, 0, 1, 0, 0, 0, 1] : [1, 0, 0, 0, -1, about, 0, 0, 1];
  return session.apply({ do: "line.move", ...chosen, warp: { kind: "matrix", matrix } });
}

/** What can be done with the chosen lines, beside their colour and their width. */
export function chosenActions(session: Session): { name: string; act: () => unknown }[] {
  const of = (command: "line.fit-width" | "line.turn-round" | "line.remove") => () => {
    const chosen = chosenNow();
    return chosen && session.apply({ do: command, ...chosen });
  };
  const order = (to: "front" | "back") => () => {
    const chosen = chosenNow();
    return chosen && session.apply({ do: "line.order", ...chosen, to });
  };
  const smooth = (strength: 1 | 2 | 3) => () => {
    const chosen = chosenNow();
    return chosen && session.apply({ do: "line.smooth", ...chosen, strength });
  };
  return [
    {
      name: "Draw with the brush in hand",
      act: () => {
        const state = useTable.getState();
        const { size, strength } = amountsNow(state);
        return setChosen(session, { brush: state.brush, size, strength });
      },
    },
    { name: "Fit widths to pressure", act: of("line.fit-width") },
    {
      name: "One width, as large as the brush",
      act: () => setChosen(session, { width: amountsNow(useTable.getState()).size }),
    },
    { name: "Ends blunt", act: () => setChosen(session, { taper: { in: 0, out: 0 } }) },
    {
      name: "Ends drawn out",
      act: () => {
        const { size } = amountsNow(useTable.getState());
        return setChosen(session, { taper: { in: 4 * size, out: 7 * size } });
      },
    },
    {
      name: "Thicker in shadow",
      act: () => {
        const chosen = chosenNow();
        const sun = useTable.getState().picture?.sun;
        if (!sun) tell("No sun pin is set: light is taken to come from the upper left.");
        // On the sheet, up is away from the painter.
        const light = sun
          ? Math.atan2(-Math.sin(sun.height), Math.cos(sun.height) * Math.cos(sun.azimuth))
          : USUAL_LIGHT;
        return chosen && session.apply({ do: "line.shade", ...chosen, light, times: SHADOW });
      },
    },
    { name: "Smooth", act: smooth(2) },
    {
      name: "Simplify",
      act: () => {
        const chosen = chosenNow();
        return chosen && session.apply({ do: "line.simplify", ...chosen, error: 0.5 });
      },
    },
    { name: "Close", act: () => closeChosen(session) },
    { name: "Select what they enclose", act: () => selectInside(session) },
    { name: "Turn round", act: of("line.turn-round") },
    { name: "Mirror across", act: () => mirrored(session, true) },
    { name: "Mirror upside down", act: () => mirrored(session, false) },
    { name: "Duplicate", act: () => duplicateChosen(session) },
    { name: "To the front", act: order("front") },
    { name: "To the back", act: order("back") },
    { name: "Remove", act: of("line.remove") },
  ];
}

/** Joins each chosen line's end to its start. */
function closeChosen(session: Session): Promise<boolean> | undefined {
  const chosen = chosenNow();
  if (!chosen) return undefined;
  const open = useLines.getState().looks.filter(({ closed }) => !closed);
  return session.applyAll(
    "close lines",
    open.map(({ id }) => ({ do: "line.join", layer: chosen.layer, lines: [id], within: 2000 })),
  );
}

/** How far the corners of a selection may lie off the line that it was made of, px. */
const SELECTS_WITHIN = 0.05;

/** A line as the corners of a polygon. */
export function cornersAlong({ points }: Pick<LineLook, "points">): [number, number][] {
  const curve = { points: [...points], material: [], corners: [] };
  const corners: [number, number][] = [[points[0] ?? 0, points[1] ?? 0]];
  for (let piece = 0; 6 * piece + 7 < points.length; piece++) {
    const chords = chordsFor(points, piece, SELECTS_WITHIN);
    for (let i = 1; i <= chords; i++) {
      const [x, y] = pointOn(curve, { piece, t: i / chords });
      corners.push([x, y]);
    }
  }
  return corners;
}

/** Selects what the chosen lines enclose; an open one is taken as closed from its end to its start. */
async function selectInside(session: Session): Promise<boolean> {
  const { looks } = useLines.getState();
  const { joining } = useRegion.getState();
  const shapes = looks.map(cornersAlong).filter((points) => points.length >= 3);
  if (shapes.length === 0) {
    tell("A straight line encloses nothing. Choose one that goes around something.");
    return false;
  }
  return session.applyAll(
    "select what lines enclose",
    shapes.map((points, i) => ({
      do: "select",
      how: i > 0 && joining === "replace" ? "add" : joining,
      shape: { kind: "polygon", points },
    })),
  );
}

/** A copy of the chosen lines, a little aside. */
function duplicateChosen(session: Session): Promise<boolean> | undefined {
  const chosen = chosenNow();
  if (!chosen) return undefined;
  const aside = (16 * window.devicePixelRatio) / useTable.getState().view.zoom;
  return session.apply({ do: "line.duplicate", ...chosen, by: [aside, aside], copies: 1 });
}
