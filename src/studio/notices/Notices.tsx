"use client";

import { X } from "lucide-react";
import { useEffect } from "react";
import { type Notice, useNotices } from "./notices";

/** How long a notice stays, ms: longer where there is something to decide. */
const STAY = 9000;
const STAY_TO_DECIDE = 25_000;

function NoticeLine({ notice }: { notice: Notice }) {
  const dismiss = useNotices((state) => state.dismiss);
  const { id, text, action, about } = notice;
  // What a notice is about may go on: then it stays until that is over.
  const stay = about ? null : action ? STAY_TO_DECIDE : STAY;
  useEffect(() => {
    if (stay === null) return;
    const timer = setTimeout(() => dismiss(id), stay);
    return () => clearTimeout(timer);
  }, [id, stay, dismiss]);
  return (
    <div className="notice">
      <div className="words">{text}</div>
      {action && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            dismiss(id);
            action.act();
          }}
        >
          {action.label}
        </button>
      )}
      <button
        type="button"
        className="icon-button"
        aria-label="Dismiss"
        onClick={() => dismiss(id)}
      >
        <X size={16} />
      </button>
    </div>
  );
}

export function Notices() {
  const notices = useNotices((state) => state.notices);
  return (
    <div className="notices" role="status" aria-live="polite">
      {notices.map((notice) => (
        <NoticeLine key={notice.id} notice={notice} />
      ))}
    </div>
  );
}
