import { changedKeys, firstKeys, isAssignable, keyName, readKeys, withKey } from "./key-map";

const codesOf = (map: object): string[] => Object.values(map) as string[];

test("no two actions begin on one key", () => {
  expect(new Set(codesOf(firstKeys)).size).toBe(codesOf(firstKeys).length);
});

test("an action that takes another's key gives its own in exchange", () => {
  const map = withKey(firstKeys, "lift", "KeyF");
  expect(map.lift).toBe("KeyF");
  expect(map.blend).toBe("KeyD");
  expect(new Set(codesOf(map)).size).toBe(codesOf(map).length);
});

test("what was chosen comes back from what is kept", () => {
  const map = withKey(withKey(firstKeys, "pick", "Backquote"), "paint", "KeyC");
  expect(changedKeys(map)).toEqual({ pick: "Backquote", paint: "KeyC" });
  expect(readKeys(changedKeys(map))).toEqual(map);
  expect(changedKeys(firstKeys)).toEqual({});
});

test("an exchange of two keys is read back as it was made", () => {
  const map = withKey(firstKeys, "lift", "KeyF");
  expect(readKeys(changedKeys(map))).toEqual(map);
});

test("kept keys that mean nothing are passed over", () => {
  expect(readKeys({ fly: "KeyA", paint: "F5", lift: "" })).toEqual(firstKeys);
});

test.each([
  ["KeyA", true],
  ["Digit4", true],
  ["Semicolon", true],
  ["Space", false],
  ["Tab", false],
  ["ShiftLeft", false],
  ["Escape", false],
])("%s may be given away: %s", (code, may) => {
  expect(isAssignable(code)).toBe(may);
});

test.each([
  ["KeyQ", "Q"],
  ["Digit3", "3"],
  ["Numpad3", "num 3"],
  ["BracketLeft", "["],
])("%s is written %s", (code, name) => {
  expect(keyName(code)).toBe(name);
});
