"use client";

import { whyOf } from "../notices/why";
import "../../engine/plain-zod";
import Link from "next/link";
import { useEffect, useState } from "react";
import { openDatabase } from "../../storage/database";
import { Shelf } from "../../storage/shelf";
import { bringTheRest, later } from "../later/later";
import { Notices } from "../notices/Notices";
import { settle, tell } from "../notices/notices";
import { enterRoom } from "../rooms";
import { ColourPanel } from "./ColourPanel";
import { useAdjust } from "./adjust/adjust-store";
import { useKeptExports } from "./export/kept-exports";
import { useWells } from "./colour/wells-store";
import { useCrit } from "./crit/crit-store";
import { CommandFinder } from "./CommandFinder";
import { followBrushBox } from "../brushes/brush-box";
import { download } from "../files/download";
import { EngineStopped } from "./EngineStopped";
import { readKeys } from "./keys/key-map";
import { LayersPanel } from "./layers/LayersPanel";
import { mayRest, stayAwake } from "./awake";
import { giveAdvice, takeUpTold } from "./advice";
import { FirstSteps } from "./first-steps/FirstSteps";
import { takeFirstSteps } from "./first-steps/first-steps";
import { keepHand, takeUpHand } from "./kept-hand";
import { keepChosen, lastChosen, takeUpLayers } from "./kept-layers";
import { PictureView } from "./PictureView";
import { Session } from "./session";
import { useTable } from "./table-store";
import { TopBar } from "./TopBar";
import { WorkBar } from "../progress/WorkBar";
import { Tray } from "./Tray";

const closeDialog = (): void => useTable.setState({ dialog: null });

// What is opened now and then is brought when it is.
const AboutDialog = later(
  "About Pampas",
  () => import("../about/AboutDialog").then((all) => all.AboutDialog),
  closeDialog,
);
const Workshop = later(
  "The workshop",
  () => import("../workshop/Workshop").then((all) => all.Workshop),
  closeDialog,
);
const ExportDialog = later(
  "The export",
  () => import("./export/ExportDialog").then((all) => all.ExportDialog),
  closeDialog,
);
const KeysDialog = later(
  "The sheet of keys",
  () => import("./keys/KeysDialog").then((all) => all.KeysDialog),
  closeDialog,
);
const PaperDialog = later(
  "The papers",
  () => import("./PaperDialog").then((all) => all.PaperDialog),
  closeDialog,
);
const PenDialog = later(
  "The settings of the pen",
  () => import("./pen/PenDialog").then((all) => all.PenDialog),
  closeDialog,
);
const ReplayScreen = later(
  "The replay",
  () => import("./replay/ReplayScreen").then((all) => all.ReplayScreen),
  closeDialog,
);
const SigningDialog = later(
  "The checks before signing",
  () => import("./crit/SigningDialog").then((all) => all.SigningDialog),
  closeDialog,
);
const StudiesDialog = later(
  "The studies",
  () => import("./studies/StudiesDialog").then((all) => all.StudiesDialog),
  closeDialog,
);

/** Takes up the settings. */
async function readSettings(): Promise<void> {
  const db = await openDatabase();
  const settings = await new Shelf(db).settings();
  const { room, standInPen, restPicks, pen, recent, keys, wells, advised, exports } = settings;
  await takeUpHand(db);
  db.close();
  enterRoom(room);
  useWells.setState({ shared: wells });
  useKeptExports.setState({ list: exports });
  useTable.setState({ room, standInPen, restPicks, pen, recent, keys: readKeys(keys) });
  takeUpTold(advised);
}

/** What all notices about storing are about: only the newest is shown. */
const STORING = "storing";

const stepsInWords = (count: number): string =>
  count === 0 ? "The newest pixels" : count === 1 ? "1 step" : `${count} steps`;

/** Tells what to do when work cannot be stored: it goes on in memory meanwhile. */
function useKeptNotices(session: Session | null): void {
  const kept = useTable((state) => state.kept);
  useEffect(() => {
    if (!session || !kept) return;
    if (kept.state === "kept") settle(STORING);
    if (kept.state === "full")
      tell(
        `The disk is full. ${stepsInWords(kept.waiting)} wait in memory, and nothing is lost while this page is open. Make room, or save the work log.`,
        {
          label: "Save work log",
          act: () =>
            void session.exportFile({ format: "log" }).then((file) => file && download(file)),
        },
        STORING,
      );
    if (kept.state === "failed")
      tell(
        `${stepsInWords(kept.waiting)} could not be stored. ${kept.why} They are still here.`,
        { label: "Try again", act: () => void session.link.api.tryKeepingAgain() },
        STORING,
      );
  }, [kept, session]);
}

