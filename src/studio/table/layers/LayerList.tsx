"use client";

import {
  closestCenter,
  DndContext,
  type DragMoveEvent,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates } from "@dnd-kit/sortable";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { type Layer } from "../../../worker/protocol";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { LayerRow, type RowProps } from "./LayerRow";
import { INDENT, landing, type LandingMark, partAt, type Row, rowsOf } from "./rows";

/** Drawn so far to the left, layers leave one group more, CSS px. */
const OUTWARD = 24;
const none: readonly Layer[] = [];
/** Lines stay where they are while one is dragged: a mark shows where it lands. */
const standing = (): null => null;

/** A row is pressed: chosen alone, with what lies between (Shift), or with the others (Ctrl). */
function chooseRow(
  session: Session,
  ids: readonly string[],
  event: Parameters<RowProps["choose"]>[0],
  id: string,
): void {
  const { selected } = useTable.getState();
  if (event.shiftKey && selected[0]) {
    const [from, to] = [ids.indexOf(selected[0]), ids.indexOf(id)].sort((a, b) => a - b) as [
      number,
      number,
    ];
    const range = ids.slice(from, to + 1);
    session.select([id, ...range.filter((other) => other !== id)]);
  } else if (event.ctrlKey || event.metaKey) {
    const others = selected.filter((other) => other !== id);
    session.select(selected.includes(id) && others.length > 0 ? others : [id, ...others]);
  } else session.select([id]);
}

/** The layers that go with a line that is dragged: all chosen ones where it is among them. */
const dragged = (id: string): string[] => {
  const { selected } = useTable.getState();
  return selected.includes(id) ? selected : [id];
};

/** Where the pointer is, in the page. Null until it has moved. */
function usePointer(): { current: { x: number; y: number } | null } {
  const place = useRef<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const follow = ({ clientX, clientY }: PointerEvent): void => {
      place.current = { x: clientX, y: clientY };
    };
    window.addEventListener("pointermove", follow, { capture: true, passive: true });
    return () => window.removeEventListener("pointermove", follow, { capture: true });
  }, []);
  return place;
}

/**
 * The line of the list at a height of the page, and how far down on it that is; beyond the
 * list its first line or its last.
 */
function lineAt(list: HTMLElement, rows: readonly Row[], y: number): [Row, share: number] | null {
  let nearest: HTMLElement | null = null;
  let least = Infinity;
  for (const node of list.querySelectorAll<HTMLElement>("[data-layer]")) {
    const { top, bottom } = node.getBoundingClientRect();
    const apart = Math.max(top - y, y - bottom, 0);
    if (apart >= least) continue;
    least = apart;
    nearest = node;
  }
  const row = nearest && rows.find(({ layer }) => layer.id === nearest?.dataset.layer);
  if (!nearest || !row) return null;
  const { top, bottom } = nearest.getBoundingClientRect();
  return [row, Math.min(1, Math.max(0, (y - top) / (bottom - top)))];
}

/** The list of layers, topmost first; `children` come under it. */
export function LayerList({
  session,
  looked,
  children,
}: {
  session: Session;
  /** What is looked for by name. */
  looked: string;
  children: ReactNode;
}) {
  const known = useTable((state) => state.picture?.layers ?? none);
  const folded = useTable((state) => state.folded);
  const list = useRef<HTMLDivElement>(null);
  const pointer = usePointer();
  const [active, setActive] = useState<string | null>(null);
  const [place, setPlace] = useState<Place | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const rows = useMemo(() => rowsOf(known, folded, looked), [known, folded, looked]);
  const ids = useMemo(() => rows.map(({ layer }) => layer.id), [rows]);
  // Rows are many and seldom change: what they are given stays the same.
  const listed = useRef(ids);
  useEffect(() => {
    listed.current = ids;
  }, [ids]);
  const choose: RowProps["choose"] = useCallback(
    (event, id) => chooseRow(session, listed.current, event, id),
    [session],
  );

  const markOf = (event: DragMoveEvent): LandingMark | null => {
    const moving = dragged(String(event.active.id));
    const outward = Math.floor(-event.delta.x / OUTWARD);
    const isByKey = event.activatorEvent instanceof KeyboardEvent;
    if (!isByKey) {
      const found =
        list.current && pointer.current && lineAt(list.current, rows, pointer.current.y);
      if (!found) return null;
      const [row, share] = found;
      return landing(rows, moving, row.layer.id, partAt(row, share), outward);
    }
    const over = String(event.over?.id ?? event.active.id);
    const isDown = ids.indexOf(over) > ids.indexOf(String(event.active.id));
    return landing(rows, moving, over, isDown ? "below" : "above", 0);
  };
  const drop = (): void => {
    if (active && place) void session.moveLayers(dragged(active), place.mark);
    leave();
  };
  const leave = (): void => {
    setActive(null);
    setPlace(null);
  };

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active: { id } }) => setActive(String(id))}
      onDragMove={(event) => setPlace(looked === "" ? placeOf(list.current, markOf(event)) : null)}
      onDragEnd={drop}
      onDragCancel={leave}
    >
      <SortableContext items={ids} strategy={standing}>
        <div className="layer-list" ref={list}>
          <div role="grid" aria-multiselectable="true" aria-label="Layers, topmost first">
            {rows.map(({ layer, depth, hangs }) => (
              <LayerRow
                key={layer.id}
                session={session}
                layer={layer}
                depth={depth}
                hangs={hangs}
                choose={choose}
              />
            ))}
          </div>
          {children}
          {place && <LandingPlace place={place} layers={known} />}
        </div>
      </SortableContext>
      {createPortal(
        <DragOverlay dropAnimation={null}>
          {active && <Held ids={dragged(active)} layers={known} />}
        </DragOverlay>,
        document.body,
      )}
    </DndContext>
  );
}

/** What hangs at the pointer while layers are dragged. */
function Held({ ids, layers }: { ids: readonly string[]; layers: readonly Layer[] }) {
  const first = layers.find(({ id }) => id === ids[0]);
  return (
    <div className="layer-held">
      {first?.name}
      {ids.length > 1 && <b> and {ids.length - 1} more</b>}
    </div>
  );
}

/** A landing, and the line of the list that it is told by, CSS px in the list. */
type Place = { mark: LandingMark; top: number; left: number; width: number; height: number };

function placeOf(list: HTMLElement | null, mark: LandingMark | null): Place | null {
  const node = mark && list?.querySelector<HTMLElement>(`[data-layer="${CSS.escape(mark.row)}"]`);
  if (!node) return null;
  const { offsetTop: top, offsetLeft: left, offsetWidth: width, offsetHeight: height } = node;
  return { mark, top, left, width, height };
}

/** A bar where the dragged layers would come to lie, and a frame around a group that takes them in. */
function LandingPlace({ place, layers }: { place: Place; layers: readonly Layer[] }) {
  const { mark, top, left, width, height } = place;
  const group = layers.find(({ id }) => id === mark.group);
  return (
    <>
      {mark.edge === "into" && (
        <div className="landing-group" style={{ top, left, width, height }} />
      )}
      <div
        className="landing"
        role="status"
        data-testid="landing"
        style={{ top: top + (mark.edge === "above" ? 0 : height), marginLeft: mark.depth * INDENT }}
      >
        <span>{group ? `in ${group.name}` : "in no group"}</span>
      </div>
    </>
  );
}
