import { startKernels } from "../engine/tiles/kernels";
import { help, type HelperStart } from "../engine/tiles/workforce";

self.onmessage = ({ data }: MessageEvent<HelperStart>) => {
  const kernels = startKernels(data.module, data.memory);
  self.postMessage("ready");
  help(kernels, data);
};
