import { tell } from "../../notices/notices";
import { type Touch } from "../lines/line-hand";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { moved } from "./chosen-pieces";
import { choosePieces, type Point, strewnLayerNow, useStrew } from "./strew-store";
import { Trying } from "../trying";

/** Points of a way stand this far apart at least, and one that stays within this is a tap, screen px. */
const APART = 2;
const A_TAP = 4;

/** One gesture, from where the pen came down. */
type Gesture = {
  layer: string;
  way: Point[];
  adds: boolean;
  /** The piece that it began on; null where there is none, or it is not known yet. */
  piece: number | null;
  found: Promise<void>;
};

/** The hand that chooses pieces by a tap or a loop, and moves what is chosen. */
export class PieceHand {
  #gesture: Gesture | null = null;
  #done: Promise<void> = Promise.resolve();
  #trying: Trying;

  constructor(readonly session: Session) {
    this.#trying = new Trying(session);
  }

  get isOurs(): boolean {
    return useTable.getState().tool === "strew" && useStrew.getState().act === "choose";
  }

  #px(screen: number): number {
    return (screen * window.devicePixelRatio) / useTable.getState().view.zoom;
  }

  async #take(gesture: Gesture): Promise<void> {
    const place = gesture.way[0] as Point;
    const { api } = this.session.link;
    const found = await api.choosePieces(gesture.layer, { kind: "at", place });
    gesture.piece = found.ok ? (found.value[0] ?? null) : null;
    // What is taken hold of moves, chosen before or not.
    if (gesture.piece === null || gesture.adds) return;
    if (!useStrew.getState().chosen.includes(gesture.piece))
      await choosePieces(this.session, [gesture.piece]);
  }

  /** The pen comes down. Answers whether it draws a way from here. */
  begin({ place, shift }: Touch): boolean {
    const layer = strewnLayerNow();
    if (!layer) {
      tell("Pieces are chosen on a layer that holds some. Choose one in the list.");
      return false;
    }
    const made = { layer: layer.id, way: [place], adds: shift, piece: null };
    const gesture: Gesture = { ...made, found: Promise.resolve() };
    gesture.found = this.#done.then(() => this.#take(gesture));
    this.#gesture = gesture;
    return true;
  }

  move({ place: [x, y] }: Touch): void {
    const gesture = this.#gesture;
    const last = gesture?.way.at(-1);
    if (!gesture || !last || Math.hypot(x - last[0], y - last[1]) < this.#px(APART)) return;
    gesture.way.push([x, y]);
    if (gesture.piece === null) useStrew.setState({ way: [...gesture.way] });
    else if (!gesture.adds) this.#trying.show(this.#moved(gesture));
  }

  #moved({ way }: Gesture): ReturnType<typeof moved> {
    const [first, last] = [way[0], way.at(-1)];
    return first && last ? moved([last[0] - first[0], last[1] - first[1]]) : null;
  }

  #isTap({ way }: Gesture): boolean {
    const [x, y] = way[0] as Point;
    return way.every(([u, v]) => Math.hypot(u - x, v - y) <= this.#px(A_TAP));
  }

  end(): Promise<void> {
    const gesture = this.#gesture;
    this.#gesture = null;
    this.#trying.drop();
    useStrew.setState({ way: [] });
    if (gesture) this.#done = this.#done.then(() => this.#finish(gesture));
    return this.#done;
  }

  async #finish(gesture: Gesture): Promise<void> {
    await gesture.found;
    const { session } = this;
    const { chosen } = useStrew.getState();
    const { piece, adds, layer, way } = gesture;
    if (this.#isTap(gesture)) {
      if (piece === null) return adds ? undefined : choosePieces(session, []);
      if (!adds) return choosePieces(session, [piece]);
      const isIn = chosen.includes(piece);
      return choosePieces(session, isIn ? chosen.filter((id) => id !== piece) : [...chosen, piece]);
    }
    if (piece !== null && !adds) {
      const command = this.#moved(gesture);
      if (command) await session.apply(command);
      return choosePieces(session, chosen);
    }
    const found = await session.link.api.choosePieces(layer, { kind: "loop", loop: way });
    const ids = found.ok ? found.value : [];
    await choosePieces(session, adds ? [...new Set([...chosen, ...ids])] : ids);
  }

  /** The pointer was taken away: nothing is done. */
  giveUp(): void {
    this.#gesture = null;
    useStrew.setState({ way: [] });
    this.#trying.takeBack();
  }
}
