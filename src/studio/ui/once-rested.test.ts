import { forgetRested, onceRested, SLIDE_PAUSE } from "./once-rested";

const page = new EventTarget();
Object.assign(globalThis, { window: page });

const slider = { name: "slider" };
const done: string[] = [];
const change = (own: object, what: string): void => onceRested(own, () => done.push(what));

function send(type: string, target: object, key?: string): void {
  const event = new Event(type);
  Object.defineProperty(event, "target", { value: target });
  Object.defineProperty(event, "key", { value: key });
  page.dispatchEvent(event);
}

beforeEach(() => {
  jest.useFakeTimers();
  done.length = 0;
});
afterEach(() => {
  jest.runAllTimers();
  jest.useRealTimers();
});

test("what a hand changes is done once, when it rests", () => {
  change(slider, "first");
  jest.advanceTimersByTime(SLIDE_PAUSE - 1);
  change(slider, "second");
  jest.advanceTimersByTime(SLIDE_PAUSE - 1);
  expect(done).toEqual([]);
  jest.advanceTimersByTime(1);
  expect(done).toEqual(["second"]);
});

test.each([
  ["a press elsewhere", () => send("pointerdown", { name: "button" })],
  ["a key elsewhere", () => send("keydown", { name: "button" }, "ArrowLeft")],
  ["a key that is not the slider's", () => send("keydown", slider, "z")],
  ["the page going away", () => send("pagehide", page)],
  ["another change", () => change({ name: "other slider" }, "other")],
])("%s finds it done, and it is done no second time", (_name, turn) => {
  change(slider, "slid");
  turn();
  expect(done).toEqual(["slid"]);
  jest.runAllTimers();
  expect(done.filter((what) => what === "slid")).toHaveLength(1);
});

test("the hand goes on with the slider's own keys, and where it presses the slider again", () => {
  change(slider, "slid");
  send("keydown", slider, "ArrowLeft");
  send("pointerdown", slider);
  expect(done).toEqual([]);
});

test("what has been forgotten is not done; what something else waits for is", () => {
  change(slider, "slid");
  forgetRested(slider);
  jest.runAllTimers();
  expect(done).toEqual([]);
  change(slider, "slid again");
  forgetRested({ name: "other slider" });
  jest.runAllTimers();
  expect(done).toEqual(["slid again"]);
});
