import * as Comlink from "comlink";
import { createPenRing, PenWriter } from "../worker/pen-ring";
import { type TableApi, type TableEvent, type TableMessage } from "../worker/protocol";

/** The page's end of an engine: its calls, and the ring that pen samples go through. */
export type EngineLink = {
  api: Comlink.Remote<TableApi>;
  pen: PenWriter;
  /** Lets the engine know that samples wait, if it sleeps. */
  wake(): void;
  end(): void;
};

/** Starts an engine in a worker of its own. */
export async function startEngineLink(listen: (event: TableEvent) => void): Promise<EngineLink> {
  const worker = new Worker(new URL("../worker/table.worker.ts", import.meta.url), {
    type: "module",
  });
  const api = Comlink.wrap<TableApi>(worker);
  const ring = createPenRing();
  worker.addEventListener("message", ({ data }: MessageEvent<TableMessage | undefined>) => {
    if (data && "event" in data) listen(data.event);
  });
  await api.connect(ring);
  const pen = new PenWriter(ring);
  return {
    api,
    pen,
    wake: () => {
      if (pen.mustWake()) worker.postMessage("pen");
    },
    end: () => worker.terminate(),
  };
}
