import * as Comlink from "comlink";
import { type StoreApi } from "../../worker/store.worker";

let running: { worker: Worker; api: Comlink.Remote<StoreApi> } | null = null;

/** The thread that looks after the store; it is started when it is first asked for. */
export function store(): Comlink.Remote<StoreApi> {
  if (running) return running.api;
  const worker = new Worker(new URL("../../worker/store.worker.ts", import.meta.url), {
    type: "module",
  });
  running = { worker, api: Comlink.wrap<StoreApi>(worker) };
  return running.api;
}

/** Nobody needs that thread any more. */
export function endStore(): void {
  running?.worker.terminate();
  running = null;
}
