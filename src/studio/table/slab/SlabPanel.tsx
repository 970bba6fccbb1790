"use client";

import * as Comlink from "comlink";
import { Droplet, Trash2, X } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { SLAB_HEIGHT, SLAB_WIDTH } from "../../../engine/slab/slab";
import { rooms } from "../../rooms";
import { type Session } from "../session";
import { NARROWEST_SLAB, useParts, useTable, WIDEST_SLAB } from "../table-store";
import { SlabHand } from "./slab-hand";

/** Arrow keys pull the slab by so much, CSS px. */
const STEP = 20;
/** Room of the view that the slab leaves free, CSS px. */
const LEFT_FREE = 40;

/** The slab's own canvas, drawn by the engine's thread. */
function SlabCanvas({ session }: { session: Session }) {
  const holder = useRef<HTMLDivElement>(null);
  const hint = useTable(({ picture }) => picture?.slabIsBare ?? true);
  useEffect(() => {
    const node = holder.current;
    if (!node) return;
    const canvas = document.createElement("canvas");
    canvas.setAttribute("aria-hidden", "true");
    node.prepend(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const { api } = session.link;
    const { surround } = rooms[useTable.getState().room];
    void api.attachSlab(Comlink.transfer(offscreen, [offscreen]), surround);
    const hand = new SlabHand(session, node);
    const observer = new ResizeObserver(() => {
      const ratio = window.devicePixelRatio;
      hand.resize(Math.round(node.clientWidth * ratio), Math.round(node.clientHeight * ratio));
    });
    observer.observe(node);
    return () => {
      observer.disconnect();
      hand.stop();
      canvas.remove();
      void api.attachSlab(null, surround);
    };
  }, [session]);
  return (
    <div ref={holder} className="slab-surface" role="img" aria-label="Slab: mix paint here">
      {hint && <p>Squeeze out paint, or lay some with an oil brush or a knife, and mix it here.</p>}
    </div>
  );
}

/** A surface of the same paint to mix on, in the corner of the view; pulled larger by its own corner. */
export function SlabPanel({ session }: { session: Session }) {
  const { slabShown, slabWidth, colour, picture, set } = useParts(
    "slabShown",
    "slabWidth",
    "colour",
    "picture",
    "set",
  );
  const panel = useRef<HTMLElement>(null);
  const [grip, setGrip] = useState<number | null>(null);
  if (!slabShown) return null;
  const pull = (width: number): void => {
    const room = (panel.current?.parentElement?.clientWidth ?? WIDEST_SLAB) - LEFT_FREE;
    set({ slabWidth: Math.max(NARROWEST_SLAB, Math.min(WIDEST_SLAB, room, width)) });
  };
  const press = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: STEP, ArrowUp: STEP, ArrowRight: -STEP, ArrowDown: -STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    pull(slabWidth + by);
  };
  const squeeze = (): void => void session.changed(session.link.api.squeeze(colour));
  return (
    <section
      ref={panel}
      className="slab handle"
      aria-label="Slab"
      style={{ width: Math.max(NARROWEST_SLAB, Math.min(WIDEST_SLAB, slabWidth)) }}
    >
      <div
        className="slab-grip"
        role="separator"
        tabIndex={0}
        aria-label="Size of the slab"
        aria-valuenow={slabWidth}
        aria-valuemin={NARROWEST_SLAB}
        aria-valuemax={WIDEST_SLAB}
        title="Drag to pull the slab larger"
        onKeyDown={press}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setGrip(event.clientX + slabWidth);
        }}
        onPointerMove={(event) => grip !== null && pull(grip - event.clientX)}
        onPointerUp={() => setGrip(null)}
        onPointerCancel={() => setGrip(null)}
      />
      <header>
        <h2>Slab</h2>
        <button
          type="button"
          className="btn btn-sm"
          title="Squeeze some of the colour in hand out along the rim"
          onClick={squeeze}
        >
          <Droplet size={15} fill={colour} aria-hidden="true" />
          Squeeze out
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label="Clean the slab"
          title="Scrape the whole slab clean"
          disabled={picture?.slabIsBare}
          onClick={() => void session.apply({ do: "slab.clean" })}
        >
          <Trash2 size={16} />
        </button>
        <button
          type="button"
          className="icon-button"
          aria-label="Put the slab away"
          title="Put the slab away; what is on it stays"
          onClick={() => set({ slabShown: false })}
        >
          <X size={16} />
        </button>
      </header>
      <div style={{ aspectRatio: `${SLAB_WIDTH} / ${SLAB_HEIGHT}` }}>
        <SlabCanvas session={session} />
      </div>
    </section>
  );
}
