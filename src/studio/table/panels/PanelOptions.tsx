"use client";

import { Choice } from "../../ui/Choice";
import { Slide } from "../../ui/Slide";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { layPage, type PanelAct, panelActs, panelsOn, usePanels } from "./panels-store";

const hints: Record<PanelAct, string> = {
  cut: "Drag across panels to cut them. Shift: the other way of cutting",
  push: "Take hold of a side: the whole gutter moves",
  bleed: "Tap a side: it ends beyond the sheet's edge",
  join: "Drag from one panel into the one beside it",
};

const acts = (Object.keys(panelActs) as PanelAct[]).map(
  (act) => [act, panelActs[act], hints[act]] as const,
);

const mm = (n: number): string => `${(n / 10).toFixed(1)} mm`;

/** The page before its first panel. */
function FirstPanel({ session }: { session: Session }) {
  const { margin, frame, set } = usePanels();
  return (
    <div className="region-options">
      <div className="line">
        <Slide
          label="Margin"
          value={margin}
          most={60}
          shown={`${margin} mm`}
          set={(next) => set({ margin: next })}
        />
        <Slide
          label="Frame"
          value={frame}
          least={1}
          most={40}
          shown={mm(frame)}
          set={(next) => set({ frame: next })}
        />
        <button type="button" className="btn btn-sm" onClick={() => void layPage(session)}>
          Lay the page
        </button>
      </div>
    </div>
  );
}

/** Options of the tool that cuts a page into panels. */
export function PanelOptions({ session }: { session: Session }) {
  const count = useTable(({ picture }) => panelsOn(picture).length);
  const { act, even, tiers, beside, set } = usePanels();
  if (count === 0) return <FirstPanel session={session} />;
  return (
    <div className="region-options">
      <div className="line">
        <Choice
          label="Panels"
          of={acts}
          value={act}
          choose={(next) => set({ act: next, near: null })}
        />
        <output>{count === 1 ? "1 panel" : `${count} panels`}</output>
      </div>
      <div className="line">
        {act === "cut" ? (
          <>
            <Tick
              on={even}
              set={(next) => set({ even: next })}
              title="Cuts run level or upright; Shift while dragging cuts as drawn"
            >
              Even
            </Tick>
            <Slide
              label="Between tiers"
              value={tiers}
              most={200}
              shown={mm(tiers)}
              set={(next) => set({ tiers: next })}
            />
            <Slide
              label="Side by side"
              value={beside}
              most={200}
              shown={mm(beside)}
              set={(next) => set({ beside: next })}
            />
          </>
        ) : (
          <span className="quiet">{hints[act]}</span>
        )}
      </div>
    </div>
  );
}
