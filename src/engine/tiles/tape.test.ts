import { testEngine } from "../engine.testing";
import { wordsOf } from "./instructions";
import { checkInstruction, TAPE } from "./tape";

it("counts the words of an instruction, nine where it says so", () => {
  expect(wordsOf("fill")).toBe(5);
  expect(wordsOf("lightRelief")).toBe(16);
});

it("knows each instruction by a number of its own", () => {
  const numbers = Object.values(TAPE);
  expect(numbers).toEqual(numbers.map((_, i) => i + 1));
});

it("is refused where it is no instruction, or not all of one", () => {
  const { workforce } = testEngine();
  workforce.beginJob();
  expect(() => workforce.write()).toThrow("there are instructions 1 to");
  expect(() => workforce.write(999, 1, 2)).toThrow("none is 999");
  expect(() => workforce.write(0)).toThrow("none is 0");
  expect(() => workforce.write(TAPE.fill, 1, 2, 3, 4)).toThrow(
    "“fill” takes 5 numbers (dst r g b a), and 4 were given",
  );
  expect(() => checkInstruction([TAPE.fill, 1, 2, 3, 4, 5])).not.toThrow();
});

it("stops at a number that is no instruction instead of reading on", () => {
  const { workforce, store } = testEngine();
  const at = store.heap.allocate(64);
  store.heap.i32.set([TAPE.fill + 900, 0], at >> 2);
  expect(() => store.kernels.runTape(at, workforce.scratch)).toThrow(WebAssembly.RuntimeError);
});
