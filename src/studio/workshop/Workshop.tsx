"use client";

import { Copy, FileDown, FileUp, RotateCcw, Star, Trash2 } from "lucide-react";
import { useEffect, useRef } from "react";
import { Modal } from "react-bootstrap";
import { findBrush } from "../../engine/media";
import { type Brush } from "../../engine/stroke/brush";
import {
  copyOf,
  exportKit,
  firstOf,
  importKit,
  keepBrush,
  throwBrushAway,
  toggleFavourite,
  useBrushBox,
  brushById,
} from "../brushes/brush-box";
import { tell } from "../notices/notices";
import { type Session } from "../table/session";
import { type Mode, useTable } from "../table/table-store";
import { sections } from "./sections";
import { TrialStrip } from "./TrialStrip";
import { keptDraft, sectionsOf, useWorkshop } from "./workshop-store";

const modes: [Mode, string][] = [
  ["paint", "Paint"],
  ["lift", "Lift"],
  ["blend", "Blend"],
];

/** A new brush begins as a plain round one. */
const PLAIN = "round-firm";

/** Takes the brush in hand to the bench: one's own as it is, one that ships as a copy. */
function takeUp(brush: Brush): void {
  const { take } = useWorkshop.getState();
  if (findBrush(brush.id)) take(copyOf(brush), true);
  else take(brush, false);
}

/** What lay on the bench before goes on; else the brush in hand. */
async function open(): Promise<void> {
  const { draft, changed } = useWorkshop.getState();
  if (draft && changed) return;
  const kept = await keptDraft();
  if (kept) {
    useWorkshop.getState().take(kept, true);
    return;
  }
  const brush = brushById(useTable.getState().brush) ?? brushById(PLAIN);
  if (brush) takeUp(brush);
}

async function keep(draft: Brush): Promise<void> {
  const brush = { ...draft, name: draft.name.trim() || "Unnamed" };
  await keepBrush(brush);
  useWorkshop.getState().take(brush, false);
  const table = useTable.getState();
  const { [brush.id]: _old, ...amounts } = table.amounts;
  table.set({ amounts });
  table.chooseBrush(brush.id);
}

function Head({ draft }: { draft: Brush }) {
  const { changed, change, mode, size, set, take } = useWorkshop();
  const isKept = useBrushBox(({ own }) =>
    own.some(({ id, thrownAway }) => id === draft.id && thrownAway === null),
  );
  const isFavourite = useBrushBox(({ favourites }) => favourites.includes(draft.id));
  const first = firstOf(draft.id);
  const close = (): void => useTable.setState({ dialog: null });
  return (
    <div className="head">
      <h1>Workshop</h1>
      <input
        className="form-control name"
        aria-label="Name of the brush"
        value={draft.name}
        maxLength={80}
        onChange={(event) => event.target.value && change({ name: event.target.value })}
      />
      <div className="kinds" role="radiogroup" aria-label="Try in">
        {modes.map(([own, name]) => (
          <button
            key={own}
            type="button"
            role="radio"
            aria-checked={mode === own}
            onClick={() => set({ mode: own })}
          >
            {name}
          </button>
        ))}
      </div>
      <label className="at-size">
        at
        <input
          type="number"
          className="form-control form-control-sm"
          aria-label="Size on the strip"
          min={0.5}
          max={400}
          value={size}
          onChange={(event) => {
            const wanted = Number(event.target.value);
            if (wanted >= 0.5) set({ size: Math.min(400, wanted) });
          }}
        />
        px
      </label>
      <span className="flex-fill" />
      <button
        type="button"
        className="btn btn-sm"
        aria-pressed={isFavourite}
        disabled={!isKept}
        onClick={() => void toggleFavourite(draft.id)}
      >
        <Star size={14} fill={isFavourite ? "currentColor" : "none"} /> Favourite
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={!first || JSON.stringify(first) === JSON.stringify(draft)}
        onClick={() => first && take(first, true)}
      >
        <RotateCcw size={14} /> As it was first
      </button>
      <button type="button" className="btn btn-sm" onClick={() => take(copyOf(draft), true)}>
        <Copy size={14} /> Copy
      </button>
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => {
          const kept = brushById(draft.id);
          if (isKept && kept) void throwBrushAway(kept);
          const next = brushById(PLAIN);
          useWorkshop.getState().set({ draft: null });
          if (next) take(copyOf(next, "New brush"), false);
          if (!isKept) tell("The brush in the making was put aside; nothing of it was kept.");
        }}
      >
        <Trash2 size={14} /> Throw away
      </button>
      <button
        type="button"
        className="btn btn-sm btn-strong"
        disabled={!changed && isKept}
        onClick={() => void keep(draft)}
      >
        Keep
      </button>
      <button type="button" className="btn btn-sm" onClick={close}>
        Back to the table
      </button>
    </div>
  );
}

