"use client";

import { useEffect } from "react";

/** Shown in place of a screen that failed. What was kept is in store, so opening again loses nothing. */
export default function ScreenFailed({ error }: { error: Error }) {
  useEffect(() => console.error(error), [error]);
  return (
    <div className="waiting">
      <h1 style={{ fontSize: "1.1rem" }}>This screen failed</h1>
      <p className="mb-1">Every stroke shown as kept is stored. Open the screen again to go on.</p>
      <div className="d-flex gap-2">
        <button type="button" className="btn" onClick={() => location.assign("/")}>
          Portfolio
        </button>
        <button type="button" className="btn btn-strong" onClick={() => location.reload()}>
          Open again
        </button>
      </div>
    </div>
  );
}
