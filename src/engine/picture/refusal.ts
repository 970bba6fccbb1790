import { type z } from "zod";

/** Something asked for that cannot be done; nothing was changed. The message is for the person. */
export class Refusal extends Error {
  override name = "Refusal";
}

/** Work that the person stopped; nothing was changed. */
export class Stopped extends Refusal {
  override name = "Stopped";
}

/** The first thing wrong with data that did not parse: where, and what was expected. */
export function firstFault(error: z.ZodError): string {
  const issue = error.issues[0];
  if (!issue) return "not understood";
  const where = issue.path.map(String).join(".");
  return where ? `${where}: ${issue.message}` : issue.message;
}
