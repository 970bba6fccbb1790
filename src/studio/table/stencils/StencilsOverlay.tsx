"use client";

import { useEffect, useRef, useState } from "react";
import { type Stencil } from "../../../engine/stencil/stencil";
import { viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { Handles } from "../transform/Handles";
import { type Lying, paintVeil, veilOf } from "./paint-veil";
import { letGoWhenLeft, putDown, useStencils } from "./stencil-store";

const none: readonly Stencil[] = [];

/** The shapes of stencils, fetched once each: a shape as it was cut never changes. */
function useVeils(
  session: Session,
  stencils: readonly Stencil[],
): ReadonlyMap<string, OffscreenCanvas> {
  const [veils, setVeils] = useState<ReadonlyMap<string, OffscreenCanvas>>(new Map());
  const asked = useRef(new Set<string>());
  useEffect(() => {
    for (const { id } of stencils) {
      if (asked.current.has(id)) continue;
      asked.current.add(id);
      void session.link.api.stencilPicture(id).then((answer) => {
        if (answer.ok) setVeils((known) => new Map(known).set(id, veilOf(answer.value)));
        else asked.current.delete(id);
      });
    }
  }, [session, stencils]);
  return veils;
}

/** Stencils as they lie on the sheet, under a veil; the one in hand with what it is held by. */
export function StencilsOverlay({ session }: { session: Session }) {
  const stencils = useTable((state) => state.picture?.stencils ?? none);
  const width = useTable((state) => state.picture?.width ?? 0);
  const height = useTable((state) => state.picture?.height ?? 0);
  const view = useTable((state) => state.view);
  const { inHand, dragged, veiled } = useStencils();
  const canvas = useRef<HTMLCanvasElement>(null);
  const veils = useVeils(session, stencils);
  const held = stencils.find(({ id, on }) => on && id === inHand);
  useEffect(() => letGoWhenLeft(), []);
  useEffect(() => {
    if (!canvas.current) return;
    const lying = stencils.flatMap((stencil): Lying[] => {
      const veil = veils.get(stencil.id);
      const isSeen = veiled || stencil.id === inHand;
      if (!veil || !stencil.on || !isSeen) return [];
      const place = stencil.id === inHand ? (dragged ?? stencil.place) : stencil.place;
      return [{ stencil, place, veil }];
    });
    const matrix = viewMatrix(view, session.screen);
    paintVeil(canvas.current, session.screen, matrix, { width, height }, lying);
  });
  if (!stencils.some(({ on }) => on)) return null;
  return (
    <>
      <canvas ref={canvas} className="stencil-veil" data-testid="stencils" aria-hidden="true" />
      {held && (
        <Handles
          session={session}
          what="Stencil"
          from={held.from}
          placement={{ kind: "free", free: dragged ?? held.place }}
          holding={{
            now: () => ({ kind: "free", free: useStencils.getState().dragged ?? held.place }),
            drag: (next) => {
              if (next.kind === "free") useStencils.setState({ dragged: next.free });
            },
            letGo: () => void putDown(session),
            put: (next) => {
              if (next.kind !== "free") return;
              useStencils.setState({ dragged: next.free });
              void putDown(session);
            },
          }}
        />
      )}
    </>
  );
}
