import * as Comlink from "comlink";
import { createPenRing, PenWriter } from "../worker/pen-ring";
import { type TableApi, type TableEvent, type TableMessage } from "../worker/protocol";
import { Said } from "./notices/why";

/** How long an engine may take to come up, ms. */
const START_LIMIT = 90_000;
/** How often it is looked whether the engine lives, and how many looks without a sign make a silence. */
const LOOK_EVERY = 2000;
const SILENT_LOOKS = 8;

/** How an engine is: at work, without a sign of life for a while, or stopped for good. */
export type EngineHealth = "well" | "silent" | "stopped";

/** The page's end of an engine: its calls, and the ring that pen samples go through. */
export type EngineLink = {
  api: Comlink.Remote<TableApi>;
  pen: PenWriter;
  /** Lets the engine know that samples wait, if it sleeps. */
  wake(): void;
  /** Leaves it, as fresh as it came, to whoever asks for the next one. */
  leave(): void;
  end(): void;
};

/** An engine that has come up and has nothing to do yet. */
type Ready = { worker: Worker; api: Comlink.Remote<TableApi>; pen: PenWriter };

/** Started before it is asked for. */
let warm: Promise<Ready> | null = null;

/** Starts an engine for whoever asks for the next one, where a picture is likely to be opened. */
export function warmEngine(): void {
  if (warm) return;
  warm = start();
  // Whoever asks for it starts another one and hears why that does not come up.
  warm.catch(() => undefined);
}

/** The engine that was started beforehand, or a new one. */
async function ready(): Promise<Ready> {
  const beforehand = warm;
  warm = null;
  return (await beforehand?.catch(() => null)) ?? start();
}

async function start(): Promise<Ready> {
  const worker = new Worker(new URL("../worker/table.worker.ts", import.meta.url), {
    type: "module",
  });
  const api = Comlink.wrap<TableApi>(worker);
  const ring = createPenRing();
  await startedOrFailed(worker, api.connect(ring));
  return { worker, api, pen: new PenWriter(ring) };
}

/**
 * Starts an engine in a worker of its own.
 * @param health told whenever it changes
 * @throws Error where the engine does not come up
 */
export async function startEngineLink(
  listen: (event: TableEvent) => void,
  health: (health: EngineHealth) => void = () => undefined,
): Promise<EngineLink> {
  const { worker, api, pen } = await ready();
  const hear = ({ data }: MessageEvent<TableMessage | undefined>): void => {
    if (data && "event" in data) listen(data.event);
  };
  worker.addEventListener("message", hear);
  const stopWatching = watch(worker, pen, health);
  return {
    api,
    pen,
    wake: () => {
      if (pen.mustWake()) worker.postMessage("pen");
    },
    leave: () => {
      stopWatching();
      worker.removeEventListener("message", hear);
      if (warm) worker.terminate();
      else warm = Promise.resolve({ worker, api, pen });
    },
    end: () => {
      stopWatching();
      worker.terminate();
    },
  };
}

async function startedOrFailed(worker: Worker, connected: Promise<void>): Promise<void> {
  const listeners = new AbortController();
  const { signal } = listeners;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const failed = new Promise<never>((_resolve, reject) => {
    const fail = (): void =>
      reject(
        new Said(
          "The painting engine could not be started. Your pictures are safe. Reload this page to try again",
        ),
      );
    worker.addEventListener("error", fail, { signal });
    worker.addEventListener("messageerror", fail, { signal });
    timer = setTimeout(fail, START_LIMIT);
  });
  try {
    await Promise.race([connected, failed]);
  } catch (error) {
    worker.terminate();
    throw error;
  } finally {
    clearTimeout(timer);
    listeners.abort();
  }
}

/** Looks whether the engine lives. Returns a function that stops looking. */
function watch(worker: Worker, pen: PenWriter, tell: (health: EngineHealth) => void): () => void {
  let pulse = pen.pulse();
  let still = 0;
  let health: EngineHealth = "well";
  const become = (next: EngineHealth): void => {
    if (next === health || health === "stopped") return;
    health = next;
    tell(next);
  };
  const timer = setInterval(() => {
    const now = pen.pulse();
    still = now === pulse ? still + 1 : 0;
    pulse = now;
    become(still >= SILENT_LOOKS ? "silent" : "well");
  }, LOOK_EVERY);
  const listeners = new AbortController();
  const { signal } = listeners;
  worker.addEventListener("error", () => become("stopped"), { signal });
  worker.addEventListener("messageerror", () => become("stopped"), { signal });
  return () => {
    clearInterval(timer);
    listeners.abort();
  };
}
