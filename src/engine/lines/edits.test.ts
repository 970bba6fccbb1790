import { chances } from "../chances.testing";
import { type Command, type CommandInput } from "../command/commands";
import { fingerprint } from "../engine.testing";
import { Refusal } from "../picture/refusal";
import { type Point } from "./curve";
import { linesOf } from "./line-set";
import { along, draw, lineWork, straightWay, wave } from "./lines.testing";

/** So many edits of each chance; `npm run campaign:lines` makes ten thousand. */
const EDITS = Number(process.env.EDITS ?? 120);
/** Lines that lie on the layer at most before some are taken away. */
const MOST = 60;

type Pair = [number, number];

/** Edits of lines, one after the other, as a restless hand would make them. */
class Restless {
  readonly #chance: () => number;

  constructor(seed: number) {
    this.#chance = chances(seed);
  }

  #upTo(most: number): number {
    return Math.floor(this.#chance() * most);
  }

  #one<T>(from: readonly T[]): T {
    return from[this.#upTo(from.length)] as T;
  }

  #place(): Point {
    return [20 + this.#chance() * 600, 20 + this.#chance() * 440];
  }

  #way(): Point[] {
    const from = this.#place();
    const angle = this.#chance() * 2 * Math.PI;
    const length = 30 + this.#chance() * 160;
    const to: Point = [from[0] + length * Math.cos(angle), from[1] + length * Math.sin(angle)];
    return Array.from({ length: 12 }, (_, i) => straightWay(from, to)(i / 11));
  }

  /** The next edit of lines with these numbers. */
  next(ids: readonly number[]): CommandInput {
    const lines = [...new Set([this.#one(ids), this.#one(ids)])];
    const [line] = lines as [number];
    const on = { layer: "l" } as const;
    const way = this.#way();
    const [from, to] = [way[0], way[11]].map((at) => [...(at as Point)]) as [Pair, Pair];
    if (ids.length > MOST) return { do: "line.remove", ...on, lines: ids.slice(0, MOST / 2) };
    const overs = way.map(([x, y]): [number, number, number] => [x, y, 0.6]);
    const samples = along((u) => way[Math.round(u * 11)] as Point, 120);
    const edits: readonly (() => CommandInput)[] = [
      () => ({ do: "stroke", ...on, brush: "pen-sprung", size: 8, colour: "#101018", samples }),
      () => ({
        do: "line.pull",
        ...on,
        line,
        at: from,
        to,
        reach: 60,
        ends: this.#one(["held", "free"]),
      }),
      () => ({
        do: "line.weigh",
        ...on,
        over: overs,
        radius: 30,
        how: this.#one(["thicken", "thin", "even"]),
      }),
      () => ({ do: "line.smooth", ...on, lines, strength: this.#one([1, 2, 3]) }),
      () => ({ do: "line.simplify", ...on, lines, error: 0.2 + this.#chance() * 3 }),
      () => ({ do: "line.redraw", ...on, line, samples }),
      () => ({ do: "line.join", ...on, lines, within: 40 + this.#upTo(200) }),
      () => ({ do: "line.cut", ...on, line, at: from, how: this.#one(["to crossings", "part"]) }),
      () => ({
        do: "line.erase",
        ...on,
        over: overs,
        radius: 6,
        how: this.#one(["touched", "to crossings", "whole"]),
      }),
      () => ({
        do: "line.set",
        ...on,
        lines,
        width: 1 + this.#upTo(14),
        taper: { in: this.#upTo(40), out: 0 },
      }),
      () => ({
        do: "line.set",
        ...on,
        lines,
        colour: this.#one(["#a02020", "#205080"]),
        times: 0.5 + this.#chance(),
      }),
      () => ({ do: "line.fit-width", ...on, lines }),
      () => ({ do: "line.turn-round", ...on, lines }),
      () => ({ do: "line.order", ...on, lines, to: this.#one(["front", "back"]) }),
      () => ({
        do: "line.duplicate",
        ...on,
        lines: [line],
        by: [this.#upTo(30), this.#upTo(30)],
        copies: 1,
      }),
      () => ({ do: "line.shade", ...on, lines, light: this.#chance() * 6 - 3, times: 1.5 }),
      () => ({
        do: "line.move",
        ...on,
        lines,
        warp: {
          kind: "matrix",
          matrix: [0.9, -0.2, this.#upTo(40), 0.2, 0.9, this.#upTo(30), 0, 0, 1],
        },
      }),
    ];
    return this.#one(edits)();
  }
}

/** A page of twelve waves that cross each other. */
function page(): ReturnType<typeof lineWork> {
  const made = lineWork();
  for (let i = 0; i < 12; i++)
    draw(made.engine, made.work, along(wave(60, 560, 40 + i * 34, 12 + i, 3 + (i % 5)), 520));
  return made;
}

it.each([1, 2])(
  `${EDITS} edits of lines, undone one by one, leave the first bytes; the log paints the last (chance %d)`,
  (seed) => {
    const { engine, work } = page();
    const drawn = work.history.depth;
    const first = fingerprint(engine, work);
    const hand = new Restless(seed);
    const log: Command[] = [];
    let refused = 0;
    while (log.length < EDITS) {
      const ids = [...linesOf(engine.store, work.picture, "l").byId.keys()];
      const place = work.place;
      try {
        log.push(work.apply(hand.next(ids.length > 0 ? ids : [1])));
      } catch (error) {
        // What cannot be done there is refused in words, and nothing has happened.
        if (!(error instanceof Refusal)) throw error;
        expect(work.place).toBe(place);
        refused++;
      }
    }
    expect(refused).toBeLessThan(EDITS / 2);
    const last = fingerprint(engine, work);
    expect(last).not.toBe(first);

    const again = page();
    for (const command of log) again.work.apply(command);
    expect(fingerprint(again.engine, again.work)).toBe(last);

    while (work.history.depth > drawn) work.undo();
    expect(fingerprint(engine, work)).toBe(first);
    for (const _ of log) work.redo();
    expect(fingerprint(engine, work)).toBe(last);
    work.release();
    again.work.release();
  },
  3_600_000,
);
