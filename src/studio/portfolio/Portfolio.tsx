"use client";

import * as Comlink from "comlink";
import { whyOf } from "../notices/why";
import "../../engine/plain-zod";
import { Archive, FileUp, Info, Plus } from "lucide-react";
import { nanoid } from "nanoid";
import { useRouter, useSearchParams } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { type Database, openDatabase } from "../../storage/database";
import { type PictureRecord } from "../../storage/records";
import { bringBack } from "../../storage/aside";
import { Places } from "../../storage/places";
import { pictureLock, Shelf, SHELF_CHANNEL } from "../../storage/shelf";
import { rawRecord, type Unreadable } from "../../storage/unreadable";
import { fileName } from "../../worker/file-name";
import { download } from "../files/download";
import { type NewPicture as Wanted } from "../../worker/new-picture";
import { type EngineLink, startEngineLink, warmEngine } from "../engine-link";
import { bringTheRest, later } from "../later/later";
import { Notices } from "../notices/Notices";
import { useDroppedFiles } from "../files/dropped";
import { tell } from "../notices/notices";
import { enterRoom } from "../rooms";
import { paperFromFile } from "../paper/paper-from-file";
import { copyName } from "../naming/copy-name";
import { NewPicture } from "./NewPicture";
import { type CardActs, PictureCard, usePngAddress } from "./PictureCard";
import { sizeInWords } from "../files/lengths";
import { copyDue, type Due, LATER } from "../storage/reminder";
import { WorkBar } from "../progress/WorkBar";
import { type Incoming, sharedNow, whenOpenedWith } from "./came-in";
import { listSamples, paintedSample, pinBeside, sampleLog } from "./samples";

const AboutDialog = later(
  "About Pampas",
  () => import("../about/AboutDialog").then((all) => all.AboutDialog),
  ({ hide }) => hide(),
);
const StorageDialog = later(
  "The storage",
  () => import("../storage/StorageDialog").then((all) => all.StorageDialog),
  ({ hide }) => hide(),
);

const ACCEPTED = ".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff,.ora,.svg,.jsonl";

type Making = { label: string; share: number | null };

function useShelf(): {
  shelf: Shelf | null;
  pictures: PictureRecord[] | null;
  unreadable: Unreadable[];
  refresh: () => Promise<void>;
} {
  const [shelf, setShelf] = useState<Shelf | null>(null);
  const [pictures, setPictures] = useState<PictureRecord[] | null>(null);
  const [unreadable, setUnreadable] = useState<Unreadable[]>([]);
  const show = useCallback(async (from: Shelf) => {
    const found = await from.list();
    setPictures(found.pictures);
    setUnreadable(found.unreadable);
  }, []);
  useEffect(() => {
    let db: Database | null = null;
    let gone = false;
    openDatabase().then(
      (opened) => {
        db = opened;
        if (gone) return opened.close();
        const found = new Shelf(opened);
        setShelf(found);
        void bringBack(opened).then(() => show(found));
      },
      (error: unknown) =>
        tell(
          `The pictures kept in this browser could not be reached: ${whyOf(error)}. Nothing was changed.`,
        ),
    );
    return () => {
      gone = true;
      db?.close();
    };
  }, [show]);
  const refresh = useCallback(async () => {
    if (shelf) await show(shelf);
  }, [shelf, show]);
  // A table that was just left is still putting its last work in store.
  useEffect(() => {
    const channel = new BroadcastChannel(SHELF_CHANNEL);
    channel.onmessage = () => void refresh();
    return () => channel.close();
  }, [refresh]);
  return { shelf, pictures, unreadable, refresh };
}

/** Everything that has been thrown away, with a way back. */
function Thrown({
  pictures,
  takeBack,
  remove,
}: {
  pictures: PictureRecord[];
  takeBack: (id: string) => void;
  remove: (id: string) => void;
}) {
  if (pictures.length === 0) return null;
  return (
    <section className="thrown" aria-label="Thrown away">
      <h2>Thrown away</h2>
      <div className="list">
        {pictures.map((picture) => (
          <ThrownItem key={picture.id} picture={picture} takeBack={takeBack} remove={remove} />
        ))}
      </div>
    </section>
  );
}

