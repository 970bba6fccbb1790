import { filmSize, FILM_RATE, framesOf } from "./film";

it("a film's sides are even and keep the picture's proportion", () => {
  expect(filmSize({ width: 6000, height: 4500 }, 1280)).toEqual({ width: 1280, height: 960 });
  expect(filmSize({ width: 2400, height: 1651 }, 1280)).toEqual({ width: 1280, height: 880 });
  expect(filmSize({ width: 301, height: 203 }, 1280)).toEqual({ width: 302, height: 204 });
  expect(filmSize({ width: 16384, height: 1 }, 1280)).toEqual({ width: 1280, height: 2 });
});

it("a film is as long as was asked, moves evenly and holds its end", () => {
  const frames = framesOf(20, FILM_RATE);
  expect(frames).toHaveLength(20 * FILM_RATE);
  expect(frames.at(-1)).toBe(1);
  const steps = frames.slice(1).map((share, i) => share - (frames[i] as number));
  expect(Math.min(...steps)).toBe(0);
  const moving = steps.filter((step) => step > 0);
  expect(Math.max(...moving) / Math.min(...moving)).toBeCloseTo(1, 6);
  expect(frames.filter((share) => share === 1)).toHaveLength(1.5 * FILM_RATE + 1);
});

it("the shortest film has a frame", () => {
  expect(framesOf(0.01, FILM_RATE)).toEqual([1]);
});
