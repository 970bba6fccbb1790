import { Refusal, Stopped } from "../engine/picture/refusal";
import { type ReadAnswer, type ReaderName, type Readers } from "./readers";

/** A file that is not read by then is given up, ms. */
const DEADLINE = 180_000;
/** How often it is asked whether to go on, ms. */
const LOOK = 100;

/** What reading needs of the thread that waits for it. */
export type Waiting = {
  /** Whether the illustrator wants it to stop. */
  stopAsked(): boolean;
  /** Told as long as it lasts. */
  waits(): void;
};

/** As a reader is called, with its name first. */
export type ReadFile = <Name extends ReaderName>(
  reader: Name,
  ...given: Parameters<Readers[Name]>
) => ReturnType<Readers[Name]>;

const startReading = (): Worker =>
  new Worker(new URL("./reading.worker.ts", import.meta.url), { type: "module" });

/**
 * Reads a file in a thread of its own, which is ended when it is told to stop or takes too long.
 * @throws Refusal where it cannot be read; Stopped where it was stopped
 */
export function readApart(
  reader: ReaderName,
  bytes: Uint8Array,
  more: readonly number[],
  { stopAsked, waits }: Waiting,
  { start = startReading, deadline = DEADLINE } = {},
): Promise<unknown> {
  const worker = start();
  const until = Date.now() + deadline;
  return new Promise((resolve, reject) => {
    const clock = setInterval(() => {
      if (stopAsked()) end(new Stopped("Stopped. Nothing was brought in."));
      else if (Date.now() >= until)
        end(new Refusal(`it could not be read within ${deadline / 1000} s`));
      else waits();
    }, LOOK);
    const end = (why: Error): void => {
      clearInterval(clock);
      worker.terminate();
      reject(why);
    };
    worker.onerror = () => end(new Refusal("this file took more memory than there is"));
    worker.onmessage = ({ data }: MessageEvent<ReadAnswer>) => {
      if (!data.ok) return end(data.known ? new Refusal(data.why) : new Error(data.why));
      clearInterval(clock);
      worker.terminate();
      resolve(data.value);
    };
    worker.postMessage({ reader, bytes, more });
  });
}
