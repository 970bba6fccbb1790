import { type Header } from "../picture/header";
import { COLOUR, Picture, type PlaneName, type Structure } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { checkedSamples, type Sample } from "../stroke/sample";
import { type Carried } from "../oil/carried";
import { letDry } from "../oil/drying";
import { forgetPass } from "../scene/forget-pass";
import { forgetWash } from "../water/forget-wash";
import { beginStroke } from "../stroke/begin";
import { type Bench } from "../bench";
import { type Stroker } from "../stroke/stroker";
import { type Tile } from "../tiles/tile-store";
import { type Applying, type Change, type TileSwap } from "./command";
import { Flow, mayFlow } from "../time/flow";
import { finishFlow } from "../time/time";
import { applyCommand, type Command, follows, isSilent, parseCommand } from "./commands";
import { History, isStep } from "./history";
import {
  finishStroke,
  MOST_SAMPLES,
  strokeLabel,
  strokeStart,
  strokeStartSchema,
  type StrokeStartCommand,
} from "./stroke";

/** Tiles of a layer's plane that have changed. */
export type Damage = { layer: string; plane: PlaneName; keys: readonly number[] };

export type WorkEvents = {
  /** Pixels changed. */
  damaged?(damage: Damage): void;
  /** Layers, ground or paper changed. */
  restructured?(before: Structure, after: Structure): void;
  /** A command was finished: it is entry `place` of the log, and what came after is gone. */
  logged?(command: Command, place: number): void;
  /** A stroke was ended that changed nothing. */
  inVain?(command: StrokeStartCommand): void;
  /** A live stroke was ended with this on its brush. */
  carried?(brush: string, carried: Carried): void;
  /** Undo or redo: the log now counts to `place`. */
  stepped?(place: number): void;
  /** Long work has come so far (0…1). May throw a Refusal to stop it: the picture stays as it was. */
  progressed?(label: string, share: number): void;
};

/**
 * The work on one picture: the one door through which it changes. Commands come as data,
 * are checked, applied, noted in the log, and can be taken back.
 */
export class Work {
  readonly picture: Picture;
  readonly history: History;
  /** How many commands of the log are in force. The log itself is kept by who listens. */
  place = 0;
  #live: { stroke: Stroker; command: StrokeStartCommand } | null = null;
  /** Time that passes: how many steps of it have since the newest command. */
  #time: { flow: Flow; steps: number } | null = null;
  /** Whether time stands still because something was undone: what was is not to change. */
  #timeStands = false;
  #tried: { command: Command; change: Change } | null = null;

  constructor(
    readonly bench: Bench,
    header: Header,
    readonly events: WorkEvents = {},
  ) {
    this.picture = new Picture(header);
    this.history = new History(this.picture, bench.store);
  }

  get isDrawing(): boolean {
    return this.#live !== null;
  }

  /** Whether the picture shows a command that is only tried. */
  get isTrying(): boolean {
    return this.#tried !== null;
  }

  /** Whether thinned paint is running. */
  get isFlowing(): boolean {
    return this.#time !== null;
  }

  /** Seconds until the layers that dry are dry, about. */
  get secondsLeft(): Record<string, number> {
    return this.#time?.flow.secondsLeft ?? {};
  }

  /**
   * Lets time pass, where anything is to change with it: one command of the log that grows until something else
   * is done. No time passes while a stroke is drawn or something is tried, nor after an undo.
   * @returns whether more is to change
   */
  advance(steps: number): boolean {
    if (this.#live || this.#tried || this.#timeStands) return false;
    if (!this.#time && !mayFlow(this.picture)) return false;
    this.#time ??= { flow: new Flow(this.bench, this.picture), steps: 0 };
    const { flow } = this.#time;
    for (const { layer, keys } of flow.step(steps))
      this.events.damaged?.({ layer, plane: COLOUR, keys });
    this.#time.steps += steps;
    if (!flow.isAtRest) return true;
    this.endTime();
    return false;
  }

  /** Notes the time that has passed so far, so that it is kept. It may still go on. */
  noteTime(): void {
    if (this.#time) this.events.logged?.({ do: "time", steps: this.#time.steps }, this.place);
  }

  /** What has passed is a command that is finished. */
  endTime(): void {
    const time = this.#time;
    if (!time) return;
    this.#time = null;
    const change = this.#change((applying) => finishFlow(applying, time.flow));
    this.history.add({ ...change, follows: true });
    this.#note({ do: "time", steps: time.steps });
  }

  /**
   * Applies one command, whole or not at all.
   * @throws Refusal that says what was wrong
   */
  apply(data: unknown): Command {
    const command = parseCommand(data);
    const change = this.#asTried(command) ?? this.#done(command);
    this.#timeStands = false;
    this.history.add(change);
    this.#note(command);
    return command;
  }

  /**
   * Shows what a command would do, in place of the one that was tried before. Nothing is noted:
   * whatever comes next takes it back first.
   * @throws Refusal that says what was wrong; then nothing is tried
   */
  tryOut(data: unknown): void {
    const command = parseCommand(data);
    this.#tried = { command, change: this.#done(command) };
  }

  #done(command: Command): Change {
    this.#begin();
    const change = this.#change((applying) => applyCommand(applying, command));
    return { ...change, silent: isSilent(command), follows: follows(command) };
  }

  /** What was tried, if it is this very command: then it is done already. */
  #asTried(command: Command): Change | null {
    const tried = this.#tried;
    if (!tried || JSON.stringify(tried.command) !== JSON.stringify(command)) return null;
    this.#tried = null;
    return tried.change;
  }

  /** Takes back what was tried. */
  stopTrying(): void {
    const tried = this.#tried;
    if (!tried) return;
    this.#tried = null;
    const { structure, swaps } = tried.change;
    this.#putBack(structure.before, [...swaps]);
    this.#tell(swaps);
    if (structure.before !== structure.after)
      this.events.restructured?.(structure.after, structure.before);
  }

  /** Begins a live stroke: `extend` it with samples, then `end` it; it is logged once, at its end. */
  beginStroke(data: unknown): void {
    this.#begin();
    const command = strokeStartSchema.parse(data);
    this.#live = {
      stroke: beginStroke(this.bench, this.picture, strokeStart(this.picture, command), true),
      command,
    };
  }

