import { type Database, openDatabase } from "../../storage/database";
import { type Place, Places } from "../../storage/places";
import { fileName } from "../../worker/file-name";
import { type ExportedFile } from "../../worker/protocol";
import { tell } from "../notices/notices";
import { whyOf } from "../notices/why";
import { download, downloadBlob } from "./download";

type Permission = { mode: "readwrite" };
type PlaceHandle = FileSystemFileHandle & {
  queryPermission?(asked: Permission): Promise<PermissionState>;
  requestPermission?(asked: Permission): Promise<PermissionState>;
};
type Picker = (options: {
  suggestedName: string;
  types: { description: string; accept: Record<string, string[]> }[];
}) => Promise<FileSystemFileHandle>;

/** How a browser asks where to save, where it can; files are handed to its downloads elsewhere. */
const picker = (): Picker | undefined =>
  (window as unknown as { showSaveFilePicker?: Picker }).showSaveFilePicker?.bind(window);

/** What a file that is saved is called for the person, and by the browser. */
export type FileKind = { name: string; description: string; type: string; extension: string };

/** Asks where to save. @returns null where the person thinks better of it */
async function askWhere(pick: Picker, kind: FileKind): Promise<FileSystemFileHandle | null> {
  const { name, description, type, extension } = kind;
  try {
    return await pick({
      suggestedName: name,
      types: [{ description, accept: { [type]: [extension] } }],
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") return null;
    throw error;
  }
}

async function mayWrite(handle: PlaceHandle): Promise<boolean> {
  const asked: Permission = { mode: "readwrite" };
  const now = (await handle.queryPermission?.(asked)) ?? "granted";
  if (now === "granted") return true;
  return (await handle.requestPermission?.(asked)) === "granted";
}

/** Writes a file whole or not at all: what was there stays until all of it is on the disk. */
async function write(handle: FileSystemFileHandle, bytes: BlobPart): Promise<number> {
  const file = await handle.createWritable();
  try {
    await file.write(new Blob([bytes]));
    await file.close();
  } catch (error) {
    await file.abort().catch(() => undefined);
    throw error;
  }
  return (await handle.getFile()).lastModified;
}

/** Time of the file as it lies there; null where it is gone. */
async function timeOf(handle: FileSystemFileHandle): Promise<number | null> {
  try {
    return (await handle.getFile()).lastModified;
  } catch (error) {
    if (error instanceof DOMException && error.name === "NotFoundError") return null;
    throw error;
  }
}

/** A picture to be saved: its id, its name, and how its file is made. */
export type Saved = { id: string; title: string; make: () => Promise<ExportedFile | null> };

let isSaving = false;

/**
 * Saves a picture in the file where it was saved last; asks where, the first time or if it is to be another
 * file. A file that somebody else has changed meanwhile is not written over without a word.
 */
export async function savePicture(saved: Saved, asked: "same" | "other" | "over"): Promise<void> {
  if (isSaving) return tell("The picture is being saved.");
  isSaving = true;
  const db = await openDatabase();
  try {
    await saveIn(db, saved, asked);
  } catch (error) {
    tell(`The file was not written: ${whyOf(error)}. The picture is kept in this browser.`);
  } finally {
    db.close();
    isSaving = false;
  }
}

async function saveIn(db: Database, saved: Saved, asked: "same" | "other" | "over"): Promise<void> {
  const { id, make } = saved;
  const pick = picker();
  if (!pick) {
    const file = await make();
    if (!file) return;
    download(file);
    return tell(`“${file.name}” was handed to your downloads, whole.`);
  }
  const places = new Places(db);
  const known = asked === "other" ? null : await places.of(id);
  const handle = known ? await again(saved, known, asked === "over") : await first(saved, pick);
  if (!handle) return;
  const file = await make();
  if (!file) return;
  const modified = await write(handle, file.bytes);
  await places.keep(id, { handle, modified });
  tell(`Saved in “${handle.name}”.`, undefined, SAVED);
}

/** Of saving, only the newest word is shown. */
const SAVED = "saved";

const first = ({ title }: Saved, pick: Picker): Promise<FileSystemFileHandle | null> =>
  askWhere(pick, {
    name: fileName(title, "ora"),
    description: "Whole picture, OpenRaster",
    type: "image/openraster",
    extension: ".ora",
  });

/** The file where the picture was saved before, if it may be written again. */
async function again(
  saved: Saved,
  { handle, modified }: Place,
  over: boolean,
): Promise<FileSystemFileHandle | null> {
  const { name } = handle;
  const elsewhere = {
    label: "Save as another file",
    act: () => void savePicture(saved, "other"),
  };
  if (!(await mayWrite(handle))) {
    tell(`The browser may not write “${name}”. Nothing was saved.`, elsewhere, SAVED);
    return null;
  }
  const time = await timeOf(handle);
  if (time === null) {
    tell(`“${name}” is no longer where it was saved. Nothing was saved.`, elsewhere, SAVED);
    return null;
  }
  if (time === modified || over) return handle;
  tell(
    `“${name}” was changed by something else since it was last saved here. Nothing was written.`,
    { label: "Write over it", act: () => void savePicture(saved, "over") },
    SAVED,
  );
  return null;
}

/** A file that is written bit by bit; `done` closes it, and `drop` leaves nothing. */
export type Growing = {
  name: string;
  write(bytes: Uint8Array<ArrayBuffer>): Promise<void>;
  done(): Promise<void>;
  drop(): Promise<void>;
};

/**
 * Begins a file that grows: on the disk where the browser can, else in memory until it is handed to the downloads.
 * @returns null where the person thinks better of it
 */
export async function growFile(kind: FileKind): Promise<Growing | null> {
  const pick = picker();
  if (!pick) return grownInMemory(kind);
  const handle = await askWhere(pick, kind);
  if (!handle) return null;
  const file = await handle.createWritable();
  return {
    name: handle.name,
    write: (bytes) => file.write(bytes),
    done: () => file.close(),
    drop: () => file.abort().catch(() => undefined),
  };
}

function grownInMemory({ name, type }: FileKind): Growing {
  // A blob lies on the browser's disk when it grows large; parts are joined so that memory stays free.
  let blob = new Blob([], { type });
  return {
    name,
    write: (bytes) => {
      blob = new Blob([blob, bytes], { type });
      return Promise.resolve();
    },
    done: () => {
      downloadBlob(name, blob);
      return Promise.resolve();
    },
    drop: () => Promise.resolve(),
  };
}
