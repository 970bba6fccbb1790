import { parentPort, workerData } from "node:worker_threads";
import { startKernels } from "../engine/tiles/kernels";
import { help, type HelperStart } from "../engine/tiles/workforce";

const start = workerData as HelperStart;
const kernels = startKernels(start.module, start.memory);
parentPort?.postMessage("ready");
help(kernels, start);
