import { testWork } from "../engine.testing";
import { inWords, towardLight, wrapped } from "./sun-pin";

const turn = (share: number): number => share * Math.PI;

it.each<[number, number, [number, number, number]]>([
  [0, 0, [1, 0, 0]],
  [turn(0.5), 0, [0, 0, 1]],
  [turn(1), 0, [-1, 0, 0]],
  [0, turn(0.5), [0, 1, 0]],
  [turn(-0.5), turn(0.25), [0, Math.SQRT1_2, -Math.SQRT1_2]],
])("azimuth %d, height %d points to %j", (azimuth, height, expected) => {
  const got = towardLight({ azimuth, height });
  expected.forEach((v, i) => expect(got[i]).toBeCloseTo(v, 12));
  expect(Math.hypot(...got)).toBeCloseTo(1, 12);
});

it.each<[number, number, string]>([
  [turn(1), turn(0.25), "from the left, 45° high"],
  [turn(0.5), turn(0.1), "from the front, 18° high"],
  [turn(-0.75), turn(0.25), "from the back left, 45° high"],
  [0, turn(-0.2), "from the right, 36° beneath"],
  [1, turn(0.5), "from straight above"],
])("azimuth %d, height %d is %s", (azimuth, height, words) => {
  expect(inWords({ azimuth, height })).toBe(words);
});

it("turns are brought within half a turn", () => {
  expect(wrapped(turn(1.5))).toBeCloseTo(turn(-0.5), 12);
  expect(wrapped(turn(-2.25))).toBeCloseTo(turn(-0.25), 12);
});

it("is set and taken away as one step each; a bad one is refused and changes nothing", () => {
  const { work } = testWork();
  const sun = { at: { x: 40, y: 30 }, azimuth: 2, height: 0.8 };
  work.apply({ do: "sun.set", sun });
  work.apply({ do: "sun.set", sun: null });
  expect(work.undo()).toBe("sun pin");
  expect(work.picture.structure.sun).toEqual(sun);
  expect(() => work.apply({ do: "sun.set", sun: { ...sun, height: 9 } })).toThrow(/sun\.height/);
  expect(work.picture.structure.sun).toEqual(sun);
  work.undo();
  expect(work.picture.structure.sun).toBeNull();
});