function ThrownItem({
  picture,
  takeBack,
  remove,
}: {
  picture: PictureRecord;
  takeBack: (id: string) => void;
  remove: (id: string) => void;
}) {
  const address = usePngAddress(picture.thumbnail);
  const [sure, setSure] = useState(false);
  return (
    <div className="thrown-item">
      {/* eslint-disable-next-line @next/next/no-img-element -- made in the browser */}
      {address && <img src={address} alt="" />}
      <span>
        {picture.title} <span className="quiet">{sizeInWords(picture.bytes)}</span>
      </span>
      <button type="button" className="btn btn-sm" onClick={() => takeBack(picture.id)}>
        Take back
      </button>
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => (sure ? remove(picture.id) : setSure(true))}
      >
        {sure ? "Yes, for good" : "Delete for good"}
      </button>
    </div>
  );
}

/** A picture that this version cannot read: it stays stored, and its record can be saved. */
function UnreadableCard({ picture, save }: { picture: Unreadable; save: () => void }) {
  return (
    <li className="picture-card">
      <div className="sheet">
        <div className="making">
          <span>
            Not readable by this version
            <br />
            <span className="quiet">
              {picture.why.charAt(0).toUpperCase() + picture.why.slice(1)}
            </span>
          </span>
          <button type="button" className="btn btn-sm" onClick={save}>
            Save raw record
          </button>
        </div>
      </div>
      <div className="about">
        <div className="names">
          <div className="title">{picture.title}</div>
          <div className="quiet">Stored as it is</div>
        </div>
      </div>
    </li>
  );
}

/** Work that no copy holds, for longer than it should be so. */
function CopyReminder({ due, open, later }: { due: Due; open: () => void; later: () => void }) {
  const { pictures, days } = due;
  return (
    <div className="copy-reminder" role="status">
      <span className="flex-fill">
        {pictures === 1 ? "One picture is" : `${pictures} pictures are`} in this browser alone, for{" "}
        {days} days now.
      </span>
      <button type="button" className="btn btn-sm btn-strong" onClick={open}>
        Keep a copy
      </button>
      <button type="button" className="btn btn-sm" onClick={later}>
        Later
      </button>
    </div>
  );
}

function MakingCard({ making, cancel }: { making: Making; cancel: () => void }) {
  return (
    <li className="picture-card">
      <div className="sheet">
        <div className="making" role="status">
          <span>{making.label}…</span>
          <WorkBar share={making.share} />
          <button type="button" className="btn btn-sm" onClick={cancel}>
            Cancel
          </button>
        </div>
      </div>
    </li>
  );
}

