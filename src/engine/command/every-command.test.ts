import { fingerprint, testEngine, testHeader } from "../engine.testing";
import { type CommandInput } from "./commands";
import { before, everySample } from "./every-command.testing";
import { type Work } from "./work";
import { readWorkLog, scaleWorkLog, writeWorkLog } from "./work-log";

const engine = testEngine();

function painted(commands: readonly CommandInput[]): Work {
  const work = engine.open(testHeader({ ground: "#f4efe6" }));
  for (const command of commands) work.apply(command);
  return work;
}

describe("every command", () => {
  it.each(everySample)("%s is undone, done again and repeated from its log", (_name, commands) => {
    // A brush that is brought is no step of its own: it goes with the stroke after it.
    const isOwnStep = ({ do: name }: CommandInput): boolean => name !== "brush.bring";
    // Time goes with what it followed.
    const together = commands.at(-1)?.do === "time" ? 2 : 1;
    const first = commands.slice(0, -together);
    const work = painted([...before, ...first.filter(isOwnStep)]);
    const was = fingerprint(engine, work);
    for (const command of first) if (!isOwnStep(command)) work.apply(command);
    for (const command of commands.slice(-together)) work.apply(command);
    const is = fingerprint(engine, work);
    expect(is).not.toBe(was);
    work.undo();
    expect(fingerprint(engine, work)).toBe(was);
    work.redo();
    expect(fingerprint(engine, work)).toBe(is);
    const text = writeWorkLog(work.picture.header, [...before, ...commands]);
    const again = painted(readWorkLog(text).commands);
    expect(fingerprint(engine, again)).toBe(is);
    again.release();
    work.release();
  });

  it.each(everySample.filter(([, commands]) => !JSON.stringify(commands).includes('"png"')))(
    "%s is drawn anew at twice the size",
    (_name, commands) => {
      const log = { header: testHeader(), commands: [] };
      const text = writeWorkLog(log.header, [...before, ...commands]);
      const scaled = scaleWorkLog(readWorkLog(text), 2);
      const large = engine.open(scaled.header);
      for (const command of scaled.commands) large.apply(command);
      const small = painted([...before, ...commands]);
      const { width, height } = small.picture;
      expect([large.picture.width, large.picture.height]).toEqual([width * 2, height * 2]);
      // The same layers in the same order; paint lies in about as much of the sheet.
      const layers = (of: Work): string[] => of.picture.structure.layers.map(({ id }) => id);
      expect(layers(large)).toEqual(layers(small));
      for (const id of layers(small)) {
        if (small.picture.layer(id).kind !== "paint") continue;
        expect(large.picture.plane(id).size > 0).toBe(small.picture.plane(id).size > 0);
      }
      large.release();
      small.release();
    },
  );
});
