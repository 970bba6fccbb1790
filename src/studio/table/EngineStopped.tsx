"use client";

import { whyOf } from "../notices/why";
import Link from "next/link";
import { openDatabase } from "../../storage/database";
import { readLog } from "../../storage/log";
import { fileName } from "../../worker/file-name";
import { download } from "../files/download";
import { tell } from "../notices/notices";
import { useParts } from "./table-store";

/** Hands out the work log as it is in store, without the engine. */
async function saveStoredLog(id: string, title: string): Promise<void> {
  try {
    const db = await openDatabase();
    const { header, lines } = await readLog(db, id).finally(() => db.close());
    const text = `${[JSON.stringify(header), ...lines].join("\n")}\n`;
    const bytes = new TextEncoder().encode(text);
    download({ name: fileName(title, "jsonl"), type: "application/jsonl", bytes });
  } catch (error) {
    tell(`The work log was not saved: ${whyOf(error)}.`);
  }
}

/** Shown over the table when the engine has stopped, or gives no sign of life. */
export function EngineStopped({ id }: { id: string }) {
  const { engine, picture, kept, set } = useParts("engine", "picture", "kept", "set");
  if (engine === "well") return null;
  const isSafe = !kept || kept.state === "kept";
  const isSilent = engine === "silent";
  return (
    <div
      className="engine-stopped"
      role="alertdialog"
      aria-modal="true"
      aria-labelledby="engine-stopped-title"
      aria-describedby="engine-stopped-text"
    >
      <div className="box">
        <h1 id="engine-stopped-title">
          {isSilent ? "The painting engine does not answer" : "The painting engine has stopped"}
        </h1>
        <p id="engine-stopped-text">
          {isSafe
            ? "All finished strokes are stored."
            : "Every stroke shown as kept is stored. The newest may not be."}{" "}
          {isSilent
            ? "It may still be busy: wait, or open the picture again."
            : "Open the picture again to go on."}
        </p>
        <div className="acts">
          {isSilent && (
            <button type="button" className="btn" onClick={() => set({ engine: "well" })}>
              Wait
            </button>
          )}
          <button
            type="button"
            className="btn"
            onClick={() => void saveStoredLog(id, picture?.title ?? "picture")}
          >
            Save work log
          </button>
          <Link className="btn" href="/">
            Portfolio
          </Link>
          <button type="button" className="btn btn-strong" onClick={() => location.reload()}>
            Open again
          </button>
        </div>
      </div>
    </div>
  );
}