export function Portfolio() {
  const router = useRouter();
  const { shelf, pictures, unreadable, refresh } = useShelf();
  const [making, setMaking] = useState<Making | null>(null);
  // “New picture” in the menu of an installed Pampas opens it so.
  const isNew = useSearchParams().has("new");
  const [asking, setAsking] = useState(isNew);
  const [storing, setStoring] = useState(false);
  const [isAbout, setIsAbout] = useState(false);
  const [used, setUsed] = useState<number | null>(null);
  const [due, setDue] = useState<Due | null>(null);
  const link = useRef<Promise<EngineLink> | null>(null);
  /** How many things the engine is asked for. */
  const askedFor = useRef(0);
  const files = useRef<HTMLInputElement>(null);

  const engine = useCallback((): Promise<EngineLink> => {
    link.current ??= startEngineLink((event) => {
      if (event.type === "progress") setMaking({ label: event.label, share: event.share });
    });
    // One that did not come up is tried again when it is next needed.
    link.current.catch(() => (link.current = null));
    return link.current;
  }, []);
  /** Has the engine do something. Null where it did not come up, which is told. */
  const byEngine = useCallback(
    async <T,>(act: (api: EngineLink["api"]) => Promise<T>): Promise<T | null> => {
      askedFor.current++;
      try {
        return await act((await engine()).api);
      } catch (error) {
        tell(`${whyOf(error)}.`);
        return null;
      } finally {
        askedFor.current--;
      }
    },
    [engine],
  );
  /** A picture is about to be opened: the table's code and its engine are brought beforehand. */
  const expectTable = useCallback(() => {
    router.prefetch("/table");
    warmEngine();
  }, [router]);
  const ask = (): void => {
    setAsking(true);
    expectTable();
  };
  /** The engine that laid a picture out goes on to open it. */
  const leaveEngine = (): void => {
    const laid = link.current;
    link.current = null;
    void laid?.then(({ leave }) => leave());
  };
  useEffect(bringTheRest, []);
  useEffect(
    () => () => {
      void link.current?.then(({ end }) => end());
      link.current = null;
    },
    [],
  );

  useEffect(() => {
    if (!shelf) return;
    void shelf.settings().then((settings) => {
      enterRoom(settings.room);
      setDue(copyDue(pictures ?? [], settings, Date.now()));
    });
    void navigator.storage?.estimate?.().then(({ usage }) => setUsed(usage ?? null));
  }, [shelf, pictures]);

  // The samples are painted once, at the first start.
  useEffect(() => {
    if (!shelf) return;
    let gone = false;
    let leave = (): void => undefined;
    // An engine that has ended never answers: whoever waits for it has to hear that the Portfolio was left.
    const left = new Promise<never>((_, reject) => {
      leave = () => reject(new Error("the Portfolio was left"));
    });
    left.catch(() => undefined);
    void (async () => {
      if ((await shelf.settings()).samplesMade) return;
      await navigator.locks.request("pampas-samples", { ifAvailable: true }, async (held) => {
        if (!held || gone) return;
        askedFor.current++;
        try {
          setMaking({ label: "Preparing the sample pictures", share: 0 });
          const made = new Set((await shelf.list()).pictures.map(({ sample }) => sample));
          const wanted = (await listSamples()).filter(({ name }) => !made.has(name));
          // All are fetched at once; they are put on the shelf one after the other.
          const fetched = wanted.map((sample) =>
            Promise.all([sampleLog(sample.name), paintedSample(sample)]),
          );
          for (const [i, { name, title, pins }] of wanted.entries()) {
            if (gone) return;
            const { api } = await engine();
            const [log, painted] = await (fetched[i] as (typeof fetched)[number]);
            const ready = painted && Comlink.transfer(painted, [painted.buffer]);
            const answer = await Promise.race([api.makeSample(name, title, log, ready), left]);
            if (!answer.ok) tell(`The sample “${title}” could not be painted: ${answer.why}.`);
            else await Promise.race([pinBeside(api, shelf.db, answer.value, pins), left]);
            await refresh();
          }
          await shelf.changeSettings({ samplesMade: true });
        } catch (error) {
          // Who leaves while they are laid out finds the rest when coming back.
          if (gone) return;
          tell(
            `The sample pictures could not be painted: ${whyOf(error)}. Pampas works without them.`,
          );
        } finally {
          askedFor.current--;
          setMaking(null);
        }
      });
    })();
    return () => {
      gone = true;
      leave();
    };
  }, [shelf, engine, refresh]);

  const create = async (picture: Wanted): Promise<void> => {
    const answer = await byEngine(async (api) => await api.create(picture));
    setMaking(null);
    if (!answer) return;
    if (!answer.ok) return tell(`The picture was not made: ${answer.why}.`);
    // From the first picture on there is something that must not be swept away.
    void navigator.storage?.persist?.();
    if (askedFor.current === 0) leaveEngine();
    router.push(`/table?picture=${answer.value}`);
  };

  /** Brings files in, one after the other. Returns the pictures that they became. */
  const bringIn = useCallback(
    async (list: Iterable<Incoming>): Promise<string[]> => {
      const brought: string[] = [];
      for (const { file, handle } of list) {
        const answer = await byEngine(async (api) => {
          const bytes = new Uint8Array(await file.arrayBuffer());
          return await api.importPicture(file.name, bytes);
        });
        if (!answer) break;
        if (answer.ok) {
          const { id, notes, isWhole } = answer.value;
          for (const note of notes) tell(note);
          brought.push(id);
          // Saved, it goes back to where it came from.
          if (isWhole && handle && shelf)
            await new Places(shelf.db).keep(id, { handle, modified: file.lastModified });
        } else if (answer.why.startsWith("Stopped")) tell(`“${file.name}”: ${answer.why}`);
        else tell(`“${file.name}” was not brought in: ${answer.why}. Nothing else was changed.`);
      }
      setMaking(null);
      await refresh();
      return brought;
    },
    [byEngine, refresh, shelf],
  );

  const take = useCallback(
    (list: FileList) => void bringIn([...list].map((file) => ({ file, handle: null }))),
    [bringIn],
  );
  // What the system opens with Pampas, or another program shares, is opened on the table where it is one alone.
  useEffect(() => {
    if (!shelf) return;
    const takeIn = async (incoming: Incoming[]): Promise<void> => {
      const [only, ...others] = incoming.length > 0 ? await bringIn(incoming) : [];
      if (only && others.length === 0) router.push(`/table?picture=${only}`);
    };
    whenOpenedWith((incoming) => void takeIn(incoming));
    void sharedNow().then(takeIn);
  }, [shelf, bringIn, router]);
  const dragging = useDroppedFiles(take, take);

  const cancel = (): void => void link.current?.then(({ pen }) => pen.askToStop());

  const titles = pictures?.map(({ title }) => title) ?? [];
  const acts: CardActs = {
    rename: (id, title) => void shelf?.rename(id, title).then(refresh),
    duplicate: ({ id, title }) =>
      void shelf?.duplicate(id, nanoid(12), copyName(title, titles, 200)).then(refresh),
    throwAway: ({ id, title }) =>
      void shelf
        ?.throwAway(id)
        .then(refresh)
        .then(() =>
          tell(`“${title}” was thrown away.`, {
            label: "Take back",
            act: () => void shelf.takeBack(id).then(refresh),
          }),
        ),
  };

  const saveRaw = ({ id, title }: Unreadable): void =>
    void (async () => {
      if (!shelf) return;
      const bytes = new TextEncoder().encode(await rawRecord(shelf.db, id));
      download({ name: fileName(title, "json"), type: "application/json", bytes });
    })();

  const remove = (id: string): void =>
    void navigator.locks.request(pictureLock(id), { ifAvailable: true }, async (held) => {
      if (!held) return tell("This picture is open in another tab. Close it there first.");
      await shelf?.remove(id);
      await refresh();
    });

  const shown = pictures?.filter(({ thrownAway }) => thrownAway === null) ?? [];
  const isEmpty = pictures !== null && shown.length + unreadable.length === 0 && !making;
  return (
    <div className="portfolio">
      <header className="portfolio-top">
        {/* eslint-disable-next-line @next/next/no-img-element -- a tiny file of our own */}
        <img src="/favicon.svg" alt="" width={26} height={26} />
        <h1>Pampas</h1>
        <span className="quiet flex-fill">
          {shown.length} {shown.length === 1 ? "picture" : "pictures"}
          {used !== null && `, ${sizeInWords(used)} used in this browser`}
        </span>
        <button
          type="button"
          className="btn"
          aria-label="About Pampas"
          onClick={() => setIsAbout(true)}
        >
          <Info size={16} /> About
        </button>
        <button type="button" className="btn" onClick={() => setStoring(true)}>
          <Archive size={16} /> Storage
        </button>
        <button type="button" className="btn" onClick={() => files.current?.click()}>
          <FileUp size={16} /> Bring in
        </button>
        <button type="button" className="btn btn-strong" onClick={ask}>
          <Plus size={16} /> New picture
        </button>
        <input
          ref={files}
          type="file"
          hidden
          multiple
          accept={ACCEPTED}
          data-testid="bring-in"
          onChange={(event) => {
            if (event.target.files) take(event.target.files);
            event.target.value = "";
          }}
        />
      </header>
      {due && (
        <CopyReminder
          due={due}
          open={() => setStoring(true)}
          later={() =>
            void shelf?.changeSettings({ remindLater: Date.now() + LATER }).then(() => setDue(null))
          }
        />
      )}
      <main>
        {isEmpty ? (
          <div className="empty-state">
            <h2>The shelf is empty</h2>
            <p>
              Lay out a new sheet, or drop a picture on this window: PNG, JPEG, WebP, OpenRaster or
              a work log.
            </p>
            <button type="button" className="btn btn-strong" onClick={ask}>
              <Plus size={16} /> New picture
            </button>
          </div>
        ) : (
          <ul
            className="shelf"
            aria-label="Pictures"
            data-dragging={dragging}
            onPointerEnter={expectTable}
            onFocus={expectTable}
          >
            {making && <MakingCard making={making} cancel={cancel} />}
            {shown.map((picture) => (
              <PictureCard key={picture.id} picture={picture} acts={acts} />
            ))}
            {unreadable.map((picture) => (
              <UnreadableCard key={picture.id} picture={picture} save={() => saveRaw(picture)} />
            ))}
          </ul>
        )}
        <Thrown
          pictures={pictures?.filter(({ thrownAway }) => thrownAway !== null) ?? []}
          takeBack={(id) => void shelf?.takeBack(id).then(refresh)}
          remove={remove}
        />
      </main>
      {asking && (
        <NewPicture
          hide={() => setAsking(false)}
          paperFrom={(file) => byEngine((api) => paperFromFile(api, file))}
          create={create}
        />
      )}
      {isAbout && <AboutDialog hide={() => setIsAbout(false)} />}
      {storing && shelf && (
        <StorageDialog
          shelf={shelf}
          pictures={pictures ?? []}
          changed={refresh}
          hide={() => setStoring(false)}
        />
      )}
      <Notices />
    </div>
  );
}
