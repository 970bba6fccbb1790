import { line, stroke, testWork } from "../engine.testing";
import { tileKey } from "../tiles/layout";
import { RunningWash } from "./running-wash";

it("shows every part of a wide wash in turn, however many tiles it has", () => {
  const { engine, work } = testWork({ width: 1280, height: 960 });
  for (let y = 100; y < 900; y += 160)
    work.apply(
      stroke(line([60, y], [1220, y], { pressure: () => 1 }), { brush: "wash-mop", size: 240 }),
    );
  const running = new RunningWash(engine.bench, work.picture, "a");
  const seen = new Set<number>();
  for (let i = 0; i < 5; i++) {
    running.step();
    for (const key of running.show()) seen.add(key);
  }
  for (let row = 1; row < 14; row++)
    for (let column = 1; column < 19; column++) expect(seen).toContain(tileKey(column, row));
  for (const { after } of running.end()) engine.store.release(after);
  work.release();
});
