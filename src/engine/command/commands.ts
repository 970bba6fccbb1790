import { z } from "zod";
import { fixPowderCommand } from "../dry/fixative";
import { dryPaintCommand } from "../oil/dry-now";
import { cleanSlabCommand } from "../slab/clean";
import { lineCommands } from "../lines/commands";
import { washCommands } from "../water/wash-set";
import { timeCommand } from "../time/time";
import { sceneCommands } from "../scene/commands";
import { strewCommands } from "../strew/commands";
import { sheetCommands } from "../sheet/commands";
import { squeezeCommand } from "../slab/squeeze";
import { firstFault, Refusal } from "../picture/refusal";
import { adjustCommand } from "./adjust";
import { brushCommand } from "./brush";
import { type Applying } from "./command";
import { type CommandDefinition } from "./define";
import { fillCommands } from "./fill";
import { gradientCommand } from "./gradient";
import { guidesCommand } from "./guides";
import { layerCommands } from "./layers";
import { maskCommands } from "./masks";
import { mergeCommand } from "./merge";
import { pictureCommand } from "./picture";
import { placeCommand } from "./place";
import { replaceColourCommand } from "./replace-colour";
import { selectCommands } from "./select";
import { shadingCommands } from "./shading";
import { panelCommands } from "../panels/commands";
import { rayCommands } from "../lines/ray-commands";
import { repeatCommand } from "../lines/repeat";
import { traceCommand } from "../lines/trace/command";
import { stencilCommands } from "./stencils";
import { strokeCommand } from "./stroke";
import { studiesCommand } from "./studies";
import { tubesCommand } from "../pigment/tubes-at-hand";
import { sunCommand } from "./sun";
import { textureCommand } from "./texture";
import { transformCommand } from "./transform";
import { wellsCommand } from "./wells";

/** Every command: a new one is a line here. */
const definitions = [
  ...layerCommands,
  mergeCommand,
  ...maskCommands,
  adjustCommand,
  gradientCommand,
  replaceColourCommand,
  fixPowderCommand,
  dryPaintCommand,
  timeCommand,
  ...washCommands,
  ...lineCommands,
  ...sheetCommands,
  ...sceneCommands,
  ...strewCommands,
  squeezeCommand,
  cleanSlabCommand,
  ...shadingCommands,
  textureCommand,
  pictureCommand,
  brushCommand,
  guidesCommand,
  sunCommand,
  studiesCommand,
  ...panelCommands,
  ...rayCommands,
  traceCommand,
  repeatCommand,
  wellsCommand,
  tubesCommand,
  placeCommand,
  transformCommand,
  strokeCommand,
  ...fillCommands,
  ...stencilCommands,
  ...selectCommands,
] as const;

type SchemasOf<List extends readonly { schema: unknown }[]> = {
  -readonly [I in keyof List]: List[I]["schema"];
};

const single = z.discriminatedUnion(
  "do",
  definitions.map(({ schema }) => schema) as unknown as SchemasOf<typeof definitions>,
);

/** Several commands as one step of the history. */
const together = z.strictObject({
  do: z.literal("together"),
  label: z.string().min(1).max(80),
  steps: z.array(single).min(1).max(5000),
});

/** Every command there is. */
export const commandSchema = z.discriminatedUnion("do", [...single.options, together]);

type Single = z.infer<typeof single>;
export type Command = z.infer<typeof commandSchema>;
/** A command as it may be written, defaults left out. */
export type CommandInput = z.input<typeof commandSchema>;

/** What is known of a kind of command, for any command of that kind. */
type Definition = Pick<CommandDefinition<typeof strokeCommand.schema>, "silent" | "follows"> & {
  apply(applying: Applying, command: Single): string;
  scaled?(command: Single, by: number): Single;
};

const byName = new Map<string, Definition>(
  definitions.map((definition) => [
    definition.schema.shape.do.value,
    // Each gets commands of its own name alone.
    definition as unknown as Definition,
  ]),
);

/** The definition of a command's kind: every name that the schema lets through has one. */
const definitionOf = (command: Single): Definition => byName.get(command.do) as Definition;

/**
 * A command from data of any kind.
 * @throws Refusal that names the field at fault
 */
export function parseCommand(data: unknown): Command {
  const parsed = commandSchema.safeParse(data);
  if (parsed.success) return parsed.data;
  throw new Refusal(firstFault(parsed.error));
}

/** Carries out a command. Returns its label for the history. */
export function applyCommand(applying: Applying, command: Command): string {
  if (command.do !== "together") return definitionOf(command).apply(applying, command);
  for (const step of command.steps) definitionOf(step).apply(applying, step);
  return command.label;
}

/**
 * The same command for a sheet `by` times as large.
 * @throws Refusal where it cannot be drawn at another size
 */
export function scaledCommand(command: Command, by: number): Command {
  if (command.do !== "together") return definitionOf(command).scaled?.(command, by) ?? command;
  const steps = command.steps.map((step) => definitionOf(step).scaled?.(step, by) ?? step);
  return { ...command, steps };
}

/**
 * Whether a command is no step of its own to the person: undo takes it back together with
 * what came after it.
 */
export const isSilent = (command: Command): boolean =>
  command.do !== "together" && definitionOf(command).silent === true;

/** Whether a command is undone together with what it followed. */
export const follows = (command: Command): boolean =>
  command.do !== "together" && definitionOf(command).follows === true;
