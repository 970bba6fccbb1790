import { line, stroke, testWork } from "../engine.testing";
import { linesOf } from "./line-set";
import { shapeOf } from "./shape";
import { signatureOf, signatureOn } from "./signature";

function written() {
  const made = testWork({ width: 256, height: 192 });
  made.work.apply({ do: "layer.add", id: "l", name: "L", above: "a", kind: "lines" });
  made.work.apply(stroke(line([60, 50], [120, 80]), { layer: "l", size: 4 }));
  made.work.apply(stroke(line([90, 40], [90, 90]), { layer: "l", size: 4, seed: 2 }));
  return made;
}

test("a signature is kept and stands in the lower right corner of any sheet, in another colour", () => {
  const { engine, work } = written();
  const kept = signatureOf(linesOf(engine.store, work.picture, "l").lines);
  const { engine: other, work: page } = testWork({ width: 2000, height: 1000 });
  page.apply({ do: "layer.add", id: "s", name: "S", above: "a", kind: "lines" });
  page.apply({ do: "line.add", layer: "s", lines: signatureOn(kept, page.picture, "#aa3300") });
  const { lines } = linesOf(other.store, page.picture, "s");
  expect(lines.map(({ colour }) => colour)).toEqual(["#aa3300", "#aa3300"]);
  const boxes = lines.map((one) => shapeOf(one).box);
  const [right, bottom] = [
    Math.max(...boxes.map((box) => box.right)),
    Math.max(...boxes.map((box) => box.bottom)),
  ];
  expect(right).toBeCloseTo(1970, 0);
  expect(bottom).toBeCloseTo(970, 0);
  const high = bottom - Math.min(...boxes.map((box) => box.top));
  // As high as its share of the sheet allows: it is higher than wide for this one.
  expect(high).toBeGreaterThan(100);
  expect(high).toBeLessThan(142);
  work.release();
  page.release();
});

test("what is none is refused in words", () => {
  const { engine, work } = written();
  const { lines } = linesOf(engine.store, work.picture, "l");
  expect(() => signatureOf([])).toThrow("holds no line");
  expect(() => signatureOf(new Array(401).fill(lines[0]))).toThrow("at most 400");
  expect(() => signatureOn("AAAA", work.picture, "#000000")).toThrow();
  work.release();
});