  /**
   * Draws on with what the pen reports. A stroke that is as long as a log can hold takes no more.
   * @throws Refusal where a sample could not be repeated from the log; the stroke is abandoned
   */
  extendStroke(samples: readonly Sample[]): void {
    if (!this.#live) return;
    const { stroke } = this.#live;
    const room = MOST_SAMPLES - stroke.samples.length;
    let checked: Sample[];
    try {
      checked = checkedSamples(samples.slice(0, room));
    } catch (error) {
      this.abandonStroke();
      throw error;
    }
    const keys = stroke.extend(checked);
    this.events.damaged?.({ layer: stroke.start.layer, plane: stroke.start.plane, keys });
  }

  /** Shows what the live stroke has drawn and not shown yet: a broad one is not shown at each sample. */
  showStroke(): void {
    if (!this.#live) return;
    const { stroke } = this.#live;
    const keys = stroke.show?.() ?? [];
    if (keys.length === 0) return;
    const { layer, plane } = stroke.start;
    this.events.damaged?.({ layer, plane, keys });
  }

  /** Ends the live stroke. A stroke without a sample leaves nothing. */
  endStroke(): Command | null {
    const live = this.#live;
    if (!live) return null;
    this.#live = null;
    if (live.stroke.samples.length === 0) {
      live.stroke.abandon();
      return null;
    }
    const change = this.#change((applying) => {
      finishStroke(applying, live.stroke);
      return strokeLabel(live.command);
    });
    this.#timeStands = false;
    this.history.add(change);
    if (change.swaps.length === 0) this.events.inVain?.(live.command);
    const { carried, samples } = live.stroke;
    if (carried) this.events.carried?.(live.command.brush, carried);
    const command: Command = { ...live.command, samples };
    this.#note(command);
    return command;
  }

  abandonStroke(): void {
    const live = this.#live;
    if (!live) return;
    this.#live = null;
    const keys = live.stroke.abandon();
    const { layer, plane } = live.stroke.start;
    this.events.damaged?.({ layer, plane, keys });
  }

