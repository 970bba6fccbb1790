import { limits } from "../file/limits";
import { isTooDeep } from "../file/json";
import { type Header, headerSchema } from "../picture/header";
import { firstFault, Refusal } from "../picture/refusal";
import { type Command, type CommandInput, parseCommand, scaledCommand } from "./commands";
import { scaledPaper } from "../paper/paper";

/** A picture's header and the commands that made it. */
export type WorkLog = { header: Header; commands: Command[] };

function parseLine(line: string): unknown {
  if (isTooDeep(line)) throw new Refusal("its parts lie too deep in each other");
  try {
    return JSON.parse(line);
  } catch {
    throw new Refusal("this is not JSON");
  }
}

function checked<T>(number: number, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof Refusal) throw new Refusal(`line ${number}: ${error.message}`);
    throw error;
  }
}

function parseHeader(data: unknown): Header {
  const parsed = headerSchema.safeParse(data);
  if (parsed.success) return parsed.data;
  throw new Refusal(firstFault(parsed.error));
}

type Entry = { text: string; number: number };

/** Entries of a log: a line that does not open an object continues the one before it. */
function entriesOf(text: string): Entry[] {
  const entries: Entry[] = [];
  text.split("\n").forEach((line, i) => {
    const last = entries.at(-1);
    if (line.trim() === "") return;
    if (last && !line.trimStart().startsWith("{")) last.text += line;
    else entries.push({ text: line, number: i + 1 });
  });
  return entries;
}

/**
 * Reads a work log: JSON Lines, the picture first, then a command a line (docs/work-log.md).
 * Empty lines are passed over, and a long command may go on over several lines.
 * @throws Refusal that names the line and the field
 */
export function readWorkLog(text: string): WorkLog {
  const entries = entriesOf(text);
  if (entries.length > limits.logLines)
    throw new Refusal(`a work log has at most ${limits.logLines} lines`);
  const [first, ...rest] = entries;
  if (!first) throw new Refusal("the work log is empty");
  const header = checked(first.number, () => parseHeader(parseLine(first.text)));
  const commands = rest.map(({ text: line, number }) =>
    checked(number, () => parseCommand(parseLine(line))),
  );
  return { header, commands };
}

/** Writes a work log. */
export function writeWorkLog(
  header: Header,
  commands: readonly (Command | CommandInput)[],
): string {
  return [header, ...commands].map((line) => JSON.stringify(line)).join("\n") + "\n";
}

/**
 * The same work on a sheet `by` times as large: strokes are drawn anew, not enlarged.
 * @throws Refusal where the log holds brought-in pixels or the sheet would be too large
 */
export function scaleWorkLog({ header, commands }: WorkLog, by: number): WorkLog {
  const scaled = {
    ...header,
    width: Math.round(header.width * by),
    height: Math.round(header.height * by),
    ppi: Math.min(9600, header.ppi * by),
    paper: scaledPaper(header.paper, by),
  };
  return {
    header: parseHeader(scaled),
    commands: commands.map((command) => scaledCommand(command, by)),
  };
}
