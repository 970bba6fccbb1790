"use client";

import { WorkBar } from "../progress/WorkBar";
import { type Session } from "./session";
import { useTable } from "./table-store";

const isDone = ({ share }: { share: number | null }): boolean => share !== null && share >= 1;

/** Work that takes its time: how far it has come, and a way to stop it. */
export function LongWork({ session }: { session: Session }) {
  const progress = useTable((state) => state.progress);
  const dialog = useTable((state) => state.dialog);
  const viewBusy = useTable((state) => state.viewBusy);
  if (viewBusy && (!progress || isDone(progress)))
    return (
      <div className="long-work" role="status">
        <span>Updating the view…</span>
      </div>
    );
  if (!progress || dialog || isDone(progress)) return null;
  return (
    <div className="long-work" role="status">
      <span>{progress.label}…</span>
      <WorkBar share={progress.share} />
      <button type="button" className="btn btn-sm" onClick={() => session.stopLongWork()}>
        Stop
      </button>
    </div>
  );
}