  /** Takes back what the live stroke has drawn; it begins again with the next samples. */
  restartStroke(): void {
    const command = this.#live?.command;
    if (!command) return;
    this.abandonStroke();
    this.#live = {
      stroke: beginStroke(this.bench, this.picture, strokeStart(this.picture, command), true),
      command,
    };
  }

  /** Takes back the last command. Returns its label, null where there is none. */
  undo(): string | null {
    this.#begin();
    if (!this.history.undoLabel) return null;
    this.#timeStands = true;
    while (this.history.undoFollows) this.#step(this.history.undo(), -1);
    while (this.history.undoIsSilent) this.#step(this.history.undo(), -1);
    const label = this.#step(this.history.undo(), -1);
    // What the command needed goes with it.
    while (this.history.undoIsSilent) this.#step(this.history.undo(), -1);
    return label;
  }

  /** Takes back the last command of the log, whether or not it was a step of its own. Returns whether there was one. */
  stepBack(): boolean {
    this.#begin();
    return this.#step(this.history.undo(), -1) !== null;
  }

  redo(): string | null {
    this.#begin();
    this.#timeStands = true;
    for (;;) {
      const change = this.history.redo();
      const label = this.#step(change, 1);
      if (change?.silent) continue;
      while (this.history.redoFollows) this.#step(this.history.redo(), 1);
      return label;
    }
  }

  /**
   * Looks at the picture as it was `steps` steps ago. It is back as it is before this returns;
   * nobody hears of it, and nothing may be changed meanwhile.
   * @throws Refusal where the history does not reach so far back
   */
  lookBack<T>(steps: number, look: () => T): T {
    this.#begin();
    const known = this.history.steps.length;
    if (steps > known) throw new Refusal(`the history reaches ${known} steps back, not ${steps}`);
    let gone = 0;
    try {
      for (let left = steps; left > 0; gone++) {
        const change = this.history.undo();
        if (!change || isStep(change)) left--;
      }
      return look();
    } finally {
      while (gone-- > 0) this.history.redo();
    }
  }

  /** Gives back all of the picture's memory. The work is over. */
  release(): void {
    this.abandonStroke();
    this.stopTrying();
    this.endTime();
    this.history.forgetAll();
    for (const planes of this.picture.planes.values())
      for (const plane of planes.values())
        for (const tile of plane.values()) this.bench.store.release(tile);
    this.picture.planes.clear();
  }

  #step(change: ReturnType<History["undo"]>, by: number): string | null {
    if (!change) return null;
    this.place += by;
    const { before, after } = change.structure;
    this.#tell(change.swaps);
    if (by < 0) this.events.restructured?.(after, before);
    else this.events.restructured?.(before, after);
    this.events.stepped?.(this.place);
    return change.label;
  }

  /** Before anything else is done to the picture. */
  #begin(): void {
    if (this.#live) throw new Refusal("Lift the pen first: a stroke is being drawn.");
    this.stopTrying();
    this.endTime();
  }

  #note(command: Command): void {
    this.place++;
    this.events.logged?.(command, this.place - 1);
  }

  #change(act: (applying: Applying) => string): Change {
    const { picture, bench } = this;
    const before = picture.structure;
    const swaps: TileSwap[] = [];
    let keepsWet: "oil" | "wash" | "all" | null = null;
    const exchange: Applying["swap"] = (layer, key, after, name = COLOUR) => {
      const plane = picture.plane(layer, name);
      const there: Tile | null = plane.get(key) ?? null;
      if (after) plane.set(key, bench.store.retain(after));
      else plane.delete(key);
      // The plane's hold on the old tile passes to the change.
      swaps.push({ layer, plane: name, key, before: there, after });
    };
    /** Long work that has been told of and has not said yet that it is done. */
    let told: string | null = null;
    const applying: Applying = {
      picture,
      bench,
      tell: (label, share) => {
        told = share < 1 ? label : null;
        this.events.progressed?.(label, share);
      },
      setStructure: (structure) => {
        picture.structure = structure;
      },
      swap: (layer, key, after, name = COLOUR) => {
        const keeps = name === COLOUR ? keepsWet : "all";
        if (keeps !== "all") forgetPass(picture, layer);
        if (keeps === null || keeps === "wash") letDry(bench, picture, layer, exchange);
        if (keeps === null || keeps === "oil") forgetWash(picture, layer, exchange);
        exchange(layer, key, after, name);
      },
      dry: (layer) => {
        letDry(bench, picture, layer, exchange);
        forgetWash(picture, layer, exchange);
      },
      keepingWet: (what, act) => {
        keepsWet = what;
        act();
        keepsWet = null;
      },
    };
    let label: string;
    try {
      label = act(applying);
      if (told !== null) this.events.progressed?.(told, 1);
    } catch (error) {
      this.#putBack(before, swaps);
      throw error;
    }
    const after = picture.structure;
    this.#tell(swaps);
    if (before !== after) this.events.restructured?.(before, after);
    return { label, silent: false, follows: false, structure: { before, after }, swaps };
  }

  #putBack(structure: Structure, swaps: TileSwap[]): void {
    const { picture, bench } = this;
    picture.structure = structure;
    for (const { layer, plane, key, before, after } of swaps.reverse()) {
      if (before) picture.plane(layer, plane).set(key, before);
      else picture.plane(layer, plane).delete(key);
      if (!after) continue;
      bench.store.release(after);
      bench.store.release(after);
    }
  }

  #tell(swaps: readonly TileSwap[]): void {
    if (!this.events.damaged) return;
    const byPlane = new Map<string, { layer: string; plane: PlaneName; keys: number[] }>();
    for (const { layer, plane, key } of swaps) {
      const name = `${plane} ${layer}`;
      const known = byPlane.get(name);
      if (known) known.keys.push(key);
      else byPlane.set(name, { layer, plane, keys: [key] });
    }
    for (const damage of byPlane.values()) this.events.damaged(damage);
  }
}
