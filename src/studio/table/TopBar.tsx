"use client";

import {
  Brush,
  Download,
  Layers,
  LayoutGrid,
  Palette,
  PanelsTopLeft,
  Redo2,
  Save,
  Search,
  Undo2,
} from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { type Kept } from "../../storage/journal";
import { NameField } from "../naming/NameField";
import { rooms, type Room } from "../rooms";
import { CritMenu } from "./CritMenu";
import { PinsMenu } from "./pins/PinsMenu";
import { type Session } from "./session";
import { type Drawer, stages, useParts, useTable } from "./table-store";

/** A painted underline: a dry stroke with a ragged end. */
function Underline() {
  return (
    <svg viewBox="0 0 60 8" preserveAspectRatio="none" aria-hidden="true">
      <path
        fill="currentColor"
        d="M1 4.6C9 2.4 22 3.2 33 2.8s19-.9 26-.4c-3 .5-5 .6-7 .9 2 0 4 .1 6 .4-5 .5-12 .6-20 1.1-13 .8-25 1.3-36 1.2 3-.4 7-.5 10-.8-4 0-8-.1-11-.6Z"
      />
    </svg>
  );
}

function keptWords(kept: Kept | null): string {
  if (!kept || kept.state === "kept") return "kept";
  if (kept.state === "keeping") return "keeping…";
  if (kept.state === "full") return "disk full";
  return "not kept";
}

function Title({ session }: { session: Session }) {
  const title = useTable((state) => state.picture?.title ?? "");
  const readOnly = useTable((state) => state.picture?.readOnly ?? false);
  const [editing, setEditing] = useState(false);
  if (!editing)
    return (
      <button
        type="button"
        className="title"
        title={readOnly ? "Open in another tab: rename it there" : "Rename"}
        disabled={readOnly}
        onClick={() => setEditing(true)}
      >
        {title}
      </button>
    );
  return (
    <NameField
      label="Title"
      name={title}
      width={180}
      done={(name) => {
        setEditing(false);
        if (name) void session.rename(name);
      }}
    />
  );
}

const drawerIcons: readonly (readonly [Drawer, string, typeof Layers])[] = [
  ["layers", "Layers", Layers],
  ["brushes", "Brushes", Brush],
  ["colour", "Colour", Palette],
];

/** On a small screen: opens and closes what else lies around the picture. */
function DrawerToggles() {
  const { drawers, set } = useParts("drawers", "set");
  return drawerIcons.map(([drawer, label, Icon]) => {
    const isOpen = drawers.includes(drawer);
    const next = isOpen ? drawers.filter((one) => one !== drawer) : [...drawers, drawer];
    return (
      <button
        key={drawer}
        type="button"
        className="icon-button drawer-toggle"
        data-drawer={drawer}
        aria-label={label}
        aria-pressed={isOpen}
        title={`${label}: open or close`}
        onClick={() => set({ drawers: next })}
      >
        <Icon size={18} />
      </button>
    );
  });
}

export function TopBar({ session }: { session: Session }) {
  const { picture, kept, stage, chooseStage, room, set } = useParts(
    "picture",
    "kept",
    "stage",
    "chooseStage",
    "room",
    "set",
  );
  return (
    <header className="top-bar">
      <div className="place">
        <Link href="/" prefetch={false}>
          {/* eslint-disable-next-line @next/next/no-img-element -- a tiny file of our own */}
          <img src="/favicon.svg" alt="" width={22} height={22} />
          Portfolio
        </Link>
        <Title session={session} />
        <span className="kept" data-testid="kept">
          {keptWords(kept)}
        </span>
      </div>
      <div className="stages" role="tablist" aria-label="Stages">
        {stages.map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={name === stage}
            onClick={() => chooseStage(name)}
          >
            {name}
            {name === stage && <Underline />}
          </button>
        ))}
      </div>
      <div className="doings">
        <DrawerToggles />
        <select
          className="form-select form-select-sm room"
          style={{ width: 92 }}
          aria-label="Room"
          value={room}
          onChange={(event) => session.enter(event.target.value as Room)}
        >
          {(Object.keys(rooms) as Room[]).map((name) => (
            <option key={name} value={name}>
              {rooms[name].label}
            </option>
          ))}
        </select>
        {picture?.studies && (
          <button
            type="button"
            className="btn btn-sm crit"
            aria-label="Studies"
            onClick={() => set({ dialog: "studies" })}
          >
            <LayoutGrid size={15} /> <span className="words">Studies</span>
          </button>
        )}
        <CritMenu session={session} />
        <PinsMenu session={session} />
        <button
          type="button"
          className="icon-button"
          aria-label={picture?.undo ? `Undo ${picture.undo}` : "Undo"}
          disabled={!picture?.undo}
          onClick={() => void session.undo()}
        >
          <Undo2 size={18} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label={picture?.redo ? `Redo ${picture.redo}` : "Redo"}
          disabled={!picture?.redo}
          onClick={() => void session.redo()}
        >
          <Redo2 size={18} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label="Bare table"
          aria-keyshortcuts="Tab"
          title="Nothing but the picture; Tab brings all back"
          onClick={() => set({ bare: true })}
        >
          <PanelsTopLeft size={18} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label="Find a command"
          onClick={() => set({ dialog: "finder" })}
        >
          <Search size={18} />
        </button>
        <button
          type="button"
          className="btn btn-sm ms-1"
          title="The whole picture in one file, to be opened again as it is; with Shift in another file"
          aria-label="Save"
          onClick={(event) => void session.save(event.shiftKey)}
        >
          <Save size={15} /> <span className="words">Save</span>
        </button>
        <button
          type="button"
          className="btn btn-sm btn-strong"
          aria-label="Export"
          onClick={() => set({ dialog: "export" })}
        >
          <Download size={15} /> <span className="words">Export</span>
        </button>
      </div>
    </header>
  );
}
