import { bringTheRest, later } from "./later";

const Part = (): null => null;

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test("while the page rests all parts are brought, one that fails holding up none, where nothing tells of idleness", async () => {
  const [broken, whole] = [
    jest.fn(() => Promise.reject(new Error("the server is gone"))),
    jest.fn(() => Promise.resolve(Part)),
  ];
  later("The broken part", broken);
  later("The whole part", whole);
  expect(typeof requestIdleCallback).toBe("undefined");
  bringTheRest();
  expect(whole).not.toHaveBeenCalled();
  await jest.advanceTimersByTimeAsync(60_000);
  expect(broken).toHaveBeenCalledTimes(1);
  expect(whole).toHaveBeenCalledTimes(1);
});

test("nothing is brought any more for a page that has been left", async () => {
  const bring = jest.fn(() => Promise.resolve(Part));
  later("A part", bring);
  bringTheRest()();
  await jest.advanceTimersByTimeAsync(600_000);
  expect(bring).not.toHaveBeenCalled();
});
