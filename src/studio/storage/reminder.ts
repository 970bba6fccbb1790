import { type PictureRecord, type Settings } from "../../storage/records";

const DAY = 86_400_000;
/** For how long “Later” is. */
export const LATER = 3 * DAY;

/** How many pictures would be lost with this browser, and for how many days there was no copy of them. */
export type Due = { pictures: number; days: number };

/**
 * Whether a copy of everything is due: there is work of one's own that no copy holds, and it is older than
 * the person wants it to be. @param now ms
 */
export function copyDue(
  pictures: readonly Pick<PictureRecord, "sample" | "created" | "touched">[],
  { copied, remindAfter, remindLater }: Pick<Settings, "copied" | "remindAfter" | "remindLater">,
  now: number,
): Due | null {
  if (remindAfter === 0 || now < remindLater) return null;
  // A sample that nobody has painted on can be had again.
  const own = pictures.filter(({ sample, created, touched }) => !sample || touched > created);
  const since = own.filter(({ touched }) => touched > (copied ?? 0));
  if (since.length === 0) return null;
  const from = copied ?? Math.min(...since.map(({ created }) => created));
  const days = Math.floor((now - from) / DAY);
  return days >= remindAfter ? { pictures: since.length, days } : null;
}