function OwnBrushes({ draft }: { draft: Brush }) {
  const own = useBrushBox((state) => state.own);
  const there = own.filter(({ thrownAway }) => thrownAway === null).map(({ brush }) => brush);
  const file = useRef<HTMLInputElement>(null);
  const { take, changed } = useWorkshop();
  const kits = [...new Set(there.map(({ kit }) => kit))];
  return (
    <aside className="own" aria-label="Your brushes">
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => {
          const plain = brushById(PLAIN);
          if (plain) take(copyOf(plain, "New brush"), true);
        }}
      >
        New from a plain round
      </button>
      <div className="list">
        {there.length === 0 && (
          <p className="quiet">
            Brushes that you keep come here. Change something and press Keep: the one that ships
            stays as it is.
          </p>
        )}
        {kits.map((kit) => (
          <section key={kit} aria-label={kit}>
            <div className="kit-name">
              <h3>{kit}</h3>
              <button
                type="button"
                className="icon-button"
                aria-label={`Export the kit ${kit}`}
                onClick={() =>
                  exportKit({
                    name: kit,
                    author: draft.author,
                    brushes: there.filter((brush) => brush.kit === kit),
                  })
                }
              >
                <FileDown size={15} />
              </button>
            </div>
            {there
              .filter((brush) => brush.kit === kit)
              .map((brush) => (
                <button
                  key={brush.id}
                  type="button"
                  className="own-brush"
                  aria-pressed={brush.id === draft.id}
                  onClick={() => take(brush, false)}
                >
                  {brush.name}
                  {brush.id === draft.id && changed ? " · changed" : ""}
                </button>
              ))}
          </section>
        ))}
      </div>
      <div className="row-of-buttons">
        <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
          <FileUp size={14} /> Take a kit in
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => exportKit({ name: draft.name, author: draft.author, brushes: [draft] })}
        >
          <FileDown size={14} /> Export brush
        </button>
        <input
          ref={file}
          type="file"
          hidden
          accept=".zip"
          aria-label="Kit file"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = "";
            if (!chosen) return;
            void importKit(chosen).then(([brush]) => brush && take(brush, false));
          }}
        />
      </div>
    </aside>
  );
}

/** Where a brush is made: every parameter, every driver, and a strip to try it on. */
export function Workshop({ session }: { session: Session }) {
  const { draft, section, size, mode, fault, set, change } = useWorkshop();
  useEffect(() => {
    void open();
  }, []);
  const shown = draft ? sectionsOf(draft) : [];
  const current = shown.includes(section) ? section : "Laying";
  const Section = sections[current];
  return (
    <Modal
      show
      fullscreen
      className="workshop"
      aria-label="Workshop"
      animation={false}
      onHide={() => useTable.setState({ dialog: null })}
    >
      {draft && (
        <div className="bench">
          <Head draft={draft} />
          <OwnBrushes draft={draft} />
          <div className="work">
            <TrialStrip session={session} brush={draft} size={size} mode={mode} />
            <div className="controls">
              <nav aria-label="Parts of the brush">
                {shown.map((name) => (
                  <button
                    key={name}
                    type="button"
                    aria-current={name === current || undefined}
                    onClick={() => set({ section: name })}
                  >
                    {name}
                  </button>
                ))}
              </nav>
              <div className="section" key={`${current} ${draft.id}`}>
                {fault && (
                  <p role="alert" className="fault">
                    Not taken: {fault}. The brush is as it was.
                  </p>
                )}
                <Section session={session} brush={draft} change={change} />
              </div>
            </div>
          </div>
        </div>
      )}
    </Modal>
  );
}
