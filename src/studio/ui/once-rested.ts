/** The hand has let go of what it changes after this long, ms. */
export const SLIDE_PAUSE = 350;

/** What moves a slider that has the focus: with these the hand goes on changing it. */
const SLIDING_KEYS = [
  "ArrowLeft",
  "ArrowRight",
  "ArrowUp",
  "ArrowDown",
  "Home",
  "End",
  "PageUp",
  "PageDown",
];

let resting: { own: object; act: () => void; timer: ReturnType<typeof setTimeout> } | null = null;

/**
 * Does something once the hand rests, or at once when it turns to anything else: what is pressed
 * next finds it done, in this order. `own` is what the hand is changing, the control itself where
 * there is one. Asked for again with the same `own`, only the last is done.
 */
export function onceRested(own: object, act: () => void): void {
  if (resting?.own === own) clearTimeout(resting.timer);
  else actNow();
  resting = { own, act, timer: setTimeout(actNow, SLIDE_PAUSE) };
  listen();
}

/** What was to be done about `own` is not done any more. */
export function forgetRested(own: object): void {
  if (resting?.own !== own) return;
  clearTimeout(resting.timer);
  resting = null;
}

function actNow(): void {
  if (!resting) return;
  const { act, timer } = resting;
  clearTimeout(timer);
  resting = null;
  act();
}

const isOn = ({ target }: Event): boolean => target === resting?.own;

function turnedByKey(event: KeyboardEvent): void {
  if (!isOn(event) || !SLIDING_KEYS.includes(event.key)) actNow();
}

function turnedByPointer(event: Event): void {
  if (!isOn(event)) actNow();
}

/** Listening twice with the same function is listening once. */
function listen(): void {
  window.addEventListener("pointerdown", turnedByPointer, { capture: true });
  window.addEventListener("keydown", turnedByKey, { capture: true });
  window.addEventListener("pagehide", actNow);
}
