import { takeShared } from "../../storage/shared-files";
import { SHARED_PAGE } from "../files/share-address";
import { tell } from "../notices/notices";
import { whyOf } from "../notices/why";

/** A file that came from outside, and its place on the disk where that is known. */
export type Incoming = { file: File; handle: FileSystemFileHandle | null };

type Launch = { files?: readonly FileSystemHandle[] };
type LaunchQueue = { setConsumer(take: (launch: Launch) => void): void };

const isFile = (handle: FileSystemHandle): handle is FileSystemFileHandle => handle.kind === "file";

/** Hears of files that the system opens with an installed Pampas. */
export function whenOpenedWith(take: (incoming: Incoming[]) => void): void {
  const queue = (window as unknown as { launchQueue?: LaunchQueue }).launchQueue;
  queue?.setConsumer(({ files = [] }) => {
    const opening = files
      .filter(isFile)
      .map(async (handle) => ({ file: await handle.getFile(), handle }));
    Promise.all(opening).then(
      (incoming) => {
        if (incoming.length > 0) take(incoming);
      },
      (error: unknown) => tell(`The file could not be opened: ${whyOf(error)}.`),
    );
  });
}

/** Files that another program has just shared; none where this page was opened for something else. */
export async function sharedNow(): Promise<Incoming[]> {
  if (!`${location.pathname}${location.search}`.startsWith(SHARED_PAGE)) return [];
  const files = await takeShared();
  // A page that is opened anew does not look for them again.
  history.replaceState(history.state, "", "/");
  if (files.length === 0)
    tell("What was shared did not arrive. With Pampas open, share it once more.");
  return files.map((file) => ({ file, handle: null }));
}
