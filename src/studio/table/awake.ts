/** How long after the hand or long work was last seen the screen may go dark again, ms. */
const IDLE = 120_000;

let lock: WakeLockSentinel | null = null;
let isAsking = false;
let timer: ReturnType<typeof setTimeout> | undefined;

/** Somebody draws, looks at a replay, or waits for a file: the screen stays on for a while, where the browser can. */
export function stayAwake(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void lock?.release(), IDLE);
  if (lock || isAsking || document.visibilityState === "hidden" || !("wakeLock" in navigator))
    return;
  isAsking = true;
  void navigator.wakeLock
    .request("screen")
    .then((got) => {
      lock = got;
      // The browser takes it back where the page is hidden: it is asked for again at the next stroke.
      got.addEventListener("release", () => (lock = null));
    })
    // A battery that runs low is a reason to say no.
    .catch(() => undefined)
    .finally(() => (isAsking = false));
}

/** Nobody is at the table. */
export function mayRest(): void {
  clearTimeout(timer);
  void lock?.release();
}
