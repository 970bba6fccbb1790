import { type ReadAsk, readAsked } from "./readers";

self.onmessage = async ({ data }: MessageEvent<ReadAsk>) => self.postMessage(await readAsked(data));