/** Stores what waits when the page goes away; asks before leaving only while something waits. */
function useLeaving(session: Session | null): void {
  useEffect(() => {
    if (!session) return;
    const listeners = new AbortController();
    const { signal } = listeners;
    window.addEventListener("pagehide", () => session.leave(), { signal });
    document.addEventListener(
      "visibilitychange",
      () => {
        if (document.visibilityState === "hidden") session.leave();
      },
      { signal },
    );
    window.addEventListener(
      "beforeunload",
      (event) => {
        const { kept } = useTable.getState();
        if (kept && kept.state !== "kept") event.preventDefault();
      },
      { signal },
    );
    return () => listeners.abort();
  }, [session]);
}

function Waiting() {
  const progress = useTable((state) => state.progress);
  return (
    <div className="waiting" role="status">
      <div>{progress?.label ?? "Opening the picture"}…</div>
      <WorkBar share={progress?.share ?? 0.05} />
    </div>
  );
}

function Failed({ why }: { why: string }) {
  return (
    <div className="waiting">
      <h1 style={{ fontSize: "1.1rem" }}>This picture could not be opened</h1>
      <p className="mb-1">{/[.!?]$/.test(why) ? why : `${why}.`}</p>
      <Link className="btn btn-strong" href="/">
        Back to the Portfolio
      </Link>
    </div>
  );
}

/** The table: one picture and everything that is done to it. */
export function Table({ id }: { id: string }) {
  const [session, setSession] = useState<Session | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const bare = useTable((state) => state.bare);
  const hand = useTable((state) => state.pen.hand);
  const drawers = useTable((state) => state.drawers);
  const dialog = useTable((state) => state.dialog);
  useKeptNotices(session);
  useLeaving(session);

  useEffect(() => {
    let opened: Session | null = null;
    let gone = false;
    useTable.setState({
      picture: null,
      progress: null,
      kept: null,
      engine: "well",
      viewBusy: false,
      dialog: null,
      bare: false,
      values: null,
      squint: false,
      freshness: {},
    });
    useCrit.setState({ charts: null, eyes: null, holes: null });
    useAdjust.setState({ adjustment: null, layer: null, before: false });
    const stopFollowing = followBrushBox();
    // The hand is as it was left before anything can be drawn with it.
    let stopAdvice = (): void => undefined;
    const ready = readSettings().then(
      () => {
        if (!gone) stopAdvice = giveAdvice();
      },
      (error: unknown) => tell(whyOf(error)),
    );
    const stopKeeping = keepHand();
    const stopBringing = bringTheRest();
    const stopWaking = useTable.subscribe(({ progress }) => {
      if (progress) stayAwake();
    });
    let stopSteps = (): void => undefined;
    let stopChoosing = (): void => undefined;
    Promise.all([Session.open(id), lastChosen(id), ready]).then(
      ([made, chosen]) => {
        opened = made;
        if (gone) return void made.close();
        takeUpLayers(made, chosen);
        stopChoosing = keepChosen(id);
        stopSteps = takeFirstSteps();
        setSession(made);
      },
      (error: unknown) => setFailure(whyOf(error)),
    );
    return () => {
      gone = true;
      stopFollowing();
      stopKeeping();
      stopChoosing();
      stopSteps();
      stopBringing();
      stopWaking();
      mayRest();
      stopAdvice();
      void opened?.close();
      setSession(null);
    };
  }, [id]);

  if (failure) return <Failed why={failure} />;
  if (!session) return <Waiting />;
  return (
    <div
      className={`table-screen${bare ? " bare" : ""}`}
      data-hand={hand}
      data-drawers={drawers.join(" ")}
    >
      <TopBar session={session} />
      <LayersPanel session={session} />
      <PictureView session={session} />
      <FirstSteps />
      <ColourPanel session={session} />
      <Tray session={session} />
      {dialog === "finder" && <CommandFinder session={session} />}
      {dialog === "export" && <ExportDialog session={session} />}
      {dialog === "paper" && <PaperDialog session={session} />}
      {dialog === "shortcuts" && <KeysDialog />}
      {dialog === "about" && <AboutDialog hide={closeDialog} />}
      {dialog === "pen" && <PenDialog />}
      {dialog === "replay" && <ReplayScreen session={session} />}
      {dialog === "signing" && <SigningDialog session={session} />}
      {dialog === "studies" && <StudiesDialog session={session} />}
      {dialog === "workshop" && <Workshop session={session} />}
      <Notices />
      <EngineStopped id={id} />
    </div>
  );
}
