import { Refusal } from "../../engine/picture/refusal";

/** What browsers throw, by its name: their own texts are for programmers. */
const browsers: Readonly<Record<string, string>> = {
  QuotaExceededError: "there is no room left on the disk",
  InvalidStateError: "the browser’s storage stopped answering",
  UnknownError: "the browser’s storage stopped answering",
  TransactionInactiveError: "the browser’s storage stopped answering",
  AbortError: "it was stopped",
  NotAllowedError: "the browser did not allow it",
  SecurityError: "the browser does not allow it here",
  VersionError: "a newer Pampas is open in another tab",
  NotFoundError: "it is not there any more",
  NotReadableError: "the file can no longer be read",
  EncodingError: "it is broken or cut off",
  DataCloneError: "it could not be handed over",
};

/** A fault with words for the illustrator. */
export class Said extends Error {
  override name = "Said";
}

const isSaid = (error: unknown): error is Error =>
  error instanceof Refusal || error instanceof Said;

/** Words of the engine, which come from its thread as a plain error of that name. */
const crossed = (error: unknown): error is Error =>
  error instanceof Error && (error.name === "Refusal" || error.name === "Stopped");

/** Why something failed, in words that follow a colon: never a browser's or a program's own. */
export function whyOf(error: unknown): string {
  if (isSaid(error) || crossed(error)) return error.message.replace(/\.$/, "");
  const known = error instanceof Error || error instanceof DOMException ? error.name : "";
  if (known in browsers) return browsers[known] as string;
  // Nobody foresaw it: the console has it for whoever looks.
  console.error(error);
  if (known === "TypeError" && /fetch|network/i.test((error as Error).message))
    return "the server could not be reached";
  if (known === "RangeError") return "there is not enough memory";
  return "something went wrong that nobody foresaw";
}
