import { parentPort, workerData } from "node:worker_threads";
import { readWorkLog, scaleWorkLog, type WorkLog } from "../engine/command/work-log";
import { paintLog, writePicture } from "../engine/file/render";
import { Refusal } from "../engine/picture/refusal";
import { loadEngine } from "./load-engine";
import { type RenderAsk, renderLimits, type RenderWord } from "./render-queue";

/** One posted log, painted in a thread of its own: whoever started it may end it at any moment. */

const say = (word: RenderWord): void => parentPort?.postMessage(word);

function read({ text, scale }: RenderAsk): WorkLog {
  const log = readWorkLog(text);
  const scaled = scale === 1 ? log : scaleWorkLog(log, scale);
  const { width, height } = scaled.header;
  if (width * height > renderLimits.pixels)
    throw new Refusal(
      `at most ${renderLimits.pixels / 1e6} million pixels are painted here, this is ${width} × ${height}`,
    );
  const steps = scaled.commands.length;
  if (width * height * steps > renderLimits.pixelSteps)
    throw new Refusal(`${steps} commands at ${width} × ${height} px are too much to paint here`);
  return scaled;
}

async function paint(log: WorkLog, { format }: RenderAsk): Promise<void> {
  const engine = await loadEngine();
  say({ memory: engine.memory });
  const work = await paintLog(engine, log, async (share) => say({ progress: share * 0.8 }));
  const file = await writePicture(engine, work, format, (share) =>
    say({ progress: 0.8 + share * 0.2 }),
  );
  say({ file });
}

async function run(ask: RenderAsk): Promise<void> {
  try {
    const log = read(ask);
    say({ read: true });
    await paint(log, ask);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    say({ refused: error.message });
  }
}

await run(workerData as RenderAsk);
