import * as Comlink from "comlink";
import { endStore, store } from "./store-link";

let stop: (() => void) | null = null;

/** Whether a picture was being saved, which is over now. */
export function stopSaving(): boolean {
  const was = stop !== null;
  stop?.();
  return was;
}

/**
 * Makes a whole picture's file in a thread of its own, from the store: whoever paints goes on meanwhile.
 * @returns null where it was stopped
 * @throws Error where it cannot be made there
 */
export async function wholePictureApart(
  id: string,
  tell: (label: string, share: number) => void,
): Promise<Uint8Array<ArrayBuffer> | null> {
  const stopped = new Promise<null>((resolve) => {
    stop = () => resolve(null);
  });
  try {
    const answer = await Promise.race([store().save(id, Comlink.proxy(tell)), stopped]);
    if (!answer) return null;
    if (!answer.ok) throw new Error(answer.why);
    return answer.value;
  } finally {
    stop = null;
    // Its engine holds the picture a second time.
    endStore();
  }
}
