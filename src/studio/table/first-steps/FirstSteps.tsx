"use client";

import { Check } from "lucide-react";
import { type ReactNode } from "react";
import { keyName } from "../keys/key-map";
import { useTable } from "../table-store";
import { endSteps, firstSteps, nextStep, useFirstSteps } from "./first-steps";

/** What a step says, with the keys that are set. */
function Words({ at }: { at: number }): ReactNode {
  const keys = useTable((state) => state.keys);
  if (at === 0)
    return "Choose a card in the tray below and draw on the sheet. Press harder and lean the pen: the mark follows.";
  if (at === 1)
    return (
      <>
        Every brush paints, lifts and blends. Hold <kbd>{keyName(keys.lift)}</kbd> and draw over
        your mark, or choose Lift at the left of the tray.
      </>
    );
  return (
    <>
      Press <kbd>Ctrl K</kbd>, or the magnifier above, and type what you would like to do. What you
      draw is kept as you go.
    </>
  );
}

/** A small card beside the sheet: three things to do, which can be skipped. */
export function FirstSteps() {
  const at = useFirstSteps((state) => state.at);
  const isReadOnly = useTable((state) => state.picture?.readOnly ?? true);
  if (at === null || isReadOnly) return null;
  return (
    <section className="first-steps" aria-label="First steps">
      <ol>
        {firstSteps.map(({ title }, n) => (
          <li key={title} aria-current={n === at ? "step" : undefined} data-done={n < at}>
            <span className="number" aria-hidden="true">
              {n < at ? <Check size={12} /> : n + 1}
            </span>
            {title}
          </li>
        ))}
      </ol>
      <p role="status">
        <Words at={at} />
      </p>
      <div className="acts">
        <button type="button" className="btn btn-sm" onClick={endSteps}>
          Skip
        </button>
        <button type="button" className="btn btn-sm btn-strong" onClick={nextStep}>
          {at + 1 < firstSteps.length ? "Next" : "Done"}
        </button>
      </div>
    </section>
  );
}
