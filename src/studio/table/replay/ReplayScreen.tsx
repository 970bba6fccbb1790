"use client";

import * as Comlink from "comlink";
import { Film, Pause, Play, X } from "lucide-react";
import { type CSSProperties, useEffect, useRef, useState } from "react";
import {
  type FilmMessage,
  type ReplayApi,
  type ReplayedPicture,
} from "../../../worker/replay-protocol";
import { download } from "../../files/download";
import { tell } from "../../notices/notices";
import { rooms } from "../../rooms";
import { type Session } from "../session";
import { WorkBar } from "../../progress/WorkBar";
import { stayAwake } from "../awake";
import { useTable } from "../table-store";

const paces = [10, 30, 60, 180, 600];
const filmLengths = [5, 10, 20, 30, 60, 120, 300];
const filmSides = [640, 1280, 1920, 2560];
const FIRST_PACE = 30;

type Link = { api: Comlink.Remote<ReplayApi>; end: () => void };

/** Starts the engine that the work is played again in: the picture on the table is not touched. */
function startReplay(heard: (share: number) => void): Link {
  const worker = new Worker(new URL("../../../worker/replay.worker.ts", import.meta.url), {
    type: "module",
  });
  worker.addEventListener("message", ({ data }: MessageEvent<FilmMessage | undefined>) => {
    if (data && "film" in data) heard(data.film);
  });
  return { api: Comlink.wrap<ReplayApi>(worker), end: () => worker.terminate() };
}

const inWords = (seconds: number): string =>
  seconds < 60
    ? `${Math.round(seconds)} s`
    : `${Math.floor(seconds / 60)} min${Math.round(seconds % 60) ? ` ${Math.round(seconds % 60)} s` : ""}`;

function FilmForm({ link, share }: { link: Link; share: number | null }) {
  const [seconds, setSeconds] = useState(20);
  const [longest, setLongest] = useState(1280);
  const [asPictures, setAsPictures] = useState(false);
  const [busy, setBusy] = useState(false);
  const write = async (): Promise<void> => {
    setBusy(true);
    const answer = await link.api.film({ seconds, longest, asPictures });
    setBusy(false);
    if (!answer.ok) return tell(answer.why);
    download(answer.value);
    if (answer.value.type === "application/zip" && !asPictures)
      tell("This browser cannot write a film, so the frames are numbered pictures in a zip.");
  };
  if (busy)
    return (
      <div className="film-form" role="group" aria-label="Film">
        <WorkBar share={share ?? 0} label="Film written" />
        <button type="button" className="btn btn-sm" onClick={() => void link.api.stopFilm()}>
          Stop
        </button>
      </div>
    );
  return (
    <div className="film-form" role="group" aria-label="Film">
      <label>
        Length
        <select
          className="form-select form-select-sm"
          value={seconds}
          onChange={(event) => setSeconds(Number(event.target.value))}
        >
          {filmLengths.map((length) => (
            <option key={length} value={length}>
              {inWords(length)}
            </option>
          ))}
        </select>
      </label>
      <label>
        Longer side
        <select
          className="form-select form-select-sm"
          value={longest}
          onChange={(event) => setLongest(Number(event.target.value))}
        >
          {filmSides.map((side) => (
            <option key={side} value={side}>
              {side} px
            </option>
          ))}
        </select>
      </label>
      <label>
        As
        <select
          className="form-select form-select-sm"
          value={asPictures ? "zip" : "webm"}
          onChange={(event) => setAsPictures(event.target.value === "zip")}
        >
          <option value="webm">WebM film</option>
          <option value="zip">numbered pictures</option>
        </select>
      </label>
      <button type="button" className="btn btn-sm btn-strong" onClick={() => void write()}>
        Write the film
      </button>
    </div>
  );
}

