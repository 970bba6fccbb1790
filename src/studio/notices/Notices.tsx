"use client";

import { X } from "lucide-react";
import { useEffect } from "react";
import { type Notice, useNotices } from "./notices";

/** How long a notice without anything to decide stays, ms. */
const STAY = 9000;

function NoticeLine({ notice }: { notice: Notice }) {
  const dismiss = useNotices((state) => state.dismiss);
  const { id, text, action } = notice;
  useEffect(() => {
    if (action) return;
    const timer = setTimeout(() => dismiss(id), STAY);
    return () => clearTimeout(timer);
  }, [id, action, dismiss]);
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
