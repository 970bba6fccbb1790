"use client";

import * as Comlink from "comlink";
import { useEffect, useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { type PictureRecord, type Settings } from "../../storage/records";
import { type Shelf } from "../../storage/shelf";
import { type Sizes } from "../../storage/sizes";
import { type Inside, type Wishes } from "../../storage/everything/bring-back";
import { sizeInWords } from "../files/lengths";
import { growFile } from "../files/save";
import { tell } from "../notices/notices";
import { whyOf } from "../notices/why";
import { WorkBar } from "../progress/WorkBar";
import { BringBack } from "./BringBack";
import { endStore, store } from "./store-link";

type Work = { label: string; share: number | null };

const dayInWords = new Intl.DateTimeFormat(undefined, { dateStyle: "long" });

const reminders = [
  [0, "never"],
  [7, "after a week"],
  [14, "after two weeks"],
  [30, "after a month"],
] as const;

/** What the browser says of its store. */
type Room = { used: number; quota: number; promised: boolean };

async function lookAtRoom(): Promise<Room> {
  const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
  return { used: usage, quota, promised: (await navigator.storage?.persisted?.()) ?? false };
}

const copiedNow = (): Partial<Settings> => ({ copied: Date.now(), remindLater: 0 });

/** Name of a copy: the day says which. */
const copyName = (): string => `pampas-everything-${new Date().toISOString().slice(0, 10)}.zip`;

/**
 * Everything that this browser keeps: how much it is, whether it stays, a copy of it and the way back from one.
 * @param changed told when pictures or settings are other than before
 */
export function StorageDialog({
  shelf,
  pictures,
  changed,
  hide,
}: {
  shelf: Shelf;
  pictures: readonly PictureRecord[];
  changed: () => Promise<void>;
  hide: () => void;
}) {
  const [work, setWork] = useState<Work | null>(null);
  const [inside, setInside] = useState<Inside | null>(null);
  const [settings, setSettings] = useState<Settings | null>(null);
  const files = useRef<HTMLInputElement>(null);

  useEffect(() => void shelf.settings().then(setSettings), [shelf]);
  useEffect(() => endStore, []);

  const told = Comlink.proxy((label: string, share: number) => setWork({ label, share }));
  const set = async (changes: Partial<Settings>): Promise<void> => {
    setSettings(await shelf.changeSettings(changes));
    await changed();
  };

  const keepCopy = async (): Promise<void> => {
    const file = await growFile({
      name: copyName(),
      description: "Copy of everything",
      type: "application/zip",
      extension: ".zip",
    });
    if (!file) return;
    setWork({ label: "Copying", share: 0 });
    const write = Comlink.proxy((bytes: Uint8Array<ArrayBuffer>) => file.write(bytes));
    const answer = await store().copy(write, told);
    if (!answer.ok) {
      await file.drop();
      return tell(`The copy was not written: ${answer.why}. Nothing was changed.`);
    }
    await file.done();
    await set(copiedNow());
    tell(`${countOf(answer.value)}, brushes and settings are in “${file.name}”.`);
  };

  const look = async (file: File): Promise<void> => {
    setWork({ label: "Looking into the copy", share: null });
    const answer = await store().look(file);
    if (answer.ok) setInside(answer.value);
    else tell(`“${file.name}” was not opened: ${answer.why}. Nothing was changed.`);
  };

  const bringBack = async (wishes: Wishes): Promise<void> => {
    const answer = await store().bringBack(wishes, told);
    await changed();
    if (!answer.ok) return tell(`Not all was brought back: ${answer.why}.`);
    for (const note of answer.value.notes) tell(note);
    tell(`${countOf(answer.value.pictures)} brought back.`);
    setInside(null);
    setSettings(await shelf.settings());
  };

  /** Long work: the dialog waits for it, and can stop it. */
  const during = (act: () => Promise<void>) => (): void =>
    void act()
      .catch((error: unknown) => tell(`That was not done: ${whyOf(error)}.`))
      .finally(() => setWork(null));

  return (
    <Modal
      show
      size="lg"
      aria-label="Storage"
      className="storage"
      animation={false}
      onHide={work ? undefined : hide}
      backdrop={work ? "static" : true}
    >
      <Modal.Header closeButton={!work}>
        <Modal.Title>{inside ? "Bring back from a copy" : "Storage"}</Modal.Title>
      </Modal.Header>
      {inside ? (
        <BringBack
          inside={inside}
          busy={work !== null}
          back={() => setInside(null)}
          bringBack={(wishes) => during(() => bringBack(wishes))()}
        />
      ) : (
        <Modal.Body className="d-grid gap-4">
          <RoomPart pictures={pictures} />
          <section aria-label="Copy of everything">
            <h2>A copy of everything</h2>
            <p className="quiet">
              Pictures with all their strokes, references, brushes, wells, keys and settings, in one
              file: for another disk, or another computer.{" "}
              {settings?.copied
                ? `The last one was made on ${dayInWords.format(settings.copied)}.`
                : "None was made yet."}
            </p>
            <div className="d-flex flex-wrap gap-2 align-items-center">
              <button
                type="button"
                className="btn btn-strong"
                disabled={work !== null}
                onClick={during(keepCopy)}
              >
                Keep a copy of everything
              </button>
              <button
                type="button"
                className="btn"
                disabled={work !== null}
                onClick={() => files.current?.click()}
              >
                Bring back from a copy…
              </button>
              <label className="d-flex gap-2 align-items-center ms-auto">
                Remind me
                <select
                  className="form-select form-select-sm"
                  style={{ width: "auto" }}
                  value={settings?.remindAfter ?? 14}
                  disabled={!settings}
                  onChange={(event) => void set({ remindAfter: Number(event.target.value) })}
                >
                  {reminders.map(([days, label]) => (
                    <option key={days} value={days}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            <input
              ref={files}
              type="file"
              hidden
              accept=".zip"
              data-testid="copy-file"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                if (file) during(() => look(file))();
              }}
            />
          </section>
          <PicturesPart
            pictures={pictures}
            busy={work !== null}
            squeeze={(some) =>
              during(async () => {
                let gained = 0;
                for (const { id, title } of some) {
                  const answer = await store().squeeze(id, title, told);
                  if (answer.ok) gained += answer.value;
                  else tell(`“${title}” was not squeezed: ${answer.why}.`);
                  if (!answer.ok && answer.why === "it was stopped") break;
                }
                await changed();
                tell(
                  gained > 0
                    ? `${sizeInWords(gained)} were gained. The pictures are as they were.`
                    : "They are as small as they can be.",
                );
              })()
            }
          />
          <AsidePart shelf={shelf} />
        </Modal.Body>
      )}
      {work && (
        <Modal.Footer className="doing" role="status">
          <span>{work.label}…</span>
          <WorkBar share={work.share} className="flex-fill" />
          <button type="button" className="btn btn-sm" onClick={() => void store().stop()}>
            Stop
          </button>
        </Modal.Footer>
      )}
    </Modal>
  );
}

const countOf = (pictures: number): string =>
  pictures === 1 ? "One picture" : `${pictures} pictures`;

/** How much there is, how much there may be, and whether the browser promises that it stays. */
function RoomPart({ pictures }: { pictures: readonly PictureRecord[] }) {
  const [room, setRoom] = useState<Room | null>(null);
  const [refused, setRefused] = useState(false);
  useEffect(() => void lookAtRoom().then(setRoom), [pictures]);
  if (!room) return null;
  const ask = async (): Promise<void> => {
    const promised = (await navigator.storage?.persist?.()) ?? false;
    setRefused(!promised);
    setRoom({ ...room, promised });
  };
  return (
    <section aria-label="Room">
      <h2>In this browser</h2>
      <p className="mb-2">
        <b>{sizeInWords(room.used)}</b> of {sizeInWords(room.quota)} that it lets us have.{" "}
        {room.promised
          ? "It has promised to keep them until you clear them yourself."
          : "It may clear them when the disk runs full."}
      </p>
      <WorkBar share={room.quota > 0 ? room.used / room.quota : 0} label="Room used" />
      {!room.promised && (
        <div className="d-flex gap-2 align-items-center mt-2">
          <button type="button" className="btn btn-sm" onClick={() => void ask()}>
            Ask it to keep them
          </button>
          {refused && (
            <span className="quiet" role="status">
              It would not promise. Browsers do when Pampas is installed or often used; a copy of
              everything is safe in any case.
            </span>
          )}
        </div>
      )}
    </section>
  );
}

/** Each picture with what it takes, the largest first. */
function PicturesPart({
  pictures,
  busy,
  squeeze,
}: {
  pictures: readonly PictureRecord[];

  busy: boolean;
  squeeze: (pictures: readonly PictureRecord[]) => void;
}) {
  const sizes = useSizes(pictures);
  const rows = [...pictures].sort((a, b) => b.bytes - a.bytes);
  const cell = (id: string, part: keyof Sizes): string => {
    const size = sizes.get(id);
    return size ? sizeInWords(size[part]) : "…";
  };
  return (
    <section aria-label="Pictures in store">
      <div className="d-flex align-items-baseline gap-2">
        <h2 className="flex-fill">Pictures</h2>
        <button
          type="button"
          className="btn btn-sm"
          disabled={busy || rows.length === 0}
          title="Packs tiles as small as can be and forgets what can be undone from earlier sessions; the pictures stay as they are"
          onClick={() => squeeze(rows)}
        >
          Squeeze all
        </button>
      </div>
      <div className="sizes" tabIndex={0} role="region" aria-label="Sizes">
        <table className="in-bytes">
          <thead>
            <tr>
              <th scope="col">Picture</th>
              <th scope="col">Seen</th>
              <th scope="col">Paint’s state</th>
              <th scope="col">Strokes</th>
              <th scope="col">To undo</th>
              <th scope="col">Beside</th>
              <th scope="col">In all</th>
              <th scope="col">
                <span className="visually-hidden">Squeeze</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((picture) => {
              const { id, title, thrownAway } = picture;
              const size = sizes.get(id);
              const total = size
                ? size.colour + size.planes + size.log + size.steps + size.beside
                : picture.bytes;
              return (
                <tr key={id}>
                  <th scope="row">
                    {title}
                    {thrownAway !== null && <span className="quiet"> thrown away</span>}
                  </th>
                  <td>{cell(id, "colour")}</td>
                  <td>{cell(id, "planes")}</td>
                  <td>{cell(id, "log")}</td>
                  <td>{cell(id, "steps")}</td>
                  <td>{cell(id, "beside")}</td>
                  <td>
                    <b>{sizeInWords(total)}</b>
                  </td>
                  <td>
                    <button
                      type="button"
                      className="btn btn-sm"
                      disabled={busy}
                      aria-label={`Squeeze ${title}`}
                      onClick={() => squeeze([picture])}
                    >
                      Squeeze
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Sizes of all pictures, as they become known. */
function useSizes(pictures: readonly PictureRecord[]): ReadonlyMap<string, Sizes> {
  const [sizes, setSizes] = useState<ReadonlyMap<string, Sizes>>(new Map());
  useEffect(() => {
    let gone = false;
    void (async () => {
      for (const { id } of pictures) {
        const answer = await store().sizes(id);
        if (gone) return;
        if (answer.ok) setSizes((known) => new Map(known).set(id, answer.value));
      }
    })();
    return () => {
      gone = true;
    };
  }, [pictures]);
  return sizes;
}

/** What an earlier version could not read and moved aside: it goes back by itself where it can. */
function AsidePart({ shelf }: { shelf: Shelf }) {
  const [aside, setAside] = useState(0);
  useEffect(() => void shelf.db.count("aside").then(setAside), [shelf]);
  if (aside === 0) return null;
  return (
    <section aria-label="Lying aside">
      <h2>Lying aside</h2>
      <p className="quiet mb-0">
        {aside === 1 ? "One record" : `${aside} records`} that an earlier version could not read lie
        aside, because something else has their place. A copy of everything holds them too.
      </p>
    </section>
  );
}
