import { type CommandInput } from "../../../engine/command/commands";
import { trackOf } from "../../../engine/guides/follow";
import { type Guide } from "../../../engine/guides/guide";
import { drawsLines } from "../../../engine/lines/drawable";
import { boxOfPanel } from "../../../engine/panels/panels";
import { brushById, ownBrush } from "../../brushes/brush-box";
import { tenths } from "../on-paper";
import { type Session } from "../session";
import { amountsNow, useTable } from "../table-store";
import { type Point, useLines } from "./lines-store";

type Rays = Extract<CommandInput, { do: "line.speed" | "line.focus" }>;
export type RayAct = "speed" | "focus";

export const isRayAct = (act: string): act is RayAct => act === "speed" || act === "focus";

/** What rays are drawn with where the brush in hand draws no lines, or is one's own. */
const USUAL_BRUSH = "pen-even";
/** Farther off than this a way does not mean a vanishing point, radians. */
const WIDEST = 0.5;

/** The brush that rays are drawn with. */
export function rayBrush(): string {
  const { brush } = useTable.getState();
  const found = brushById(brush);
  return found && !ownBrush(brush) && drawsLines(found) ? brush : USUAL_BRUSH;
}

/** The vanishing point that a way runs to or from; null where it means none. */
export function vanishingPointOf(
  guides: readonly Guide[],
  [x0, y0]: Point,
  [x1, y1]: Point,
): [number, number] | null {
  const direction = Math.atan2(y1 - y0, x1 - x0);
  let best: [number, number] | null = null;
  let least = WIDEST;
  for (const guide of guides) {
    if (guide.kind !== "vanishing points") continue;
    for (const { x, y } of guide.points) {
      const off = Math.abs(direction - Math.atan2(y - y0, x - x0)) % Math.PI;
      const apart = Math.min(off, Math.PI - off);
      if (apart >= least) continue;
      least = apart;
      best = [x, y];
    }
  }
  return best;
}

/** What a drag lays: speed lines along it, or focus lines around where it began. */
export function raysOf(
  act: RayAct,
  layer: string,
  from: Point,
  to: Point,
  seed: number,
): Rays | null {
  const state = useTable.getState();
  const { picture, colour, second, follow } = state;
  if (!picture) return null;
  const { size, strength } = amountsNow(state);
  const { rays } = useLines.getState();
  const found = boxOfPanel(picture, layer);
  const common = {
    layer,
    style: { brush: rayBrush(), size, strength, colour, second, seed },
    gap: Math.min(4000, Math.max(1, tenths(rays.gap))),
    chance: {
      width: rays.widths / 100,
      length: rays.lengths / 100,
      gap: rays.gaps / 100,
    },
    within: found,
  };
  if (act === "focus") {
    const radius = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const clear: [number, number] = [radius, (radius * rays.height) / 100];
    return { do: "line.focus", ...common, at: [...from], clear };
  }
  const guides = follow ? picture.guides : [];
  const toward = vanishingPointOf(guides, from, to);
  const [fx, fy] = from;
  const track = toward
    ? null
    : trackOf(guides, { x: fx, y: fy }, { x: to[0], y: to[1] }, 1 / state.view.zoom);
  const [a, b] = track
    ? [track({ x: fx, y: fy }), track({ x: to[0], y: to[1] })]
    : [
        { x: fx, y: fy },
        { x: to[0], y: to[1] },
      ];
  return {
    do: "line.speed",
    ...common,
    from: [a.x, a.y],
    to: [b.x, b.y],
    across: Math.min(32_768, tenths(10 * rays.across)),
    toward,
    pointed: rays.pointed,
  };
}

export const newSeed = (): number => Math.floor(Math.random() * 0xffffffff);

/** What was laid last, while nothing has been done since: its amounts can still be changed. */
type Laid = { act: RayAct; layer: string; from: Point; to: Point; seed: number; place: number };

/** Rays as they were laid last; they are laid anew when their amounts change. */
export class RayHand {
  #laid: Laid | null = null;
  #wants = false;
  #isAtWork = false;

  /** Hears no more of changed amounts. */
  readonly stop: () => void;

  constructor(readonly session: Session) {
    let last = useLines.getState().rays;
    this.stop = useLines.subscribe(({ rays }) => {
      if (rays === last) return;
      last = rays;
      this.#again();
    });
  }

  /** Lays what a drag means. */
  async lay(act: RayAct, layer: string, from: Point, to: Point, seed: number): Promise<void> {
    const laid = { act, layer, from, to, seed };
    this.#laid = null;
    const command = raysOf(act, layer, from, to, seed);
    if (!command || !(await this.session.apply(command))) return;
    this.#laid = { ...laid, place: placeNow() };
  }

  /** The amounts have changed: what was laid is laid as they are now, in place of what it was. */
  #again(): void {
    this.#wants = true;
    if (!this.#isAtWork) void this.#work();
  }

  async #work(): Promise<void> {
    this.#isAtWork = true;
    while (this.#wants) {
      this.#wants = false;
      const laid = this.#laid;
      // Whatever else was done since stays as it is.
      if (!laid || laid.place !== placeNow() || useLines.getState().act !== laid.act) break;
      const { act, layer, from, to, seed } = laid;
      const command = raysOf(act, layer, from, to, seed);
      if (!command) break;
      await this.session.undo();
      if (!(await this.session.apply(command))) break;
      this.#laid = { ...laid, place: placeNow() };
    }
    this.#isAtWork = false;
  }
}

const placeNow = (): number => useTable.getState().picture?.place ?? 0;
