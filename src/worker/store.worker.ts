import * as Comlink from "comlink";
import { Refusal, Stopped } from "../engine/picture/refusal";
import { Connection } from "../storage/connection";
import { Copy, type Inside, type Wishes } from "../storage/everything/bring-back";
import { copyEverything } from "../storage/everything/copy";
import { pictureLock } from "../storage/shelf";
import { type Sizes, sizesOf } from "../storage/sizes";
import { squeeze } from "../storage/squeeze";
import { type Answer } from "./protocol";
import { startEngine } from "./start-engine";
import { openedAside, wholePictureFile } from "./whole";

type Tell = (label: string, share: number) => void;

/** What is done to the store as a whole, in a thread of its own. Long work ends where `stop` is called. */
export type StoreApi = {
  stop(): void;
  /** @returns how many pictures are in the copy that was written */
  copy(
    write: (bytes: Uint8Array<ArrayBuffer>) => Promise<void>,
    tell: Tell,
  ): Promise<Answer<number>>;
  /** Opens a copy and says what is in it, beside what is here. */
  look(file: Blob): Promise<Answer<Inside>>;
  /** Brings back from the copy that was looked into. */
  bringBack(wishes: Wishes, tell: Tell): Promise<Answer<{ pictures: number; notes: string[] }>>;
  /** Opens a picture from the store and makes a file of all of it: whoever paints goes on meanwhile. */
  save(id: string, tell: Tell): Promise<Answer<Uint8Array<ArrayBuffer>>>;
  sizes(id: string): Promise<Answer<Sizes>>;
  /** @returns bytes gained */
  squeeze(id: string, title: string, tell: Tell): Promise<Answer<number>>;
};

const SAVING = "Saving the picture";
/** How much of saving a picture is opening it, about. */
const OPENED = 0.2;

const connection = new Connection();
let copy: Copy | null = null;
let stopAsked = false;

/** Does long work; what goes wrong is answered in words. */
async function answer<T>(act: () => Promise<T>): Promise<Answer<T>> {
  stopAsked = false;
  try {
    return { ok: true, value: await act() };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, why: error.message };
    console.error(error);
    const isFull = error instanceof DOMException && error.name === "QuotaExceededError";
    const why = isFull ? "there is no room left on the disk" : "the browser’s storage refused it";
    return { ok: false, why };
  }
}

/** Told how far work has come, unless it is to stop. */
const unlessStopped =
  (tell: Tell): Tell =>
  (label, share) => {
    if (stopAsked) throw new Stopped("it was stopped");
    tell(label, share);
  };

const api: StoreApi = {
  stop() {
    stopAsked = true;
  },
  copy: (write, tell) =>
    answer(() =>
      connection.use((db) =>
        copyEverything(
          db,
          (bytes) => write(Comlink.transfer(bytes, [bytes.buffer])),
          unlessStopped(tell),
        ),
      ),
    ),
  look: (file) =>
    answer(async () => {
      await copy?.close();
      copy = await connection.use((db) => Copy.open(db, file));
      return copy.look();
    }),
  bringBack: (wishes, tell) =>
    answer(async () => {
      if (!copy) throw new Refusal("no copy was opened");
      return copy.bringBack(wishes, unlessStopped(tell));
    }),
  save: (id, tell) =>
    answer(async () => {
      const engine = await startEngine();
      const { work, keeper, log } = await openedAside(connection, engine, id, (share) =>
        tell(SAVING, share * OPENED),
      );
      const bytes = await wholePictureFile(engine, work, keeper, log, (share) =>
        tell(SAVING, OPENED + (1 - OPENED) * share),
      );
      return Comlink.transfer(bytes, [bytes.buffer]);
    }),
  sizes: (id) => answer(() => connection.use((db) => sizesOf(db, id))),
  squeeze: (id, title, tell) =>
    answer(() =>
      navigator.locks.request(pictureLock(id), { ifAvailable: true }, (held) => {
        if (!held) throw new Refusal("it is open in another tab: close it there first");
        const told = unlessStopped(tell);
        return connection.use((db) =>
          squeeze(db, id, (share) => told(`Squeezing “${title}”`, share)),
        );
      }),
    ),
};

Comlink.expose(api);
