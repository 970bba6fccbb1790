/**
 * Which engine paints. It is raised whenever the same log gives other pixels than before, together with
 * the golden hashes. 0: pictures of the time before it was counted.
 *
 * Pixels in store are trusted whatever engine painted them. Only where a picture is painted anew from its
 * log does it matter, and that is said to the person.
 */
export const ENGINE_REVISION = 6;

/** What to say before a log of another engine is painted; null where it comes out as it was. */
export function otherEngine(revision: number): string | null {
  if (revision === ENGINE_REVISION) return null;
  const when = revision < ENGINE_REVISION ? "an earlier" : "a later";
  return `It was drawn with ${when} engine (revision ${revision}, this is ${ENGINE_REVISION}): strokes may look a little different when they are painted anew.`;
}
