import { settle, tell, useNotices } from "./notices";

const texts = (): string[] => useNotices.getState().notices.map(({ text }) => text);
const act = { label: "Do it", act: () => undefined };

beforeEach(() => useNotices.setState({ notices: [] }));

it("shows only the newest of several about the same thing, in its place", () => {
  tell("The disk is full. 1 step waits.", act, "storing");
  tell("Something else");
  tell("The disk is full. 2 steps wait.", act, "storing");
  expect(texts()).toEqual(["Something else", "The disk is full. 2 steps wait."]);
  settle("storing");
  expect(texts()).toEqual(["Something else"]);
});

it("keeps a notice with an action when later ones come", () => {
  tell("Not stored", act);
  for (let i = 0; i < 8; i++) tell(`Note ${i}`);
  expect(texts()[0]).toBe("Not stored");
  expect(texts()).toHaveLength(3);
  expect(texts().at(-1)).toBe("Note 7");
});
