import { type BandName, bandNames, takeBandsFrom } from "../engine/paper/bands";

/** Where the bands that were made beforehand lie; each address in full, so that it is built in. */
const addresses: Record<BandName, URL> = {
  fine: new URL("../../kernels/build/papers/fine.band", import.meta.url),
  "cold-pressed": new URL("../../kernels/build/papers/cold-pressed.band", import.meta.url),
  "hot-pressed": new URL("../../kernels/build/papers/hot-pressed.band", import.meta.url),
  board: new URL("../../kernels/build/papers/board.band", import.meta.url),
  laid: new URL("../../kernels/build/papers/laid.band", import.meta.url),
  sugar: new URL("../../kernels/build/papers/sugar.band", import.meta.url),
  canvas: new URL("../../kernels/build/papers/canvas.band", import.meta.url),
};

let brought: Promise<void> | null = null;

/** Brings the papers to this thread. What cannot be brought is made when it is needed. */
export function bringPapers(): Promise<void> {
  brought ??= bring();
  return brought;
}

async function bring(): Promise<void> {
  const bands = new Map<BandName, Uint8Array>();
  takeBandsFrom((name) => bands.get(name) ?? null);
  await Promise.all(
    bandNames.map(async (name) => {
      const answer = await fetch(addresses[name]).catch(() => null);
      if (answer?.ok) bands.set(name, new Uint8Array(await answer.arrayBuffer()));
    }),
  );
}
