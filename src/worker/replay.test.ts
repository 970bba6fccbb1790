import { parseCommand } from "../engine/command/commands";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine/engine.testing";
import { Replay } from "./replay";

const commands = [
  { do: "layer.add", id: "a", name: "A", above: null },
  stroke(line([20, 20], [200, 60]), { brush: "pen-sprung", size: 14 }),
  stroke(line([30, 120], [220, 100]), { brush: "pencil-2b", size: 9, seed: 4 }),
  { do: "layer.set", id: "a", opacity: 0.7 },
  stroke(line([120, 10], [100, 180], { steps: 40 }), { brush: "round-soft", size: 30 }),
].map((command) => parseCommand(command));

function paintedTo(count: number): string {
  const engine = testEngine();
  const work = engine.open(testHeader());
  for (const command of commands.slice(0, count)) work.apply(command);
  return fingerprint(engine, work);
}

const replayOf = (begunAgain?: () => void): Replay => {
  const engine = testEngine();
  return new Replay(engine, { header: testHeader(), commands }, {}, begunAgain);
};
const seen = (replay: Replay): string => fingerprint(replay.engine, replay.work);

it("ends as the picture is, however it was gone through", () => {
  const whole = paintedTo(commands.length);
  const inSteps = replayOf();
  for (let i = 0; i <= 37; i++) inSteps.seek(i / 37);
  expect(seen(inSteps)).toBe(whole);
  const atOnce = replayOf();
  atOnce.seek(1);
  expect(seen(atOnce)).toBe(whole);
});

it("shows between commands what was there between them", () => {
  const replay = replayOf();
  // A layer and its opacity take 30 samples each, the strokes 21, 21 and 41.
  expect(replay.length).toBe(30 + 21 + 21 + 30 + 41);
  replay.seek((30 + 21) / replay.length);
  expect(seen(replay)).toBe(paintedTo(2));
  replay.seek((30 + 21 + 21) / replay.length);
  expect(seen(replay)).toBe(paintedTo(3));
});

it("goes back and forth, also within a stroke, and is then the same", () => {
  const replay = replayOf();
  const steps = [0.4, 0.9, 0.35, 0.37, 0.36, 0.95, 0, 0.5, 0.93, 0.92, 1];
  for (const step of steps) replay.seek(step);
  expect(seen(replay)).toBe(paintedTo(commands.length));
  replay.seek((30 + 21) / replay.length);
  expect(seen(replay)).toBe(paintedTo(2));
});

it("grows a stroke sample by sample", () => {
  const replay = replayOf();
  const inked = (): number =>
    [...replay.work.picture.plane("a").values()].filter((tile) => !tile.colour).length;
  replay.seek((30 + 4) / replay.length);
  const begun = inked();
  replay.seek((30 + 18) / replay.length);
  expect(begun).toBeGreaterThan(0);
  expect(inked()).toBeGreaterThan(begun);
  expect(replay.work.place).toBe(1);
});

it("begins again where the history reaches back no further", () => {
  let again = 0;
  const replay = replayOf(() => again++);
  replay.work.history.limit = 0;
  replay.seek(1);
  replay.seek((30 + 21) / replay.length);
  expect(again).toBe(1);
  expect(seen(replay)).toBe(paintedTo(2));
});
