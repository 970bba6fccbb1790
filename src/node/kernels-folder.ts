import { join } from "node:path";

/** The folder that `npm run kernels` makes; the bundled command says where it has its own. */
export const kernelsFolder = (): string =>
  process.env.PAMPAS_KERNELS ?? join(process.cwd(), "kernels", "build");
