import { type Command } from "../engine/command/commands";
import { type WorkLog } from "../engine/command/work-log";
import { type Work, type WorkEvents } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Sample } from "../engine/stroke/sample";

/** How long a command takes in a replay that is no stroke, in samples of a stroke. */
const STEP = 30;
/** No stroke takes less than this: a dot is seen too. */
const LEAST = 6;

const weightOf = (command: Command): number => {
  if (command.do === "stroke") return Math.max(LEAST, command.samples.length);
  if (command.do === "brush.bring") return 0;
  return STEP;
};

/**
 * A picture's own work, played again: forward by doing it, stroke by stroke and sample by
 * sample, backward by undoing it. Where the history reaches back no further it begins again.
 */
export class Replay {
  work: Work;
  /** Where each command begins; and the end of all. */
  readonly #begins: number[] = [0];
  /** How many samples of the live stroke have been drawn. */
  #drawn = 0;
  #at = 0;

  constructor(
    readonly engine: Engine,
    readonly log: WorkLog,
    readonly events: WorkEvents,
    /** A new picture was begun in place of the one before. */
    readonly begunAgain: () => void = () => undefined,
  ) {
    for (const command of log.commands)
      this.#begins.push((this.#begins.at(-1) as number) + weightOf(command));
    this.work = engine.open(log.header, events);
  }

  /** Length of the whole work, in samples. */
  get length(): number {
    return this.#begins.at(-1) as number;
  }

  get at(): number {
    return this.#at;
  }

  /** Brings the picture to where the work stood at a share of its length, 0…1. */
  seek(share: number): void {
    const { commands } = this.log;
    this.#at = Math.min(1, Math.max(0, share));
    const weight = this.#at * this.length;
    let index = 0;
    while (index < commands.length && (this.#begins[index + 1] as number) <= weight) index++;
    const into = weight - (this.#begins[index] ?? 0);
    this.#goTo(index);
    const command = commands[index];
    if (command?.do !== "stroke") return;
    this.#draw(command, Math.floor((into / weightOf(command)) * command.samples.length));
  }

  release(): void {
    this.work.release();
  }

  /** All commands before `index` done, none after. */
  #goTo(index: number): void {
    const { commands } = this.log;
    const isIn = this.work.isDrawing && this.work.place === index;
    if (isIn) return;
    if (this.work.isDrawing) {
      // A stroke that only goes on is finished, one that is gone back from is taken back.
      if (this.work.place < index) this.#finish(commands[this.work.place]);
      else this.work.abandonStroke();
      this.#drawn = 0;
    }
    while (this.work.place > index) if (this.work.undo() === null) this.#beginAgain();
    while (this.work.place < index) this.work.apply(commands[this.work.place]);
  }

  #beginAgain(): void {
    this.work.release();
    this.work = this.engine.open(this.log.header, this.events);
    this.begunAgain();
  }

  #draw(command: Extract<Command, { do: "stroke" }>, count: number): void {
    const { samples, ...beginning } = command;
    if (this.work.isDrawing && count < this.#drawn) {
      this.work.abandonStroke();
      this.#drawn = 0;
    }
    if (count === 0) return;
    if (!this.work.isDrawing) {
      this.work.beginStroke(beginning);
      this.#drawn = 0;
    }
    this.#extend(samples, count);
  }

  #extend(samples: readonly Sample[], count: number): void {
    if (count <= this.#drawn) return;
    this.work.extendStroke(samples.slice(this.#drawn, count));
    this.#drawn = count;
    this.work.showStroke();
  }

  #finish(command: Command | undefined): void {
    if (command?.do !== "stroke") return;
    this.#extend(command.samples, command.samples.length);
    this.work.endStroke();
    this.#drawn = 0;
  }
}
