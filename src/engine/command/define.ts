import { type z } from "zod";
import { type Applying } from "./command";

/** Data that begins with the command's name. */
type CommandSchema = z.ZodObject<{ do: z.ZodLiteral<string> }>;

/** All that there is to know of one kind of command. */
export type CommandDefinition<Schema extends CommandSchema> = {
  /** The command as data: what a log may hold. */
  schema: Schema;
  /** Carries it out. Returns its label for the history. @throws Refusal where it cannot be done */
  apply(applying: Applying, command: z.infer<Schema>): string;
  /**
   * The same command for a sheet `by` times as large; left out where nothing of it has a size.
   * @throws Refusal where it cannot be drawn at another size
   */
  scaled?(command: z.infer<Schema>, by: number): z.infer<Schema>;
  /** No step of its own to the person: undone together with what came after it. */
  silent?: true;
  /** No step of its own either: undone together with what it followed. */
  follows?: true;
};

/** Defines a command, in the file of what it is about; `commands.ts` lists it. */
export const defineCommand = <Schema extends CommandSchema>(
  definition: CommandDefinition<Schema>,
): CommandDefinition<Schema> => definition;
