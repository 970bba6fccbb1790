import { limits } from "../file/limits";
import { isTooDeep } from "../file/json";
import { type Header, headerSchema } from "../picture/header";
import { firstFault, Refusal } from "../picture/refusal";
import { scaledGuide } from "../guides/guide";
import { scaledStudies } from "./studies";
import { MOST_LAYER_RADIUS } from "../adjust/adjustment";
import { scaledAdjust, scaledAdjustment } from "./adjust";
import { scaledPaint } from "../gradient/gradient";
import { type Paper } from "../paper/paper";
import { MOST_CONTOUR } from "../picture/picture";
import { isOfRegions, scaledRegions } from "./scaled-regions";
import { scaledStencil } from "./stencils";
import { scaledTransform } from "./transform";
import { type Command, type CommandInput, parseCommand } from "./commands";

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

const scaledSamples = (command: Extract<Command, { do: "stroke" }>, by: number): Command => ({
  ...command,
  size: Math.min(2000, Math.max(0.5, command.size * by)),
  scale: command.scale * by,
  samples: command.samples.map(([t, x, y, ...rest]) => [t, x * by, y * by, ...rest]),
});

const scaledPaper = (paper: Paper, by: number): Paper => ({
  ...paper,
  scale: Math.min(16, Math.max(0.25, paper.scale * by)),
});

/** Fills and outlines of layers grow with the sheet. */
function scaledLook<T extends Extract<Command, { do: "layer.add" | "layer.set" }>>(
  command: T,
  by: number,
): T {
  const paint = command.paint && scaledPaint(command.paint, by);
  const tone = command.tone && scaledAdjustment(command.tone, by, MOST_LAYER_RADIUS);
  const made = {
    ...command,
    ...(command.paint === undefined ? {} : { paint }),
    ...(command.tone === undefined ? {} : { tone }),
  };
  if (made.do !== "layer.set" || !made.contour) return made;
  const width = Math.min(MOST_CONTOUR, Math.max(0.5, made.contour.width * by));
  return { ...made, contour: { ...made.contour, width } };
}

/**
 * The same work on a sheet `by` times as large: strokes are drawn anew, not enlarged.
 * @throws Refusal where the log holds brought-in pixels or the sheet would be too large
 */
export function scaleWorkLog({ header, commands }: WorkLog, by: number): WorkLog {
  const scaleCommand = (command: Command): Command => {
    if (command.do === "stroke") return scaledSamples(command, by);
    if (isOfRegions(command)) return scaledRegions(command, by);
    if (command.do === "layer.add" || command.do === "layer.set") return scaledLook(command, by);
    if (command.do === "gradient") return { ...command, paint: scaledPaint(command.paint, by) };
    if (command.do === "edge.band")
      return {
        ...command,
        width: Math.min(128, Math.max(1, command.width * by)),
        soft: Math.min(64, command.soft * by),
      };
    if (command.do === "adjust") return scaledAdjust(command, by);
    if (command.do === "guides.set")
      return { ...command, guides: command.guides.map((guide) => scaledGuide(guide, by)) };
    if (command.do === "sun.set" && command.sun) {
      const { x, y } = command.sun.at;
      return { ...command, sun: { ...command.sun, at: { x: x * by, y: y * by } } };
    }
    if (command.do === "studies.set") return scaledStudies(command, by);
    if (command.do === "transform") return scaledTransform(command, by);
    if (command.do === "stencil.set") return scaledStencil(command, by);
    if (command.do === "place" || (command.do === "stencil.add" && command.from.kind === "picture"))
      throw new Refusal(
        "this picture holds brought-in pixels, which cannot be drawn anew at another size",
      );
    if ((command.do === "picture.set" || command.do === "texture") && command.paper)
      return { ...command, paper: scaledPaper(command.paper, by) };
    if (command.do === "together")
      return {
        ...command,
        steps: command.steps.map((step) => scaleCommand(step)) as typeof command.steps,
      };
    return command;
  };
  const scaled = {
    ...header,
    width: Math.round(header.width * by),
    height: Math.round(header.height * by),
    ppi: Math.min(9600, header.ppi * by),
    paper: scaledPaper(header.paper, by),
  };
  return { header: parseHeader(scaled), commands: commands.map(scaleCommand) };
}
