import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { testEngine, testHeader } from "../engine.testing";
import { before, everySample } from "./every-command.testing";
import { readWorkLog, writeWorkLog } from "./work-log";

/**
 * Work logs as they were written in the months that there were, frozen: a file is written once
 * (FREEZE=write) and never again. Each must be read for ever, with all that it says.
 */
const fixture = (month: string): string => join(__dirname, "fixtures", `logs-${month}.json`);
const months = ["2026-11"];

if (process.env.FREEZE === "write")
  for (const month of months) {
    if (existsSync(fixture(month))) continue;
    const header = testHeader({ ground: "#f4efe6", title: "Thermos" });
    const logs = everySample.map(([name, commands]) => [
      name,
      writeWorkLog(header, [...before, ...commands]),
    ]);
    writeFileSync(fixture(month), JSON.stringify(logs));
  }

const engine = testEngine();

const frozen = months.flatMap((month) =>
  (JSON.parse(readFileSync(fixture(month), "utf8")) as [string, string][]).map(
    ([name, text]): [string, string, string] => [month, name, text],
  ),
);

describe("frozen logs", () => {
  it.each(frozen)(
    "of %s with %s are read with all that they say, and painted",
    (_month, _name, text) => {
      const lines = text
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line) as object);
      const { header, commands } = readWorkLog(text);
      expect([header, ...commands]).toMatchObject(lines);
      const work = engine.open(header);
      for (const command of commands) work.apply(command);
      work.release();
    },
  );
});
