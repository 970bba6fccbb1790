"use client";

import { ProgressBar } from "react-bootstrap";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** Work that takes its time: how far it has come, and a way to stop it. */
export function LongWork({ session }: { session: Session }) {
  const progress = useTable((state) => state.progress);
  const dialog = useTable((state) => state.dialog);
  const viewBusy = useTable((state) => state.viewBusy);
  if (viewBusy && (!progress || progress.share >= 1))
    return (
      <div className="long-work" role="status">
        <span>Updating the view…</span>
      </div>
    );
  if (!progress || dialog || progress.share >= 1) return null;
  return (
    <div className="long-work" role="status">
      <span>{progress.label}…</span>
      <ProgressBar now={progress.share * 100} aria-label="Progress" />
      <button type="button" className="btn btn-sm" onClick={() => session.link.pen.askToStop()}>
        Stop
      </button>
    </div>
  );
}