/** The picture's own work, played again over the table. */
export function ReplayScreen({ session }: { session: Session }) {
  const set = useTable((state) => state.set);
  const room = useTable((state) => state.room);
  const holder = useRef<HTMLDivElement>(null);
  const [link, setLink] = useState<Link | null>(null);
  const [picture, setPicture] = useState<ReplayedPicture | null>(null);
  const [at, setAt] = useState(0);
  const [pace, setPace] = useState(FIRST_PACE);
  const [playing, setPlaying] = useState(true);
  const [filming, setFilming] = useState(false);
  const [share, setShare] = useState<number | null>(null);
  const surround = useRef(rooms[room].surround);

  useEffect(() => {
    const node = holder.current;
    if (!node) return;
    const started = startReplay((made) => {
      stayAwake();
      setShare(made);
    });
    const canvas = document.createElement("canvas");
    canvas.setAttribute("aria-hidden", "true");
    node.prepend(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const ratio = window.devicePixelRatio;
    const resize = (): void => {
      const { clientWidth, clientHeight } = node;
      void started.api.resize(Math.round(clientWidth * ratio), Math.round(clientHeight * ratio));
    };
    const observer = new ResizeObserver(resize);
    let gone = false;
    const begin = async (): Promise<void> => {
      // All that was done must be in store before it is read from there.
      await session.link.api.tryKeepingAgain();
      const answer = await started.api.open(session.id);
      if (gone) return;
      if (!answer.ok) {
        tell(`The work could not be played again: ${answer.why}.`);
        return useTable.setState({ dialog: null });
      }
      await started.api.attach(Comlink.transfer(offscreen, [offscreen]), surround.current);
      observer.observe(node);
      setLink(started);
      setPicture(answer.value);
    };
    void begin();
    return () => {
      gone = true;
      observer.disconnect();
      started.end();
      canvas.remove();
    };
  }, [session]);

  useEffect(() => {
    if (!link || !playing || filming) return;
    let last = performance.now();
    let now = at;
    let stop = false;
    const step = async (): Promise<void> => {
      const time = performance.now();
      now = Math.min(1, now + (time - last) / 1000 / pace);
      last = time;
      // The next frame waits for the engine, so a slow one plays slower and drops none.
      await link.api.seek(now);
      if (stop) return;
      setAt(now);
      stayAwake();
      if (now >= 1) return setPlaying(false);
      requestAnimationFrame(() => void step());
    };
    requestAnimationFrame(() => void step());
    return () => {
      stop = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `at` is only where playing begins
  }, [link, playing, pace, filming]);

  const scrub = (share: number): void => {
    setPlaying(false);
    setAt(share);
    void link?.api.seek(share);
  };
  const play = (): void => {
    if (!playing && at >= 1) setAt(0);
    setPlaying(!playing);
  };
  return (
    <div
      className="replay"
      role="dialog"
      aria-modal="true"
      aria-label="Replay"
      onKeyDown={(event) => {
        if (event.key === "Escape") set({ dialog: null });
      }}
    >
      <div className="stage" ref={holder} data-testid="replay">
        {!picture && <p role="status">Laying out the work…</p>}
      </div>
      <div className="transport">
        <button
          type="button"
          className="icon-button"
          aria-label={playing ? "Pause" : "Play"}
          disabled={!picture || filming}
          autoFocus
          onClick={play}
        >
          {playing ? <Pause size={18} /> : <Play size={18} />}
        </button>
        <input
          type="range"
          className="swell even"
          style={
            {
              "--track": `linear-gradient(90deg, var(--quiet) ${at * 100}%, var(--sunken) ${at * 100}%)`,
            } as CSSProperties
          }
          min={0}
          max={1}
          step={0.001}
          value={at}
          disabled={!picture || filming}
          aria-label="Where in the work"
          aria-valuetext={`${Math.round(at * 100)} %`}
          onChange={(event) => scrub(Number(event.target.value))}
        />
        <output>{Math.round(at * 100)} %</output>
        <label>
          All in
          <select
            className="form-select form-select-sm"
            value={pace}
            onChange={(event) => setPace(Number(event.target.value))}
          >
            {paces.map((seconds) => (
              <option key={seconds} value={seconds}>
                {inWords(seconds)}
              </option>
            ))}
            {picture && picture.drawnIn > 1000 && (
              <option value={picture.drawnIn / 1000}>
                as drawn ({inWords(picture.drawnIn / 1000)})
              </option>
            )}
          </select>
        </label>
        {picture && <span className="quiet">{picture.steps} steps</span>}
        <button
          type="button"
          className="btn btn-sm"
          aria-pressed={filming}
          disabled={!picture}
          onClick={() => setFilming(!filming)}
        >
          <Film size={15} /> Film
        </button>
        <button type="button" className="btn btn-sm" onClick={() => set({ dialog: null })}>
          <X size={15} /> Back to the table
        </button>
      </div>
      {filming && link && <FilmForm link={link} share={share} />}
    </div>
  );
}
