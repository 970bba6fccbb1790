import { fingerprint, line, stroke, testWork } from "../engine.testing";
import { type Command } from "./commands";

const blur = (radius: number) => ({
  do: "adjust" as const,
  layers: ["a"],
  adjustment: { kind: "blur" as const, radius },
});

function painted() {
  const logged: Command[] = [];
  const { engine, work } = testWork();
  work.events.logged = (command) => logged.push(command);
  work.apply(stroke(line([20, 30], [200, 150]), { size: 24, colour: "#a03020" }));
  work.apply(stroke(line([20, 150], [200, 30]), { size: 24, colour: "#2030a0" }));
  logged.length = 0;
  return { engine, work, logged, print: () => fingerprint(engine, work) };
}

describe("a command that is tried out", () => {
  it("looks as it would if it were done, is noted nowhere, and leaves no trace", () => {
    const { engine, work, logged, print } = painted();
    const before = print();
    const { residentBytes } = engine.store;
    work.apply(blur(9));
    const done = print();
    work.undo();
    work.tryOut(blur(3));
    expect(print()).not.toBe(done);
    work.tryOut(blur(9));
    expect(print()).toBe(done);
    expect(work.isTrying).toBe(true);
    expect(work.place).toBe(3);
    expect(work.history.redoLabel).toBe("blur");
    work.stopTrying();
    expect(print()).toBe(before);
    expect(logged).toHaveLength(1);
    expect(work.redo()).toBe("blur");
    expect(print()).toBe(done);
    work.undo();
    work.history.forgetAll();
    expect(engine.store.residentBytes).toBeLessThanOrEqual(residentBytes);
  });

  it("is kept as it stands when the same command is done, as one step", () => {
    const { work, logged, print } = painted();
    const before = print();
    work.tryOut(blur(9));
    const tried = print();
    work.apply(blur(9));
    expect(work.isTrying).toBe(false);
    expect(print()).toBe(tried);
    expect(logged.map((command) => command.do)).toEqual(["adjust"]);
    expect(work.undo()).toBe("blur");
    expect(print()).toBe(before);
  });

  it.each([
    [
      "another command",
      (work: ReturnType<typeof painted>["work"]) =>
        work.apply({ do: "layer.set", id: "a", name: "A" }),
    ],
    ["undo", (work: ReturnType<typeof painted>["work"]) => (work.undo(), work.redo())],
    [
      "a look back",
      (work: ReturnType<typeof painted>["work"]) => work.lookBack(1, () => undefined),
    ],
  ])("is taken back by %s", (_name, act) => {
    const { work, print } = painted();
    const before = print();
    work.tryOut(blur(9));
    act(work);
    expect(work.isTrying).toBe(false);
    expect(print()).toBe(before);
  });

  it("that cannot be done is refused, and the one before it is gone", () => {
    const { work, print } = painted();
    const before = print();
    work.tryOut(blur(9));
    expect(() => work.tryOut({ ...blur(2), layers: ["nobody"] })).toThrow(/no layer/);
    expect(print()).toBe(before);
    expect(work.isTrying).toBe(false);
    expect(() => work.tryOut({ do: "adjust" })).toThrow();
  });
});
