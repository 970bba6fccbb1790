import { unzipSync } from "fflate";
import { Refusal } from "../picture/refusal";
import { limits } from "./limits";

/** Names that would climb out of an archive, or are no plain path. */
const climbs = (name: string): boolean =>
  name.startsWith("/") ||
  name.includes("\\") ||
  name.split("/").includes("..") ||
  name.includes("\0");

/**
 * Unpacks an archive whose sizes have been looked at first.
 * @param most bytes that an entry of this name may unpack to; 0: it is not wanted
 * @throws Refusal where it is broken, climbs, or would unpack to too much
 */
export function unpackArchive(
  bytes: Uint8Array,
  most: (name: string) => number,
): Record<string, Uint8Array> {
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  let total = 0;
  let entries = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize, size }) => {
        if (climbs(name))
          throw new Refusal(`the archive names a place outside itself: ${name.slice(0, 80)}`);
        if (++entries > limits.archiveEntries)
          throw new Refusal("the archive holds too many files");
        const limit = name.endsWith("/") ? 0 : most(name);
        if (limit === 0) return false;
        if (originalSize > limit)
          throw new Refusal(`${name.slice(0, 80)} in the archive is too large`);
        total += originalSize;
        if (
          total > limits.archiveBytes ||
          originalSize > Math.max(2 ** 20, size * limits.archiveRatio)
        )
          throw new Refusal("the archive would unpack to far more than it holds");
        return true;
      },
    });
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal("the archive is broken or cut off");
  }
}
