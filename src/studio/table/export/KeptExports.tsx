"use client";

import { X } from "lucide-react";
import { useState } from "react";
import {
  type ExportForm,
  MOST_EXPORT_NAME,
  MOST_KEPT_EXPORTS,
} from "../../../storage/kept-exports";
import { NameField } from "../../naming/NameField";
import { tell } from "../../notices/notices";
import { Tick } from "../../ui/Tick";
import { forgetExport, keepExport, setRuns, useKeptExports } from "./kept-exports";

/** Exports kept by name: pressed, one is taken up; those that are ticked run at once. */
export function KeptExports({
  form,
  label,
  take,
}: {
  form: ExportForm;
  /** What the present format is called: a first name for it. */
  label: string;
  take: (form: ExportForm) => void;
}) {
  const list = useKeptExports((state) => state.list);
  const [naming, setNaming] = useState(false);
  const keep = (name: string | null): void => {
    setNaming(false);
    if (name !== null && !keepExport(name, form))
      tell(`${MOST_KEPT_EXPORTS} exports are kept already. Take one away first.`);
  };
  return (
    <section className="kept-exports" aria-label="Kept exports">
      <h2>Kept exports</h2>
      {list.length === 0 && (
        <p className="quiet mb-0">Keep what you often need, and export all of it at once.</p>
      )}
      {list.map(({ name, form: kept, runs }) => (
        <div key={name} className="kept-export">
          <Tick on={runs} set={(on) => setRuns(name, on)} title="Runs with the others">
            <span className="visually-hidden">{name} runs with the others</span>
          </Tick>
          <button type="button" className="btn btn-sm name" onClick={() => take(kept)}>
            {name}
          </button>
          <button
            type="button"
            className="icon-button"
            aria-label={`Take ${name} away`}
            onClick={() => forgetExport(name)}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      {naming ? (
        <NameField label="Name of the export" name="" most={MOST_EXPORT_NAME} done={keep} />
      ) : (
        <button type="button" className="btn btn-sm" onClick={() => setNaming(true)}>
          Keep this {label} export…
        </button>
      )}
    </section>
  );
}
