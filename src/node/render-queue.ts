import { sep } from "node:path";
import { pathToFileURL } from "node:url";
import { Worker } from "node:worker_threads";
import { type RenderFormat } from "../engine/file/render";
import { Refusal, Stopped } from "../engine/picture/refusal";

/** What one posted log may ask of the server; `pixelSteps` is pixels of the sheet × commands. */
export const renderLimits = {
  bytes: 64 * 2 ** 20,
  pixels: 60_000_000,
  pixelSteps: 1e12,
  milliseconds: 120_000,
  memory: 3 * 2 ** 30,
  /** A body must have come within this time: its sender holds the only place. */
  bodyMilliseconds: 30_000,
} as const;

export type RenderAsk = { text: string; format: RenderFormat; scale: number };

/** What the painting thread says: its memory, that the log could be read, how far it is, the file, or why not. */
export type RenderWord =
  | { memory: WebAssembly.Memory }
  | { read: true }
  | { progress: number }
  | { file: Uint8Array }
  | { refused: string };

/** The thread runs from the sources, wherever the server's bundle lies; a name that is put together is left alone by bundlers. */
const sourceOf = (name: string): URL =>
  pathToFileURL([process.cwd(), "src", "node", name].join(sep));

let taken = false;

/** Takes the one place in the queue. Returns a function that gives it back, or null where it is taken. */
export function takePlace(): (() => void) | null {
  if (taken) return null;
  taken = true;
  let held = true;
  return () => {
    if (held) taken = false;
    held = false;
  };
}

/** How often the thread's time and memory are looked at, in ms. */
const LOOK = 100;

type Later<T> = {
  promise: Promise<T>;
  resolve: (value: T) => void;
  reject: (why: unknown) => void;
};

function later<T>(): Later<T> {
  let resolve: Later<T>["resolve"] = () => undefined;
  let reject: Later<T>["reject"] = () => undefined;
  const promise = new Promise<T>((done, failed) => {
    resolve = done;
    reject = failed;
  });
  // Whoever waits hears of a failure; nobody has to wait.
  promise.catch(() => undefined);
  return { promise, resolve, reject };
}

type Bounds = { milliseconds: number; memory: number };

/** A log that is being painted in a thread of its own, which can be ended inside of any command. */
export class Rendering {
  readonly #worker: Worker;
  readonly #started = Date.now();
  readonly #clock: NodeJS.Timeout;
  #memory: WebAssembly.Memory | null = null;
  #tell: (share: number) => void = () => undefined;
  readonly #read = later<void>();
  readonly #file = later<Uint8Array>();

  constructor(
    ask: RenderAsk,
    private readonly bounds: Bounds = renderLimits,
  ) {
    this.#worker = new Worker(sourceOf("render-start.mjs"), {
      workerData: ask,
      resourceLimits: { maxOldGenerationSizeMb: 1024 },
    });
    this.#worker.on("message", (word: RenderWord) => this.#hear(word));
    this.#worker.on("error", (error) => this.#fail(error));
    this.#worker.on("exit", () => this.#fail(new Error("the painting thread ended")));
    this.#clock = setInterval(() => this.#look(), LOOK);
  }

  /** Resolves when the log can be read. @throws Refusal where it cannot, or asks for too much */
  read(): Promise<void> {
    return this.#read.promise;
  }

  /**
   * Resolves to the file.
   * @param tell hears the share done, 0…1
   * @throws Refusal where a command cannot be done, or it takes too long or too much memory
   */
  file(tell: (share: number) => void): Promise<Uint8Array> {
    this.#tell = tell;
    return this.#file.promise;
  }

  /** Ends the thread, wherever it is. */
  stop(): void {
    this.#fail(new Stopped());
  }

  #hear(word: RenderWord): void {
    if ("memory" in word) this.#memory = word.memory;
    else if ("read" in word) this.#read.resolve();
    else if ("progress" in word) this.#tell(word.progress);
    else if ("refused" in word) this.#fail(new Refusal(word.refused));
    else {
      this.#file.resolve(word.file);
      this.#end();
    }
  }

  #look(): void {
    const { milliseconds, memory } = this.bounds;
    if (Date.now() - this.#started > milliseconds)
      this.#fail(new Refusal(`painting took longer than ${milliseconds / 1000} s`));
    else if ((this.#memory?.buffer.byteLength ?? 0) > memory)
      this.#fail(new Refusal(`painting took more than ${Math.round(memory / 2 ** 20)} MiB`));
  }

  #fail(error: Error): void {
    this.#read.reject(error);
    this.#file.reject(error);
    this.#end();
  }

  #end(): void {
    clearInterval(this.#clock);
    void this.#worker.terminate();
  }
}
