import { readWorkLog, scaleWorkLog, type WorkLog } from "../engine/command/work-log";
import { paintLog, type RenderFormat, writePicture } from "../engine/file/render";
import { Refusal } from "../engine/picture/refusal";
import { loadEngine } from "./load-engine";

/** What one posted log may ask of the server. */
export const renderLimits = {
  bytes: 64 * 2 ** 20,
  pixels: 60_000_000,
  milliseconds: 120_000,
} as const;

export type RenderAsk = { text: string; format: RenderFormat; scale: number; signal: AbortSignal };

let busy = false;

/** Whether a log is being painted: the queue holds one. */
export const isBusy = (): boolean => busy;

/** @throws Refusal where the log cannot be read or asks for too much */
export function readAsk(text: string, scale: number): WorkLog {
  const read = readWorkLog(text);
  const log = scale === 1 ? read : scaleWorkLog(read, scale);
  const { width, height } = log.header;
  if (width * height > renderLimits.pixels)
    throw new Refusal(
      `at most ${renderLimits.pixels / 1e6} million pixels are painted here, this is ${width} × ${height}`,
    );
  return log;
}

/**
 * Paints a log. Stops when the signal says so or the time is over.
 * @param tell hears the share done
 */
export async function renderLog(
  log: WorkLog,
  { format, signal }: Pick<RenderAsk, "format" | "signal">,
  tell: (share: number) => void,
): Promise<Uint8Array> {
  if (busy) throw new Refusal("another picture is being painted; try again when it is done");
  busy = true;
  const started = Date.now();
  const watch = (share: number): void => {
    if (signal.aborted) throw new Refusal("stopped");
    if (Date.now() - started > renderLimits.milliseconds)
      throw new Refusal(`painting took longer than ${renderLimits.milliseconds / 1000} s`);
    tell(share);
  };
  // Long commands are looked at inside too; how far the whole has come is told between them.
  const watchInside = (): void => {
    if (Date.now() - started > renderLimits.milliseconds) watch(0);
  };
  try {
    const engine = await loadEngine();
    const work = await paintLog(
      engine,
      log,
      async (share) => {
        watch(share * 0.8);
        await new Promise((resolve) => setImmediate(resolve));
      },
      () => watchInside(),
    );
    return writePicture(engine, work, format, (share) => watch(0.8 + share * 0.2));
  } finally {
    busy = false;
  }
}
